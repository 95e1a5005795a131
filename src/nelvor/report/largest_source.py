"""The largest output that a drawn source could have where it is joined, by what stands on its way to the service."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction

from nelvor.clauses.bus_sources import BusRule
from nelvor.judges.source_currents import output_through
from nelvor.model.things import Source
from nelvor.report.check import Report
from nelvor.topology.pushed_in import source_device
from nelvor.working import exact


def largest_output(report: Report, source: Source) -> Fraction | None:
    """Return the largest output in A of a source where it stands, all others as they are; None where nothing bounds it.

    What comes with it, its device and its wires, is taken as large as it has to be; what stands bounds it: every bus by
    the rule that takes most of those whose place fits, every feeder by its device and the size that was read, a joint,
    the service.
    """
    return min(_bounds(report, source), default=None)


def _bounds(report: Report, source: Source) -> Iterator[Fraction]:
    site = report.site
    for enclosure_id in site.walking_order:
        beneath = site.sources_beneath.get(enclosure_id, {})
        if source.id not in beneath:
            continue
        others = _others(report, source, list(beneath.values()), enclosure_id)
        rules = report.panels[enclosure_id].bus_rules
        if rules and all(rule.passes is not True or _bounds_it(rule) for rule in rules):
            yield max(
                (bound for rule in rules for bound in _by_rule(report, source, rule, others)), default=Fraction(0)
            )
        yield from _by_feeder(report, enclosure_id, others)
        yield from _by_service(report, enclosure_id, others)


def _bounds_it(rule: BusRule) -> bool:
    """Tell whether a rule says how much more it would take: by output, or by the sum of the devices."""
    return rule.largest is not None or (rule.key == "bus_breaker_sum" and rule.total is not None)


def _others(report: Report, source: Source, beneath: list[Source], enclosure_id: str) -> Fraction:
    """What the other sources give that come in there."""
    system, lines = report.site.system_at(enclosure_id), len(report.site.legs_at.get(enclosure_id, ()))
    outputs = [
        output_through(report.site, item, system, lines) or Fraction(0)
        for item in beneath
        if item.id != source.id and item.interactive
    ]
    return sum(outputs, Fraction(0))


def _by_rule(report: Report, source: Source, rule: BusRule, others: Fraction) -> Iterator[Fraction]:
    if rule.place is not True:
        return
    if rule.largest is not None:
        yield max(Fraction(0), rule.largest.number - others)
    elif rule.key == "bus_breaker_sum" and rule.total is not None and rule.passes is not None:
        device = source_device(report.site, source)
        own = exact(device.rating_a) if device is not None and device.rating_a is not None else Fraction(0)
        yield _carried_by(report, _standard(report, rule.limit.number - rule.total.number + own))


def _standard(report: Report, most: Fraction) -> Fraction:
    """The largest standard device within a limit."""
    return max((item for item in report.rules.standard_ratings() if item <= most), default=Fraction(0))


def _carried_by(report: Report, rating: Fraction) -> Fraction:
    return rating / report.rules.parameter("source_output_factor").number


def _by_feeder(report: Report, enclosure_id: str, others: Fraction) -> Iterator[Fraction]:
    """The device and the conductors of the run that feeds the enclosure, as far as they stand."""
    run = report.site.feeding_run(enclosure_id)
    tap = report.site.tap_of_run.get(run.id) if run is not None else None
    if tap is not None:
        joined = report.runs[tap.run_id].figures.get("largest_joined")
        yield max(Fraction(0), joined.number - others) if joined is not None else Fraction(0)
    answer = report.runs.get(run.id) if run is not None else None
    if run is None or answer is None or run.standing == "added" or "pushed_back" not in answer.figures:
        return
    device = answer.figures.get("device")
    if device is not None:
        yield max(Fraction(0), _carried_by(report, device.number) - others)
    if run.hot_size is not None and "ampacity" in answer.figures:
        yield max(Fraction(0), _carried_by(report, answer.figures["ampacity"].number) - others)


def _by_service(report: Report, enclosure_id: str, others: Fraction) -> Iterator[Fraction]:
    limit = report.panels[enclosure_id].figures.get("supply_side_limit")
    if limit is None:
        return
    if report.rules.parameter("supply_side_by_devices").value == "1":
        yield max(Fraction(0), _carried_by(report, _standard(report, limit.number)) - others)
    else:
        yield max(Fraction(0), limit.number - others)
