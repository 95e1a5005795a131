"""A house with a box of switches beside its panel, and a set of 7.2 kVA (30 A) that it takes circuits to."""

from __future__ import annotations

from tests.support.jobs import JobBuilder, thing

CIRCUITS = {"well": (2, 1, 3600.0), "fridge": (1, 2, 1200.0), "left": (1, 4, 1500.0), "right": (1, 6, 1500.0)}
"""Poles, space and VA of each circuit of the panel; left and right share a neutral."""


def with_switch_box(**moved: str) -> JobBuilder:
    """Return the job; ``moved`` names the switches, by their letters, that move each circuit.

    Switches A, B, C and D lie on L1, L2, L1 and L2 of the set, A and B tied to each other, C and D as well.
    """
    builder = JobBuilder()
    builder.service()
    builder.box("panel", "service", main_a=200.0, feeder_a=200.0)
    thing(builder.job, "buses", "panel-bus").update(spaces=20, main_end="top", numbering="odd_even")
    for name, (poles, space, va) in CIRCUITS.items():
        shared = "counter" if name in ("left", "right") else ""
        own = {"enclosure_id": "panel", "bus_id": "panel-bus", "role": "branch", "rating_a": 20.0, "space": space}
        tie = "common_trip" if poles > 1 else "handle_tie" if shared else None
        builder.add("devices", name, name=name.title(), poles=poles, tie=tie, **own)
        builder.add("circuits", f"{name}-wires", device_id=name, shared_neutral=shared)
        load = builder.load("panel", va, category="other")
        load.update(id=f"{name}-load", device_id=name, volts=120.0 * poles, continuous=False)
    _set_and_box(builder)
    for letter, leg in zip("abcd", ("L1", "L2", "L1", "L2"), strict=True):
        device = next((name for name, letters in moved.items() if letter in letters), None)
        tied = {"b": "box-a", "d": "box-c"}.get(letter)
        own = {"transfer_id": "box-gear", "name": letter.upper(), "leg": leg, "rating_a": 20.0, "tied_to": tied}
        builder.add("circuit_switches", f"box-{letter}", device_id=device, **own)
    return builder


def _set_and_box(builder: JobBuilder) -> None:
    plate = {
        "kind": "generator",
        "system": "split_120_240",
        "interactive": False,
        "rated_kva": 7.2,
        "output": "with_neutral",
    }
    builder.add("enclosures", "set", name="Set", kind="generator", placement="outdoors", termination_c=75)
    builder.add("sources", "set-source", name="Set", enclosure_id="set", marking="floating_neutral", **plate)
    builder.add("devices", "set-breaker", enclosure_id="set", role="main", rating_a=30.0)
    builder.add("bars", "set-g", enclosure_id="set", kind="ground", insulated=False)
    builder.add("bonds", "set-bond", enclosure_id="set", kind="factory", part_a="set-source", part_b="set", made=False)
    builder.add("enclosures", "box", name="Box", kind="switch_box", placement="indoors", termination_c=75)
    builder.add("bars", "box-n", enclosure_id="box", kind="neutral", insulated=True)
    builder.add("bars", "box-g", enclosure_id="box", kind="ground", insulated=False)
    builder.add("lugs", "box-standby", enclosure_id="box")
    builder.add("lugs", "box-load", enclosure_id="box")
    builder.add("lugs", "panel-leads", enclosure_id="panel")
    facts = {"switches_neutral": False, "break_before_make": True, "automatic": False, "lines_only": True}
    gear = {"enclosure_id": "box", "load_part": "box-load", "rating_a": 60.0, "poles": 2, "switches_protected": True}
    builder.add("transfers", "box-gear", **gear, **facts)
    on = {"transfer_id": "box-gear"}
    builder.add("throws", "on-set", name="Generator", part="box-standby", neutral_part="box-n", **on)
    builder.add("throws", "on-utility", name="Utility", part="panel-bus", **on)
    wires = {"material": "copper", "insulation": "THWN-2", "placement": "indoors", "method": "emt"}
    builder.add("runs", "from-set", from_part="set-breaker", to_part="box-standby", length_ft=20.0, **wires)
    builder.add("runs", "leads", from_part="box-load", to_part="panel-leads", length_ft=2.0)
    ends = {"from-set": [("L1", "set-breaker", "box-standby"), ("L2", "set-breaker", "box-standby")]}
    ends["from-set"] += [("neutral", "set-source", "box-n"), ("ground", "set-g", "box-g")]
    ends["leads"] = [("neutral", "box-n", "panel-n"), ("ground", "box-g", "panel-g")]
    for run_id, wanted in ends.items():
        for role, start, end in wanted:
            own = {"run_id": run_id, "role": role, "from_part": start, "to_part": end}
            builder.add("conductors", f"{run_id}-{role.lower()}", **own)
