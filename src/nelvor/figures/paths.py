"""Quick figures of the way a run takes: drop, raceways, cover, boxes, bending space."""

from __future__ import annotations

from fractions import Fraction
from typing import Literal

from pydantic import Field

from nelvor.clauses import bending_space, cover, pull_box, raceway_fill, voltage_drop
from nelvor.clauses.ampacity import size_index
from nelvor.clauses.box_fill import BoxContents, box_volume
from nelvor.clauses.load_kind import SQUARE_ROOT_OF_3
from nelvor.errors import CannotCompute
from nelvor.figures.answer import Remark, Worked
from nelvor.figures.inputs import Inputs, Part, amperes, choice, feet, given, impossible, quantity
from nelvor.figures.quick_figure import QuickFigure
from nelvor.model.vocabulary import SIZES, BurialLocation, Material, Method, Size, TradeSize, Wall
from nelvor.working import Figure, Recorder, exact, shown

GROUP = "The run"
Circuit = Literal[
    "120 V",
    "208 V one-phase",
    "240 V one-phase",
    "277 V",
    "480 V one-phase",
    "208 V three-phase",
    "240 V three-phase",
    "480 V three-phase",
]
# Volts that the drop of one conductor is a share of: half the volts of a two-wire circuit between
# lines, the whole to neutral where the neutral carries the same current, the volts to neutral of three phases.
BASE_VOLTS: dict[str, Fraction] = {
    "120 V": Fraction(120),
    "208 V one-phase": Fraction(104),
    "240 V one-phase": Fraction(120),
    "277 V": Fraction(277),
    "480 V one-phase": Fraction(240),
    "208 V three-phase": 208 / SQUARE_ROOT_OF_3,
    "240 V three-phase": 240 / SQUARE_ROOT_OF_3,
    "480 V three-phase": 480 / SQUARE_ROOT_OF_3,
}
BARE = "bare"
TO_NEUTRAL = frozenset({"120 V", "277 V"})


class VoltageDropInputs(Inputs):
    circuit: Circuit = choice("Circuit", "240 V one-phase")
    load_a: float = amperes("Load")
    length_ft: float = feet("Length one way")
    size: Size = choice("Conductor, AWG or kcmil")
    material: Material = choice("Metal", "copper")
    method: Literal["pvc40", "pvc80", "emt", "rmc", "imc", "earth", "cable"] = choice("Wiring method", "pvc40")
    sets: int = quantity("Parallel sets", "", 1, ge=1, le=12)
    by: Literal["impedance", "direct_current"] = choice("Worked out by", "impedance")
    power_factor: float = quantity("Power factor", "", 0.85, gt=0, le=1)
    ahead_percent: float = quantity("Drop ahead", "%", 0.0, ge=0, le=100)
    limit_percent: float = quantity("Limit", "%", 3.0, gt=0, le=100)


def _drop_case(inputs: VoltageDropInputs, recorder: Recorder) -> voltage_drop.DropCase:
    load = exact(inputs.load_a)
    return voltage_drop.DropCase(
        method=inputs.method,
        material=inputs.material,
        sets=inputs.sets,
        length_ft=exact(inputs.length_ft),
        load=given(recorder, "Load", inputs.load_a, "A"),
        imbalance_a=load if inputs.circuit in TO_NEUTRAL else Fraction(0),
        hot_size=inputs.size,
        neutral_size=inputs.size,
        base_volts=BASE_VOLTS[inputs.circuit],
        power_factor=exact(inputs.power_factor),
        by_resistance=inputs.by == "direct_current",
    )


def _voltage_drop(inputs: VoltageDropInputs, recorder: Recorder) -> Worked:
    case = _drop_case(inputs, recorder)
    here = voltage_drop.run_drop_percent(recorder, case)
    ahead = given(recorder, "Drop ahead", inputs.ahead_percent, "%")
    total = recorder.add("Drop from the service point", ahead, here, clause="feeder_vd_note")
    limit = given(recorder, "Limit", inputs.limit_percent, "%")
    within = recorder.at_least("Within the limit", limit, total, clause="feeder_vd_note")
    text = f"{shown(total.number, 3)} % of a limit of {limit.text} %, which is advice and no rule."
    remarks = [Remark("holds" if within else "advice", text, "feeder_vd_note")]
    others = {"of this run": here} | _lengths_and_sizes(inputs, case, here, ahead, limit, recorder)
    if "smallest size within the limit" not in others and not within:
        remarks.append(Remark("cannot_tell", "No single size of the table keeps within the limit; use parallel sets."))
    return Worked(total, others, tuple(remarks))


def _lengths_and_sizes(
    inputs: VoltageDropInputs,
    case: voltage_drop.DropCase,
    here: Figure,
    ahead: Figure,
    limit: Figure,
    recorder: Recorder,
) -> dict[str, Figure]:
    """What length this size could carry, and what size this length asks for."""
    found: dict[str, Figure] = {}
    if limit.number <= ahead.number:
        return found
    room = recorder.subtract("Left for this run", limit, ahead)
    if here.number > 0:
        length = given(recorder, "Length", inputs.length_ft, "ft")
        times = recorder.divide("Times the present drop", room, here, "")
        found["longest within the limit"] = recorder.multiply("Longest within the limit", length, times, unit="ft")
    for size in SIZES:
        mark = recorder.mark()
        try:
            percent = voltage_drop.run_drop_percent(recorder, case._replace(hot_size=size, neutral_size=size))
        except CannotCompute:
            recorder.forget(mark)
            continue
        if percent.number <= room.number:
            found["smallest size within the limit"] = recorder.choose(
                "Smallest size within the limit", size, "AWG/kcmil", [percent, room]
            )
            break
        recorder.forget(mark)
    larger = _next_size(inputs, case, recorder)
    return found | ({"one size up": larger} if larger else {})


def _next_size(inputs: VoltageDropInputs, case: voltage_drop.DropCase, recorder: Recorder) -> Figure | None:
    for size in SIZES[size_index(inputs.size) + 1 :]:
        try:
            return voltage_drop.run_drop_percent(recorder, case._replace(hot_size=size, neutral_size=size))
        except CannotCompute:
            continue
    return None


class ConductorsInRaceway(Part):
    insulation: Literal["THHN", "THWN", "THWN-2", "XHHW", "XHHW-2", "RHW-2", "bare"] = choice("Insulation", "THWN-2")
    size: Size = choice("Size", "4")
    count: int = quantity("Conductors", "", 3, ge=1, le=200)


class CableInRaceway(Part):
    diameter_in: float = quantity("Diameter, from its marking", "in", 0.5, gt=0, le=6)


class RacewayFillInputs(Inputs):
    method: Literal["pvc40", "pvc80", "emt", "rmc", "imc", "fmc", "lfmc", "lfnc_b", "ent"] = choice("Raceway", "pvc40")
    conductors: list[ConductorsInRaceway] = Field(default_factory=list, title="Conductors", max_length=40)
    cables: list[CableInRaceway] = Field(default_factory=list, title="Cables", max_length=20)
    length_in: float = quantity("Length, for nipples", "in", 1200.0, gt=0, le=120_000)
    trade_size: TradeSize | None = choice("Trade size, empty to choose it", None)


def _raceway_fill(inputs: RacewayFillInputs, recorder: Recorder) -> Worked:
    count = sum(item.count for item in inputs.conductors) + len(inputs.cables)
    if count == 0:
        raise impossible("conductors", "nothing is in the raceway.", "Enter conductors or cables.")
    areas = [
        raceway_fill.conductors_area(
            recorder,
            kind,
            tuple(item.size for item in inputs.conductors if item.insulation == kind for _ in range(item.count)),
        )
        for kind in dict.fromkeys(item.insulation for item in inputs.conductors if item.insulation != BARE)
    ]
    areas += [
        raceway_fill.bare_area(recorder, item.size, item.count) for item in inputs.conductors if item.insulation == BARE
    ]
    if inputs.cables:
        areas.append(raceway_fill.cables_area(recorder, [exact(item.diameter_in) for item in inputs.cables]))
    area = areas[0] if len(areas) == 1 else recorder.add("Area of everything", *areas, clause="fill_ch9")
    allowed = raceway_fill.allowed_fill(recorder, count, given(recorder, "Length", inputs.length_in, "in"))
    alike = _alike(inputs, recorder)
    if inputs.trade_size is None:
        fill = raceway_fill.smallest_raceway(recorder, inputs.method, area, allowed, alike)
    else:
        fill = raceway_fill.fill_of(recorder, inputs.method, inputs.trade_size, area, allowed, alike)
    clause = "fill_rounding" if fill.rounded_up else "fill_ch9"
    remarks = [Remark("holds" if fill.fits else "must_fix", f"{fill.words}.", clause)]
    remarks += _jamming(inputs, fill.trade_size, recorder)
    return Worked(fill.figure, {"area inside": area, "allowed": allowed}, tuple(remarks))


def _alike(inputs: RacewayFillInputs, recorder: Recorder) -> raceway_fill.Alike | None:
    if inputs.cables or len({item.insulation for item in inputs.conductors}) != 1:
        return None
    insulation = inputs.conductors[0].insulation
    if insulation == BARE:
        return None
    sizes = tuple(item.size for item in inputs.conductors for _ in range(item.count))
    return raceway_fill.alike_area(recorder, insulation, sizes)


def _jamming(inputs: RacewayFillInputs, trade_size: str, recorder: Recorder) -> list[Remark]:
    if inputs.cables or len(inputs.conductors) != 1 or inputs.conductors[0].count != 3:  # noqa: PLR2004 three may jam
        return []
    only = inputs.conductors[0]
    if only.insulation == BARE:
        return []
    ratio, may = raceway_fill.jam_ratio(recorder, inputs.method, trade_size, only.insulation, only.size)
    if not may:
        return []
    text = f"Three conductors at {shown(ratio.number, 3)} times their diameter may jam in a bend."
    return [Remark("advice", text, "fill_ch9")]


class CoverInputs(Inputs):
    method: Method = choice("Wiring method", "pvc40")
    above: BurialLocation = choice("What lies above", "general")
    residential_branch: bool = choice("120 V branch circuit of a dwelling, 20 A, ground-fault protected", False)


def _cover(inputs: CoverInputs, recorder: Recorder) -> Worked:
    if inputs.method == "earth" and inputs.above == "under_building":
        section = recorder.rules.section("under_building_raceway")
        reason = f"cable under a building lies in a raceway that reaches beyond the walls ({section})."
        raise impossible("method", reason, "Choose a raceway.")
    found = cover.cover_needed(recorder, inputs.method, inputs.above, inputs.residential_branch)
    remarks = [Remark("advice", "A warning ribbon above a feeder is good practice.", "burial_warning_ribbon_service")]
    if inputs.above == "under_building":
        remarks.append(Remark("holds", "Under a building the conductors lie in a raceway.", "under_building_raceway"))
    return Worked(found, remarks=tuple(remarks))


class ConduitBodyInputs(Inputs):
    shape: Literal["straight", "angle", "tee"] = choice("Shape", "angle")
    method: Literal["pvc40", "pvc80", "emt", "rmc", "imc"] = choice("Raceway", "emt")
    trade_size: TradeSize = choice("Trade size")
    size: Size = choice("Largest conductor")
    count: int = quantity("Conductors", "", 3, ge=1, le=100)
    marked_size: Size | None = choice("Marked on the body: largest size", None)
    marked_count: int | None = quantity("Marked on the body: number", "", None, ge=1, le=100)
    length_in: float | None = quantity("Length of the body", "in", None, gt=0, le=120)


def _conduit_body(inputs: ConduitBodyInputs, recorder: Recorder) -> Worked:
    if (inputs.marked_size is None) != (inputs.marked_count is None):
        raise impossible("marked_count", "the marking names a size and a number.", "Enter both or neither.")
    marked = None
    if inputs.marked_size is not None and inputs.marked_count is not None:
        marked = (inputs.marked_size, inputs.marked_count)
    found = pull_box.conduit_body(
        recorder, inputs.shape, inputs.method, inputs.trade_size, inputs.size, inputs.count, marked
    )
    main = found.length or found.area
    assert main is not None  # one of the two is always worked out
    remarks = [Remark("holds", found.text, "conduit_body_marking" if found.marking_serves else found.clause)]
    if found.length is not None and not found.marking_serves and inputs.length_in is not None:
        own = given(recorder, "Length of the body", inputs.length_in, "in")
        long_enough = recorder.at_least("Long enough", own, found.length, clause="pull_box_sizing")
        text = f"{own.text} in, {found.length.text} in needed."
        remarks = [Remark("holds" if long_enough else "must_fix", text, "pull_box_sizing")]
    return Worked(main, remarks=tuple(remarks))


class PullInputs(Part):
    enters: Wall = choice("Enters by", "left")
    leaves: Wall = choice("Leaves by", "right")
    enters_size: TradeSize = choice("Raceway in", "2")
    leaves_size: TradeSize = choice("Raceway out", "2")
    row: int = quantity("Row", "", 1, ge=1, le=10)


class PullBoxInputs(Inputs):
    largest_conductor: Size = choice("Largest conductor")
    pulls: list[PullInputs] = Field(title="Pulls", min_length=1, max_length=40)


def _pull_box(inputs: PullBoxInputs, recorder: Recorder) -> Worked:
    pulls = [
        pull_box.Pull(item.enters, item.leaves, item.enters_size, item.leaves_size, item.row) for item in inputs.pulls
    ]
    box = pull_box.pull_box(recorder, inputs.largest_conductor, pulls)
    sides = {"width": box.width, "height": box.height}
    others = {label: figure for label, figure in sides.items() if figure is not None}
    if box.spacings:
        others["entries of the same conductors apart"] = max(box.spacings, key=lambda figure: figure.number)
    main = max((figure for figure in sides.values() if figure is not None), key=lambda figure: figure.number)
    words = " by ".join(f"{figure.text} in {label}" for label, figure in sides.items() if figure is not None)
    return Worked(main, others, (Remark("holds", f"At least {words}.", "pull_box_sizing"),))


class WiresInBox(Part):
    size: Literal["18", "16", "14", "12", "10", "8", "6"] = choice("Size", "12")
    count: int = quantity("Conductors", "", 1, ge=1, le=100)


class BoxFillInputs(Inputs):
    through: list[WiresInBox] = Field(
        default_factory=list, title="Insulated conductors that pass through or end", max_length=20
    )
    grounds: list[WiresInBox] = Field(default_factory=list, title="Grounding conductors", max_length=20)
    devices: list[WiresInBox] = Field(
        default_factory=list, title="Yokes with devices, by their largest conductor", max_length=20
    )
    internal_clamps: bool = choice("Cable clamps inside", False)
    fittings: int = quantity("Fixture studs and hickeys", "", 0, ge=0, le=10)
    volume_in3: float | None = quantity("Volume marked on the box", "in³", None, gt=0, le=10_000)


def _counted(items: list[WiresInBox]) -> list[str]:
    return [item.size for item in items for _ in range(item.count)]


def _box_fill(inputs: BoxFillInputs, recorder: Recorder) -> Worked:
    if not inputs.through and not inputs.grounds and not inputs.devices:
        raise impossible("through", "nothing is in the box.", "Enter its conductors.")
    contents = BoxContents(
        _counted(inputs.through),
        _counted(inputs.grounds),
        _counted(inputs.devices),
        inputs.internal_clamps,
        inputs.fittings,
    )
    need = box_volume(recorder, contents)
    if inputs.volume_in3 is None:
        return Worked(need)
    marked = given(recorder, "Volume marked on the box", inputs.volume_in3, "in³")
    enough = recorder.at_least("Large enough", marked, need, clause="box_fill")
    text = f"{marked.text} in³, {need.text} in³ needed."
    return Worked(need, remarks=(Remark("holds" if enough else "must_fix", text, "box_fill"),))


class BendingSpaceInputs(Inputs):
    size: Size = choice("Conductor")
    wires_per_terminal: int = quantity("Wires per terminal", "", 1, ge=1, le=10)
    leaves_opposite: bool = choice("Leaves by the wall opposite its terminal", True)
    space_in: float | None = quantity("Space as measured", "in", None, gt=0, le=60)


def _bending_space(inputs: BendingSpaceInputs, recorder: Recorder) -> Worked:
    need = bending_space.bending_space(recorder, inputs.size, inputs.wires_per_terminal, inputs.leaves_opposite)
    if inputs.space_in is None:
        return Worked(need)
    measured = given(recorder, "Space as measured", inputs.space_in, "in")
    enough = recorder.at_least("Enough space", measured, need, clause="bending_space_lugs")
    text = f"{measured.text} in, {need.text} in needed."
    return Worked(need, remarks=(Remark("holds" if enough else "must_fix", text, "bending_space_lugs"),))


FIGURES = [
    QuickFigure(
        "voltage-drop",
        "Voltage drop",
        "How much is lost on the way, how far could this size go, and which size keeps the limit?",
        GROUP,
        VoltageDropInputs,
        _voltage_drop,
        {"edition": "2023", "load_a": 60, "length_ft": 180, "size": "1/0", "material": "aluminum"},
    ),
    QuickFigure(
        "raceway-fill",
        "Raceway fill",
        "Which trade size holds these conductors and cables?",
        GROUP,
        RacewayFillInputs,
        _raceway_fill,
        {
            "edition": "2023",
            "conductors": [
                {"insulation": "XHHW-2", "size": "1/0", "count": 3},
                {"insulation": "XHHW-2", "size": "4", "count": 1},
            ],
        },
    ),
    QuickFigure("cover", "Cover", "How deep must the run lie?", GROUP, CoverInputs, _cover, {"edition": "2023"}),
    QuickFigure(
        "conduit-body",
        "Conduit body",
        "May these conductors turn in this conduit body?",
        GROUP,
        ConduitBodyInputs,
        _conduit_body,
        {"edition": "2023", "trade_size": "2", "size": "4/0"},
    ),
    QuickFigure(
        "pull-box",
        "Pull box",
        "How large must a pull or junction box be?",
        GROUP,
        PullBoxInputs,
        _pull_box,
        {
            "edition": "2023",
            "largest_conductor": "4/0",
            "pulls": [{"enters": "left", "leaves": "right", "enters_size": "2", "leaves_size": "2"}],
        },
    ),
    QuickFigure(
        "box-fill",
        "Box fill",
        "How much volume must a box have for small conductors and devices?",
        GROUP,
        BoxFillInputs,
        _box_fill,
        {
            "edition": "2023",
            "through": [{"size": "12", "count": 6}],
            "grounds": [{"size": "12", "count": 3}],
            "devices": [{"size": "12", "count": 1}],
            "internal_clamps": True,
        },
    ),
    QuickFigure(
        "bending-space",
        "Bending space",
        "How far must the lugs stand from the wall?",
        GROUP,
        BendingSpaceInputs,
        _bending_space,
        {"edition": "2023", "size": "4/0"},
    ),
]
