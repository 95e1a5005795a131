"""The motor adder on each conductor: a quarter of the current of the largest motor that is on it."""

import unittest
from fractions import Fraction

from tests.support.jobs import JobBuilder, report_of


class MotorAdder(unittest.TestCase):
    def legs(self, *motors, system="split_120_240"):
        """Return (load, load with the adder) of each leg for motors of (VA, connection, pieces)."""
        builder = JobBuilder(system=system)
        builder.service()
        for number, (va, connection, pieces) in enumerate(motors):
            volts = 120.0 if connection is None or connection.endswith("-N") else 240.0
            builder.add(
                "loads",
                f"motor-{number}",
                enclosure_id="service",
                name="Motor",
                category="motor",
                unit="VA",
                amount=float(va),
                volts=volts,
                connection=connection,
                quantity=pieces,
            )
        return {
            leg.leg: (leg.actual.number, leg.with_motor.number) for leg in report_of(builder.job).levels["service"].legs
        }

    def test_each_conductor_has_the_largest_of_its_own(self):
        """2400 VA at 240 V is 10 A on both; 1800 VA at 120 V is 15 A on L1 alone: a quarter of 15 there, of 10 on L2."""
        found = self.legs((2400, "L1-L2", 1), (1800, "L1-N", 1))
        self.assertEqual(found["L1"], (25, 25 + Fraction(15, 4)))
        self.assertEqual(found["L2"], (10, 10 + Fraction(10, 4)))

    def test_a_leg_without_a_motor_has_none(self):
        found = self.legs((1800, "L1-N", 1))
        self.assertEqual(found, {"L1": (15, 15 + Fraction(15, 4)), "L2": (0, 0)})

    def test_of_several_alike_one_counts(self):
        found = self.legs((2400, "L1-L2", 3))
        self.assertEqual(found["L1"], (30, 30 + Fraction(10, 4)))

    def test_an_appliance_that_is_a_motor_takes_part(self):
        """A disposer of 960 VA at 120 V: 8 A on L1, a quarter of it more where it is told that a motor drives it."""
        builder = JobBuilder()
        builder.service()
        disposer = builder.add(
            "loads",
            "disposer",
            enclosure_id="service",
            name="Disposer",
            category="fastened_appliance",
            unit="VA",
            amount=960.0,
            volts=120.0,
            connection="L1-N",
        )
        builder.add("dwelling_units", "unit", name="Unit")
        disposer["dwelling_unit_id"] = "unit"
        for driven, amperes in ((False, 8), (True, 10)):
            disposer["motor_driven"] = driven
            self.assertEqual(report_of(builder.job).levels["service"].legs[0].with_motor.number, amperes)

    def test_motors_spread_over_the_legs_draw_their_whole_current_each(self):
        """Two of 1200 VA at 120 V lie as 10 A on each leg; each of them draws 10 A on its own, a quarter is 2.5 A."""
        found = self.legs((1200, None, 2))
        self.assertEqual(found["L1"], (10, Fraction("12.5")))
        self.assertEqual(found["L1"], found["L2"])


if __name__ == "__main__":
    unittest.main()
