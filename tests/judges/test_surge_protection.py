"""Surge protection of dwellings, by edition, for new equipment alone."""

import unittest

from nelvor.starters import started
from tests.support.jobs import finding, mended, report_of, thing


class Surge(unittest.TestCase):
    def house(self, edition: str = "2023", **service) -> dict:
        job = started("house_and_garage", "New", edition).model_dump(mode="json")
        thing(job, "enclosures", "service-disconnect").update(service)
        return job

    def told(self, job: dict, at: str = "service-disconnect"):
        return finding(report_of(job), "surge", at)

    def test_a_new_service_of_a_dwelling_is_asked_and_told(self):
        for entered, outcome in ((None, "cannot_tell"), (False, "cannot_tell")):
            told = self.told(self.house(surge_protection=entered))
            self.assertEqual((told.outcome, told.section, told.field), (outcome, "230.67", "surge_protection"))
        self.assertIsNone(self.told(self.house(surge_protection=True)))

    def test_the_next_level_serves_as_well_where_each_panel_has_one(self):
        job = self.house(surge_protection=False)
        panel = thing(job, "enclosures", "panel")
        panel["surge_protection"] = True
        self.assertIsNone(self.told(job))
        panel["surge_protection"] = False
        told = self.told(job)
        self.assertEqual(told.outcome, "must_fix")
        self.assertIsNone(self.told(mended(job, told)))

    def test_editions_before_the_rule_ask_nothing(self):
        self.assertIsNone(self.told(self.house("2017", surge_protection=False)))
        self.assertIsNotNone(self.told(self.house("2020", surge_protection=False)))

    def test_equipment_that_stands_and_buildings_that_are_no_dwelling_are_not_asked(self):
        self.assertIsNone(self.told(self.house(surge_protection=False, standing="existing")))
        job = self.house(surge_protection=False)
        thing(job, "buildings", "house")["use"] = "other"
        self.assertIsNone(self.told(job))

    def test_a_house_that_a_feeder_supplies_needs_one_from_2023_on(self):
        for edition, outcome in (("2020", None), ("2023", "must_fix")):
            job = started("shop_feeds_house", "New", edition).model_dump(mode="json")
            for box in ("house-disconnect", "house-panel"):
                thing(job, "enclosures", box)["surge_protection"] = False
            told = self.told(job, "house-disconnect")
            self.assertEqual(told.outcome if told else None, outcome)


if __name__ == "__main__":
    unittest.main()
