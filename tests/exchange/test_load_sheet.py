"""The load sheet's formulas, worked out here by a small evaluator, give the totals that we show."""

import io
import re
import unittest

from openpyxl import load_workbook

from nelvor.demo import demo_job
from nelvor.exchange.load_sheet import load_sheet_xlsx
from nelvor.model.parse import parse_value
from nelvor.report.check import check
from nelvor.rules.loads import LevelLoad
from nelvor.rules.zones import name_of
from tests.support.jobs import changed, orchard

REFERENCE = re.compile(r"(?:'([^']+)'!)?\b([A-Z]+[0-9]+)\b")


class Evaluator:
    """Works out the formulas of a workbook: references, + − × ÷, MAX, MIN and IF."""

    def __init__(self, book):
        self.book = book
        self.known = {}

    def value(self, sheet: str, cell: str):
        key = (sheet, cell)
        if key not in self.known:
            found = self.book[sheet][cell].value
            self.known[key] = self.work(sheet, found[1:]) if isinstance(found, str) and found.startswith("=") else found
        return self.known[key]

    def work(self, sheet: str, formula: str):
        def replaced(match):
            return repr(self.value(match[1] or sheet, match[2]))

        text = REFERENCE.sub(replaced, formula)
        return eval(
            text, {"__builtins__": {}}, {"MAX": max, "MIN": min, "IF": lambda test, yes, no: yes if test else no}
        )


class LoadSheet(unittest.TestCase):
    def setUp(self):
        self.report = check(demo_job(), alternatives=False)
        self.book = load_workbook(io.BytesIO(load_sheet_xlsx(self.report)))

    def rows(self):
        return [
            (row[0].value, row[2].value, row[4].coordinate)
            for row in self.book["Load sheet"].iter_rows(min_row=5, max_col=6)
            if row[4].value is not None
        ]

    def test_every_total_is_a_formula_and_comes_out_as_ours(self):
        evaluator = Evaluator(self.book)
        found = {(place, label): evaluator.value("Load sheet", cell) for place, label, cell in self.rows()}
        for enclosure_id, level in self.report.levels.items():
            assert isinstance(level, LevelLoad)
            name = name_of(self.report.site, enclosure_id)
            self.assertAlmostEqual(found[name, "Total"], float(level.demand_va.number), places=6)
            self.assertAlmostEqual(found[name, "Neutral, A"], float(level.neutral.number), places=6)
            for leg in level.legs:
                self.assertAlmostEqual(found[name, f"{leg.leg}, A"], float(leg.actual.number), places=6)
        for row in self.book["Load sheet"].iter_rows(min_row=5, max_col=5):
            if row[4].value is not None:
                self.assertTrue(str(row[4].value).startswith("="))

    def test_a_changed_input_changes_the_total(self):
        sheet = self.book["House panel"]
        for row in sheet.iter_rows(min_row=2, max_col=3):
            if row[1].value == "Dryer nameplate":
                row[2].value = row[2].value + 1000
        before = float(self.report.levels["house-panel"].demand_va.number)
        cell = next(cell for place, label, cell in self.rows() if (place, label) == ("House panel", "Total"))
        self.assertAlmostEqual(Evaluator(self.book).value("Load sheet", cell), before + 1000, places=6)

    def test_texts_that_look_like_formulas_are_neutralised(self):
        def spoil(job):
            job["name"] = "=HYPERLINK(1)"
            for box in job["enclosures"]:
                box["name"] = f"+{box['name']}"

        report = check(parse_value(changed(orchard(), spoil)), alternatives=False)
        book = load_workbook(io.BytesIO(load_sheet_xlsx(report)))
        self.assertEqual(book["Load sheet"]["A1"].value, "'=HYPERLINK(1)")
        for row in book["Load sheet"].iter_rows(max_col=3):
            for cell in row:
                self.assertFalse(str(cell.value).startswith(("=", "+")), cell.value)
