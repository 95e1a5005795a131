"""From older versions of the job document to the present one, a step at a time."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from nelvor.model.document import VERSION

Json = dict[str, Any]


def _only_more(value: Json) -> Json:
    """Versions 2 and 3 add lists and properties that may be left out, and change none."""
    return {**value, "version": value["version"] + 1}


STEPS: dict[int, Callable[[Json], Json]] = {1: _only_more, 2: _only_more}


def known_version(version: Any) -> bool:
    """Tell whether a document of this version can be read."""
    return isinstance(version, int) and not isinstance(version, bool) and (version == VERSION or version in STEPS)


def migrated(value: Json) -> Json:
    """Return the document in the present version. The version must be known."""
    while value["version"] != VERSION:
        value = STEPS[value["version"]](value)
    return value
