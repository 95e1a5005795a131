"""For every neutral of every enclosure: where it meets metal, what is found, and how often it does so in each scenario."""

from __future__ import annotations

from functools import partial

from nelvor.judges.bonds.answer import BondAnswer, Decision, NeutralDecision
from nelvor.judges.bonds.decide import decided
from nelvor.judges.bonds.place import Place
from nelvor.judges.lengths_aside import LengthsAside
from nelvor.judges.run import RunAnswer
from nelvor.judges.zones import Zone, zones
from nelvor.rulebook.rules import Rules
from nelvor.topology.site import Site


def bond_answers(site: Site, rules: Rules, answers: dict[str, RunAnswer], aside: LengthsAside) -> dict[str, BondAnswer]:
    """Return the decisions and the judgement for every enclosure."""

    def judged(enclosure_id: str, zone: Zone) -> BondAnswer:
        return decided(Place(site, rules, zone, answers, enclosure_id))

    return {
        enclosure_id: aside.of_box("bond", enclosure_id, partial(judged, enclosure_id, zone))
        for enclosure_id, zone in aside.of_the_site("zones", partial(zones, site, rules)).items()
    }


__all__ = ["BondAnswer", "Decision", "NeutralDecision", "bond_answers"]
