"""What joins what: neutral and metal components, spaces and their legs."""

import unittest

from nelvor.model.parse import parse_value
from nelvor.model.things import Bus, Device, Load
from nelvor.spaces.bus_spaces import legs_of_device
from nelvor.topology.network import METAL, NEUTRAL, Node
from nelvor.topology.scenario import Scenario, live_nodes
from nelvor.topology.site import Site
from nelvor.topology.systems import connection_by_space
from tests.support.boxes import with_switch_box
from tests.support.jobs import JobBuilder, thing

GALVANIC = ("conductor", "bond", "bar_on_metal", "raceway", "metal_path")


def two_panels(**run):
    builder = JobBuilder()
    builder.service()
    builder.box("panel", "service", run={"method": "pvc40", **run})
    return builder


class Components(unittest.TestCase):
    def component(self, builder, start, *kinds, **options):
        return Site(parse_value(builder.job)).network.component(start, *kinds, **options)

    def test_neutral_bars_are_one_along_the_runs(self):
        found = self.component(two_panels(), Node("panel-n", NEUTRAL), "conductor")
        self.assertLessEqual({Node("panel-n", NEUTRAL), Node("service-n", NEUTRAL), Node("meter-n", NEUTRAL)}, found)
        self.assertNotIn(Node("panel", METAL), found)

    def test_the_service_bond_joins_neutral_and_metal_and_an_open_screw_does_not(self):
        builder = two_panels()
        self.assertIn(Node("panel", METAL), self.component(builder, Node("panel-n", NEUTRAL), *GALVANIC))
        thing(builder.job, "bonds", "service-bond")["made"] = False
        thing(builder.job, "bars", "meter-n")["insulated"] = True
        self.assertNotIn(Node("panel", METAL), self.component(builder, Node("panel-n", NEUTRAL), *GALVANIC))

    def test_a_bond_that_is_not_known_joins_only_for_those_who_ask_for_doubt(self):
        builder = two_panels()
        thing(builder.job, "bonds", "panel-bond")["made"] = None
        start = Node("panel-n", NEUTRAL)
        self.assertNotIn(Node("panel", METAL), self.component(builder, start, "bond"))
        self.assertIn(Node("panel", METAL), self.component(builder, start, "bond", doubtful=True))

    def test_metal_raceway_and_pipes_are_paths_of_metal(self):
        builder = two_panels(method="emt")
        builder.job["conductors"] = [item for item in builder.job["conductors"] if item["role"] != "ground"]
        self.assertIn(Node("service", METAL), self.component(builder, Node("panel", METAL), "raceway"))
        builder.add("metal_paths", "pipe", end_a="panel", end_b="meter", continuous=True)
        self.assertIn(Node("meter", METAL), self.component(builder, Node("panel", METAL), "metal_path"))


class Spaces(unittest.TestCase):
    def legs(self, space, poles=1, *, legs=("L1", "L2"), **bus):
        device = Device(id="d", enclosure_id="p", poles=poles, space=space)
        return legs_of_device(Bus(id="b", enclosure_id="p", **bus), device, legs)

    def test_odd_and_even_from_the_top(self):
        self.assertEqual([self.legs(n) for n in (1, 2, 3, 4, 5)], [("L1",), ("L1",), ("L2",), ("L2",), ("L1",)])
        self.assertEqual(self.legs(5, 2), ("L1", "L2"))
        three = ("L1", "L2", "L3")
        self.assertEqual([self.legs(n, legs=three) for n in (1, 3, 5, 7)], [("L1",), ("L2",), ("L3",), ("L1",)])
        self.assertEqual(self.legs(3, 2, legs=three), ("L2", "L3"))

    def test_sequential_numbering_needs_the_number_of_spaces(self):
        self.assertEqual([self.legs(n, numbering="sequential", spaces=8) for n in (1, 2, 5, 6)], [("L1",), ("L2",)] * 2)
        self.assertEqual(self.legs(1, numbering="sequential"), ())

    def test_without_a_space_nothing_is_told(self):
        self.assertEqual(self.legs(None), ())

    def test_how_a_load_lies_follows_its_poles_and_volts(self):
        load = Load(id="l", enclosure_id="p", volts=120.0)
        self.assertEqual(connection_by_space(load, ("L2",), "split_120_240"), "L2-N")
        self.assertIsNone(connection_by_space(load, ("L1", "L2"), "split_120_240"))
        across = load.model_copy(update={"volts": 240.0})
        self.assertEqual(connection_by_space(across, ("L1", "L2"), "split_120_240"), "L1-L2")

    def test_the_leg_of_a_load_follows_the_space_of_its_circuit_unless_told_otherwise(self):
        builder = two_panels()
        builder.add("devices", "circuit", enclosure_id="panel", role="branch", poles=1, bus_id="panel-bus", space=3)
        load = builder.load("panel", 1_200.0, volts=120.0, device_id="circuit")
        self.assertEqual(self.amperes(builder), [0, 10])
        thing(builder.job, "devices", "circuit")["space"] = 5
        self.assertEqual(self.amperes(builder), [10, 0])
        load["connection"] = "L2-N"
        self.assertEqual(self.amperes(builder), [0, 10])

    def amperes(self, builder):
        return [leg.actual.number for leg in builder.report().levels["panel"].legs]


class CircuitSwitches(unittest.TestCase):
    """The fridge stands in space 2, on L1; a switch of L2 moves it to the other line of the set."""

    def live(self, throw, sources, **moved):
        site = Site(parse_value(with_switch_box(**moved).job))
        scenario = Scenario("existing", (("box-gear", throw),), frozenset(sources))
        return live_nodes(site, site.network, scenario)

    def test_each_supply_reaches_a_circuit_over_its_own_side_alone(self):
        for letter in "ab":
            goes_on = Node("fridge", "L1", "load")
            self.assertIn(goes_on, self.live("on-utility", ["utility"], fridge=letter))
            self.assertIn(goes_on, self.live("on-set", ["set-source"], fridge=letter))
            self.assertNotIn(goes_on, self.live("on-set", ["utility"], fridge=letter))
            self.assertNotIn(goes_on, self.live("on-utility", ["set-source"], fridge=letter))

    def test_the_set_reaches_neither_the_bus_nor_a_circuit_that_stays(self):
        live = self.live("on-set", ["set-source"], fridge="c")
        self.assertFalse({node for node in live if node.part in ("panel-bus", "well", "panel-main")})

    def test_a_line_that_no_switch_moves_stays_on_its_breaker(self):
        live = self.live("on-set", ["utility"], well="a")
        self.assertEqual({node.pole for node in live if node == Node("well", node.pole, "load")}, {"L2"})
