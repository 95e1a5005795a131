"""A complete check over the bare cost of reading the same job, its growth with the size, and comparisons of ways.

Run: ``PYTHONPATH=src:. .nelvor/venv/bin/python -m benchmarks.check``
"""

from __future__ import annotations

import json
import statistics
import time
from collections.abc import Callable

from nelvor.demo import FOLDER
from nelvor.model.document import Document
from nelvor.model.parse import parse_bytes
from nelvor.report.check import check
from nelvor.report.comparison import compare_run
from tests.support.jobs import chain

ROUNDS = 5
MANY_SIZES = 20


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
        "50, 10 loads each": json.dumps(chain(50, loads_each=10)).encode(),
        "500, 10 loads each": json.dumps(chain(500, loads_each=10)).encode(),
        "bakery": (FOLDER / "bakery.json").read_bytes(),
    }
    seconds = {}
    print(f"{'job':<20}{'read ms':>10}{'check ms':>10}{'check / read':>14}")
    for name, raw in jobs.items():
        document = parse_bytes(raw)
        reading = median_seconds(lambda raw=raw: parse_bytes(raw))
        checking = median_seconds(lambda document=document: check(document))
        seconds[name] = checking
        print(f"{name:<20}{reading * 1000:>10.1f}{checking * 1000:>10.1f}{checking / reading:>14.1f}")
    for small, large in (("chain of 50", "chain of 500"), ("50, 10 loads each", "500, 10 loads each")):
        print(f"growth of the check from {small} to {large}: {seconds[large] / seconds[small]:.1f} × for 10 × the size")
    compare_ways(parse_bytes(jobs["bakery"]), seconds["bakery"])


def compare_ways(document: Document, checking: float) -> None:
    """Print what a table of very many lawful ways costs over one check, run by run."""
    report = check(document)
    runs = [run_id for run_id, answer in report.runs.items() if answer.kind == "feeder"]
    for run_id in runs:
        ways = len(compare_run(report, run_id, MANY_SIZES).alternatives)
        comparing = median_seconds(lambda run_id=run_id: compare_run(report, run_id, MANY_SIZES))
        print(
            f"{ways} lawful ways of {run_id} in one table: {comparing * 1000:.0f} ms, {comparing / checking:.1f} × a "
            f"check, {comparing / ways * 1000:.2f} ms each"
        )


if __name__ == "__main__":
    main()
