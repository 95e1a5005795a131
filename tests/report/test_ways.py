"""Every way to connect a source: its arithmetic by hand, its largest output by trial, and what it draws."""

import unittest

from hypothesis import HealthCheck, assume, given, settings
from hypothesis import strategies as st

from nelvor.errors import CannotCompute, NotFound
from nelvor.judges.memory import Memory
from nelvor.model.changes.operations import apply
from nelvor.model.parse import parse_value
from nelvor.report.check import check
from nelvor.report.ways_to_connect import ways_for_source, ways_to_connect
from nelvor.ways.way import WantedSource
from tests.support.jobs import JobBuilder, finding, orchard, report_of, thing
from tests.support.sites import sites


def plain(job):
    return parse_value(job).model_dump(mode="json")


def checking():
    memory = Memory()
    return lambda value: check(parse_value(value), "proposed", memory)


def ways(job, at, output_a, **wanted):
    return ways_to_connect(plain(job), checking(), at, WantedSource(output_a=output_a, **wanted))


def house(edition="2023", bus_a=200.0, main_a=200.0, load_va=24_000.0):
    """A 200 A service, behind it a panel of 20 spaces with its main at the top, 100 A of load and breakers of 250 A."""
    builder = JobBuilder(edition)
    builder.service(main_a=200.0)
    thing(builder.job, "enclosures", "meter")["placement"] = "outdoors"
    builder.box("hall", "service", main_a=main_a, feeder_a=200.0, rating_a=bus_a, run={"hot_size": "3/0"})
    thing(builder.job, "buses", "hall-bus").update(spaces=20, main_end="top")
    for number in range(5):
        breaker = {"role": "branch", "rating_a": 50.0, "poles": 2, "space": 1 + 4 * number - (number == 4) * 1}
        builder.add("devices", f"b{number}", enclosure_id="hall", bus_id="hall-bus", name=f"B{number}", **breaker)
    builder.load("hall", load_va)
    return builder


def must_fix(report):
    return {(item.code, item.id) for item in report.findings if item.outcome == "must_fix"}


class ByHand(unittest.TestCase):
    def of(self, kind, found):
        return [way for way in found.ways if way.kind == kind]

    def test_the_bus_as_it_is(self):
        # 200 + 1.25 x 32 = 240 = 1.2 x 200; 33 A are 1 A too many
        self.assertEqual(self.of("own_bus", ways(house().job, "hall", 32.0))[0].outcome, "passes")
        (way,) = self.of("own_bus", ways(house().job, "hall", 33.0))
        self.assertEqual((way.outcome, way.largest_a, way.short_by_a), ("fails", "32", "1"))

    def test_each_smaller_main_that_carries_the_load(self):
        # load 100 A: mains 175, 150, 125, 110 and 100 A; with 125 A (240 - 125) / 1.25 = 92 A may come in
        found = self.of("smaller_main", ways(house().job, "hall", 90.0))
        self.assertEqual(
            [(way.title.split()[-2], way.outcome, way.largest_a) for way in sorted(found, key=lambda way: way.title)],
            [
                ("100", "passes", "112"),
                ("110", "passes", "104"),
                ("125", "passes", "92"),
                ("150", "fails", "72"),
                ("175", "fails", "52"),
            ],
        )

    def test_no_smaller_main_below_the_load(self):
        (way,) = self.of("smaller_main", ways(house(load_va=48_000.0).job, "hall", 40.0))
        self.assertEqual((way.outcome, way.operations), ("fails", []))
        self.assertIn("200.0 A leaves no main", way.reasons[0].text)

    def test_a_larger_bus_behind_the_main_as_it_is(self):
        # (200 + 50) / 1.2 = 208: a 225 A bus, of which 270 - 200 = 70 A leave 56 A of output
        (way,) = self.of("larger_bus", ways(house().job, "hall", 40.0))
        self.assertEqual((way.outcome, way.largest_a), ("passes", "56"))
        self.assertIn("225 A bus", way.title)

    def test_power_control_by_edition(self):
        for edition, outcome in (("2017", "fails"), ("2020", "passes"), ("2023", "passes")):
            (way,) = self.of("power_control", ways(house(edition).job, "hall", 80.0))
            self.assertEqual(way.outcome, outcome, edition)

    def test_a_joint_in_the_feeder(self):
        # 3/0 carries 200 A, which its device takes: larger conductors, or the office accepts the main at its end
        (way,) = self.of("feeder_tap", ways(house().job, "hall", 32.0))
        self.assertEqual((way.outcome, way.largest_a), ("cannot_tell", "0"))
        builder = house()
        thing(builder.job, "runs", "to-hall")["hot_size"] = "250"  # 255 A: (255 - 200) / 1.25 = 44 A
        (way,) = self.of("feeder_tap", ways(builder.job, "hall", 44.0))
        self.assertEqual((way.outcome, way.largest_a), ("passes", "44"))

    def test_ahead_of_the_service(self):
        (way,) = self.of("supply_side", ways(house().job, "hall", 120.0))
        self.assertEqual((way.outcome, way.consent), ("passes", "the utility, before anything is made there"))
        self.assertIn("Source fuses: fuses, 2 poles, 150 A", [part.words for part in way.parts])
        (way,) = self.of("supply_side", ways(house("2017").job, "hall", 168.0))
        self.assertEqual((way.outcome, way.largest_a, way.short_by_a), ("fails", "160", "8"))  # 225 A of 200 A

    def test_a_bus_of_unknown_rating_takes_nothing_for_certain(self):
        for change in ({"rating_a": None}, {"rating_a": 100.0}):
            builder = house()
            thing(builder.job, "buses", "hall-bus").update(change)
            found = ways(builder.job, "hall", 32.0)
            over_it = [way for kind in ("own_bus", "second_section") for way in self.of(kind, found)]
            self.assertEqual({way.outcome for way in over_it}, {"cannot_tell"}, change)

    def with_circuits(self):
        builder = house()
        builder.job["loads"] = []
        for number in range(5):
            builder.load("hall", 4800.0, device_id=f"b{number}", category="other")
        thing(builder.job, "enclosures", "hall")["no_other_circuits"] = True
        return builder.job

    def test_a_second_panel_relieves_the_bus(self):
        # its feeder of 100 A and the source's 80 A are 180 A on a bus of 200 A; 100 A are left for a source's device
        (way,) = self.of("second_section", ways(self.with_circuits(), "hall", 64.0))
        self.assertEqual((way.outcome, way.largest_a), ("passes", "80"))
        self.assertTrue(way.title.endswith("fed with 100 A"))
        self.assertIn("hall 2: panel, 100 A bus, 20 spaces", [part.words for part in way.parts])
        taken = check(parse_value(apply(plain(self.with_circuits()), way.operations)))
        moved = {load.enclosure_id for load in taken.site.document.loads}
        self.assertEqual(len(moved), 1)
        self.assertNotIn("hall", moved)
        left = {device.role for device in taken.site.devices_in["hall"]}
        self.assertEqual(left, {"main", "feeder", "source"})
        (way,) = self.of("second_section", ways(self.with_circuits(), "hall", 88.0))
        self.assertEqual((way.outcome, way.largest_a, way.short_by_a), ("fails", "80", "8"))

    def test_circuits_that_are_not_in_their_spaces_are_moved_by_hand(self):
        job = self.with_circuits()
        thing(job, "devices", "b0")["space"] = None
        (way,) = self.of("second_section", ways(job, "hall", 64.0))
        self.assertEqual((way.outcome, way.operations), ("cannot_tell", []))

    def at_the_service(self):
        builder = JobBuilder("2023")
        builder.box("meter", "utility", kind="meter", ground=False, rating_a=200.0)
        builder.box("hall", "meter", bond=True, main_a=200.0, rating_a=200.0, run={"hot_size": "2/0"})
        thing(builder.job, "buses", "hall-bus").update(spaces=20, main_end="top")
        builder.load("hall", 24_000.0)
        return builder.job

    def test_a_larger_service(self):
        # 125 % of 64 A are 80 A, a fifth of 400 A; 225 A has 45 A for a source, 36 A of output
        for output, rating, largest in ((36.0, "225", "36"), (36.1, "400", "64"), (64.0, "400", "64")):
            (way,) = self.of("new_service", ways(self.at_the_service(), "hall", output))
            self.assertEqual((way.title, way.outcome), (f"With a service of {rating} A", "passes"))
            self.assertEqual((way.largest_a, way.consent), (largest, "the utility"))
        words = [part.words for part in way.parts]
        self.assertTrue(any("meter socket of class 400" in item for item in words), words)
        taken = check(parse_value(apply(plain(self.at_the_service()), way.operations)))
        self.assertGreaterEqual(taken.runs["to-hall"].figures["ampacity"].number, 380)

    def test_what_stands_on_the_way_to_a_larger_service_becomes_as_large(self):
        """A meter, a switch of 200 A that is no service equipment, and the panel: 400 A for 64 A of output."""
        (way,) = self.of("new_service", ways(self.behind_a_switch().job, "hall", 64.0))
        self.assertEqual((way.title, way.outcome, way.largest_a), ("With a service of 400 A", "passes", "64"))
        words = " ".join(part.words for part in way.parts)
        self.assertIn("meter socket of class 400", words)
        self.assertIn("a switch, or a frame, of 400 A", words)
        taken = check(parse_value(apply(plain(self.behind_a_switch().job), way.operations)))
        wrong = [
            {(item.code, item.id) for item in report.findings if item.outcome == "must_fix"}
            for report in (taken, self.behind_a_switch().report())
        ]
        self.assertLessEqual(wrong[0], wrong[1])
        self.assertEqual(taken.site.devices["switch-main"].frame_a, 400.0)
        for run_id in ("to-switch", "to-hall"):
            self.assertGreaterEqual(taken.runs[run_id].figures["ampacity"].number, 380)

    def test_gear_on_the_way_to_a_larger_service_becomes_as_large_and_a_larger_switch_stays(self):
        builder = self.behind_a_switch()
        thing(builder.job, "devices", "switch-main")["frame_a"] = 600.0
        builder.add("transfers", "gear", enclosure_id="switch", load_part="switch-to-hall", rating_a=200.0)
        (way,) = self.of("new_service", ways(builder.job, "hall", 64.0))
        changed = {(item.id, item.field): item.value for item in way.operations if item.op == "put" and item.value}
        self.assertEqual(changed["gear", "rating_a"], 400.0)
        self.assertNotIn(("switch-main", "frame_a"), changed)

    def test_behind_a_transformer_of_its_own_a_larger_service_is_drawn_by_hand(self):
        builder = self.behind_a_switch()
        coils = {"primary_part": "switch-main", "secondary_part": "switch-to-hall", "secondary_system": "split_120_240"}
        builder.add("transformers", "coils", enclosure_id="switch", **coils)
        found = ways(builder.job, "hall", 64.0)
        for way in self.of("new_service", found):
            self.assertEqual(way.operations, [])

    def behind_a_switch(self):
        builder = JobBuilder("2023")
        builder.box("meter", "utility", kind="meter", ground=False, rating_a=200.0)
        marked = {"kind": "disconnect", "emergency_marking": "meter_disconnect", "rating_a": 200.0, "main_a": 200.0}
        builder.box("switch", "meter", ground=False, **marked)
        thing(builder.job, "devices", "switch-main").update(kind="switch", frame_a=200.0)
        builder.box("hall", "switch", bond=True, main_a=200.0, rating_a=200.0)
        thing(builder.job, "buses", "hall-bus").update(spaces=20, main_end="top")
        builder.load("hall", 24_000.0)
        return builder

    def test_a_way_ahead_of_a_service_behind_a_meter_disconnect(self):
        (way,) = self.of("supply_side", ways(self.behind_a_switch().job, "hall", 32.0))
        self.assertNotEqual(way.operations, [])

    def test_a_panel_behind_the_service_is_not_helped_by_a_larger_one(self):
        (way,) = self.of("new_service", ways(house().job, "hall", 64.0))
        self.assertEqual((way.outcome, way.operations), ("fails", []))
        self.assertIn("not in hall", way.reasons[0].text)

    def test_not_called_the_only_way_while_others_are_open(self):
        builder = house(bus_a=200.0)
        thing(builder.job, "buses", "hall-bus")["rating_a"] = None
        self.assertNotIn("Only", ways(builder.job, "hall", 40.0).told)

    def test_labels_parts_and_steps_are_told(self):
        (way,) = self.of("own_bus", ways(house().job, "hall", 32.0))
        self.assertTrue(any("DO NOT MOVE" in label for label in way.labels))
        self.assertIn("Solar: breaker, 2 poles, 40 A", [part.words for part in way.parts])
        self.assertGreater(way.steps, 5)
        self.assertIsNone(way.price)

    def test_by_price_only_where_every_part_of_all_that_pass_is_priced(self):
        job = house().job
        found = ways(job, "hall", 32.0)
        passing = [way for way in found.ways if way.outcome == "passes"]
        self.assertFalse(found.by_price)
        self.assertGreater(len(passing), 2)
        items = dict.fromkeys(part.words for way in passing for part in way.parts)
        # What comes last by work gets the least price: each part that only it needs costs nothing, all others 10.
        last = {part.words for part in passing[-1].parts}
        job["prices"] = [
            {"id": f"p{at}", "item": item, "price": 1.0 if item in last else 10.0} for at, item in enumerate(items)
        ]
        priced = ways(job, "hall", 32.0)
        self.assertTrue(priced.by_price)
        ordered = [way for way in priced.ways if way.outcome == "passes"]
        self.assertEqual([way.price for way in ordered], sorted(way.price for way in ordered))
        self.assertEqual(ordered[0].price, sum(part.price for part in ordered[0].parts))
        job["prices"].pop()
        self.assertFalse(ways(job, "hall", 32.0).by_price)


class OverThreeLines(unittest.TestCase):
    """A wye of 208 V, 225 A of bus behind 200 A: 270 A less 200 A leave 56 A at the far end over three lines as over two."""

    def job(self):
        builder = JobBuilder(system="wye_208_120")
        builder.service(main_a=400.0)
        builder.box("hall", "service", main_a=200.0, feeder_a=200.0, rating_a=225.0)
        thing(builder.job, "buses", "hall-bus").update(spaces=30, main_end="top")
        for device in builder.job["devices"]:
            device["poles"] = 3
        builder.load("hall", 30_000.0)
        return builder.job

    def own(self, output_a, lines):
        return next(way for way in ways(self.job(), "hall", output_a, lines=lines).ways if way.kind == "own_bus")

    def test_each_line_of_it_is_a_pole_and_counts_once(self):
        for lines, poles in (("two", 2), ("three", 3)):
            way = self.own(56.0, lines)
            self.assertEqual(way.outcome, "passes")
            self.assertIn(f"Solar: breaker, {poles} poles, 70 A", [part.words for part in way.parts])
            roles = {item.thing["role"] for item in way.operations if item.op == "insert" and item.list == "conductors"}
            self.assertEqual(roles & {"L1", "L2", "L3"}, {"L1", "L2", "L3"} if poles == 3 else {"L1", "L2"})
            beyond = self.own(57.0, lines)
            self.assertNotEqual(beyond.outcome, "passes")
            self.assertIn("56", [rule.largest_a for rule in beyond.rules if rule.rule.startswith("120 %, at")])

    def test_one_that_is_drawn_keeps_its_lines(self):
        way = self.own(40.0, "three")
        document = apply(plain(self.job()), way.operations)
        source = next(item["id"] for item in document["sources"] if item["kind"] != "utility")
        again = next(item for item in ways_for_source(document, checking(), source).ways if item.kind == "own_bus")
        self.assertIn("Solar: breaker, 3 poles, 50 A", [part.words for part in again.parts])

    def test_a_panel_of_two_lines_takes_none_of_three(self):
        found = ways(house().job, "hall", 32.0, lines="three")
        self.assertNotIn("passes", {way.outcome for way in found.ways})
        self.assertTrue(any("2 lines reach" in reason.text for way in found.ways for reason in way.reasons))


class Tried(unittest.TestCase):
    def test_what_passes_is_lawful_when_it_is_taken(self):
        for job, at, output in ((house().job, "hall", 40.0), (orchard(), "barn-panel", 32.0)):
            document = plain(job)
            before = must_fix(report_of(document))
            for way in ways(job, at, output).ways:
                if way.outcome == "passes":
                    after = report_of(apply(document, way.operations))
                    self.assertEqual(must_fix(after) - before, set(), way.title)

    def test_the_largest_output_is_the_largest_that_passes(self):
        for edition in ("2017", "2023"):
            job = house(edition).job
            sized = {way.title: way for way in ways(job, "hall", 20.0).ways if way.largest_a not in ("", "0")}
            self.assertGreater(len(sized), 6)
            for title, way in sized.items():
                largest = float(way.largest_a)
                if way.kind == "larger_bus":
                    continue  # another bus is chosen for a larger output
                at, above = (
                    next(item for item in ways(job, "hall", output).ways if item.title == title)
                    for output in (largest, largest + 0.5)
                )
                self.assertEqual((at.outcome, at.follows), ("passes", []), title)
                # above it, it fails, or what stands has to be changed as well
                self.assertTrue(above.outcome != "passes" or above.follows, title)


class DrawnAlready(unittest.TestCase):
    def site(self, output_a=40.0):
        builder = house()
        document = plain(builder.job)
        way = next(item for item in ways(builder.job, "hall", output_a).ways if item.kind == "own_bus")
        return apply(document, way.operations)

    def test_a_failing_source_is_taken_to_a_lawful_way_in_one_step(self):
        document = self.site()
        self.assertIsNotNone(finding(report_of(document), "bus_source", "hall"))
        source = next(item["id"] for item in document["sources"] if item["kind"] == "inverter")
        found = ways_for_source(document, checking(), source)
        passing = [way for way in found.ways if way.outcome == "passes"]
        self.assertGreater(len(passing), 3)
        for way in passing:
            after = apply(document, way.operations)
            self.assertEqual([item["kind"] for item in after["sources"]].count("inverter"), 1, way.title)
            self.assertEqual(must_fix(report_of(after)), set(), way.title)

    def test_from_ahead_of_the_service_back_to_a_panel(self):
        builder = house()
        document = plain(builder.job)
        ahead = next(item for item in ways(builder.job, "hall", 24.0).ways if item.kind == "supply_side")
        document = apply(document, ahead.operations)
        source = next(item["id"] for item in document["sources"] if item["kind"] == "inverter")
        back = next(way for way in ways_for_source(document, checking(), source).ways if way.kind == "own_bus")
        self.assertEqual(back.outcome, "passes")
        after = apply(document, back.operations)
        self.assertEqual(plain(after)["enclosures"][-1]["name"], "Inverter")
        self.assertNotIn("Source disconnect", [item["name"] for item in after["enclosures"]])

    def test_it_keeps_its_name_its_plate_and_what_is_entered_of_it(self):
        document = self.site(24.0)
        source = next(item for item in document["sources"] if item["kind"] == "inverter")
        source.update(
            kind="battery", name="Cellar storage", charging_a=16.0, storage_disconnect=True, joint_listed=True
        )
        for way in ways_for_source(document, checking(), source["id"]).ways:
            if way.operations:
                (again,) = [item for item in apply(document, way.operations)["sources"] if item["kind"] == "battery"]
                told = (again["name"], again["charging_a"], again["storage_disconnect"], again.get("joint_listed"))
                self.assertEqual(told, ("Cellar storage", 16.0, True, None), way.title)

    def test_what_cannot_be_asked_is_told(self):
        document = self.site()
        source = next(item for item in document["sources"] if item["kind"] == "inverter")
        with self.assertRaises(NotFound):
            ways_for_source(document, checking(), "nobody")
        source["rated_output_a"] = None
        with self.assertRaisesRegex(CannotCompute, "not read"):
            ways_for_source(document, checking(), source["id"])
        source["interactive"] = False
        with self.assertRaisesRegex(CannotCompute, "does not run beside"):
            ways_for_source(document, checking(), source["id"])


class Laws(unittest.TestCase):
    @settings(deadline=None, max_examples=12, suppress_health_check=list(HealthCheck), derandomize=True)
    @given(sites(), st.integers(0, 9), st.sampled_from([8.0, 24.0, 60.0, 150.0]))
    def test_at_any_site_every_way_is_told_and_what_passes_is_lawful(self, job, number, output_a):
        document = plain(job)
        before = report_of(document)
        panels = [item for item in before.site.walking_order if before.site.bus_of(item) is not None]
        assume(panels)
        try:
            found = ways(document, panels[number % len(panels)], output_a)
        except CannotCompute:
            assume(False)
        self.assertLessEqual(
            {"own_bus", "power_control", "supply_side", "larger_bus"}, {way.kind for way in found.ways}
        )
        for way in found.ways:
            self.assertTrue(way.reasons or way.rules or way.outcome == "passes", way.title)
            if way.operations:
                after = report_of(parse_value(apply(document, way.operations)).model_dump(mode="json"))
                if way.outcome == "passes":
                    self.assertEqual(must_fix(after) - must_fix(before), set(), way.title)

    @settings(deadline=None, max_examples=10, suppress_health_check=list(HealthCheck), derandomize=True)
    @given(st.sampled_from([100.0, 125.0, 150.0, 200.0]), st.sampled_from(["2017", "2020", "2023"]))
    def test_a_smaller_source_passes_wherever_a_larger_one_does(self, main_a, edition):
        job = house(edition, main_a=main_a).job
        passing = [
            {
                way.title
                for way in ways(job, "hall", output).ways
                if way.outcome == "passes" and way.kind != "larger_bus"
            }
            for output in (60.0, 30.0, 12.0)
        ]
        self.assertLessEqual(passing[0], passing[1])
        self.assertLessEqual(passing[1], passing[2])


if __name__ == "__main__":
    unittest.main()
