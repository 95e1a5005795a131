"""What sources beneath a run push back through it: its conductors, its device, the part beyond a joint, taps beside them."""

import unittest

from tests.support.jobs import JobBuilder, finding, mended, report_of, thing


def inverter(builder, box, new_id="roof", output_a=32.0, system="split_120_240", legs=("L1", "L2"), **source):
    """Add an inverter in a box of its own, fed from the main of a disconnect."""
    builder.add("enclosures", f"{new_id}-box", name=f"{new_id} box", kind="inverter", termination_c=75)
    builder.add("bars", f"{new_id}-g", enclosure_id=f"{new_id}-box", kind="ground", insulated=False)
    builder.add(
        "sources",
        new_id,
        name=new_id,
        kind="inverter",
        system=system,
        interactive=True,
        rated_output_a=output_a,
        enclosure_id=f"{new_id}-box",
        output="line_to_line",
        **source,
    )
    run = f"to-{new_id}"
    start = f"{box}-main"
    builder.add(
        "runs",
        run,
        from_part=start,
        to_part=new_id,
        length_ft=10.0,
        placement="indoors",
        method="emt",
        insulation="THWN-2",
        material="copper",
    )
    for leg in legs:
        builder.add("conductors", f"{run}-{leg.lower()}", run_id=run, role=leg, from_part=start, to_part=new_id)
    builder.add("conductors", f"{run}-g", run_id=run, role="ground", from_part=f"{box}-g", to_part=f"{new_id}-g")


def held(report, code, thing_id):
    return next((item for item in report.held if (item.code, item.id) == (code, thing_id)), None)


class BackThroughAFeeder(unittest.TestCase):
    """A service, a hall panel, a barn disconnect behind a feeder breaker, an inverter behind that."""

    def site(self, output_a=32.0, feeder_a=50.0, edition="2023", size=None, load_va=0.0):
        builder = JobBuilder(edition)
        builder.service()
        builder.box("hall", "service", main_a=100.0, feeder_a=100.0)
        thing(builder.job, "buses", "hall-bus").update(spaces=20, main_end="top")
        builder.box(
            "barn",
            "hall",
            kind="disconnect",
            main_a=feeder_a,
            feeder_a=feeder_a,
            rating_a=100.0,
            run={"hot_size": size},
        )
        thing(builder.job, "devices", "hall-to-barn")["space"] = 17
        inverter(builder, "barn", output_a=output_a)
        self.job = builder.job
        if load_va:
            builder.load("hall", load_va)
        return builder.report()

    def test_the_feeder_breaker_carries_125_percent_of_the_output(self):
        # 40 x 1.25 = 50
        self.assertEqual(held(self.site(output_a=40.0), "pushed_back", "to-barn").section, "705.30(B)")
        report = self.site(output_a=40.1)
        wrong = finding(report, "pushed_back", "to-barn")
        self.assertEqual(wrong.outcome, "must_fix")
        self.assertIn("50 A to 60 A", wrong.mend.label)
        self.assertIsNone(finding(report_of(mended(self.job, wrong)), "pushed_back", "to-barn"))

    def test_sections_by_edition(self):
        for edition, section in (("2017", "705.60(B)"), ("2020", "705.30(B)"), ("2023", "705.30(B)")):
            self.assertEqual(held(self.site(edition=edition), "pushed_back", "to-barn").section, section)

    def test_conductors_are_sized_for_it(self):
        # 125 % of 36 A is 45 A, of 40 A is 50 A: at 75 °C 8 AWG copper carries 50 A, 6 AWG 65 A
        self.assertEqual(self.site(output_a=40.0).runs["to-barn"].figures["hots"].text, "8")
        self.assertEqual(self.site(output_a=44.0, feeder_a=60.0).runs["to-barn"].figures["hots"].text, "6")

    def test_conductors_that_are_read_are_held_against_it(self):
        self.assertIsNone(finding(self.site(output_a=40.0, size="8"), "hots_size", "to-barn"))
        self.assertEqual(finding(self.site(output_a=40.0, size="10"), "hots_size", "to-barn").outcome, "must_fix")

    def test_the_run_to_the_inverter_is_an_output_circuit(self):
        report = self.site(output_a=40.0)
        answer = report.runs["to-roof"]
        self.assertEqual(
            (answer.kind, answer.figures["load"].text, answer.figures["design"].text), ("output", "40", "50")
        )
        self.assertIsNone(finding(report, "source_device", "to-roof"))
        self.assertIsNotNone(finding(self.site(output_a=40.1), "source_device", "to-roof"))

    def test_loads_are_judged_as_before_beside_it(self):
        report = self.site(load_va=4_800.0)
        self.assertEqual(held(report, "device_load", "to-hall").text, "100 A carries 20 A.")
        self.assertIsNone(held(report, "device_load", "to-barn"))
        self.assertEqual(report.runs["to-hall"].figures["pushed_back"].text, "40")

    def test_a_plate_that_is_not_read_is_asked_for_and_not_taken_for_nothing(self):
        report = self.site(output_a=None)
        self.assertEqual(finding(report, "pushed_back", "to-barn").outcome, "cannot_tell")

    def test_a_source_of_two_lines_keeps_its_amperes_on_a_three_phase_feeder(self):
        # 10 kVA over two lines at 208 V: 48.08 A, and not 27.8 A as three-phase
        builder = JobBuilder("2023", "wye_208_120")
        builder.service()
        builder.box("hall", "service", main_a=100.0, feeder_a=100.0)
        builder.box("barn", "hall", kind="disconnect", main_a=60.0, feeder_a=60.0)
        inverter(builder, "barn", output_a=None, system="wye_208_120", rated_kva=10.0)
        pushed = builder.report().runs["to-hall"].figures["pushed_back"]
        self.assertAlmostEqual(float(pushed.number), 1.25 * 10_000 / 208, places=3)


class TappedFeeder(unittest.TestCase):
    """A 100 A feeder to a shop, tapped on its way for an inverter's disconnect."""

    def site(
        self, output_a=16.0, edition="2023", size="1", end_a=None, tap_size=None, source_device_a=20.0, more=False
    ):
        builder = JobBuilder(edition)
        builder.service()
        builder.box("hall", "service", main_a=200.0, feeder_a=200.0)
        builder.box("shop", "hall", main_a=end_a or 150.0, feeder_a=100.0, run={"hot_size": size, "length_ft": 60.0})
        builder.box(
            "joint",
            "hall",
            kind="disconnect",
            main_a=source_device_a,
            rating_a=60.0,
            run={"length_ft": 20.0, "hot_size": tap_size},
        )
        self._tap(builder, "joint", "tap")
        if more:
            builder.box("shed", "hall", kind="disconnect", main_a=40.0, rating_a=60.0, run={"length_ft": 8.0})
            self._tap(builder, "shed", "other-tap")
        inverter(builder, "joint", output_a=output_a)
        self.builder = builder
        return builder.report()

    def _tap(self, builder, box, new_id):
        job = builder.job
        job["devices"] = [item for item in job["devices"] if item["id"] != f"hall-to-{box}"]
        thing(job, "runs", f"to-{box}")["from_part"] = "hall-to-shop"
        for conductor in job["conductors"]:
            if conductor["run_id"] == f"to-{box}" and conductor["role"] in ("L1", "L2"):
                conductor["from_part"] = "hall-to-shop"
        builder.add(
            "taps",
            new_id,
            run_id="to-shop",
            tap_run_id=f"to-{box}",
            at_ft=20.0,
            protected_from_damage=True,
            leaves_enclosure=True,
        )

    def outcome(self, **values):
        found = finding(self.site(**values), "feeder_sources", "to-shop")
        return "holds" if found is None else found.outcome

    def test_the_part_beyond_carries_the_device_and_the_output(self):
        # 1 AWG copper at 75 °C: 130 A; 100 + 1.25 x 24 = 130
        self.assertEqual(self.outcome(output_a=24.0, source_device_a=30.0), "holds")
        self.assertEqual(self.outcome(output_a=24.1, source_device_a=40.0), "must_fix")

    def test_larger_lines_carry_both(self):
        # 100 + 1.25 x 48 = 160: 2/0 carries 175 A, 1/0 150 A; 100 + 1.25 x 40 = 150
        for output_a, size in ((48.0, "2/0"), (40.0, "1/0")):
            found = finding(self.site(output_a=output_a, source_device_a=60.0), "feeder_sources", "to-shop")
            self.assertEqual(found.mend.label, f"Lines: 1 to {size}")
            after = report_of(mended(self.builder.job, found))
            self.assertIsNotNone(held(after, "feeder_sources", "to-shop"))
            self.assertEqual([item.text for item in after.findings if item.outcome == "must_fix"], [])

    def test_a_device_at_the_far_end_is_for_the_office_to_say(self):
        self.assertEqual(self.outcome(output_a=40.0, source_device_a=50.0, end_a=130.0), "cannot_tell")
        self.assertEqual(self.outcome(output_a=40.0, source_device_a=50.0, end_a=130.0, more=True), "must_fix")

    def test_sections_by_edition(self):
        for edition, section in (
            ("2017", "705.12(B)(2)(1)(a)"),
            ("2020", "705.12(B)(1)(1)"),
            ("2023", "705.12(A)(2)(a)"),
        ):
            self.assertEqual(held(self.site(edition=edition), "feeder_sources", "to-shop").section, section)

    def needed(self, run, rule, **values):
        answer = self.site(**values).runs[run]
        return next(item.needed for item in answer.tap_rules if item.rule == rule)

    def test_taps_count_the_sources(self):
        # 25 ft: a third of 100 A and, in 2023, the 60 A device; before, 125 % of 48 A, which is the same
        for edition in ("2017", "2020", "2023"):
            need = self.needed("to-joint", "25_ft", output_a=48.0, source_device_a=60.0, edition=edition)
            self.assertEqual(need.number, 60)  # its own device asks for more than the third of 160 A
            need = self.needed("to-shed", "10_ft", output_a=48.0, source_device_a=60.0, edition=edition, more=True)
            self.assertEqual(need.number, 40)

    def test_the_ten_foot_tap_counts_them_before_2023(self):
        # a tenth of 100 + 1.25 x 320 = 50 A, above the 40 A at its end; from 2023 on a tenth of 100 A
        before, after = (
            self.needed("to-shed", "10_ft", output_a=320.0, source_device_a=400.0, edition=edition, more=True)
            for edition in ("2020", "2023")
        )
        self.assertEqual((before.number, after.number), (50, 40))

    def test_without_a_source_nothing_changes(self):
        self.site()
        builder = self.builder
        thing(builder.job, "sources", "roof")["interactive"] = False
        self.assertIsNone(finding(builder.report(), "feeder_sources", "to-shop"))


if __name__ == "__main__":
    unittest.main()
