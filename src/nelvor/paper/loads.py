"""The loads on paper: what stands and what is proposed side by side, itemised, each line with its section."""

from __future__ import annotations

from reportlab.platypus import Table

from nelvor.clauses.calculated_load import Group, LevelLoad
from nelvor.clauses.demand import DemandLine
from nelvor.judges.level_loads import LoadUnknown
from nelvor.paper.schedule import NOT_KNOWN, schedule
from nelvor.report.check import Report
from nelvor.report.words import METHOD_OF_LOADS, group_name
from nelvor.topology.names import name_of

HEAD = ("At", "Load", "Stands, connected", "calculated", "Proposed, connected", "calculated", "Section, per leg")
SHARES = (15, 30, 12, 12, 13, 12, 40)

Level = LevelLoad | LoadUnknown | None
Lines = dict[tuple[str, str], DemandLine]


def loads_schedule(proposed: Report, existing: Report, width: float) -> Table:
    """Return the loads of every level in walking order; a level that nothing new enters has its total alone."""
    rows = [
        row for enclosure_id in proposed.site.walking_order for row in _level_rows(proposed, existing, enclosure_id)
    ]
    return schedule(HEAD, rows, SHARES, width)


def _level_rows(proposed: Report, existing: Report, enclosure_id: str) -> list[list[str]]:
    name = name_of(proposed.site, enclosure_id)
    after, before = proposed.levels.get(enclosure_id), existing.levels.get(enclosure_id)
    if not isinstance(after, LevelLoad):
        return [[name, NOT_KNOWN if after is None else f"{NOT_KNOWN}: {after.reason.reason}", "", "", "", "", ""]]
    rows = [] if _passes_through(proposed, after) else _items(proposed, existing, after, before)
    legs = ", ".join(f"{leg.leg} {leg.actual.text} A (design {leg.design.text} A)" for leg in after.legs)
    return [
        *([name, *row] for row in rows),
        [name, "Total", *_total(before), *_total(after), f"{legs}, neutral {after.neutral.text} A"],
    ]


def _passes_through(report: Report, level: LevelLoad) -> bool:
    """Tell whether one level beneath carries all that this one does."""
    for run in report.site.runs_from.get(level.enclosure_id, []):
        beneath = report.levels.get(report.site.downstream_of(run))
        if isinstance(beneath, LevelLoad) and beneath.tally == level.tally:
            return True
    return False


def _total(level: Level) -> tuple[str, str]:
    if level is None:
        return "not there", ""
    if isinstance(level, LoadUnknown):
        return NOT_KNOWN, ""
    return f"{level.connected_va.text} VA", f"{level.demand_va.text} VA"


def _items(proposed: Report, existing: Report, after: LevelLoad, before: Level) -> list[list[str]]:
    new = _lines(proposed, after)
    old = _lines(existing, before) if isinstance(before, LevelLoad) else {}
    rows = []
    for key in dict.fromkeys([*old, *new]):
        line = new.get(key) or old[key]
        rows.append([f"{key[0]}: {key[1]}", *_values(old.get(key)), *_values(new.get(key)), line.demand_va.section])
    return rows


def _lines(report: Report, level: LevelLoad) -> Lines:
    return {(_heading(report, group), line.label): line for group in level.groups for line in group.lines}


def _heading(report: Report, group: Group) -> str:
    return f"{group_name(report, group)}, {METHOD_OF_LOADS[group.method]}"


def _values(line: DemandLine | None) -> tuple[str, str]:
    return (f"{line.connected_va.text} VA", f"{line.demand_va.text} VA") if line else ("–", "–")
