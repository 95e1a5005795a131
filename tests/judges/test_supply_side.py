"""A source joined ahead of the service disconnect: its conductors, switch, place, sum, neutral, and the utility's word."""

import unittest

from tests.judges.test_pushed_back import held, inverter
from tests.support.jobs import JobBuilder, finding, mended, report_of, thing


class AheadOfTheService(unittest.TestCase):
    """A meter with a 200 A service disconnect, and beside it the fused switch of an inverter."""

    def site(self, edition="2023", output_a=32.0, frame_a=60.0, kind="fuses", fuse_a=40.0, placement="outdoors", **run):
        builder = JobBuilder(edition)
        builder.service()
        thing(builder.job, "enclosures", "meter")["placement"] = "outdoors"
        run = {"length_ft": 8.0, "placement": "outdoors", "method": "rmc", **run}
        builder.box(
            "switch",
            "meter",
            kind="disconnect",
            ground=False,
            bond=True,
            main_a=fuse_a,
            rating_a=frame_a,
            run=run,
            placement=placement,
        )
        thing(builder.job, "devices", "switch-main").update(kind=kind, frame_a=frame_a)
        inverter(builder, "switch", output_a=output_a)
        self.job = builder.job
        return builder.report()

    def outcome(self, code, on="switch", **values):
        found = finding(self.site(**values), code, on)
        return "holds" if found is None else found.outcome

    def test_it_is_bonded_as_a_service_disconnect(self):
        for edition, section in (
            ("2017", "250.24(B); 250.24(C)"),
            ("2020", "250.25(A)"),
            ("2023", "250.25(A); 705.11(E)"),
        ):
            report = self.site(edition=edition)
            self.assertEqual(report.bonds["switch"].decision, "bond")
            self.assertEqual(report.bonds["service"].decision, "bond")
            self.assertEqual(report.bonds["switch"].section, section)
        thing(self.job, "bonds", "switch-bond")["made"] = False
        self.assertEqual(finding(report_of(self.job), "bond", "switch").outcome, "must_fix")

    def test_the_neutral_comes_along_though_the_source_uses_none(self):
        self.site()
        self.job["conductors"] = [item for item in self.job["conductors"] if item["id"] != "to-switch-neutral"]
        self.assertEqual(finding(report_of(self.job), "neutral_missing", "to-switch").outcome, "must_fix")

    def test_least_conductors_from_2020_on(self):
        sizes = {
            edition: self.site(edition).runs["to-switch"].figures["hots"].text for edition in ("2017", "2020", "2023")
        }
        self.assertEqual(sizes, {"2017": "8", "2020": "6", "2023": "6"})
        self.assertEqual(self.site(material="aluminum").runs["to-switch"].figures["hots"].text, "4")
        wrong = finding(self.site(hot_size="8"), "hots_size", "to-switch")
        self.assertEqual((wrong.section, wrong.mend.label), ("705.11(B)", "Lines: 8 to 6"))
        self.assertIsNone(finding(report_of(mended(self.job, wrong)), "hots_size", "to-switch"))

    def test_the_switch_is_60_amperes_at_least_whatever_its_fuses(self):
        self.assertEqual(self.outcome("disconnect_floor"), "holds")
        self.assertEqual(self.outcome("disconnect_floor", frame_a=30.0, fuse_a=30.0, output_a=20.0), "must_fix")
        self.assertEqual(self.outcome("disconnect_floor", "switch", frame_a=30.0, edition="2020"), "advice")
        self.assertEqual(self.outcome("disconnect_floor", kind="breaker"), "must_fix")
        wrong = finding(report_of(self.job), "disconnect_floor", "switch")
        self.assertIsNone(finding(report_of(mended(self.job, wrong)), "disconnect_floor", "switch"))

    def test_a_service_whose_loads_are_not_entered_yet_is_no_disconnect_of_sources(self):
        builder = JobBuilder()
        builder.service()
        builder.box("hall", "service", main_a=100.0, feeder_a=100.0)
        builder.box("roof-switch", "hall", kind="disconnect", main_a=40.0, feeder_a=40.0)
        inverter(builder, "roof-switch")
        self.assertIsNone(finding(builder.report(), "utility_agrees", "roof"))
        self.assertIsNotNone(held(builder.report(), "disconnect_floor", "service"))
        thing(builder.job, "enclosures", "hall")["no_other_circuits"] = True  # a panel that gathers sources alone
        self.assertIn(("roof", "utility_agrees"), finding(builder.report(), "source_facts", "roof").asks)

    def test_a_generator_joined_there_meets_the_utility(self):
        self.site()
        thing(self.job, "sources", "roof").update(kind="generator", interactive=False)
        wrong = finding(report_of(self.job), "second_feed", "to-roof")
        self.assertEqual((wrong.outcome, wrong.section), ("must_fix", "702.5(A)"))
        thing(self.job, "sources", "roof")["interactive"] = None
        self.assertEqual(finding(report_of(self.job), "second_feed", "roof").outcome, "cannot_tell")
        thing(self.job, "sources", "roof").update(kind="battery", interactive=False)  # which may be charged
        self.assertIsNone(finding(report_of(self.job), "second_feed", "to-roof"))

    def test_it_counts_nothing_towards_the_disconnects_of_the_house(self):
        self.assertEqual(
            held(self.site(), "disconnect_floor", "service").text, "Disconnect of 200 A, at least 60 A asked."
        )

    def test_the_utility_is_asked(self):
        report = self.site()
        asked = finding(report, "source_facts", "roof")
        self.assertIn(("roof", "utility_agrees"), asked.asks)
        for agrees, outcome in ((True, None), (False, "must_fix")):
            thing(self.job, "sources", "roof")["utility_agrees"] = agrees
            found = finding(report_of(self.job), "utility_agrees", "roof")
            self.assertEqual(found and found.outcome, outcome)

    def test_how_much_by_devices_in_2017(self):
        # devices within the 200 A of the service
        self.assertEqual(
            self.outcome("supply_side", edition="2017", output_a=160.0, fuse_a=200.0, frame_a=200.0), "holds"
        )
        self.assertEqual(
            self.outcome("supply_side", edition="2017", output_a=160.0, fuse_a=225.0, frame_a=400.0), "must_fix"
        )

    def test_how_much_by_outputs_against_the_service_conductors_later(self):
        for edition in ("2020", "2023"):
            self.site(edition, output_a=150.0, fuse_a=200.0, frame_a=200.0)
            job = self.job
            self._through_a_box_of_the_owner(job, "1/0")  # copper at 75 °C: 150 A
            self.assertIsNone(finding(report_of(job), "supply_side", "switch"))
            thing(job, "sources", "roof")["rated_output_a"] = 150.1
            self.assertEqual(finding(report_of(job), "supply_side", "switch").outcome, "must_fix")

    def _through_a_box_of_the_owner(self, job, size):
        """Let the conductors from the utility be the owner's, up to a box where both disconnects branch off."""
        builder = JobBuilder()
        builder.job = job
        builder.load("service", 4_800.0)
        builder.box("gutter", "meter", kind="meter", ground=False, run={"hot_size": size, "length_ft": 4.0})
        for run in ("to-switch", "to-service"):
            thing(job, "runs", run)["from_part"] = "gutter-lugs"
            for conductor in job["conductors"]:
                if conductor["run_id"] == run:
                    conductor["from_part"] = "gutter-n" if conductor["role"] == "neutral" else "gutter-lugs"

    def test_the_way_to_its_device(self):
        # 2017: 10 ft anywhere; 2020: outdoors its place, in a dwelling 10 ft; 2023: none
        self.assertEqual(self.outcome("supply_side_distance", edition="2017", length_ft=10.0), "holds")
        self.assertEqual(self.outcome("supply_side_distance", edition="2017", length_ft=10.1), "cannot_tell")
        self.assertEqual(self.outcome("supply_side_distance", edition="2020", length_ft=40.0), "holds")
        self.assertEqual(self.outcome("supply_side_distance", edition="2020", placement="indoors"), "cannot_tell")
        self.assertEqual(self.outcome("supply_side_distance", edition="2023", length_ft=80.0), "holds")

    def test_the_way_indoors_in_2020(self):
        cases = ((True, 10.0, "holds"), (True, 10.1, "must_fix"), (False, 16.5, "holds"), (False, 71.0, "cannot_tell"))
        for dwelling, length, outcome in (*cases, (False, 71.1, "must_fix")):
            self.site("2020", length_ft=length)
            job = self.job
            job["buildings"].append({"id": "b", "name": "B", "use": "dwelling" if dwelling else "commercial"})
            thing(job, "enclosures", "meter").update(placement="indoors", building_id="b")
            found = finding(report_of(job), "supply_side_distance", "switch")
            self.assertEqual("holds" if found is None else found.outcome, outcome, (dwelling, length))

    def test_limiters_in_each_line_allow_a_longer_way(self):
        for edition, length, limiters, outcome in (
            ("2017", 30.0, "at_the_joint", "holds"),
            ("2017", 30.0, "within_16_5_ft", "must_fix"),
            ("2017", 30.0, "none", "must_fix"),
            ("2020", 71.0, "at_the_joint", "holds"),
            ("2020", 71.0, "within_16_5_ft", "holds"),
            ("2020", 71.0, "farther", "must_fix"),
            ("2020", 16.6, "none", "must_fix"),
            ("2020", 16.5, "none", "holds"),
            ("2020", 71.1, "at_the_joint", "must_fix"),
        ):
            self.site(edition, length_ft=length)
            job = self.job
            job["buildings"].append({"id": "b", "name": "B", "use": "commercial"})
            thing(job, "enclosures", "meter").update(placement="indoors", building_id="b")
            if length == 71.0 or edition == "2017":
                asked = finding(report_of(job), "supply_side_distance", "switch")
                self.assertEqual((asked.outcome, asked.asks), ("cannot_tell", (("to-switch", "limiters"),)))
            thing(job, "runs", "to-switch")["limiters"] = limiters
            report = report_of(job)
            found = finding(report, "supply_side_distance", "switch")
            self.assertEqual("holds" if found is None else found.outcome, outcome, (edition, length, limiters))
            self.assertIn(
                ("runs", "to-switch", "limiters"), [(item.list, item.id, item.field) for item in report.facts]
            )

    def test_in_a_dwelling_limiters_help_in_2017_alone(self):
        for edition, outcome in (("2017", "holds"), ("2020", "must_fix")):
            self.site(edition, length_ft=30.0, limiters="at_the_joint")
            self.job["buildings"].append({"id": "b", "name": "B", "use": "dwelling"})
            thing(self.job, "enclosures", "meter").update(placement="indoors", building_id="b")
            found = finding(report_of(self.job), "supply_side_distance", "switch")
            self.assertEqual("holds" if found is None else found.outcome, outcome)


if __name__ == "__main__":
    unittest.main()
