"""Every way to connect a wanted source, each tried out: whether it passes, by which arithmetic, what it takes.

A way is drawn, the whole job is checked with it, and what follows from it is mended, so that its verdict is that of the
check. It passes where it brings nothing that must be fixed and leaves nothing of its own untold.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from fractions import Fraction
from typing import Any, Literal

from nelvor.additions.receiver import Receiver
from nelvor.clauses.bus_sources import BusRule
from nelvor.errors import CannotCompute, NotFound
from nelvor.judges.verdict import Verdict
from nelvor.model.changes.operations import Insert, Operation, apply
from nelvor.model.things import Source
from nelvor.report.check import Checked, Report
from nelvor.report.largest_source import largest_output
from nelvor.report.order_of_work import OrderOfWork, order_of_work
from nelvor.report.parts_bought import PartOut, priced, sum_of
from nelvor.report.sent import Wire
from nelvor.report.signs import signs_due
from nelvor.report.weighed_addition import tried_out
from nelvor.topology.names import name_of, thing_name
from nelvor.ways.all_ways import all_ways
from nelvor.ways.drawn_source import DrawnSource, drawn_source
from nelvor.ways.way import WantedSource, Way, WayKind, Wish
from nelvor.working import shown

Outcome = Literal["passes", "fails", "cannot_tell"]
OF_THE_CONNECTION = frozenset(
    {
        "bus_source",
        "source_device",
        "pushed_back",
        "feeder_sources",
        "supply_side",
        "supply_side_distance",
        "disconnect_floor",
    }
)


class RuleOut(Wire):
    """One rule with its arithmetic: how it ends at which bus, and the largest output of all sources that it would take.

    ``total`` is held against ``limit``, in A; None where the rule has no sum.
    """

    place: str
    rule: str
    section: str
    passes: bool | None
    why: str
    total: float | None
    limit: float
    largest_a: str


class ReasonOut(Wire):
    name: str
    text: str
    section: str


class WayOut(Wire):
    """One way, tried out. What the rules of a bus tell stands among ``rules`` alone. ``short_by`` is by how many amperes it fails, ``largest_a`` the output that it would take
    with all that stands as it is; "" where figures do not tell. ``price`` is that of all its parts, without labor; None where one is not
    priced. ``operations`` carry it out with all that follows, in one step."""

    kind: WayKind
    title: str
    outcome: Outcome
    reasons: list[ReasonOut]
    rules: list[RuleOut]
    largest_a: str
    short_by_a: str
    conditions: list[str]
    consent: str
    parts: list[PartOut]
    labels: list[str]
    price: float | None
    follows: list[str]
    why: str
    steps: int
    work: OrderOfWork
    operations: list[Operation]


class WaysOut(Wire):
    """The ways, those that pass ahead; ``told`` says in a sentence what came out.

    Where all parts of all that pass are priced (``by_price``) those come by price, else the least work is first.
    """

    ways: list[WayOut]
    told: str
    by_price: bool


def ways_to_connect(document: dict[str, Any], checked: Checked, enclosure_id: str, wanted: WantedSource) -> WaysOut:
    """Return every way to connect a source at a panel of a document in its proposed state, each tried out.

    Raises:
        CannotCompute: nothing can be connected there.
    """
    before = checked(document)
    return _all_tried(document, checked, before, enclosure_id, wanted)


def ways_for_source(document: dict[str, Any], checked: Checked, source_id: str) -> WaysOut:
    """Return every way to connect a source that is drawn already; each begins by taking it out from where it is.

    Raises:
        NotFound: there is no such source.
        CannotCompute: it does not run beside the utility, its output is not read, or nothing connects it.
    """
    as_drawn = checked(document)
    source = as_drawn.site.sources.get(source_id)
    if source is None:
        raise NotFound("This source is not part of the design.")
    drawn = drawn_source(document, as_drawn.site, source)
    without = apply(document, list(drawn.taken_out))
    found = _all_tried(without, checked, checked(without), drawn.enclosure_id, drawn.wanted, drawn)
    ways = [
        way.model_copy(update={"operations": [*drawn.taken_out, *way.operations]}) if way.operations else way
        for way in found.ways
    ]
    return found.model_copy(update={"ways": ways})


def _all_tried(
    document: dict[str, Any],
    checked: Checked,
    before: Report,
    enclosure_id: str,
    wanted: WantedSource,
    drawn: DrawnSource | None = None,
) -> WaysOut:
    wish = Wish(Receiver(before.site, before.rules, enclosure_id), wanted, before.levels)
    found = [
        _not_drawn(way) if way.refused else _tried(document, checked, before, way, wanted, drawn)
        for way in all_ways(wish)
    ]
    place = {"passes": 0, "cannot_tell": 1, "fails": 2}
    prices = [way.price for way in found if way.outcome == "passes"]
    by_price = bool(prices) and None not in prices
    found.sort(key=lambda way: (place[way.outcome], way.price or 0.0 if by_price and way.outcome == "passes" else 0.0))
    return WaysOut(ways=found, told=_told(found), by_price=by_price)


def _told(ways: list[WayOut]) -> str:
    passing = [way for way in ways if way.outcome == "passes"]
    open_ways = [way for way in ways if way.outcome == "cannot_tell"]
    failing = len(ways) - len(passing) - len(open_ways)
    counts = f"{len(passing)} pass, {failing} fail, {len(open_ways)} hang on what is not told or not drawn."
    if len(passing) == 1 and not open_ways:
        return f"Only one way passes, all others fail: {passing[0].title}."
    return counts


def _tried(
    document: dict[str, Any],
    checked: Checked,
    before: Report,
    way: Way,
    wanted: WantedSource,
    drawn: DrawnSource | None,
) -> WayOut:
    try:
        operations = _carried_on(document, checked, way, drawn)
    except CannotCompute as reason:
        return _not_drawn(replace(way, refused=reason.reason))
    tried = tried_out(document, checked, before, list(operations))
    reasons = _reasons_against(before, tried.after)
    outcome: Outcome = "passes" if not reasons else "fails" if reasons[0].outcome == "must_fix" else "cannot_tell"
    source = _source_of(operations, tried.after)
    rules = list(_rules(tried.after, source))
    largest = largest_output(tried.after, source)
    short = Fraction(str(wanted.output_a)) - largest if largest is not None and outcome == "fails" else None
    work = order_of_work(before, tried.after)
    parts = list(priced(tried.after, tried.operations))
    return WayOut(
        kind=way.kind,
        title=way.title,
        outcome=outcome,
        reasons=[_reason(tried.after, item) for item in reasons if item.code != "bus_source" or not rules],
        rules=rules,
        largest_a="" if largest is None else shown(largest),
        short_by_a="" if short is None or short <= 0 else shown(short),
        conditions=list(way.conditions),
        consent=way.consent,
        parts=parts,
        labels=_labels(before, tried.after),
        price=sum_of(parts),
        follows=tried.follows,
        why=way.why,
        steps=sum(len(stage.steps) for stage in work.stages),
        work=work,
        operations=tried.operations,
    )


def _reasons_against(before: Report, after: Report) -> list[Verdict]:
    """What a way brings that must be mended, else what of the connection cannot be told with it."""
    told = [item for item in _new(before, after, "cannot_tell") if item.code in OF_THE_CONNECTION]
    return list(_new(before, after, "must_fix")) or told


def _carried_on(
    document: dict[str, Any], checked: Checked, way: Way, drawn: DrawnSource | None
) -> tuple[Operation, ...]:
    """The operations of a way, with what it draws on the site as the first of them leave it; of a drawn source, with its facts."""
    operations = way.operations
    if way.then is not None:
        made_room = checked(apply(document, list(operations)))
        operations = (*operations, *way.then(Receiver(made_room.site, made_room.rules, way.enclosure_id)))
    return drawn.brought_along(operations) if drawn is not None else operations


def _not_drawn(way: Way) -> WayOut:
    return WayOut(
        kind=way.kind,
        title=way.title,
        outcome="cannot_tell" if way.by_hand else "fails",
        reasons=[ReasonOut(name="", text=way.refused, section="")],
        rules=[],
        largest_a="",
        short_by_a="",
        conditions=list(way.conditions),
        consent=way.consent,
        parts=[],
        labels=[],
        price=None,
        follows=[],
        why=way.why,
        steps=0,
        work=OrderOfWork(stages=[]),
        operations=[],
    )


def _new(before: Report, after: Report, outcome: str) -> Iterator[Verdict]:
    """The findings of an outcome that were not there before; of one thing they may be told in other words."""
    known = {(item.code, item.id) for item in before.findings if item.outcome == outcome}
    yield from (item for item in after.findings if item.outcome == outcome and (item.code, item.id) not in known)


def _reason(report: Report, verdict: Verdict) -> ReasonOut:
    return ReasonOut(name=thing_name(report.site, verdict.id), text=verdict.text, section=verdict.section)


def _source_of(operations: tuple[Operation, ...], report: Report) -> Source:
    added = next(item.thing["id"] for item in operations if isinstance(item, Insert) and item.list == "sources")
    return report.site.sources[added]


def _rules(report: Report, source: Source) -> Iterator[RuleOut]:
    """The rules of every bus that the source pushes into on its way to the service, from its own outward."""
    for enclosure_id, answer in reversed(list(report.panels.items())):
        if source.id not in report.site.sources_beneath.get(enclosure_id, {}):
            continue
        yield from (_rule(report, enclosure_id, rule) for rule in answer.bus_rules)


def _rule(report: Report, enclosure_id: str, rule: BusRule) -> RuleOut:
    return RuleOut(
        place=name_of(report.site, enclosure_id),
        rule=rule.title,
        section=report.rules.section(rule.key),
        passes=rule.passes,
        why=rule.why,
        total=float(rule.total.number) if rule.total is not None else None,
        limit=float(rule.limit.number),
        largest_a=rule.largest.text if rule.largest is not None else "",
    )


def _labels(before: Report, after: Report) -> list[str]:
    known = {(sign.enclosure_id, sign.words) for sign in signs_due(before)}
    return [
        f"{name_of(after.site, sign.enclosure_id)}: {sign.words}"
        for sign in signs_due(after)
        if (sign.enclosure_id, sign.words) not in known
    ]
