"""Circuits as one types them from a photograph of a door, mistakes and all, and as CSV that comes back."""

import unittest

from nelvor.errors import BadInput
from nelvor.exchange.circuits_csv import COLUMNS, read_circuits, write_circuits
from nelvor.model.parse import parse_value
from nelvor.model.resolve import resolve
from nelvor.model.things import Bus, Circuit, Device
from tests.support.jobs import JobBuilder, bakery, orchard

DOOR = """\
1-3 Range 2p 50
2/4  Dryer  2 pole 30 A
5, Kitchen east, 1, 20
6\tKitchen west\t1\t20
7. Dishwasher 1P 20A
8 "Disposer" 20
9 Bath up 20
10 "
11) Bath down 20
12 Laundry 20
13 Living room 15
14 Bed front 15
15 Bed back 15
16 Bed east 15
17-19 Air conditioner 2p 40
18 Hall, smoke alarms 15
20 Garage 20
21 Yard 20
22-24-26 Shop saw 3p 30
23 Furnace 15
25 Porch light 15
27 Attic 15
28 Freezer 20
29 Well pump 20
30-32 Water heater 2p 30
31 Stair 15
33 Study 15
34 Den 15
35 Spare 20
36 Spare 20
37a Clock 15
37b Doorbell 15
38 Fan 15
39-41 Hot tub 2p 50
40 Gate 15
42 Sign 20
"""
WRONG = """\
1-3 Range 2p 50
Dryer 30
3 Kettle 20
41-43 Tub 2p 50
5-6 Oven 2p 40
7-9 Saw 3p 30
8 Light
60 Attic 15
10 Sink 9999
"""


def three_phase_panel():
    builder = JobBuilder(system="wye_208_120")
    builder.service()
    builder.box("panel", "service")
    builder.job["buses"][0].update(spaces=42, half_size_spaces=True)
    return resolve(parse_value(builder.job), "proposed")


class FromTheDoor(unittest.TestCase):
    def setUp(self):
        self.document = three_phase_panel()
        (self.bus,) = self.document.buses

    def read(self, text, **options):
        return read_circuits(text, self.document, self.bus, **options)

    def issues(self, text, **options):
        with self.assertRaises(BadInput) as caught:
            self.read(text, **options)
        for issue in caught.exception.issues:
            self.assertTrue(issue.reason and issue.remedy, issue)
        return {issue.path: issue.code for issue in caught.exception.issues}

    def test_a_panel_of_42_spaces_as_one_types_it(self):
        text = DOOR.replace('10 "', '10 " 20')
        found = self.read(text).devices
        self.assertEqual(len(found), 36)
        by_space = {(item.space, item.half): item for item in found}
        told = [by_space[key] for key in ((1, None), (2, None), (5, None), (6, None), (7, None), (22, None))]
        self.assertEqual(
            [(item.name, item.poles, item.rating_a) for item in told],
            [("Range", 2, 50), ("Dryer", 2, 30), ("Kitchen east", 1, 20), ("Kitchen west", 1, 20)]
            + [("Dishwasher", 1, 20), ("Shop saw", 3, 30)],
        )
        self.assertEqual(by_space[10, None].name, "Bath up")
        self.assertEqual((by_space[35, None].role, by_space[34, None].role), ("spare", "branch"))
        self.assertEqual((by_space[37, "first"].name, by_space[37, "second"].name), ("Clock", "Doorbell"))
        self.assertEqual(by_space[18, None].name, "Hall, smoke alarms")

    def test_each_mistake_is_told_by_its_line(self):
        self.assertEqual(
            self.issues(WRONG),
            {
                "line 2": "not_a_circuit",
                "line 3, space": "taken",
                "line 4, space": "off_bus",
                "line 5, space": "not_below",
                "line 6": "poles",
                "line 7": "no_rating",
                "line 8, space": "off_bus",
                "line 9, rating_a": "bad_value",
            },
        )

    def test_what_stands_already_is_in_the_way(self):
        document = resolve(parse_value(orchard()), "existing")
        bus = next(item for item in document.buses if item.id == "house-panel-bus")
        with self.assertRaises(BadInput) as caught:
            read_circuits("13 Kettle 20", document, bus)
        self.assertIn("taken by Dishwasher", caught.exception.issues[0].reason)

    def test_an_empty_list_and_one_that_is_too_long(self):
        self.assertEqual(self.issues(" \n"), {"": "empty"})
        self.assertEqual(self.issues("x" * 300_000), {"": "too_large"})


class AsCsv(unittest.TestCase):
    def round_trip(self, document, bus):
        text = write_circuits(document, bus.id)
        emptied = document.model_copy(update={"devices": [d for d in document.devices if d.bus_id != bus.id]})
        found = read_circuits(text, emptied, bus)
        kept = {"id", "proposed", "device_id"}
        devices = [item for item in document.devices if item.bus_id == bus.id]
        dump = [item.model_dump(exclude=kept) for item in found.devices]
        key = lambda item: item["space"]  # noqa: E731
        self.assertEqual(
            sorted(({name: item[name] for name in item if name in COLUMNS} for item in dump), key=key),
            sorted(({n: v for n, v in d.model_dump().items() if n in COLUMNS} for d in devices), key=key),
        )
        own = {item.id for item in devices}
        wires = [item for item in document.circuits if item.device_id in own]
        self.assertEqual(len(found.circuits), len(wires))

    def test_circuits_come_back_as_they_were(self):
        for job in (orchard(), bakery()):
            document = resolve(parse_value(job), "proposed")
            for bus in document.buses:
                if any(item.bus_id == bus.id for item in document.devices):
                    with self.subTest(bus=bus.id):
                        self.round_trip(document, bus)

    def test_a_cell_is_safe_in_a_spreadsheet(self):
        document = three_phase_panel()
        device = Device(id="x", enclosure_id="panel", bus_id="panel-bus", name="=1+1", space=1, poles=1, rating_a=20.0)
        self.assertIn("'=1+1", write_circuits(document.model_copy(update={"devices": [device]}), "panel-bus"))

    def test_the_columns_are_those_of_the_model(self):
        known = set(Device.model_fields) | set(Circuit.model_fields) | {"state"}
        self.assertEqual(set(COLUMNS) - known, set())

    def test_faults_of_cells_are_named(self):
        document = three_phase_panel()
        bus: Bus = document.buses[0]
        for text, path in (
            ("space,colour\n1,red\n", "line 1"),
            ("space,rating_a\none,20\n", "line 2, space"),
            ("space,rating_a\n1,x\n", "line 2, rating_a"),
            ("space,use\n1,sauna\n", "line 2, use"),
            ("space,name\n,Bath\n", "line 2, space"),
            ('space,name\n1,"Bath\n', ""),
        ):
            with self.subTest(text=text), self.assertRaises(BadInput) as caught:
                read_circuits(text, document, bus)
            self.assertEqual(caught.exception.issues[0].path, path)
