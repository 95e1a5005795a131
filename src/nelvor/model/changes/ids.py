"""Ids for new things: from a wish, cut to length, and free in the whole document."""

from __future__ import annotations

from collections.abc import Iterable

LONGEST_ID = 40


class FreeIds:
    """Hands out ids that neither the document nor an earlier call has taken."""

    def __init__(self, taken: frozenset[str]) -> None:
        self._taken = taken
        self._handed_out: set[str] = set()
        self._last: dict[str, int] = {}

    def take(self, wish: str) -> str:
        """Return the wish where it is free, else the wish with the lowest number that makes it free."""
        found, number = wish[:LONGEST_ID], self._last.get(wish, 1)
        while found in self._taken or found in self._handed_out:
            number += 1
            ending = f"-{number}"
            found = f"{wish[: LONGEST_ID - len(ending)]}{ending}"
        self._handed_out.add(found)
        self._last[wish] = number
        return found


def taken_ids(things: Iterable[tuple[str, object]]) -> frozenset[str]:
    """Return the ids of things as ``Document.things`` yields them."""
    return frozenset(getattr(thing, "id", "") for _, thing in things)
