import io
import unittest

from pypdf import PdfReader
from reportlab.graphics.shapes import Line, Rect, String

from nelvor.demo import demo_job
from nelvor.model.parse import parse_value
from nelvor.paper.one_line import HEAVY, LEGEND, THIN, one_line
from nelvor.paper.permit import permit_sheet
from nelvor.report.check import check
from nelvor.report.text import report_text
from nelvor.report.wire import report_out
from nelvor.report.words import CAUTIONS
from tests.support.arrangements import Arrangement
from tests.support.jobs import JobBuilder, chain, orchard, report_of


def text_of(report) -> str:
    reader = PdfReader(io.BytesIO(permit_sheet(report, check(report.site.document, "existing"), 7)))
    return " ".join("\n".join(page.extract_text() for page in reader.pages).split())


class PermitSheet(unittest.TestCase):
    def test_it_holds_every_part(self):
        text = text_of(check(demo_job()))
        for words in (
            "Permit sheet: Orchard at Quince Hollow",
            "One-line, proposed",
            "Loads",
            "Feeder schedule",
            "Bonding and grounding",
            "Open findings",
            "Cautions",
            "revision 7",
            "Hollow County",
            "2023 rules",
        ):
            self.assertIn(words, text)
        for caution in CAUTIONS:
            self.assertIn(caution, text)

    def test_devices_are_listed_with_poles_ratings_and_what_is_new(self):
        text = text_of(check(demo_job()))
        self.assertIn("Devices", text)
        self.assertIn("Greenhouse feeder, to Greenhouse panel breaker 2 60 A", text)
        self.assertIn("Barn main, to Barn panel breaker 2 125 A", text)
        builder = JobBuilder()
        builder.service()
        builder.box("panel", "service", feeder_a=None)
        builder.load("panel", 5_000.0)
        text = text_of(builder.report())
        self.assertIn("Feeder, to panel breaker 2 not read (", text)
        builder.job["devices"][-1]["standing"] = "added"
        self.assertIn("A, chosen", text_of(builder.report()))

    def test_new_work_is_drawn_heavier_than_what_stands(self):
        job = orchard()
        drawing = one_line(report_of(job), 700.0)
        weights = {shape.strokeWidth for shape in drawing.contents if isinstance(shape, Rect)}
        self.assertEqual(weights, {HEAVY, THIN})
        self.assertIn(LEGEND, text_of(report_of(job)))

    def test_stretches_and_boxes_are_listed_along_the_runs(self):
        text = text_of(check(demo_job("bakery")))
        for words in (
            "Along the runs",
            "over the ovens",
            "5 ft",
            "45 °C",
            "Pull box at the corner",
            "15 in wide, 15 in high",
        ):
            self.assertIn(words, text)
        self.assertNotIn("Along the runs", text_of(check(demo_job())))
        self.assertIn("Pull box at the corner: at least 15 in wide, 15 in high", report_text(check(demo_job("bakery"))))
        self.assertNotIn("BOXES", report_text(check(demo_job())))

    def test_a_stretch_and_a_box_that_are_not_known_are_said_to_be(self):
        builder = JobBuilder()
        builder.service()
        builder.box("panel", "service")
        builder.load("panel", 9_000.0)
        buried = {"placement": "underground", "method": "pvc40", "burial_location": "general", "cover_in": 18.0}
        builder.add("stretches", "s", run_id="to-panel", length_ft=20.0, other_current_carrying=2, **buried)
        builder.add("boxes", "b", name="Box")
        builder.add("pulls", "p", box_id="b", run_id="to-panel")
        text = text_of(builder.report())
        self.assertIn("20 ft, underground, PVC schedule 40, 1 in, 2 others carrying, 18 in of cover", text)
        self.assertIn("Box cannot tell", text)

    def test_screen_command_line_paper_and_load_totals_show_the_same_figures(self):
        report = check(demo_job())
        screen, line, paper = report_out(report), report_text(report), text_of(report)
        for enclosure_id, enclosure in screen.enclosures.items():
            demand = enclosure.level.demand.value
            self.assertIn(f"{enclosure.name}: {demand} VA", line)
            self.assertIn(f"{demand} VA", paper)
            self.assertEqual(demand, report.levels[enclosure_id].demand_va.text)
            own = [item.demand.number for group in enclosure.level.groups for item in group.lines]
            self.assertEqual(sum(own), enclosure.level.demand.number)
            for leg in enclosure.level.legs:
                self.assertIn(f"{leg.leg} {leg.load.value} A", line)
                self.assertIn(f"{leg.leg} {leg.load.value} A", paper)
        for run in screen.runs.values():
            figures = run.chosen.figures
            if run.kind == "utility":
                continue
            tag = " · ".join(
                f"{figures[part].value}{mark}"
                for part, mark in (("hots", ""), ("neutral", " N"), ("ground", " G"))
                if part in figures
            )
            self.assertIn(tag, line)
            self.assertIn(tag, paper)
            self.assertIn(f"{run.name} ", paper)

    def test_the_one_line_is_drawn_not_pasted(self):
        reader = PdfReader(io.BytesIO(permit_sheet(check(demo_job()), check(demo_job(), "existing"))))
        self.assertEqual(sum(len(page.images) for page in reader.pages), 0)
        self.assertIn(b" l", reader.pages[0].get_contents().get_data())

    def test_a_source_stands_beyond_what_it_feeds(self):
        line = "U -hn- S(main) -hng- T.n(solid) ; G(fixed,brk) -hng- T.s ; T.l -hng- P"
        drawing = one_line(check(parse_value(Arrangement(line).job)), 700)
        at = {shape.text: (shape.x, shape.y) for shape in drawing.contents if isinstance(shape, String)}
        self.assertGreater(at["g"][0], at["t"][0])
        self.assertLess(at["g"][1], at["t"][1])
        right = max(shape.x2 for shape in drawing.contents if isinstance(shape, Line) and shape.y2 < at["t"][1] - 40)
        self.assertAlmostEqual(right, at["g"][0] - 32, delta=1)  # its run ends at its box

    def test_odd_names_empty_jobs_and_long_chains_print(self):
        odd = orchard()
        odd["name"] = "<b>&amp; 🍎 بستان " + "x" * 180
        odd["enclosures"][0]["name"] = "<script>alert(1)</script>" * 8
        for name, job in (("odd", odd), ("chain", chain(12)), ("empty", JobBuilder().job)):
            with self.subTest(name):
                self.assertIn("Cautions", text_of(report_of(job)))

    def test_what_cannot_be_told_is_said_so(self):
        job = orchard()
        job["loads"][0]["amount"] = None
        self.assertIn("cannot tell", text_of(check(parse_value(job))))
