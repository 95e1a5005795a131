"""Feeders of motors: conductors by 430.24, the largest device by 430.62, branch devices by Table 430.52 and 440.22."""

import unittest
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from nelvor.clauses.motors import Motor, motor_feeder
from nelvor.errors import CannotCompute, MissingFigure
from nelvor.rulebook.rules import rulebook
from nelvor.working import Recorder
from nelvor.working.recorder import replay

FIVE_HP = Motor(Fraction(5), 240, False, None)  # 28 A
THREE_HP = Motor(Fraction(3), 240, False, None)  # 17 A


def compressor(rated_a, branch_device_a=None):
    return Motor(Fraction(1), 240, False, branch_device_a, "hermetic", None if rated_a is None else Fraction(rated_a))


def feeder_of(*motors, other_a=0, column="inverse_time_pct"):
    recorder = Recorder(rulebook().resolve("2023"))
    nothing = recorder.given("continuous", 0, "A", "test")
    other = recorder.given("other", other_a, "A", "test")
    found = motor_feeder(recorder, motors, nothing, other, column)
    assert replay(recorder.steps) == []
    return found


class Feeders(unittest.TestCase):
    def test_the_largest_counts_a_quarter_more_and_the_rest_as_they_are(self):
        """28 + 17 + a quarter of 28 + 10 = 62 A; device 70 + 17 + 10 = 97 A, next lower 90 A."""
        found = feeder_of(FIVE_HP, THREE_HP, other_a=10)
        self.assertEqual((found.conductor_a.number, found.most_device_a.number, found.device.number), (62, 97, 90))

    def test_a_compressor_may_be_the_largest(self):
        """30 + 17 + 7.5 = 54.5 A; its branch device 175 % of 30 = 52.5 A, 50 A; 50 + 17 = 67 A, 60 A."""
        found = feeder_of(compressor(30), THREE_HP)
        self.assertEqual((found.conductor_a.number, found.device.number), (Fraction("54.5"), 60))

    def test_the_branch_device_of_a_compressor_stays_within_its_share(self):
        for rated, device in ((20, 35), (Fraction("22.9"), 40), (4, 15), (8, 15), (9, 15)):
            self.assertEqual(feeder_of(compressor(rated)).device.number, device, rated)

    def test_an_entered_branch_device_takes_its_place(self):
        self.assertEqual(feeder_of(compressor(20, Fraction(30))).device.number, 30)

    def test_wound_rotor_and_squirrel_cage(self):
        """25 hp at 460 V, three-phase: 34 A; 150 % is 51 A, 60 A; 250 % is 85 A, 90 A."""
        for kind, device in (("wound_rotor", 60), ("squirrel_cage", 90)):
            self.assertEqual(feeder_of(Motor(Fraction(25), 460, True, None, kind)).device.number, device)

    def test_what_cannot_be_told(self):
        for motor, error in (
            (compressor(None), CannotCompute),
            (Motor(Fraction(5), 300, False, None), CannotCompute),
            (Motor(Fraction(999), 240, False, None), MissingFigure),
        ):
            with self.assertRaises(error):
                feeder_of(motor)

    @given(st.lists(st.integers(1, 200), min_size=1, max_size=6), st.integers(1, 200))
    def test_one_more_compressor_never_asks_for_less(self, rated, more):
        before = feeder_of(*(compressor(amperes) for amperes in rated))
        after = feeder_of(*(compressor(amperes) for amperes in [*rated, more]))
        self.assertGreater(after.conductor_a.number, before.conductor_a.number)
        self.assertGreaterEqual(after.device.number, before.device.number)
