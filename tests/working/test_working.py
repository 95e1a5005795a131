import math
import unittest
from dataclasses import replace
from fractions import Fraction
from itertools import pairwise
from unittest import mock

from hypothesis import given
from hypothesis import strategies as st

from nelvor.demo import demo_job
from nelvor.report.check import check
from nelvor.report.subjects import SUBJECTS
from nelvor.report.wire import report_out, working_out
from nelvor.rulebook.rules import Rules, rulebook
from nelvor.working import Recorder, exact, shown
from nelvor.working.explain import behind, what_would_change
from nelvor.working.number import difference, greatest, least, product, quotient, reaches, read, total
from nelvor.working.recorder import replay


class Numbers(unittest.TestCase):
    def test_decimals_are_taken_as_written(self):
        self.assertEqual(exact(0.1), Fraction(1, 10))
        self.assertEqual(exact(12.9), Fraction(129, 10))

    def test_numbers_are_shown_for_reading(self):
        for value, text in (
            (Fraction(60), "60"),
            (Fraction(1, 3), "0.3333"),
            (Fraction(1789, 10), "178.9"),
            (Fraction("44.126"), "44.13"),
            (Fraction(-5, 2), "-2.5"),
            (Fraction(0), "0"),
            (Fraction(-1789, 10), "-178.9"),
            (Fraction(1, 300_000), "0.000003"),
            (Fraction(3 * 10**15 + 1, 3), "1000000000000000"),
        ):
            self.assertEqual(shown(value), text)

    def test_amperes_are_read_to_a_tenth_unless_that_hides_the_side_of_a_limit(self):
        for value, unit, text in (
            ("97.12", "A", "97.1"),
            ("99.97", "A", "99.97"),
            ("100.04", "A", "100.04"),
            ("100.0000001", "A", "100.0000001"),
            ("100", "A", "100"),
            ("333.3333", "VA", "333"),
            ("59999.997", "VA", "59999.997"),
            ("33793.004", "VA", "33793"),
            ("12.3456", "%", "12.3"),
            ("3.04", "%", "3.04"),
            ("12.3456", "hp", "12.35"),
        ):
            self.assertEqual(read(exact(value), unit), text)


class Exactly(unittest.TestCase):
    """Sums and products brought to lowest terms once come out as step by step."""

    @given(st.lists(st.fractions(max_denominator=1000), min_size=1, max_size=8))
    def test_they_are_the_same(self, numbers):
        self.assertEqual(total(numbers), sum(numbers))
        self.assertEqual(product(numbers), math.prod(numbers))
        for one, other in pairwise(numbers):
            self.assertIs(reaches(one, other), one >= other)
            self.assertTrue(reaches(one, one))
            self.assertEqual(difference(one, other), one - other)
            if other:
                self.assertEqual(quotient(one, other), one / other)
            else:
                self.assertRaises(ZeroDivisionError, quotient, one, other)

    @given(st.lists(st.fractions(max_denominator=20), min_size=1, max_size=8))
    def test_of_equal_numbers_the_first_is_the_greatest_and_the_least(self, numbers):
        self.assertIs(greatest(iter(numbers)), max(numbers))
        self.assertIs(least(iter(numbers)), min(numbers))


class Replaying(unittest.TestCase):
    """Every working of the demo is worked again from its own steps to the same values."""

    def setUp(self):
        self.report = check(demo_job())
        self.books = {
            f"{subject.kind}:{thing_id}": answer.working
            for subject in SUBJECTS
            for thing_id, answer in self.report.of(subject.kind).items()
        }

    def test_every_step_of_the_demo_replays(self):
        steps = 0
        for name, recorder in self.books.items():
            self.assertEqual(replay(recorder.steps), [], name)
            steps += len(recorder.steps)
        self.assertGreater(steps, 500)

    def test_a_changed_value_does_not_replay(self):
        steps = self.books["level:house-panel"].steps
        changed = [step._replace(value=step.value + 1) if step.operation == "multiply" else step for step in steps]
        self.assertTrue(replay(changed))

    def test_steps_rest_on_earlier_steps_only(self):
        for recorder in self.books.values():
            for number, step in enumerate(recorder.steps):
                earlier = recorder.steps[:number]
                self.assertTrue(all(figure in earlier for figure in step.inputs))

    def test_every_figure_sent_has_its_working_and_the_working_ends_in_it(self):
        report = report_out(self.report)
        figures = [figure for run in report.runs.values() for figure in run.chosen.figures.values()]
        figures += [figure for item in report.enclosures.values() for figure in item.figures.values()]
        self.assertGreater(len(figures), 50)
        for figure in figures:
            working = working_out(self.report, figure.key)
            last = working.steps[-1]
            self.assertEqual(
                figure.value, last.value if figure.number is None else read(exact(figure.number), last.unit)
            )
            if figure.number is not None:
                self.assertLessEqual(abs(float(last.value) - figure.number), abs(figure.number) / 1000)

    def test_figures_read_from_the_rulebook_stand_in_the_working(self):
        cells: list[tuple[str, tuple[str, ...], str]] = []
        original = Rules.cell

        def noting(rules, name, key, column):
            value = original(rules, name, key, column)
            cells.append((name, key, column))
            return value

        recorder = Recorder(replace(rulebook().resolve("2023")))  # of which no cell was read before
        with mock.patch.object(Rules, "cell", noting):
            recorder.table("Ampacity", "ampacity", ("2",), "cu75")
            recorder.table("Area", "conductor_dc", ("2",), "area_cmil", clause="egc_upsize")
        self.assertEqual(len(cells), len([step for step in recorder.steps if step.operation == "table"]))
        self.assertTrue(all(step.source and step.section for step in recorder.steps))


class Units(unittest.TestCase):
    def test_a_column_may_have_a_unit_of_its_own(self):
        recorder = Recorder(rulebook().resolve("2023"))
        area = recorder.table("Area", "conductor_dc", ("2",), "area_cmil", clause="")
        ohms = recorder.table("Resistance", "conductor_dc", ("2",), "dc_al_ohm_kft")
        self.assertEqual((area.unit, ohms.unit, area.section), ("cmil", "ohm/kft", ""))


class WhatWouldChange(unittest.TestCase):
    def setUp(self):
        self.recorder = Recorder(rulebook().resolve("2023"))

    def given(self, value, label="need"):
        return self.recorder.given(label, value, "A", "test")

    def test_a_standard_rating_tells_the_range_it_holds_for(self):
        chosen = self.recorder.next_up(
            "Device", self.given(52), [Fraction(50), Fraction(60), Fraction(70)], "standard_ocpd"
        )
        text = what_would_change(self.recorder.steps, chosen)
        self.assertIn("above 50 up to 60 A", text)
        self.assertEqual(chosen.refused, "50 A is below 52 A")

    def test_of_several_comparisons_the_nearest_is_told(self):
        have = self.given(100, "have")
        tests = []
        for need, label in ((80, "far"), (95, "near")):
            self.recorder.at_least("enough", have, self.given(need, label))
            tests.append(self.recorder.last_comparison())
        chosen = self.recorder.choose("Size", "3", "AWG", tests)
        self.assertIn("near", what_would_change(self.recorder.steps, chosen))

    def test_behind_a_figure_stand_only_its_own_inputs(self):
        self.given(1, "unrelated")
        total = self.recorder.add("Sum", self.given(2), self.given(3))
        self.assertEqual([step.label for step in behind(self.recorder.steps, total)], ["need", "need", "Sum"])

    def test_nothing_reaches_the_need(self):
        self.assertIsNone(self.recorder.next_up("Device", self.given(7000), [Fraction(6000)], "standard_ocpd"))

    def test_an_abandoned_candidate_leaves_no_trace(self):
        mark = self.recorder.mark()
        self.given(5)
        self.recorder.forget(mark)
        self.assertEqual(self.recorder.steps, [])
