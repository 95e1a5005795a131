"""Transformer secondary conductors (240.21(C)): which rule lets them leave without a device at the transformer?"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial

from nelvor.errors import CannotCompute
from nelvor.rules.conductor import Circumstances
from nelvor.rules.tap_conditions import Conditions, End, Need, RuleAnswer, answer_of
from nelvor.working import Figure, Recorder


@dataclass(frozen=True)
class SecondaryCase:
    """What secondary conductors are judged by. Volts line to line, lengths in ft, currents in A; None is not known."""

    primary_v: Figure
    secondary_v: Figure
    primary_device: Figure
    load: Figure
    length_ft: Figure
    ends_in: End | None
    end_rating: Figure | None
    size: str | None
    circumstances: Circumstances
    two_wire_or_delta_delta: bool | None = None
    outdoors_only: bool | None = None
    end_is_disconnect: bool | None = None
    protected_from_damage: bool | None = None
    leaves_enclosure: bool | None = None
    qualified_industry: bool | None = None
    transformer_rated_a: Figure | None = None


@dataclass(frozen=True)
class SecondaryJudge:
    """Judges secondary conductors; a method for each rule returns the ampacity that it asks for."""

    recorder: Recorder
    case: SecondaryCase
    conditions: Conditions

    def _through(self) -> Figure:
        ratio = self.recorder.divide("Primary over secondary volts", self.case.primary_v, self.case.secondary_v, "")
        return self.recorder.multiply(
            "Primary device, seen at the secondary", self.case.primary_device, ratio, unit="A"
        )

    def _protected(self) -> None:
        what = "the conductors are protected from damage, in a raceway or otherwise"
        self.conditions.require(self.case.protected_from_damage, "protected_from_damage", what)

    def _most(self, clause: str, *needs: Figure) -> Need:
        return Need(self.recorder.greatest("Least ampacity", self.case.load, *needs, clause=clause))

    def protected_by_primary(self) -> Need:
        """(C)(1): two-wire, or delta-delta three-wire, protected through the transformer."""
        what = "the transformer is two-wire, or three-wire delta-delta"
        self.conditions.require(self.case.two_wire_or_delta_delta, "two_wire_or_delta_delta", what)
        return self._most("secondary_protected_by_primary", self._through())

    def ten_feet(self) -> Need:
        """(C)(2): load, device at the end, and a tenth of the primary device where they leave the enclosure."""
        clause = "secondary_conductor_10ft"
        self.conditions.within(self.case.length_ft, "secondary_10ft_length_ft", clause, "The conductors")
        needs = [self.conditions.rating_at_end()]
        leaves = "the conductors leave the enclosure where they begin"
        if self.conditions.known(self.case.leaves_enclosure, "leaves_enclosure", leaves):
            ratio = self.recorder.parameter("secondary_10ft_ratio", "Ratio")
            needs.append(self.recorder.divide("A tenth of that", self._through(), ratio, "A", clause))
        self._protected()
        return self._most(clause, *needs)

    def industrial(self) -> Need:
        """(C)(3): to 25 ft in industry; never below the transformer's own secondary current."""
        clause = "secondary_industrial"
        what = "it is an industrial installation serviced by qualified persons alone"
        self.conditions.require(self.case.qualified_industry, "qualified_industry", what)
        self.conditions.within(self.case.length_ft, "secondary_industrial_length_ft", clause, "The conductors")
        if self.case.transformer_rated_a is None:
            raise CannotCompute("The transformer's secondary current is not known.", "Enter its kVA.")
        self._protected()
        return self._most(clause, self.case.transformer_rated_a, self.conditions.rating_at_end())

    def outside(self) -> Need:
        """(C)(4): outdoors, of any length, ending in one device that is the disconnect or beside it."""
        what = "the conductors run outdoors alone, but for where they end"
        self.conditions.require(self.case.outdoors_only, "outdoors_only", what)
        self._protected()
        device = self.conditions.one_device()
        what = "the device at the end is the disconnect, or beside it, where the conductors enter"
        self.conditions.require(self.case.end_is_disconnect, "end_is_disconnect", what)
        return self._most("secondary_outside", device)

    def twenty_five_feet(self) -> Need:
        """(C)(6): to 25 ft, a third of the primary device through the voltages, one device at the end."""
        clause = "secondary_25ft"
        self.conditions.within(self.case.length_ft, "secondary_25ft_length_ft", clause, "The conductors")
        device = self.conditions.one_device()
        self._protected()
        ratio = self.recorder.parameter("secondary_25ft_ratio", "Ratio")
        third = self.recorder.divide("A third of that", self._through(), ratio, "A", clause)
        return self._most(clause, third, device)


RULES: dict[str, tuple[str, str, Callable[[SecondaryJudge], Need]]] = {
    "by_primary": (
        "Protected by the primary device",
        "secondary_protected_by_primary",
        SecondaryJudge.protected_by_primary,
    ),
    "10_ft": ("Secondary of 10 ft or less", "secondary_conductor_10ft", SecondaryJudge.ten_feet),
    "industrial": ("Industrial, 25 ft or less", "secondary_industrial", SecondaryJudge.industrial),
    "outside": ("Outside secondary", "secondary_outside", SecondaryJudge.outside),
    "25_ft": ("Secondary of 25 ft or less", "secondary_25ft", SecondaryJudge.twenty_five_feet),
}


def judge_secondary(recorder: Recorder, case: SecondaryCase) -> list[RuleAnswer]:
    """Judge secondary conductors by every rule; the next size up never applies to them."""
    conditions = Conditions(recorder, case.circumstances, case.ends_in, case.end_rating)
    judge = SecondaryJudge(recorder, case, conditions)
    return [
        answer_of(rule, title, clause, conditions, case.size, partial(check, judge))
        for rule, (title, clause, check) in RULES.items()
    ]
