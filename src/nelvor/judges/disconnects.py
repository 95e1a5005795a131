"""The disconnects of a service and of a fed building: how many, how large, where, how marked (225, 230)."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property

from nelvor.clauses.disconnect_floor import least_disconnect
from nelvor.judges.bonds import Decision
from nelvor.judges.bus_large_enough import raising
from nelvor.judges.run import RunAnswer
from nelvor.judges.supply_side import SupplySide
from nelvor.judges.surge_protection import judge_surge
from nelvor.judges.verdict import Judge, Mend, proposing
from nelvor.model.things import Device, Enclosure
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of
from nelvor.topology.site import Site
from nelvor.working import Figure, Recorder, exact

TWO_CIRCUITS = 2
MARKED_AHEAD = frozenset({"meter_disconnect", "not_service_equipment"})


@dataclass
class Disconnects:
    """The disconnects of one enclosure, judged together with those grouped with it."""

    site: Site
    rules: Rules
    decisions: Mapping[str, Decision]
    answers: Mapping[str, RunAnswer]
    enclosure: Enclosure
    judge: Judge
    recorder: Recorder
    figures: dict[str, Figure]

    def judged(self) -> None:
        """Judge what the place of the enclosure asks for."""
        decision = self.decisions[self.enclosure.id]
        if decision == "bond" and self.site.gathers_sources_alone(self.enclosure.id):
            self._marked_suitable()
            of_sources = SupplySide(
                self.site, self.rules, self.answers, self.enclosure, self.judge, self.recorder, self.figures
            )
            of_sources.judged(self._ratings_of_the_service())
        elif decision == "bond":
            self._floor("service_", "service_min_rating")
            self._emergency_of_service()
            self._surge("spd_dwelling", "surge_protection_at_service_required")
            self._count_at_service()
            self._marked_suitable()
            self._ground_fault_protection()
        elif self.site.is_first_of_building(self.enclosure.id) and decision != "supply_side":
            self._at_building()
            self._emergency_of_fed_dwelling()
            self._surge("spd_fed_dwelling", "surge_protection_at_feeder_required")
            self._one_feeder()

    # -- what is there -------------------------------------------------------------------------

    @property
    def name(self) -> str:
        return name_of(self.site, self.enclosure.id)

    @cached_property
    def _group(self) -> list[str]:
        """The service disconnects of the same building behind the same source; at a fed building this one alone."""
        own = self.enclosure
        if self.decisions[own.id] != "bond":
            return [own.id]
        return [
            enclosure_id
            for enclosure_id, decision in self.decisions.items()
            if decision == "bond"
            and self.site.enclosures[enclosure_id].building_id == own.building_id
            and self.site.source_of(enclosure_id) == self.site.source_of(own.id)
            and not self.site.gathers_sources_alone(enclosure_id)
        ]

    def _ratings_of_the_service(self) -> list[Fraction] | None:
        """The ratings of the disconnects of loads beside that of a source; None where one is not known."""
        ratings = [self._rating(item) for member in self._group for item in self._switches(member)]
        known = [rating for rating in ratings if rating is not None]
        return known if len(known) == len(ratings) else None

    def _switches(self, enclosure_id: str) -> list[Device]:
        """The main of an enclosure, or each of the devices on its lugs."""
        main = self.site.main_of(enclosure_id)
        if main is not None:
            return [main]
        return [item for item in self.site.devices_in.get(enclosure_id, []) if item.role in ("feeder", "branch")]

    def _one_family(self) -> bool | None:
        return self.site.is_one_family(self.enclosure.id)

    def _for_one_or_two_families(self) -> bool:
        """Tell whether it supplies a dwelling for one or two families."""
        building_id = self.enclosure.building_id
        units = [item for item in self.site.document.dwelling_units if item.building_id == building_id]
        most = int(self.rules.parameter("emergency_disconnect_units_most").value)
        return bool(self._one_family()) and len(units) <= most

    def _rating(self, device: Device) -> Fraction | None:
        """The rating of a disconnect: of its switch or frame, or of the breaker, entered or chosen for its run."""
        own = device.frame_a if device.kind in ("switch", "fuses") else device.rating_a
        if own is not None:
            return exact(own)
        feeding = self.site.feeding_run(device.enclosure_id)
        answer = self.answers.get(feeding.id) if feeding else None
        if device.kind != "breaker" or answer is None or answer.kind != "service" or answer.case.several_disconnects:
            return None
        chosen = answer.figures.get("device")
        return chosen.number if chosen is not None else None

    # -- the floor -----------------------------------------------------------------------------

    def _floor(self, prefix: str, clause: str) -> None:
        """The least rating, against the ratings of all grouped disconnects together (230.80, 225.39)."""
        one_family = self._one_family()
        switches = [item for member in self._group for item in self._switches(member)]
        ratings = [self._rating(item) for item in switches]
        known = [rating for rating in ratings if rating is not None]
        if one_family is None or not switches:
            return
        if len(known) < len(ratings):
            text = f"The rating of the disconnect at {self.name} is not entered."
            self.judge.cannot_tell("disconnect_floor", text, clause)
            return
        have = self._together(known)
        full = least_disconnect(
            self.recorder, f"{prefix}{'one_family' if one_family else 'other'}_disconnect_a", clause
        )
        low = self._lower_floor(prefix, clause, switches)
        self.figures["disconnect_floor"] = low or full
        if self.recorder.at_least("The disconnect reaches its floor", have, low or full, clause=clause):
            if low is not None and not one_family and have.number < full.number and not self._alone():
                self._ask_whether_more(have, full, clause)
                return
            least = (low or full).text
            self.judge.holds("disconnect_floor", f"Disconnect of {have.text} A, at least {least} A asked.", clause)
            return
        self._too_small(have, low or full, switches, clause)

    def _too_small(self, have: Figure, least: Figure, switches: list[Device], clause: str) -> None:
        mend = None
        if len(switches) == 1:
            mend = raising(self.site, self.rules, switches[0], least.number, f"Use {least.text} A")
        text = f"The disconnect at {self.name} is rated {have.text} A; at least {least.text} A is asked."
        self.judge.must_fix("disconnect_floor", text, clause, mend=mend)

    def _together(self, ratings: list[Fraction]) -> Figure:
        given = [self.recorder.given("Rating of the disconnect", rating, "A", "design") for rating in ratings]
        if len(given) == 1:
            return given[0]
        return self.recorder.add("Ratings of the disconnects together", *given, clause="combined_disconnects")

    def _alone(self) -> bool:
        """Tell whether the enclosure surely supplies no more circuits than are drawn."""
        if self.enclosure.kind != "panel" or self.enclosure.no_other_circuits:
            return True
        feeding = self.site.feeding_run(self.enclosure.id)
        ahead = self.site.protection_ahead.get(feeding.id) if feeding else None
        return ahead is not None and ahead.role == "branch"

    def _lower_floor(self, prefix: str, clause: str, switches: list[Device]) -> Figure | None:
        """One branch circuit, or two of two wires, ask less of a disconnect; a house's panel only where that is all."""
        circuits = self._circuits()
        if not circuits or len(switches) > 1 or (self._one_family() and not self._alone()):
            return None
        if len(circuits) == 1:
            return least_disconnect(self.recorder, f"{prefix}one_circuit_disconnect_a", clause)
        if len(circuits) == TWO_CIRCUITS and all(item.poles == 1 for item in circuits):
            return least_disconnect(self.recorder, f"{prefix}two_circuit_disconnect_a", clause)
        return None

    def _circuits(self) -> list[Device]:
        """The branch circuits of the enclosure, or the one that feeds it; none where it feeds anything further."""
        devices = self.site.devices_in.get(self.enclosure.id, [])
        branches = [item for item in devices if item.role == "branch"]
        if {run.from_part for run in self.site.runs_from.get(self.enclosure.id, [])} - {item.id for item in branches}:
            return []
        feeding = self.site.feeding_run(self.enclosure.id)
        ahead = self.site.protection_ahead.get(feeding.id) if feeding else None
        if ahead is not None and ahead.role == "branch":
            return [ahead]
        return branches

    def _ask_whether_more(self, have: Figure, full: Figure, clause: str) -> None:
        text = (
            f"The disconnect at {self.name} is rated {have.text} A, which is enough only where it supplies no other "
            f"circuits than those drawn; otherwise {full.text} A is asked. Enter it."
        )
        self.judge.cannot_tell("disconnect_floor", text, clause, "no_other_circuits")

    # -- how many ------------------------------------------------------------------------------

    def _at_building(self) -> None:
        if self.site.main_of(self.enclosure.id) is not None:
            self._floor("", "building_disconnect_rating")
            return
        most = int(self.rules.parameter("most_disconnects").value)
        number = len(self._switches(self.enclosure.id))
        if number > most:
            text = f"{self.name} has no main, and {number} devices switch the building off; {most} are allowed."
            self.judge.must_fix("building_disconnect", f"{text} Fit a main.", "building_six_disconnects")
            return
        text = (
            f"{self.name} has no main. Up to {most} disconnects are allowed at a building; one main is easier in an "
            "emergency and leaves room to grow."
        )
        self.judge.advise("building_disconnect", text, "building_six_disconnects")

    def _count_at_service(self) -> None:
        switches = self._switches(self.enclosure.id)
        together = sum(len(self._switches(member)) for member in self._group)
        most = int(self.rules.parameter("most_disconnects").value)
        if together > most:
            if self._group[0] == self.enclosure.id:
                where = self.name if len(self._group) == 1 else f"The service at {self.name} and beside it"
                text = f"{where} has {together} service disconnects; {most} are allowed."
                self.judge.must_fix("service_count", text, "service_six_disconnects")
        elif len(switches) > 1 and self.rules.parameter("six_in_one_enclosure").value == "0":
            text = f"{self.name} holds {len(switches)} service disconnects in one enclosure; this edition asks for separate enclosures."
            if self.enclosure.standing == "added":
                self.judge.must_fix("service_count", text, "service_six_disconnects")
            else:
                self.judge.advise("service_count", f"{text} What stands may stay.", "service_six_disconnects")

    def _one_feeder(self) -> None:
        """A building is supplied by one feeder, unless special conditions hold that are not entered (225.30)."""
        building = self.enclosure.building_id
        firsts = [
            item
            for item, decision in self.decisions.items()
            if self.site.enclosures[item].building_id == building
            and decision not in ("bond", "supply_side")
            and self.site.is_first_of_building(item)
        ]
        if len(firsts) > 1 and firsts[0] != self.enclosure.id:
            others = name_of(self.site, firsts[0])
            text = (
                f"{self.name} and {others} are fed from outside the same building by feeders of their own. One is "
                "allowed unless special conditions hold, which are not entered: check them."
            )
            self.judge.cannot_tell("one_feeder", text, "one_feeder_per_building")

    # -- emergency, marking, ground faults -------------------------------------------------------

    def _emergency_ahead(self) -> Enclosure | None:
        """The outdoor disconnect ahead that is marked for an emergency and is not service equipment."""
        for run in self.site.runs_to_source(self.enclosure.id):
            ahead = self.site.enclosures.get(self.site.upstream_of(run))
            if ahead is not None and ahead.emergency_marking in MARKED_AHEAD and ahead.placement == "outdoors":
                return ahead
        return None

    def _surge(self, clause: str, parameter: str) -> None:
        judge_surge(self.judge, self.site, self.rules, self.enclosure, clause, parameter)

    def _emergency_of_service(self) -> None:
        if self.rules.parameter("emergency_disconnect_required").value != "1" or not self._for_one_or_two_families():
            return
        ahead = self._emergency_ahead()
        if ahead is not None:
            text = f"{name_of(self.site, ahead.id)} is the emergency disconnect outdoors."
            self.judge.holds("emergency_disconnect", text, "emergency_disconnect")
        elif self.enclosure.placement != "outdoors":
            self._no_disconnect_outdoors("A dwelling's service", "emergency_disconnect")
        elif self.enclosure.emergency_marking == "none" and self.enclosure.standing == "added":
            text = f"{self.name} is to be marked EMERGENCY DISCONNECT, SERVICE DISCONNECT."
            mend = Mend("Mark it", proposing("enclosures", self.enclosure, emergency_marking="service_disconnect"))
            self.judge.must_fix("emergency_marking", text, "emergency_marking", "emergency_marking", mend)

    def _emergency_of_fed_dwelling(self) -> None:
        required = self.rules.parameter("fed_dwelling_emergency_required").value == "1"
        if required and self._for_one_or_two_families() and self.enclosure.placement != "outdoors":
            self._no_disconnect_outdoors("A dwelling that a feeder supplies", "building_emergency_disconnect")

    def _no_disconnect_outdoors(self, what: str, clause: str) -> None:
        if self.enclosure.placement is None:
            text = f"Where {self.name} stands is not entered, so the disconnect outdoors that a dwelling needs is not judged."
            self.judge.cannot_tell("emergency_disconnect", text, clause, "placement")
        elif self.enclosure.standing == "added":
            text = f"{what} needs a disconnect outdoors that is readily accessible; {self.name} stands indoors."
            self.judge.must_fix("emergency_disconnect", text, clause, "placement")
        else:
            text = f"{what}, when it is replaced, needs a disconnect outdoors that is readily accessible."
            self.judge.advise("emergency_disconnect", text, clause)

    def _marked_suitable(self) -> None:
        if self.enclosure.service_marking == "unmarked":
            text = f"{self.name} is the service disconnect and is not marked suitable for use as service equipment."
            mend = Mend("Use one marked suitable", proposing("enclosures", self.enclosure, service_marking="suitable"))
            self.judge.must_fix("marking", text, "service_equipment_marking", "service_marking", mend)

    def _ground_fault_protection(self) -> None:
        """Disconnects of 1000 A and more on a grounded wye above 150 V to ground (230.95)."""
        if self.site.system_at(self.enclosure.id) != "wye_480_277":
            return
        least = self.recorder.parameter("ground_fault_protection_from_a", "Ground-fault protection from")
        for device in self._switches(self.enclosure.id):
            rating = self._rating(device)
            if rating is None or rating < least.number:
                continue
            judge, name = self.judge.about("devices", device.id), device.name or device.id
            clause, field = "service_ground_fault_protection", "ground_fault_protection"
            if device.ground_fault_protection is None:
                text = f"Whether {name} has ground-fault protection of equipment is not entered; from {least.text} A on it is needed."
                judge.cannot_tell(field, text, clause, field)
            elif device.ground_fault_protection:
                judge.holds(field, f"{name} has ground-fault protection of equipment.", clause, field)
            else:
                text = f"{name} needs ground-fault protection of equipment, as every disconnect of {least.text} A and more here."
                mend = Mend("Fit it", proposing("devices", device, ground_fault_protection=True))
                judge.must_fix(field, text, clause, field, mend)
