"""Transformer secondary conductors (240.21(C)): which rule lets them leave without a device at the transformer?"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial

from nelvor.clauses.tap_conditions import Conditions, DoesNotFit, Need, RuleAnswer, SmallConductorCase, answer_of
from nelvor.errors import CannotCompute
from nelvor.working import Figure, Recorder


@dataclass(frozen=True, kw_only=True)
class SecondaryCase(SmallConductorCase):
    """What secondary conductors are judged by. Volts line to line. ``tap_length_ft`` is of the tap that feeds the
    transformer, where ``from_tap``."""

    primary_v: Figure
    secondary_v: Figure
    primary_device: Figure
    two_wire_or_delta_delta: bool | None = None
    from_tap: bool = False
    tap_length_ft: Figure | None = None
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
        if self.conditions.leaves_enclosure():
            ratio = self.recorder.parameter("secondary_10ft_ratio", "Ratio")
            needs.append(self.recorder.divide("A tenth of that", self._through(), ratio, "A", clause))
        self.conditions.protected()
        return self._most(clause, *needs)

    def industrial(self) -> Need:
        """(C)(3): to 25 ft in industry; never below the transformer's own secondary current."""
        clause = "secondary_industrial"
        self.conditions.qualified()
        self.conditions.within(self.case.length_ft, "secondary_industrial_length_ft", clause, "The conductors")
        if self.case.transformer_rated_a is None:
            raise CannotCompute("The transformer's secondary current is not known.", "Enter its kVA.")
        self.conditions.protected()
        return self._most(clause, self.case.transformer_rated_a, self.conditions.rating_at_end())

    def outside(self) -> Need:
        """(C)(4): outdoors, of any length, ending in one device that is the disconnect or beside it."""
        return self.conditions.outside("secondary_outside")

    def from_feeder_tap(self) -> Need:
        """(C)(5): of a transformer that a feeder tap supplies, by 240.21(B)(3): primary and secondary to 25 ft."""
        clause, recorder = "secondary_from_tap", self.recorder
        if not self.case.from_tap:
            raise DoesNotFit("The transformer is not supplied by a feeder tap")
        if self.case.tap_length_ft is None:
            raise CannotCompute("The length of the tap ahead of the transformer is not known.", "Enter it.")
        together = recorder.add("Primary plus secondary", self.case.tap_length_ft, self.case.length_ft, clause=clause)
        self.conditions.within(together, "tap_transformer_length_ft", clause, "Primary plus secondary")
        device = self.conditions.one_device()
        self.conditions.protected()
        ratio = recorder.parameter("tap_transformer_ratio", "Ratio")
        return self._most(clause, recorder.divide("A third of that", self._through(), ratio, "A", clause), device)

    def twenty_five_feet(self) -> Need:
        """(C)(6): to 25 ft, a third of the primary device through the voltages, one device at the end."""
        clause = "secondary_25ft"
        self.conditions.within(self.case.length_ft, "secondary_25ft_length_ft", clause, "The conductors")
        device = self.conditions.one_device()
        self.conditions.protected()
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
    "from_tap": ("Secondary behind a feeder tap", "secondary_from_tap", SecondaryJudge.from_feeder_tap),
    "25_ft": ("Secondary of 25 ft or less", "secondary_25ft", SecondaryJudge.twenty_five_feet),
}


def judge_secondary(recorder: Recorder, case: SecondaryCase) -> list[RuleAnswer]:
    """Judge secondary conductors by every rule; the next size up never applies to them."""
    conditions = Conditions(recorder, case)
    judge = SecondaryJudge(recorder, case, conditions)
    return [
        answer_of(rule, title, clause, conditions, partial(check, judge))
        for rule, (title, clause, check) in RULES.items()
    ]
