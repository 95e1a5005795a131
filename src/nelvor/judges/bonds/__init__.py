"""For every neutral of every enclosure: where it meets metal, what is found, and how often it does so in each scenario."""

from __future__ import annotations

from nelvor.judges.bonds.answer import BondAnswer, Decision, NeutralDecision
from nelvor.judges.bonds.decide import decided
from nelvor.judges.bonds.place import Place
from nelvor.judges.run import RunAnswer
from nelvor.judges.zones import zones
from nelvor.rulebook.rules import Rules
from nelvor.topology.site import Site


def bond_answers(site: Site, rules: Rules, answers: dict[str, RunAnswer]) -> dict[str, BondAnswer]:
    """Return the decisions and the judgement for every enclosure."""
    return {
        enclosure_id: decided(Place(site, rules, zone, answers, enclosure_id))
        for enclosure_id, zone in zones(site, rules).items()
    }


__all__ = ["BondAnswer", "Decision", "NeutralDecision", "bond_answers"]
