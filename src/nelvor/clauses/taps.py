"""Feeder taps (240.21(B)): may these conductors be smaller than the device ahead allows, and by which rule?

Every rule is judged with its arithmetic. A rule that fails on nothing but the size of the
conductors also names the smallest lawful size.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial

from nelvor.clauses.ampacity import COLUMN, size_index
from nelvor.clauses.grounding_conductor import by_device
from nelvor.clauses.tap_conditions import (
    ONE_DEVICE,
    Conditions,
    DoesNotFit,
    End,
    Need,
    RuleAnswer,
    SmallConductorCase,
    answer_of,
)
from nelvor.errors import CannotCompute
from nelvor.working import Figure, Recorder


@dataclass(frozen=True, kw_only=True)
class TapCase(SmallConductorCase):
    """What a tap is judged by. ``device_ahead`` protects the feeder that is tapped.

    The transformer rule needs ``secondary_length_ft``, the two voltages, what the secondary ends in, and its
    ampacity, unless it is still to be sized (``secondary_to_size``): then it is sized by the same rule.
    ``with_sources`` is the device ahead together with what sources push into the feeder (705.12), None where none do.
    """

    device_ahead: Figure
    with_sources: Figure | None = None
    from_tap: bool = False
    bay_wall_ft: Figure | None = None
    level_length_ft: Figure | None = None
    primary_v: Figure | None = None
    secondary_v: Figure | None = None
    secondary_length_ft: Figure | None = None
    secondary_ends_in: End | None = None
    secondary_device: Figure | None = None
    secondary_ampacity: Figure | None = None
    secondary_to_size: bool = False


@dataclass(frozen=True)
class TapJudge:
    """Judges one tap; a method for each rule returns the ampacity that it asks for."""

    recorder: Recorder
    case: TapCase
    conditions: Conditions

    def _share_of_device(self, ratio_key: str, clause: str) -> Figure:
        ratio = self.recorder.parameter(ratio_key, "Ratio")
        ahead = self.case.with_sources or self.case.device_ahead
        return self.recorder.divide("Least ampacity for the device ahead", ahead, ratio, "A", clause)

    def _tenth(self, clause: str) -> Figure:
        """The 10 ft tap is not named among the taps next to a source from 2023 on."""
        if self.recorder.rules.parameter("interconnect_tap_by_devices").value == "1":
            ratio = self.recorder.parameter("tap_10ft_ratio", "Ratio")
            return self.recorder.divide(
                "Least ampacity for the device ahead", self.case.device_ahead, ratio, "A", clause
            )
        return self._share_of_device("tap_10ft_ratio", clause)

    def ten_feet(self) -> Need:
        """240.21(B)(1): load, device at the end, and a tenth of the device ahead where it leaves the enclosure."""
        clause = "feeder_tap_10ft"
        self.conditions.within(self.case.length_ft, "tap_10ft_length_ft", clause, "The tap")
        needs = [self.case.load, self.conditions.rating_at_end()]
        if self.conditions.leaves_enclosure():
            needs.append(self._tenth(clause))
        self.conditions.protected()
        return Need(self.recorder.greatest("Least ampacity of the tap", *needs, clause=clause))

    def twenty_five_feet(self) -> Need:
        """240.21(B)(2): a third of the device ahead, and one device at the end."""
        clause = "feeder_tap_25ft"
        self.conditions.within(self.case.length_ft, "tap_25ft_length_ft", clause, "The tap")
        device = self.conditions.one_device()
        self.conditions.protected()
        needs = [self.case.load, self._share_of_device("tap_25ft_ratio", clause), device]
        return Need(self.recorder.greatest("Least ampacity of the tap", *needs, clause=clause))

    def transformer(self) -> Need:
        """240.21(B)(3): a transformer tap; primary and secondary together to 25 ft, a third on each side."""
        case, recorder, clause = self.case, self.recorder, "tap_transformer_25ft"
        if case.primary_v is None or case.secondary_v is None or case.secondary_length_ft is None:
            raise DoesNotFit("The tap feeds no transformer, or its voltages and secondary length are not entered")
        together = recorder.add("Primary plus secondary", case.length_ft, case.secondary_length_ft, clause=clause)
        self.conditions.within(together, "tap_transformer_length_ft", clause, "Primary plus secondary")
        if case.secondary_device is None or case.secondary_ends_in is None:
            raise CannotCompute("It is not known what the secondary ends in.", "Enter the device at its end.")
        if case.secondary_ends_in not in ONE_DEVICE:
            raise DoesNotFit("The rule asks that the secondary end in one device")
        self.conditions.protected()
        needs = [case.load, self._share_of_device("tap_transformer_ratio", clause)]
        primary = Need(recorder.greatest("Least ampacity of the primary", *needs, clause=clause))
        if case.secondary_to_size:
            return primary
        if case.secondary_ampacity is None:
            raise CannotCompute("The ampacity of the secondary conductors is not known.", "Enter it.")
        ratio = recorder.parameter("tap_transformer_ratio", "Ratio")
        volts = recorder.divide("Primary volts over secondary volts", case.primary_v, case.secondary_v, "")
        ahead = case.with_sources or case.device_ahead
        through = recorder.multiply("Device ahead, seen at the secondary", ahead, volts, unit="A")
        third = recorder.divide("A third of that", through, ratio, "A", clause)
        beyond = recorder.greatest("Least ampacity of the secondary", third, case.secondary_device, clause=clause)
        if not recorder.at_least("The secondary is large enough", case.secondary_ampacity, beyond, clause=clause):
            raise DoesNotFit(f"The secondary carries {case.secondary_ampacity.text} A, {beyond.text} A are needed")
        return primary

    def high_bay(self) -> Need:
        """240.21(B)(4): over 25 ft in a plant with walls above 35 ft."""
        case, recorder, clause = self.case, self.recorder, "tap_highbay"
        if case.bay_wall_ft is None or case.level_length_ft is None:
            raise DoesNotFit(
                "The rule is for plants with high walls; their height and the level length are not entered"
            )
        wall = recorder.parameter("tap_high_bay_wall_ft", "Walls higher than")
        if recorder.at_least("The walls are no higher than that", wall, case.bay_wall_ft, clause=clause):
            raise DoesNotFit(
                f"The walls are {case.bay_wall_ft.text} ft high, the rule asks for more than {wall.text} ft"
            )
        self.conditions.within(case.length_ft, "tap_high_bay_length_ft", clause, "The tap")
        self.conditions.within(case.level_length_ft, "tap_high_bay_level_ft", clause, "Its level part")
        self.conditions.qualified()
        self.conditions.protected()
        needs = [case.load, self._share_of_device("tap_high_bay_ratio", clause), self.conditions.one_device()]
        least = recorder.parameter(f"tap_high_bay_size_{COLUMN[case.circumstances.material]}", "Least size").text
        return Need(recorder.greatest("Least ampacity of the tap", *needs, clause=clause), least)

    def outside(self) -> Need:
        """240.21(B)(5): outdoors, of any length, ending in one device that is the disconnect or beside it."""
        return self.conditions.outside("tap_outside")


RULES: dict[str, tuple[str, str, Callable[[TapJudge], Need]]] = {
    "10_ft": ("Tap of 10 ft or less", "feeder_tap_10ft", TapJudge.ten_feet),
    "25_ft": ("Tap of 25 ft or less", "feeder_tap_25ft", TapJudge.twenty_five_feet),
    "transformer": ("Transformer tap, 25 ft with its secondary", "tap_transformer_25ft", TapJudge.transformer),
    "high_bay": ("High-bay tap over 25 ft", "tap_highbay", TapJudge.high_bay),
    "outside": ("Outside tap", "tap_outside", TapJudge.outside),
}


def judge_tap(recorder: Recorder, case: TapCase) -> list[RuleAnswer]:
    """Judge a tap by every rule. A tap of a tap fits none (240.21)."""
    conditions = Conditions(recorder, case)
    judge = TapJudge(recorder, case, conditions)
    answers = []
    for rule, (title, clause, check) in RULES.items():
        if case.from_tap:
            answers.append(RuleAnswer(rule, title, "tap_of_tap", False, "No tap may be made from a tap", None, None))
        else:
            answers.append(answer_of(rule, title, clause, conditions, partial(check, judge)))
    return answers


def tap_grounding_conductor(recorder: Recorder, device_ahead: Figure, material: str, hots: str) -> Figure:
    """Return a tap's grounding conductor: by the device ahead of the feeder, not above the tap's hots (250.122(G))."""
    base = by_device(recorder, device_ahead, material, "Grounding conductor for the device ahead of the feeder")
    size = min(base.text, hots, key=size_index)
    return recorder.choose("Grounding conductor of the tap", size, "AWG/kcmil", [base], clause="egc_tap")
