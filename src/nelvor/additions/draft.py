"""The operations of one addition: new enclosures with their parts, the runs between them, and feeds that begin elsewhere."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

from nelvor.errors import CannotCompute
from nelvor.judges.verdict import proposing, removing
from nelvor.model.base import Thing
from nelvor.model.changes.operations import Insert, Operation
from nelvor.model.new_things import BOX, NEW_ENCLOSURES, NewKind, fitted_out
from nelvor.model.things import Bus, Conductor, Run
from nelvor.model.voltages import LEGS, legs_of
from nelvor.topology.names import name_of
from nelvor.topology.site import Site


@dataclass(frozen=True)
class Ends:
    """Where conductors begin or land: the part of the lines, that of the neutral, and that of the ground (None: none)."""

    line: str
    neutral: str | None
    ground: str | None


class Draft:
    """Collects the operations of one addition to a site in its proposed state."""

    def __init__(self, site: Site) -> None:
        self.site = site
        self.ids = site.free_ids()
        self.operations: list[Operation] = []

    def add(self, list_name: str, wish: str, **values: Any) -> str:
        """Add a thing under a free id, and return the id."""
        new_id = self.ids.take(wish)
        self.operations.append(Insert(list=list_name, thing={"id": new_id, "standing": "added", **values}))
        return new_id

    def propose(self, list_name: str, thing: Thing, **values: Any) -> None:
        """Change properties of a thing of the site."""
        self.operations += proposing(list_name, thing, **values)

    def take_out(self, list_name: str, thing: Thing) -> None:
        """Take a thing of the site out."""
        self.operations.append(removing(list_name, thing))

    def place(self, kind: NewKind, wish: str, name: str, **of_lists: dict[str, Any]) -> dict[str, str]:
        """Add an enclosure of a kind; ``of_lists`` are further values of its parts, by their list.

        Returns:
            The ids of its parts, by the words of the kind's definition; ``box`` is the enclosure's own.
        """
        box_id = self.ids.take(wish)
        made = {}
        for key, list_name, values in fitted_out(kind, box_id, self.ids):
            own = {"name": name} if list_name == "enclosures" else {}
            thing = {"standing": "added", **values, **own, **of_lists.get(list_name, {})}
            self.operations.append(Insert(list=list_name, thing=thing))
            made[key] = values["id"]
        return made

    def change(self, thing_id: str, **values: Any) -> None:
        """Set properties of a thing that this draft has added."""
        next(item.thing for item in self.added() if item.thing["id"] == thing_id).update(values)

    def added(self, *lists: str) -> list[Insert]:
        """Return what this draft adds, of some lists or of all."""
        return [item for item in self.operations if isinstance(item, Insert) and (not lists or item.list in lists)]

    def breaker(self, bus: Bus, wish: str, name: str, poles: int, space: int | None, **values: Any) -> str:
        """Add a breaker on a bus, its poles opened together, and return its id."""
        return self.add(
            "devices",
            f"{bus.enclosure_id[:24]}-{wish}",
            enclosure_id=bus.enclosure_id,
            bus_id=bus.id,
            name=name,
            poles=poles,
            tie="common_trip",
            space=space,
            **values,
        )

    def landing(self, kind: NewKind, made: dict[str, str]) -> Ends:
        """Return where the feed of a new enclosure lands."""
        entry = NEW_ENCLOSURES[kind]
        line, neutral, ground = (made.get(key, made[BOX]) for key in (entry.landing, entry.neutral, entry.ground))
        return Ends(line, neutral if entry.neutral else None, ground)

    def run(self, wish: str, start: Ends, end: Ends, legs: list[str], **values: Any) -> str:
        """Add a run with its conductors: the lines, and neutral and ground where both ends have them."""
        run_id = self.add("runs", wish, name="", from_part=start.line, to_part=end.line, **values)
        for leg in legs:
            self._conductor(run_id, leg, start.line, end.line)
        if start.neutral and end.neutral:
            self._conductor(run_id, "neutral", start.neutral, end.neutral)
        if start.ground and end.ground:
            self._conductor(run_id, "ground", start.ground, end.ground)
        return run_id

    def _conductor(self, run_id: str, role: str, start: str, end: str) -> None:
        wish = f"{run_id[:36]}-{role[0].lower() if role not in LEGS else role.lower()}"
        self.add("conductors", wish, run_id=run_id, role=role, from_part=start, to_part=end)

    def begin_at(self, run: Run, start: Ends) -> None:
        """Let a run begin elsewhere, with all its conductors."""
        self.propose("runs", run, from_part=start.line)
        parts = {"neutral": start.neutral, "ground": start.ground}
        for conductor in self._going_along(run, start):
            self.propose("conductors", conductor, from_part=parts.get(conductor.role, start.line) or start.line)

    def land_at(self, run: Run, end: Ends) -> None:
        """Let a run end elsewhere, with all its conductors."""
        self.propose("runs", run, to_part=end.line)
        parts = {"neutral": end.neutral, "ground": end.ground}
        for conductor in self._going_along(run, end):
            self.propose("conductors", conductor, to_part=parts.get(conductor.role, end.line) or end.line)

    def _going_along(self, run: Run, end: Ends) -> list[Conductor]:
        """The conductors of a run that end at a place; a neutral that has no place there comes out."""
        wires = self.site.conductors_of.get(run.id, [])
        for wire in wires:
            if wire.role == "neutral" and end.neutral is None:
                self.take_out("conductors", wire)
        return [wire for wire in wires if wire.role != "neutral" or end.neutral is not None]


def feed_of(site: Site, enclosure_id: str) -> Run:
    """Return the run that feeds an enclosure.

    Raises:
        CannotCompute: nothing feeds it.
    """
    run = site.feeding_run(enclosure_id)
    if run is None:
        raise CannotCompute(f"Nothing feeds {name_of(site, enclosure_id)} yet.", "Draw the run that feeds it first.")
    return run


def start_of(site: Site, run: Run) -> Ends:
    """Return where the conductors of a run begin now."""
    return _ends(site, run, "from_part", run.from_part)


def end_of(site: Site, run: Run) -> Ends:
    """Return where the conductors of a run land now; neutral and ground that it lacks land on the bars there."""
    found = _ends(site, run, "to_part", run.to_part)
    owner = site.downstream_of(run)
    return replace(
        found,
        neutral=found.neutral or bar_of(site, owner, "neutral"),
        ground=found.ground or bar_of(site, owner, "ground") or owner,
    )


def _ends(site: Site, run: Run, side: str, line: str) -> Ends:
    by_role = {item.role: getattr(item, side) for item in site.conductors_of.get(run.id, [])}
    return Ends(line, by_role.get("neutral"), by_role.get("ground"))


def bar_of(site: Site, enclosure_id: str, kind: str) -> str | None:
    """Return the bar of a kind in an enclosure; None where it has none."""
    return next((bar.id for bar in site.bars_in.get(enclosure_id, []) if bar.kind == kind), None)


def legs_at(site: Site, run: Run) -> list[str]:
    """Return the legs that a run brings: those of its conductors, else those of the system."""
    own: list[str] = sorted(item.role for item in site.conductors_of.get(run.id, []) if item.role in LEGS)
    return own or list(legs_of(site.system_at(site.downstream_of(run))))
