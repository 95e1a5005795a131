"""Quick figures of taps, transformer secondaries, motors and panels."""

from __future__ import annotations

from fractions import Fraction
from typing import Any, Literal

from pydantic import Field

from nelvor.clauses import motors, taps, transformer_secondary
from nelvor.clauses.load_kind import SQUARE_ROOT_OF_3
from nelvor.clauses.tap_conditions import End, RuleAnswer, smallest_of
from nelvor.figures.answer import Outcome, Remark, Worked
from nelvor.figures.inputs import (
    ConductorInputs,
    Inputs,
    Part,
    amperes,
    choice,
    feet,
    given,
    given_or_none,
    impossible,
    quantity,
    rating,
    volts,
)
from nelvor.figures.quick_figure import QuickFigure
from nelvor.model.vocabulary import Size
from nelvor.working import Figure, Recorder, exact

GROUP = "Taps, motors, panels"


def _judged(answers: list[RuleAnswer], size: str | None, recorder: Recorder, none_fits: str) -> Worked:
    """The rule that allows the smallest conductor gives the figure; every rule is told with its reason."""
    outcomes: dict[bool | None, Outcome] = {True: "holds", False: "note", None: "cannot_tell"}
    remarks = tuple(
        Remark(outcomes[answer.fits], f"{answer.title}: {answer.why}.", answer.clause) for answer in answers
    )
    best = smallest_of(answers)
    if best is None:
        open_question = any(answer.fits is None for answer in answers)
        outcome: Outcome = "cannot_tell" if open_question else "must_fix"
        figure = recorder.choose("Conductors", "none fits", "", [], clause=answers[0].clause)
        return Worked(figure, {}, (Remark(outcome, none_fits), *remarks))
    assert best.needed is not None  # a rule with a smallest size has a need
    figure = recorder.choose("Conductors", str(best.smallest), "AWG/kcmil", [best.needed], clause=best.clause)
    if size is not None and not any(answer.fits for answer in answers):
        remarks = (Remark("must_fix", f"{size} is lawful by no rule.", best.clause), *remarks)
    return Worked(figure, {"least ampacity": best.needed}, remarks)


class SmallConductorInputs(ConductorInputs):
    load_a: float = amperes("Load")
    length_ft: float = feet("Length of the conductors")
    ends_in: End | None = choice("Ends in", "one_device")
    end_rating_a: float | None = rating("Device or equipment at the end", None)
    size: Size | None = choice("Conductors, empty to choose them", None)
    leaves_enclosure: bool | None = choice("Leaves the enclosure where it begins", True)
    protected_from_damage: bool | None = choice("Protected from damage", True)
    outdoors_only: bool | None = choice("Runs outdoors alone", False)
    end_is_disconnect: bool | None = choice("The device at the end is the disconnect or beside it", None)
    qualified_industry: bool | None = choice("Industrial, serviced by qualified persons alone", False)

    def common(self, recorder: Recorder) -> dict[str, Any]:
        """Return what taps and secondaries are judged by alike."""
        return {
            "load": given(recorder, "Load", self.load_a, "A"),
            "length_ft": given(recorder, "Length", self.length_ft, "ft"),
            "ends_in": self.ends_in,
            "end_rating": given_or_none(recorder, "Rating at the end", self.end_rating_a, "A"),
            "size": self.size,
            "circumstances": self.circumstances(recorder),
            "leaves_enclosure": self.leaves_enclosure,
            "protected_from_damage": self.protected_from_damage,
            "outdoors_only": self.outdoors_only,
            "end_is_disconnect": self.end_is_disconnect,
            "qualified_industry": self.qualified_industry,
        }


class TapInputs(SmallConductorInputs):
    device_ahead_a: float = rating("Device ahead of the feeder")
    from_tap: bool = choice("Made from conductors that are themselves a tap", False)
    bay_wall_ft: float | None = quantity("Height of the walls", "ft", None, gt=0, le=1000)
    level_length_ft: float | None = quantity("Level part of its length", "ft", None, ge=0, le=1000)
    primary_v: float | None = volts("Transformer primary", None)
    secondary_v: float | None = volts("Transformer secondary", None)
    secondary_length_ft: float | None = feet("Length of the secondary conductors", None)
    secondary_ampacity_a: float | None = rating("Ampacity of the secondary conductors", None)


def _tap(inputs: TapInputs, recorder: Recorder) -> Worked:
    common = inputs.common(recorder)
    case = taps.TapCase(
        device_ahead=given(recorder, "Device ahead of the feeder", inputs.device_ahead_a, "A"),
        **common,
        secondary_ends_in=common["ends_in"],
        secondary_device=common["end_rating"],
        from_tap=inputs.from_tap,
        bay_wall_ft=given_or_none(recorder, "Height of the walls", inputs.bay_wall_ft, "ft"),
        level_length_ft=given_or_none(recorder, "Level part", inputs.level_length_ft, "ft"),
        primary_v=given_or_none(recorder, "Primary volts", inputs.primary_v, "V"),
        secondary_v=given_or_none(recorder, "Secondary volts", inputs.secondary_v, "V"),
        secondary_length_ft=given_or_none(recorder, "Secondary length", inputs.secondary_length_ft, "ft"),
        secondary_ampacity=given_or_none(recorder, "Secondary ampacity", inputs.secondary_ampacity_a, "A"),
    )
    worked = _judged(taps.judge_tap(recorder, case), inputs.size, recorder, "No tap rule fits.")
    hots = inputs.size or worked.main.text
    if worked.main.unit and case.end_rating is not None:
        ground = taps.tap_grounding_conductor(recorder, case.device_ahead, inputs.material, hots)
        worked.others["grounding conductor"] = ground
    return worked


class SecondaryInputs(SmallConductorInputs):
    primary_device_a: float = rating("Device on the primary side")
    primary_v: float = volts("Primary, line to line")
    secondary_v: float = volts("Secondary, line to line")
    kva: float | None = quantity("Transformer", "kVA", None, gt=0, le=100_000)
    three_phase: bool = choice("Three-phase", False)
    two_wire_or_delta_delta: bool | None = choice("Two-wire, or delta-delta three-wire", False)
    tap_length_ft: float | None = feet("Length of the feeder tap that supplies it, empty where none does", None)


def _secondary(inputs: SecondaryInputs, recorder: Recorder) -> Worked:
    case = transformer_secondary.SecondaryCase(
        primary_v=given(recorder, "Primary volts", inputs.primary_v, "V"),
        secondary_v=given(recorder, "Secondary volts", inputs.secondary_v, "V"),
        primary_device=given(recorder, "Primary device", inputs.primary_device_a, "A"),
        **inputs.common(recorder),
        two_wire_or_delta_delta=inputs.two_wire_or_delta_delta,
        from_tap=inputs.tap_length_ft is not None,
        tap_length_ft=given_or_none(recorder, "Length of the tap", inputs.tap_length_ft, "ft"),
        transformer_rated_a=_secondary_current(inputs, recorder),
    )
    return _judged(
        transformer_secondary.judge_secondary(recorder, case),
        inputs.size,
        recorder,
        "No rule fits: set a device at the transformer.",
    )


def _secondary_current(inputs: SecondaryInputs, recorder: Recorder) -> Figure | None:
    if inputs.kva is None:
        return None
    va = recorder.given("Transformer", exact(inputs.kva) * 1000, "VA", "entered")
    root = SQUARE_ROOT_OF_3 if inputs.three_phase else Fraction(1)
    line = recorder.given("Secondary volts with the phases", exact(inputs.secondary_v) * root, "V", "entered")
    return recorder.divide("Secondary current of the transformer", va, line, "A")


class MotorInputs(Part):
    kind: motors.MotorKind = choice("Kind", "squirrel_cage")
    horsepower: str = Field("5", title="Horsepower", pattern=r"^([0-9]{1,3}|[0-9]{1,3}-[1-9]/[1-9]|[1-9]/[1-9])$")
    volts: Literal[115, 120, 200, 208, 230, 240, 460, 480] = choice("Volts", 240)
    three_phase: bool = choice("Three-phase", False)
    rated_a: float | None = rating("Compressor: rated-load or selection current", None)
    branch_device_a: float | None = rating("Branch device, empty for the largest lawful", None)


class MotorFeederInputs(Inputs):
    motors: list[MotorInputs] = Field(title="Motors", min_length=1, max_length=100)
    continuous_a: float = amperes("Other continuous load", 0.0)
    noncontinuous_a: float = amperes("Other load, not continuous", 0.0)
    branch_device: Literal["inverse_time", "dual_element_fuse", "nontime_fuse"] = choice(
        "Kind of branch device", "inverse_time"
    )


def _motor_feeder(inputs: MotorFeederInputs, recorder: Recorder) -> Worked:
    for place, item in enumerate(inputs.motors):
        if item.kind == "wound_rotor" and not item.three_phase:
            reason = "a wound-rotor motor is three-phase."
            raise impossible(f"motors.{place}.three_phase", reason, "Tick three-phase, or choose another kind.")
    found = motors.motor_feeder(
        recorder,
        [
            motors.Motor(
                sum((Fraction(part) for part in item.horsepower.split("-")), Fraction(0)),
                item.volts,
                item.three_phase,
                None if item.branch_device_a is None else exact(item.branch_device_a),
                item.kind,
                None if item.rated_a is None else exact(item.rated_a),
            )
            for item in inputs.motors
        ],
        given(recorder, "Other continuous load", inputs.continuous_a, "A"),
        given(recorder, "Other load, not continuous", inputs.noncontinuous_a, "A"),
        f"{inputs.branch_device}_pct",
    )
    text = f"A feeder device of {found.device.text} A at most."
    others = {"largest feeder device": found.device, "sum for the device": found.most_device_a}
    return Worked(found.conductor_a, others, (Remark("holds", text, "motor_feeder_ocpd"),))


class PanelRatingInputs(Inputs):
    load_a: float = amperes("Design load on the worst leg")
    main_a: float | None = rating("Its own main, empty for lugs", None)
    device_ahead_a: float | None = rating("Device ahead", None)
    through_transformer: bool = choice("The device ahead is on the other side of a transformer", False)
    two_wire_or_delta_delta: bool = choice("That transformer is two-wire, or delta-delta three-wire", False)
    bus_a: float | None = rating("Bus rating on its label", None)
    disconnect_of: Literal["none", "one_family_dwelling", "two_circuits", "other"] = choice(
        "Its main is the disconnect of a building", "none"
    )


FLOORS = {
    "one_family_dwelling": "one_family_disconnect_a",
    "two_circuits": "two_circuit_disconnect_a",
    "other": "other_disconnect_a",
}


def _panel_rating(inputs: PanelRatingInputs, recorder: Recorder) -> Worked:
    main = given_or_none(recorder, "Its own main", inputs.main_a, "A")
    counts = not inputs.through_transformer or inputs.two_wire_or_delta_delta
    ahead = given_or_none(recorder, "Device ahead", inputs.device_ahead_a if counts else None, "A")
    protections = [figure for figure in (main, ahead) if figure is not None]
    if not protections:
        reason = (
            "a device on the primary side of a transformer does not protect this panel"
            if inputs.through_transformer
            else "nothing protects the panel"
        )
        raise impossible("main_a", f"{reason}.", "Enter its main, or the device ahead on the same side.")
    protection = recorder.least("Protection of the panel", *protections, clause="panel_ocpd")
    load = given(recorder, "Design load", inputs.load_a, "A")
    least = recorder.greatest("Least rating of the bus", protection, load, clause="panel_ocpd")
    remarks = []
    if not recorder.at_least("The protection carries the load", protection, load, clause="continuous_125_feeder_ocpd"):
        text = f"The protection of {protection.text} A is below the load of {load.text} A."
        remarks.append(Remark("must_fix", text, "continuous_125_feeder_ocpd"))
    bus = given_or_none(recorder, "Bus rating", inputs.bus_a, "A")
    if bus is None:
        remarks.append(
            Remark("cannot_tell", "The bus rating is not entered: read the label, not the breaker.", "panel_ocpd")
        )
    else:
        enough = recorder.at_least("The bus suffices", bus, least, clause="panel_ocpd")
        text = f"Bus {bus.text} A, {least.text} A needed."
        remarks.append(Remark("holds" if enough else "must_fix", text, "panel_ocpd"))
    remarks += _floor(inputs, protection, recorder)
    return Worked(least, {"protection": protection}, tuple(remarks))


def _floor(inputs: PanelRatingInputs, protection: Figure, recorder: Recorder) -> list[Remark]:
    if inputs.disconnect_of == "none":
        return []
    floor = recorder.parameter(FLOORS[inputs.disconnect_of], "Least rating of the disconnect")
    main = given_or_none(recorder, "Rating of the disconnect", inputs.main_a, "A") or protection
    enough = recorder.at_least("The disconnect is large enough", main, floor, clause="building_disconnect_rating")
    text = f"Disconnect {main.text} A, {floor.text} A is the least."
    return [Remark("holds" if enough else "must_fix", text, "building_disconnect_rating")]


FIGURES = [
    QuickFigure(
        "tap",
        "Feeder tap",
        "May these tap conductors be smaller than the device ahead allows, and by which rule?",
        GROUP,
        TapInputs,
        _tap,
        {"edition": "2023", "device_ahead_a": 400, "load_a": 80, "length_ft": 20, "end_rating_a": 100},
    ),
    QuickFigure(
        "transformer-secondary",
        "Transformer secondary",
        "By which rule may the secondary conductors leave without a device at the transformer?",
        GROUP,
        SecondaryInputs,
        _secondary,
        {
            "edition": "2023",
            "primary_device_a": 125,
            "primary_v": 480,
            "secondary_v": 208,
            "load_a": 120,
            "length_ft": 20,
            "end_rating_a": 150,
            "three_phase": True,
        },
    ),
    QuickFigure(
        "motor-feeder",
        "Motor feeder",
        "Which ampacity and which largest device for a feeder with motors?",
        GROUP,
        MotorFeederInputs,
        _motor_feeder,
        {"edition": "2023", "motors": [{"horsepower": "5"}, {"horsepower": "3"}], "noncontinuous_a": 20},
    ),
    QuickFigure(
        "panel-rating",
        "Panel rating",
        "Which bus rating does the panel need, and is it protected?",
        GROUP,
        PanelRatingInputs,
        _panel_rating,
        {"edition": "2023", "load_a": 94, "main_a": 100, "device_ahead_a": 125, "bus_a": 125},
    ),
]
