"""Supplies that stand alone: together they are no smaller than the largest single piece of equipment (710.15(A)).

They may be smaller than the calculated load; that a motor starts is advice. An inverter that the utility passes through stands
alone for what is behind it while the utility is away.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from fractions import Fraction

from nelvor.errors import CannotCompute
from nelvor.judges.pieces_of_equipment import advise_of_start, in_kva, output_va, pieces_of
from nelvor.judges.verdict import Judge, Verdict
from nelvor.model.things import Source
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of
from nelvor.topology.site import Site


def island_verdicts(site: Site, rules: Rules) -> list[Verdict]:
    """Return what is said of each supply that nothing but its own sources feeds, or that has to stand alone at times."""
    found: list[Verdict] = []
    for sources, boxes in _standing_alone(site):
        judge = Judge(rules, "sources", sources[0].id)
        _judge(site, rules, judge, sources, boxes)
        found += judge.verdicts
    return found


def _standing_alone(site: Site) -> Iterator[tuple[list[Source], Sequence[str]]]:
    islands_of = islands(site)
    for root, boxes in islands_of.items():
        yield sources_of(site, root, boxes), boxes
    in_islands = {box for boxes in islands_of.values() for box in boxes}
    for box, passing in site.passing.items():
        if box not in in_islands:
            yield [passing.source], site.boxes_beneath(box)


def islands(site: Site) -> dict[str, list[str]]:
    """Return the boxes that each source feeds as the beginning of all their power, where no utility does."""
    found: dict[str, list[str]] = {}
    kinds = {"inverter", "battery"}
    if not any(source.kind == "utility" for source in site.document.sources):
        kinds.add("generator")  # one beside a utility is a standby supply, and goes by 702.4
    if not any(source.kind in kinds for source in site.document.sources):
        return found
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


def _judge(site: Site, rules: Rules, judge: Judge, sources: Sequence[Source], boxes: Sequence[str]) -> None:
    clause, name = "island_capacity", name_of(site, sources[0].id)
    try:
        pieces = pieces_of(site, rules, (load for box in boxes for load in site.loads_in.get(box, [])))
    except CannotCompute as reason:
        judge.cannot_compute(clause, reason, clause)
        return
    if not pieces:
        return
    unknown = [item for item in sources if output_va(site, item) is None]
    if unknown:
        text = (
            f"What {name_of(site, unknown[0].id)} gives is not entered: it has to carry the largest piece of equipment."
        )
        judge.about("sources", unknown[0].id).cannot_tell(clause, text, clause, "rated_kva")
        return
    output = sum((output_va(site, item) or Fraction(0) for item in sources), Fraction(0))
    largest = max(pieces, key=lambda item: item.va)
    numbers = f"{in_kva(output)} for {largest.words}"
    if output < largest.va:
        judge.must_fix(clause, f"{name} is smaller than the largest piece of equipment on it: {numbers}.", clause)
        return
    judge.holds(clause, f"{name} carries the largest piece of equipment on it: {numbers}.", clause)
    advise_of_start(judge, "island_start", clause, name, output, pieces)
