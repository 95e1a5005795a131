"""The room before an enclosure as it is drawn."""

import unittest

from nelvor.demo import demo_job
from nelvor.errors import NotFound
from nelvor.model.parse import parse_value
from nelvor.report.check import check
from nelvor.report.place_plan import place_plan


class PlacePlan(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.orchard, cls.bakery = check(demo_job("orchard")), check(demo_job("bakery"))

    def test_what_must_be_clear_and_what_was_found(self):
        plan = place_plan(self.orchard, "barn-panel")
        needed = (plan.depth.needed_in, plan.width.needed_in, plan.headroom.needed_in, plan.handle.needed_in)
        self.assertEqual(needed, (36, 30, 78, 79))
        self.assertEqual(plan.headroom.there_in, 90)
        self.assertEqual(plan.depth.section, "110.26(A)(1)")

    def test_outdoors_there_is_no_headroom_to_keep(self):
        plan = place_plan(self.orchard, "disc-barn")
        self.assertEqual((plan.headroom, plan.indoors), (None, False))

    def test_above_150_volts_the_depth_hangs_on_what_lies_across(self):
        document = demo_job("bakery").model_dump(mode="json")
        document["sources"][0]["system"] = "wye_480_277"
        needed = {}
        for facing in (None, "insulated", "grounded", "live"):
            for item in document["enclosures"]:
                item["facing"] = facing
            report = check(parse_value(document))
            panel = next(item.id for item in report.site.document.enclosures if item.kind == "panel")
            needed[facing] = place_plan(report, panel).depth.needed_in
        self.assertEqual(needed, {None: None, "insulated": 36, "grounded": 42, "live": 48})

    def test_what_is_no_part_of_the_job_is_told(self):
        with self.assertRaises(NotFound):
            place_plan(self.orchard, "nowhere")


if __name__ == "__main__":
    unittest.main()
