"""Whose turn it is."""

import unittest
from unittest import mock

from nelvor.errors import Busy
from nelvor.pool import line as line_module
from nelvor.pool.line import MOST_WAITING, MOST_WAITING_EACH, Line
from nelvor.pool.question import Question, Work


class Lines(unittest.TestCase):
    def setUp(self):
        self.now = 1000.0
        clock = mock.patch.object(line_module, "monotonic", lambda: self.now)
        clock.start()
        self.addCleanup(clock.stop)

    def work(self, asker, name="check", about=None, expected=0.01):
        found = Work(Question(name, about or asker, None, expected_s=expected), asker)
        found.asked_at = self.now
        return found

    def put(self, line, *askers, **more):
        works = [self.work(asker, **more) for asker in askers]
        for work in works:
            line.join(work)
        return works

    def test_those_who_had_least_of_the_workers_lately_are_next(self):
        line = Line(1)
        first, second = self.put(line, "much", "little")
        self.assertIs(line.next(0), first)
        line.ended(first, 5.0)
        (again,) = self.put(line, "much")
        self.assertEqual(line.ahead_of(again), 1)
        self.assertIs(line.next(0), second)
        line.ended(second, 0.1)
        self.assertIs(line.next(0), again)

    def test_what_somebody_had_is_forgotten_by_and_by(self):
        line = Line(1)
        (heavy,) = self.put(line, "heavy")
        line.ended(line.next(0), 5.0)
        self.now += 200
        (light,) = self.put(line, "light")
        line.ended(line.next(0), 0.5)
        later, sooner = self.put(line, "light", "heavy")
        self.assertIs(line.next(0), sooner)
        line.ended(sooner, 0.1)
        self.assertIs(line.next(0), later)

    def test_slow_work_leaves_a_worker_free(self):
        line = Line(3)
        self.put(line, "a", "b", "c", expected=1.0)
        (quick,) = self.put(line, "quick")
        self.now += 1
        taken = [line.next(number) for number in range(3)]
        self.assertEqual([work.asker for work in taken], ["a", "b", "quick"])
        line.ended(taken[0], 2.0)
        self.assertEqual(line.next(0).asker, "c")

    def test_slow_work_leaves_two_workers_free_where_much_is_quick(self):
        line = Line(3)
        for _ in range(80):
            self.put(line, "quick")
            self.now += 0.2
            line.ended(line.next(0), 0.1)
        self.put(line, "a", "b", expected=1.0)
        (quick,) = self.put(line, "quick")
        self.now += 1
        self.assertEqual([line.next(0).asker, line.next(1).asker], ["a", "quick"])

    def test_what_was_slow_once_is_expected_to_be_so_again(self):
        line = Line(2)
        (first,) = self.put(line, "a", about="large job")
        self.now += 1
        line.ended(line.next(0), 3.0)
        self.put(line, "b", "c", about="large job")
        (quick,) = self.put(line, "quick")
        self.now += 1
        self.assertEqual([line.next(0).asker, line.next(1).asker], ["b", "quick"])

    def test_work_waits_a_little_for_the_worker_that_knows_its_job(self):
        line = Line(2)
        (work,) = self.put(line, "a", about="some job")
        home = next(number for number in range(2) if line._may_take(number, work))
        self.assertFalse(line._may_take(1 - home, work))
        self.now += 0.2
        self.assertTrue(line._may_take(1 - home, work))

    def test_the_line_is_bounded_in_all_and_for_each(self):
        line = Line(1)
        self.put(line, *["greedy"] * MOST_WAITING_EACH)
        with self.assertRaises(Busy):
            self.put(line, "greedy")
        self.put(line, *[f"member {number}" for number in range(MOST_WAITING - MOST_WAITING_EACH)])
        self.assertFalse(line.has_room)
        with self.assertRaises(Busy):
            self.put(line, "one more")

    def test_what_waits_too_long_is_sent_away(self):
        line = Line(1)
        (late,) = self.put(line, "late")
        self.now += 31
        (fresh,) = self.put(line, "fresh")
        self.assertIs(line.next(0), fresh)
        self.assertIsInstance(late.answer.exception(), Busy)

    def test_a_closed_line_lets_the_workers_go_and_takes_nothing(self):
        line = Line(1)
        (left,) = self.put(line, "a")
        self.assertEqual(line.close(), [left])
        self.assertIsNone(line.next(0))
        with self.assertRaises(Busy):
            self.put(line, "b")


if __name__ == "__main__":
    unittest.main()
