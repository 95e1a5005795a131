"""Visible progress of set-up, and the one exception set-up raises."""

from __future__ import annotations

import subprocess
import sys
import threading
import time
from collections.abc import Callable, Iterator, Mapping, Sequence
from contextlib import contextmanager, suppress
from pathlib import Path

_print_lock = threading.Lock()


class SetupError(Exception):
    """Set-up cannot go on; the message names the reason and the remedy."""


def say(text: str) -> None:
    """Print one line at once, also when several steps run side by side; where it goes may be full or gone."""
    with _print_lock, suppress(OSError):
        print(text, flush=True)


@contextmanager
def step(label: str) -> Iterator[None]:
    """Announce a step and tell how long it took."""
    say(f"  … {label}")
    began = time.monotonic()
    yield
    say(f"  ✓ {label} ({time.monotonic() - began:.1f} s)")


def run(
    command: Sequence[str | Path],
    *,
    cwd: Path | None = None,
    env: Mapping[str, str] | None = None,
) -> str:
    """Run a command quietly and return its output.

    Raises:
        SetupError: the command failed; the message carries the end of its output.
    """
    done = subprocess.run(
        [str(part) for part in command],
        cwd=cwd,
        env=None if env is None else dict(env),
        stdin=subprocess.DEVNULL,
        stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT,
        text=True,
        check=False,
    )
    if done.returncode != 0:
        tail = "\n".join(done.stdout.splitlines()[-25:])
        raise SetupError(f"{' '.join(str(part) for part in command)} failed:\n{tail}")
    return done.stdout


def side_by_side(*jobs: Callable[[], None]) -> None:
    """Run jobs in threads, wait for all, and raise the first failure."""
    failures: list[BaseException] = []

    def guarded(job: Callable[[], None]) -> None:
        try:
            job()
        except BaseException as failure:  # handed to the caller below
            failures.append(failure)

    threads = [threading.Thread(target=guarded, args=(job,)) for job in jobs]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    if failures:
        raise failures[0]


def main_guard(main: Callable[[], int]) -> None:
    """Run a tool's main function; a set-up failure ends with its message alone."""
    try:
        sys.exit(main())
    except SetupError as failure:
        print(f"\nSet-up stopped: {failure}", file=sys.stderr)
        sys.exit(2)
