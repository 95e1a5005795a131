"""What leaves the site-isolating switch of a farm: its grounding conductor is as large as the supply conductors (547.42)."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from nelvor.clauses.ampacity import size_index
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
            if size_index(ground) >= size_index(hots):
                judge.holds(
                    "site_isolating_ground",
                    f"The grounding conductor {ground} of {name} is as large as its lines.",
                    CLAUSE,
                )
            else:
                text = f"The grounding conductor {ground} of {name} leaves a site-isolating switch: it is as large as the lines, {hots}."
                mend = Mend(f"Grounding conductor: {ground} to {hots}", proposing("runs", run, ground_size=hots))
                judge.must_fix("site_isolating_ground", text, CLAUSE, "ground_size", mend)
            yield from judge.verdicts
