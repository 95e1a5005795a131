"""Ground-fault protection of large feeder disconnects at 480Y/277 V (215.10), and aluminum to electrodes (250.64(A))."""

import unittest

from tests.support.jobs import JobBuilder, finding, mended, report_of, thing


def plant(rating_a=1000.0, own=None, ahead=None, system="wye_480_277"):
    builder = JobBuilder(system=system)
    builder.service(main_a=2000.0)
    builder.box("hall", "service", main_a=1000.0, feeder_a=rating_a)
    thing(builder.job, "devices", "service-main")["ground_fault_protection"] = ahead
    run = thing(builder.job, "runs", "to-hall")
    feeder = thing(builder.job, "devices", run["from_part"])
    feeder["ground_fault_protection"] = own
    return builder.job, feeder["id"]


class Feeders(unittest.TestCase):
    def outcome(self, *arguments, **options):
        job, feeder = plant(*arguments, **options)
        report = report_of(job)
        told = [item for item in (*report.findings, *report.held) if item.section == "215.10" and item.id == feeder]
        return told[0].outcome if told else None

    def test_from_1000_amperes_on(self):
        self.assertEqual(self.outcome(1000.0, False, False), "must_fix")
        self.assertIsNone(self.outcome(999.0, False, False))

    def test_protection_ahead_serves_as_well(self):
        self.assertEqual(self.outcome(1000.0, False, True), "holds")
        self.assertEqual(self.outcome(1000.0, True, False), "holds")

    def test_what_is_not_entered_is_asked_for(self):
        self.assertEqual(self.outcome(1000.0, None, False), "cannot_tell")
        self.assertEqual(self.outcome(1000.0, False, None), "cannot_tell")

    def test_at_208_volts_none_is_asked(self):
        self.assertIsNone(self.outcome(1000.0, False, False, system="wye_208_120"))

    def test_the_mend_ends_it(self):
        job, feeder = plant(1000.0, False, False)
        wrong = next(item for item in report_of(job).findings if item.id == feeder and item.section == "215.10")
        self.assertFalse([item for item in report_of(mended(job, wrong)).findings if item.section == "215.10"])


class AluminumToElectrodes(unittest.TestCase):
    def outcome(self, kind, metal):
        builder = JobBuilder()
        builder.service()
        electrode = {"connects_to": "service-n", "conductor_size": "4", "conductor_material": metal}
        builder.add("electrodes", "e", kind=kind, **electrode)
        report = builder.report()
        return finding(report, "electrode_metal", "service"), builder.job

    def test_not_within_18_inches_of_the_earth(self):
        for kind, wrong in (("rod", True), ("plate", True), ("ring", True), ("water_pipe", False)):
            with self.subTest(kind=kind):
                self.assertEqual(self.outcome(kind, "aluminum")[0] is not None, wrong)
                self.assertIsNone(self.outcome(kind, "copper")[0])

    def test_its_mend_is_copper(self):
        found, job = self.outcome("rod", "aluminum")
        self.assertEqual((found.outcome, found.section), ("must_fix", "250.64(A)"))
        self.assertIsNone(finding(report_of(mended(job, found)), "electrode_metal", "service"))


class EmergencyDisconnect(unittest.TestCase):
    def test_of_one_and_two_families_alone(self):
        for units, asked in ((1, True), (2, True), (3, False)):
            with self.subTest(units=units):
                builder = JobBuilder()
                builder.add("buildings", "house", name="House", use="dwelling")
                for number in range(units):
                    builder.add("dwelling_units", f"u{number}", name=f"Unit {number}", building_id="house")
                builder.service()
                thing(builder.job, "enclosures", "service").update(building_id="house", placement="indoors")
                found = finding(builder.report(), "emergency_disconnect", "service")
                self.assertEqual(found is not None, asked)


if __name__ == "__main__":
    unittest.main()
