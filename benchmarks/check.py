"""A complete check over the bare cost of reading the same job, and its growth with the number of enclosures.

Run: ``PYTHONPATH=src:. .nelvor/venv/bin/python -m benchmarks.check``
"""

from __future__ import annotations

import json
import statistics
import time
from collections.abc import Callable

from nelvor.demo import FOLDER
from nelvor.model.parse import parse_bytes
from nelvor.report.check import check
from tests.support.jobs import chain

ROUNDS = 5


def median_seconds(work: Callable[[], object], rounds: int = ROUNDS) -> float:
    """Return the median time of a piece of work."""
    times = []
    for _ in range(rounds):
        began = time.perf_counter()
        work()
        times.append(time.perf_counter() - began)
    return statistics.median(times)


def main() -> None:
    """Print the table of ratios."""
    jobs = {
        "demo": (FOLDER / "orchard.json").read_bytes(),
        "chain of 50": json.dumps(chain(50)).encode(),
        "chain of 500": json.dumps(chain(500)).encode(),
    }
    seconds = {}
    print(f"{'job':<14}{'read ms':>10}{'check ms':>10}{'check / read':>14}")
    for name, raw in jobs.items():
        document = parse_bytes(raw)
        reading = median_seconds(lambda raw=raw: parse_bytes(raw))
        checking = median_seconds(lambda document=document: check(document, alternatives=False))
        seconds[name] = checking
        print(f"{name:<14}{reading * 1000:>10.1f}{checking * 1000:>10.1f}{checking / reading:>14.1f}")
    print(
        f"growth of the check from 50 to 500 enclosures: {seconds['chain of 500'] / seconds['chain of 50']:.1f} × for 10 × the size"
    )


if __name__ == "__main__":
    main()
