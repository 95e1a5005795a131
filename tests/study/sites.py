"""Sites for the study: everything told that a circuit needs, drawn at random, and one with a generator."""

from __future__ import annotations

from hypothesis import strategies as st

from tests.support.arrangements import Arrangement
from tests.support.jobs import JobBuilder, Json, thing

SIZES = ("8", "4", "2", "1/0", "4/0")


@st.composite
def studied(draw: st.DrawFn) -> Json:
    """Return a service with panels behind it, bonds in and out, electrodes and loads; one- or three-phase."""
    system = draw(st.sampled_from(["split_120_240", "wye_208_120"]))
    builder = JobBuilder(system=system)
    builder.service(main_a=200.0)
    thing(builder.job, "runs", "to-service").update({**_run(draw), "length_ft": 20.0})
    boxes = ["service"]
    for number in range(draw(st.integers(1, 4))):
        name, fed_from = f"p{number}", draw(st.sampled_from(boxes))
        builder.box(
            name,
            fed_from,
            bond=draw(st.sampled_from([True, False, None])),
            ground=True,
            feeder_a=100.0,
            run=_run(draw),
        )
        boxes.append(name)
        if draw(st.booleans()):
            builder.add(
                "electrodes", f"{name}-rod", kind=draw(st.sampled_from(["rod", "ring"])), connects_to=f"{name}-g"
            )
    for number, box in enumerate(boxes[1:]):
        volts = draw(st.sampled_from([120.0, 208.0 if system.startswith("wye") else 240.0]))
        load = {"enclosure_id": box, "category": "other", "amount": 1800.0 + 700 * number, "unit": "VA", "volts": volts}
        leg = draw(st.sampled_from(["L1-N", "L2-N", None])) if volts == 120.0 else None
        builder.add("loads", f"load{number}", name=f"Load {number}", connection=leg, continuous=False, **load)
    return builder.job


def _run(draw: st.DrawFn) -> Json:
    size = draw(st.sampled_from(SIZES))
    return {
        "length_ft": draw(st.sampled_from([5.0, 60.0, 300.0])),
        "material": draw(st.sampled_from(["copper", "aluminum"])),
        "method": draw(st.sampled_from(["emt", "pvc40"])),
        "insulation": "THWN-2",
        "placement": "indoors",
        "hot_size": size,
        "neutral_size": size,
        "ground_size": draw(st.sampled_from(SIZES)),
    }


def _with_generator() -> Json:
    arrangement = Arrangement(
        "U -hn- M -hn- S(main) -hng- T.n(solid) ; G(fixed,brk,out) -hng- T.s ; T.l -hng- P ; S -hng- Q"
    )
    for name in ("m", "s"):
        arrangement.bond(name, made=True)
    job = arrangement.job
    for run in job["runs"]:
        run.update(hot_size="2", neutral_size="2", ground_size="8", insulation="THWN-2", placement="indoors")
    for source in job["sources"]:
        source["rated_kva"] = 20.0
    for box, amount in (("p", 4000.0), ("q", 2500.0)):
        load = {"enclosure_id": box, "category": "other", "amount": amount, "unit": "VA", "volts": 120.0}
        job["loads"].append({"id": f"at-{box}", "name": "Load", "connection": "L1-N", "continuous": False, **load})
    return job


WITH_GENERATOR = _with_generator()
