"""Ranks causes by how well they give the readings, and chooses the reading that tells the leading ones apart best.

Each reading has an error of a stated share, half its last digit, and the doubt about the loads. A cause is as likely as its
weight times exp(-χ²/2); two at once are worth less from the start. The next reading is the one that is expected to leave
the least uncertainty among the leading causes.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import combinations, product

import numpy as np
from numpy.typing import NDArray

from nelvor.errors import CannotCompute
from nelvor.study.diagnosis.causes import Cause
from nelvor.study.diagnosis.observables import Observable
from nelvor.study.diagnosis.readings import Meter, Reading
from nelvor.study.diagnosis.responses import Responses

LEADING, LEADING_THAT_FIT = 12, 3
"""So many single causes are tried in pairs with all others: where none gives every reading, and where one does."""

STRENGTHS_TRIED = 8
PAIR_WEIGHT = 0.02
LEAST_A, LEAST_V = 0.05, 0.3
VOLT_SHARE = 0.01
FITS_WITHIN = 3.5
"""A cause gives all readings where none is further off than this, in widths of its error."""

LEAST_SHARE, TINY = 1e-4, 1e-300
ALIKE_BITS = 0.01
Reals = NDArray[np.float64]


@dataclass(frozen=True)
class Weighed:
    """One cause or two with what they would show, how far off that is from each reading, and how much speaks for them."""

    causes: tuple[Cause, ...]
    expected: Reals
    sigmas: Reals
    score: float
    share: float = 0.0

    @property
    def families(self) -> frozenset[tuple[str, str]]:
        """What is wrong where, whatever its strength."""
        return frozenset(cause.family for cause in self.causes)

    @property
    def fits(self) -> bool:
        """Tell whether every reading is given within its error."""
        return bool(np.all(np.abs(self.sigmas) <= FITS_WITHIN))


class Diagnosis:
    """The causes of a circuit weighed against readings.

    Raises:
        CannotCompute: a reading is of something that this site does not have, or in another unit.
    """

    def __init__(
        self, responses: Responses, causes: Sequence[Cause], readings: Sequence[Reading], meter: Meter
    ) -> None:
        self.responses, self.meter = responses, meter
        self.causes = [cause for cause in causes if responses.can_tell(cause)]
        self.places = {item.id: at for at, item in enumerate(responses.seen)}
        self.at = [self._place(reading) for reading in readings]
        self.read: Reals = np.array([reading.value for reading in readings], dtype=float)
        self.amperes = np.array([item.unit == "A" for item in responses.seen], dtype=bool)
        self.legs = [
            at for at, place in enumerate(self.at) if responses.seen[place].id.rpartition(":")[2] in ("L1", "L2", "L3")
        ]
        self.ranked = self._ranked()

    def _place(self, reading: Reading) -> int:
        at = self.places.get(reading.observable)
        if at is None:
            raise CannotCompute(f"{reading.observable!r} cannot be read at this site.", "Choose what was read again.")
        if self.responses.seen[at].unit != reading.unit:
            raise CannotCompute(
                f"{self.responses.seen[at].words} is read in {self.responses.seen[at].unit}.", "Enter its unit."
            )
        return at

    def error_of(self, expected: Reals, amperes: NDArray[np.bool_]) -> Reals:
        """Return the width of the error of each reading that would show so much."""
        share = np.where(amperes, self.meter.accuracy_percent / 100, VOLT_SHARE)
        doubt = np.where(amperes, self.meter.load_doubt_percent / 100, 0.0)
        least = np.where(amperes, max(LEAST_A, self.meter.resolution / 2), LEAST_V)
        found: Reals = np.sqrt((share * expected) ** 2 + (doubt * expected) ** 2 + least**2)
        return found

    # -- weighing ------------------------------------------------------------------------------

    def _weighed(self, *causes: Cause) -> Weighed:
        expected = np.abs(self.responses.of(*causes)) * self._scale_of(causes)
        here = expected[self.at]
        sigmas = (self.read - here) / self.error_of(here, self.amperes[self.at])
        width = np.log(self.error_of(here, self.amperes[self.at])).sum()
        likely = sum(np.log(cause.likely) for cause in causes) + (np.log(PAIR_WEIGHT) if len(causes) > 1 else 0.0)
        return Weighed(causes, expected, sigmas, float(likely - (sigmas**2).sum() / 2 - width))

    def _scale_of(self, causes: tuple[Cause, ...]) -> Reals:
        """Amperes by the loads that were on: where lines were read and the loads are in doubt, as these tell."""
        scale = np.ones(len(self.responses.seen))
        if not self.legs or not self.meter.load_doubt_percent:
            return scale
        shown = np.abs(self.responses.of(*causes))[[self.at[at] for at in self.legs]]
        read = self.read[self.legs]
        if (shown**2).sum() > LEAST_A**2:
            scale[self.amperes] = max(0.0, float((read * shown).sum() / (shown**2).sum())) or 1.0
        return scale

    def _ranked(self) -> list[Weighed]:
        """The best of each family, the likeliest first; then those that stand first in pairs with all others.

        Where one cause gives every reading, a second beside it may still be hidden: the first few are paired. Where none
        does, more are.
        """
        singles = self._best([self._weighed(cause) for cause in self.causes])
        wide = LEADING if not singles[0].fits else LEADING_THAT_FIT
        leading = [item.causes[0] for item in singles[:wide] if item.causes[0].kind != "nothing"]
        others = [cause for cause in self.causes if cause.kind != "nothing" and cause.usual] if self.at else []
        pairs = {
            frozenset((id(one), id(other))): (one, other)
            for one in leading
            for other in others
            if one.family != other.family
        }
        found = self._best([self._weighed(*pair) for pair in pairs.values()])
        return _with_shares(self._best([*singles, *found, *self._in_other_strengths(found[:STRENGTHS_TRIED])]))

    def _in_other_strengths(self, pairs: list[Weighed]) -> Iterator[Weighed]:
        """The pairs that stand first, with each of their causes in its other strengths."""
        of_family: dict[tuple[str, str], list[Cause]] = defaultdict(list)
        for cause in self.causes:
            of_family[cause.family].append(cause)
        for item in pairs:
            for combined in product(*(of_family[cause.family] for cause in item.causes)):
                if combined != item.causes:
                    yield self._weighed(*combined)

    @staticmethod
    def _best(weighed: list[Weighed]) -> list[Weighed]:
        by_family: dict[frozenset[tuple[str, str]], Weighed] = {}
        for item in weighed:
            known = by_family.get(item.families)
            if known is None or item.score > known.score:
                by_family[item.families] = item
        return sorted(by_family.values(), key=lambda item: -item.score)

    # -- what to read next -----------------------------------------------------------------------

    def next_reading(self, most: int = 40) -> tuple[Observable, float] | None:
        """Return the reading that is expected to tell the leading causes apart best, with how many bits; None: none does."""
        leading = [item for item in self.ranked[:most] if item.share > LEAST_SHARE]
        if len(leading) < 2:
            return None
        shares = np.array([item.share for item in leading])
        shares = shares / shares.sum()
        before = float(_bits(shares))
        best: tuple[Observable, float] | None = None
        for at, item in enumerate(self.responses.seen):
            if at in self.at:
                continue
            shown = np.array([weighed.expected[at] for weighed in leading])
            gained = before - _expected_bits(shares, shown, self.error_of(shown, np.full(len(shown), self.amperes[at])))
            gained *= 1.05 if item.care == "outside" else 1.0
            if best is None or gained > best[1]:
                best = (item, float(gained))
        return best if best is not None and best[1] > ALIKE_BITS else None

    def contradicting(self) -> list[int]:
        """Return the readings without which one cause would give all others, where none gives them all."""
        if not self.ranked or any(item.fits for item in self.ranked) or len(self.at) < 3:
            return []
        off = {
            at
            for item in self.ranked
            if (np.abs(item.sigmas) > FITS_WITHIN).sum() == 1
            for at in np.flatnonzero(np.abs(item.sigmas) > FITS_WITHIN)
        }
        return sorted(int(at) for at in off)


def _with_shares(found: list[Weighed]) -> list[Weighed]:
    scores = np.array([item.score for item in found])
    weights = np.exp(scores - scores.max())
    shares = weights / weights.sum()
    return [
        Weighed(item.causes, item.expected, item.sigmas, item.score, float(share))
        for item, share in zip(found, shares, strict=True)
    ]


def _bits(shares: Reals) -> Reals:
    """The uncertainty of shares, along their last axis."""
    found: Reals = -(shares * np.log2(np.maximum(shares, TINY))).sum(axis=-1)
    return found


def _expected_bits(shares: Reals, shown: Reals, errors: Reals) -> float:
    """What uncertainty is left on average after a reading, were each cause true in turn."""
    likely = shares * np.exp(-(((shown[:, None] - shown) / errors) ** 2) / 2) / errors
    return float(shares @ _bits(likely / likely.sum(axis=1, keepdims=True)))


def told_apart(diagnosis: Diagnosis, one: Sequence[Cause], other: Sequence[Cause], sigmas: float = 3.0) -> bool:
    """Tell whether some reading would differ between two causes by so many widths of its error."""
    shown = [np.abs(diagnosis.responses.of(*causes)) for causes in (one, other)]
    width = np.maximum(*(diagnosis.error_of(item, diagnosis.amperes) for item in shown))
    return bool(np.any(np.abs(shown[0] - shown[1]) > sigmas * width))


def pairs_of(causes: Sequence[Cause]) -> list[tuple[Cause, Cause]]:
    """Return every two causes that are wrong in different places or ways."""
    real = [cause for cause in causes if cause.kind != "nothing"]
    return [(one, other) for one, other in combinations(real, 2) if one.family != other.family]
