"""One run with all that its parts are worked out from, and the figures, gaps and verdicts that come of it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass, field
from fractions import Fraction
from functools import cached_property
from typing import Any, NamedTuple

from nelvor.clauses.ampacity import Circumstances
from nelvor.clauses.calculated_load import LevelLoad, calculate
from nelvor.clauses.load_kind import Tally
from nelvor.clauses.tap_conditions import RuleAnswer
from nelvor.errors import CannotCompute, MissingInput
from nelvor.judges.level_loads import LevelLoads, LoadUnknown, methods_of
from nelvor.judges.run.fit_out import FitOut
from nelvor.judges.run.lays import Lay, lays_of
from nelvor.judges.verdict import Judge
from nelvor.judges.zones.service import PASSED_OVER, ahead_of_service, has_disconnect
from nelvor.model.things import Device, Run
from nelvor.model.voltages import COMPUTED_SYSTEMS, LEGS, THREE_PHASE
from nelvor.rulebook.rules import Rules
from nelvor.topology.site import Site
from nelvor.working import Figure, Recorder, exact

WORKED_OUT_WITH = {"design": "load", "ampacity": "hots"}
OF_LEGS = frozenset(LEGS)
ENDS_IN_ITS_DEVICE = frozenset({"service", "secondary"})


class WholeUnit(NamedTuple):
    """The run that carries the whole of a dwelling unit: its metal, its size and its device in A."""

    material: str
    size: str
    device_a: Fraction


class Ahead(NamedTuple):
    """What lies ahead of a run: the drop from the service point in per cent, None when unknown, and the run that
    carries the whole of the dwelling unit, if one does."""

    drop_percent: Fraction | None = None
    whole: WholeUnit | None = None


@dataclass
class RunCase:
    """A run of a site under the rules of an edition. The parts fill in figures, gaps and verdicts as they are solved.

    ``by_table`` is the smallest lawful size of the hots by the ampacity table, worked out unless it is handed on
    by the same run with other hots; ``to_carry`` the load with the motor adder; ``design_of_loads`` what loads alone ask for, where sources push back as well; ``smallest_hots`` the size that the grounding conductor is compared with.
    """

    site: Site
    rules: Rules
    levels: LevelLoads
    run: Run
    ahead: Ahead
    figures: dict[str, Figure] = field(default_factory=dict)
    gaps: dict[str, CannotCompute] = field(default_factory=dict)
    circumstances: Circumstances | None = None
    to_carry: Figure | None = None
    design_of_loads: Figure | None = None
    by_table: str | None = None
    smallest_hots: str | None = None
    whole_dwelling: bool = False
    tap_rules: list[RuleAnswer] = field(default_factory=list)
    to_fit: list[FitOut] = field(default_factory=list)

    def __post_init__(self) -> None:
        self.fed = self.site.owners[self.run.to_part]  # the id of what the run feeds
        self.recorder = Recorder(self.rules)
        self.judge = Judge(self.rules, "runs", self.run.id)
        self.kind = self._kind()

    def made_otherwise(self, run: Run) -> RunCase:
        """Return the case of the same run made in another way: between the same ends, with the same load."""
        other = RunCase(self.site, self.rules, self.levels, run, self.ahead)
        other._carried = self._carried
        return other

    def attempt(self, part: str, solve: Callable[..., None], lay: Lay | None = None) -> None:
        """Solve one part of the answer, of the run or of one part of it.

        What cannot be computed is kept as a gap and told once. A load that is not filled in is told at its panel, and
        not again at every run on the way to it.
        """
        try:
            solve(self) if lay is None else solve(self, lay)
        except CannotCompute as reason:
            self.gaps[part] = reason.kept()
            if isinstance(reason, MissingInput) and reason.thing_id in self.site.load_ids:
                return
            if not any(verdict.text.startswith(reason.reason) for verdict in self.judge.verdicts):
                judge = self.judge if lay is None else self.judge_of(lay)
                judge.cannot_compute(f"run_{part.partition(':')[0]}", reason)

    def for_each_lay(self, part: str, solve: Callable[[RunCase, Lay], None]) -> None:
        """Solve a part of the answer for each part of the run; one that cannot be computed leaves the others."""
        for lay in self.lays:
            self.attempt(f"{part}{lay.key}", solve, lay)

    def _kind(self) -> str:
        source = self.site.sources.get(self.run.from_part)
        if source is not None and source.kind == "utility":
            return "utility"
        led_to = self.site.sources.get(self.run.to_part)
        if led_to is not None:
            return "output" if led_to.interactive and led_to.neutral_path is None else "source"
        if self.run.id in self.site.leads:
            return "leads"
        if self.run.id in self.site.feeds.beside:
            return "output"
        if self._is_cord:
            return "cord"
        if source is not None:
            return "output" if source.interactive else "alone"
        if self.run.from_part in self.site.transformer_of_secondary:
            return "secondary"
        ahead = self.site.protection_ahead.get(self.run.id)
        if ahead is None or self._behind_a_disconnect_of_the_supply(ahead):
            return "service"
        if self.run.id in self.site.feeds.standby:
            return "standby"
        return "branch" if ahead.role == "branch" and ahead.id == self.run.from_part else "feeder"

    @property
    def _is_cord(self) -> bool:
        """Tell whether this is the cord of a portable source, which is plugged into an inlet."""
        end = self.site.enclosures.get(self.fed)
        return end is not None and end.kind == "inlet"

    def _behind_a_disconnect_of_the_supply(self, ahead: Device) -> bool:
        """Tell whether the device ahead is only an emergency disconnect, so that these are still service conductors."""
        enclosure = self.site.enclosures.get(ahead.enclosure_id)
        marked = enclosure is not None and enclosure.emergency_marking in PASSED_OVER
        return marked and ahead_of_service(self.site, self.rules, self.run)

    @property
    def several_disconnects(self) -> bool:
        """Tell whether a service run leads to several disconnects, so that its conductors go by the load (230.90(A))."""
        if self.kind != "service" or self.site.main_of(self.fed) is not None:
            return False
        return has_disconnect(self.site, self.fed) or len(self.site.runs_from.get(self.fed, [])) > 1

    @cached_property
    def lays(self) -> list[Lay]:
        """The parts of the run that are laid in different ways.

        Raises:
            MissingInput, CannotCompute: their lengths are not known, or do not fit.
        """
        return lays_of(self.run, self.site.stretches_of.get(self.run.id, []))

    def judge_of(self, lay: Lay) -> Judge:
        """Return the judge of one part of the run."""
        if lay.thing is self.run:
            return self.judge
        return self.judge.about(lay.list_name, lay.thing.id)

    def need(self, part: str) -> Figure:
        """Return a figure already worked out, or raise the reason why it could not be."""
        if part in self.figures:
            return self.figures[part]
        raise self.gaps[WORKED_OUT_WITH.get(part, part)]

    def filled(self, field_name: str, what: str) -> Any:
        """Return a property of the run.

        Raises:
            MissingInput: it is not entered.
        """
        value = getattr(self.run, field_name)
        if value is None:
            raise MissingInput(self.run.id, field_name, what)
        return value

    @cached_property
    def _carried(self) -> LevelLoad | CannotCompute:
        level = self.levels.get(self.fed)
        if level is None:
            return CannotCompute("Nothing is fed by this run.", "Choose what it feeds.")
        if isinstance(level, LoadUnknown):
            return level.reason
        try:
            return self._with_taps(level) if self.run.id in self.site.taps_on_run else level
        except CannotCompute as reason:
            return reason.kept()

    def known_level(self) -> LevelLoad:
        """Return the load at the end of the run, with what its taps carry, since both flow up to the last tap.

        Raises:
            CannotCompute: the load is not known.
        """
        if isinstance(self._carried, CannotCompute):
            raise self._carried
        return self._carried

    def _with_taps(self, level: LevelLoad) -> LevelLoad:
        tally: Tally = Counter(level.tally)
        for tap in self.site.taps_on_run[self.run.id]:
            beyond = self.levels.get(self.site.downstream_of(self.site.runs[tap.tap_run_id]))
            if isinstance(beyond, LoadUnknown):
                raise beyond.reason
            if beyond is not None:
                tally.update(beyond.tally)
        return calculate(level.enclosure_id, tally, level.system, self.rules, methods_of(self.site))

    def length_ft(self) -> Fraction:
        """Return the length of the run, exactly.

        Raises:
            MissingInput: it is not entered.
        """
        return exact(self.filled("length_ft", "The length of the run"))

    def system(self) -> str:
        """Return the voltage system at the end of the run.

        Raises:
            CannotCompute: it is not known, or not one of those computed.
        """
        system = self.site.system_at(self.fed)
        if system not in COMPUTED_SYSTEMS:
            raise CannotCompute(
                "The voltage system is not known or not computed yet.",
                "Choose 120/240 V one-phase or 208Y/120 V on the source.",
            )
        return str(system)

    def protecting_device(self) -> Device:
        """Return the device whose rating this run's conductors must suit: ahead, or for a service run at its end."""
        if self.kind in ENDS_IN_ITS_DEVICE:
            main = self.site.main_of(self.fed) or self.site.protection_ahead.get(self.run.id)
            if main is None:
                raise CannotCompute(
                    f"The {self.kind} run ends in no main device.",
                    "Give the enclosure at its end a main breaker or fuses.",
                )
            return main
        device = self.site.protection_ahead[self.run.id]
        assert device is not None  # a feeder is a run with protection ahead
        return device

    @cached_property
    def hot_legs(self) -> frozenset[str]:
        """The legs that the run brings; without conductors of its own, all that the system has."""
        return self.site.roles_of.get(self.run.id, frozenset()) & OF_LEGS or frozenset(
            LEGS[: 3 if self.system() in THREE_PHASE else 2]
        )

    @property
    def hot_count(self) -> int:
        """How many hot conductors the run has."""
        return len(self.hot_legs)

    def neutral_bar(self, owner: str) -> str:
        """Return the neutral bar of an enclosure, or the enclosure where it has none."""
        return next((bar.id for bar in self.site.bars_in.get(owner, []) if bar.kind == "neutral"), owner)

    def ground_bar(self, owner: str) -> str:
        """Return the ground bar of an enclosure, or the enclosure where it has none."""
        return next((bar.id for bar in self.site.bars_in.get(owner, []) if bar.kind == "ground"), owner)

    def ground_material(self) -> str:
        """Return the metal of the grounding conductor."""
        return self.run.ground_material or self.run.material or "copper"
