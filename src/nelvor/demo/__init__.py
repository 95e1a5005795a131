"""Made-up sample jobs that ship with the application."""

from __future__ import annotations

from pathlib import Path

from nelvor.model.document import Document
from nelvor.model.parse import parse_bytes

FOLDER = Path(__file__).parent
DEMO_JOBS = ("annex", "bakery", "cabin", "orchard", "orchard-sources")


def demo_job(name: str = "orchard") -> Document:
    """Return a sample job by its file name."""
    return parse_bytes((FOLDER / f"{name}.json").read_bytes())
