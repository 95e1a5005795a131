"""What leaves the site-isolating switch of a farm: its grounding conductor is as large as the supply conductors (547.42)."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from nelvor.clauses.ampacity import size_index
from nelvor.clauses.grounding_conductor import as_large_as
from nelvor.judges.run import RunAnswer
from nelvor.judges.verdict import Judge, Mend, Verdict, proposing
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import run_name
from nelvor.topology.site import Site

CLAUSE = "site_isolating_ground"


def site_isolating_verdicts(site: Site, rules: Rules, answers: Mapping[str, RunAnswer]) -> Iterator[Verdict]:
    """Yield what is said of each run that leaves a site-isolating switch with a grounding conductor."""
    for enclosure in site.document.enclosures:
        for run in site.runs_from.get(enclosure.id, []) if enclosure.site_isolating else []:
            answer = answers.get(run.id)
            if answer is None or not site.has_conductor(run, "ground"):
                continue
            hots, ground = run.hot_size or answer.size("hots"), run.ground_size or answer.size("ground")
            judge, name = Judge(rules, "runs", run.id), run_name(site, run)
            if hots is None or ground is None:
                continue  # the run says what it lacks
            material, ground_material = answer.material or "copper", answer.case.ground_material()
            least = as_large_as(rules, hots, material, ground_material)
            beside = "" if material == ground_material else " by the columns of Table 250.122"
            if least is None:
                text = f"What grounding conductor of {ground_material} is as large as {hots} {material} is not held for {name}."
                judge.cannot_tell("site_isolating_ground", text, CLAUSE, "ground_size")
            elif size_index(ground) >= size_index(least):
                judge.holds(
                    "site_isolating_ground",
                    f"The grounding conductor {ground} of {name} is as large as its lines{beside}.",
                    CLAUSE,
                )
            else:
                text = f"The grounding conductor {ground} of {name} leaves a site-isolating switch: it is as large as the lines, {least}{beside}."
                mend = Mend(f"Grounding conductor: {ground} to {least}", proposing("runs", run, ground_size=least))
                judge.must_fix("site_isolating_ground", text, CLAUSE, "ground_size", mend)
            yield from judge.verdicts
