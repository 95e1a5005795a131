import unittest
from bisect import bisect_left, bisect_right
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from nelvor.model.vocabulary import SIZES
from nelvor.rulebook.ladder import Ladder
from nelvor.rulebook.rules import rulebook

numbers = st.fractions(min_value=-50, max_value=50, max_denominator=60)


class Ladders(unittest.TestCase):
    @given(st.lists(numbers, max_size=12).map(sorted), numbers)
    def test_a_place_is_found_where_comparing_one_after_another_finds_it(self, rungs, value):
        ladder = Ladder(rungs)
        for sought in (value, *rungs):
            self.assertEqual(ladder.below(sought), bisect_left(rungs, sought))
            self.assertEqual(ladder.up_to(sought), bisect_right(rungs, sought))
            self.assertEqual(ladder.reaching(sought), next((rung for rung in rungs if rung >= sought), None))

    def test_a_hair_above_a_rating_asks_for_the_next(self):
        ratings = rulebook().resolve("2020").standard_ratings()
        self.assertEqual(ratings.reaching(Fraction(100)), 100)
        self.assertEqual(ratings.reaching(100 + Fraction(1, 10**12)), 110)
        self.assertIsNone(ratings.reaching(Fraction(6001)))

    def test_a_blank_cell_counts_as_the_one_before(self):
        ladder = rulebook().tables["ampacity"].ladder("cu75")
        self.assertEqual(ladder[:4], (0, 0, 20, 25))

    def test_the_ampacity_table_has_a_row_for_each_size_in_their_order(self):
        self.assertEqual(tuple(row["size"] for row in rulebook().tables["ampacity"].rows), SIZES)

    def test_of_several_kinds_in_one_table_each_has_its_own(self):
        raceways = rulebook().tables["raceway"]
        of_emt = raceways.rows_of("kind", "emt")
        self.assertEqual(raceways.ladder("area_in2", "kind", "emt"), tuple(Fraction(row["area_in2"]) for row in of_emt))
