"""What is felt between two things touched at once: closed forms of one site, bands on both sides, what floats, what is asked."""

import unittest

from nelvor.errors import CannotCompute
from nelvor.study.outcome import study
from nelvor.study.shapes import TouchOut
from nelvor.study.situation import Situation
from nelvor.study.touch import BANDS, touches
from nelvor.topology.network import METAL, Node
from tests.support.jobs import orchard, report_of

FAULT = {"kind": "ground_fault", "place": "green-panel", "fault_ohms": 1.0}


class Touches(unittest.TestCase):
    def setUp(self):
        self.job = orchard()

    def told(self, **situation) -> dict[tuple[str, str], TouchOut]:
        outcome = study(report_of(self.job), Situation(**situation))
        self.boxes = {box.id: box for box in outcome.boxes}
        return {(item.a, item.b): item for item in outcome.touches}

    def test_metal_and_earth_where_there_is_a_volt(self):
        told = self.told(**FAULT)
        green = told["green-panel", "earth"]
        self.assertAlmostEqual(green.volts, self.boxes["green-panel"].metal, delta=0.05)
        self.assertAlmostEqual(green.milliamperes, green.volts / 2000 * 1000, delta=0.05)
        self.assertEqual(self.told(), {}, "all well: no metal stands at a volt")

    def test_two_boxes_that_are_named_or_stand_side_by_side(self):
        pair = ("green-panel", "barn-panel")
        asked = self.told(**FAULT, between=pair)[pair]
        self.assertAlmostEqual(asked.milliamperes, asked.volts, delta=0.05)  # over 1000 Ω
        self.job["reaches"] = [{"id": "near", "enclosure_a": pair[0], "enclosure_b": pair[1]}]
        self.assertEqual(self.told(**FAULT)[pair], asked)
        self.assertEqual(len([key for key in self.told(**FAULT, between=pair[::-1]) if set(key) == set(pair)]), 1)

    def test_volts_between_are_those_of_the_difference_not_of_the_sizes(self):
        site = report_of(self.job).site
        volts = {Node("green-panel", METAL): 3 + 4j, Node("barn-panel", METAL): -3 + 4j}
        found = list(touches(site, volts.get, ("green-panel", "barn-panel")))
        self.assertEqual((found[0].volts, found[0].milliamperes), (6.0, 6.0))

    def test_the_bands(self):
        site = report_of(self.job).site
        expected = iter(("nothing", "felt", "felt", "cannot_let_go", "cannot_let_go", "lethal"))
        for most, _ in BANDS:
            for milliamperes in (most * 1000 * 0.999, most * 1000):
                volts = {Node("green-panel", METAL): complex(milliamperes * 2)}
                found = next(iter(touches(site, volts.get, ("green-panel", "earth"))))
                self.assertEqual(found.felt, next(expected), milliamperes)

    def test_what_floats_has_no_volts(self):
        found = next(iter(touches(report_of(self.job).site, {}.get, ("green-panel", "earth"))))
        self.assertEqual((found.volts, found.milliamperes, found.felt), (None, None, "unknown"))

    def test_a_box_that_is_not_there_is_refused(self):
        with self.assertRaisesRegex(CannotCompute, "not an enclosure"):
            self.told(between=("nowhere", "earth"))
