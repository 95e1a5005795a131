"""The fewest moves of breakers that bring the legs of a bus within a stated figure of each other.

A move is one breaker changing its space; a swap is two. Sets of breakers are tried in the order of their number, those
that change what a leg carries together with those that only make way, until one reaches the figure. The answer is
proven least where all smaller sets were tried out; where there are too many, it says so.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from fractions import Fraction
from functools import cached_property, reduce
from itertools import combinations
from math import lcm
from operator import add, or_, sub

from nelvor.model.things import Bus
from nelvor.model.vocabulary import HalfSpace
from nelvor.spaces.bus_spaces import Spot, leg_of_space, spots_from, takes_halves

MOST_TRIED = 20_000
PARTS_OF_A_STEP = 10
HALVES: tuple[HalfSpace, HalfSpace] = ("first", "second")
BITS = {"first": 1, "second": 2, None: 3}

Carried = tuple[int, ...]


@dataclass(frozen=True)
class Standing:
    """A breaker where it stands, with the amperes of its poles; ``fixed`` ones are not moved."""

    id: str
    spots: tuple[Spot, ...]
    poles_a: tuple[Fraction, ...]
    fixed: bool = False

    @property
    def start(self) -> Spot:
        return self.spots[0]

    @property
    def poles(self) -> int:
        return len(self.spots)


@dataclass(frozen=True)
class Move:
    """One breaker to its new place; ``lifted`` ones are taken out first, since others stand where they go."""

    id: str
    start: Spot
    to: Spot
    lifted: bool = False


@dataclass(frozen=True)
class Balance:
    """The moves in an order in which they can be made, and the amperes of each leg before and after.

    ``reached``: the legs are within the figure afterwards; ``proven``: no fewer moves do it, or, where it is not
    reached, no moves bring the legs closer.
    """

    moves: tuple[Move, ...]
    before: dict[str, Fraction]
    after: dict[str, Fraction]
    reached: bool
    proven: bool


def balance(
    bus: Bus, legs: Sequence[str], breakers: Sequence[Standing], within_a: Fraction, most: int = MOST_TRIED
) -> Balance:
    """Return the fewest moves that bring the legs within ``within_a`` amperes, or as close as was found."""
    search = _Search(bus, tuple(legs), tuple(breakers), within_a, most)
    found, proven = search.run()
    places = found or {}
    return Balance(
        moves=tuple(_in_order(search, places)),
        before=search.in_amperes(search.now),
        after=search.in_amperes(search.with_places(places)),
        reached=search.apart(search.with_places(places)) <= search.within,
        proven=proven,
    )


@dataclass
class _Search:
    bus: Bus
    legs: tuple[str, ...]
    breakers: tuple[Standing, ...]
    within_a: Fraction
    most: int
    tried: int = 0
    best: dict[int, Spot] = field(default_factory=dict)
    known: dict[tuple[int, Spot], Carried] = field(default_factory=dict)

    # -- what a place means --------------------------------------------------------------------

    @cached_property
    def scale(self) -> int:
        """Amperes are counted in whole parts of this many, so that sums are exact and quick."""
        return lcm(*(value.denominator for item in self.breakers for value in item.poles_a), 1)

    @cached_property
    def within(self) -> Fraction:
        return self.within_a * self.scale

    def carried(self, at: int, start: Spot) -> Carried:
        """What a breaker adds to each leg from a place."""
        if (at, start) not in self.known:
            self.known[at, start] = self._carried(self.breakers[at], start)
        return self.known[at, start]

    def _carried(self, breaker: Standing, start: Spot) -> Carried:
        sums = [0] * len(self.legs)
        for spot, amperes in zip(spots_from(self.bus, breaker.poles, start), breaker.poles_a, strict=False):
            leg = leg_of_space(self.bus, spot.space, self.legs)
            if leg is not None:
                sums[self.legs.index(leg)] += int(amperes * self.scale)
        return tuple(sums)

    @cached_property
    def now(self) -> Carried:
        sums = (0,) * len(self.legs)
        for at, item in enumerate(self.breakers):
            if item.spots:
                sums = tuple(map(add, sums, self.carried(at, item.start)))
        return sums

    def with_places(self, places: dict[int, Spot]) -> Carried:
        sums = self.now
        for at, start in places.items():
            leaving, coming = self.carried(at, self.breakers[at].start), self.carried(at, start)
            sums = tuple(map(add, map(sub, sums, leaving), coming))
        return sums

    @staticmethod
    def apart(sums: Carried) -> int:
        return max(sums, default=0) - min(sums, default=0)

    def in_amperes(self, sums: Carried) -> dict[str, Fraction]:
        return {leg: Fraction(total, self.scale) for leg, total in zip(self.legs, sums, strict=True)}

    # -- where breakers may go -----------------------------------------------------------------

    @cached_property
    def movable(self) -> list[int]:
        return [at for at, item in enumerate(self.breakers) if not item.fixed and item.spots]

    @cached_property
    def starts(self) -> dict[int, dict[Carried, list[tuple[Spot, int]]]]:
        """For each movable breaker, the places in which its poles fit, by what it would add to the legs there."""
        found: dict[int, dict[Carried, list[tuple[Spot, int]]]] = {}
        for at in self.movable:
            breaker, by_carried = self.breakers[at], dict[Carried, list[tuple[Spot, int]]]()
            for start in self._every_start(breaker):
                spots = spots_from(self.bus, breaker.poles, start)
                if start != breaker.start and len(spots) == breaker.poles:
                    by_carried.setdefault(self.carried(at, start), []).append((start, _bits(spots)))
            found[at] = by_carried
        return found

    def _every_start(self, breaker: Standing) -> Iterator[Spot]:
        for space in range(1, (self.bus.spaces or 0) + 1):
            if breaker.start.half is None:
                yield Spot(space)
            elif takes_halves(self.bus, space):
                yield from (Spot(space, half) for half in HALVES)

    # -- the search ----------------------------------------------------------------------------

    def run(self) -> tuple[dict[int, Spot], bool]:
        """Return the places of the breakers to move, and whether fewer moves were all tried out."""
        if self.apart(self.now) <= self.within:
            return {}, True
        for goal in (self.within, None):
            for number in range(1, len(self.movable) + 1):
                for changing in range(1, number + 1):
                    found = self._first(changing, number - changing, goal)
                    if found is not None and goal is not None:
                        return found, self.tried <= self.most
                if self.tried > self.most:
                    return self._step_by_step(), False
        return self.best, True

    def _step_by_step(self) -> dict[int, Spot]:
        """Return places that come close, each step the one that helps most, where not every set can be tried."""
        places: dict[int, Spot] = {}
        while True:
            moved = tuple(
                replace(item, spots=spots_from(self.bus, item.poles, places[at])) if at in places else item
                for at, item in enumerate(self.breakers)
            )
            step = _Search(self.bus, self.legs, moved, self.within_a, self.most // PARTS_OF_A_STEP)
            for changing, making_way in ((1, 0), (1, 1), (2, 0)):
                step._first(changing, making_way, None)
                if step.best:
                    break
            if not step.best or self.apart(step.now) <= self.within:
                break
            places |= step.best
        found = {at: start for at, start in places.items() if start != self.breakers[at].start}
        return min((found, self.best), key=lambda item: self.apart(self.with_places(item)))

    def _first(self, number: int, making_way: int, goal: Fraction | None) -> dict[int, Spot] | None:
        """Return places for so many breakers that change the legs, and so many that make way, within the goal.

        Without a goal every set that comes closer than what is known is kept as the best.
        """
        for chosen in self._sets(number, 0, self.now, (), goal):
            places = self._placed(dict(chosen), making_way)
            if places is not None:
                self.best = places
                if goal is not None:
                    return places
        return None

    def _sets(
        self, number: int, first: int, sums: Carried, chosen: tuple[tuple[int, Carried], ...], goal: Fraction | None
    ) -> Iterator[tuple[tuple[int, Carried], ...]]:
        """Yield sets of breakers with what each would add, that bring the legs within the goal, or closer than the best.

        What the rest could still mend at most is known: where that is not enough, nothing further is tried.
        """
        self.tried += 1
        if self.tried > self.most:
            return
        apart = self.apart(sums)
        if not number:
            if apart <= goal if goal is not None else apart < self.apart(self.with_places(self.best)):
                yield chosen
            return
        limit = goal if goal is not None else self.apart(self.with_places(self.best))
        if apart - number * self.reach > limit:
            return
        for place in range(first, len(self.movable) - number + 1):
            at = self.movable[place]
            for added, change in self.changes[at]:
                after = tuple(map(add, sums, change))
                yield from self._sets(number - 1, place + 1, after, (*chosen, (at, added)), goal)

    @cached_property
    def changes(self) -> dict[int, list[tuple[Carried, Carried]]]:
        """For each movable breaker, what it could add to the legs otherwise than now, with the change that this makes."""
        found = {}
        for at in self.movable:
            own = self.carried(at, self.breakers[at].start)
            found[at] = [(added, tuple(map(sub, added, own))) for added in self.starts[at] if added != own]
        return found

    @cached_property
    def reach(self) -> int:
        """By how much one move can bring the legs closer at most."""
        return max((self.apart(change) for ways in self.changes.values() for _, change in ways), default=0)

    # -- into spaces ---------------------------------------------------------------------------

    def _placed(self, wanted: dict[int, Carried], making_way: int) -> dict[int, Spot] | None:
        """Return spots for breakers that are to change the legs, with as many others moved out of the way as asked."""
        others = [at for at in self.movable if at not in wanted]
        for more in combinations(others, making_way):
            going = wanted | {at: self.carried(at, self.breakers[at].start) for at in more}
            taken = _bits([spot for at, item in enumerate(self.breakers) if at not in going for spot in item.spots])
            order = sorted(going, key=lambda at: (-self.breakers[at].poles, self.breakers[at].start.half is not None))
            places = self._fit(order, going, taken)
            if places is not None or self.tried > self.most:
                return places
        return None

    def _fit(self, order: list[int], going: dict[int, Carried], taken: int) -> dict[int, Spot] | None:
        """Put breakers one after another into free spots, the largest first, trying each kind of spot once."""
        self.tried += 1
        if not order or self.tried > self.most:
            return None if order else {}
        at, rest = order[0], order[1:]
        seen = set[object]()
        for start, bits in self.starts[at].get(going[at], []):
            if bits & taken:
                continue
            kind = self._kind(self.breakers[at], start, rest)
            if kind in seen:
                continue
            seen.add(kind)
            found = self._fit(rest, going, taken | bits)
            if found is not None:
                return {at: start, **found}
        return None

    def _kind(self, breaker: Standing, start: Spot, rest: list[int]) -> object:
        """Spots that are alike for all that is still to be placed: of one leg, where nothing larger is to come."""
        if breaker.poles > 1 or start in {self.breakers[at].start for at in rest}:
            return start
        return leg_of_space(self.bus, start.space, self.legs), takes_halves(self.bus, start.space), start.half


def _bits(spots: Sequence[Spot]) -> int:
    """The spots as bits, two for each space, so that what overlaps is found at once."""
    return reduce(or_, (BITS[spot.half] << 2 * spot.space for spot in spots), 0)


def _in_order(search: _Search, places: dict[int, Spot]) -> Iterator[Move]:
    """Yield the moves so that each goes to a place that is free by then; where none is, one is lifted out first."""
    left = dict(places)
    lifted: set[int] = set()
    while left:
        standing = {at for at in left if at not in lifted}
        free = [at for at in left if not _blocked(search, at, left[at], standing)]
        if not free:
            lifted.add(min(standing, key=lambda at: search.breakers[at].start))
            continue
        at = min(free, key=lambda item: search.breakers[item].start)
        yield Move(search.breakers[at].id, search.breakers[at].start, left.pop(at), at in lifted)


def _blocked(search: _Search, at: int, start: Spot, standing: set[int]) -> bool:
    spots = spots_from(search.bus, search.breakers[at].poles, start)
    return any(
        spot.overlaps(other) for item in standing - {at} for other in search.breakers[item].spots for spot in spots
    )
