"""The worst current along a bus, by hand and by laws."""

import unittest
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from nelvor.spaces.bus_profile import OnBus, bus_profile

ROWS = 6
ELEMENTS = st.lists(
    st.builds(
        OnBus,
        row=st.integers(0, ROWS - 1),
        gives_a=st.integers(0, 200).map(Fraction),
        takes_a=st.integers(0, 200).map(Fraction),
    ),
    max_size=8,
)


class Profile(unittest.TestCase):
    def at(self, source_row):
        """200 A at the top, 160 A of loads over the rows, 40 A of a source."""
        elements = [OnBus(0, Fraction(200), Fraction(200)), OnBus(source_row, Fraction(40), Fraction(0))]
        elements += [OnBus(row, Fraction(0), Fraction(80)) for row in (1, 2, 3, 4)]
        return [int(value) for value in bus_profile(ROWS, elements)]

    def test_a_source_beside_the_main_lets_the_bus_carry_both(self):
        # below the top row 200 + 40 can flow to 320 A of loads
        self.assertEqual(self.at(0), [240, 240, 160, 80, 0])

    def test_a_source_at_the_far_end_lets_no_segment_carry_more_than_the_main(self):
        self.assertEqual(self.at(5), [200, 200, 160, 80, 40])

    @given(ELEMENTS)
    def test_a_segment_never_carries_more_than_all_sources_or_all_loads_together(self, elements):
        gives = sum(item.gives_a for item in elements)
        takes = sum(item.takes_a for item in elements)
        self.assertTrue(all(0 <= value <= min(gives, takes) for value in bus_profile(ROWS, elements)))

    @given(ELEMENTS)
    def test_turned_round_it_is_the_same_the_other_way(self, elements):
        turned = [OnBus(ROWS - 1 - item.row, item.gives_a, item.takes_a) for item in elements]
        self.assertEqual(bus_profile(ROWS, turned), bus_profile(ROWS, elements)[::-1])
