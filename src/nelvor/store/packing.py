"""How a revision's document is kept: its JSON text, compressed. A job of a megabyte takes some sixty kilobytes."""

from __future__ import annotations

import zlib


def packed(text: str) -> bytes:
    """Return a document's text as it is stored."""
    return zlib.compress(text.encode(), level=6)


def unpacked(stored: bytes) -> str:
    """Return the text of a stored document."""
    return zlib.decompress(stored).decode()
