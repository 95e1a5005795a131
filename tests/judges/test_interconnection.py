"""What may be pushed into a bus: each rule of 705.12 on both sides of its limit, places on the bus, levels, ways out."""

import unittest

from tests.support.jobs import JobBuilder, finding, mended, report_of, thing


class WithSolar(unittest.TestCase):
    """A panel of 20 spaces with its main at the top, 200 A bus and main, load breakers of 200 A, and a source on another."""

    def site(
        self, output_a=32.0, space=17, main_a=200.0, bus_a=200.0, breaker_a=40.0, edition="2023", filled=True, **bus
    ):
        builder = JobBuilder(edition)
        builder.service()
        builder.box("hall", "service", main_a=main_a, feeder_a=200.0, rating_a=bus_a)
        thing(builder.job, "buses", "hall-bus").update({"spaces": 20, "main_end": "top", **bus})
        builder.add(
            "sources",
            "roof",
            name="Roof",
            kind="inverter",
            system="split_120_240",
            interactive=True,
            rated_output_a=output_a,
        )
        builder.add(
            "devices",
            "solar",
            enclosure_id="hall",
            bus_id="hall-bus",
            name="Solar",
            role="source",
            rating_a=breaker_a,
            poles=2,
            space=space,
        )
        builder.add("runs", "from-roof", from_part="roof", to_part="solar", length_ft=20.0)
        for number, place in enumerate((5, 6, 13, 14) if filled else (), 1):
            builder.add(
                "devices",
                f"f{number}",
                enclosure_id="hall",
                bus_id="hall-bus",
                role="branch",
                name=f"Filled {number}",
                rating_a=50.0,
                poles=2,
                space=place,
            )
        self.builder = builder
        return builder

    def verdict(self, *at):
        report = self.builder.report()
        at = at or ("hall",)
        found = next((item for item in report.findings if item.code == "bus_source" and item.id in at), None)
        held = [item for item in report.held if item.code == "bus_source"]
        return found, held

    def outcome(self, **values):
        self.site(**values)
        found, held = self.verdict("hall", "hall-bus", "roof")
        self.assertTrue((found is None) == bool(held))
        return "holds" if found is None else found.outcome


class BothSchools(WithSolar):
    """65 A are left: an output of 52 A on a 70 A breaker by the edition, a 60 A breaker where breakers are counted."""

    def counted(self, output_a, breaker_a, by_breakers):
        self.site(output_a=output_a, breaker_a=breaker_a, main_a=175.0)
        self.builder.job["settings"]["count_source_breakers"] = by_breakers
        found, held = self.verdict("hall", "hall-bus", "roof")
        figures = self.builder.report().panels["hall"].figures
        return "holds" if found is None else found.outcome, figures["bus_120 largest"].text

    def test_the_edition_counts_the_output(self):
        self.assertEqual(self.counted(52.0, 70.0, False), ("holds", "52"))
        self.assertEqual(self.counted(52.1, 70.0, False)[0], "must_fix")

    def test_the_stricter_school_counts_the_breaker(self):
        self.assertEqual(self.counted(52.0, 70.0, True), ("must_fix", "48"))
        self.assertEqual(self.counted(48.0, 60.0, True), ("holds", "48"))

    def test_a_source_without_a_known_breaker_counts_by_its_output_beside_the_others(self):
        # 40 A counted by its breaker of 70, and another 20 A whose breaker is not read: 25 A; 95 of 65 A that are left
        self.site(output_a=40.0, breaker_a=70.0, main_a=175.0, bus_a=225.0, space=17)
        plate = {"kind": "inverter", "system": "split_120_240", "interactive": True, "rated_output_a": 20.0}
        self.builder.add("sources", "shed", name="Shed", **plate)
        place = {"enclosure_id": "hall", "bus_id": "hall-bus", "role": "source", "poles": 2, "space": 18}
        self.builder.add("devices", "solar-two", name="Solar two", rating_a=None, **place)
        self.builder.add("runs", "from-shed", from_part="shed", to_part="solar-two", length_ft=20.0)
        totals = []
        for by_breakers in (False, True):
            self.builder.job["settings"]["count_source_breakers"] = by_breakers
            totals.append(float(self.builder.report().panels["hall"].figures["bus_120 total"].number))
        self.assertEqual(totals, [175 + 50 + 25, 175 + 70 + 25])

    def test_what_is_more_counts(self):
        """A breaker below 125 % of the output is wrong by itself and does not make room."""
        self.assertEqual(self.counted(56.0, 60.0, True)[0], "must_fix")


class Rules(WithSolar):
    def test_120_percent_at_the_opposite_end(self):
        # 200 + 1.25 x 32 = 240 = 1.2 x 200
        self.assertEqual(self.outcome(), "holds")
        self.assertEqual(self.outcome(output_a=32.1), "must_fix")

    def test_not_beside_the_main_and_not_between(self):
        for space in (1, 9):
            self.assertEqual(self.outcome(space=space), "must_fix", space)

    def test_all_within_the_bus_wherever_it_stands(self):
        # 150 + 1.25 x 40 = 200
        self.assertEqual(self.outcome(main_a=150.0, output_a=40.0, space=1), "holds")
        self.assertEqual(self.outcome(main_a=150.0, output_a=40.1, space=1), "must_fix")

    def test_all_breakers_within_the_bus(self):
        # 40 A of the source and 160 A of others: 200 A; the main is left out
        self.site(output_a=60.0, space=1, breaker_a=80.0, filled=False)
        for number, space in enumerate((5, 9), 1):
            self.builder.add(
                "devices",
                f"l{number}",
                enclosure_id="hall",
                bus_id="hall-bus",
                role="branch",
                name=f"Load {number}",
                rating_a=60.0,
                poles=2,
                space=space,
            )
        asked = self.verdict("hall")[0]
        self.assertEqual((asked.outcome, asked.field), ("cannot_tell", "no_other_circuits"))
        thing(self.builder.job, "enclosures", "hall")["no_other_circuits"] = True
        self.assertIsNone(self.verdict("hall")[0])
        thing(self.builder.job, "devices", "l1")["rating_a"] = 70.0
        self.assertEqual(self.verdict("hall")[0].outcome, "must_fix")

    def test_a_dwelling_fed_in_the_middle(self):
        self.site(main_end="middle")
        self.builder.add("buildings", "house", use="dwelling", name="House")
        thing(self.builder.job, "enclosures", "hall")["building_id"] = "house"
        self.assertIsNone(self.verdict("hall", "hall-bus")[0])
        thing(self.builder.job, "devices", "solar")["space"] = 9
        self.assertEqual(self.verdict("hall", "hall-bus")[0].outcome, "must_fix")
        thing(self.builder.job, "devices", "solar")["space"] = 1
        thing(self.builder.job, "buildings", "house")["use"] = "commercial"
        self.assertEqual(self.verdict("hall", "hall-bus")[0].outcome, "must_fix")

    def test_sections_by_edition(self):
        for edition, section in (("2017", "705.12(B)(2)(3)(b)"), ("2020", "705.12(B)(3)(2)"), ("2023", "705.12(B)(2)")):
            self.site(edition=edition)
            self.assertEqual(self.verdict()[1][0].section, section)

    def test_the_largest_source_that_each_rule_allows(self):
        # (240 - 200) / 1.25 = 32; the plain sum leaves nothing
        self.site()
        figures = self.builder.report().panels["hall"].figures
        self.assertEqual(figures["bus_120 largest"].number, 32)
        self.assertNotIn("bus_100_sum largest", figures)

    def test_moving_away_from_the_far_end_never_gains_and_a_smaller_main_never_lowers(self):
        for output in (10.0, 30.0, 50.0, 90.0):
            worst = {"holds": 0, "cannot_tell": 1, "must_fix": 2}
            far, near = (worst[self.outcome(output_a=output, space=space)] for space in (17, 9))
            self.assertLessEqual(far, near)
            small, large = (worst[self.outcome(output_a=output, main_a=main)] for main in (150.0, 200.0))
            self.assertLessEqual(small, large)


class Devices(WithSolar):
    def outcome_of_device(self, **values):
        self.site(main_a=100.0, **values)
        found = finding(self.builder.report(), "source_device", "solar")
        return None if found is None else found.section

    def test_the_breaker_carries_125_percent_of_the_output(self):
        # 32 x 1.25 = 40
        self.assertIsNone(self.outcome_of_device(breaker_a=40.0))
        self.assertEqual(self.outcome_of_device(breaker_a=35.0), "705.28(B)")
        wrong = finding(self.builder.report(), "source_device", "solar")
        self.assertEqual(wrong.mend.label, "Solar: 35 A to 40 A")
        self.assertIsNone(finding(report_of(mended(self.builder.job, wrong)), "source_device", "solar"))

    def test_a_breaker_that_nobody_marked_as_a_source_s_is_judged_too(self):
        self.site(main_a=100.0, breaker_a=35.0)
        thing(self.builder.job, "devices", "solar")["role"] = "branch"
        self.assertEqual(finding(self.builder.report(), "source_device", "solar").outcome, "must_fix")

    def test_not_above_what_its_maker_allows(self):
        self.site(main_a=100.0, breaker_a=50.0)
        thing(self.builder.job, "sources", "roof")["largest_device_a"] = 50.0
        self.assertIsNone(finding(self.builder.report(), "source_device", "solar"))
        thing(self.builder.job, "sources", "roof")["largest_device_a"] = 45.0
        self.assertEqual(finding(self.builder.report(), "source_device", "solar").section, "110.3(B)")


class NotTold(WithSolar):
    def test_the_plate_and_the_place_are_asked_for(self):
        self.site(output_a=None)
        self.assertEqual(self.verdict("roof")[0].field, "rated_output_a")
        self.site(main_end=None)
        self.assertEqual(
            (self.verdict("hall-bus")[0].outcome, self.verdict("hall-bus")[0].field), ("cannot_tell", "main_end")
        )

    def test_from_kilovolt_amperes(self):
        # 7.68 kVA / 240 V = 32 A
        self.site(output_a=None)
        thing(self.builder.job, "sources", "roof")["rated_kva"] = 7.68
        self.assertIsNone(self.verdict("roof", "hall")[0])

    def test_other_volts_are_not_counted_as_these(self):
        self.site()
        thing(self.builder.job, "sources", "roof")["system"] = "wye_208_120"
        self.assertEqual(self.verdict("roof")[0].outcome, "cannot_tell")


class AtLugs(WithSolar):
    def test_a_bus_without_a_breaker_is_judged_and_does_not_crash(self):
        self.site(filled=False)
        job = self.builder.job
        job["devices"] = [item for item in job["devices"] if item["id"] != "solar"]
        self.builder.add("lugs", "hall-far", enclosure_id="hall", name="Far lugs")
        thing(job, "runs", "from-roof")["to_part"] = "hall-far"
        found = finding(self.builder.report(), "bus_source", "hall-bus")
        self.assertEqual((found.outcome, found.field), ("cannot_tell", "main_end"))
        self.assertIn("no breaker stands on it", found.text)


class Levels(WithSolar):
    def test_the_feeder_breaker_is_the_source_in_the_panel_upstream(self):
        self.site()
        self.builder.box("attic", "hall", feeder_a=100.0, main_a=100.0, rating_a=200.0)
        job = self.builder.job
        thing(job, "devices", "hall-to-attic")["space"] = 9
        thing(job, "buses", "attic-bus").update(spaces=20, main_end="top")
        thing(job, "devices", "solar").update(enclosure_id="attic", bus_id="attic-bus")
        report = self.builder.report()
        # in the attic 100 + 40 of 200; in the hall the feeder breaker stands between
        self.assertIsNone(finding(report, "bus_source", "attic"))
        self.assertEqual(finding(report, "bus_source", "hall").outcome, "must_fix")
        thing(job, "devices", "hall-to-attic")["space"] = 17
        self.assertIsNone(finding(self.builder.report(), "bus_source", "hall"))

    def test_several_sources_are_added(self):
        self.site(output_a=16.0)
        self.builder.add(
            "sources",
            "shed",
            name="Shed",
            kind="inverter",
            system="split_120_240",
            interactive=True,
            rated_output_a=16.0,
        )
        self.builder.add(
            "devices",
            "more",
            enclosure_id="hall",
            bus_id="hall-bus",
            name="More",
            role="source",
            rating_a=20.0,
            poles=2,
            space=18,
        )
        self.builder.add("runs", "from-shed", from_part="shed", to_part="more", length_ft=20.0)
        self.assertIsNone(self.verdict("hall")[0])
        thing(self.builder.job, "sources", "shed")["rated_output_a"] = 16.1
        self.assertEqual(self.verdict("hall")[0].outcome, "must_fix")


class PowerControl(WithSolar):
    """A listed control with locked settings holds the sources, and the supply where it measures that, within the bus."""

    def outcome_with(self, edition="2023", setting_a=200.0, listed=True, watches=True, output_a=80.0, **values):
        control = {
            "control_setting_a": setting_a,
            "control_listed": listed,
            "control_watches_supply": watches,
        }
        return self.outcome(edition=edition, output_a=output_a, space=1, breaker_a=100.0, **control, **values)

    def test_within_the_bus_where_it_watches_the_supply(self):
        for edition in ("2020", "2023"):
            self.assertEqual(self.outcome_with(edition), "holds")
            self.assertEqual(self.outcome_with(edition, setting_a=201.0), "must_fix")

    def test_the_device_ahead_is_added_where_it_does_not(self):
        # 100 + 100 = 200
        self.assertEqual(self.outcome_with(watches=False, setting_a=100.0, main_a=100.0, output_a=90.0), "holds")
        self.assertEqual(self.outcome_with(watches=False, setting_a=101.0, main_a=100.0, output_a=90.0), "must_fix")

    def test_a_setting_buys_nothing_in_2017(self):
        self.assertEqual(self.outcome_with("2017"), "must_fix")

    def test_each_device_within_the_bus_in_2020(self):
        for edition, outcome in (("2020", "must_fix"), ("2023", "holds")):
            self.site(edition=edition, output_a=80.0, space=1, breaker_a=225.0, control_setting_a=200.0)
            bus = thing(self.builder.job, "buses", "hall-bus")
            bus.update(control_listed=True, control_watches_supply=True)
            found = self.verdict("hall")[0]
            self.assertEqual("holds" if found is None else found.outcome, outcome)

    def test_what_is_not_told_of_it_is_asked_for(self):
        self.assertEqual(self.outcome_with(listed=None), "cannot_tell")
        self.assertEqual(self.verdict("hall-bus")[0].field, "control_listed")
        self.assertEqual(self.outcome_with(watches=None), "cannot_tell")
        self.assertEqual(self.verdict("hall-bus")[0].field, "control_watches_supply")
        self.assertEqual(self.outcome_with(listed=False), "must_fix")

    def test_what_the_bus_would_carry_without_it_is_said(self):
        self.outcome_with()
        self.assertIn("without it the bus could carry 300 A", self.verdict()[1][0].text)


class Interlocked(WithSolar):
    """A generator's breaker that cannot be on together with the main pushes nothing in beside it."""

    def generator(self, other):
        self.site(output_a=None)
        thing(self.builder.job, "sources", "roof").update(kind="generator", interactive=False)
        if other is not None:
            self.builder.add("interlocks", "slide", device_a="solar", device_b=other)
        return next((item for item in self.builder.report().findings if item.code == "bus_source"), None)

    def test_with_the_main_and_with_no_other(self):
        self.assertIsNone(self.generator("hall-main"))
        self.assertEqual(self.generator("f1").outcome, "cannot_tell")
        self.assertEqual(self.generator(None).outcome, "cannot_tell")


class WaysOut(WithSolar):
    def each_clears(self, code="bus_source"):
        found = finding(self.builder.report(), code, "hall")
        labels = []
        for mend in found.mends:
            labels.append(mend.label)
            after = report_of(mended(self.builder.job, found._replace(mends=(mend,))))
            self.assertIsNone(finding(after, code, "hall"), mend.label)
            self.assertEqual([item.text for item in after.findings if item.outcome == "must_fix"], [], mend.label)
        return labels

    def test_to_the_end_away_from_the_main(self):
        self.site(space=1)
        self.builder.load("hall", 10_000.0)
        self.assertIn("Solar to space 18, the end away from the main", self.each_clears())

    def test_in_place_of_a_breaker_of_its_size(self):
        self.site(space=1)
        for name, space in (("left", 17), ("right", 18)):
            self.builder.add(
                "devices",
                name,
                enclosure_id="hall",
                bus_id="hall-bus",
                role="branch",
                name=name.title(),
                rating_a=30.0,
                poles=2,
                space=space,
            )
        self.assertIn("Solar to space 18, the end away from the main, in place of Right", self.each_clears())

    def test_a_smaller_main_or_a_larger_bus(self):
        self.site(output_a=40.0, breaker_a=50.0)
        self.builder.load("hall", 10_000.0)
        # 240 - 50 = 190: 175 A; bus (200 + 50) / 1.2 = 208.3: 225 A
        labels = self.each_clears()
        self.assertEqual(labels, ["hall main: 200 A to 175 A", "Bus of hall: 200 A to 225 A, another panel"])

    def test_a_bus_below_its_protection_is_mended_so_that_its_source_passes_too(self):
        for output_a, breaker_a, main_a, bus_a in (
            # 1.2 x 175 = 210, less 40 or 50: a main of 150 A; 1.2 x 200 = 240 takes 200 + 40, not 200 + 50
            (32.0, 40.0, 150, 200),
            (40.0, 50.0, 150, 225),
            # 210 less 30: the main of 175 A that the bus would have without a source
            (24.0, 30.0, 175, 200),
        ):
            self.site(output_a=output_a, breaker_a=breaker_a, bus_a=175.0)
            self.builder.load("hall", 10_000.0)
            labels = [f"hall main: 200 A to {main_a} A", f"Bus of hall: 175 A to {bus_a} A, another panel"]
            self.assertEqual(self.each_clears("bus"), labels)

    def test_no_smaller_main_is_offered_that_its_load_or_its_source_does_not_allow(self):
        # 37 440 VA are 156 A: above the 150 A that the bus beside its source leaves
        self.site(bus_a=175.0)
        self.builder.load("hall", 37_440.0)
        self.assertEqual(self.each_clears("bus"), ["Bus of hall: 175 A to 200 A, another panel"])

    def test_the_breaker_of_a_source_is_judged_whatever_its_bus_is(self):
        # 125 % of 40 A is 50 A
        for bus_a in (None, 175.0, 225.0):
            self.site(output_a=40.0, breaker_a=40.0, bus_a=bus_a)
            found = finding(self.builder.report(), "source_device", "solar")
            self.assertEqual([mend.label for mend in found.mends], ["Solar: 40 A to 50 A"])

    def test_a_main_raised_for_its_load_comes_with_the_bus_that_its_source_asks_for(self):
        # 80 A carry 19 200 VA; with 125 % of 40 A they are 130 A, above 1.2 x 100 A, within 1.2 x 110 A
        self.site(output_a=40.0, breaker_a=50.0, main_a=60.0, bus_a=100.0)
        self.builder.load("hall", 19_200.0)
        found = finding(self.builder.report(), "main_load", "hall-main")
        self.assertEqual(found.mend.label, "hall main: 60 A to 80 A; bus of hall: 100 A to 110 A, another panel")
        after = report_of(mended(self.builder.job, found))
        self.assertEqual([item.text for item in after.findings if item.outcome == "must_fix"], [])

    def test_a_main_that_protects_a_panel_with_lugs_is_raised_with_its_bus(self):
        builder = JobBuilder("2023")
        builder.service(main_a=60.0)
        builder.box("hall", "service", rating_a=60.0)
        builder.job["devices"] = [item for item in builder.job["devices"] if item["id"] != "hall-main"]
        builder.add("lugs", "hall-lugs", enclosure_id="hall")
        thing(builder.job, "buses", "hall-bus")["fed_by"] = "hall-lugs"
        builder.add("lugs", "service-out", enclosure_id="service")
        thing(builder.job, "runs", "to-hall").update(from_part="service-out", to_part="hall-lugs")
        for wire in builder.job["conductors"]:
            wire["from_part"] = wire["from_part"].replace("service-to-hall", "service-out")
            wire["to_part"] = wire["to_part"].replace("hall-main", "hall-lugs")
        builder.load("hall", 19_200.0)
        found = finding(builder.report(), "device_load", "to-service")
        self.assertIn("60 A to 80 A; bus of hall: 60 A to 80 A, another panel", found.mend.label)
        after = report_of(mended(builder.job, found))
        self.assertEqual([item.code for item in after.findings if item.code in ("bus", "device_load")], [])

    def test_a_source_breaker_is_raised_with_the_bus_that_went_by_the_sum_of_its_breakers(self):
        # 2 x 40 A and 20 A are 100 A on 100 A; 50 A for 125 % of 40 A make 110 A; 150 A by the other rules are above 120 A
        builder = self.site(output_a=40.0, breaker_a=40.0, main_a=100.0, bus_a=100.0, space=1, filled=False)
        for number, rating in enumerate((40.0, 20.0), 1):
            of_bus = {"enclosure_id": "hall", "bus_id": "hall-bus", "role": "branch", "poles": 2}
            builder.add("devices", f"f{number}", name=f"F{number}", rating_a=rating, space=4 + number, **of_bus)
        thing(builder.job, "enclosures", "hall")["no_other_circuits"] = True
        found = finding(builder.report(), "source_device", "solar")
        self.assertEqual(found.mend.label, "Solar: 40 A to 50 A; bus of hall: 100 A to 110 A, another panel")
        after = report_of(mended(builder.job, found))
        self.assertEqual([item.text for item in after.findings if item.outcome == "must_fix"], [])
