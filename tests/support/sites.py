"""Sites drawn at random for laws: services, sub-panels, outbuildings, old three-wire feeds, taps, several sources."""

from __future__ import annotations

import copy
import random

from hypothesis import strategies as st

from nelvor.model.document import LISTS
from tests.support.jobs import JobBuilder, Json, thing

RATINGS = (30.0, 60.0, 100.0, 125.0, 200.0, None)
SIZES = (None, None, "10", "4", "2", "1/0", "4/0")


def shuffled(job: Json, seed: int) -> Json:
    """Return the job with every list in another order."""
    result, chance = copy.deepcopy(job), random.Random(seed)
    for name in LISTS:
        if name in result:
            chance.shuffle(result[name])
    return result


@st.composite
def sites(draw: st.DrawFn) -> Json:
    """Return the JSON of a job with a service, some panels and buildings, and perhaps more sources than one."""
    builder = JobBuilder(edition=draw(st.sampled_from(["2017", "2020", "2023"])))
    builder.add("buildings", "barn", name="Barn", use=draw(st.sampled_from(["farm", "other", "dwelling", None])))
    builder.add("dwelling_units", "unit", name="Unit")
    builder.service(main_a=draw(st.sampled_from([100.0, 200.0])), outdoors=draw(st.booleans()))
    boxes = ["service"]
    for number in range(draw(st.integers(1, 4))):
        boxes.append(_panel(draw, builder, f"p{number}", draw(st.sampled_from(boxes))))
    _loads(draw, builder, boxes[1:])
    for add in draw(st.lists(st.sampled_from(ADDED), max_size=3)):
        add(draw, builder, boxes)
    return builder.job


def _panel(draw: st.DrawFn, builder: JobBuilder, name: str, fed_from: str) -> str:
    builder.box(
        name,
        fed_from,
        ground=draw(st.booleans()),
        neutral=draw(st.sampled_from([True, True, False])),
        bond=draw(st.sampled_from([True, False, None])),
        main_a=draw(st.sampled_from(RATINGS)),
        feeder_a=draw(st.sampled_from(RATINGS)),
        rating_a=draw(st.sampled_from([100.0, 200.0, None])),
        building=draw(st.sampled_from(["barn", None])),
        termination_c=draw(st.sampled_from([60, 75, None])),
        service_marking=draw(st.sampled_from([None, "suitable", "only_suitable"])),
        run={
            "length_ft": draw(st.sampled_from([10.0, 150.0, None])),
            "hot_size": draw(st.sampled_from(SIZES)),
            "ground_size": draw(st.sampled_from(SIZES)),
            "material": draw(st.sampled_from(["copper", "aluminum"])),
            "complied_when_installed": draw(st.sampled_from([True, False, None])),
        },
    )
    if draw(st.booleans()):
        for list_name, thing_id in (("enclosures", name), ("runs", f"to-{name}"), ("bonds", f"{name}-bond")):
            thing(builder.job, list_name, thing_id)["standing"] = "added"
    return name


def _loads(draw: st.DrawFn, builder: JobBuilder, panels: list[str]) -> None:
    for panel in panels:
        for _ in range(draw(st.integers(0, 2))):
            category = draw(st.sampled_from(["other", "motor", "range", "lighting", "cooling"]))
            unit = draw(st.sampled_from(["unit", None]))
            load = builder.load(panel, float(draw(st.integers(500, 20_000))), category=category)
            load.update(dwelling_unit_id=unit, continuous=draw(st.booleans()))


def _solar(draw: st.DrawFn, builder: JobBuilder, boxes: list[str]) -> None:
    """An interactive source whose run lands on a breaker of a panel, or on the load side of the disconnect."""
    name, box = _free(builder, "solar"), draw(st.sampled_from(boxes))
    output = draw(st.sampled_from([None, 16.0, 32.0, 48.0]))
    values = {"kind": "inverter", "system": "split_120_240", "interactive": True, "rated_output_a": output}
    builder.add("sources", name, name="Roof", **values)
    space = draw(st.sampled_from([None, 1, 7, 11]))
    landing = builder.add("devices", f"{name}-breaker", enclosure_id=box, role="source", rating_a=40.0, space=space)[
        "id"
    ]
    for bus in builder.job["buses"]:
        if bus["enclosure_id"] == box:
            bus.update(spaces=12, main_end=draw(st.sampled_from([None, "top", "bottom"])))
    _run(builder, f"{name}-run", name, landing)


def _generator(draw: st.DrawFn, builder: JobBuilder, boxes: list[str]) -> None:
    """A generator on the standby side of transfer gear ahead of a new panel."""
    name, box = _free(builder, "gen"), draw(st.sampled_from(boxes))
    builder.add("sources", name, name="Standby", kind="generator", system="split_120_240", interactive=False)
    gear = builder.box(f"{name}-ats", box, kind="transfer_switch", feeder_a=100.0)
    standby = builder.add("lugs", f"{name}-standby", enclosure_id=gear)["id"]
    load = builder.add("lugs", f"{name}-load", enclosure_id=gear)["id"]
    _run(builder, f"{name}-run", name, standby)
    builder.add("transfers", f"{name}-gear", enclosure_id=gear, load_part=load, switches_neutral=draw(st.booleans()))
    builder.add("throws", f"{name}-u", transfer_id=f"{name}-gear", name="Utility", part=f"{gear}-main")
    builder.add("throws", f"{name}-g", transfer_id=f"{name}-gear", name="Generator", part=standby)


def _switch_box(draw: st.DrawFn, builder: JobBuilder, boxes: list[str]) -> None:
    """A set that comes in at a box of switches, which moves some circuits of a panel whose breakers stay there."""
    name, panel = _free(builder, "box"), draw(st.sampled_from(boxes[1:]))
    builder.add("sources", f"{name}-set", name="Set", kind="generator", system="split_120_240", interactive=False)
    builder.add("enclosures", name, name=name, kind="switch_box", placement="indoors", termination_c=75)
    builder.add("bars", f"{name}-n", enclosure_id=name, kind="neutral", insulated=True)
    builder.add("bars", f"{name}-g", enclosure_id=name, kind="ground", insulated=False)
    for lugs in ("standby", "load"):
        builder.add("lugs", f"{name}-{lugs}", enclosure_id=name)
    protected = draw(st.sampled_from([True, True, False, None]))
    facts = {"switches_neutral": False, "automatic": False, "lines_only": True, "switches_protected": protected}
    gear = builder.add("transfers", f"{name}-gear", enclosure_id=name, load_part=f"{name}-load", **facts)["id"]
    builder.add("throws", f"{name}-s", transfer_id=gear, part=f"{name}-standby", neutral_part=f"{name}-n")
    builder.add("throws", f"{name}-u", transfer_id=gear, part=f"{panel}-bus")
    _run(builder, f"{name}-from-set", f"{name}-set", f"{name}-standby")
    leads = builder.add("lugs", f"{name}-leads", enclosure_id=panel)["id"]
    builder.add("runs", f"{name}-run", from_part=f"{name}-load", to_part=leads, length_ft=2.0)
    for role, bar in draw(st.sampled_from([(("neutral", "n"), ("ground", "g")), (("ground", "g"),)])):
        ends = {"from_part": f"{name}-{bar}", "to_part": f"{panel}-{bar}"}
        builder.add("conductors", f"{name}-{role}", run_id=f"{name}-run", role=role, **ends)
    builder.add(
        "conductors", f"{name}-set-n", run_id=f"{name}-from-set", role="neutral", **_ends(f"{name}-set", f"{name}-n")
    )
    builder.add(
        "conductors", f"{name}-set-g", run_id=f"{name}-from-set", role="ground", **_ends(f"{name}-set", f"{name}-g")
    )
    _switches(draw, builder, name, gear, panel)


def _switches(draw: st.DrawFn, builder: JobBuilder, name: str, gear: str, panel: str) -> None:
    circuits = []
    for poles in (1, 2):
        own = {"enclosure_id": panel, "bus_id": f"{panel}-bus", "role": "branch", "rating_a": 20.0, "poles": poles}
        circuits.append(builder.add("devices", f"{name}-c{poles}", **own)["id"])
        load = builder.load(panel, 1200.0, category="other")
        load.update(device_id=circuits[-1], volts=120.0 * poles, continuous=False)
    others = [item["id"] for item in builder.job["devices"] if item["enclosure_id"] == panel]
    for letter in "abc":
        builder.add(
            "circuit_switches",
            f"{name}-{letter}",
            transfer_id=gear,
            name=letter.upper(),
            leg=draw(st.sampled_from(["L1", "L2", None])),
            device_id=draw(st.sampled_from([*circuits, circuits[1], draw(st.sampled_from(others)), None])),
            rating_a=draw(st.sampled_from([15.0, 20.0, 30.0, None])),
            tied_to=draw(st.sampled_from([None, f"{name}-a"])) if letter != "a" else None,
        )


def _ends(start: str, end: str) -> Json:
    return {"from_part": start, "to_part": end}


def _second_feed(draw: st.DrawFn, builder: JobBuilder, boxes: list[str]) -> None:
    """Another run into a box that is fed already: a second supply, or a loop."""
    name = _free(builder, "more")
    start, end = draw(st.sampled_from(boxes)), draw(st.sampled_from(boxes))
    feeder = builder.add("devices", f"{name}-feeder", enclosure_id=start, role="feeder", rating_a=60.0)["id"]
    landing = builder.add("lugs", f"{name}-lugs", enclosure_id=end)["id"]
    _run(builder, f"{name}-run", feeder, landing)


def _tap(draw: st.DrawFn, builder: JobBuilder, boxes: list[str]) -> None:
    name, of = _free(builder, "tapped"), draw(st.sampled_from([run["id"] for run in builder.job["runs"]]))
    if of in ("to-meter", "to-service"):
        return
    builder.box(name, "service", feeder_a=60.0, run={"length_ft": draw(st.sampled_from([8.0, 20.0, None]))})
    start = thing(builder.job, "runs", of)["from_part"]
    for item in [thing(builder.job, "runs", f"to-{name}"), *builder.job["conductors"]]:
        if item["from_part"] == f"service-to-{name}":
            item["from_part"] = start
    builder.add("taps", f"{name}-tap", run_id=of, tap_run_id=f"to-{name}", at_ft=draw(st.sampled_from([5.0, None])))


def _electrode(draw: st.DrawFn, builder: JobBuilder, boxes: list[str]) -> None:
    box = draw(st.sampled_from(boxes))
    bar = draw(st.sampled_from(["n", "g"]))
    builder.add("electrodes", _free(builder, "rod"), kind="rod", connects_to=f"{box}-{bar}", building_id="barn")


ADDED = (_solar, _generator, _switch_box, _second_feed, _tap, _electrode)


def _run(builder: JobBuilder, name: str, start: str, end: str) -> None:
    builder.add("runs", name, from_part=start, to_part=end, length_ft=30.0, material="copper", insulation="THWN-2")
    for leg in builder.legs:
        builder.add("conductors", f"{name}-{leg.lower()}", run_id=name, role=leg, from_part=start, to_part=end)


def _free(builder: JobBuilder, wish: str) -> str:
    taken = {item["id"] for name in LISTS for item in builder.job.get(name, [])}
    number = 1
    while f"{wish}{number}" in taken or any(item.startswith(f"{wish}{number}-") for item in taken):
        number += 1
    return f"{wish}{number}"
