"""Ahead of the service disconnect neutral and metal are one; what joins two such boxes beside the neutral takes a share of its current.

Nothing is unsafe there by itself, so it is advice (250.6).
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from nelvor.judges.bonds.answer import BondAnswer
from nelvor.judges.verdict import Judge, Verdict
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of, run_name, thing_name
from nelvor.topology.site import Site

CLAUSE = "objectionable_current"
BONDED = frozenset({"bond", "supply_side", "existing_three_wire"})


def parallel_path_verdicts(site: Site, rules: Rules, bonds: Mapping[str, BondAnswer]) -> Iterator[Verdict]:
    """Yield advice for each grounding conductor and each metal path that lies beside the neutral between two bonded boxes."""
    for run in site.drawn_runs:
        ahead, here = bonds.get(site.upstream_of(run)), bonds.get(site.downstream_of(run))
        on_supply_side = ahead is not None and ahead.decision == "supply_side"
        if not on_supply_side or here is None or here.decision not in BONDED:
            continue
        if site.has_conductor(run, "ground") and site.has_conductor(run, "neutral"):
            judge = Judge(rules, "runs", run.id)
            text = (
                f"{run_name(site, run)} has a grounding conductor beside its neutral, between boxes that are both bonded to it: "
                "it carries a share of the neutral's current. Ahead of the service disconnect the neutral does its work."
            )
            judge.advise("parallel_path", text, CLAUSE)
            yield from judge.verdicts
    for path in site.document.metal_paths:
        ends = [bonds[end] for end in (path.end_a, path.end_b) if end is not None and end in bonds]
        if path.continuous is False or len(ends) < 2 or any(end.decision not in BONDED for end in ends):
            continue
        judge = Judge(rules, "metal_paths", path.id)
        names = " and ".join(name_of(site, end.enclosure_id) for end in ends)
        text = (
            f"{thing_name(site, path.id)} joins {names}, which are both bonded to the neutral: it carries a share of its "
            "current. What it carries stands under Currents; a piece that does not conduct would end it."
        )
        judge.advise("neutral_current_on_path", text, CLAUSE)
        yield from judge.verdicts
