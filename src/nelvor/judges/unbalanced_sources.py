"""One-phase sources on a three-phase system: they leave its volts balanced within 3 % (705.45; 705.100 in 2017).

Spread evenly over the legs they do by themselves; else the utility or a study says so, which is entered of each.
"""

from __future__ import annotations

from collections import Counter, defaultdict
from dataclasses import dataclass
from fractions import Fraction

from nelvor.judges.source_currents import output_of
from nelvor.judges.verdict import Judge, Verdict
from nelvor.model.things import Source
from nelvor.model.voltages import LEGS, THREE_PHASE
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of
from nelvor.topology.pushed_in import own_run
from nelvor.topology.site import Site

CLAUSE = "unbalanced_source"


@dataclass(frozen=True)
class OnLegs:
    """A one-phase source on a three-phase system, with the legs that it pushes into; no amperes where none are told."""

    source: Source
    legs: tuple[str, ...]
    amperes: Fraction | None


def unbalanced_source_verdicts(site: Site, rules: Rules) -> list[Verdict]:
    """Return what is said of one-phase sources, supply by supply."""
    by_supply: dict[str, list[OnLegs]] = defaultdict(list)
    for source in site.document.sources:
        found = _on_legs(site, source)
        if found is not None:
            supply, on = found
            by_supply[supply].append(on)
    verdicts: list[Verdict] = []
    for sources in by_supply.values():
        even = _even(sources)
        for item in sources:
            judge = Judge(rules, "sources", item.source.id)
            _judge(site, judge, item.source, even)
            verdicts += judge.verdicts
    return verdicts


def _on_legs(site: Site, source: Source) -> tuple[str, OnLegs] | None:
    run = own_run(site, source) if source.interactive else None
    if run is None:
        return None
    ends = [owner for owner in (site.downstream_of(run), site.upstream_of(run)) if owner in site.enclosures]
    system = next((site.system_at(owner) for owner in ends), None)
    legs = tuple(sorted({item.role for item in site.conductors_of.get(run.id, [])} & set(LEGS)))
    if system not in THREE_PHASE or not legs or len(legs) == len(LEGS):
        return None
    supply = next(site.feeds.root.get(owner, owner) for owner in ends)
    return supply, OnLegs(source, legs, output_of(source, system, len(legs)))


def _even(sources: list[OnLegs]) -> bool:
    on: Counter[str] = Counter({leg: 0 for leg in LEGS})
    for item in sources:
        if item.amperes is None:
            return False
        on.update({leg: item.amperes for leg in item.legs})
    return len({on[leg] for leg in LEGS}) == 1


def _judge(site: Site, judge: Judge, source: Source, even: bool) -> None:
    name, field = name_of(site, source.id), "unbalance_accepted"
    if even:
        judge.holds(CLAUSE, f"{name} and the other one-phase sources push evenly into the three legs.", CLAUSE)
    elif source.unbalance_accepted:
        judge.holds(CLAUSE, f"With {name} the volts stay balanced within 3 %, as was found out.", CLAUSE, field)
    elif source.unbalance_accepted is None:
        text = (
            f"{name} pushes into some legs of a three-phase system alone. Whether its volts stay balanced within 3 % is "
            "not entered: ask the utility, or spread one-phase sources evenly over the legs."
        )
        judge.cannot_tell(CLAUSE, text, CLAUSE, field)
    else:
        text = (
            f"{name} unbalances the volts of the three-phase system by more than 3 %. Spread one-phase sources evenly "
            "over the legs, or take a three-phase one."
        )
        judge.must_fix(CLAUSE, text, CLAUSE, field)
