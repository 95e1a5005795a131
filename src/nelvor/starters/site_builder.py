"""Puts a site together from the definitions of new things: enclosures fed one from another, each with its run."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from nelvor.model.changes.ids import FreeIds
from nelvor.model.document import Document
from nelvor.model.new_things import NEW_ENCLOSURES, NewKind, fitted_out
from nelvor.model.parse import parse_value
from nelvor.model.voltages import legs_of

TERMINATION_C = 75


@dataclass(frozen=True)
class Placed:
    """Where conductors leave an enclosure or source: its lines, its neutral, its ground (none on the supply side)."""

    id: str
    line: str
    neutral: str
    ground: str | None


class SiteBuilder:
    """Collects the things of a new job; ``standing`` is that of what is placed next."""

    def __init__(self, name: str, edition: str, system: str) -> None:
        self.lists: dict[str, list[dict[str, Any]]] = {}
        self.head = {"format": "nelvor-job", "version": 4, "name": name, "settings": {"edition": edition}}
        self.system = system
        self.standing = "added"
        self._ids = FreeIds(frozenset())

    def document(self) -> Document:
        """Return what was put together."""
        return parse_value({**self.head, **self.lists})

    def add(self, list_name: str, wish: str, **values: Any) -> str:
        """Add a thing under a free id, and return the id."""
        new_id = self._ids.take(wish)
        self.lists.setdefault(list_name, []).append({"id": new_id, "standing": self.standing, **values})
        return new_id

    def utility(self) -> Placed:
        """Add the utility, which stands already."""
        source = self.add("sources", "utility", name="Utility", kind="utility", system=self.system)
        self.change("sources", source, standing="existing")
        return Placed(source, source, source, None)

    def change(self, list_name: str, thing_id: str, **values: Any) -> None:
        """Set properties of a thing added before."""
        next(item for item in self.lists[list_name] if item["id"] == thing_id).update(values)

    def place(
        self,
        kind: NewKind,
        box_id: str,
        name: str,
        fed_from: Placed,
        *,
        service: bool = False,
        run: dict[str, Any] | None = None,
        bus_a: float | None = None,
        main_a: float | None = None,
        **enclosure: Any,
    ) -> Placed:
        """Feed a new enclosure. ``service`` makes its bond, as the first disconnect has it; ``bus_a``
        and ``main_a`` are what is chosen to begin with. Runs leave it with a grounding conductor.
        """
        entry = NEW_ENCLOSURES[kind]
        parts = {}
        for key, list_name, values in fitted_out(kind, box_id, self._ids):
            own = {"termination_c": TERMINATION_C, **enclosure, "name": name} if list_name == "enclosures" else {}
            own |= {"made": service} if list_name == "bonds" else {}
            own |= {"rating_a": bus_a} if list_name == "buses" else {}
            own |= {"rating_a": main_a, "poles": len(legs_of(self.system))} if list_name == "devices" else {}
            self.lists.setdefault(list_name, []).append({"standing": self.standing, **values, **own})
            parts[key] = values["id"]
        landing, neutral, ground = (parts.get(key, box_id) for key in (entry.landing, entry.neutral, entry.ground))
        self._run(box_id, fed_from, landing, neutral, ground, {**entry.run, **(run or {})})
        line = parts["load"] if kind == "meter" else landing
        return Placed(box_id, line, neutral, None if kind == "meter" else ground)

    def _run(
        self, box_id: str, fed_from: Placed, landing: str, neutral: str, ground: str, values: dict[str, Any]
    ) -> None:
        run = self.add("runs", f"to-{box_id}", name="", from_part=fed_from.line, to_part=landing, **values)
        for leg in legs_of(self.system):
            self.add(
                "conductors", f"{run}-{leg.lower()}", run_id=run, role=leg, from_part=fed_from.line, to_part=landing
            )
        self.add("conductors", f"{run}-n", run_id=run, role="neutral", from_part=fed_from.neutral, to_part=neutral)
        if fed_from.ground is not None:
            self.add("conductors", f"{run}-g", run_id=run, role="ground", from_part=fed_from.ground, to_part=ground)

    def refeed(self, panel: Placed, fed_from: Placed, run: dict[str, Any]) -> None:
        """Take the standing feed of a panel out, and feed it anew by four wires."""
        old = next(item for item in self.lists["runs"] if item["to_part"] == panel.line)
        for item in (old, *(item for item in self.lists["conductors"] if item["run_id"] == old["id"])):
            item["standing"] = "removed"
        ground = panel.ground or panel.id
        self._run(panel.id, fed_from, panel.line, panel.neutral, ground, {**NEW_ENCLOSURES["panel"].run, **run})

    def feeder(self, panel: Placed, name: str, rating_a: float) -> Placed:
        """Fit the breaker of a feeder in a panel; runs begin at it."""
        bus = next(item["id"] for item in self.lists["buses"] if item["enclosure_id"] == panel.id)
        device = self.add(
            "devices",
            f"{panel.id}-feeder",
            enclosure_id=panel.id,
            bus_id=bus,
            name=name,
            role="feeder",
            rating_a=rating_a,
            poles=len(legs_of(self.system)),
        )
        return Placed(panel.id, device, panel.neutral, panel.ground)

    def main_lugs(self, panel: Placed) -> None:
        """Give a panel main lugs in place of its main."""
        main = next(
            item for item in self.lists["devices"] if item["enclosure_id"] == panel.id and item["role"] == "main"
        )
        self.lists["devices"].remove(main)
        self.lists.setdefault("lugs", []).append(
            {"id": main["id"], "standing": self.standing, "enclosure_id": panel.id, "name": "Main lugs"}
        )

    def rods(self, at: Placed, building_id: str | None) -> None:
        """Drive two rods and join them to the ground bar, at the service to the bar that bonds it."""
        for number in (1, 2):
            self.add(
                "electrodes",
                f"{at.id}-rod{number}",
                kind="rod",
                building_id=building_id,
                connects_to=at.ground,
                length_ft=8.0,
                spacing_ft=8.0,
            )
