"""Facts that no figure tells: of sources, gear between them and what they feed back through; of farm buildings with animals."""

from collections.abc import Mapping

from nelvor.judges.bonds import BondAnswer
from nelvor.judges.facts.fact import Fact, said_of
from nelvor.judges.facts.of_back_feed import facts_of_back_feed
from nelvor.judges.facts.of_farms import facts_of_farms
from nelvor.judges.facts.of_gear import facts_of_gear
from nelvor.judges.facts.of_sources import facts_of_sources
from nelvor.rulebook.rules import Rules
from nelvor.topology.site import Site


def facts_of(site: Site, rules: Rules, bonds: Mapping[str, BondAnswer]) -> list[Fact]:
    """Return the facts that decide something at a site, by what is decided for its bonds."""
    return [
        *facts_of_sources(site, rules, bonds),
        *facts_of_gear(site, rules),
        *facts_of_back_feed(site, rules),
        *facts_of_farms(site),
    ]


__all__ = ["Fact", "facts_of", "said_of"]
