"""What the tap rules and the rules for transformer secondary conductors share: conditions, sizes, answers."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Literal

from nelvor.clauses.ampacity import Circumstances, final_ampacity, size_index
from nelvor.errors import CannotCompute, MissingFigure
from nelvor.model.vocabulary import SIZES
from nelvor.working import Figure, Recorder, shown

End = Literal["one_device", "panel_with_main", "several_devices", "bus_or_equipment"]
ONE_DEVICE = frozenset({"one_device", "panel_with_main"})


@dataclass(frozen=True)
class RuleAnswer:
    """How one rule judges: ``fits`` is None where an input is missing. ``smallest`` is the least lawful size."""

    rule: str
    title: str
    clause: str
    fits: bool | None
    why: str
    smallest: str | None
    needed: Figure | None


@dataclass(frozen=True, kw_only=True)
class SmallConductorCase:
    """What taps and transformer secondaries are judged by alike. Lengths in ft, currents in A; None is not known.

    ``end_rating`` is the device, or the rating of the equipment, at the end; ``size`` of None asks for the smallest.
    """

    load: Figure
    length_ft: Figure
    ends_in: End | None
    end_rating: Figure | None
    size: str | None
    circumstances: Circumstances
    leaves_enclosure: bool | None = None
    protected_from_damage: bool | None = None
    outdoors_only: bool | None = None
    end_is_disconnect: bool | None = None
    qualified_industry: bool | None = None


class DoesNotFit(Exception):
    """A condition of a rule is not met."""


@dataclass(frozen=True)
class Need:
    """The ampacity that a rule asks for, and a least size beside it ("" for none)."""

    ampacity: Figure
    least_size: str = ""


@dataclass(frozen=True)
class Conditions:
    """Conditions that several rules ask for, each judged through the recorder. Lengths in ft, currents in A."""

    recorder: Recorder
    case: SmallConductorCase

    def within(self, length: Figure, limit_key: str, clause: str, what: str) -> None:
        """Require a length within a rule's limit."""
        limit = self.recorder.parameter(limit_key, "Longest")
        if not self.recorder.at_least(f"{what}: short enough", limit, length, clause=clause):
            raise DoesNotFit(f"{what}: {length.text} ft, the rule allows {limit.text} ft")

    def known(self, value: bool | None, field_name: str, what: str) -> bool:
        """Return a condition that must be known.

        Raises:
            CannotCompute: it is not.
        """
        if value is None:
            raise CannotCompute(f"It is not known whether {what}.", f"Enter it ({field_name}).")
        return value

    def require(self, value: bool | None, field_name: str, what: str) -> None:
        """Require a condition that must be known."""
        if not self.known(value, field_name, what):
            raise DoesNotFit(f"It does not hold that {what}")

    def rating_at_end(self) -> Figure:
        """Return the device, or the rating of the equipment, at the end.

        Raises:
            CannotCompute: it is not known.
        """
        if self.case.ends_in is None or self.case.end_rating is None:
            raise CannotCompute("It is not known what the conductors end in.", "Enter what is there and its rating.")
        return self.case.end_rating

    def one_device(self) -> Figure:
        """Require the conductors to end in one device that limits their load; return its rating."""
        rating = self.rating_at_end()
        if self.case.ends_in not in ONE_DEVICE:
            raise DoesNotFit("The rule asks that the conductors end in one device")
        return rating

    def protected(self) -> None:
        """Require protection from damage."""
        what = "the conductors are protected from damage, in a raceway or otherwise"
        self.require(self.case.protected_from_damage, "protected_from_damage", what)

    def leaves_enclosure(self) -> bool:
        """Tell whether the conductors leave the enclosure where they begin."""
        what = "the conductors leave the enclosure where they begin"
        return self.known(self.case.leaves_enclosure, "leaves_enclosure", what)

    def qualified(self) -> None:
        """Require an industrial installation serviced by qualified persons alone."""
        what = "it is an industrial installation serviced by qualified persons alone"
        self.require(self.case.qualified_industry, "qualified_industry", what)

    def outside(self, clause: str) -> Need:
        """Judge conductors of any length outdoors, ending in one device that is the disconnect or beside it."""
        what = "the conductors run outdoors alone, but for where they end"
        self.require(self.case.outdoors_only, "outdoors_only", what)
        self.protected()
        device = self.one_device()
        what = "the device at the end is the disconnect, or beside it, where the conductors enter"
        self.require(self.case.end_is_disconnect, "end_is_disconnect", what)
        return Need(self.recorder.greatest("Least ampacity", self.case.load, device, clause=clause))

    def smallest(self, need: Figure) -> str:
        """Return the smallest size that reaches a need; the next size up is not allowed here."""
        for size in self._sizes():
            mark = self.recorder.mark()
            try:
                ampacity = final_ampacity(self.recorder, size, self.case.circumstances)[1]
            except MissingFigure:
                self.recorder.forget(mark)
                continue
            if self.recorder.at_least(f"{size} reaches it", ampacity, need):
                return size
            self.recorder.forget(mark)
        raise DoesNotFit(f"No conductor of the table reaches {shown(need.number)} A")

    def _sizes(self) -> Sequence[str]:
        """The sizes to choose from: in parallel sets from 1/0 on (310.10(G)(1))."""
        if self.case.circumstances.sets == 1:
            return SIZES
        least = self.recorder.rules.parameter("parallel_least_size").value
        return SIZES[size_index(least) :]


def answer_of(rule: str, title: str, clause: str, conditions: Conditions, work: Callable[[], Need]) -> RuleAnswer:
    """Return a rule's answer for the case's size, or for the smallest where it has none."""
    size = conditions.case.size
    mark = conditions.recorder.mark()
    try:
        need = work()
        smallest = conditions.smallest(need.ampacity)
    except DoesNotFit as reason:
        conditions.recorder.forget(mark)
        return RuleAnswer(rule, title, clause, False, str(reason), None, None)
    except CannotCompute as reason:
        conditions.recorder.forget(mark)
        return RuleAnswer(rule, title, clause, None, str(reason), None, None)
    if need.least_size:
        smallest = max(smallest, need.least_size, key=size_index)
    amperes = f"{shown(need.ampacity.number)} A are needed"
    if size is None or size_index(size) >= size_index(smallest):
        return RuleAnswer(
            rule, title, clause, True, f"{amperes}; {size or smallest} carries it", smallest, need.ampacity
        )
    why = f"{size} is too small: {amperes}, which asks for {smallest}"
    return RuleAnswer(rule, title, clause, False, why, smallest, need.ampacity)


def smallest_of(answers: list[RuleAnswer]) -> RuleAnswer | None:
    """Return the answer that allows the smallest conductor, or None where no rule fits."""
    open_to = [answer for answer in answers if answer.smallest is not None]
    return min(open_to, key=lambda answer: size_index(str(answer.smallest)), default=None)
