"""A complete check over the arithmetic of its own workings, its growth with the size, an edit on a large job, and ways.

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
from nelvor.working import Figure, Recorder, Step
from nelvor.working.recorder import Operation, replay
from tests.support.jobs import chain

ROUNDS = 7
BARE: dict[str, Callable[[list[Fraction]], object]] = {
    "add": lambda numbers: sum(numbers, Fraction(0)),
    "subtract": lambda numbers: numbers[0] - numbers[1],
    "multiply": lambda numbers: math.prod(numbers, start=Fraction(1)),
    "divide": lambda numbers: numbers[0] / numbers[1],
    "greatest": max,
    "least": min,
}
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
        replaying = median_seconds(lambda workings=workings: [replay(steps) for steps in workings])
        sums = [numbers for steps in workings for numbers in bare_numbers(steps)]
        bare = median_seconds(lambda sums=sums: bare_arithmetic(sums))
        every = sums_done(document)
        with_refused = median_seconds(lambda every=every: bare_arithmetic(every))
        checking = median_seconds(lambda document=document: check(document))
        seconds[name] = checking
        number = sum(len(steps) for steps in workings)
        print(
            f"{name:<20}{number:>8}{replaying * 1000:>11.1f}{bare * 1000:>9.1f}{checking * 1000:>10.1f}"
            f"{checking / replaying:>16.1f}{checking / bare:>14.1f}{checking / with_refused:>13.1f}"
        )
    for small, large in (("chain of 50", "chain of 500"), ("50, 10 loads each", "500, 10 loads each")):
        print(f"growth of the check from {small} to {large}: {seconds[large] / seconds[small]:.1f} × for 10 × the size")
    edit_last_run(jobs["500, 10 loads each"], seconds["500, 10 loads each"])
    compare_ways(parse_bytes(jobs["bakery"]), seconds["bakery"])


def workings_of(report: Report) -> list[list[Step]]:
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
            done.append((operation, [item.step.value for item in inputs if isinstance(item.step.value, Fraction)]))
        return take_down(recorder, label, operation, inputs, *rest, **more)

    with patch.object(Recorder, "_take_down", noting):
        check(document)
    return done


def bare_numbers(steps: list[Step]) -> list[tuple[str, list[Fraction]]]:
    """Return the numbers that each arithmetic step works with."""
    return [
        (step.operation, [value for number in step.inputs if isinstance(value := steps[number].value, Fraction)])
        for step in steps
        if step.operation in BARE
    ]


def bare_arithmetic(sums: list[tuple[str, list[Fraction]]]) -> None:
    """Do the arithmetic of a report and nothing else."""
    for operation, numbers in sums:
        BARE[operation](numbers)


def edit_last_run(raw: bytes, checking: float) -> None:
    """Print what an edit of the last run costs over a whole check of the job, and the size of its answer."""
    known, memory = KnownJob.of(parse_bytes(raw)), Memory()
    check(known.document, memory=memory)
    last = known.document.runs[-1].id
    times = []
    for number in range(ROUNDS):
        began = time.perf_counter()
        edited = known.edited([Put(list="runs", id=last, field="length_ft", value=21.0 + number)])
        report = check(edited.document, memory=memory)
        times.append(time.perf_counter() - began)
    written = report_out(report, looked_at=[last]).model_dump_json().encode()
    share = statistics.median(times) / checking
    print(
        f"length of the last run edited: {statistics.median(times) * 1000:.0f} ms, {share:.2f} × a whole check; answer "
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
