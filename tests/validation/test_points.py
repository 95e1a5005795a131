"""The subtle points: each names cases that are there, on more than one side of it."""

import ast
import tomllib
import unittest
from pathlib import Path

HERE = Path(__file__).parent


def cases_of(name: str) -> list[dict]:
    return tomllib.loads((HERE / name).read_text())["case"]


def test_names() -> set[str]:
    """The names of all tests of the rules and reports, read from their sources."""
    found = set()
    for folder in ("clauses", "judges", "topology", "report"):
        for path in (HERE.parent / folder).glob("test_*.py"):
            found |= {node.name for node in ast.walk(ast.parse(path.read_text())) if isinstance(node, ast.FunctionDef)}
    return found


class SubtlePoints(unittest.TestCase):
    def setUp(self):
        self.points = tomllib.loads((HERE / "points.toml").read_text())["point"]

    def test_each_case_that_a_point_names_is_there(self):
        there = {case["name"] for case in cases_of("cases.toml")} | test_names()
        there |= {f"{case['figure']}: {case['name']}" for case in cases_of("figures.toml")}
        for point in self.points:
            self.assertEqual([name for name in point["cases"] if name not in there], [], point["says"])

    def test_each_point_has_more_than_one_case(self):
        self.assertGreaterEqual(len(self.points), 40)
        for point in self.points:
            self.assertGreaterEqual(len(set(point["cases"])), 2, point["says"])

    def test_more_than_ten_cases_differ_by_edition(self):
        everything = [*cases_of("cases.toml"), *cases_of("figures.toml")]
        by_edition = [case for case in everything if isinstance(case["expect"], dict)]
        self.assertGreaterEqual(len([case for case in by_edition if len(set(case["expect"].values())) > 1]), 10)
