"""The sheet for the utility: what the design tells is filled in, what it does not is a line to write on, with where it is read."""

import io
import json
import unittest
from datetime import date

from pypdf import PdfReader

from nelvor.demo import demo_job
from nelvor.model.parse import parse_value
from nelvor.paper.utility_application import application_sheet
from nelvor.report.check import check
from nelvor.report.utility_application import utility_application
from tests.support.jobs import orchard, report_of


class UtilityApplication(unittest.TestCase):
    def setUp(self):
        self.job = json.loads(demo_job("orchard-sources").model_dump_json())

    def entries(self, title):
        parts = {part.title: part for part in utility_application(check(parse_value(self.job), "proposed"))}
        return {entry.asked: (entry.told, entry.read_at) for entry in parts[title].entries}

    def test_the_site_and_its_service(self):
        site = self.entries("Site")
        self.assertEqual(site["Address"], ("Quince Hollow Road, lot 3", ""))
        self.assertEqual(site["Account"], ("", "the utility's bill"))
        service = self.entries("Service")
        self.assertEqual(service["Supply"][0], "120/240 V, one-phase, three wires")
        self.assertEqual(service["Service disconnect: Barn disconnect"][0], "main 125 A; calculated load 97.1 A")
        self.job["settings"]["owner"] = ""
        self.assertEqual(self.entries("Site")["Owner"], ("", "the job"))

    def test_a_source_with_the_rule_that_lets_it_in(self):
        told = self.entries("Source: Inverter")
        self.assertEqual(told["Rated output"], ("32 A", ""))
        self.assertEqual(told["Runs beside the utility"], ("yes", ""))
        self.assertEqual(told["Joined at"][0], "Barn panel")
        self.assertIn("165 A of 180 A", told["Rule, 705.12(B)(2)"][0])
        self.assertNotIn("not settled", told["Rule, 705.12(B)(2)"][0])
        next(item for item in self.job["sources"] if item["kind"] == "inverter")["rated_output_a"] = 60.0
        again = self.entries("Source: Inverter")
        rule = next(value for asked, (value, _) in again.items() if asked.startswith("Rule"))
        self.assertIn("(not settled)", rule)

    def test_a_standby_set_over_its_gear(self):
        told = self.entries("Source: Standby generator")
        self.assertIn("over transfer gear (automatic, leaves the neutral", told["Joined at"][0])
        self.assertFalse([asked for asked in told if asked.startswith("Rule")])

    def test_without_a_source_there_is_nothing_to_apply_for(self):
        self.assertEqual(utility_application(report_of(orchard())), [])
        text = self.text(application_sheet(report_of(orchard()), 1, date(2026, 11, 27)))
        self.assertIn("nothing is to be applied for", text)

    def test_the_sheet_holds_it_all(self):
        report = check(parse_value(self.job), "proposed")
        text = self.text(application_sheet(report, 3, date(2026, 11, 27)))
        for words in ("Revision 3, 2026-11-27", "32 A", "(the meter)", "Nothing is connected before", "signature"):
            self.assertIn(words, text)

    def text(self, content):
        return " ".join(" ".join(page.extract_text() for page in PdfReader(io.BytesIO(content)).pages).split())
