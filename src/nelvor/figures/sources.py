"""Quick figures of sources: output circuits, generators' conductors, what a standby supply carries, what a bus takes."""

from __future__ import annotations

from fractions import Fraction
from typing import Literal

from nelvor.clauses import bonding_jumper, grounding_conductor, hot_conductors, supply_side_joint
from nelvor.clauses.ampacity import size_index
from nelvor.clauses.bus_sources import BusCase, BusRule, Control, bus_rules
from nelvor.clauses.device_rating import smallest_device
from nelvor.clauses.hot_conductors import Demand
from nelvor.clauses.load_kind import SQUARE_ROOT_OF_3
from nelvor.figures.answer import Outcome, Remark, Worked
from nelvor.figures.inputs import (
    ConductorInputs,
    Inputs,
    amperes,
    choice,
    given,
    given_or_none,
    impossible,
    quantity,
    rating,
    volts,
)
from nelvor.figures.quick_figure import QuickFigure
from nelvor.working import Figure, Recorder, exact

GROUP = "Sources"
ENDS: dict[bool | None, Outcome] = {True: "holds", False: "note", None: "cannot_tell"}
TOLD: dict[bool | None, Outcome] = {True: "holds", False: "must_fix", None: "cannot_tell"}


class PlateInputs(ConductorInputs):
    """The plate of a source: its amperes, or its kVA with the volts."""

    output_a: float | None = amperes("Rated output", None)
    rated_kva: float | None = quantity("or its rating", "kVA", None, gt=0, le=10_000)
    volts: float = volts("Volts between lines", 240.0)
    three_phase: bool = choice("Three-phase", False)
    device_a: float | None = rating("Device, empty to choose it", None)

    def output(self, recorder: Recorder) -> Figure:
        """Return the rated output in A.

        Raises:
            BadInput: neither is entered.
        """
        if self.output_a is not None:
            return given(recorder, "Rated output", self.output_a, "A")
        if self.rated_kva is None:
            raise impossible("output_a", "neither amperes nor kVA are entered.", "Enter one of them from the plate.")
        power = given(recorder, "Rating", exact(self.rated_kva) * 1000, "VA")
        root = SQUARE_ROOT_OF_3 if self.three_phase else Fraction(1)
        return recorder.divide("Rated output", power, given(recorder, "Volts", exact(self.volts) * root, "V"), "A")


class SourceCircuitInputs(PlateInputs):
    pass


def _source_circuit(inputs: SourceCircuitInputs, recorder: Recorder) -> Worked:
    output = inputs.output(recorder)
    factor = recorder.parameter("source_output_factor", "Output of sources at")
    design = recorder.multiply("Output at 125 %", output, factor, unit="A", clause="source_125pct_sizing")
    device = _device(inputs, recorder, design)
    hots = hot_conductors.smallest_hots(
        recorder,
        inputs.circumstances(recorder),
        Demand(output, design, device, continuous_clause="source_125pct_sizing"),
    )
    ground = grounding_conductor.grounding_conductor(
        recorder, device, inputs.material, hots.size, hots.size, inputs.sets
    )
    carries = recorder.at_least("Device carries the output", device, design, clause="source_125pct_sizing")
    text = f"A device of {device.text} A for {design.text} A."
    remark = Remark("holds" if carries else "must_fix", text, "source_125pct_sizing")
    return Worked(hots.figure, {"output": output, "device": device, "grounding conductor": ground}, (remark,))


def _device(inputs: PlateInputs, recorder: Recorder, design: Figure) -> Figure:
    if inputs.device_a is None:
        return smallest_device(recorder, design)
    return given(recorder, "Device", inputs.device_a, "A")


class GeneratorConductorInputs(PlateInputs):
    pass


def _generator_conductors(inputs: GeneratorConductorInputs, recorder: Recorder) -> Worked:
    output = inputs.output(recorder)
    clause = "generator_conductor_115pct"
    factor = recorder.parameter("generator_conductor_factor", "Nameplate current at")
    design = recorder.multiply("Nameplate current at 115 %", output, factor, unit="A", clause=clause)
    device = _device(inputs, recorder, design)
    hots = hot_conductors.smallest_hots(
        recorder, inputs.circumstances(recorder), Demand(design, design, device, continuous_clause=clause)
    )
    jumper = bonding_jumper.supply_side_jumper(recorder, hots.size, inputs.sets, inputs.material, inputs.material)
    note = Remark("note", "Up to the first device; behind it the conductors go by that device.", clause)
    return Worked(hots.figure, {"output": output, "first device": device, "supply-side jumper": jumper}, (note,))


class TransferLoadInputs(Inputs):
    output_a: float = amperes("Output of the standby supply")
    device_a: float | None = rating("Its device", None)
    load_a: float = amperes("Calculated load that is transferred")
    transfer: Literal["automatic", "by_hand"] = choice("Transfer", "automatic")
    sheds_load: bool | None = choice("Equipment sheds what is too much", None)


def _transfer_load(inputs: TransferLoadInputs, recorder: Recorder) -> Worked:
    clause = "optional_standby_capacity"
    supply = given(recorder, "Output", inputs.output_a, "A")
    device = given_or_none(recorder, "Its device", inputs.device_a, "A")
    if device is not None:
        supply = recorder.least("Output, as far as its device lets it through", supply, device)
    load = given(recorder, "Load", inputs.load_a, "A")
    enough = recorder.at_least("The supply carries the load", supply, load, clause=clause)
    compared = recorder.last_comparison()
    numbers = f"{supply.text} A for {load.text} A"
    if enough:
        remark = Remark("holds", f"It carries all of it: {numbers}.", clause)
    elif inputs.transfer == "by_hand":
        remark = Remark("holds", f"By hand its user chooses what it carries: {numbers}.", clause)
    elif inputs.sheds_load:
        remark = Remark("holds", f"Equipment sheds what it does not carry: {numbers}.", clause)
    elif inputs.sheds_load is None:
        remark = Remark("cannot_tell", f"{numbers}: whether equipment sheds the rest by itself is not entered.", clause)
    else:
        remark = Remark("must_fix", f"{numbers}: larger, fewer circuits, or equipment that sheds load.", clause)
    main = recorder.choose("Standby supply", supply.text, "A", [supply, compared], clause=clause)
    return Worked(main, {"load": load}, (remark,))


class BusInputs(Inputs):
    bus_a: float = rating("Bus")
    primary_a: float = rating("Device that protects it")
    output_a: float = amperes("Output of all sources on it")
    opposite: bool | None = choice("Sources at the end away from the main", None)
    center_fed: bool | None = choice("Fed in its middle", False)
    one_end: bool | None = choice("Sources at one end, fed in the middle", None)
    dwelling: bool | None = choice("In a dwelling", None)
    breakers_a: float | None = amperes("All breakers but that one, added up", None)
    control_setting_a: float | None = amperes("Setting of a power control", None)
    control_listed: bool | None = choice("Power control listed for it, its settings locked", None)
    control_watches_supply: bool | None = choice("Power control measures the supply too", None)
    largest_source_device_a: float | None = rating("Largest device of a source under it", None)

    def control(self, recorder: Recorder) -> Control | None:
        """Return the power control, None where no setting is entered."""
        if self.control_setting_a is None:
            return None
        setting = given(recorder, "Setting of the power control", self.control_setting_a, "A")
        device = given_or_none(recorder, "Largest device of a source", self.largest_source_device_a, "A")
        return Control(setting, self.control_listed, self.control_watches_supply, [device])


def _bus(inputs: BusInputs, recorder: Recorder) -> Worked:
    breakers = given_or_none(recorder, "Breakers", inputs.breakers_a, "A")
    case = BusCase(
        bus=given(recorder, "Bus", inputs.bus_a, "A"),
        primary=given(recorder, "Device ahead", inputs.primary_a, "A"),
        outputs=[given(recorder, "Output of all sources", inputs.output_a, "A")],
        devices=[breakers],
        opposite=inputs.opposite,
        center_fed=inputs.center_fed,
        one_end=inputs.one_end,
        dwelling=inputs.dwelling,
        all_drawn=True,
        control=inputs.control(recorder),
    )
    rules = bus_rules(recorder, case)
    remarks = [Remark(ENDS[rule.passes], f"{rule.title}: {rule.why}.", rule.key) for rule in rules]
    verdict = next((end for end in (True, None) if any(rule.passes is end for rule in rules)), False)
    text = {True: "The bus may take it.", None: "It hangs on what is not entered.", False: "No rule allows it."}[
        verdict
    ]
    main = _largest(rules) or recorder.choose("Largest output", "none", "", [case.bus], clause="bus_100_sum")
    return Worked(main, {}, (Remark(TOLD[verdict], text, "load_side_interconnect"), *remarks))


def _largest(rules: list[BusRule]) -> Figure | None:
    """The largest output of all sources that a rule would take, of those rules that do not fail by their place."""
    found = [rule.largest for rule in rules if rule.largest is not None and rule.passes is not False]
    by_size = sorted(
        found or [rule.largest for rule in rules if rule.largest is not None], key=lambda item: item.number
    )
    return by_size[-1] if by_size else None


class SupplySideInputs(PlateInputs):
    """A source joined ahead of the service disconnect. ``service_a`` is the rating of the service."""

    service_a: float | None = rating("Rating of the service", None)
    service_conductors_a: float | None = amperes("Ampacity of the service conductors that carry it", None)
    joined: Literal["outdoors", "in_dwelling", "in_other"] = choice("Where it is joined", "outdoors")
    device_outdoors: bool | None = choice("Its disconnect stands outdoors", True)
    length_ft: float | None = quantity("Length from the joint to its disconnect", "ft", None, ge=0, le=10_000)
    disconnect_a: float | None = rating("Rating of its switch", None)


def _supply_side(inputs: SupplySideInputs, recorder: Recorder) -> Worked:
    output = inputs.output(recorder)
    factor = recorder.parameter("source_output_factor", "Output of sources at")
    design = recorder.multiply("Output at 125 %", output, factor, unit="A", clause="source_125pct_sizing")
    device = _device(inputs, recorder, design)
    demand = Demand(output, design, device, continuous_clause="source_125pct_sizing")
    free = hot_conductors.smallest_hots(recorder, inputs.circumstances(recorder), demand)
    size = max(free.size, supply_side_joint.least_size(recorder, inputs.material).text, key=size_index)
    clause = "supply_side_conductor_size"
    hots = recorder.choose("Conductors to its disconnect", size, "AWG/kcmil", [free.figure], clause=clause)
    neutral = bonding_jumper.supply_side_jumper(recorder, size, inputs.sets, inputs.material, inputs.material)
    service = given_or_none(recorder, "Service", inputs.service_a, "A")
    conductors = given_or_none(recorder, "Service conductors", inputs.service_conductors_a, "A")
    length = given_or_none(recorder, "Length to its disconnect", inputs.length_ft, "ft")
    fits = supply_side_joint.within_the_service(recorder, output, device, service, conductors)
    near = supply_side_joint.distance_to_device(recorder, inputs.joined, inputs.device_outdoors, length)
    remarks = [
        Remark(TOLD[fits.passes], fits.why, "supply_side_sum"),
        Remark(TOLD[near.passes], near.why, "supply_side_distance"),
        _switch(inputs, recorder),
        Remark("note", "The utility has to agree; the neutral comes along and is bonded there.", "supply_side_bond"),
    ]
    return Worked(hots, {"output": output, "device": device, "least neutral": neutral}, tuple(remarks))


def _switch(inputs: SupplySideInputs, recorder: Recorder) -> Remark:
    clause = "supply_side_disconnect_floor"
    least = recorder.parameter("service_other_disconnect_a", "Least disconnect")
    have = given_or_none(recorder, "Switch", inputs.disconnect_a, "A")
    if have is None:
        return Remark("note", f"Its switch is rated {least.text} A at least, whatever fuses it holds.", clause)
    enough = recorder.at_least("Switch reaches its floor", have, least, clause=clause)
    told = recorder.rules.parameter("supply_side_floor_told").value == "1"
    outcome: Outcome = "holds" if enough else "must_fix" if told else "advice"
    return Remark(outcome, f"Switch of {have.text} A, {least.text} A asked.", clause)


EXAMPLE_PLATE = {"edition": "2023", "output_a": 32}

FIGURES = [
    QuickFigure(
        "bus",
        "What a bus takes",
        "May sources feed into this bus besides its supply, and how large may they be together?",
        GROUP,
        BusInputs,
        _bus,
        {"edition": "2023", "bus_a": 200, "primary_a": 200, "output_a": 32, "opposite": True},
    ),
    QuickFigure(
        "source-circuit",
        "Output circuit of a source",
        "Which conductors and which device does the output of an inverter ask for?",
        GROUP,
        SourceCircuitInputs,
        _source_circuit,
        EXAMPLE_PLATE,
    ),
    QuickFigure(
        "generator-conductors",
        "Conductors of a generator",
        "Which conductors run from a generator without a device to its first one, and which jumper?",
        GROUP,
        GeneratorConductorInputs,
        _generator_conductors,
        {"edition": "2023", "rated_kva": 24},
    ),
    QuickFigure(
        "transfer-load",
        "Load on a standby supply",
        "May this load be transferred to this supply?",
        GROUP,
        TransferLoadInputs,
        _transfer_load,
        {"edition": "2023", "output_a": 100, "load_a": 150, "sheds_load": True},
    ),
    QuickFigure(
        "supply-side",
        "Source ahead of the service disconnect",
        "Which conductors and which disconnect does a source ask for that is joined ahead of the service disconnect?",
        GROUP,
        SupplySideInputs,
        _supply_side,
        {"edition": "2023", "output_a": 32, "service_a": 200, "length_ft": 6, "disconnect_a": 60},
    ),
]
