import unittest
from typing import get_args

from nelvor.clauses.terminal_torque import terminal_torque
from nelvor.model.vocabulary import TerminalScrew
from nelvor.rulebook.rules import rulebook
from nelvor.working import Recorder


class TerminalTorque(unittest.TestCase):
    def test_every_screw_that_can_be_chosen_has_its_figure(self):
        recorder = Recorder(rulebook().resolve("2023"))
        for screw in get_args(TerminalScrew):
            with self.subTest(screw):
                self.assertGreater(terminal_torque(recorder, None, screw, "8").number, 0)
