"""Small jobs built in a few lines, for tests and benchmarks."""

from __future__ import annotations

import copy
import json
from collections.abc import Callable
from typing import Any

from nelvor.demo import FOLDER
from nelvor.judges.verdict import Verdict
from nelvor.model.changes.operations import apply
from nelvor.model.document import Document
from nelvor.model.parse import parse_value
from nelvor.report.check import Report, check

Json = dict[str, Any]


def orchard() -> Json:
    """Return the demo job as JSON."""
    return json.loads((FOLDER / "orchard.json").read_text())


def bakery() -> Json:
    """Return the second demo job as JSON."""
    return json.loads((FOLDER / "bakery.json").read_text())


def thing(job: Json, list_name: str, thing_id: str) -> Json:
    """Return a thing of a JSON job, to change in place."""
    return next(item for item in job[list_name] if item["id"] == thing_id)


def changed(job: Json, change: Callable[[Json], None]) -> Json:
    """Return a deep copy of a job with a change made to it."""
    result = copy.deepcopy(job)
    change(result)
    return result


def report_of(job: Json, state: str = "proposed", **options: Any) -> Report:
    return check(parse_value(job), state, **options)


def finding(report: Report, code: str, thing_id: str) -> Verdict | None:
    """Return the finding of this code on this thing, or None."""
    return next((item for item in report.findings if (item.code, item.id) == (code, thing_id)), None)


def mended(job: Json, verdict: Verdict) -> Json:
    """Return the job with a finding's mend carried out."""
    assert verdict.mend is not None
    document = apply(job, list(verdict.mend.operations))
    return json.loads(parse_value(document).model_dump_json())


class JobBuilder:
    """Feeds enclosures one from another; everything stands unless said otherwise."""

    def __init__(self, edition: str = "2023", system: str = "split_120_240") -> None:
        self.job: Json = {
            "format": "nelvor-job",
            "version": 4,
            "name": "Test job",
            "settings": {"edition": edition},
            **{
                name: []
                for name in (
                    "sources",
                    "buildings",
                    "dwelling_units",
                    "enclosures",
                    "buses",
                    "devices",
                    "lugs",
                    "bars",
                    "bonds",
                    "runs",
                    "conductors",
                    "electrodes",
                    "loads",
                    "amendments",
                )
            },
        }
        self.legs = ("L1", "L2", "L3") if system == "wye_208_120" else ("L1", "L2")
        self.add("sources", "utility", name="Utility", system=system)

    def add(self, list_name: str, new_id: str, **values: Any) -> Json:
        item = {"id": new_id, **values}
        self.job.setdefault(list_name, []).append(item)
        return item

    def box(
        self,
        box_id: str,
        fed_from: str,
        *,
        kind: str = "panel",
        ground: bool = True,
        neutral: bool = True,
        bond: bool | None = False,
        main_a: float | None = 100.0,
        feeder_a: float | None = 100.0,
        rating_a: float | None = 200.0,
        building: str | None = None,
        run: Json | None = None,
        **enclosure: Any,
    ) -> str:
        """Add an enclosure with its bars, bond, main and the run that feeds it; return its id."""
        self.add(
            "enclosures",
            box_id,
            name=box_id,
            kind=kind,
            building_id=building,
            **({"meter_class_a": rating_a} if kind == "meter" else {}),
            **{"termination_c": 75, "placement": "indoors", **enclosure},
        )
        self.add("bars", f"{box_id}-n", enclosure_id=box_id, kind="neutral", insulated=kind != "meter")
        if kind == "meter":
            landing = self.add("lugs", f"{box_id}-lugs", enclosure_id=box_id)["id"]
        else:
            self.add("bars", f"{box_id}-g", enclosure_id=box_id, kind="ground", insulated=False)
            self.add(
                "bonds",
                f"{box_id}-bond",
                enclosure_id=box_id,
                kind="screw",
                part_a=f"{box_id}-n",
                part_b=box_id,
                made=bond,
            )
            main = self.add(
                "devices", f"{box_id}-main", enclosure_id=box_id, name=f"{box_id} main", role="main", rating_a=main_a
            )
            landing = main["id"]
            if kind == "panel":
                self.add("buses", f"{box_id}-bus", enclosure_id=box_id, rating_a=rating_a, fed_by=landing)
            else:
                main["frame_a"] = rating_a
        start, start_n, start_g = self._start(fed_from, box_id, feeder_a)
        self.add(
            "runs",
            f"to-{box_id}",
            from_part=start,
            to_part=landing,
            **{
                "length_ft": 50.0,
                "placement": "indoors",
                "method": "emt",
                "insulation": "THWN-2",
                "material": "copper",
                **(run or {}),
            },
        )
        ends = [(leg, start, landing) for leg in self.legs]
        ends += [("neutral", start_n, f"{box_id}-n")] if neutral else []
        ends += [("ground", start_g, f"{box_id}-g")] if ground else []
        for role, here, there in ends:
            self.add(
                "conductors",
                f"to-{box_id}-{role.lower()}",
                run_id=f"to-{box_id}",
                role=role,
                from_part=here,
                to_part=there,
            )
        return box_id

    def _start(self, fed_from: str, box_id: str, feeder_a: float | None) -> tuple[str, str, str]:
        if any(source["id"] == fed_from for source in self.job["sources"]):
            return fed_from, fed_from, fed_from
        kind = thing(self.job, "enclosures", fed_from)["kind"]
        if kind == "meter":
            return f"{fed_from}-lugs", f"{fed_from}-n", f"{fed_from}-n"
        bus = next((item["id"] for item in self.job["buses"] if item["enclosure_id"] == fed_from), None)
        feeder = self.add(
            "devices",
            f"{fed_from}-to-{box_id}"[:40],
            enclosure_id=fed_from,
            role="feeder",
            rating_a=feeder_a,
            bus_id=bus,
        )
        return feeder["id"], f"{fed_from}-n", f"{fed_from}-g"

    def service(self, *, outdoors: bool = True, main_a: float = 200.0, **options: Any) -> str:
        """Add a meter and a bonded service disconnect with two rods."""
        self.box("meter", "utility", kind="meter", ground=False, rating_a=200.0)
        self.box(
            "service",
            "meter",
            kind="disconnect",
            ground=False,
            bond=True,
            main_a=main_a,
            rating_a=200.0,
            run={"length_ft": 5.0, "placement": "outdoors", "method": "rmc"},
            **{"placement": "outdoors" if outdoors else "indoors", **options},
        )
        for number in (1, 2):
            self.add("electrodes", f"service-rod{number}", kind="rod", connects_to="service-n", length_ft=8.0)
        return "service"

    def load(self, box_id: str, va: float, **values: Any) -> Json:
        number = len(self.job["loads"]) + 1
        return self.add(
            "loads", f"load-{number}", enclosure_id=box_id, amount=va, **{"unit": "VA", "volts": 240.0, **values}
        )

    def document(self) -> Document:
        return parse_value(self.job)

    def report(self, state: str = "proposed") -> Report:
        return report_of(self.job, state)


def through_transformer(*, primary_a=150.0, main_a=60.0, length=18.0, kva=45.0, load=None, run=None) -> JobBuilder:
    """Return a transformer from 208 V to 480Y/277 V behind a device, with a main beyond it."""
    builder = JobBuilder(system="wye_208_120")
    builder.service(main_a=400.0)
    builder.box("xfmr", "service", kind="transformer", main_a=None, feeder_a=primary_a, rating_a=None)
    builder.box("beyond", "xfmr", main_a=main_a, feeder_a=None, run={"length_ft": length, **(run or {})})
    feeder = thing(builder.job, "runs", "to-beyond")["from_part"]
    builder.job["devices"] = [item for item in builder.job["devices"] if item["id"] != feeder]
    builder.add("lugs", "secondary", enclosure_id="xfmr")
    thing(builder.job, "runs", "to-beyond")["from_part"] = "secondary"
    for conductor in builder.job["conductors"]:
        if conductor["from_part"] == feeder:
            conductor["from_part"] = "secondary"
    builder.add(
        "transformers",
        "dry",
        enclosure_id="xfmr",
        primary_part="xfmr-main",
        secondary_part="secondary",
        kva=kva,
        secondary_system="wye_480_277",
    )
    builder.load("beyond", 20_000.0, **{"volts": 480.0, "three_phase": True, **(load or {})})
    return builder


def chain(count: int, loads_each: int = 2) -> Json:
    """Return a job with ``count`` panels in a row, each with loads of its own."""
    builder = JobBuilder()
    builder.service(main_a=200.0)
    fed_from = "service"
    for number in range(count):
        fed_from = builder.box(f"p{number}", fed_from, main_a=None, feeder_a=200.0, run={"length_ft": 20.0})
        for _ in range(loads_each):
            builder.load(fed_from, 20.0, volts=120.0, category="lighting", continuous=True)
    return builder.job
