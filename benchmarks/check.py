"""A complete check over the arithmetic of its own workings, its growth with the size, an edit on a large job, and ways.

The pace of a machine changes from one second to the next, so each check is timed between two rounds of what it is compared
with, and the median of those ratios is told.

Run: ``PYTHONPATH=src:. .nelvor/venv/bin/python -m benchmarks.check``
"""

from __future__ import annotations

import gc
import gzip
import json
import math
import statistics
import time
from collections.abc import Callable, Sequence
from fractions import Fraction
from functools import partial
from itertools import count
from typing import Any
from unittest.mock import patch

from nelvor.demo import FOLDER
from nelvor.judges.memory import Memory
from nelvor.model.changes.operations import Put
from nelvor.model.document import Document
from nelvor.model.edited import KnownJob
from nelvor.model.parse import parse_bytes
from nelvor.report.check import Report, check
from nelvor.report.comparison import compare_run
from nelvor.report.subjects import SUBJECTS
from nelvor.report.wire import report_out
from nelvor.working import Figure, Recorder
from nelvor.working.asked_once import forget_answers
from nelvor.working.recorder import Operation, Value, replay
from tests.support.jobs import chain

ROUNDS = 7
AROUND = 3
BARE: dict[str, Callable[[list[Fraction]], object]] = {
    "add": lambda numbers: sum(numbers, Fraction(0)),
    "subtract": lambda numbers: numbers[0] - numbers[1],
    "multiply": lambda numbers: math.prod(numbers, start=Fraction(1)),
    "divide": lambda numbers: numbers[0] / numbers[1],
    "greatest": max,
    "least": min,
}
MANY_SIZES = 20


def seconds_of(work: Callable[[], object], times: int = 1) -> float:
    """Return the time that a piece of work takes, done a number of times in a row."""
    began = time.perf_counter()
    for _ in range(times):
        work()
    return (time.perf_counter() - began) / times


def check_afresh(document: Document) -> Report:
    """Check a job as the first one does: no question of the code was answered before."""
    forget_answers()
    return check(document)


def median_seconds(work: Callable[[], object], rounds: int = ROUNDS) -> float:
    """Return the median time of a piece of work."""
    return statistics.median(seconds_of(work) for _ in range(rounds))


def over(work: Callable[[], object], other: Callable[[], object], rounds: int = ROUNDS) -> tuple[float, float, float]:
    """Return how many times the other a piece of work takes, and the median seconds of the work and of the other."""
    ratios, works, others = [], [], []
    for _ in range(rounds):
        before = seconds_of(other, AROUND)
        works.append(seconds_of(work))
        others.append((before + seconds_of(other, AROUND)) / 2)
        ratios.append(works[-1] / others[-1])
    return statistics.median(ratios), statistics.median(works), statistics.median(others)


def main() -> None:
    """Print the table of ratios. Rings of objects are not looked for, as in the process that checks for the server."""
    gc.disable()
    jobs = {
        "demo": (FOLDER / "orchard.json").read_bytes(),
        "chain of 50": json.dumps(chain(50)).encode(),
        "chain of 500": json.dumps(chain(500)).encode(),
        "50, 10 loads each": json.dumps(chain(50, loads_each=10)).encode(),
        "500, 10 loads each": json.dumps(chain(500, loads_each=10)).encode(),
        "bakery": (FOLDER / "bakery.json").read_bytes(),
    }
    seconds = {}
    print(
        f"{'job':<20}{'steps':>8}{'replay ms':>11}{'bare ms':>9}{'check ms':>10}{'check / replay':>16}{'check / bare':>14}"
        f"{'and refused':>13}"
    )
    for name, raw in jobs.items():
        document = parse_bytes(raw)
        workings = workings_of(check(document))
        work = partial(check_afresh, document)
        replays, _, replaying = over(work, lambda workings=workings: [replay(steps) for steps in workings])
        sums = [numbers for steps in workings for numbers in bare_numbers(steps)]
        bares, seconds[name], bare = over(work, partial(bare_arithmetic, sums))
        with_refused, _, _ = over(work, partial(bare_arithmetic, sums_done(document)))
        number = sum(len(steps) for steps in workings)
        print(
            f"{name:<20}{number:>8}{replaying * 1000:>11.1f}{bare * 1000:>9.1f}{seconds[name] * 1000:>10.1f}"
            f"{replays:>16.1f}{bares:>14.1f}{with_refused:>13.1f}"
        )
    for small, large in (("chain of 50", "chain of 500"), ("50, 10 loads each", "500, 10 loads each")):
        less, more = (partial(check_afresh, parse_bytes(jobs[name])) for name in (small, large))
        print(f"growth of the check from {small} to {large}: {over(more, less)[0]:.1f} × for 10 × the size")
    edit_last_run(jobs["500, 10 loads each"])
    compare_ways(parse_bytes(jobs["bakery"]), seconds["bakery"])


def workings_of(report: Report) -> list[list[Figure]]:
    """Return the steps of all workings of a report, with those that their figures are carried from."""
    found: dict[int, Recorder] = {}
    stack = [answer.working for subject in SUBJECTS for answer in report.of(subject.kind).values()]
    while stack:
        working = stack.pop()
        if id(working) not in found:
            found[id(working)] = working
            stack += [step.origin[0] for step in working.steps if step.origin is not None]
    return [working.steps for working in found.values()]


def sums_done(document: Document) -> list[tuple[str, list[Fraction]]]:
    """Return the numbers of every arithmetic step that a check takes, those of candidates that it refuses too."""
    done = []
    take_down = Recorder._take_down

    def noting(
        recorder: Recorder, label: str, operation: Operation, inputs: Sequence[Figure], *rest: Any, **more: Any
    ) -> Figure:
        if operation in BARE:
            done.append((operation, plain_numbers([item.value for item in inputs])))
        return take_down(recorder, label, operation, inputs, *rest, **more)

    with patch.object(Recorder, "_take_down", noting):
        check(document)
    return done


def bare_numbers(steps: list[Figure]) -> list[tuple[str, list[Fraction]]]:
    """Return the numbers that each arithmetic step works with."""
    return [
        (step.operation, plain_numbers([figure.value for figure in step.inputs]))
        for step in steps
        if step.operation in BARE
    ]


def plain_numbers(values: list[Value]) -> list[Fraction]:
    """Return those values that are numbers."""
    return [value for value in values if isinstance(value, Fraction)]


def bare_arithmetic(sums: list[tuple[str, list[Fraction]]]) -> None:
    """Do the arithmetic of a report and nothing else."""
    for operation, numbers in sums:
        BARE[operation](numbers)


def edit_last_run(raw: bytes) -> None:
    """Print what an edit of the last run costs over a whole check of the job, and the size of its answer."""
    known, memory = KnownJob.of(parse_bytes(raw)), Memory()
    check(known.document, memory=memory)
    last = known.document.runs[-1].id
    lengths = count(21)

    def edit() -> Report:
        edited = known.edited([Put(list="runs", id=last, field="length_ft", value=float(next(lengths)))])
        return check(edited.document, memory=memory)

    share, editing, _ = over(edit, partial(check_afresh, known.document))
    written = report_out(edit(), looked_at=[last]).model_dump_json().encode()
    print(
        f"length of the last run edited: {editing * 1000:.0f} ms, {share:.2f} × a whole check; answer "
        f"{len(gzip.compress(written)) / 1000:.0f} kB over the wire"
    )


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
