"""Worker processes: their answers, their errors, their end."""

import os
import signal
import time
import unittest
from concurrent.futures import ThreadPoolExecutor
from unittest import mock

from nelvor.errors import BadInput, Busy, TookTooLong
from nelvor.pool import line, worker
from nelvor.pool.pool import InPlace, Pool
from nelvor.pool.question import Crashed, NeedsMore, Outcome, Question, Ready

ANSWERS = "tests.pool.answers:answer"


def question(name, details=None, about="x", **more):
    return Question(name, about, details, **more)


def alive(pid):
    try:
        with open(f"/proc/{pid}/stat") as told:
            return told.read().rpartition(")")[2].split()[0] != "Z"
    except OSError:
        return False


class Pools(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.pool = Pool(ANSWERS, 2)
        cls.pool.ask(question("warm"), "a")

    @classmethod
    def tearDownClass(cls):
        pids = cls.pool.processes
        cls.pool.close()
        assert not any(alive(pid) for pid in pids)

    def by(self, told):
        return int(told.content.rpartition(b" ")[2])

    def test_an_answer_comes_from_another_process_and_the_same_one_for_the_same_thing(self):
        with mock.patch.object(line, "AWAY_FROM_HOME_S", 60.0):  # however busy the machine of the tests is
            answered = {self.by(self.pool.ask(question("echo", 1), "a")) for _ in range(5)}
        self.assertEqual(len(answered), 1)
        self.assertNotIn(os.getpid(), answered)

    def test_it_is_ready_once_a_worker_is(self):
        self.assertTrue(self.pool.ready)
        unborn = Pool(ANSWERS, 1)
        self.addCleanup(unborn.close)
        self.assertFalse(unborn.ready)
        unborn.ask(question("echo"), "a")
        self.assertTrue(unborn.ready)

    def test_errors_come_as_they_were(self):
        with self.assertRaises(BadInput) as caught:
            self.pool.ask(question("refuse"), "a")
        self.assertEqual(caught.exception.issues[0].path, "runs")
        with self.assertRaises(NeedsMore):
            self.pool.ask(question("lack"), "a")
        self.assertIn(b"lack given", self.pool.ask(question("lack", "given"), "a").content)

    def test_a_fault_tells_its_place_and_not_what_was_entered(self):
        with self.assertRaises(Crashed) as caught:
            self.pool.ask(question("crash", "somebody"), "a")
        self.assertIn("ValueError at crash: answers.py:", str(caught.exception))
        self.assertNotIn("somebody", str(caught.exception))

    def test_what_takes_too_long_is_ended_and_the_next_question_is_answered(self):
        before = self.by(self.pool.ask(question("echo"), "a"))
        with self.assertRaises(TookTooLong):
            self.pool.ask(question("sleep", 30, limit_s=0.3), "a")
        self.assertFalse(alive(before))
        self.assertNotEqual(self.by(self.pool.ask(question("echo"), "a")), before)

    def test_a_worker_that_dies_is_told_as_busy_and_another_one_takes_its_place(self):
        with self.assertRaises(Busy):
            self.pool.ask(question("die"), "a")
        self.assertTrue(self.pool.ask(question("echo"), "a").content)

    def test_a_worker_killed_while_it_waits_is_replaced(self):
        pid = self.by(self.pool.ask(question("echo"), "a"))
        os.kill(pid, signal.SIGKILL)
        deadline = time.monotonic() + 20
        while time.monotonic() < deadline:
            try:
                self.assertNotEqual(self.by(self.pool.ask(question("echo"), "a")), pid)
                return
            except Busy:
                continue
        self.fail("no worker took its place")

    def test_progress_is_taken_down(self):
        work = self.pool.begin(question("count", 12), "a")
        seen = set()
        while not work.answer.done():
            seen.add((work.done, work.parts))
            time.sleep(0.01)
        self.assertTrue(work.answer.result().content.startswith(b"count"))
        self.assertGreater(len([done for done, parts in seen if parts == 12]), 3)

    def test_quick_questions_do_not_wait_for_slow_ones(self):
        with ThreadPoolExecutor(6) as threads:
            slow = [
                threads.submit(
                    self.pool.ask, question("sleep", 1.0, about=f"slow {number}", expected_s=1.0), f"s{number}"
                )
                for number in range(4)
            ]
            time.sleep(0.2)
            began = time.monotonic()
            for number in range(5):
                self.pool.ask(question("echo", about=f"quick {number}"), "quick")
            self.assertLess(time.monotonic() - began, 0.95)
            for item in slow:
                item.result()


class Workers(unittest.TestCase):
    def test_a_worker_that_holds_too_much_ends_after_its_answer(self):
        pipe = mock.Mock()
        pipe.recv.return_value = question("echo")
        with mock.patch.object(worker, "_held_kb", side_effect=[0, worker.LARGEST_KB]):
            worker.serve(pipe, InPlace(ANSWERS)._answering)
        self.assertEqual([type(call.args[0]) for call in pipe.send.call_args_list], [Ready, Outcome])

    def test_a_worker_ends_when_the_other_side_is_gone(self):
        pipe = mock.Mock()
        pipe.recv.side_effect = EOFError
        worker.serve(pipe, InPlace(ANSWERS)._answering)
        self.assertEqual([type(call.args[0]) for call in pipe.send.call_args_list], [Ready])

    def test_in_place_answers_the_same(self):
        here = InPlace(ANSWERS)
        self.assertIn(b"echo 3", here.ask(question("echo", 3), "a").content)
        with self.assertRaises(BadInput):
            here.ask(question("refuse"), "a")
        work = here.begin(question("count", 3), "a")
        self.assertEqual((work.done, work.parts), (2, 3))


if __name__ == "__main__":
    unittest.main()
