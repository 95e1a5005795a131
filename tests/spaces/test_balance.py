"""The fewest moves, against searches that try everything; and that every answer can be carried out."""

import itertools
import random
import unittest
from fractions import Fraction

from nelvor.model.things import Bus
from nelvor.spaces.balance import Standing, balance
from nelvor.spaces.bus_spaces import Spot, leg_of_space, spots_from, takes_halves

ONE_PHASE, THREE_PHASE = ("L1", "L2"), ("L1", "L2", "L3")
GENERATED = 200


def starts_of(bus, poles, half):
    """Every start at which so many poles fit on the bus."""
    found = []
    for space in range(1, bus.spaces + 1):
        halves = ("first", "second") if half else (None,)
        for part in halves:
            if (part is None or takes_halves(bus, space)) and len(spots_from(bus, poles, Spot(space, part))) == poles:
                found.append(Spot(space, part))
    return found


def panel(seed, spaces, number, legs, *, shapes, fixed=0.0, halves=False):
    """A panel with breakers of made-up loads at random places where they fit."""
    chance = random.Random(seed)
    bus = Bus(id="bus", enclosure_id="panel", spaces=spaces, half_size_spaces=halves)
    taken, found = [], []
    for place in range(number):
        poles, half = chance.choice(shapes)
        starts = starts_of(bus, poles, half)
        chance.shuffle(starts)
        for start in starts:
            spots = spots_from(bus, poles, start)
            if not any(spot.overlaps(other) for spot in spots for other in taken):
                taken += spots
                loads = tuple(Fraction(chance.randint(0, 40), 2) for _ in spots)
                even = loads if poles == 1 or chance.random() < 0.3 else (loads[0],) * poles
                stays = chance.random() < fixed or (poles > 1 and fixed > 0)
                found.append(Standing(f"b{place}", spots, even, stays))
                break
    return bus, found


def legs_with(bus, legs, breakers, starts):
    """The amperes of each leg with breakers at other starts."""
    sums = dict.fromkeys(legs, Fraction(0))
    for breaker, start in zip(breakers, starts, strict=True):
        for spot, amperes in zip(spots_from(bus, breaker.poles, start), breaker.poles_a, strict=True):
            sums[leg_of_space(bus, spot.space, legs)] += amperes
    return sums


def apart(sums):
    return max(sums.values()) - min(sums.values())


def closest_by_patterns(bus, legs, breakers):
    """The closest that the legs can come with breakers of one pole free on any leg that has room."""
    spots = {leg: 0 for leg in legs}
    for space in range(1, bus.spaces + 1):
        spots[leg_of_space(bus, space, legs)] += 1
    base = dict.fromkeys(legs, Fraction(0))
    free = []
    for breaker in breakers:
        if not breaker.fixed:
            free.append(breaker.poles_a[0])
            continue
        for spot, amperes in zip(breaker.spots, breaker.poles_a, strict=True):
            leg = leg_of_space(bus, spot.space, legs)
            base[leg] += amperes
            spots[leg] -= 1
    best = None
    for pattern in itertools.product(legs, repeat=len(free)):
        if any(pattern.count(leg) > spots[leg] for leg in legs):
            continue
        sums = dict(base)
        for leg, amperes in zip(pattern, free, strict=True):
            sums[leg] += amperes
        best = apart(sums) if best is None else min(best, apart(sums))
    return best


def fewest_by_spaces(bus, legs, breakers, within):
    """The fewest breakers that change their place, over every arrangement; None where none is within the figure."""
    ways = [[item.spots[0]] if item.fixed else starts_of(bus, item.poles, item.spots[0].half) for item in breakers]
    best = None
    for starts in itertools.product(*ways):
        moved = sum(start != item.spots[0] for start, item in zip(starts, breakers, strict=True))
        if best is not None and moved >= best:
            continue
        spots = [
            spot for item, start in zip(breakers, starts, strict=True) for spot in spots_from(bus, item.poles, start)
        ]
        if any(one.overlaps(other) for one, other in itertools.combinations(spots, 2)):
            continue
        if apart(legs_with(bus, legs, breakers, starts)) <= within:
            best = moved
    return best


class AgainstEverything(unittest.TestCase):
    def test_legs_come_as_close_as_any_pattern_brings_them(self):
        for seed in range(GENERATED):
            legs = THREE_PHASE if seed % 4 == 3 else ONE_PHASE
            number = 2 + seed % (6 if len(legs) == 3 else 11)
            bus, breakers = panel(seed, 24, number, legs, shapes=[(1, False)] * 4 + [(2, False)], fixed=0.1)
            with self.subTest(seed=seed):
                found = balance(bus, legs, breakers, Fraction(0), most=3_000_000)
                self.assertTrue(found.proven)
                self.assertEqual(apart(found.after), closest_by_patterns(bus, legs, breakers))

    def test_no_fewer_moves_do_it(self):
        shapes = [(1, False), (1, False), (1, True), (2, False), (2, True)]
        reached = 0
        for seed in range(GENERATED):
            legs = THREE_PHASE if seed % 3 == 2 else ONE_PHASE
            number = 2 + seed % 4
            bus, breakers = panel(seed, 7, number, legs, shapes=shapes, fixed=0.0, halves=seed % 2 == 0)
            if not breakers or any(item.spots[0].half and not bus.half_size_spaces for item in breakers):
                continue
            for within in (Fraction(2), Fraction(6)):
                with self.subTest(seed=seed, within=within):
                    found = balance(bus, legs, breakers, within)
                    fewest = fewest_by_spaces(bus, legs, breakers, within)
                    self.assertTrue(found.proven)
                    self.assertEqual(found.reached, fewest is not None)
                    if fewest is not None:
                        reached += 1
                        self.assertEqual(len(found.moves), fewest)
        self.assertGreater(reached, GENERATED // 2)


class Carrying(unittest.TestCase):
    """What is told can be done, breaker by breaker."""

    def carried_out(self, bus, breakers, found):
        now = {item.id: item.spots for item in breakers}
        for move in found.moves:
            if move.lifted:
                now[move.id] = ()
        poles = {item.id: item.poles for item in breakers}
        for move in found.moves:
            spots = spots_from(bus, poles[move.id], move.to)
            others = [spot for other, there in now.items() if other != move.id for spot in there]
            self.assertEqual(len(spots), poles[move.id])
            self.assertFalse(any(spot.overlaps(other) for spot in spots for other in others), move)
            now[move.id] = spots
        return now

    def test_each_move_goes_where_nothing_stands_by_then(self):
        for seed in range(60):
            legs = THREE_PHASE if seed % 2 else ONE_PHASE
            shapes = [(1, False), (1, False), (1, True), (2, False), (3, False) if seed % 2 else (2, True)]
            bus, breakers = panel(seed, 18, 14, legs, shapes=shapes, halves=True)
            found = balance(bus, legs, breakers, Fraction(3))
            with self.subTest(seed=seed):
                now = self.carried_out(bus, breakers, found)
                starts = [now[item.id][0] for item in breakers]
                self.assertEqual(legs_with(bus, legs, breakers, starts), found.after)
                self.assertEqual(sum(found.before.values()), sum(found.after.values()))
                self.assertLessEqual(apart(found.after), apart(found.before))

    def test_fixed_ones_stay(self):
        for seed in range(30):
            bus, breakers = panel(seed, 12, 9, ONE_PHASE, shapes=[(1, False), (2, False)], fixed=0.4)
            fixed = {item.id for item in breakers if item.fixed}
            found = balance(bus, ONE_PHASE, breakers, Fraction(0))
            self.assertFalse(fixed & {move.id for move in found.moves})

    def test_a_swap_lifts_one_out_first(self):
        bus = Bus(id="bus", enclosure_id="panel", spaces=4)
        loads = (12, 2, 10, 1)
        breakers = [Standing(str(at), (Spot(at),), (Fraction(load),)) for at, load in enumerate(loads, 1)]
        found = balance(bus, ONE_PHASE, breakers, Fraction(1))
        self.assertEqual((len(found.moves), sum(move.lifted for move in found.moves)), (2, 1))
        self.assertTrue(found.reached and found.proven)

    def test_what_is_within_the_figure_is_left_alone(self):
        bus = Bus(id="bus", enclosure_id="panel", spaces=4)
        breakers = [Standing(str(at), (Spot(at),), (Fraction(10),)) for at in (1, 3)]
        found = balance(bus, ONE_PHASE, breakers, Fraction(0))
        self.assertEqual((found.moves, found.reached, found.proven), ((), True, True))

    def test_a_search_that_is_cut_short_says_so_and_still_helps(self):
        bus, breakers = panel(5, 30, 20, ONE_PHASE, shapes=[(1, False), (2, False)])
        found = balance(bus, ONE_PHASE, breakers, Fraction(1, 100), most=2_000)
        self.assertFalse(found.proven)
        self.assertLess(apart(found.after), apart(found.before))
        self.carried_out(bus, breakers, found)
