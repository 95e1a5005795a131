"""The garbage collector waits while a check works: what a check allocates lives until it ends."""

from __future__ import annotations

import gc
from collections.abc import Iterator
from contextlib import contextmanager


@contextmanager
def collector_paused() -> Iterator[None]:
    """Keep the cycle collector from walking again and again over steps that are all still in use.

    Reference counts go on freeing what is dropped. Where checks overlap in threads, the first to end sets the
    collector going again, which costs time and nothing else.
    """
    was_going = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if was_going:
            gc.enable()
