"""A supply that stands alone and gives no neutral: what lies between a line and a neutral gets nothing, unless one is formed."""

from __future__ import annotations

from nelvor.clauses.load_kind import kind_of
from nelvor.errors import CannotCompute
from nelvor.judges.islands import islands, sources_of
from nelvor.judges.verdict import Judge, Verdict
from nelvor.model.things import Load
from nelvor.rulebook.rules import Rules
from nelvor.topology.grounded import has_neutral, neutral_net
from nelvor.topology.names import name_of
from nelvor.topology.network import NEUTRAL, Node, forms_neutral
from nelvor.topology.site import Site

CODE, CLAUSE = "supply_without_neutral", "island_capacity"


def without_neutral_verdicts(site: Site, rules: Rules) -> list[Verdict]:
    """Return what is said of each supply without a neutral whose loads need one."""
    judge = Judge(rules, "sources", "")
    for root, boxes in islands(site).items():
        sources = sources_of(site, root, boxes)
        if not sources or any(has_neutral(site, site.network, item) is not False for item in sources):
            continue
        formed = _formed(site, boxes)
        needing = [load for box in boxes for load in site.loads_in.get(box, []) if _needs_neutral(site, rules, load)]
        lost = [load for load in needing if formed.isdisjoint(_neutrals(site, load.enclosure_id))]
        if lost:
            text = (
                f"{name_of(site, root)} gives no neutral, and {lost[0].name or lost[0].id} at "
                f"{name_of(site, lost[0].enclosure_id)} needs one. Use a source with a neutral, or form one with an "
                "autotransformer that is listed for it."
            )
            judge.about("sources", sources[0].id).must_fix(CODE, text, CLAUSE, "output")
    return judge.verdicts


def _formed(site: Site, boxes: list[str]) -> frozenset[Node]:
    """What is joined to the neutrals that are formed in these boxes."""
    found: frozenset[Node] = frozenset()
    for transformer in site.document.transformers:
        if transformer.enclosure_id in boxes and forms_neutral(site, transformer):
            found |= neutral_net(site.network, Node(transformer.secondary_part, NEUTRAL), lambda _: True)
    return found


def _neutrals(site: Site, enclosure_id: str) -> list[Node]:
    return [Node(bar.id, NEUTRAL) for bar in site.bars_in.get(enclosure_id, []) if bar.kind == "neutral"]


def _needs_neutral(site: Site, rules: Rules, load: Load) -> bool:
    """Tell whether a load lies between a line and the neutral; one that is not told well enough needs none for certain."""
    if load.neutral_used is not None:
        return load.neutral_used
    system = site.system_at(load.enclosure_id)
    if system is None:
        return False
    try:
        kind = kind_of(load, system, rules, site.legs_at.get(load.enclosure_id), site.connection_of(load))
    except CannotCompute:
        return False
    connection = kind.connection
    return connection.endswith("-N") or (connection.startswith("even") and connection != "even_line_to_line")
