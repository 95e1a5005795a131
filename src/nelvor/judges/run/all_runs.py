"""All runs of a site, walking outward so that the drop accumulates from the service point."""

from __future__ import annotations

from fractions import Fraction
from functools import partial

from nelvor.judges.level_loads import LevelLoads
from nelvor.judges.memory import Memory, NoMemory
from nelvor.judges.run.answer import RunAnswer, solve_run
from nelvor.judges.run.case import Ahead, RunCase, WholeUnit
from nelvor.judges.run.rests_on import rests_on
from nelvor.model.things import Run
from nelvor.rulebook.rules import Rules
from nelvor.topology.feeds import branches
from nelvor.topology.site import Site
from nelvor.working import exact


def solve_runs(site: Site, rules: Rules, levels: LevelLoads, memory: Memory | None = None) -> dict[str, RunAnswer]:
    """Return the answer of every run, by its id; a run that rests on the very same things is not solved again."""
    memory = memory or NoMemory()
    taken = memory.same(site.taken) if site.taken is not None else site
    answers: dict[str, RunAnswer] = {}
    whole: dict[str, WholeUnit | None] = {}
    accumulated: dict[str, Fraction | None] = {owner: Fraction(0) for owner in site.sources_in}
    for owner in [*(owner for owner in site.sources_in if owner in site.sources), *site.walking_order]:
        for run in branches(site, owner):
            before = _drop_before(site, run, accumulated.get(owner), answers)
            case = RunCase(site, rules, levels, run, Ahead(before, whole.get(owner)))
            answer = memory.recall("run", partial(rests_on, case, taken), partial(solve_run, case))
            answers[run.id] = answer
            beneath = site.downstream_of(run)
            if site.feeding_run(beneath) is not run:
                continue
            whole[beneath] = answer.as_whole_unit or whole.get(owner)
            total = answer.figures.get("total_drop")
            beyond = Fraction(0) if answer.kind == "utility" else (total.number if total else None)
            accumulated.setdefault(beneath, beyond)
    return answers


def _drop_before(site: Site, run: Run, ahead: Fraction | None, answers: dict[str, RunAnswer]) -> Fraction | None:
    """The drop where a run begins: that of its enclosure, and for a tap that of the run ahead of the joint as well."""
    tap = site.tap_of_run.get(run.id)
    if tap is None or ahead is None:
        return ahead
    feeder = site.runs.get(tap.run_id)
    drop_there = answers[feeder.id].figures.get("drop") if feeder is not None and feeder.id in answers else None
    if feeder is None or drop_there is None or tap.at_ft is None or not feeder.length_ft:
        return None
    return ahead + drop_there.number * min(exact(tap.at_ft) / exact(feeder.length_ft), Fraction(1))
