"""Piping and the terminal for other systems, at the service and where a feeder comes into a building."""

import unittest

from tests.support.jobs import JobBuilder, finding, mended, report_of, thing

FIELDS = ("water_piping", "gas_piping", "intersystem_terminal")


def house(**building) -> dict:
    builder = JobBuilder()
    builder.add("buildings", "house", name="House", use="dwelling", **building)
    builder.service()
    thing(builder.job, "enclosures", "service")["building_id"] = "house"
    builder.box("panel", "service", building="house")
    return builder.job


class BuildingMetal(unittest.TestCase):
    def outcomes(self, job, building="house"):
        report = report_of(job)
        found = (finding(report, field, building) for field in FIELDS)
        return [item.outcome if item else None for item in found]

    def test_what_is_not_entered_is_asked_once_for_each_building(self):
        job = house()
        self.assertEqual(self.outcomes(job), ["cannot_tell"] * 3)
        codes = [item.code for item in report_of(job).findings if item.id == "house"]
        self.assertEqual(sorted(codes), sorted(FIELDS))

    def test_what_is_bonded_or_not_there_is_no_finding(self):
        job = house(water_piping="bonded", gas_piping="absent", intersystem_terminal=True)
        self.assertEqual(self.outcomes(job), [None] * 3)

    def test_what_is_not_bonded_is_mended(self):
        job = house(water_piping="not_bonded", gas_piping="not_bonded", intersystem_terminal=False)
        self.assertEqual(self.outcomes(job), ["must_fix"] * 3)
        for field, section in zip(FIELDS, ("250.104(A)", "250.104(B)", "250.94(A)"), strict=True):
            verdict = finding(report_of(job), field, "house")
            self.assertEqual((verdict.section, verdict.field), (section, field))
            job = mended(job, verdict)
        self.assertEqual(self.outcomes(job), [None] * 3)

    def test_a_building_that_a_feeder_supplies_is_asked_too_and_one_without_power_is_not(self):
        builder = JobBuilder()
        for name in ("shop", "shed"):
            builder.add("buildings", name, name=name, use="other")
        builder.service()
        builder.box("panel", "service", building="shop")
        self.assertEqual(self.outcomes(builder.job, "shop"), ["cannot_tell"] * 3)
        self.assertEqual(self.outcomes(builder.job, "shed"), [None] * 3)
        told = finding(report_of(builder.job), "intersystem_terminal", "shop")
        self.assertIn("at panel", told.text)


if __name__ == "__main__":
    unittest.main()
