"""Existing and proposed load of each level side by side, with the difference and what is left."""

from __future__ import annotations

from fractions import Fraction

from nelvor.clauses.calculated_load import LevelLoad
from nelvor.judges.level_loads import LoadUnknown
from nelvor.report.check import Report
from nelvor.report.sent import Wire
from nelvor.topology.names import name_of
from nelvor.working import Figure
from nelvor.working.number import read


class SideOut(Wire):
    """A level in one state. Figures in VA and A as text; ``gap`` says why there are none."""

    connected_va: str
    demand_va: str
    leg: str
    load_a: str
    design_a: str
    neutral_a: str
    rating_a: str
    spare_a: str
    over: bool
    gap: str


class QuantityOut(Wire):
    """One quantity of a level in both states, "" where it is not known, and the difference."""

    name: str
    unit: str
    existing: str
    proposed: str
    more: str


class LevelRowOut(Wire):
    """One level: ``existing`` or ``proposed`` is None where it does not stand in that state."""

    id: str
    name: str
    depth: int
    existing: SideOut | None
    proposed: SideOut | None
    more_va: str
    more_a: str
    quantities: list[QuantityOut]


class LevelTableOut(Wire):
    levels: list[LevelRowOut]


def level_table(existing: Report, proposed: Report) -> LevelTableOut:
    """Return every level of both states in walking order."""
    order = list(dict.fromkeys([*proposed.site.walking_order, *existing.site.walking_order]))
    return LevelTableOut(levels=[_row(enclosure_id, existing, proposed) for enclosure_id in order])


def _row(enclosure_id: str, existing: Report, proposed: Report) -> LevelRowOut:
    home = proposed if enclosure_id in proposed.site.enclosures else existing
    before, after = (_level(report, enclosure_id) for report in (existing, proposed))
    more_va = more_a = ""
    if after is not None:
        va, amperes = after.demand_va.number, after.worst.actual.number
        if before is not None:
            va, amperes = va - before.demand_va.number, amperes - before.worst.actual.number
        if before is not None or enclosure_id not in existing.site.enclosures:
            more_va, more_a = _signed(va, "VA"), _signed(amperes, "A")
    return LevelRowOut(
        id=enclosure_id,
        name=name_of(home.site, enclosure_id),
        depth=len(home.site.runs_to_source(enclosure_id)),
        existing=_side(existing, enclosure_id),
        proposed=_side(proposed, enclosure_id),
        more_va=more_va,
        more_a=more_a,
        quantities=_quantities(before, after),
    )


def _quantities(before: LevelLoad | None, after: LevelLoad | None) -> list[QuantityOut]:
    """Return what is connected, calculated, and on each leg and the neutral, in both states."""
    sides = [_figures_of(level) if level else {} for level in (before, after)]
    found = []
    for name in dict.fromkeys([*sides[1], *sides[0]]):
        then, now = (side.get(name) for side in sides)
        more = _signed(now.number - then.number, now.unit) if then and now else ""
        figure = now or then
        assert figure is not None  # the name is of one of the two sides
        found.append(
            QuantityOut(
                name=name,
                unit=figure.unit,
                existing=then.text if then else "",
                proposed=now.text if now else "",
                more=more,
            )
        )
    return found


def _figures_of(level: LevelLoad) -> dict[str, Figure]:
    legs = {leg.leg: leg.actual for leg in level.legs}
    return {"Connected": level.connected_va, "Calculated": level.demand_va, **legs, "Neutral": level.neutral}


def _level(report: Report, enclosure_id: str) -> LevelLoad | None:
    level = report.levels.get(enclosure_id)
    return level if isinstance(level, LevelLoad) else None


def _signed(value: Fraction, unit: str) -> str:
    text = read(value, unit)
    return f"+{text}" if value > 0 else text.replace("-", "−")


def _side(report: Report, enclosure_id: str) -> SideOut | None:
    if enclosure_id not in report.site.enclosures:
        return None
    level = report.levels.get(enclosure_id)
    figures = report.capacity[enclosure_id].figures
    known = level if isinstance(level, LevelLoad) else None
    gap = "" if known else "Nothing is known of its load."
    if isinstance(level, LoadUnknown):
        gap = f"{level.reason.reason} {level.reason.remedy}"
    return SideOut(
        connected_va=known.connected_va.text if known else "",
        demand_va=known.demand_va.text if known else "",
        leg=known.worst.leg if known else "",
        load_a=known.worst.actual.text if known else "",
        design_a=known.worst.design.text if known else "",
        neutral_a=known.neutral.text if known else "",
        rating_a=figures["rating"].text if "rating" in figures else "",
        spare_a=figures["spare"].text.replace("-", "−") if "spare" in figures else "",
        over="spare" in figures and figures["spare"].number < 0,
        gap=gap,
    )
