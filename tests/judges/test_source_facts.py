"""Facts of sources: entered, missing and not asked for; the signs that follow from them."""

import unittest

from nelvor.report.signs import signs_due
from tests.judges.test_pushed_back import held, inverter
from tests.support.jobs import JobBuilder, finding, thing

AHEAD = {"utility_agrees": True, "joint_listed": True}  # the service of this site serves the source alone
ALL_WELL = {
    "disconnect_in_reach": True,
    "isolated_for_work": True,
    "rapid_shutdown": "provided",
    "array_bonded": "bonded",
}


class SourceFacts(unittest.TestCase):
    def report(self, edition="2023", kind="inverter", use=None, **facts):
        builder = JobBuilder(edition)
        builder.service()
        builder.box("barn", "service", kind="disconnect", main_a=40.0, feeder_a=40.0)
        inverter(builder, "barn")
        thing(builder.job, "sources", "roof").update({"kind": kind, **AHEAD, **facts})
        if use:
            builder.add("buildings", "house", name="House", use=use)
            thing(builder.job, "enclosures", "roof-box")["building_id"] = "house"
        return builder.report()

    def test_what_is_not_entered_is_asked_for_in_one_list(self):
        asked = finding(self.report(), "source_facts", "roof")
        self.assertEqual((asked.outcome, asked.field), ("cannot_tell", "disconnect_in_reach"))
        for words in ("readily accessible", "shut down rapidly", "frames and rails"):
            self.assertIn(words, asked.text)
        self.assertNotIn("storage", asked.text)

    def test_entered_as_required_everything_holds(self):
        report = self.report(**ALL_WELL)
        self.assertIsNone(finding(report, "source_facts", "roof"))
        for field in ALL_WELL:
            self.assertIsNotNone(held(report, field, "roof"), field)

    def test_each_that_is_missing_must_be_mended(self):
        for field, wrong, section in (
            ("disconnect_in_reach", False, "705.20"),
            ("rapid_shutdown", "missing", "690.12"),
            ("array_bonded", "not_bonded", "690.43"),
        ):
            found = finding(self.report(**{**ALL_WELL, field: wrong}), field, "roof")
            self.assertEqual((found.outcome, found.section, found.field), ("must_fix", section, field))

    def test_the_switch_of_a_dwelling_is_outdoors(self):
        self.assertIsNone(finding(self.report(use="commercial", **ALL_WELL), "source_facts", "roof"))
        asked = finding(self.report(use="dwelling", **ALL_WELL), "source_facts", "roof")
        self.assertEqual(asked.field, "shutdown_switch_outdoors")
        wrong = finding(
            self.report(use="dwelling", **ALL_WELL, shutdown_switch_outdoors=False), "shutdown_switch_outdoors", "roof"
        )
        self.assertEqual((wrong.outcome, wrong.section), ("must_fix", "690.12(C)"))

    def test_storage_is_asked_for_its_own_facts(self):
        asked = finding(self.report(kind="battery"), "source_facts", "roof")
        self.assertIn("cuts the storage", asked.text)
        self.assertNotIn("shut down rapidly", asked.text)
        for edition, section in (("2017", "706.7(A)"), ("2020", "706.15(A)"), ("2023", "706.15(A)")):
            report = self.report(edition, kind="battery", storage_disconnect=False)
            self.assertEqual(finding(report, "storage_disconnect", "roof").section, section)

    def test_a_portable_set_is_asked_for_its_outlets_alone(self):
        report = self.report(kind="generator", interactive=False, portable=True)
        self.assertEqual(finding(report, "source_facts", "roof").asks, (("roof", "outlet_with_interrupter"),))
        report = self.report(kind="generator", interactive=False, portable=True, outlet_with_interrupter=True)
        self.assertIsNone(finding(report, "source_facts", "roof"))

    def test_a_fixed_set_can_be_cut_off_and_stopped(self):
        fixed = {"kind": "generator", "interactive": False, "portable": False}
        well = {"disconnect_in_reach": True, "emergency_stop": True}
        asked = finding(self.report(**fixed), "source_facts", "roof")
        self.assertEqual((asked.outcome, asked.section), ("cannot_tell", "445.18(A)"))
        self.assertNotIn("outdoors and readily", asked.text)
        self.assertIsNone(finding(self.report(**fixed, **well), "source_facts", "roof"))
        for field, edition, section in (
            ("disconnect_in_reach", "2023", "445.18(A)"),
            ("emergency_stop", "2020", "445.18(B)"),
            ("emergency_stop", "2023", "445.19(A)"),
        ):
            wrong = finding(self.report(edition, **fixed, **{**well, field: False}), field, "roof")
            self.assertEqual((wrong.outcome, wrong.section), ("must_fix", section))

    def test_the_stop_of_a_dwellings_set_is_outdoors_from_2020_on(self):
        fixed = {"kind": "generator", "interactive": False, "portable": False, "use": "dwelling"}
        fixed |= {"disconnect_in_reach": True, "emergency_stop": True}
        self.assertIsNone(finding(self.report("2017", **fixed), "source_facts", "roof"))
        self.assertEqual(finding(self.report("2020", **fixed), "source_facts", "roof").field, "stop_outdoors")
        for edition, section in (("2020", "445.18(D)"), ("2023", "445.19(C)")):
            wrong = finding(self.report(edition, **fixed, stop_outdoors=False), "stop_outdoors", "roof")
            self.assertEqual((wrong.outcome, wrong.section), ("must_fix", section))
            self.assertIsNotNone(held(self.report(edition, **fixed, stop_outdoors=True), "stop_outdoors", "roof"))

    def test_the_sign_of_rapid_shutdown_hangs_at_the_service(self):
        for edition, section in (("2017", "690.56(C)"), ("2023", "690.12(D)")):
            signs = [sign for sign in signs_due(self.report(edition, **ALL_WELL)) if "RAPID SHUTDOWN" in sign.words]
            self.assertEqual([(sign.enclosure_id, sign.section) for sign in signs], [("service", section)])
        without = signs_due(self.report(**{**ALL_WELL, "rapid_shutdown": "not_needed"}))
        self.assertFalse(any("RAPID SHUTDOWN" in sign.words for sign in without))


if __name__ == "__main__":
    unittest.main()
