"""Quick figures of devices and conductors."""

from __future__ import annotations

from fractions import Fraction
from typing import Literal

from pydantic import Field

from nelvor.clauses import ampacity, device_rating, hot_conductors, neutral, next_size_up, wiring_methods
from nelvor.clauses.ampacity import Stretch, Surroundings, final_ampacity, size_index
from nelvor.figures.answer import Remark, Worked
from nelvor.figures.inputs import (
    ConductorInputs,
    Inputs,
    Part,
    amperes,
    choice,
    feet,
    given,
    impossible,
    quantity,
    rating,
)
from nelvor.figures.quick_figure import QuickFigure
from nelvor.model.vocabulary import Material, Size
from nelvor.working import Figure, Recorder, exact


def design_load(recorder: Recorder, continuous_a: float, noncontinuous_a: float) -> tuple[Figure, Figure]:
    """Return the load as it is, and with its continuous part at 125 %."""
    steady = given(recorder, "Continuous load", continuous_a, "A")
    passing = given(recorder, "Load that is not continuous", noncontinuous_a, "A")
    actual = recorder.add("Load", passing, steady)
    factor = recorder.parameter("continuous_factor", "Continuous load at")
    raised = recorder.multiply("Continuous at 125 %", steady, factor, unit="A", clause="continuous_125_feeder_ocpd")
    return actual, recorder.add("Design load", passing, raised, clause="continuous_125_feeder_ocpd")


class StretchInputs(Part):
    length_ft: float = feet("Length", 10.0)
    location: Literal["dry", "wet"] = choice("Place", "dry")
    ambient_c: float = quantity("Ambient", "°C", 30.0, ge=-50, le=85)
    current_carrying: int = quantity("Carrying", "", 3, ge=1, le=100)


class AmpacityInputs(ConductorInputs):
    size: Size = choice("Size, AWG or kcmil")
    length_ft: float | None = feet("Whole length, where stretches differ", None)
    stretches: list[StretchInputs] = Field(default_factory=list, title="Stretches that differ", max_length=20)


def _with_stretches(inputs: AmpacityInputs, recorder: Recorder) -> ampacity.Circumstances:
    whole = inputs.circumstances(recorder)
    if not inputs.stretches:
        return whole
    if inputs.length_ft is None:
        raise impossible("length_ft", "a stretch differs and the whole length is empty.", "Enter the whole length.")
    stretches = tuple(
        Stretch(
            f"stretch {number}",
            exact(item.length_ft),
            Surroundings(
                wiring_methods.insulation_temperature(inputs.insulation, item.location == "wet", recorder.rules),
                exact(item.ambient_c),
                item.current_carrying,
                inputs.nipple,
            ),
        )
        for number, item in enumerate(inputs.stretches, 1)
    )
    rest = exact(inputs.length_ft) - sum((item.length_ft for item in stretches), Fraction(0))
    if rest < 0:
        raise impossible("length_ft", "the stretches are longer than the whole.", "Correct one of the lengths.")
    if rest == 0:
        first, *others = stretches
        return whole._replace(**first.surroundings._asdict(), stretches=tuple(others), rest_ft=first.length_ft)
    return whole._replace(stretches=stretches, rest_ft=rest)


def _ampacity(inputs: AmpacityInputs, recorder: Recorder) -> Worked:
    circumstances = _with_stretches(inputs, recorder)
    least = recorder.rules.parameter("parallel_least_size").value
    if circumstances.sets > 1 and size_index(inputs.size) < size_index(least):
        section = recorder.rules.section("parallel_1_0")
        reason = f"{inputs.size} may not run in parallel sets; {least} is the smallest that may ({section})."
        raise impossible("size", reason, "Enter one set, or a larger size.")
    at_terminals, ampacity = final_ampacity(recorder, inputs.size, circumstances)
    remarks = []
    allowed = next_size_up.largest_device(recorder, ampacity)
    limit = hot_conductors.small_conductor_limit(recorder, inputs.size, circumstances.material)
    if limit is not None and limit.number <= (allowed or ampacity).number:
        text = f"A device of {limit.text} A at most protects {inputs.size} {circumstances.material}, whatever its ampacity."
        remarks.append(Remark("holds", text, "small_conductor_ocpd"))
    elif allowed:
        remarks.append(Remark("holds", f"A device of {allowed.text} A may protect it.", "next_size_up_ocpd"))
    elif ampacity.number in recorder.rules.standard_ratings():
        text = f"{ampacity.text} A is itself a standard rating: a device of {ampacity.text} A at most."
        remarks.append(Remark("holds", text, "next_size_up_ocpd"))
    return Worked(ampacity, {"at the terminations": at_terminals}, tuple(remarks))


class ConductorChoiceInputs(ConductorInputs):
    continuous_a: float = amperes("Continuous load", 0.0)
    noncontinuous_a: float = amperes("Load that is not continuous", 0.0)
    device_a: float | None = rating("Device, empty to choose it", None)
    whole_dwelling: bool = choice("Carries the whole load of one dwelling unit", False)
    several_receptacles: bool = choice("Branch circuit with several receptacles for portable loads", False)


def _conductor(inputs: ConductorChoiceInputs, recorder: Recorder) -> Worked:
    actual, design = _load_of(inputs, recorder)
    chosen = _device_of(inputs.device_a, design, recorder)
    if inputs.whole_dwelling:
        _fits_dwelling_share(chosen, recorder)
        if inputs.several_receptacles:
            reason = "a branch circuit does not carry the whole load of a dwelling unit."
            raise impossible("several_receptacles", reason, "Clear one of the two ticks.")
    circumstances = inputs.circumstances(recorder, inputs.whole_dwelling)
    demand = hot_conductors.Demand(actual, design, chosen, inputs.several_receptacles)
    found = hot_conductors.smallest_hots(recorder, circumstances, demand)
    others = {"device": chosen, "ampacity": found.ampacity, "design load": design}
    return Worked(found.figure, others, tuple(_unusual_rating(chosen, recorder)))


def _load_of(inputs: ConductorChoiceInputs, recorder: Recorder) -> tuple[Figure, Figure]:
    if inputs.continuous_a + inputs.noncontinuous_a == 0:
        raise impossible("continuous_a", "there is no load.", "Enter a continuous load or one that is not.")
    return design_load(recorder, inputs.continuous_a, inputs.noncontinuous_a)


def _unusual_rating(chosen: Figure, recorder: Recorder) -> list[Remark]:
    if chosen.number in recorder.rules.standard_ratings(breakers_only=False):
        return []
    text = f"{chosen.text} A is not one of the standard ratings; others are permitted, if they can be had."
    return [Remark("advice", text, "standard_ocpd")]


def _device_of(device_a: float | None, design: Figure, recorder: Recorder) -> Figure:
    if device_a is None:
        return device_rating.smallest_device(recorder, design)
    entered = given(recorder, "Device", device_a, "A")
    if not recorder.at_least("The device carries the load", entered, design, clause="continuous_125_feeder_ocpd"):
        raise impossible(
            "device_a",
            f"a device of {entered.text} A is below the design load of {design.text} A.",
            "Enter a larger device, or leave it empty.",
        )
    return entered


def _fits_dwelling_share(chosen: Figure, recorder: Recorder) -> None:
    least = recorder.parameter("dwelling_share_least_a", "Lower end of the 83 % rule")
    most = recorder.parameter("dwelling_share_most_a", "Upper end of the 83 % rule")
    if not least.number <= chosen.number <= most.number:
        raise impossible(
            "whole_dwelling",
            f"the 83 % rule is for {least.text} to {most.text} A, the device is {chosen.text} A.",
            "Clear the tick, or enter a device in that range.",
        )


class DeviceInputs(Inputs):
    continuous_a: float = amperes("Continuous load", 0.0)
    noncontinuous_a: float = amperes("Load that is not continuous", 0.0)


def _device(inputs: DeviceInputs, recorder: Recorder) -> Worked:
    if inputs.continuous_a + inputs.noncontinuous_a == 0:
        raise impossible("continuous_a", "there is no load.", "Enter a continuous load or one that is not.")
    _, design = design_load(recorder, inputs.continuous_a, inputs.noncontinuous_a)
    return Worked(device_rating.smallest_device(recorder, design), {"design load": design})


class StandardSizeInputs(Inputs):
    value_a: float = rating("Amperes to look up")
    kind: Literal["breaker", "fuse"] = choice("Kind of device", "breaker")


def _standard_size(inputs: StandardSizeInputs, recorder: Recorder) -> Worked:
    value = given(recorder, "Amperes", inputs.value_a, "A")
    ratings = recorder.rules.standard_ratings(breakers_only=inputs.kind == "breaker")
    above = recorder.next_up("Standard rating at or above", value, ratings, "standard_ocpd")
    below = recorder.next_down("Standard rating at or below", value, ratings, "standard_ocpd")
    main = above or below
    if main is None:
        raise impossible("value_a", "no standard rating is near.", "Enter a value within the list of ratings.")
    others = {"at or below": below} if below else {}
    if value.number in ratings:
        remark = Remark("holds", f"{value.text} A is itself a standard rating.", "standard_ocpd")
    elif above is None:
        remark = Remark("cannot_tell", f"No standard rating is above {value.text} A.", "standard_ocpd")
    else:
        remark = Remark("holds", f"{value.text} A is not a standard rating.", "standard_ocpd")
    return Worked(main, others, (remark,))


class NeutralInputs(ConductorInputs):
    kind: Literal["feeder", "service"] = choice("Feeder or service", "feeder")
    neutral_load_a: float = amperes("Neutral load")
    hot_size: Size = choice("Hot conductors, AWG or kcmil")
    device_a: float = rating("Device ahead")
    material: Material = choice("Metal", "copper")


def _neutral(inputs: NeutralInputs, recorder: Recorder) -> Worked:
    found = neutral.neutral(
        recorder,
        inputs.circumstances(recorder),
        inputs.hot_size,
        given(recorder, "Neutral load", inputs.neutral_load_a, "A"),
        given(recorder, "Device ahead", inputs.device_a, "A"),
        floor_by=inputs.kind,
        as_calculated=True,
    )
    return Worked(found)


FIGURES = [
    QuickFigure(
        "standard-size",
        "Standard rating",
        "Which standard ratings lie at, above and below a current?",
        "Devices and conductors",
        StandardSizeInputs,
        _standard_size,
        {"edition": "2023", "value_a": 98},
    ),
    QuickFigure(
        "device",
        "Device",
        "Which is the smallest standard device for a load?",
        "Devices and conductors",
        DeviceInputs,
        _device,
        {"edition": "2023", "continuous_a": 40, "noncontinuous_a": 48},
    ),
    QuickFigure(
        "ampacity",
        "Ampacity",
        "What may this conductor carry here, and how large a device may protect it?",
        "Devices and conductors",
        AmpacityInputs,
        _ampacity,
        {"edition": "2023", "size": "2", "ambient_c": 40},
    ),
    QuickFigure(
        "conductor",
        "Conductor",
        "Which is the smallest lawful conductor for a load?",
        "Devices and conductors",
        ConductorChoiceInputs,
        _conductor,
        {"edition": "2023", "continuous_a": 40, "noncontinuous_a": 48, "material": "aluminum"},
    ),
    QuickFigure(
        "neutral",
        "Neutral",
        "How small may the neutral be?",
        "Devices and conductors",
        NeutralInputs,
        _neutral,
        {"edition": "2023", "neutral_load_a": 32, "hot_size": "1/0", "device_a": 125},
    ),
]
