"""The single pieces of equipment on a supply of one's own: the largest one, and a motor that may not start on it.

Lighting and receptacles are no single piece. A motor draws several times its running power while it starts.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from fractions import Fraction

from nelvor.clauses.load_kind import SQUARE_ROOT_OF_3, kind_of
from nelvor.judges.verdict import Judge
from nelvor.model.things import Load, Source
from nelvor.model.voltages import LINE_TO_LINE_V, LINE_TO_NEUTRAL_V, THREE_PHASE
from nelvor.rulebook.rules import Rules
from nelvor.topology.site import Site
from nelvor.working import exact

NO_SINGLE_PIECE = frozenset(
    {"lighting_area", "small_appliance", "laundry", "lighting", "receptacles", "show_window", "track_lighting"}
)
MOTORS = frozenset({"motor", "cooling", "heat_pump"})
STARTING = 3
"""Below this many times the running power of a motor there is a word of advice."""


@dataclass(frozen=True)
class Piece:
    """One piece of equipment, and what it takes in VA."""

    load: Load
    va: Fraction

    @property
    def words(self) -> str:
        """Its name and what it takes."""
        return f"{self.load.name or self.load.id} of {in_kva(self.va)}"


def pieces_of(site: Site, rules: Rules, loads: Iterable[Load]) -> list[Piece]:
    """Return the single pieces of equipment among loads.

    Raises:
        CannotCompute: an amount or a voltage is not told.
    """
    single = (load for load in loads if load.category not in NO_SINGLE_PIECE)
    return [Piece(load, kind_of(load, site.system_at(load.enclosure_id) or "", rules).each) for load in single]


def advise_of_start(
    judge: Judge, code: str, clause: str, supply: str, output: Fraction, pieces: Sequence[Piece]
) -> None:
    """Say of the largest motor that it may not start on a supply of so many VA."""
    motor = max((item for item in pieces if item.load.category in MOTORS), key=lambda item: item.va, default=None)
    if motor is not None and motor.va * STARTING > output:
        text = (
            f"{motor.load.name or motor.load.id} may not start on {supply}: while it starts it draws several times its "
            f"{in_kva(motor.va)}. Ask its maker, or fit a soft starter."
        )
        judge.advise(code, text, clause)


def output_va(site: Site, source: Source) -> Fraction | None:
    """Return what a source gives by its plate in VA, None where that is not entered."""
    if source.rated_kva is not None:
        return exact(source.rated_kva) * 1000
    system = source.system or ""
    volts = LINE_TO_LINE_V.get(system) or LINE_TO_NEUTRAL_V.get(system)
    if source.rated_output_a is None or volts is None:
        return None
    return exact(source.rated_output_a) * volts * (SQUARE_ROOT_OF_3 if system in THREE_PHASE else 1)


def in_kva(va: Fraction) -> str:
    """Return an amount of power in words."""
    return f"{float(va) / 1000:.4g} kVA"
