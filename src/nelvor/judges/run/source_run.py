"""Of a run that brings the power of a source of the premises: what it carries, its device, its neutral, its rise.

Three kinds: the output circuit of a source that runs beside the utility (``output``), the conductors of one that stands
alone up to its first device (``alone``), and those behind that device, which stand in for the ordinary feed (``standby``).
"""

from __future__ import annotations

from fractions import Fraction

from nelvor.clauses import voltage_drop
from nelvor.clauses.ampacity import final_ampacity, size_index
from nelvor.clauses.bonding_jumper import supply_side_jumper
from nelvor.clauses.device_rating import smallest_device
from nelvor.clauses.grounding_conductor import by_device
from nelvor.errors import CannotCompute, MissingInput
from nelvor.judges.bus_large_enough import raising
from nelvor.judges.level_loads import LoadUnknown
from nelvor.judges.run.case import RunCase
from nelvor.judges.run.load_and_device import carried_by
from nelvor.judges.run.taken_to_charge import at_least_as_charged
from nelvor.judges.source_currents import output_of
from nelvor.judges.verdict import Mend, proposing
from nelvor.model.things import Device, Source
from nelvor.model.voltages import LEGS, LINE_TO_LINE_V, LINE_TO_NEUTRAL_V
from nelvor.topology.names import name_of
from nelvor.topology.pushed_in import first_device, sources_behind
from nelvor.working import Figure, exact

Raised = tuple[str, str, str]
OUTPUT: Raised = ("source_output_factor", "Output at 125 %", "source_125pct_sizing")
OF_GENERATOR: Raised = ("generator_conductor_factor", "Nameplate current at 115 %", "generator_conductor_115pct")
SMALLEST_FOR_SENSING = "one that does may be as small as the grounding conductor or the bonding jumper"


def solve_output(case: RunCase) -> None:
    """Take down what the sources behind the run give, and that raised as their article asks."""
    sources = _sources(case)
    if not sources:
        raise CannotCompute("No source is drawn behind this run.", "Draw what feeds it.")
    outputs = []
    for source in sources:
        output = output_of(source, case.system(), case.hot_count)
        if output is None:
            raise MissingInput(source.id, "rated_output_a", f"The rated output of {name_of(case.site, source.id)}")
        outputs.append(
            case.recorder.given(f"Output of {name_of(case.site, source.id)}", output, "A", "plate of the source")
        )
    total = outputs[0] if len(outputs) == 1 else case.recorder.add("Output of all sources here", *outputs)
    key, label, clause = raised_by(case)
    factor = case.recorder.parameter(key, label)
    case.figures["load"] = total
    case.figures["design"] = case.recorder.multiply(label, total, factor, unit="A", clause=clause)
    case.to_carry = case.figures["design"] if raised_by(case) is OF_GENERATOR else total
    at_least_as_charged(case, sources)


def raised_by(case: RunCase) -> Raised:
    """Return by what the output is raised: the nameplate of a generator by 115 %, any other by 125 %."""
    source = case.site.sources.get(case.run.from_part)
    return OF_GENERATOR if source is not None and source.kind == "generator" else OUTPUT


def solve_output_device(case: RunCase) -> None:
    """Check the first device on the way, or choose the smallest standard one for the raised output."""
    device = first_device(case.site, case.run)
    if device is None:
        raise CannotCompute("No breaker or fuses stand on the way of this output.", "Give it a device.")
    design, clause = case.need("design"), raised_by(case)[2]
    if device.rating_a is None:
        case.figures["device"] = smallest_device(case.recorder, design)
        return
    rating = case.recorder.given(f"Rating of {device.name or 'the device'}", device.rating_a, "A", "design")
    case.figures["device"] = rating
    if case.kind == "output" and device.role != "source" and device.id in (case.run.from_part, case.run.to_part):
        _carries(case, device, rating, design, clause)  # the breaker on a bus is judged with the bus


def _carries(case: RunCase, device: Device, rating: Figure, design: Figure, clause: str) -> None:
    if case.recorder.at_least("Device carries the output", rating, design, clause=clause):
        case.judge.holds("source_device", f"{rating.text} A for {design.text} A.", clause)
        return
    needed = smallest_device(case.recorder, design)
    name = device.name or f"Device of {name_of(case.site, device.enclosure_id)}"
    mend = raising(case.site, case.rules, device, needed.number, f"{name}: {rating.text} A to {needed.text} A")
    text = f"{rating.text} A is below the output raised to {design.text} A."
    case.judge.must_fix("source_device", text, clause, mend=mend)


def solve_standby_device(case: RunCase) -> None:
    """The device of a set comes with it: it is read on its plate, and not chosen."""
    device = case.protecting_device()
    if device.rating_a is None:
        raise MissingInput(device.id, "rating_a", f"The rating of {device.name or 'the device of the set'}")
    name = f"Rating of {device.name or 'the device'}"
    case.figures["device"] = case.recorder.given(name, device.rating_a, "A", "design")


def solve_standby_load(case: RunCase) -> None:
    """A set gives no more than its own device lets through, whatever it is connected to."""
    limit = case.need("device")
    level = case.levels.get(case.fed)
    if level is None or isinstance(level, LoadUnknown):
        case.figures["load"] = limit
    else:
        carried = carried_by(level, case.hot_legs)
        whole = case.recorder.carried(carried.label, carried.design, carried.worked_out_in)
        case.figures["load"] = case.recorder.least("Load, as far as the set's device lets it through", whole, limit)
    case.figures["design"] = case.to_carry = case.figures["load"]


def solve_source_neutral(case: RunCase) -> None:
    """The neutral of a source is as large as its lines; a smaller one is told to be looked at."""
    if not case.site.has_conductor(case.run, "neutral"):
        return
    hots = case.need("hots")
    size = case.run.neutral_size
    if size is None:
        case.figures["neutral"] = case.recorder.choose("Neutral, as large as the lines", hots.text, "AWG/kcmil", [hots])
        return
    case.figures["neutral"] = case.recorder.choose("Neutral, locked", size, "AWG/kcmil", [hots])
    if size_index(size) < size_index(hots.text):
        _smaller_neutral(case, size, hots.text)


def _smaller_neutral(case: RunCase, size: str, hots: str) -> None:
    """One that only measures may be small; that of a source on one line carries all of it; any other goes by its load."""
    sources = _sources(case)
    start = f"The neutral {size} is smaller than the lines {hots}"
    if any(item.output == "two_wire_120" for item in sources):
        _on_one_line(case, size)
    elif sources and all(item.neutral_senses_only for item in sources):
        _only_measuring(case, size)
    elif any(item.neutral_senses_only is None for item in sources):
        unknown = next(item for item in sources if item.neutral_senses_only is None)
        text = f"{start}. Whether it only measures is not entered: {SMALLEST_FOR_SENSING}, else it goes by its load."
        case.judge.about("sources", unknown.id).cannot_tell(
            "neutral_size", text, "source_neutral_sensing", "neutral_senses_only"
        )
    else:
        text = f"{start}, and carries power: it goes by its load, which is not told. Make it as large as the lines."
        case.judge.cannot_tell("neutral_size", text, "neutral_load", "neutral_size")


def _on_one_line(case: RunCase, size: str) -> None:
    """The neutral of a source between one line and neutral carries its whole output, from 2020 on raised as its lines do."""
    clause = "source_neutral_one_line"
    assert case.circumstances is not None  # the lines are solved
    _, carries = final_ampacity(case.recorder, size, case.circumstances)
    raised = case.rules.parameter("source_neutral_raised").value == "1"
    need = case.need("design" if raised else "load")
    if case.recorder.at_least("Neutral carries the output", carries, need, clause=clause):
        case.judge.holds("neutral_size", f"The neutral {size} carries {carries.text} A for {need.text} A.", clause)
    else:
        text = f"The neutral {size} carries {carries.text} A; a source on one line gives it {need.text} A."
        case.judge.must_fix("neutral_size", text, clause, "neutral_size")


def _only_measuring(case: RunCase, size: str) -> None:
    """In 2017 no smaller than the grounding conductor, from 2020 on than the bonding jumper by the lines (705.28(C)(2))."""
    clause, run, material = "source_neutral_sensing", case.run, str(case.run.material)
    if case.rules.parameter("source_neutral_by_jumper").value == "1":
        least = supply_side_jumper(case.recorder, case.need("hots").text, run.sets, material, material)
    else:
        least = by_device(case.recorder, case.need("device"), material)
    if size_index(size) >= size_index(least.text):
        case.judge.holds("neutral_size", f"A neutral {size} that only measures, {least.text} at least.", clause)
    else:
        text = f"The neutral {size} only measures; {least.text} is the least."
        mend = Mend(f"Neutral: {size} to {least.text}", proposing("runs", run, neutral_size=least.text))
        case.judge.must_fix("neutral_size", text, clause, "neutral_size", mend)


def _sources(case: RunCase) -> list[Source]:
    """The sources whose power a run brings."""
    led_to = case.site.sources.get(case.run.to_part) or case.site.sources.get(case.run.from_part)
    return [led_to] if led_to else list(sources_behind(case.site, case.site.upstream_of(case.run), set()))


def solve_rise(case: RunCase) -> None:
    """Towards a source that feeds in, the volts rise by what the run would lose; at its limit it switches itself off."""
    case.length_ft()
    system, settings = case.system(), case.site.document.settings
    line, neutral = Fraction(LINE_TO_LINE_V[system]), Fraction(LINE_TO_NEUTRAL_V[system])
    parts = [
        voltage_drop.run_drop_percent(
            case.recorder,
            voltage_drop.DropCase(
                method=str(lay.value("method")),
                material=str(case.run.material),
                sets=case.run.sets,
                length_ft=lay.length_ft or Fraction(0),
                load=case.need("load"),
                imbalance_a=Fraction(0),
                hot_size=case.need("hots").text,
                neutral_size=None,
                base_volts=neutral if case.hot_count == len(LEGS) else line / 2,
                power_factor=Fraction(1),
                by_resistance=settings.drop_method == "direct_current",
            ),
        )
        for lay in case.lays
    ]
    rise = parts[0] if len(parts) == 1 else case.recorder.add("Rise along all parts of this run", *parts)
    case.figures["drop"] = rise
    if case.kind != "output":
        return
    limit = case.recorder.given(
        "Limit set for feeders of this job", exact(settings.feeder_drop_limit_percent), "%", "job settings"
    )
    if case.recorder.at_least("Rise is within the limit", limit, rise, clause="feeder_vd_note"):
        case.judge.holds("rise", f"Rise {rise.text} % of {limit.text} %.", "feeder_vd_note")
        return
    text = (
        f"At full output the volts at the source rise by {rise.text} % over those where it feeds in; a source switches itself "
        f"off at its upper limit. The job's limit for feeders is {limit.text} %. It is advice, not a violation."
    )
    case.judge.advise("rise", text, "feeder_vd_note", "hot_size")
