"""The ways to connect a source to a 42-space panel, with sources on several levels, over the bare arithmetic of their workings.

Run: ``PYTHONPATH=src:. .nelvor/venv/bin/python -m benchmarks.ways``
"""

from __future__ import annotations

from typing import Any

from benchmarks.check import workings_of
from benchmarks.panel import median_ms
from nelvor.model.parse import parse_value
from nelvor.report.check import check
from nelvor.report.trials import Trials
from nelvor.report.ways_to_connect import ways_to_connect
from nelvor.ways.way import WantedSource
from nelvor.working.recorder import replay
from tests.support.jobs import JobBuilder, thing


def site() -> dict[str, Any]:
    """A service, a panel of 42 spaces nearly full, two sub-panels one behind the other, each with an inverter."""
    builder = JobBuilder()
    builder.service()
    builder.box("hall", "service", main_a=200.0, feeder_a=200.0)
    bus = thing(builder.job, "buses", "hall-bus")
    bus.update(spaces=42, main_end="top")
    for number, space in enumerate(range(1, 31), 1):
        values = {"enclosure_id": "hall", "bus_id": "hall-bus", "role": "branch", "rating_a": 20.0, "poles": 1}
        builder.add("devices", f"b{number}", name=f"Circuit {number}", space=space, **values)
    above = "hall"
    for name in ("barn", "shed"):
        builder.box(name, above, main_a=100.0, feeder_a=100.0)
        thing(builder.job, "buses", f"{name}-bus").update(spaces=20, main_end="top")
        plate = {"kind": "inverter", "system": "split_120_240", "interactive": True, "rated_output_a": 12.0}
        builder.add("sources", f"{name}-roof", name=f"{name} roof", **plate)
        device = {"enclosure_id": name, "bus_id": f"{name}-bus", "role": "source", "rating_a": 15.0, "poles": 2}
        builder.add("devices", f"{name}-solar", name=f"{name} solar", space=17, **device)
        builder.add("runs", f"from-{name}-roof", from_part=f"{name}-roof", to_part=f"{name}-solar", length_ft=20.0)
        above = name
    builder.load("hall", 20_000.0)
    return parse_value(builder.job).model_dump(mode="json")


def main() -> None:
    """Print the cost of a way as ratios to a whole check and to the bare arithmetic of the check."""
    document = site()

    def search() -> int:
        return len(ways_to_connect(document, Trials().checked, "hall", WantedSource(output_a=32.0)).ways)

    number = search()
    whole = median_ms(lambda: check(parse_value(document)))
    report = check(parse_value(document))
    workings = workings_of(report)
    bare = median_ms(lambda: [replay(steps) for steps in workings])
    ways = median_ms(search)
    print(f"{number} ways in {ways:.0f} ms: {ways / number:.1f} ms a way")
    print(
        f"a way over a whole check: {ways / number / whole:.2f}; over the bare arithmetic: {ways / number / bare:.1f}"
    )


if __name__ == "__main__":
    main()
