"""A supply of 120 V on two wires that feeds both legs of a 120/240 V panel (710.15(C)).

Both legs are then in phase: what needs 240 V gets none, and a neutral that two circuits share carries their sum. The
sources together are smaller than the neutral bar of the first panel.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from fractions import Fraction

from nelvor.judges.islands import islands, sources_of
from nelvor.judges.verdict import Judge, Verdict
from nelvor.model.things import Bar, Device, Load, Source
from nelvor.model.voltages import LINE_TO_NEUTRAL_V
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of, thing_name
from nelvor.topology.site import Site
from nelvor.working import exact

SPLIT, TWO_WIRES = "split_120_240", "two_wire_120"
CLAUSE = "single_120_supply"
MOST_ON_ONE_LEG_V = 150
VOLTS = LINE_TO_NEUTRAL_V["single_120"]


def single_120_verdicts(site: Site, rules: Rules) -> list[Verdict]:
    """Return what is said of each supply of 120 V that feeds both legs of panels."""
    found: list[Verdict] = []
    for root, boxes in islands(site).items():
        sources = sources_of(site, root, boxes)
        if fed_at_120(site, sources, boxes):
            judge = Judge(rules, "sources", root)
            _judge(site, judge, sources, boxes)
            found += judge.verdicts
    return found


def fed_at_120(site: Site, sources: Sequence[Source], boxes: Sequence[str]) -> bool:
    """Tell whether all sources of an island give 120 V on two wires, to a box of both legs."""
    both_legs = any(site.system_at(box) == SPLIT for box in boxes)
    return both_legs and all(item.output == TWO_WIRES for item in sources)


def _judge(site: Site, judge: Judge, sources: Sequence[Source], boxes: Sequence[str]) -> None:
    wrong = [*_of_two_legs(site, judge, boxes), *_of_shared_neutrals(site, judge, boxes)]
    fits = _neutral_bar(site, judge, sources, boxes)
    if fits is not None and not wrong:
        text = f"{name_of(site, sources[0].id)} feeds both legs with 120 V: nothing of 240 V and no shared neutral is on them; {fits}."
        judge.holds(CLAUSE, text, CLAUSE)


def _of_two_legs(site: Site, judge: Judge, boxes: Sequence[str]) -> Iterator[Load | Device]:
    """Loads that need 240 V, and feeders of two poles, whose neutral carries the sum of both legs."""
    for box in boxes:
        for load in site.loads_in.get(box, []):
            if load.volts is not None and load.volts > MOST_ON_ONE_LEG_V:
                text = f"{load.name or load.id} needs {load.volts:g} V; both legs are fed with the same 120 V, so that it gets none."
                judge.about("loads", load.id).must_fix("single_120_load", text, CLAUSE, "volts")
                yield load
        for device in site.devices_in.get(box, []):
            if device.role == "feeder" and device.poles == 2:
                text = (
                    f"The neutral of {thing_name(site, device.id)} would carry the sum of both its legs. Feed it from one leg, "
                    "or show that its neutral is large enough."
                )
                judge.about("devices", device.id).cannot_tell("single_120_feeder", text, CLAUSE, "poles")
                yield device


def _of_shared_neutrals(site: Site, judge: Judge, boxes: Sequence[str]) -> Iterator[Device]:
    for box in boxes:
        for device in site.devices_in.get(box, []):
            if any(item.shared_neutral for item in site.circuits_of.get(device.id, [])):
                text = (
                    f"{thing_name(site, device.id)} shares its neutral with another circuit: fed with 120 V on both legs, "
                    "that neutral carries the sum of them. Give each circuit its own."
                )
                judge.about("devices", device.id).must_fix("single_120_multiwire", text, CLAUSE)
                yield device


def _neutral_bar(site: Site, judge: Judge, sources: Sequence[Source], boxes: Sequence[str]) -> str | None:
    """Hold the sources against the neutral bar of the first panel; return how it fits, None where it does not."""
    bar = _first_bar(site, boxes)
    outputs = [_output_a(item) for item in sources]
    if bar is None or any(item is None for item in outputs):
        return None  # without a bar the bonds stage asks; without an output the island does
    total = sum((item for item in outputs if item is not None), Fraction(0))
    if bar.rating_a is None:
        text = f"What the neutral bar of {name_of(site, bar.enclosure_id)} is rated for is not entered: read its label."
        judge.about("bars", bar.id).cannot_tell("single_120_bar", text, CLAUSE, "rating_a")
        return None
    told = (
        f"{float(total):.4g} A are below the {bar.rating_a:g} A of the neutral bar of {name_of(site, bar.enclosure_id)}"
    )
    if total >= exact(bar.rating_a):
        text = told.replace("are below", "of sources are not below") + ". Use a panel whose bar carries more."
        judge.about("bars", bar.id).must_fix("single_120_bar", text, CLAUSE, "rating_a")
        return None
    return told


def _first_bar(site: Site, boxes: Sequence[str]) -> Bar | None:
    panels = (box for box in boxes if site.enclosures[box].kind in ("panel", "disconnect", "meter_disconnect"))
    bars = (bar for box in panels for bar in site.bars_in.get(box, []) if bar.kind == "neutral")
    return next(bars, None)


def _output_a(source: Source) -> Fraction | None:
    if source.rated_output_a is not None:
        return exact(source.rated_output_a)
    return None if source.rated_kva is None else exact(source.rated_kva) * 1000 / VOLTS
