"""A panel in two sections: the second is fed on the feed-through lugs of the first, and the one device ahead protects both."""

import unittest

from tests.support.jobs import JobBuilder, finding


class Sections(unittest.TestCase):
    def report(self, second_bus_a=200.0, size=None):
        builder = JobBuilder()
        builder.service(main_a=200.0)
        builder.box("panel", "service", main_a=None, feeder_a=200.0)
        self.on_lugs(builder.job, "panel")
        builder.add("lugs", "through", enclosure_id="panel", bus_id="panel-bus", feed_through=True)
        sizes = {"hot_size": size, "neutral_size": size} if size else {}
        builder.box("second", "panel", main_a=None, rating_a=second_bus_a, run={"length_ft": 2.0, **sizes})
        self.on_lugs(builder.job, "second")
        builder.job["devices"] = [item for item in builder.job["devices"] if item["id"] != "panel-to-second"]
        for item in (*builder.job["runs"], *builder.job["conductors"]):
            if item["from_part"] == "panel-to-second":
                item["from_part"] = "through"
        builder.load("second", 9000.0)
        return builder.report()

    def on_lugs(self, job, box):
        job["devices"] = [item for item in job["devices"] if item["id"] != f"{box}-main"]
        job["lugs"].append({"id": f"{box}-main", "enclosure_id": box, "name": "Main lugs"})

    def test_the_bus_of_each_section_is_held_against_the_device_ahead_of_both(self):
        self.assertIsNone(finding(self.report(200.0), "bus", "second"))
        small = finding(self.report(125.0), "bus", "second")
        self.assertEqual((small.outcome, small.section), ("must_fix", "408.36"))

    def test_conductors_between_the_sections_carry_the_device_ahead(self):
        figures = self.report().runs["to-second"].figures
        self.assertEqual((figures["device"].text, figures["hots"].text), ("200", "3/0"))
        self.assertIsNone(finding(self.report(size="3/0"), "hots_size", "to-second"))
        self.assertEqual(finding(self.report(size="1"), "hots_size", "to-second").outcome, "must_fix")

    def test_the_load_of_the_second_section_is_on_the_first_and_neutral_stays_apart_in_both(self):
        report = self.report()
        self.assertEqual(*(report.levels[box].legs[0].design.text for box in ("panel", "second")))
        self.assertEqual({report.bonds[box].decision for box in ("panel", "second")}, {"apart"})


if __name__ == "__main__":
    unittest.main()
