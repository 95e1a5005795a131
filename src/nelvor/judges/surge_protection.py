"""Surge protection of dwellings: at the service (230.67), and where a feeder supplies a building of dwellings (225.42)."""

from __future__ import annotations

from nelvor.judges.verdict import Judge, Mend, proposing
from nelvor.model.things import Enclosure
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of
from nelvor.topology.site import Site

FIELD = "surge_protection"


def judge_surge(judge: Judge, site: Site, rules: Rules, enclosure: Enclosure, clause: str, parameter: str) -> None:
    """Judge the surge protection of new equipment that supplies a dwelling; ``parameter`` tells whether the edition asks.

    The device is in the equipment or beside it, or at each panel fed from it, the next level towards the load.
    """
    asked = rules.parameter(parameter).value == "1"
    if not asked or enclosure.standing != "added" or not site.is_one_family(enclosure.id):
        return
    name = name_of(site, enclosure.id)
    next_level = _next_level(site, enclosure)
    at_next_level = bool(next_level) and all(item.surge_protection for item in next_level)
    if enclosure.surge_protection or at_next_level:
        names = name if enclosure.surge_protection else " and ".join(name_of(site, item.id) for item in next_level)
        judge.holds("surge", f"A surge protective device is at {names}.", clause, FIELD)
    elif enclosure.surge_protection is None or any(item.surge_protection is None for item in next_level):
        text = f"Whether {name}, which supplies a dwelling, has a surge protective device is not entered; it needs one."
        judge.cannot_tell("surge", text, clause, FIELD)
    else:
        text = f"{name} supplies a dwelling and has no surge protective device in it, beside it, or at the panels it feeds."
        mend = Mend("Fit one at or in it", proposing("enclosures", enclosure, surge_protection=True))
        judge.must_fix("surge", text, clause, FIELD, mend)


def _next_level(site: Site, enclosure: Enclosure) -> list[Enclosure]:
    fed = [site.downstream_of(run) for run in site.runs_from.get(enclosure.id, [])]
    return [site.enclosures[item] for item in fed if item in site.enclosures]
