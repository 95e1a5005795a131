"""Second supplies and loops: what feeds an enclosure besides its own feed, and what keeps the two apart."""

from __future__ import annotations

from nelvor.judges.verdict import Judge, Verdict
from nelvor.model.things import Run
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of, run_name
from nelvor.topology.separation import kept_apart
from nelvor.topology.site import Site


def supply_verdicts(site: Site, rules: Rules) -> list[Verdict]:
    """Return what is wrong with how the enclosures of a site are supplied."""
    found = []
    for enclosure_id, runs in site.runs_into.items():
        if enclosure_id in site.enclosures and not kept_apart(site, enclosure_id):
            found += _second_supply(site, rules, enclosure_id, len(runs))
    for run in site.drawn_runs:
        if run.id in site.feeds.in_loop:
            found += _loop(site, rules, run)
        found += _fed_generator(site, rules, run)
    return found


def _fed_generator(site: Site, rules: Rules, run: Run) -> list[Verdict]:
    """A generator takes nothing: a run from another supply to its terminals puts the two together."""
    source, root = site.sources.get(run.to_part), site.feeds.root.get(site.upstream_of(run), "")
    others = [item for item in site.sources_in.get(root, []) if item.id != run.to_part]
    if source is None or source.kind != "generator" or source.interactive or not others:
        return []
    judge = Judge(rules, "runs", run.id)
    name, other = name_of(site, source.id), name_of(site, others[0].id)
    if source.interactive is None:
        text = f"Whether {name} may run together with {other}, to which this run joins it, is not entered."
        judge.about("sources", source.id).cannot_tell(
            "second_feed", text, "transfer_equipment_interlock", "interactive"
        )
    else:
        text = f"This run puts {name} and {other} together with nothing that keeps them apart. Use transfer gear."
        judge.must_fix("second_feed", text, "transfer_equipment_interlock", "to_part")
    return judge.verdicts


def _second_supply(site: Site, rules: Rules, enclosure_id: str, count: int) -> list[Verdict]:
    judge = Judge(rules, "enclosures", enclosure_id)
    text = (
        f"{name_of(site, enclosure_id)} is fed by {count} runs with nothing that keeps the supplies apart. "
        "Use transfer gear or one feed."
    )
    judge.must_fix("second_feed", text, "transfer_equipment_interlock")
    return judge.verdicts


def _loop(site: Site, rules: Rules, run: Run) -> list[Verdict]:
    judge = Judge(rules, "runs", run.id)
    text = f"{run_name(site, run)} closes a loop of feeders: what it feeds would feed itself. Feed it from elsewhere."
    judge.must_fix("loop", text, field_name="from_part")
    return judge.verdicts
