"""Where spaces lie and on which leg, by patterns written out by hand for every numbering."""

import unittest

from nelvor.model.things import Bus, Device
from nelvor.spaces.bus_spaces import (
    Spot,
    following,
    free_spots,
    leg_of_space,
    legs_of_device,
    position_of,
    spots_from,
    spots_of,
    takes_halves,
)

ONE_PHASE, THREE_PHASE = ("L1", "L2"), ("L1", "L2", "L3")
PATTERNS = [
    # numbering, rows of breakers, spaces, legs, the leg of each space in turn
    ("odd_even", 2, 12, ONE_PHASE, "112211221122"),
    ("odd_even", 2, 12, THREE_PHASE, "112233112233"),
    ("odd_even", 2, 42, THREE_PHASE, "112233" * 7),
    ("odd_even", 2, 7, ONE_PHASE, "1122112"),
    (None, 2, 8, ONE_PHASE, "11221122"),
    ("inverted", 2, 12, ONE_PHASE, "112211221122"),
    ("inverted", 2, 12, THREE_PHASE, "112233112233"),
    ("sequential", 2, 12, ONE_PHASE, "121212" * 2),
    ("sequential", 2, 10, ONE_PHASE, "12121" * 2),
    ("sequential", 2, 12, THREE_PHASE, "123123" * 2),
    ("sequential", 2, 7, ONE_PHASE, "1212121"),
    ("odd_even", 1, 8, ONE_PHASE, "12121212"),
    ("sequential", 1, 6, THREE_PHASE, "123123"),
]


def bus(spaces=None, **values):
    return Bus(id="bus", enclosure_id="panel", spaces=spaces, **values)


class Legs(unittest.TestCase):
    def test_the_leg_of_each_space_in_every_numbering(self):
        for numbering, rows, spaces, legs, pattern in PATTERNS:
            with self.subTest(numbering=numbering, rows=rows, spaces=spaces, legs=legs):
                panel = bus(spaces, numbering=numbering, rows=rows)
                found = [leg_of_space(panel, space, legs) for space in range(1, spaces + 1)]
                self.assertEqual(found, [f"L{leg}" for leg in pattern])

    def test_poles_of_one_breaker_lie_on_legs_that_follow(self):
        device = Device(id="d", enclosure_id="panel", poles=2, space=4)
        self.assertEqual(legs_of_device(bus(12), device, ONE_PHASE), ("L1", "L2"))
        self.assertEqual(legs_of_device(bus(12), device.model_copy(update={"space": 5}), THREE_PHASE), ("L1", "L3"))

    def test_sequential_numbers_tell_nothing_without_the_number_of_spaces(self):
        self.assertIsNone(leg_of_space(bus(numbering="sequential"), 3, ONE_PHASE))


class Geometry(unittest.TestCase):
    def test_rows_and_columns(self):
        self.assertEqual([position_of(bus(8), space) for space in (1, 2, 3, 8)], [(0, 0), (1, 0), (0, 1), (1, 3)])
        down = bus(8, numbering="sequential")
        self.assertEqual([position_of(down, space) for space in (1, 4, 5, 8)], [(0, 0), (0, 3), (1, 0), (1, 3)])

    def test_what_follows_stays_on_its_side_and_on_the_bus(self):
        self.assertEqual([following(bus(8), space) for space in (1, 6, 7, 8)], [3, 8, None, None])
        down = bus(8, numbering="sequential")
        self.assertEqual([following(down, space) for space in (1, 4, 5, 8)], [2, None, 6, None])

    def test_poles_end_where_the_bus_does(self):
        self.assertEqual(spots_from(bus(8), 2, Spot(7)), (Spot(7),))
        self.assertEqual(spots_from(bus(8), 2, Spot(9)), ())
        self.assertEqual(spots_from(bus(8), 3, Spot(2)), (Spot(2), Spot(4), Spot(6)))


class HalfSize(unittest.TestCase):
    def test_two_breakers_share_a_space_in_its_halves(self):
        first, second, whole = Spot(3, "first"), Spot(3, "second"), Spot(3)
        self.assertFalse(first.overlaps(second))
        self.assertTrue(first.overlaps(whole) and whole.overlaps(second) and first.overlaps(first))
        self.assertFalse(whole.overlaps(Spot(5)))

    def test_two_poles_take_the_outer_halves_or_the_inner_ones(self):
        outer = Device(id="o", enclosure_id="p", poles=2, space=1, half="first")
        inner = Device(id="i", enclosure_id="p", poles=2, space=1, half="second")
        self.assertEqual(spots_of(bus(8), outer), (Spot(1, "first"), Spot(3, "second")))
        self.assertEqual(spots_of(bus(8), inner), (Spot(1, "second"), Spot(3, "first")))
        self.assertFalse(any(a.overlaps(b) for a in spots_of(bus(8), outer) for b in spots_of(bus(8), inner)))

    def test_where_the_panel_is_marked_for_them(self):
        self.assertIsNone(takes_halves(bus(8), 1))
        self.assertIs(takes_halves(bus(8, half_size_spaces=False), 1), False)
        marked = bus(8, half_size_spaces=True, half_size_from=5, half_size_to=8)
        self.assertEqual([takes_halves(marked, space) for space in (4, 5, 8)], [False, True, True])
        self.assertTrue(takes_halves(bus(8, half_size_spaces=True), 1))

    def test_free_spots_are_whole_spaces_or_marked_halves(self):
        marked = bus(4, half_size_spaces=True, half_size_from=3)
        taken = [Spot(1), Spot(3, "first")]
        self.assertEqual(free_spots(marked, taken, half=False), [Spot(2), Spot(4)])
        halves = [Spot(3, "second"), Spot(4, "first"), Spot(4, "second")]
        self.assertEqual(free_spots(marked, taken, half=True), halves)
