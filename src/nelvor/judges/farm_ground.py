"""Grounding conductors and bonds where livestock is kept: copper, insulated where buried, and no old three-wire feed (547)."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from nelvor.judges.bonds import BondAnswer
from nelvor.judges.run import RunAnswer
from nelvor.judges.run.lays import lays_of
from nelvor.judges.verdict import Judge, Mend, Verdict, proposing
from nelvor.model.things import Building
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import run_name
from nelvor.topology.site import Site

CODE, CLAUSE = "farm_ground", "farm_grounding_conductor"


def farm_ground_verdicts(
    site: Site, rules: Rules, answers: Mapping[str, RunAnswer], bonds: Mapping[str, BondAnswer]
) -> Iterator[Verdict]:
    """Yield what is said of each run that begins or ends where livestock is kept."""
    if not any(_keeps_animals(building) for building in site.document.buildings):
        return
    for answer in answers.values():
        building = _with_animals(site, site.downstream_of(answer.run)) or _with_animals(
            site, site.upstream_of(answer.run)
        )
        if building is not None and site.has_conductor(answer.run, "ground"):
            yield from _conductor(site, rules, answer, building)
    for enclosure_id, bond in bonds.items():
        building = _with_animals(site, enclosure_id)
        if building is not None and bond.decision == "existing_three_wire":
            judge = Judge(rules, "enclosures", enclosure_id)
            text = (
                f"The neutral of {building.name or building.id} is its grounding metal too: what it drops stands on all that "
                "animals touch. The code lets the old feed stay; feed it with a grounding conductor."
            )
            judge.advise("farm_three_wire", text, "agricultural_grounding")
            yield from judge.verdicts


def _with_animals(site: Site, enclosure_id: str) -> Building | None:
    enclosure = site.enclosures.get(enclosure_id)
    building = site.buildings.get(enclosure.building_id or "") if enclosure is not None else None
    return building if building is not None and _keeps_animals(building) else None


def _keeps_animals(building: Building) -> bool:
    return building.use == "farm" and bool(building.livestock)


def _conductor(site: Site, rules: Rules, answer: RunAnswer, building: Building) -> Iterator[Verdict]:
    run, judge = answer.run, Judge(rules, "runs", answer.run.id)
    name, where = run_name(site, run), building.name or building.id
    buried = any(lay.value("placement") == "underground" for lay in lays_of(run, site.stretches_of.get(run.id, [])))
    if answer.case.ground_material() != "copper":
        text = f"The grounding conductor of {name} is aluminum; where livestock is kept, in {where}, it is copper."
        mend = Mend(f"Grounding conductor of {name}: copper", proposing("runs", run, ground_material="copper"))
        judge.must_fix(CODE, text, CLAUSE, "ground_material", mend)
    elif buried and run.ground_bare:
        text = f"The grounding conductor of {name} is bare and lies underground; for {where}, where livestock is kept, it is insulated."
        mend = Mend(f"Grounding conductor of {name}: insulated", proposing("runs", run, ground_bare=False))
        judge.must_fix(CODE, text, CLAUSE, "ground_bare", mend)
    else:
        text = f"The grounding conductor of {name} is copper{', insulated' if buried else ''}, as livestock in {where} asks for."
        judge.holds(CODE, text, CLAUSE)
    yield from judge.verdicts
