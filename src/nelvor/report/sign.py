"""A sign as it is hung: its words, where, and by which section."""

from __future__ import annotations

from dataclasses import dataclass

BLANK = "________________"


@dataclass(frozen=True)
class Sign:
    """One sign: the enclosure that it hangs at, its words, its section, and why it hangs there."""

    enclosure_id: str
    words: str
    section: str
    why: str
