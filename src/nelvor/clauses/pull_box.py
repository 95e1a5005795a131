"""Pull boxes and conduit bodies for 4 AWG and larger, and for smaller conductors (314.16, 314.28)."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import Literal

from nelvor.clauses.ampacity import size_index
from nelvor.clauses.raceway_fill import RACEWAY_ROWS
from nelvor.errors import CannotCompute
from nelvor.model.vocabulary import Wall
from nelvor.working import Figure, Recorder

OPPOSITE: dict[str, str] = {"left": "right", "right": "left", "top": "bottom", "bottom": "top"}
ACROSS = {"left": "width", "right": "width", "top": "height", "bottom": "height"}


def trade_inches(trade_size: str) -> Fraction:
    """Return a trade size as inches: 1-1/2 is three halves."""
    return sum((Fraction(part) for part in trade_size.split("-")), Fraction(0))


@dataclass(frozen=True)
class Pull:
    """One set of conductors through a box: the walls it enters and leaves by and the raceways' trade sizes, by row.

    ``small`` marks conductors below 4 AWG: they ask for nothing themselves but take their place in the row.
    """

    enters: Wall
    leaves: Wall
    enters_size: str
    leaves_size: str
    row: int = 1
    small: bool = False

    @property
    def straight(self) -> bool:
        return OPPOSITE[self.enters] == self.leaves


@dataclass(frozen=True)
class BoxSize:
    """The least inside width and height in inches, and the least distance between entries of each angle or U pull."""

    width: Figure | None
    height: Figure | None
    spacings: tuple[Figure, ...]


def pull_box(recorder: Recorder, largest_conductor: str, pulls: Sequence[Pull]) -> BoxSize:
    """Return the least size of a pull box for conductors of 4 AWG and larger (314.28(A)).

    Straight pulls: eight times the larger trade size. Angle and U pulls: from each wall six times
    the largest entry plus the sum of all others in the same row, those of straight pulls and of small
    conductors too. Entries of the same conductors stand six times the larger trade size apart.

    Raises:
        CannotCompute: conductors below 4 AWG, whose boxes go by volume.
    """
    least = recorder.parameter("pull_least_size", "Smallest conductor of this rule").text
    if size_index(largest_conductor) < size_index(least):
        raise CannotCompute(
            f"Conductors of {largest_conductor} are below {least} AWG: their boxes go by volume (314.16).",
            "Use box fill for smaller conductors.",
        )
    needs: dict[str, list[Figure]] = defaultdict(list)
    spacings = []
    for pull in pulls:
        if pull.small:
            continue
        larger = max(pull.enters_size, pull.leaves_size, key=trade_inches)
        if pull.straight:
            needs[ACROSS[pull.enters]].append(_times(recorder, "pull_straight_factor", larger, "Straight pull"))
        else:
            spacings.append(_times(recorder, "pull_angle_factor", larger, "Entries of the same conductors apart"))
    for wall, rows in _entries(pulls).items():
        for sizes in rows.values():
            needs[ACROSS[wall]].append(_from_wall(recorder, wall, sizes))
    return BoxSize(
        _largest(recorder, "Width", needs["width"]), _largest(recorder, "Height", needs["height"]), tuple(spacings)
    )


def _entries(pulls: Sequence[Pull]) -> dict[str, dict[int, list[str]]]:
    """Return the trade sizes of every row with an angle or U pull, by wall; a U pull enters the same wall twice."""
    turned = {(wall, pull.row) for pull in pulls if not pull.straight and not pull.small for wall in _walls(pull)}
    found: dict[str, dict[int, list[str]]] = defaultdict(lambda: defaultdict(list))
    for pull in pulls:
        for wall, size in zip(_walls(pull), (pull.enters_size, pull.leaves_size), strict=True):
            if (wall, pull.row) in turned:
                found[wall][pull.row].append(size)
    return found


def _walls(pull: Pull) -> tuple[str, str]:
    return pull.enters, pull.leaves


def _times(recorder: Recorder, factor_key: str, trade_size: str, label: str) -> Figure:
    factor = recorder.parameter(factor_key, "Factor")
    size = recorder.given(f"Trade size {trade_size}", trade_inches(trade_size), "in", "raceways")
    return recorder.multiply(label, factor, size, unit="in", clause="pull_box_sizing")


def _from_wall(recorder: Recorder, wall: str, sizes: list[str]) -> Figure:
    ordered = sorted(sizes, key=trade_inches, reverse=True)
    base = _times(recorder, "pull_angle_factor", ordered[0], f"Six times the largest entry, {wall} wall")
    others = [recorder.given(f"Other entry, {size}", trade_inches(size), "in", "raceways") for size in ordered[1:]]
    return recorder.add(f"From the {wall} wall to the opposite one", base, *others, clause="pull_box_sizing")


def _largest(recorder: Recorder, label: str, needs: list[Figure]) -> Figure | None:
    return recorder.greatest(label, *needs, clause="pull_box_sizing") if needs else None


BodyShape = Literal["straight", "angle", "tee"]


@dataclass(frozen=True)
class ConduitBody:
    """What a conduit body must have: its length (4 AWG and larger) or the area across it (smaller), or its marking."""

    length: Figure | None
    area: Figure | None
    marking_serves: bool
    clause: str
    text: str


def conduit_body(
    recorder: Recorder,
    shape: BodyShape,
    method: str,
    trade_size: str,
    conductor: str,
    count: int,
    marked: tuple[str, int] | None,
) -> ConduitBody:
    """Return what a conduit body must have for these conductors (314.16(C), 314.28(A)).

    ``marked`` is the largest size and number of conductors marked on the body, which may stand in
    place of the length for fewer conductors than the raceway's full fill (314.28(A)(3)).

    Raises:
        MissingFigure: the raceway has no such trade size.
    """
    least = recorder.parameter("pull_least_size", "Smallest conductor of the length rule").text
    if size_index(conductor) < size_index(least):
        factor = recorder.parameter("conduit_body_area_factor", "Factor")
        raceway = recorder.table(
            f"Area inside {trade_size} in", "raceway", (RACEWAY_ROWS[method], trade_size), "area_in2"
        )
        area = recorder.multiply("Area across the body", factor, raceway, unit="in²", clause="conduit_body_sizing")
        return ConduitBody(
            None, area, False, "conduit_body_sizing", f"The body's cross section must be at least {area.text} in²."
        )
    key = "pull_straight_factor" if shape == "straight" else "pull_angle_factor"
    length = _times(recorder, key, trade_size, "Length of the body")
    if marked is not None and size_index(conductor) <= size_index(marked[0]) and count <= marked[1]:
        recorder.choose(
            "Marked for these conductors", f"{marked[1]} of {marked[0]}", "", [length], clause="conduit_body_marking"
        )
        return ConduitBody(
            length,
            None,
            True,
            "pull_angle_length",
            f"Marked for {marked[1]} conductors of {marked[0]}, so it may be shorter.",
        )
    told = "" if marked is None else f" Its marking ({marked[1]} of {marked[0]}) does not cover these conductors."
    clause = "pull_straight_length" if shape == "straight" else "pull_angle_length"
    return ConduitBody(
        length, None, False, clause, f"It must be {length.text} in long, or marked for these conductors.{told}"
    )
