"""Nothing valid grows with the square of its size: twice as much of a kind takes about twice as long, or is refused.

Steps of the interpreter are counted, not time: the count is the same on every machine.
"""

import sys
import unittest

from nelvor.errors import BadInput
from nelvor.exchange.loads_csv import read_loads
from nelvor.model.crowding import MOST_IN_ONE_ENCLOSURE
from nelvor.model.parse import parse_value
from nelvor.model.resolve import resolve
from nelvor.report.check import check
from nelvor.report.wire import report_out
from tests.support.jobs import JobBuilder, orchard

SMALL, LARGE = 60, 180
MOST_GROWTH = 3.9
"""For three times the size; the square would be nine."""


def calls_of(work) -> int:
    """Count the function calls of a piece of work."""
    count = 0

    def seen(frame, event, argument):
        nonlocal count
        count += event in ("call", "c_call")

    before = sys.getprofile()
    sys.setprofile(seen)
    try:
        work()
    finally:
        sys.setprofile(before)
    return count


def site() -> JobBuilder:
    builder = JobBuilder()
    builder.service()
    builder.box("p", "service", main_a=None, feeder_a=100.0, run={"length_ft": 20.0})
    return builder


def loads_of_one_name(number):
    builder = site()
    for _ in range(number):
        builder.load("p", 20.0, volts=120.0, category="lighting", name="Same")
    return builder.job


def ring(number):
    builder = JobBuilder()
    last = builder.service()
    for place in range(number):
        last = builder.box(f"p{place}", last, main_a=None, run={"length_ft": 20.0})
    start, _, _ = builder._start(last, "p0", 100.0)
    builder.add("runs", "closing", from_part=start, to_part="p0-main", length_ft=5.0)
    return builder.job


def sources(number):
    builder = site()
    for place in range(number):
        builder.add("sources", f"s{place}", name=f"s{place}", kind="generator", system="split_120_240")
    return builder.job


def loose_enclosures(number):
    builder = site()
    for place in range(number):
        builder.add("enclosures", f"e{place}", name=f"e{place}", kind="panel")
    return builder.job


def bonds(number):
    builder = site()
    for place in range(number):
        builder.add(
            "bonds", f"more{place}", enclosure_id="p", kind="screw", part_a="p-n", part_b="p", made=place % 2 == 0
        )
    return builder.job


def electrodes(number):
    builder = site()
    for place in range(number):
        builder.add("electrodes", f"e{place}", kind="rod", connects_to="service-n", length_ft=8.0)
    return builder.job


def conductors(number):
    builder = site()
    for place in range(number):
        builder.add("conductors", f"c{place}", run_id="to-p", role="ground", from_part="service-g", to_part="p-g")
    return builder.job


def devices(number):
    builder = site()
    for place in range(number):
        builder.add("devices", f"d{place}", enclosure_id="p", bus_id="p-bus", role="branch", rating_a=20.0, poles=1)
    return builder.job


class Growth(unittest.TestCase):
    def test_a_check_grows_with_the_size_of_the_site(self):
        for kind in (
            loads_of_one_name,
            ring,
            sources,
            loose_enclosures,
            bonds,
            electrodes,
            conductors,
            devices,
        ):
            small, large = (parse_value(kind(number)) for number in (SMALL, LARGE))
            report_out(check(small))
            counts = [calls_of(lambda document=document: report_out(check(document))) for document in (small, large)]
            with self.subTest(kind.__name__, counts=counts):
                self.assertLess(counts[1], MOST_GROWTH * counts[0])

    def test_reading_grows_with_the_size_of_the_job(self):
        small, large = (ring(number) for number in (SMALL, LARGE))
        parse_value(small)
        counts = [calls_of(lambda job=job: parse_value(job)) for job in (small, large)]
        self.assertLess(counts[1], MOST_GROWTH * counts[0])

    def test_a_list_of_unknown_panels_grows_with_its_lines(self):
        document = resolve(parse_value(orchard()), "proposed")

        def read(number):
            lines = [f"nowhere {place},{place},x,lighting,300,120" for place in range(number)]
            with self.assertRaises(BadInput):
                read_loads("\n".join(["panel,circuit,name,category,amount,volts", *lines]), document, None, "proposed")

        read(10)
        counts = [calls_of(lambda number=number: read(number)) for number in (300, 900)]
        self.assertLess(counts[1], MOST_GROWTH * counts[0])


class Crowding(unittest.TestCase):
    def crowded(self, list_name, number):
        builder = site()
        for place in range(number):
            name = f"more{place}"
            if list_name == "runs":
                builder.add("runs", name, from_part="utility", to_part="p-main", length_ft=5.0)
            elif list_name == "bonds":
                builder.add("bonds", name, enclosure_id="p", kind="screw", part_a="p-n", part_b="p")
            elif list_name == "sources":
                builder.add("sources", name, name=name, kind="inverter", system="split_120_240", enclosure_id="p")
            else:
                kind = {"devices": {"role": "branch"}, "bars": {"kind": "neutral"}}.get(list_name, {})
                builder.add(list_name, name, enclosure_id="p", **kind)
        return builder.job

    def test_what_meets_in_one_enclosure_is_bounded_by_a_named_limit(self):
        for list_name in ("runs", "devices", "lugs", "buses", "bars", "bonds", "sources"):
            most = MOST_IN_ONE_ENCLOSURE[list_name]
            already = sum(
                "p" in (item.get("enclosure_id"), item.get("to_part", "").removesuffix("-main"))
                for item in site().job[list_name]
            )
            with self.subTest(list_name):
                parse_value(self.crowded(list_name, most - already))
                with self.assertRaises(BadInput) as caught:
                    parse_value(self.crowded(list_name, most - already + 1))
                (issue,) = [item for item in caught.exception.issues if item.path == "enclosures.p"]
                self.assertEqual(issue.code, "too_many_in_one_place")
                self.assertIn(f"{most + 1} {list_name} meet in p; {most} may", issue.reason)


if __name__ == "__main__":
    unittest.main()
