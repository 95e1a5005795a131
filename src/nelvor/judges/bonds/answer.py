"""What is decided for the neutrals of an enclosure."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, NamedTuple

from nelvor.judges.answer import Answer
from nelvor.topology.joints import Found

Decision = Literal[
    "bond",
    "apart",
    "supply_side",
    "existing_three_wire",
    "derived_bond",
    "bond_in_source",
    "floating",
    "no_neutral",
    "unknown",
]
BEHIND_A_BOND = frozenset({"apart", "floating"})
"""Decisions under which neutral and metal stay apart, and metal hangs on a grounding path to the bond."""


class NeutralDecision(NamedTuple):
    """The decision for one neutral of an enclosure: one over all scenarios, since screws do not move with the handle.

    ``neutral_part`` is the first bar (or source) of the neutral, "" where the enclosure has none.
    """

    neutral_part: str
    decision: Decision
    reason: str
    section: str
    found: Found


@dataclass(frozen=True, kw_only=True)
class BondAnswer(Answer):
    """The decisions for the neutrals of one enclosure, its ordinary neutral first, and what is to be done there."""

    enclosure_id: str
    neutrals: tuple[NeutralDecision, ...]
    parts: tuple[str, ...]
    conductors: tuple[str, ...]

    @property
    def decision(self) -> Decision:
        """The decision for the ordinary neutral."""
        return self.neutrals[0].decision

    @property
    def reason(self) -> str:
        return self.neutrals[0].reason

    @property
    def section(self) -> str:
        return self.neutrals[0].section

    @property
    def found(self) -> Found:
        return self.neutrals[0].found

    def of_neutral(self, part: str) -> NeutralDecision | None:
        """Return the decision for a neutral by its first part."""
        return next((item for item in self.neutrals if item.neutral_part == part), None)
