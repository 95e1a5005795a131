"""Where a standby supply comes in: does it carry what is put on it, is the gear rated for both sides, is it held apart?

One answer for each enclosure with transfer gear, with a breaker that an interlock holds against the main, or with an inverter
that the utility passes through.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from fractions import Fraction
from functools import partial

from nelvor.clauses.calculated_load import LevelLoad
from nelvor.errors import CannotCompute, MissingInput
from nelvor.judges.answer import Answer, Subject
from nelvor.judges.level_loads import LevelLoads
from nelvor.judges.pieces_of_equipment import advise_of_start, output_va, pieces_of
from nelvor.judges.run.load_and_device import carried_by
from nelvor.judges.source_currents import output_of
from nelvor.judges.verdict import Judge, Mend, proposing
from nelvor.model.things import Interlock, Run, Source, Transfer
from nelvor.model.voltages import LEGS, legs_of
from nelvor.rulebook.rules import Rules
from nelvor.topology.feeds import OTHER_SOURCE
from nelvor.topology.names import name_of
from nelvor.topology.pushed_in import sources_behind
from nelvor.topology.site import Site
from nelvor.working import Figure, Recorder, exact


@dataclass(frozen=True)
class ComesIn:
    """A way by which a standby supply comes in: over which gear or interlock, over which runs, transferred by itself or not.

    A source that the utility passes through comes in by itself, over no run.
    """

    by: Transfer | Interlock | Source
    runs: tuple[Run, ...]
    automatic: bool | None


class StandbyJudge:
    """Judges the standby supply of one enclosure. Currents in A."""

    def __init__(self, site: Site, rules: Rules, levels: LevelLoads, enclosure_id: str) -> None:
        self.site = site
        self.rules = rules
        self.levels = levels
        self.enclosure = site.enclosures[enclosure_id]
        self.name = name_of(site, enclosure_id)
        self.recorder = Recorder(rules)
        self.judge = Judge(rules, "enclosures", enclosure_id)
        self.figures: dict[str, Figure] = {}
        self.gaps: dict[str, CannotCompute] = {}

    def answer(self, ways: list[ComesIn]) -> Answer:
        """Return what is found over each of the ways."""
        for way in ways:
            if isinstance(way.by, Source):
                self._attempt("standby_capacity", partial(self._passed_through, way.by))
                continue
            if isinstance(way.by, Transfer):
                self._attempt("gear_rating", partial(self._gear, way))
            else:
                self._interlock(way.by)
            self._attempt("standby_capacity", partial(self._capacity, way))
            self._pushed_into(way)
            self._signs(way)
        return Answer(
            subject=Subject("standby", self.enclosure.id),
            figures=self.figures,
            gaps=self.gaps,
            verdicts=tuple(self.judge.verdicts),
            working=self.recorder,
        )

    def _attempt(self, name: str, work: Callable[[], None]) -> None:
        try:
            work()
        except CannotCompute as reason:
            self.gaps[name] = reason.kept()
            about = self.judge
            if isinstance(reason, MissingInput) and reason.thing_id in self.site.by_id:
                about = self.judge.about(self.site.by_id[reason.thing_id][0], reason.thing_id)
            about.cannot_compute(name, reason, "optional_standby_capacity")

    # -- what it carries -----------------------------------------------------------------------

    def _capacity(self, way: ComesIn) -> None:
        """By itself transferred, the supply carries the whole load (702.4); by hand, its user chooses what it carries."""
        if not way.runs:
            raise CannotCompute(f"What feeds the other side of {self.name} is not drawn.", "Draw its source.")
        enough, numbers = self._compare(self._supply(way), "optional_standby_capacity")
        self._starting(way)
        if enough:
            self.judge.holds("standby_capacity", f"It carries all of it: {numbers}.", "optional_standby_capacity")
        elif way.automatic is False:
            text = f"Switched by hand, so its user chooses what it carries: {numbers}."
            self.judge.holds("standby_capacity", text, "optional_standby_capacity")
        else:
            self._too_small(way, numbers)

    def _passed_through(self, source: Source) -> None:
        """While the utility is away it stands alone: it may be smaller than the load, which then shuts it off (710.15(A))."""
        clause = "island_capacity"
        supply = self._output(source, len(legs_of(self.site.system_at(self.enclosure.id))))
        enough, numbers = self._compare(supply, clause)
        if enough:
            self.judge.holds("standby_capacity", f"It carries all that is behind it alone: {numbers}.", clause)
            return
        text = (
            f"{self.name} does not carry all that is behind it while the utility is away: {numbers}. It shuts itself off where more "
            "is on at one time; leave out some circuits, or let equipment shed load. Some offices ask for all of it (702.4)."
        )
        self.judge.advise("standby_capacity", text, clause)

    def _compare(self, supply: Figure, clause: str) -> tuple[bool, str]:
        """Whether a supply carries the hardest loaded line of what is behind, and both by their numbers."""
        level = self.levels.get(self.enclosure.id)
        if not isinstance(level, LevelLoad):
            raise CannotCompute(f"The load of {self.name} is not known.", "Complete the loads there and beneath.")
        carried = carried_by(level, frozenset(item.leg for item in level.legs))
        load = self.recorder.carried(carried.label, carried.actual, carried.worked_out_in)
        self.figures["standby_supply"], self.figures["standby_load"] = supply, load
        enough = self.recorder.at_least("The supply carries the load", supply, load, clause=clause)
        by_leg = " and ".join(f"{item.actual.text} A on {item.leg}" for item in level.legs)
        return enough, f"{supply.text} A for a calculated load of {by_leg}"

    def _starting(self, way: ComesIn) -> None:
        """That the largest motor starts on a set is advice."""
        sources = [source for run in way.runs for source in self._sources(run)]
        outputs = [output_va(self.site, item) for item in sources]
        loads = self.site.loads_beneath(self.enclosure.id)
        output = sum((item for item in outputs if item is not None), Fraction(0))
        if output and None not in outputs:
            names = " and ".join(dict.fromkeys(name_of(self.site, item.id) for item in sources))
            pieces = pieces_of(self.site, self.rules, loads)
            advise_of_start(self.judge, "standby_start", "optional_standby_capacity", names, output, pieces)

    def _too_small(self, way: ComesIn, numbers: str) -> None:
        """A supply that does not carry all of it by itself: lawful where equipment sheds what is too much."""
        gear, about = way.by, self.judge.about("transfers", way.by.id)
        gives = f"its standby supply gives {numbers}"
        sheds = gear.sheds_load if isinstance(gear, Transfer) else None
        if way.automatic is None:
            text = f"Whether {self.name} transfers by itself is not entered, and {gives}."
            about.cannot_tell("standby_capacity", text, "optional_standby_capacity", "automatic")
        elif sheds:
            text = f"Equipment sheds what the supply does not carry: {numbers}."
            about.holds("standby_capacity", text, "optional_standby_capacity")
        elif sheds is None:
            text = f"{self.name} transfers by itself, and {gives}. Whether equipment sheds the rest by itself is not entered."
            about.cannot_tell("standby_capacity", text, "optional_standby_capacity", "sheds_load")
        else:
            text = (
                f"{self.name} transfers by itself, and {gives}. Take a larger set, transfer fewer circuits, or fit "
                "equipment that sheds load by itself."
            )
            about.must_fix("standby_capacity", text, "optional_standby_capacity", "sheds_load")

    def _supply(self, way: ComesIn) -> Figure:
        """What the sources give together, and no more than the device of each lets through."""
        found = [self._of(source, run) for run in way.runs for source in self._sources(run)]
        if not found:
            raise CannotCompute(f"What feeds the other side of {self.name} is not drawn.", "Draw its source.")
        return found[0] if len(found) == 1 else self.recorder.add("Standby supply", *found)

    def _of(self, source: Source, run: Run) -> Figure:
        lines = {item.role for item in self.site.conductors_of.get(run.id, [])} & set(LEGS)
        given = self._output(source, len(lines) or len(legs_of(self.site.system_at(self.enclosure.id))))
        device = self.site.protection_ahead.get(run.id)
        if device is None or device.rating_a is None:
            return given
        limit = self.recorder.given(f"Rating of {device.name or 'its device'}", device.rating_a, "A", "design")
        return self.recorder.least("Output, as far as its device lets it through", given, limit)

    def _output(self, source: Source, lines: int) -> Figure:
        output = output_of(source, self.site.system_at(self.enclosure.id), lines)
        if output is None:
            raise MissingInput(source.id, "rated_kva", f"The rated output of {name_of(self.site, source.id)}")
        return self.recorder.given(f"Output of {name_of(self.site, source.id)}", output, "A", "plate of the source")

    def _sources(self, run: Run) -> Iterator[Source]:
        return sources_behind(self.site, self.site.upstream_of(run), set())

    # -- the gear ------------------------------------------------------------------------------

    def _gear(self, way: ComesIn) -> None:
        """Gear is rated for what protects it on either side."""
        gear = way.by
        assert isinstance(gear, Transfer)
        about = self.judge.about("transfers", gear.id)
        if gear.rating_a is None:
            raise MissingInput(gear.id, "rating_a", "The rating of the transfer gear")
        rating = self.recorder.given("Rating of the gear", gear.rating_a, "A", "label")
        self.figures["gear_rating"] = rating
        feed = self.site.feeding_run(self.enclosure.id)
        runs = [*([feed] if feed else []), *way.runs]
        ahead = [device for run in runs if (device := self.site.protection_ahead.get(run.id)) is not None]
        main = self.site.main_of(self.enclosure.id)
        devices = [*ahead, *([main] if main is not None and main.kind != "switch" else [])]
        largest = max((exact(item.rating_a) for item in devices if item.rating_a is not None), default=None)
        if largest is None:
            return
        most = self.recorder.given("Largest device of either side", largest, "A", "design")
        if self.recorder.at_least("The gear suits its devices", rating, most, clause="listed_use"):
            about.holds("gear_rating", f"{rating.text} A behind devices of {most.text} A at most.", "listed_use")
            return
        mend = Mend(f"Gear: {rating.text} A to {most.text} A", proposing("transfers", gear, rating_a=float(largest)))
        text = f"The gear of {self.name} is rated {rating.text} A and stands behind a device of {most.text} A."
        about.must_fix("gear_rating", text, "listed_use", "rating_a", mend)

    def _interlock(self, interlock: Interlock) -> None:
        about = self.judge.about("interlocks", interlock.id)
        if interlock.listed:
            about.holds("interlock", "It is listed for this panel.", "transfer_equipment_interlock")
        elif interlock.listed is None:
            text = f"Whether the interlock at {self.name} is listed for this panel is not entered: read its label."
            about.cannot_tell("interlock", text, "transfer_equipment_interlock", "listed")
        else:
            text = f"The interlock at {self.name} is not listed for this panel. Use one that its maker lists for it."
            about.must_fix("interlock", text, "transfer_equipment_interlock", "listed")

    def _pushed_into(self, way: ComesIn) -> None:
        """What runs beside the utility behind the gear runs beside the set as well, which takes nothing back (702.5)."""
        sets = [source for run in way.runs for source in self._sources(run) if not source.interactive]
        beneath = self.site.sources_beneath.get(self.enclosure.id, {}).values()
        pushing = [item for item in beneath if item.interactive and item not in sets]
        if not sets or not pushing:
            return
        names, of_sets = (
            " and ".join(dict.fromkeys(name_of(self.site, item.id) for item in these)) for these in (pushing, sets)
        )
        text = (
            f"While {of_sets} runs, {names} behind {self.name} would join it, and push into it what the loads do not take. Have it "
            "locked off then, unless the makers of both allow them together; or connect it ahead of what is transferred."
        )
        self.judge.advise("standby_pushed_into", text, "standby_parallel")

    def _signs(self, way: ComesIn) -> None:
        sources = [source for run in way.runs for source in self._sources(run)]
        if not sources:
            return
        names = " and ".join(dict.fromkeys(name_of(self.site, item.id) for item in sources))
        at_inlet = " At the inlet: which neutral the set must have, floating or bonded." if self._has_inlet(way) else ""
        text = f"Signs: at the service equipment, what kind of source {names} is and where it stands.{at_inlet}"
        self.judge.advise("standby_signs", text, "optional_standby_signs")

    def _has_inlet(self, way: ComesIn) -> bool:
        owners = (self.site.enclosures.get(self.site.upstream_of(run)) for run in way.runs)
        return any(owner is not None and owner.kind == "inlet" for owner in owners)


def standby_runs_into(site: Site, enclosure_id: str) -> list[Run]:
    """Return the runs over which a standby supply comes into an enclosure."""
    return [run for run in site.runs_into.get(enclosure_id, []) if run in _standby_runs(site, run.to_part)]


def _ways_in(site: Site, enclosure_id: str) -> list[ComesIn]:
    found = []
    for gear in site.transfers_in.get(enclosure_id, []):
        parts = {throw.part for throw in site.throws_of.get(gear.id, [])}
        runs = tuple(run for part in sorted(parts) for run in _standby_runs(site, part))
        found.append(ComesIn(gear, runs, gear.automatic))
    for interlock in site.document.interlocks:
        ends = (interlock.device_a, interlock.device_b)
        if {site.owners.get(end) for end in ends} == {enclosure_id}:
            runs = tuple(run for end in ends for run in _standby_runs(site, end))
            found += [ComesIn(interlock, runs, False)] if runs else []
    passing = site.passing.get(enclosure_id)
    return [*found, ComesIn(passing.source, (), True)] if passing is not None else found


def _standby_runs(site: Site, part: str) -> list[Run]:
    return [run for run in site.runs_to_part.get(part, []) if site.feeds.rank[site.upstream_of(run)] == OTHER_SOURCE]


def standby_answers(site: Site, rules: Rules, levels: LevelLoads) -> dict[str, Answer]:
    """Return the judgement of every enclosure where a standby supply comes in, by its id."""
    if not site.document.transfers and not site.document.interlocks and not site.passing:
        return {}
    ways = {enclosure_id: _ways_in(site, enclosure_id) for enclosure_id in site.enclosures}
    return {
        enclosure_id: StandbyJudge(site, rules, levels, enclosure_id).answer(of_box)
        for enclosure_id, of_box in ways.items()
        if of_box
    }
