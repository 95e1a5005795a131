"""Panels and disconnects: bus against protection and load, disconnect floors, what a building asks for."""

from __future__ import annotations

from fractions import Fraction

from nelvor.clauses.calculated_load import LevelLoad
from nelvor.judges.answer import Answer, Subject
from nelvor.judges.bonds import BondAnswer, is_first_of_building
from nelvor.judges.level_loads import LevelLoads
from nelvor.judges.run import RunAnswer
from nelvor.judges.verdict import Judge, Mend, proposing
from nelvor.model.things import Device
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of
from nelvor.topology.site import Site
from nelvor.working import Figure, Recorder, exact

TWO_CIRCUITS = 2
DELTA = frozenset({"delta_240", "delta_240_high_leg"})
ABOVE_120_V_TO_GROUND = frozenset({"wye_480_277", "delta_240_high_leg", "delta_240"})


class PanelJudge:
    """Judges one enclosure."""

    def __init__(
        self, site: Site, rules: Rules, levels: LevelLoads, answers: dict[str, RunAnswer], bond: BondAnswer
    ) -> None:
        self.site = site
        self.rules = rules
        self.level = levels.get(bond.enclosure_id)
        self.answers = answers
        self.bond = bond
        self.enclosure = site.enclosures[bond.enclosure_id]
        self.name = name_of(site, bond.enclosure_id)
        self.judge = Judge(rules, "enclosures", bond.enclosure_id)
        self.recorder = Recorder(rules)
        self.figures: dict[str, Figure] = {}

    def judged(self) -> Answer:
        """Return the answer."""
        self._load_known()
        if self.enclosure.kind == "panel":
            self._bus()
        self._optional_method()
        self._slash_rating()
        if self.bond.decision == "bond":
            self._floor(service=True)
            self._emergency_disconnect()
            self._count_of_disconnects()
        elif is_first_of_building(self.site, self.enclosure.id) and self.bond.decision != "supply_side":
            self._building_disconnect()
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
        if not self.recorder.at_least("Bus carries the load", bus, load, clause="panel_ocpd"):
            self.judge.must_fix(
                "bus_load",
                f"The load of {load.text} A is above the {bus.text} A bus of {self.name}.",
                "panel_ocpd",
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

    # -- disconnects ---------------------------------------------------------------------------

    def _one_family(self) -> bool | None:
        building = self.site.buildings.get(self.enclosure.building_id or "")
        if building is None:
            return False if self.enclosure.building_id is None else None
        return building.use == "dwelling" if building.use else None

    def _disconnect_rating(self) -> Fraction | None:
        main = self.site.main_of(self.enclosure.id)
        if main is None:
            return None
        own = main.frame_a if main.kind in ("switch", "fuses") else main.rating_a
        return exact(own) if own is not None else None

    def _floor(self, service: bool) -> None:
        one_family = self._one_family()
        rating = self._disconnect_rating()
        clause = "service_min_rating" if service else "building_disconnect_rating"
        if one_family is None or rating is None:
            if self.site.main_of(self.enclosure.id) is not None and rating is None:
                self.judge.cannot_tell(
                    "disconnect_floor", f"The rating of the disconnect at {self.name} is not entered.", clause
                )
            return
        key = f"{'service_' if service else ''}{self._kind_of_floor(one_family)}_disconnect_a"
        least = self._least_disconnect(key, clause)
        self.figures["disconnect_floor"] = least
        have = self.recorder.given("Rating of the disconnect", rating, "A", "design")
        if self.recorder.at_least("The disconnect reaches its floor", have, least, clause=clause):
            self.judge.holds("disconnect_floor", f"Disconnect of {have.text} A, at least {least.text} A asked.", clause)
            return
        main = self.site.main_of(self.enclosure.id)
        mend = Mend(f"Use {least.text} A", proposing("devices", main, rating_a=float(least.number))) if main else None
        self.judge.must_fix(
            "disconnect_floor",
            f"The disconnect at {self.name} is rated {have.text} A; at least {least.text} A is asked.",
            clause,
            mend=mend,
        )

    def _kind_of_floor(self, one_family: bool) -> str:
        """One branch circuit, or two of two wires, ask less of a disconnect than a house or anything else."""
        feeding = self.site.runs_from.get(self.enclosure.id, [])
        branches = [item for item in self.site.devices_in.get(self.enclosure.id, []) if item.role == "branch"]
        feeders = {run.from_part for run in feeding} - {item.id for item in branches}
        if branches and not feeders:
            if len(branches) == 1:
                return "one_circuit"
            if len(branches) == TWO_CIRCUITS and all(item.poles == 1 for item in branches):
                return "two_circuit"
        return "one_family" if one_family else "other"

    def _least_disconnect(self, key: str, clause: str) -> Figure:
        """The floor of the edition, raised by a local amendment where the job carries one."""
        least = self.recorder.parameter(key, "Least rating of the disconnect")
        for amendment in self.rules.amended("disconnect_least_a", "at_least"):
            assert amendment.value is not None  # the rulebook takes in no amendment of a figure without its value
            note = amendment.source_note or "amendment of this job"
            local = self.recorder.given("Local amendment", amendment.value, "A", note)
            least = self.recorder.greatest("Least rating with the local amendment", least, local, clause=clause)
        return least

    def _building_disconnect(self) -> None:
        if self.site.main_of(self.enclosure.id) is not None:
            self._floor(service=False)
            return
        most = self.rules.parameter("most_disconnects").value
        self.judge.advise(
            "building_disconnect",
            f"{self.name} has no main. Up to {most} disconnects are allowed at a building; one main "
            "is easier in an emergency and leaves room to grow.",
            "building_six_disconnects",
        )

    def _emergency_disconnect(self) -> None:
        if self.rules.parameter("emergency_disconnect_required").value != "1" or not self._one_family():
            return
        if self.enclosure.placement != "outdoors":
            self.judge.advise(
                "emergency_disconnect",
                "A dwelling's service equipment, when it is replaced, needs a disconnect outdoors that is readily "
                "accessible.",
                "emergency_disconnect",
            )

    def _count_of_disconnects(self) -> None:
        if self.site.main_of(self.enclosure.id) is not None:
            return
        switches = [
            item for item in self.site.devices_in.get(self.enclosure.id, []) if item.role in ("feeder", "branch")
        ]
        most = int(self.rules.parameter("most_disconnects").value)
        if len(switches) > most:
            self.judge.must_fix(
                "service_count",
                f"{self.name} has {len(switches)} service disconnects; {most} are allowed.",
                "service_six_disconnects",
            )
        elif len(switches) > 1 and self.rules.parameter("six_in_one_enclosure").value == "0":
            text = f"{self.name} holds {len(switches)} service disconnects in one enclosure; this edition asks for separate enclosures."
            if self.enclosure.standing == "added":
                self.judge.must_fix("service_count", text, "service_six_disconnects")
            else:
                self.judge.advise("service_count", f"{text} What stands may stay.", "service_six_disconnects")

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
        enclosure_id: PanelJudge(site, rules, levels, answers, bond).judged() for enclosure_id, bond in bonds.items()
    }
