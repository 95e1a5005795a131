"""Make the demo of the orchard with sources from the orchard: solar on the barn, a standby generator at the house.

Run: ``PYTHONPATH=src:. python -m tools.make_sources_demo``. What is taken is one of the ways that the program finds, and an
addition as anybody can take it; the facts that a plate or a look on site tells are entered after it.
"""

from __future__ import annotations

import json
from typing import Any

from nelvor.demo import FOLDER
from nelvor.judges.verdict import Verdict
from nelvor.model.changes.operations import Operation, Put, apply
from nelvor.model.parse import parse_value
from nelvor.report.check import Report, check
from nelvor.report.ways_to_connect import ways_to_connect
from nelvor.report.weighed_addition import weigh_addition
from nelvor.ways.way import WantedSource

NAME = "Quince Hollow, with sun and a standby set"
NOTE = (
    "Made-up sample job. The solar inverter of 32 A does not fit the barn panel's 125 A bus; of the ways that pass, a panel "
    "with a 150 A bus was chosen: no control that has to be kept, and nothing ahead of the service. The set feeds the house."
)
INVERTER_A = 32.0
PLATE = {
    "largest_device_a": 40.0,
    "disconnect_in_reach": True,
    "isolated_for_work": True,
    "rapid_shutdown": "provided",
    "array_bonded": "bonded",
}
SET = {"rated_kva": 24.0, "breaker_a": 100.0, "marking": "floating_neutral", "neutral": "stays", "automatic": True}
SET_FACTS = {"disconnect_in_reach": True, "emergency_stop": True, "stop_outdoors": True}


def checked(job: dict[str, Any]) -> Report:
    """Return the report of a job in its proposed state."""
    return check(parse_value(job), "proposed")


def made() -> dict[str, Any]:
    """Return the demo as JSON."""
    job: dict[str, Any] = json.loads((FOLDER / "orchard.json").read_text())
    ways = ways_to_connect(job, checked, "barn-panel", WantedSource(output_a=INVERTER_A)).ways
    job = applied(job, next(way.operations for way in ways if way.kind == "larger_bus" and way.outcome == "passes"))
    job = applied(job, weigh_addition(job, checked, "transfer_gear", "disc-house", SET).operations)
    facts: list[Operation] = []
    for source in job["sources"]:
        known = {"inverter": PLATE, "generator": SET_FACTS}.get(source["kind"], {})
        facts += [Put(list="sources", id=source["id"], field=field, value=value) for field, value in known.items()]
    own = [item["id"] for item in job["devices"] if item["role"] == "source"]
    facts += [Put(list="devices", id=device, field="line_load_marked", value=False) for device in own]
    facts += [Put(list="transfers", id=gear["id"], field="sheds_load", value=True) for gear in job["transfers"]]
    job = mended(applied(job, facts))
    return {**job, "name": NAME, "note": NOTE}


def mended(job: dict[str, Any]) -> dict[str, Any]:
    """Return a job with the first mend of each must-fix carried out, one after another: what is old in it is put right."""
    while operations := next((list(item.mend.operations) for item in _wrong(job) if item.mend), None):
        job = applied(job, operations)
    return job


def _wrong(job: dict[str, Any]) -> list[Verdict]:
    return [item for item in checked(job).findings if item.outcome == "must_fix"]


def applied(job: dict[str, Any], operations: list[Operation]) -> dict[str, Any]:
    """Return a job with operations carried out, as it is stored."""
    return json.loads(parse_value(apply(job, operations)).model_dump_json())


if __name__ == "__main__":
    (FOLDER / "orchard-sources.json").write_text(json.dumps(made(), ensure_ascii=False, indent=1) + "\n")
