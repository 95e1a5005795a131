"""Sources in a section that feed-through lugs supply: both buses, and the conductors between them (705.12(B)(6) of 2023)."""

import unittest

from nelvor.model.changes.operations import apply
from tests.judges.test_pushed_back import held, inverter
from tests.support.jobs import JobBuilder, finding, report_of, thing


def on_lugs(job, box):
    job["devices"] = [item for item in job["devices"] if item["id"] != f"{box}-main"]
    job["lugs"].append({"id": f"{box}-main", "enclosure_id": box, "name": "Main lugs"})


class FeedThroughLugs(unittest.TestCase):
    """200 A ahead of two sections; an inverter of 32 A, 40 A at 125 %, in the second one at its far end."""

    def site(self, edition="2023", bus_a=200.0, size=None, main=False):
        builder = JobBuilder(edition)
        builder.service(main_a=200.0)
        builder.box("panel", "service", main_a=None, feeder_a=200.0, rating_a=bus_a)
        on_lugs(builder.job, "panel")
        builder.add("lugs", "through", enclosure_id="panel", bus_id="panel-bus", feed_through=True)
        sizes = {"hot_size": size, "neutral_size": size} if size else {}
        builder.box("second", "panel", main_a=200.0 if main else None, rating_a=bus_a, run={"length_ft": 2.0, **sizes})
        if not main:
            on_lugs(builder.job, "second")
        builder.job["devices"] = [item for item in builder.job["devices"] if item["id"] != "panel-to-second"]
        for item in (*builder.job["runs"], *builder.job["conductors"]):
            if item["from_part"] == "panel-to-second":
                item["from_part"] = "through"
        for box in ("panel", "second"):
            thing(builder.job, "buses", f"{box}-bus").update(spaces=20, main_end="top")
            thing(builder.job, "enclosures", box)["no_other_circuits"] = True
        builder.box("roof-off", "second", kind="disconnect", main_a=40.0, feeder_a=40.0, rating_a=60.0)
        thing(builder.job, "devices", "second-to-roof-off").update(space=17, poles=2)
        inverter(builder, "roof-off")
        self.job = builder.job
        return builder.report()

    def ends(self, report, code, thing_id):
        found = finding(report, code, thing_id)
        return found.outcome if found else "holds" if held(report, code, thing_id) else None

    def test_without_a_device_between_the_sections_each_bus_holds_all_of_it_or_fails(self):
        for edition, section in (("2020", "705.12(B)(3)(6)"), ("2023", "705.12(B)(6)")):
            report = self.site(edition)
            for box in ("panel", "second"):
                self.assertEqual(self.ends(report, "bus_source", box), "must_fix", (edition, box))
                self.assertIn(section, finding(report, "bus_source", box).text)
            large = self.site(edition, bus_a=240.0)
            self.assertEqual([self.ends(large, "bus_source", box) for box in ("panel", "second")], ["holds"] * 2)

    def test_in_2017_the_office_is_asked(self):
        report = self.site("2017")
        self.assertEqual(self.ends(report, "bus_source", "panel-bus"), "cannot_tell")
        self.assertIn("no rule", finding(report, "bus_source", "panel-bus").text)
        self.assertEqual(self.ends(report, "feed_through", "to-second"), "cannot_tell")

    def test_a_main_in_the_second_section_counts_from_2023_on(self):
        report = self.site("2023", main=True)
        self.assertEqual([self.ends(report, "bus_source", box) for box in ("panel", "second")], ["holds"] * 2)
        self.assertEqual(held(report, "bus_source", "panel").section, "705.12(B)(2)")
        self.assertEqual(self.ends(report, "feed_through", "to-second"), "holds")
        self.assertEqual(self.ends(self.site("2020", main=True), "bus_source", "panel"), "must_fix")

    def test_a_main_larger_than_the_conductors_protects_none(self):
        self.site("2023", main=True, size="3/0")
        self.assertEqual(self.ends(report_of(self.job), "feed_through", "to-second"), "holds")
        thing(self.job, "devices", "second-main")["rating_a"] = 400.0
        self.assertEqual(self.ends(report_of(self.job), "feed_through", "to-second"), "must_fix")

    def test_the_conductors_carry_the_device_ahead_and_the_output(self):
        # 200 A and 40 A: 4/0 copper carries 230 A at 75 °C, 250 kcmil 255 A
        self.assertEqual(self.ends(self.site(size="4/0"), "feed_through", "to-second"), "must_fix")
        report = self.site(size="250")
        self.assertEqual(self.ends(report, "feed_through", "to-second"), "holds")
        self.assertEqual(float(report.runs["to-second"].figures["largest_joined"].number), 44.0)  # (255 - 200) / 1.25

    def test_every_mend_of_a_bus_clears_it(self):
        report = self.site("2023", bus_a=225.0)
        found = finding(report, "bus_source", "panel")
        self.assertTrue(found.mends)
        for mend in found.mends:
            after = report_of(apply(self.job, list(mend.operations)))
            self.assertEqual(self.ends(after, "bus_source", "panel"), "holds", mend)

    def test_lugs_that_feed_no_source_change_nothing(self):
        report = self.site()
        gone = {"roof", "to-roof"}
        for name in ("sources", "runs", "conductors"):
            self.job[name] = [item for item in self.job[name] if not gone & {item["id"], item.get("run_id")}]
        self.assertEqual(self.ends(report_of(self.job), "bus", "panel"), "holds")
        self.assertIsNone(self.ends(report_of(self.job), "feed_through", "to-second"))
        self.assertIsNotNone(self.ends(report, "feed_through", "to-second"))


if __name__ == "__main__":
    unittest.main()
