"""Panels: bus against protection and load, what its devices are rated for, what its disconnects must be."""

from __future__ import annotations

from fractions import Fraction

from nelvor.clauses.calculated_load import LevelLoad
from nelvor.judges.answer import Answer, Subject
from nelvor.judges.bonds import BondAnswer
from nelvor.judges.disconnects import Disconnects
from nelvor.judges.level_loads import LevelLoads
from nelvor.judges.run import RunAnswer
from nelvor.judges.verdict import Judge, Mend, proposing
from nelvor.model.things import Device
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of
from nelvor.topology.site import Site
from nelvor.working import Figure, Recorder, exact

DELTA = frozenset({"delta_240", "delta_240_high_leg"})
ABOVE_120_V_TO_GROUND = frozenset({"wye_480_277", "delta_240_high_leg", "delta_240"})


class PanelJudge:
    """Judges one enclosure."""

    def __init__(
        self,
        site: Site,
        rules: Rules,
        levels: LevelLoads,
        answers: dict[str, RunAnswer],
        bonds: dict[str, BondAnswer],
        enclosure_id: str,
    ) -> None:
        self.site = site
        self.rules = rules
        self.level = levels.get(enclosure_id)
        self.answers = answers
        self.bonds = bonds
        self.bond = bonds[enclosure_id]
        self.enclosure = site.enclosures[enclosure_id]
        self.name = name_of(site, enclosure_id)
        self.judge = Judge(rules, "enclosures", enclosure_id)
        self.recorder = Recorder(rules)
        self.figures: dict[str, Figure] = {}

    def judged(self) -> Answer:
        """Return the answer."""
        self._load_known()
        if self.enclosure.kind == "panel":
            self._bus()
        self._optional_method()
        self._slash_rating()
        self._interrupting()
        Disconnects(self.site, self.rules, self.bonds, self.enclosure, self.judge, self.recorder, self.figures).judged()
        self._livestock()
        return Answer(
            subject=Subject("panel", self.enclosure.id),
            figures=self.figures,
            verdicts=tuple(self.judge.verdicts),
            working=self.recorder,
        )

    def _load_known(self) -> None:
        if not isinstance(self.level, LevelLoad) and self.level is not None:
            own = {load.id for load in self.site.loads_in.get(self.enclosure.id, [])}
            thing_id = getattr(self.level.reason, "thing_id", None)
            if thing_id in own or (thing_id is None and own):
                self.judge.cannot_compute("load", self.level.reason)

    # -- the bus -------------------------------------------------------------------------------

    def _bus(self) -> None:
        thing = self.site.bus_of(self.enclosure.id)
        if thing is None or thing.rating_a is None:
            judge = self.judge if thing is None else self.judge.about("buses", thing.id)
            text = f"The bus rating of {self.name} is not known: read its label. It is not the size of its breaker."
            judge.cannot_tell("bus", text, "panel_ocpd", "rating_a")
            return
        bus = self.recorder.given("Bus rating", thing.rating_a, "A", "label of the panel")
        self.figures["bus"] = bus
        self._protected(bus)
        self._loaded(bus)
        self._sum_of_breakers()
        self._both_may_trip()

    def _protections(self) -> list[tuple[Fraction, Device]]:
        """The panel's own main and the device ahead, as far as their ratings are known."""
        devices = []
        main = self.site.main_of(self.enclosure.id)
        feeding = self.site.feeding_run(self.enclosure.id)
        ahead = self.site.protection_ahead.get(feeding.id) if feeding else None
        for device, answer_run in ((main, None), (ahead, feeding)):
            if device is None or device.kind == "switch":
                continue
            rating = device.rating_a
            if rating is None and answer_run is not None and answer_run.id in self.answers:
                solved = self.answers[answer_run.id].figures.get("device")
                rating = float(solved.number) if solved else None
            if rating is not None:
                devices.append((exact(rating), device))
        return devices

    def _protection(self) -> tuple[Figure, Device] | None:
        """Return the smaller of the panel's own main and the device ahead."""
        devices = self._protections()
        if not devices:
            return None
        rating_a, device = min(devices, key=lambda pair: pair[0])
        return self.recorder.given(f"Protection: {device.name or device.id}", rating_a, "A", "design"), device

    def _protected(self, bus: Figure) -> None:
        protection = self._protection()
        feeding = self.site.feeding_run(self.enclosure.id)
        if protection is None and feeding is not None and feeding.from_part in self.site.transformer_of_secondary:
            text = f"Nothing protects the bus of {self.name} on the secondary side of its transformer. Fit a main."
            self.judge.must_fix("bus", text, "panel_secondary_protection")
            return
        if protection is None:
            self.judge.cannot_tell("bus", f"What protects the bus of {self.name} is not known.", "panel_ocpd")
            return
        figure, device = protection
        if self.recorder.at_least("Bus is protected", bus, figure, clause="panel_ocpd"):
            self.judge.holds("bus", f"{bus.text} A bus behind {figure.text} A.", "panel_ocpd")
        else:
            self.judge.must_fix(
                "bus",
                f"The {bus.text} A bus of {self.name} is protected by {figure.text} A only.",
                "panel_ocpd",
                "rating_a",
                Mend(f"Use {bus.text} A protection", proposing("devices", device, rating_a=float(bus.number))),
            )

    def _loaded(self, bus: Figure) -> None:
        if not isinstance(self.level, LevelLoad):
            return
        label = "Load on the worst leg, continuous part at 125 %"
        load = self.recorder.carried(label, self.level.worst.design, self.level.recorder)
        self.figures["bus_load"] = load
        if not self.recorder.at_least("Bus carries the load", bus, load, clause="panel_rating"):
            self.judge.must_fix(
                "bus_load",
                f"The load of {load.text} A is above the {bus.text} A bus of {self.name}.",
                "panel_rating",
                "rating_a",
            )

    def _sum_of_breakers(self) -> None:
        """Breakers may add up to more than the feeder: the load counts, not their sum. Said, because it is asked."""
        feeders = [item.rating_a for item in self.site.devices_in.get(self.enclosure.id, []) if item.role != "main"]
        total = sum(rating for rating in feeders if rating is not None)
        protection = self._protection()
        if protection is not None and total > protection[0].number:
            self.judge.holds(
                "breaker_sum",
                f"Breakers of {total:g} A stand behind {protection[0].text} A: allowed, since the calculated load "
                "counts and the device ahead protects the bus.",
                "panel_ocpd",
            )

    def _both_may_trip(self) -> None:
        """A main of the same rating as the device ahead is lawful; which of the two opens is not certain."""
        ratings = [rating for rating, _ in self._protections()]
        if len(ratings) > 1 and len(set(ratings)) == 1:
            text = (
                f"Its main of {ratings[0]} A and the device ahead are alike: lawful, and on a fault either may trip "
                "first, or both."
            )
            self.judge.holds("both_may_trip", text, "panel_ocpd")

    def _optional_method(self) -> None:
        """220.82 is for a supply of 100 A and more."""
        if not isinstance(self.level, LevelLoad) or all(group.method != "optional" for group in self.level.groups):
            return
        protection = self._protection()
        least = self.recorder.parameter("optional_least_supply_a", "Least supply of the optional method")
        if protection is not None and protection[0].number < least.number:
            self.judge.must_fix(
                "optional_method",
                f"The optional method is for a supply of {least.text} A and more; {self.name} is behind "
                f"{protection[0].text} A. Use the standard method.",
                "optional_dwelling",
            )

    def _slash_rating(self) -> None:
        """Breakers marked 120/240 may not serve a leg above 120 V to ground (240.85)."""
        system = self.site.system_at(self.enclosure.id)
        if system not in ABOVE_120_V_TO_GROUND:
            return
        devices = self.site.devices_in.get(self.enclosure.id, [])
        unknown = [device.name or device.id for device in devices if device.slash_rated is None]
        if unknown and system in DELTA:
            text = (
                f"It is not known whether {unknown[0]} is marked 120/240 V, which this system does not allow"
                f"{f'; the same of {len(unknown) - 1} more' if len(unknown) > 1 else ''}. Enter its marking."
            )
            self.judge.cannot_tell("slash_rating", text, "slash_rating")
        for device in devices:
            if device.slash_rated:
                self.judge.must_fix(
                    "slash_rating",
                    f"{device.name or device.id} is marked 120/240 V and stands on a system with a leg above 120 V to "
                    "ground. Use a breaker with a straight rating.",
                    "slash_rating",
                    mend=Mend("Use a straight rating", proposing("devices", device, slash_rated=False)),
                )

    def _interrupting(self) -> None:
        """At the service every device must be able to break the fault current that is available there (110.9)."""
        source = self.site.source_of(self.enclosure.id)
        if self.bond.decision != "bond" or source is None or source.fault_current_a is None:
            return
        fault = self.recorder.given("Fault current available", source.fault_current_a, "A", "utility's letter")
        marked = self.enclosure.interrupting_a
        main = self.site.main_of(self.enclosure.id)
        for device in self.site.devices_in.get(self.enclosure.id, []):
            own = device.interrupting_a if device is main else max(device.interrupting_a or 0, marked or 0)
            if device.kind == "switch" or not own:
                continue
            name = device.name or device.id
            able = self.recorder.given(f"Interrupting rating of {name}", own, "A", "label")
            judge = self.judge.about("devices", device.id)
            if self.recorder.at_least("It can break the fault current", able, fault, clause="interrupting_rating"):
                text = f"{name} can break {able.text} A; {fault.text} A are available."
                judge.holds("interrupting", text, "interrupting_rating", "interrupting_a")
            else:
                text = f"{name} can break {able.text} A, and {fault.text} A are available. Use one rated for it."
                judge.must_fix("interrupting", text, "interrupting_rating", "interrupting_a")

    def _livestock(self) -> None:
        building = self.site.buildings.get(self.enclosure.building_id or "")
        if building is None or building.use != "farm":
            return
        if building.livestock is None:
            self.judge.cannot_tell(
                "livestock",
                f"Whether livestock is kept in {building.name or building.id} is not entered; "
                "agricultural buildings with animals have grounding rules of their own.",
                "agricultural_grounding",
            )
        elif building.livestock:
            self.judge.cannot_tell(
                "livestock",
                f"Livestock is kept in {building.name or building.id}: its own grounding rules are not computed yet.",
                "agricultural_grounding",
            )


def panel_answers(
    site: Site, rules: Rules, levels: LevelLoads, answers: dict[str, RunAnswer], bonds: dict[str, BondAnswer]
) -> dict[str, Answer]:
    """Return the judgement of every enclosure as a box."""
    return {
        enclosure_id: PanelJudge(site, rules, levels, answers, bonds, enclosure_id).judged() for enclosure_id in bonds
    }
