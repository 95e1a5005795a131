"""Room to grow: which of the loads that may come fit a panel, one after another, and what would have to change first."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction

from nelvor.clauses.calculated_load import LevelLoad, Methods, calculate
from nelvor.clauses.device_rating import smallest_device
from nelvor.clauses.load_kind import OTHER, kind_of
from nelvor.errors import CannotCompute, NotFound
from nelvor.judges.level_loads import computed_system
from nelvor.judges.memory import Memory
from nelvor.judges.panelboard import ScheduleAnswer
from nelvor.model.changes.ids import FreeIds, taken_ids
from nelvor.model.document import Document
from nelvor.model.things import Load, PlannedLoad
from nelvor.model.voltages import LINE_TO_NEUTRAL_V
from nelvor.report.check import Report, check
from nelvor.report.sent import Wire
from nelvor.spaces.bus_spaces import Spot, free_spots, spots_from, takes_halves
from nelvor.topology.names import name_of
from nelvor.working import Recorder

THREE_POLES = 3
ABOVE_TO_NEUTRAL = 1.1
LEAST_BREAKER_A = Fraction(15)
TO_FREE_ONE = 2
"""Breakers of full size that, as half-size ones, free one space."""


class PlanOut(Wire):
    """One planned load: the breaker that it needs, whether it fits after those before it, and what stands against it.

    ``fits`` is None where something of it is not told.
    """

    id: str
    breaker: str
    fits: bool | None
    space: int | None
    first: list[str]


class RoomOut(Wire):
    """The planned loads of a panel in their order, with what is left at it now: spaces, and A on the worst leg."""

    free_spaces: int
    spare: str
    plans: list[PlanOut]


def room_to_grow(report: Report, document: Document, bus_id: str, memory: Memory | None = None) -> RoomOut:
    """Return which planned loads of a bus's panel fit, each after all those before it that do.

    Raises:
        NotFound: there is no such bus, or nothing of its spaces is told.
    """
    answer = report.schedules.get(bus_id)
    if answer is None:
        raise NotFound("The spaces of this panel are not entered.")
    taken = [spot for circuit in answer.circuits for spot in circuit.spots]
    spare = report.capacity[answer.bus.enclosure_id].figures.get("spare") if _walked(report, answer) else None
    room = _Room(report, document, answer, taken, memory or Memory())
    plans = [
        room.plan(item) for item in report.site.document.planned_loads if item.enclosure_id == answer.bus.enclosure_id
    ]
    free = len(free_spots(answer.bus, (spot for circuit in answer.circuits for spot in circuit.spots), half=False))
    return RoomOut(free_spaces=free, spare=spare.text if spare else "", plans=plans)


def _walked(report: Report, answer: ScheduleAnswer) -> bool:
    return answer.bus.enclosure_id in report.capacity


@dataclass
class _Room:
    """What is left of a panel as one planned load after another takes its part."""

    report: Report
    document: Document
    answer: ScheduleAnswer
    taken: list[Spot]
    memory: Memory

    def plan(self, planned: PlannedLoad) -> PlanOut:
        """Return whether a planned load fits; where it does, its space and its load are taken from what is left."""
        try:
            load, poles, breaker = self._circuit(planned)
        except CannotCompute as reason:
            return PlanOut(id=planned.id, breaker="", fits=None, space=None, first=[f"{reason.reason} {reason.remedy}"])
        with_it = self.document.model_copy(update={"loads": [*self.document.loads, load]})
        after = check(with_it, self.report.state, self.memory)
        against = list(self._too_small(after))
        start = self._free(poles)
        if start is None:
            against.insert(0, self._no_space(poles, breaker))
        words = f"{breaker} A, {poles} {'pole' if poles == 1 else 'poles'}"
        if against or start is None:
            return PlanOut(id=planned.id, breaker=words, fits=False, space=None, first=against)
        self.document, self.report = with_it, after
        self.taken += spots_from(self.answer.bus, poles, start)
        return PlanOut(id=planned.id, breaker=words, fits=True, space=start.space, first=[])

    def _circuit(self, planned: PlannedLoad) -> tuple[Load, int, str]:
        """The load as it would be entered, with the poles and the rating of its breaker.

        Raises:
            CannotCompute: something of it is not told.
        """
        values = planned.model_dump(exclude={"proposed", "standing"})
        own_id = FreeIds(taken_ids(self.document.things())).take(planned.id)
        standing = "existing" if self.report.state == "existing" else "added"
        load = Load(**{**values, "id": own_id, "standing": standing})
        system = computed_system(self.report.site, planned.enclosure_id)
        kind = kind_of(load, system, self.report.rules)
        own = calculate(load.id, Counter({(OTHER, kind): 1}), system, self.report.rules, Methods(other="circuit"))
        to_neutral = LINE_TO_NEUTRAL_V[system] * ABOVE_TO_NEUTRAL
        poles = THREE_POLES if planned.three_phase else 2 if (planned.volts or 0) > to_neutral else 1
        design = own.worst.design if poles > 1 else max(own.legs, key=lambda leg: leg.design.number).design
        scale = 1 if poles > 1 or "N" in kind.connection else len(own.legs)
        recorder = Recorder(self.report.rules)
        amperes = recorder.given("Design load", max(design.number * scale, LEAST_BREAKER_A), "A", "planned load")
        return load, poles, smallest_device(recorder, amperes).text

    def _too_small(self, after: Report) -> Iterator[str]:
        """The levels from this panel towards the source that the load would take above their rating."""
        for enclosure_id in self._levels():
            level = after.levels.get(enclosure_id)
            if not isinstance(level, LevelLoad):
                yield f"The load at {name_of(after.site, enclosure_id)} is not known, so what is left there is not."
                continue
            spare = after.capacity[enclosure_id].figures.get("spare")
            if spare is None:
                yield f"The rating at {name_of(after.site, enclosure_id)} is not known: read its label."
            elif spare.number < 0:
                rating = after.capacity[enclosure_id].figures["rating"]
                text = f"{name_of(after.site, enclosure_id)} would carry {level.worst.design.text} A of {rating.text} A"
                yield f"{text}: a larger rating there comes first, or managed load."

    def _levels(self) -> Iterator[str]:
        here = self.answer.bus.enclosure_id
        yield here
        for run in self.report.site.runs_to_source(here):
            ahead = self.report.site.upstream_of(run)
            if ahead in self.report.site.enclosures:
                yield ahead

    def _free(self, poles: int) -> Spot | None:
        bus = self.answer.bus
        for start in free_spots(bus, self.taken, half=False):
            spots = spots_from(bus, poles, start)
            if len(spots) == poles and not any(spot.overlaps(other) for spot in spots for other in self.taken):
                return start
        return None

    def _no_space(self, poles: int, breaker: str) -> str:
        bus = self.answer.bus
        spaces = "No space is free" if poles == 1 else f"No {poles} spaces are free one below the other"
        singles = [
            item.spots[0].space
            for item in self.answer.circuits
            if item.device.poles == 1 and item.device.half is None and item.spots
        ]
        marked = [space for space in singles if takes_halves(bus, space)]
        if len(marked) >= TO_FREE_ONE * poles:
            return f"{spaces}: {TO_FREE_ONE * poles} circuits on half-size breakers, for which the panel is marked, make room."
        unread = " Whether it takes half-size breakers is not read." if bus.half_size_spaces is None and singles else ""
        return (
            f"{spaces}: a sub-panel comes first, its feeder breaker of {breaker} A or more in the place of circuits that "
            f"move into it.{unread}"
        )
