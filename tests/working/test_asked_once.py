import unittest
from fractions import Fraction

from nelvor.clauses import raceway_fill
from nelvor.clauses.ampacity import Circumstances, final_ampacity
from nelvor.errors import CannotCompute, MissingFigure
from nelvor.rulebook.rules import rulebook
from nelvor.working import Recorder, asked_once
from nelvor.working.asked_once import forget_answers
from nelvor.working.explain import ancestry, numbered
from nelvor.working.recorder import replay

IN_AIR = Circumstances("copper", "THWN-2", 90, 75, 1, Fraction(30), 3, False, False)


class AskedOnce(unittest.TestCase):
    def setUp(self):
        self.rules = rulebook().resolve("2020")
        self.asked = 0

        def doubled(recorder, label, number):
            self.asked += 1
            if number < 0:
                raise CannotCompute("Below nothing.", "Enter more.")
            two = recorder.given("two", 2, "", "test")
            return recorder.multiply(label, recorder.given("number", number, "", "test"), two, unit="")

        self.doubled = asked_once(doubled)

    def test_the_same_values_are_worked_out_once_and_stand_in_every_working_that_asks(self):
        one, other = Recorder(self.rules), Recorder(self.rules)
        figures = [self.doubled(recorder, "twice", Fraction(3)) for recorder in (one, other, other)]
        self.assertEqual((self.asked, [figure.number for figure in figures]), (1, [6, 6, 6]))
        self.assertEqual((len(one.steps), len(other.steps)), (3, 6))
        self.assertEqual(replay(other.steps), [])

    def test_other_values_and_other_rules_are_asked_anew(self):
        for rules, label, number in (
            (self.rules, "twice", 3),
            (self.rules, "double", 3),
            (self.rules, "twice", 4),
            (rulebook().resolve("2023"), "twice", 3),
        ):
            self.doubled(Recorder(rules), label, Fraction(number))
        self.assertEqual(self.asked, 4)

    def test_what_cannot_be_computed_is_not_kept(self):
        for _ in range(2):
            with self.assertRaises(CannotCompute):
                self.doubled(Recorder(self.rules), "twice", Fraction(-1))
        self.assertEqual(self.asked, 2)

    def test_forgotten_answers_are_worked_out_again(self):
        for _ in range(2):
            self.doubled(Recorder(self.rules), "twice", Fraction(3))
            forget_answers()
        self.assertEqual(self.asked, 2)

    def test_a_figure_asked_for_twice_in_one_working_is_read_where_it_stands(self):
        recorder = Recorder(self.rules)
        first = self.doubled(recorder, "twice", Fraction(3))
        second = self.doubled(recorder, "twice", Fraction(3))
        total = recorder.add("together", first, second)
        self.assertEqual([line.inputs for line in numbered(recorder.steps)], [(), (), (1, 0), (), (), (4, 3), (5, 5)])
        self.assertEqual([line.inputs for line in ancestry(total)], [(), (), (0, 1), (2, 2)])


class OfTheCode(unittest.TestCase):
    """An answer that is kept is the answer that working it out anew gives, whatever was asked before."""

    def test_ampacity_and_fill(self):
        for edition in ("2017", "2023"):
            rules = rulebook().resolve(edition)
            for size in ("12", "3/0", "500"):
                told = []
                for _ in range(2):
                    recorder = Recorder(rules)
                    at_terminals, ampacity = final_ampacity(recorder, size, IN_AIR)
                    length = recorder.given("Length", 300, "in", "run")
                    area = raceway_fill.conductors_area(recorder, "THWN-2", (size, size, size), size)
                    allowed = raceway_fill.allowed_fill(recorder, 4, length)
                    fill = raceway_fill.smallest_raceway(recorder, "emt", area, allowed)
                    steps = [(step.label, step.value, step.section) for step in recorder.steps]
                    told.append((at_terminals.number, ampacity.number, fill.trade_size, steps))
                    self.assertEqual(replay(recorder.steps), [])
                self.assertEqual(told[0], told[1])

    def test_a_size_that_is_not_held_stays_missing(self):
        for _ in range(2):
            with self.assertRaises(MissingFigure):
                final_ampacity(Recorder(rulebook().resolve("2020")), "18", IN_AIR)
