"""Panels: an edit on 60 circuits over a whole check, and the balance of 42 circuits over a whole check of the same job.

Run: ``PYTHONPATH=src:. .nelvor/venv/bin/python -m benchmarks.panel``
"""

from __future__ import annotations

import random
import statistics
import time
from collections.abc import Callable
from fractions import Fraction
from typing import Any

from nelvor.judges.memory import Memory
from nelvor.model.changes.operations import Put
from nelvor.model.edited import KnownJob
from nelvor.model.parse import parse_value
from nelvor.report.check import check
from nelvor.report.panel_balance import panel_balance
from nelvor.report.wire import report_out
from tests.support.jobs import JobBuilder, bakery

ROUNDS = 15
SEED = 7


def panel_of(circuits: int, system: str) -> dict[str, Any]:
    """Return a job with one full panel of circuits with made-up loads."""
    chance = random.Random(SEED)
    builder = JobBuilder(system=system)
    builder.service()
    builder.box("panel", "service")
    builder.job["buses"][0]["spaces"] = circuits
    for space in range(1, circuits + 1):
        values = {"enclosure_id": "panel", "bus_id": "panel-bus", "role": "branch", "poles": 1, "rating_a": 20.0}
        builder.add("devices", f"c{space}", name=f"Room {space}", space=space, **values)
        wires = {"wire_size": "12", "material": "copper", "insulation": "NM-B", "use": "general"}
        builder.add("circuits", f"c{space}-wires", device_id=f"c{space}", **wires)
        builder.load("panel", float(chance.randint(1, 18) * 100), volts=120.0, device_id=f"c{space}")
    return builder.job


def median_ms(work: Callable[[], object]) -> float:
    """Return the middle of several runs, in ms."""
    took = []
    for _ in range(ROUNDS):
        began = time.perf_counter()
        work()
        took.append((time.perf_counter() - began) * 1000)
    return statistics.median(took)


def edit_ratio(name: str, job: dict[str, Any]) -> None:
    """Print an edit of one breaker, with the report that is sent, over a whole check."""
    document = parse_value(job)
    whole = median_ms(lambda: check(document))
    known, memory = KnownJob.of(document), Memory()
    check(known.edited([]).document, memory=memory)
    numbers = iter(range(1000))

    def edit() -> None:
        put = Put(list="devices", id="c1", field="name", value=f"Room one {next(numbers)}")
        report_out(check(known.edited([put]).document, memory=memory), ["panel"]).model_dump_json()

    edited = median_ms(edit)
    print(f"{name}: whole check {whole:.1f} ms, an edit with its answer {edited:.1f} ms: {edited / whole:.2f} of it")


def balance_ratio(name: str, job: dict[str, Any], bus_id: str) -> None:
    """Print the balance of a panel over a whole check of the same job."""
    document = parse_value(job)
    whole = median_ms(lambda: check(document))
    report = check(document)
    for within in (10, 1, Fraction(1, 10)):
        took = median_ms(lambda within=within: panel_balance(report, bus_id, Fraction(within)))  # type: ignore[misc]
        found = panel_balance(report, bus_id, Fraction(within))
        print(
            f"{name}, within {float(within):g} A: {took:.1f} ms, {took / whole:.2f} × a whole check of {whole:.1f} ms; "
            f"{len(found.moves)} moves, {'proven' if found.proven else 'not proven'}"
        )


def main() -> None:
    """Measure once and print."""
    edit_ratio("60 circuits", panel_of(60, "split_120_240"))
    balance_ratio("42 circuits, one-phase", panel_of(42, "split_120_240"), "panel-bus")
    balance_ratio("42 circuits, three-phase", panel_of(42, "wye_208_120"), "panel-bus")
    balance_ratio("bakery, pastry panel", bakery(), "prep-bus")


if __name__ == "__main__":
    main()
