"""The exact number of all figures: the standard library's fraction, compiled.

Arithmetic and comparisons are the same, to the sign and the last digit; ``tests/working`` holds the two side by side.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from fractions import Fraction
else:
    from quicktions import Fraction

__all__ = ["Fraction"]
