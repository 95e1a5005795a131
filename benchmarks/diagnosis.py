"""How often a diagnosis finds the true cause, in how many readings, and what it costs over the bare solve of its circuit.

Generated sites: one fault in 300 of them, two in 100, readings with 2 % of noise and 0.1 A of resolution, each chosen by
the diagnosis itself. Run: ``PYTHONPATH=src:. .nelvor/venv/bin/python -m benchmarks.diagnosis``
"""

from __future__ import annotations

import random
import statistics
import time
from collections import Counter
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import partial
from typing import Any

from benchmarks.panel import median_ms
from benchmarks.study import bare_solve
from nelvor.model.parse import parse_value
from nelvor.report.check import check
from nelvor.study.branches import Circuit
from nelvor.study.diagnosis.causes import Cause, causes_of
from nelvor.study.diagnosis.diagnose import Diagnosis, pairs_of, told_apart
from nelvor.study.diagnosis.meter import SimulatedMeter
from nelvor.study.diagnosis.observables import observables
from nelvor.study.diagnosis.readings import Meter, Reading
from nelvor.study.diagnosis.responses import Responses, circuit_with_bonds
from nelvor.study.situation import Situation
from nelvor.topology.scenario import ordinary
from tests.support.jobs import JobBuilder, chain

SINGLES, DOUBLES = 300, 100
MOST_READINGS = {1: 6, 2: 10}
BONDS = frozenset({"bond_too_many", "bond_missing", "bond_otherwise"})
METER = Meter(accuracy_percent=2.0, resolution=0.1, load_doubt_percent=0.0)


def generated(chance: random.Random) -> dict[str, Any]:
    """A service with one to four panels behind it, in a row or side by side, each with loads of its own on either leg."""
    builder = JobBuilder()
    builder.service()
    boxes = ["service"]
    for number in range(chance.randint(1, 4)):
        ahead = chance.choice(boxes[-2:])
        run = {
            "length_ft": float(chance.randint(20, 250)),
            "method": chance.choice(["emt", "pvc40"]),
            "hot_size": "2",
            "neutral_size": "2",
            "ground_size": "8",
        }
        boxes.append(builder.box(f"p{number}", ahead, main_a=100.0, feeder_a=100.0, run=run))
    for box in boxes[1:]:
        for number in range(chance.randint(1, 3)):
            amount = float(chance.randint(3, 40) * 100)
            values = {"category": "other", "amount": amount, "unit": "VA", "volts": 120.0, "continuous": False}
            leg = chance.choice(["L1-N", "L2-N"])
            builder.add(
                "loads", f"{box}-load{number}", enclosure_id=box, name=f"{box} {number}", connection=leg, **values
            )
        if chance.random() < 0.4:
            builder.add("electrodes", f"{box}-rod", kind="rod", connects_to=f"{box}-g", length_ft=8.0)
    builder.add("electrodes", "pipe", kind="water_pipe", connects_to="service-n")
    return builder.job


@dataclass
class Site:
    """A generated site, ready to be read and diagnosed."""

    circuit: Circuit
    responses: Responses
    causes: list[Cause]


def site_of(job: dict[str, Any]) -> Site:
    """Return the circuit of a job with its responses and causes."""
    report = check(parse_value(job))
    scenario = ordinary(report.site, report.site.feeds, report.state)
    circuit = circuit_with_bonds(report, scenario, Situation(use="stated"))
    responses = Responses(circuit, observables(report, circuit))
    causes = [cause for cause in causes_of(report, circuit) if responses.can_tell(cause)]
    return Site(circuit, responses, causes)


def alike(site: Site, true: Sequence[Cause]) -> set[frozenset[tuple[str, str]]]:
    """The causes that no allowed reading tells from the true one, itself among them."""
    whole = Diagnosis(site.responses, site.causes, [], METER)
    others = [(cause,) for cause in site.causes] if len(true) == 1 else pairs_of(site.causes)
    same = {frozenset(cause.family for cause in other) for other in others if not told_apart(whole, true, other)}
    return same | {frozenset(cause.family for cause in true)}


def diagnosed(site: Site, true: Sequence[Cause], seed: int) -> tuple[int, Diagnosis]:
    """Read what the diagnosis asks for until nothing more tells causes apart; return how many readings it took."""
    meter = SimulatedMeter(site.responses, true, METER, seed)
    readings: list[Reading] = []
    diagnosis = Diagnosis(site.responses, site.causes, readings, METER)
    while len(readings) < MOST_READINGS[len(true)]:
        asked = diagnosis.next_reading()
        if asked is None:
            break
        readings.append(meter.read(asked[0]))
        diagnosis = Diagnosis(site.responses, site.causes, readings, METER)
    return len(readings), diagnosis


def trial(chance: random.Random, faults: int, seed: int) -> tuple[str, str, int] | None:
    """One site with so many faults: how it ended, what was wrong, in how many readings; None where it shows in nothing."""
    site = site_of(generated(chance))
    real = [cause for cause in site.causes if cause.kind != "nothing"]
    true = [chance.choice(real)]
    if faults > 1:
        true.append(chance.choice([cause for cause in real if cause.family != true[0].family]))
    same = alike(site, true)
    if frozenset({("nothing", "")}) in same or (faults > 1 and any(len(item) == 1 for item in same)):
        return None
    if faults > 1 and any(
        not told_apart(Diagnosis(site.responses, site.causes, [], METER), true, [one]) for one in true
    ):
        return None  # the one hides the other
    taken, diagnosis = diagnosed(site, true, seed)
    ranked = [item.families for item in diagnosis.ranked[:3]]
    ended = "first" if ranked[0] in same else "among three" if set(ranked) & same else "missed"
    return ended, " + ".join(cause.kind for cause in true), taken


def told(faults: int, number: int) -> None:
    """Print how many of so many sites end with the true cause first."""
    chance = random.Random(faults)
    ends: Counter[str] = Counter()
    missed: Counter[str] = Counter()
    taken: list[int] = []
    seed = hidden = 0
    while len(taken) < number:
        seed += 1
        found = trial(chance, faults, seed)
        if found is None:
            hidden += 1
            continue
        ends[found[0]] += 1
        taken.append(found[2])
        if found[0] != "first":
            missed[found[1]] += 1
    print(
        f"{faults} fault{'s' if faults > 1 else ''}: {ends['first'] / number:.0%} first, "
        f"{(ends['first'] + ends['among three']) / number:.0%} among three, {sum(taken) / number:.1f} readings on average; "
        f"{hidden} more sites whose fault no reading shows"
    )
    print(f"  not first: {dict(missed.most_common(8))}")


def cost() -> None:
    """Print what a diagnosis of 30 boxes costs over the bare solve of its circuit."""
    job = chain(30)
    site = site_of(job)
    meter = SimulatedMeter(site.responses, [site.causes[3]], METER, 1)
    readings = [meter.read(item) for item in site.responses.seen[:6]]
    bare = median_ms(bare_solve(site.circuit))
    report = check(parse_value(job))

    def work() -> None:
        responses = Responses(site.circuit, site.responses.seen)
        Diagnosis(responses, causes_of(report, site.circuit), readings, METER).next_reading()

    took = median_ms(work)
    toggled = statistics.median(
        _seconds(partial(site.responses.of, bond)) for bond in site.causes if bond.kind in BONDS
    )
    print(f"30 boxes, a bond played with, its readings all worked out: {toggled * 1000 / bare:.2f} bare solves")
    print(
        f"30 boxes, {len(site.causes)} causes, {len(site.responses.seen)} things to read: {took / bare:.0f} bare solves"
    )


def _seconds(work: Callable[[], object]) -> float:
    began = time.perf_counter()
    work()
    return time.perf_counter() - began


def main() -> None:
    """Print all of it."""
    cost()
    told(1, SINGLES)
    told(2, DOUBLES)


if __name__ == "__main__":
    main()
