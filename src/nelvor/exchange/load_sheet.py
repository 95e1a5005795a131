"""The load sheet as XLSX with live formulas: every total is worked out again by the spreadsheet from the inputs.

A first sheet reads like the paper one; behind it stands one sheet of working for each level, a row for
each step. Cells of steps hold formulas, so that a changed input changes everything after it.
"""

from __future__ import annotations

import io
import re
from collections.abc import Mapping
from fractions import Fraction

from openpyxl import Workbook
from openpyxl.styles import Alignment, Font
from openpyxl.worksheet.worksheet import Worksheet

from nelvor.clauses.calculated_load import LevelLoad
from nelvor.exchange.cells import for_spreadsheet
from nelvor.report.check import Report
from nelvor.report.words import CAUTIONS, METHOD_OF_LOADS, group_name
from nelvor.topology.names import name_of
from nelvor.working import Figure
from nelvor.working.explain import Line, numbered

BOLD = Font(bold=True)
FIRST_STEP_ROW = 2
VALUE_COLUMN = "C"
LONGEST_SHEET_NAME = 31
HEAD_ROWS, FULL_ROW = 4, 6
SIGNS = {"add": "+", "subtract": "-", "multiply": "*", "divide": "/"}
FUNCTIONS = {"greatest": "MAX", "least": "MIN"}


def load_sheet_xlsx(report: Report) -> bytes:
    """Return the load sheet of a report as an XLSX file."""
    book = Workbook()
    front = book.active
    assert front is not None  # a new workbook has one sheet
    front.title = "Load sheet"
    taken = {front.title.lower()}
    rows: list[tuple[object, ...]] = [
        (for_spreadsheet(report.site.document.name),),
        (f"{report.signature.edition} rules, {report.state}; rulebook {report.signature.rulebook}",),
        (),
        ("At", "Method", "Load", "Connected, VA", "Calculated, VA", "Section", "Factor"),
    ]
    bold = [1, 4]
    for enclosure_id in report.site.walking_order:
        level = report.levels.get(enclosure_id)
        name = name_of(report.site, enclosure_id)
        if not isinstance(level, LevelLoad):
            reason = f"cannot tell: {level.reason.reason}" if level else "cannot tell"
            rows.append((for_spreadsheet(name), "", for_spreadsheet(reason)))
            continue
        sheet_name = _sheet_name(name, taken)
        rows += _level_rows(report, name, level, _working_sheet(book.create_sheet(sheet_name), level))
        bold.append(len(rows) - 1 - len(level.legs))
    rows += [(), *((text,) for text in CAUTIONS)]
    for number, row in enumerate(rows, 1):
        front.append(list(row))
        if len(row) == FULL_ROW and number > HEAD_ROWS:
            front[f"G{number}"] = f"=IF(D{number}>0,E{number}/D{number},0)"
            front[f"G{number}"].number_format = "0.0%"
    for number in bold:
        for cell in front[number]:
            cell.font = BOLD
    for column, width in zip("ABCDEFG", (26, 34, 38, 16, 16, 18, 10), strict=True):
        front.column_dimensions[column].width = width
    stream = io.BytesIO()
    book.save(stream)
    return stream.getvalue()


def _level_rows(report: Report, name: str, level: LevelLoad, cells: Mapping[Figure, str]) -> list[tuple[object, ...]]:
    rows: list[tuple[object, ...]] = []
    for group in level.groups:
        method = f"{group_name(report, group)}: {METHOD_OF_LOADS[group.method]}"
        for line in group.lines:
            rows.append(
                (
                    for_spreadsheet(name),
                    for_spreadsheet(method),
                    for_spreadsheet(line.label),
                    cells[line.connected_va],
                    cells[line.demand_va],
                    line.demand_va.section,
                )
            )
    total = ("Total", cells[level.connected_va], cells[level.demand_va])
    rows.append((for_spreadsheet(name), "", *total))
    for leg in level.legs:
        rows.append((for_spreadsheet(name), "", f"{leg.leg}, A", "", cells[leg.actual]))
    rows.append((for_spreadsheet(name), "", "Neutral, A", "", cells[level.neutral]))
    return rows


def _cell(step: int) -> str:
    return f"{VALUE_COLUMN}{FIRST_STEP_ROW + step}"


def _sheet_name(name: str, taken: set[str]) -> str:
    base = re.sub(r"[^\w .-]", " ", name).strip()[: LONGEST_SHEET_NAME - 4] or "Level"
    number, found = 1, base
    while found.lower() in taken:
        number += 1
        found = f"{base} {number}"
    taken.add(found.lower())
    return found


def _working_sheet(sheet: Worksheet, level: LevelLoad) -> dict[Figure, str]:
    """Write the working of a level, and return where each of its figures stands."""
    lines = numbered(level.recorder.steps)
    sheet.append(["Step", "What", "Value", "Unit", "Section", "Source"])
    for cell in sheet[1]:
        cell.font = BOLD
    for line in lines:
        step = line.step
        sheet.append(
            [
                line.number + 1,
                for_spreadsheet(step.label),
                formula(line),
                step.unit,
                step.section,
                for_spreadsheet(step.source),
            ]
        )
    for column, width in zip("ABCDEF", (6, 46, 16, 12, 18, 44), strict=True):
        sheet.column_dimensions[column].width = width
    sheet.freeze_panes = "A2"
    for row in sheet.iter_rows(min_row=2, max_col=3, min_col=3):
        row[0].alignment = Alignment(horizontal="right")
    return {line.step: f"='{sheet.title}'!{_cell(line.number)}" for line in lines}


def formula(line: Line) -> object:
    """Return a step as a spreadsheet cell: a formula over the cells of its inputs, or its value."""
    step, cells = line.step, [_cell(number) for number in line.inputs]
    if step.operation in SIGNS:
        return f"={SIGNS[step.operation].join(cells)}"
    if step.operation in FUNCTIONS:
        return f"={FUNCTIONS[step.operation]}({','.join(cells)})"
    if step.operation == "at_least":
        return f'=IF({cells[0]}>={cells[1]},"yes","no")'
    if isinstance(step.value, Fraction):
        return int(step.value) if step.value.denominator == 1 else float(step.value)
    return for_spreadsheet(str(step.value))
