"""Conductors that bring the power of several stand-alone sources to a building: by the sum of them (710.15(B)).

The run of each source by itself is sized on its own output; here it is the way on from where they are gathered.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from fractions import Fraction

from nelvor.clauses.load_kind import SQUARE_ROOT_OF_3
from nelvor.judges.islands import islands, sources_of
from nelvor.judges.pieces_of_equipment import output_va
from nelvor.judges.run import RunAnswer
from nelvor.judges.verdict import Judge, Verdict
from nelvor.model.things import Run, Source
from nelvor.model.voltages import LINE_TO_LINE_V, THREE_PHASE
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of, run_name
from nelvor.topology.site import Site

CLAUSE = "standalone_conductor"


def island_conductor_verdicts(site: Site, rules: Rules, answers: Mapping[str, RunAnswer]) -> list[Verdict]:
    """Return what is said of the ways on from where stand-alone sources are gathered, up to the first loads."""
    found: list[Verdict] = []
    for root, boxes in islands(site).items():
        sources = sources_of(site, root, boxes)
        for box in boxes:
            run = site.feeding_run(box)
            if run is None or site.loads_in.get(site.upstream_of(run)):
                continue
            ahead = [item for item in sources if item.id not in site.sources_beneath.get(box, {})]
            if len(ahead) > 1:
                judge = Judge(rules, "runs", run.id)
                _judge(site, rules, judge, run, answers[run.id], ahead)
                found += judge.verdicts
    return found


def _judge(site: Site, rules: Rules, judge: Judge, run: Run, answer: RunAnswer, sources: Sequence[Source]) -> None:
    system = site.system_at(site.downstream_of(run)) or ""
    outputs = [output_va(site, item) for item in sources]
    ampacity = answer.figures.get("ampacity")
    if ampacity is None or system not in LINE_TO_LINE_V or any(item is None for item in outputs):
        return  # the run, the island or the source asks for what is missing
    root = SQUARE_ROOT_OF_3 if system in THREE_PHASE else Fraction(1)
    rated = sum((item for item in outputs if item is not None), Fraction(0)) / (LINE_TO_LINE_V[system] * root)
    factor = rules.parameter("continuous_factor").number
    names = ", ".join(name_of(site, item.id) for item in sources)
    sums = f"{float(rated):.4g} A of {names} at {float(factor * 100):g} %"
    if ampacity.number < rated * factor:
        text = (
            f"{run_name(site, run)} carries {float(ampacity.number):.4g} A, less than the sum of its sources: {sums}."
        )
        judge.must_fix(CLAUSE, text, CLAUSE, "hot_size")
    else:
        judge.holds(CLAUSE, f"{run_name(site, run)} carries {float(ampacity.number):.4g} A, all of {sums}.", CLAUSE)
