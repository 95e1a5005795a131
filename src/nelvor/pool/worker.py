"""A worker process: it answers one question after another over a socket, and ends with whoever started it.

Run by the pool: ``python -m nelvor.pool.worker FD MODULE:FUNCTION NICENESS``, where the function takes a question and a way to
tell how far it has come, and returns what is told.
"""

from __future__ import annotations

import ctypes
import gc
import importlib
import os
import resource
import signal
import sys
from collections.abc import Callable
from multiprocessing.connection import Connection
from time import process_time

from nelvor.errors import NelvorError
from nelvor.pool.question import Crashed, Done, NeedsMore, Outcome, Progress, Question, Ready, Told

DIE_WITH_PARENT = 1  # PR_SET_PDEATHSIG of prctl(2)
LARGEST_KB = 900 * 1024
"""A worker that came to hold more than this ends after its answer, and a fresh one takes its place."""

MOST_BEFORE_RINGS = 1_000
IDLE_S = 1.0
"""Garbage that holds itself is looked for where nothing was asked for so long, or after so many answers: never amid one.

A check leaves none, a printed packet some 0.2 MB.
"""

Answering = Callable[[Question, Progress], Told]


def serve(pipe: Connection, answering: Answering) -> None:
    """Answer questions until the other side goes away, or too much is held."""
    gc.disable()
    pipe.send(Ready())
    since = 0
    while _held_kb() < LARGEST_KB:
        if since and (since >= MOST_BEFORE_RINGS or not pipe.poll(IDLE_S)):
            gc.collect()
            since = 0
        try:
            question = pipe.recv()
        except EOFError:
            return
        began = process_time()
        outcome = _outcome(question, answering, lambda done, parts: pipe.send(Done(done, parts)))
        pipe.send(Outcome(outcome, process_time() - began))
        since += 1


def _outcome(question: Question, answering: Answering, progress: Progress) -> Told | Exception:
    try:
        return answering(question, progress)
    except (NelvorError, NeedsMore) as failure:
        return failure
    except Exception as failure:  # told to the server, which answers for it
        return Crashed.of(question, failure)


def _held_kb() -> int:
    with open("/proc/self/statm") as told:
        return int(told.read().split()[1]) * resource.getpagesize() // 1024


def main() -> None:
    """Serve one socket with one function."""
    ctypes.CDLL(None).prctl(DIE_WITH_PARENT, signal.SIGKILL)
    signal.signal(signal.SIGINT, signal.SIG_IGN)  # Ctrl-C reaches the server, which lets its workers go
    os.nice(int(sys.argv[3]))
    module, _, function = sys.argv[2].partition(":")
    answering: Answering = getattr(importlib.import_module(module), function)
    serve(Connection(int(sys.argv[1])), answering)


if __name__ == "__main__":
    main()
