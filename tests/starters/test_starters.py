"""Every starter is a lawful site in every edition, but for what is truly unknown."""

import unittest

from nelvor.report.check import check
from nelvor.rulebook.rules import rulebook
from nelvor.starters import STARTERS, started
from tests.support.jobs import thing

UNKNOWN_ON_SITE = {
    "main_bonding_jumper": "the utility's conductors",
    "electrode_conductor": "the utility's conductors",
    "run_raceway": "The length of the run is not known",
    "drop": "No load is entered",
    "bond": "look at the bonding screw",
    "bus": "read its label",
    "water_piping": "whether it is bonded, is not entered",
    "place_unknown": "is not told whole",
    "gas_piping": "whether it is bonded, is not entered",
    "steel_frame": "whether it is bonded, is not entered",
}


class Starters(unittest.TestCase):
    def test_each_is_lawful_in_each_edition_and_asks_for_what_is_unknown_alone(self):
        for key in STARTERS:
            for edition in rulebook().editions:
                with self.subTest(key, edition=edition):
                    report = check(started(key, "New", edition))
                    self.assertEqual([item.text for item in report.findings if item.outcome == "must_fix"], [])
                    self.assertGreater(report.count("holds"), 4)
                    for item in report.findings:
                        if item.outcome == "cannot_tell":
                            self.assertIn(UNKNOWN_ON_SITE[item.code], item.text)

    def test_what_is_new_is_added_and_what_stands_is_existing(self):
        document = started("old_panel_inside", "New", "2023")
        standing = {item.name: item.standing for item in document.enclosures}
        self.assertEqual(standing, {"Meter": "existing", "Service disconnect": "added", "Old panel": "existing"})
        for item in started("house_and_garage", "New", "2023").enclosures:
            self.assertEqual(item.standing, "added")

    def test_an_old_panel_keeps_its_three_wires_until_the_new_feed_stands(self):
        document = started("old_panel_inside", "New", "2023")
        existing, proposed = check(document, "existing"), check(document)
        roles = [
            {item.role for item in report.site.conductors_of[report.site.feeding_run("old-panel").id]}
            for report in (existing, proposed)
        ]
        self.assertEqual(roles, [{"L1", "L2", "neutral"}, {"L1", "L2", "neutral", "ground"}])
        self.assertEqual([report.bonds["old-panel"].decision for report in (existing, proposed)], ["bond", "apart"])

    def test_one_place_alone_bonds_the_neutral(self):
        for key in STARTERS:
            with self.subTest(key):
                report = check(started(key, "New", "2023"))
                bonded = [bond.enclosure_id for bond in report.bonds.values() if bond.decision == "bond"]
                self.assertEqual(len(bonded), 1)

    def test_lengths_and_loads_complete_a_starter(self):
        job = started("house_and_garage", "New", "2023").model_dump(mode="json")
        for run in job["runs"]:
            run["length_ft"] = run["length_ft"] or 40.0
            if run["placement"] == "underground":
                run["cover_in"] = 24.0
        for enclosure_id, amperes in (("panel", 90.0), ("garage-panel", 30.0)):
            load = {"id": f"at-{enclosure_id}", "enclosure_id": enclosure_id, "name": "Heat", "category": "other"}
            job["loads"].append({**load, "unit": "A", "amount": amperes, "volts": 240.0})
        for building in job["buildings"]:
            building.update(water_piping="bonded", gas_piping="absent", steel_frame="absent")
        for box in job["enclosures"]:
            box["place_as_required"] = True
        report = check(started("house_and_garage", "New", "2023").model_validate(job))
        self.assertEqual([item.text for item in report.findings], [])
        self.assertEqual(report.runs["to-garage-panel"].size("hots"), "4")

    def test_the_size_that_the_utility_tells_completes_a_meter_main(self):
        job = started("house_meter_main", "New", "2023").model_dump(mode="json")
        thing(job, "runs", "to-meter-main").update(hot_size="4/0", material="aluminum")
        report = check(started("house_meter_main", "New", "2023").model_validate(job))
        bond, electrodes = report.bonds["meter-main"], report.electrodes["meter-main"]
        self.assertEqual(bond.figures["main_bonding_jumper"].text, "4")
        self.assertEqual(electrodes.figures["electrode_conductor"].text, "4")


if __name__ == "__main__":
    unittest.main()
