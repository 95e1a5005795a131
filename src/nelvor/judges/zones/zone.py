"""Where an enclosure stands, which decides where its neutral meets metal."""

from __future__ import annotations

from typing import Literal, NamedTuple

ZoneKind = Literal[
    "supply", "service", "load", "derived", "in_source", "floating", "by_relay", "no_neutral", "no_way_back", "unknown"
]


class Zone(NamedTuple):
    """Where an enclosure stands, with the reason in one sentence and the clause it rests on.

    ``supply``, ``service`` and ``load`` lie ahead of, at and behind the bond of a system; ``derived`` holds the bond of a
    separately derived system, ``in_source`` holds it within the source itself; a ``floating`` source is none of its own;
    ``by_relay``: a relay in the source makes the bond while nothing feeds its input;
    ``no_way_back``: a source's lines are joined to another system and its neutral is not.
    ``field`` is what is missing where the kind is ``unknown``.
    """

    kind: ZoneKind
    reason: str
    clause: str = ""
    field: str = ""
