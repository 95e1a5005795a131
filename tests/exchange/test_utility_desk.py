"""The stand-in for the desk of a utility: made up, the same every time, and honest about what it does not know."""

import unittest
from datetime import date

from hypothesis import given
from hypothesis import strategies as st

from nelvor.errors import BadInput, CannotCompute
from nelvor.exchange.utility_desk import TRANSFORMERS_KVA, Enquiry, SimulatedDesk

TODAY = date(2026, 3, 2)


def letter(premises="20411873", system="split_120_240", service_a=200.0):
    return SimulatedDesk().fault_current(Enquiry(premises, system, service_a), TODAY)


class Desk(unittest.TestCase):
    def test_by_hand(self):
        # 200 A × 240 V × 0.4 = 19.2 kVA: 25 kVA. Number ...3: 1.9 %. 25,000 / 240 / 0.019 × 0.92 = 5,043.9 A
        found = letter()
        self.assertEqual((found.transformer_kva, found.impedance_percent, found.fault_current_a), (25.0, 1.9, 5040))
        self.assertTrue(found.simulated)
        self.assertEqual((found.worked_out_on, found.good_until), (TODAY, date(2027, 3, 2)))

    def test_three_phases(self):
        # 400 A × 208 V × 1.732 × 0.4 = 57.6 kVA: 75 kVA; 1.6 % + 5 tenths = 2.1 %: 75,000 / 360.3 / 0.021 × 0.92 = 9,120 A
        found = letter("30000015", "wye_208_120", 400.0)
        self.assertEqual((found.transformer_kva, found.impedance_percent, found.fault_current_a), (75.0, 2.1, 9120))

    def test_numbers_that_name_no_premises_and_systems_that_are_not_served_are_refused(self):
        for premises in ("", "1234567", "123456789", "12a45678", "１２３４５６７９"):
            with self.assertRaises(BadInput) as refused:
                letter(premises)
            self.assertEqual(refused.exception.issues[0].path, "premises")
        with self.assertRaises(BadInput):
            letter(system="other")

    def test_one_that_is_not_looked_at_yet_says_so(self):
        with self.assertRaises(CannotCompute) as refused:
            letter("20411870")
        self.assertIn("five working days", refused.exception.remedy)

    @given(st.integers(0, 99_999_999), st.sampled_from(["split_120_240", "wye_480_277"]), st.floats(1, 20_000))
    def test_the_same_question_gets_the_same_answer_and_it_fits_its_plate(self, number, system, service_a):
        premises = f"{number:08d}"
        if premises.endswith("0"):
            return
        found = letter(premises, system, service_a)
        self.assertEqual(found, letter(premises, system, service_a))
        self.assertIn(found.transformer_kva, [float(kva) for kva in TRANSFORMERS_KVA])
        self.assertGreater(found.fault_current_a, 0)


if __name__ == "__main__":
    unittest.main()
