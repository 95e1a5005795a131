"""Arrangements of one and of several sources against the decisions of the bond matrix, right and with one thing wrong."""

import csv
import re
import unittest
from pathlib import Path

from nelvor.model.parse import parse_value
from nelvor.report.check import check
from tests.support.arrangements import Arrangement

ROWS = list(csv.DictReader((Path(__file__).parent / "bond_matrix.csv").open()))
NOT_YET = re.compile(r"hyb_240|src_|range_|dryer_|gen_cords|xf_auto|gen_multi")
OF_BONDS = {
    "bond",
    "other_neutral",
    "second_bond",
    "no_bond",
    "ground_missing",
    "jumper_missing",
    "metal_path",
    "neutral_missing",
    "marking",
    "ground_bar",
    "wrong_bar",
}
SAME = {"derived_bond": "bond"}
BOND_MADE = {"bond", "bond_in_source", "existing_three_wire", "supply_side"}
WRONG = re.compile(r"^(?P<change>(?:in|out) [\w.]+|\w+~\w+ with(?:out)? \w|\w+ is (?:solid|switched|through))$")
EDITIONS = ("2017", "2020", "2023")


def decisions_of(row):
    return dict(item.split("=") for item in row["decisions"].lower().split())


def by_relay(row):
    """Sources whose bond a relay makes: one decision over the positions, in some of which the relay is open."""
    return set(re.findall(r"(\w+)\.\w\([^)]*\bopens,relay\b", row["topology"].lower()))


def arrangement(row, edition, gear=None):
    """The arrangement with its bonds as the matrix decides."""
    line = row["topology"].lower()
    for name, way in (gear or {}).items():
        line = re.sub(rf"({name}\.[ng]\([^)]*)(solid|switched|through|opens)", rf"\g<1>{way}", line)
    result = Arrangement(line, edition)
    made = {bond["id"] for bond in result.job["bonds"]}
    for name, decision in decisions_of(row).items():
        if f"{name}-bond" in made and name not in by_relay(row):
            result.bond(name, made=decision in BOND_MADE)
    return result


def with_changes(row, edition, changes):
    """The arrangement with each of a list of changes, as the matrix words them; None where one is told in prose."""
    if not all(WRONG.match(change) for change in changes):
        return None
    gear = {change.split()[0]: change.split()[2] for change in changes if " is " in change}
    result = arrangement(row, edition, gear)
    for change in changes:
        words = change.split()
        if words[0] in ("in", "out"):
            result.bond(words[1], made=words[0] == "in")
        elif words[1] == "without":
            result.without(*words[0].split("~"), words[2])
        elif words[1] == "with":
            result.added(*words[0].split("~"), words[2])
    return result


def judged(job):
    return check(parse_value(job))


def must_fix(report):
    return [item for item in report.findings if item.outcome == "must_fix" and item.code in OF_BONDS]


class BondMatrix(unittest.TestCase):
    def rows(self):
        for row in ROWS:
            for edition in EDITIONS:
                if not NOT_YET.match(row["id"]) and row[f"nec{edition}"] != "none":
                    yield row, edition

    def test_every_decision_and_no_finding_where_all_is_right(self):
        for row, edition in self.rows():
            with self.subTest(arrangement=row["id"], edition=edition):
                report = judged(arrangement(row, edition).job)
                for name, wanted in decisions_of(row).items():
                    bond = report.bonds[name]
                    found = SAME.get(bond.decision, bond.decision)
                    if wanted == "no_neutral" and bond.found == "no_neutral":
                        continue
                    if name in by_relay(row) and wanted == "floating":
                        wanted = "bond_in_source"
                    self.assertEqual(found, wanted, name)
                self.assertEqual([item.text for item in must_fix(report)], [])

    def test_every_wrong_that_is_told_by_a_change(self):
        tried = 0
        for row, edition in self.rows():
            for wrong in filter(None, row["wrong"].split(" | ")):
                change, outcome = wrong.split(" => ")
                result = with_changes(row, edition, change.lower().split(" and "))
                if result is None:
                    continue
                tried += 1
                with self.subTest(arrangement=row["id"], edition=edition, wrong=wrong):
                    found = must_fix(judged(result.job))
                    if outcome.startswith("must_fix"):
                        self.assertNotEqual(found, [])
                    else:
                        self.assertEqual([item.text for item in found], [])
        self.assertGreater(tried, 300)


if __name__ == "__main__":
    unittest.main()
