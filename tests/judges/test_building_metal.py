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

    def test_steel_is_asked_of_buildings_that_may_have_it(self):
        for use, outcome in (("dwelling", None), ("commercial", "cannot_tell"), ("farm", "cannot_tell")):
            with self.subTest(use=use):
                job = house()
                thing(job, "buildings", "house")["use"] = use
                found = finding(report_of(job), "steel_frame", "house")
                self.assertEqual(found.outcome if found else None, outcome)
        job = house(steel_frame="not_bonded")
        thing(job, "buildings", "house")["use"] = "commercial"
        wrong = finding(report_of(job), "steel_frame", "house")
        self.assertEqual((wrong.outcome, wrong.section), ("must_fix", "250.104(C)"))
        self.assertIsNone(finding(report_of(mended(job, wrong)), "steel_frame", "house"))


class WaterBond(unittest.TestCase):
    """Table 250.102(C)(1) by the service's lines, not above 3/0; at a fed building by the feeder's device."""

    def size(self, hots, material="copper", fed=False, **building):
        builder = JobBuilder()
        builder.add("buildings", "house", name="House", use="other", water_piping="bonded", **building)
        builder.service(main_a=400.0)
        run = {"hot_size": hots, "material": material}
        if fed:
            builder.box("panel", "service", building="house", feeder_a=200.0, run=run)
        else:
            thing(builder.job, "enclosures", "service")["building_id"] = "house"
            thing(builder.job, "runs", "to-service").update(run)
        report = builder.report()
        figure = report.of("electrode")["panel" if fed else "service"].figures.get("water_bond")
        return (figure.text, report.rules.section(figure.clause)) if figure else None

    def test_at_a_service(self):
        # 3/0 copper: 4 copper; 250 kcmil: 2; 1000 kcmil: 2/0; 1250 kcmil: 12.5 % of it 156 kcmil, 3/0
        for hots, bond in (("3/0", "4"), ("250", "2"), ("1000", "2/0"), ("1250", "3/0"), ("2000", "3/0")):
            with self.subTest(hots=hots):
                self.assertEqual(self.size(hots), (bond, "250.104(A)"))

    def test_at_a_fed_building(self):
        self.assertEqual(self.size("3/0", fed=True), ("6", "250.104(A)(3)"))  # 200 A device, Table 250.122


if __name__ == "__main__":
    unittest.main()
