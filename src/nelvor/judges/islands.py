"""Supplies that stand alone: together they are no smaller than the largest single piece of equipment (710.15(A)).

They may be smaller than the calculated load. Lighting and receptacles are no single piece; that a motor starts is advice.
"""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction

from nelvor.clauses.load_kind import SQUARE_ROOT_OF_3, kind_of
from nelvor.errors import CannotCompute
from nelvor.judges.verdict import Judge, Verdict
from nelvor.model.things import Load, Source
from nelvor.model.voltages import LINE_TO_LINE_V, LINE_TO_NEUTRAL_V, THREE_PHASE
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of
from nelvor.topology.site import Site
from nelvor.working import exact

NO_SINGLE_PIECE = frozenset(
    {"lighting_area", "small_appliance", "laundry", "lighting", "receptacles", "show_window", "track_lighting"}
)
STARTING = 3
"""A motor draws several times its running power while it starts; below this many times there is a word of advice."""


def island_verdicts(site: Site, rules: Rules) -> list[Verdict]:
    """Return what is said of each supply that nothing but its own sources feeds."""
    found: list[Verdict] = []
    for root, boxes in islands(site).items():
        judge = Judge(rules, "sources", root)
        loads = [load for box in boxes for load in site.loads_in.get(box, []) if load.category not in NO_SINGLE_PIECE]
        if loads:
            _judge(site, rules, judge, sources_of(site, root, boxes), loads)
        found += judge.verdicts
    return found


def islands(site: Site) -> dict[str, list[str]]:
    """Return the boxes that each source feeds as the beginning of all their power, where no utility does."""
    found: dict[str, list[str]] = {}
    kinds = {"inverter", "battery"}
    if not any(source.kind == "utility" for source in site.document.sources):
        kinds.add("generator")  # one beside a utility is a standby supply, and goes by 702.4
    for box in site.walking_order:
        root = site.feeds.root.get(box, "")
        begins = [site.sources[root]] if root in site.sources else site.sources_in.get(root, [])
        if begins and all(source.kind in kinds for source in begins):
            found.setdefault(begins[0].id, []).append(box)
    return found


def sources_of(site: Site, root: str, boxes: list[str]) -> list[Source]:
    """Return the source in which the power begins, and those that stand or come in beside it."""
    beside = {item.id: item for box in boxes for item in site.sources_beneath.get(box, {}).values()}
    beside |= {item.id: item for item in site.sources_in.get(site.owners[root], [])}
    return [site.sources[root], *(item for item in beside.values() if item.id != root)]


def _judge(site: Site, rules: Rules, judge: Judge, sources: list[Source], loads: list[Load]) -> None:
    clause, name = "island_capacity", name_of(site, sources[0].id)
    unknown = [item for item in sources if output_va(site, item) is None]
    if unknown:
        text = (
            f"What {name_of(site, unknown[0].id)} gives is not entered: it has to carry the largest piece of equipment."
        )
        judge.about("sources", unknown[0].id).cannot_tell(clause, text, clause, "rated_kva")
        return
    output = sum((output_va(site, item) or Fraction(0) for item in sources), Fraction(0))
    try:
        pieces = list(_pieces(site, rules, loads))
    except CannotCompute as reason:
        judge.cannot_compute(clause, reason, clause)
        return
    largest, load = max(pieces, key=lambda item: item[0])
    numbers = f"{float(output) / 1000:.4g} kVA for {load.name or load.id} of {float(largest) / 1000:.4g} kVA"
    if output < largest:
        judge.must_fix(clause, f"{name} is smaller than the largest piece of equipment on it: {numbers}.", clause)
        return
    judge.holds(clause, f"{name} carries the largest piece of equipment on it: {numbers}.", clause)
    motors = [(va, item) for va, item in pieces if item.category in ("motor", "cooling", "heat_pump")]
    hard, motor = max(motors, key=lambda item: item[0], default=(Fraction(0), None))
    if motor is not None and hard * STARTING > output:
        text = (
            f"{motor.name or motor.id} may not start on {name}: while it starts it draws several times its "
            f"{float(hard) / 1000:.4g} kVA. Ask its maker, or fit a soft starter."
        )
        judge.advise("island_start", text, clause)


def _pieces(site: Site, rules: Rules, loads: list[Load]) -> Iterator[tuple[Fraction, Load]]:
    """Yield what each piece of equipment takes, in VA.

    Raises:
        CannotCompute: an amount or a voltage is not told.
    """
    for load in loads:
        yield kind_of(load, site.system_at(load.enclosure_id) or "", rules).each, load


def output_va(site: Site, source: Source) -> Fraction | None:
    """Return what a source gives by its plate in VA, None where that is not entered."""
    if source.rated_kva is not None:
        return exact(source.rated_kva) * 1000
    system = source.system or ""
    volts = LINE_TO_LINE_V.get(system) or LINE_TO_NEUTRAL_V.get(system)
    if source.rated_output_a is None or volts is None:
        return None
    return exact(source.rated_output_a) * volts * (SQUARE_ROOT_OF_3 if system in THREE_PHASE else 1)
