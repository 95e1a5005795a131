"""Whole sites that were once judged wrongly: each with what is to be found, or not, or worked out there."""

import json
import tomllib
import unittest
from pathlib import Path

from tests.support.jobs import report_of
from tests.validation.test_cases import same

HERE = Path(__file__).parent
CASES = tomllib.loads((HERE / "sites.toml").read_text())["case"]


class ReviewedSites(unittest.TestCase):
    def test_each_site_is_judged_as_by_hand(self):
        for case in CASES:
            with self.subTest(f"{case['says']} ({case['site']})"):
                report = report_of(json.loads((HERE / "sites" / f"{case['site']}.json").read_text()))
                if "finding" in case:
                    self.found(report, **case["finding"])
                elif "silent" in case:
                    said = [(item.code, item.outcome) for item in report.findings if item.code in case["silent"]]
                    self.assertEqual(said, [], case["working"])
                else:
                    self.worked_out(report, case)

    def found(self, report, code, outcome, section, id):
        there = [(item.id, item.outcome, item.section) for item in report.findings if item.code == code]
        self.assertIn((id, outcome, section), there)

    def worked_out(self, report, case):
        subject, _, name = case["figure"].partition("/")
        kind, _, thing_id = subject.partition(":")
        figure = report.of(kind)[thing_id].figures[name]
        value = figure.text if case["expect"] == figure.text else f"{float(figure.number):.9f}"
        self.assertTrue(same(value, case["expect"]), f"{value}, by hand {case['expect']}: {case['working']}")

    def test_each_site_has_a_case_and_each_case_its_working(self):
        there = {path.stem for path in (HERE / "sites").glob("*.json")}
        self.assertEqual(there, {case["site"] for case in CASES})
        self.assertEqual([case["says"] for case in CASES if not case["working"]], [])
