"""The hand-worked cases of the quick figures, in every edition."""

import tomllib
import unittest
from collections import Counter
from pathlib import Path

from nelvor.errors import BadInput, CannotCompute
from nelvor.figures import all_figures, work_out
from tests.validation.test_cases import EDITIONS, same

CASES = tomllib.loads((Path(__file__).parent / "figures.toml").read_text())["case"]


def found(case: dict, edition: str) -> str:
    """Return the figure that a case asks for, without the rounding of the screen where it is a number."""
    answer = work_out(case["figure"], {"edition": edition, **case["inputs"]})
    if "remark" in case and not any(case["remark"] in item.text for item in answer.remarks):
        return f"no remark {case['remark']!r} among {[item.text for item in answer.remarks]}"
    figure = answer.others[case["of"]] if "of" in case else answer
    return figure.value if figure.number is None else f"{figure.number:.9f}"


def refusal(case: dict, edition: str) -> str:
    """Return why there is no answer, with the remedy, or "" where there is one."""
    try:
        work_out(case["figure"], {"edition": edition, **case["inputs"]})
    except CannotCompute as reason:
        return f"{reason.reason} {reason.remedy}"
    except BadInput as failure:
        return " ".join(f"{issue.path}: {issue.reason} {issue.remedy}" for issue in failure.issues)
    return ""


class HandWorkedFigures(unittest.TestCase):
    def test_every_case_comes_out_in_every_edition(self):
        for case in CASES:
            for edition in EDITIONS:
                with self.subTest(f"{case['figure']}: {case['name']} ({edition})"):
                    if "refused" in case:
                        self.assertIn(case["refused"], refusal(case, edition))
                        continue
                    wanted = case["expect"] if isinstance(case["expect"], str) else case["expect"][edition]
                    value = found(case, edition)
                    self.assertTrue(same(value, wanted), f"{value}, by hand {wanted}: {case['working']}")

    def test_every_figure_has_cases_and_each_case_its_working_and_source(self):
        counted = Counter(case["figure"] for case in CASES)
        self.assertEqual(set(counted), set(all_figures()))
        self.assertEqual([name for name, number in counted.items() if number < 2], [])
        self.assertEqual([case["name"] for case in CASES if not case["working"] or not case["source"]], [])
        names = Counter((case["figure"], case["name"]) for case in CASES)
        self.assertEqual([name for name, times in names.items() if times > 1], [])

    def test_published_examples_are_among_them(self):
        self.assertGreaterEqual(sum("Annex D" in case["source"] for case in CASES), 8)
