"""The load sheet's formulas, worked out here by a small evaluator, give the totals that we show."""

import io
import re
import unittest

from openpyxl import load_workbook

from nelvor.clauses.calculated_load import LevelLoad
from nelvor.demo import demo_job
from nelvor.exchange.load_sheet import load_sheet_xlsx
from nelvor.model.parse import parse_value
from nelvor.report.check import check
from nelvor.topology.names import name_of
from tests.support.jobs import JobBuilder, bakery, changed, orchard


def farm():
    """Two farm buildings with a motor, and what runs together or now and then."""
    builder = JobBuilder()
    builder.job["settings"]["other_load_method"] = "farm"
    builder.service(main_a=400.0)
    for name, va in (("barn", 30_000.0), ("shed", 9_000.0)):
        builder.add("buildings", f"{name}-building", name=name.capitalize(), use="farm")
        builder.box(name, "service", building=f"{name}-building")
        builder.load(name, va, without_diversity=False)
        builder.load(name, 10.0, unit="hp", category="motor", without_diversity=True)
    return builder.document()


def two_units():
    """Two dwelling units alike, taken together."""
    builder = JobBuilder()
    builder.job["settings"]["multifamily_optional"] = True
    builder.service(main_a=200.0)
    for unit in ("upper", "lower"):
        builder.add("dwelling_units", unit, name=unit)
        for amount, unit_of, category in (
            (1_500.0, "ft2", "lighting_area"),
            (12.0, "kW", "range"),
            (5.0, "kW", "cooling"),
        ):
            builder.load("service", amount, unit=unit_of, category=category, dwelling_unit_id=unit)
    return builder.document()


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


def totals(book) -> list[tuple[str, str, str]]:
    """Return place, label and cell of every total."""
    return [
        (row[0].value, row[2].value, row[4].coordinate)
        for row in book["Load sheet"].iter_rows(min_row=5, max_col=6)
        if row[4].value is not None
    ]


class LoadSheet(unittest.TestCase):
    def setUp(self):
        self.report = check(demo_job())
        self.book = load_workbook(io.BytesIO(load_sheet_xlsx(self.report)))

    def same_totals(self, report):
        book = load_workbook(io.BytesIO(load_sheet_xlsx(report)))
        evaluator = Evaluator(book)
        found = {(place, label): evaluator.value("Load sheet", cell) for place, label, cell in totals(book)}
        for enclosure_id, level in report.levels.items():
            assert isinstance(level, LevelLoad)
            name = name_of(report.site, enclosure_id)
            self.assertAlmostEqual(found[name, "Total"], float(level.demand_va.number), places=6)
            self.assertAlmostEqual(found[name, "Neutral, A"], float(level.neutral.number), places=6)
            for leg in level.legs:
                self.assertAlmostEqual(found[name, f"{leg.leg}, A"], float(leg.actual.number), places=6)
        for row in book["Load sheet"].iter_rows(min_row=5, max_col=5):
            if row[4].value is not None:
                self.assertTrue(str(row[4].value).startswith("="))

    def test_control_characters_of_a_name_are_left_out(self):
        document = parse_value(changed(orchard(), lambda job: job.update(name="\x1b[31mred")))
        book = load_workbook(io.BytesIO(load_sheet_xlsx(check(document))))
        self.assertEqual(book["Load sheet"]["A1"].value, "[31mred")

    def test_every_total_is_a_formula_and_comes_out_as_ours(self):
        self.same_totals(self.report)

    def test_by_every_method(self):
        for name, job in (("bakery", parse_value(bakery())), ("farm", farm()), ("two units", two_units())):
            for edition in ("2017", "2020", "2023"):
                with self.subTest(name, edition=edition):
                    settings = job.settings.model_copy(update={"edition": edition})
                    self.same_totals(check(job.model_copy(update={"settings": settings})))

    def test_a_changed_input_changes_the_total(self):
        sheet = self.book["House panel"]
        for row in sheet.iter_rows(min_row=2, max_col=3):
            if row[1].value == "Dryer nameplate":
                row[2].value = row[2].value + 1000
        before = float(self.report.levels["house-panel"].demand_va.number)
        cell = next(cell for place, label, cell in totals(self.book) if (place, label) == ("House panel", "Total"))
        self.assertAlmostEqual(Evaluator(self.book).value("Load sheet", cell), before + 1000, places=6)

    def test_texts_that_look_like_formulas_are_neutralised(self):
        def spoil(job):
            job["name"] = "=HYPERLINK(1)"
            for box in job["enclosures"]:
                box["name"] = f"+{box['name']}"

        report = check(parse_value(changed(orchard(), spoil)))
        book = load_workbook(io.BytesIO(load_sheet_xlsx(report)))
        self.assertEqual(book["Load sheet"]["A1"].value, "'=HYPERLINK(1)")
        for row in book["Load sheet"].iter_rows(max_col=3):
            for cell in row:
                self.assertFalse(str(cell.value).startswith(("=", "+")), cell.value)
