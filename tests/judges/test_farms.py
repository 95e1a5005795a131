"""Farm buildings with animals: what is asked, their grounding conductors, and what leaves a site-isolating switch (547)."""

import unittest

from tests.judges.test_bonding import outbuilding
from tests.judges.test_pushed_back import held
from tests.support.jobs import JobBuilder, finding, mended, report_of, thing

ALL_WELL = {
    "livestock": True,
    "equipotential_plane": "bonded",
    "supply_near": "none",
    "neutral_isolator": False,
    "volts_to_earth": "none_noticed",
}


def barn(edition="2023", run=None, **building):
    """A service at a pole and a barn with animals, fed with four wires in PVC underground."""
    builder = JobBuilder(edition)
    builder.add("buildings", "barn", name="Barn", use="farm", **building)
    builder.service()
    buried = {"placement": "underground", "burial_location": "general", "cover_in": 24.0}
    builder.box("panel", "service", building="barn", run={**buried, **(run or {})})
    return builder


class Asked(unittest.TestCase):
    def test_whether_animals_are_kept(self):
        report = barn().report()
        asked = finding(report, "livestock", "barn")
        self.assertEqual((asked.outcome, asked.asks), ("cannot_tell", (("barn", "livestock"),)))
        self.assertIsNone(finding(barn(livestock=False).report(), "livestock", "barn"))
        not_a_farm = barn()
        thing(not_a_farm.job, "buildings", "barn")["use"] = "commercial"
        self.assertIsNone(finding(not_a_farm.report(), "livestock", "barn"))
        self.assertEqual([fact for fact in not_a_farm.report().facts if fact.list == "buildings"], [])

    def test_what_follows_where_they_are_in_one_list(self):
        asked = finding(barn(livestock=True).report(), "livestock", "barn")
        self.assertEqual(asked.outcome, "cannot_tell")
        self.assertEqual([field for _, field in asked.asks], [field for field in ALL_WELL if field != "livestock"])

    def test_entered_as_required_everything_holds(self):
        report = barn(**ALL_WELL).report()
        self.assertIsNone(finding(report, "livestock", "barn"))
        for field in ALL_WELL:
            self.assertIsNotNone(held(report, field, "barn"), field)

    def test_each_that_is_not_well_is_told_by_its_section(self):
        for edition, field, value, outcome, section in (
            ("2017", "equipotential_plane", "missing", "must_fix", "547.10"),
            ("2023", "equipotential_plane", "missing", "must_fix", "547.44"),
            ("2020", "supply_near", "without_plaque", "must_fix", "547.9(D)"),
            ("2023", "neutral_isolator", True, "advice", "547.27 and 547.40"),
            ("2023", "volts_to_earth", "noticed", "advice", "547.27 and 547.40"),
        ):
            found = finding(barn(edition, **{**ALL_WELL, field: value}).report(), field, "barn")
            self.assertEqual((found.outcome, found.section, found.field), (outcome, section, field))

    def test_a_plane_that_is_not_needed_and_a_plaque_that_hangs_hold(self):
        report = barn(**{**ALL_WELL, "equipotential_plane": "not_needed", "supply_near": "with_plaque"}).report()
        for field in ("equipotential_plane", "supply_near"):
            self.assertIsNotNone(held(report, field, "barn"))


class GroundingConductor(unittest.TestCase):
    def ends(self, run, **building):
        builder = barn(run=run, **{**ALL_WELL, **building})
        found = finding(builder.report(), "farm_ground", "to-panel")
        if found is not None:
            self.assertIsNone(finding(report_of(mended(builder.job, found)), "farm_ground", "to-panel"))
            return found.field, found.section
        return held(builder.report(), "farm_ground", "to-panel")

    def test_it_is_copper(self):
        self.assertEqual(self.ends({"material": "aluminum"}), ("ground_material", "547.27"))
        self.assertIsNotNone(self.ends({"material": "aluminum", "ground_material": "copper"}))

    def test_it_is_insulated_where_buried_also_in_a_part_of_the_run(self):
        self.assertEqual(self.ends({"ground_bare": True}), ("ground_bare", "547.27"))
        self.assertIsNotNone(self.ends({"ground_bare": True, "placement": "indoors"}))
        builder = barn(run={"ground_bare": True, "placement": "indoors"}, **ALL_WELL)
        builder.add("stretches", "yard", run_id="to-panel", length_ft=10.0, placement="underground")
        self.assertEqual(finding(builder.report(), "farm_ground", "to-panel").field, "ground_bare")

    def test_nothing_is_said_where_no_animals_are_kept(self):
        self.assertIsNone(self.ends({"material": "aluminum"}, livestock=False))

    def test_an_old_feed_of_three_wires_is_advised_against(self):
        builder = outbuilding(metal_path_to_supply=False)
        self.assertIsNone(finding(builder.report(), "farm_three_wire", "panel"))
        thing(builder.job, "buildings", "barn")["livestock"] = True
        self.assertEqual(finding(builder.report(), "farm_three_wire", "panel").outcome, "advice")


class FromASiteIsolatingSwitch(unittest.TestCase):
    """The grounding conductor is as large as the lines; of another metal, by the columns of Table 250.122."""

    def ends(self, hots, material, ground, ground_material):
        builder = barn(
            run={"hot_size": hots, "material": material, "ground_size": ground, "ground_material": ground_material}
        )
        thing(builder.job, "enclosures", "service")["site_isolating"] = True
        report = builder.report()
        found = finding(report, "site_isolating_ground", "to-panel")
        if found is None:
            self.assertIsNotNone(held(report, "site_isolating_ground", "to-panel"))
            return ""
        if found.mend is not None:
            self.assertIsNone(finding(report_of(mended(builder.job, found)), "site_isolating_ground", "to-panel"))
        return found.mend.label if found.mend else found.outcome

    def test_of_the_same_metal(self):
        self.assertEqual(self.ends("2", "copper", "2", "copper"), "")
        self.assertEqual(self.ends("2", "copper", "3", "copper"), "Grounding conductor: 3 to 2")

    def test_copper_beside_aluminum_lines(self):
        # the row of 1000 A: copper 2/0, aluminum 4/0; that of 200 A: 6 and 4, which 3 is above: that of 300 A, 4 and 2
        self.assertEqual(self.ends("4/0", "aluminum", "2/0", "copper"), "")
        self.assertEqual(self.ends("4/0", "aluminum", "1/0", "copper"), "Grounding conductor: 1/0 to 2/0")
        self.assertEqual(self.ends("3", "aluminum", "6", "copper"), "Grounding conductor: 6 to 4")

    def test_aluminum_beside_copper_lines(self):
        self.assertEqual(self.ends("2/0", "copper", "3/0", "aluminum"), "Grounding conductor: 3/0 to 4/0")

    def test_above_the_table_it_cannot_be_told(self):
        self.assertEqual(self.ends("1000", "copper", "500", "aluminum"), "cannot_tell")
