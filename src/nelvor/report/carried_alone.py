"""What a supply of one's own carries by itself once circuits have moved behind it, leg by leg against what it gives."""

from __future__ import annotations

from nelvor.clauses.calculated_load import LevelLoad
from nelvor.judges.verdict import Outcome
from nelvor.report.check import Report
from nelvor.report.sent import Wire
from nelvor.topology.names import name_of


class LegCarriedOut(Wire):
    """The calculated load of one leg in A, before and after; None where it is not known."""

    leg: str
    before_a: float | None
    after_a: float | None


class CarriedAloneOut(Wire):
    """``name`` is where the supply comes in; ``supply_a`` is what it gives on each line, None where its plate is not read."""

    name: str
    legs: list[LegCarriedOut]
    supply_a: float | None
    outcome: Outcome
    text: str


def carried_alone(before: Report, after: Report, enclosure_id: str) -> CarriedAloneOut | None:
    """Return what is carried where a standby supply comes in, at an enclosure or nearest ahead of it; None without one."""
    place = _comes_in_at(after, enclosure_id)
    if place is None:
        return None
    answer = after.of("standby")[place]
    verdict = next(item for item in answer.verdicts if item.code == "standby_capacity")
    supply = answer.figures.get("standby_supply")
    legs_after, legs_before = _by_leg(after, place), _by_leg(before, place)
    return CarriedAloneOut(
        name=name_of(after.site, place),
        legs=[
            LegCarriedOut(leg=leg, before_a=legs_before.get(leg), after_a=legs_after.get(leg))
            for leg in sorted(legs_after.keys() | legs_before.keys())
        ],
        supply_a=float(supply.number) if supply is not None else None,
        outcome=verdict.outcome,
        text=verdict.text,
    )


def _comes_in_at(report: Report, enclosure_id: str) -> str | None:
    runs = report.site.runs_to_source(enclosure_id)
    ahead = [enclosure_id, *(report.site.upstream_of(run) for run in runs)]
    return next((item for item in ahead if item in report.of("standby")), None)


def _by_leg(report: Report, enclosure_id: str) -> dict[str, float]:
    level = report.levels.get(enclosure_id)
    return {item.leg: float(item.actual.number) for item in level.legs} if isinstance(level, LevelLoad) else {}
