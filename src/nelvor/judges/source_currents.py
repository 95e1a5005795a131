"""What a source pushes into a bus: its output at the volts there, and the currents along the bus that follow."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from nelvor.clauses.device_rating import smallest_device
from nelvor.clauses.load_kind import SQUARE_ROOT_OF_3
from nelvor.judges.panelboard.placed import on_bus
from nelvor.model.things import Bus, Device, Run, Source
from nelvor.model.voltages import LEGS, LINE_TO_LINE_V, legs_of
from nelvor.rulebook.rules import Rules
from nelvor.spaces.bus_profile import OnBus, bus_profile
from nelvor.spaces.bus_spaces import hung_row, rows_of
from nelvor.topology.pushed_in import lines_of_source
from nelvor.topology.site import Site
from nelvor.working import Figure, Recorder, exact


@dataclass(frozen=True)
class PushedIn:
    """The sources that come in at one place of a bus: through a device, or at lugs (None).

    ``onward`` is the run from feed-through lugs over which they come from the next section.
    """

    device: Device | None
    sources: tuple[Source, ...]
    onward: Run | None = None


def places_on(site: Site, bus: Bus) -> list[PushedIn]:
    """Return where sources come in on a bus besides its supply, or a device that stands for one."""
    if not site.sources_beneath:
        return [PushedIn(device, ()) for device in on_bus(site, bus) if device.role == "source"]
    places = []
    for device in on_bus(site, bus):
        sources = tuple(site.sources_through(device))
        if sources or device.role == "source":
            places.append(PushedIn(device, sources))
    for run in site.onward_from_lugs(bus.enclosure_id):
        onward = tuple(site.sources_beneath.get(site.downstream_of(run), {}).values())
        if onward:
            places.append(PushedIn(None, onward, run))
    at_lugs = tuple(site.sources_at_lugs(bus.enclosure_id))
    return [*places, PushedIn(None, at_lugs)] if at_lugs else places


def outputs_told(site: Site, bus: Bus, place: PushedIn, recorder: Recorder) -> list[Figure]:
    """Return the output in A of each source at a place that runs beside the supply, as far as its plate is told."""
    lines = place.device.poles if place.device is not None else None
    outputs = [(source, output_at(site, bus, source, lines)) for source in place.sources if source.interactive]
    return [
        recorder.given(f"Output of {source.name or source.id}", output, "A", "plate of the source")
        for source, output in outputs
        if output is not None
    ]


def output_at(site: Site, bus: Bus, source: Source, poles: int | None) -> Fraction | None:
    """Return the rated output current of a source where it comes in on a bus; None if it is not told."""
    system = site.system_at(bus.enclosure_id)
    return output_through(site, source, system, poles if poles is not None else len(legs_of(system)))


def output_through(site: Site, source: Source, system: str | None, lines: int) -> Fraction | None:
    """Return the rated output current of a source where it passes over so many lines, which may be more than its own."""
    return output_of(source, system, min(lines, lines_of_source(site, source) or lines))


def output_of(source: Source, system: str | None, lines: int) -> Fraction | None:
    """Return the rated output current of a source over so many lines, of its plate or from its kVA; None if not told."""
    if source.system is not None and source.system != system:
        return None
    if source.rated_output_a is not None:
        return exact(source.rated_output_a)
    if source.rated_kva is None or system not in LINE_TO_LINE_V or lines == 1:
        return None
    root = SQUARE_ROOT_OF_3 if lines == len(LEGS) else Fraction(1)
    return exact(source.rated_kva) * 1000 / (LINE_TO_LINE_V[system] * root)


def currents_along(site: Site, bus: Bus, primary_a: Fraction) -> list[Fraction]:
    """Return the worst current of each segment of a bus from the top, as the panel hangs; none where nothing pushes in.

    What is not told of a place or a plate leaves the list empty.
    """
    rows = rows_of(bus)
    supply = {"top": 0, "bottom": (rows or 1) - 1, "middle": (rows or 1) // 2}.get(bus.main_end or "")
    if rows is None or supply is None:
        return []
    elements = [OnBus(supply, primary_a, primary_a)]
    pushes = False
    for device in on_bus(site, bus):
        sources = [item for item in site.sources_through(device) if item.interactive]
        outputs = [output_at(site, bus, item, device.poles) for item in sources]
        if (device.space is None and sources) or None in outputs:
            return []
        row = hung_row(bus, device.space, rows) if device.space is not None else None
        if row is None:
            continue
        gives = sum((value for value in outputs if value is not None), Fraction(0))
        takes = exact(device.rating_a) if device.rating_a is not None and device.role != "source" else Fraction(0)
        elements.append(OnBus(row, gives, takes))
        pushes = pushes or gives > 0
    return bus_profile(rows, elements) if pushes else []


def device_for(rules: Rules, output_a: float) -> Fraction:
    """Return the smallest standard device for 125 % of an output in A.

    Raises:
        CannotCompute: none is large enough.
    """
    recorder = Recorder(rules)
    output = recorder.given("Rated output", output_a, "A", "plate of the source")
    factor = recorder.parameter("source_output_factor", "Output of sources at")
    return smallest_device(recorder, recorder.multiply("Output at 125 %", output, factor, unit="A")).number


def device_on_feed_through(site: Site, rules: Rules, run: Run) -> Device | None:
    """Return the device at an end of conductors on feed-through lugs that counts in the edition.

    At their supply end stand lugs; from 2023 on one at the other end counts, too.
    """
    if rules.parameter("feed_through_device_at_either_end").value != "1":
        return None
    device = site.devices.get(run.to_part)
    return device if device is not None and device.kind != "switch" and device.rating_a is not None else None
