"""A bonded set behind an interlock or behind gear that leaves the neutral: every lawful way out, side by side."""

import unittest

from nelvor.model.changes.operations import apply
from nelvor.model.parse import parse_value
from nelvor.report.check import check
from nelvor.report.mend_effect import mend_effect
from tests.additions.test_additions import house, taken
from tests.support.jobs import finding


class WaysOut(unittest.TestCase):
    SET = {"rated_kva": 7.2, "breaker_a": 30.0}

    def bonded(self, kind, **options):
        """A set with its bond found made after it was drawn as floating."""
        _, _, job = taken(house().job, kind, "panel", **self.SET, **options)
        for bond in job["bonds"]:
            if bond["enclosure_id"] == "generator":
                bond["made"] = True
        for source in job["sources"]:
            if source["kind"] == "generator":
                source["marking"] = "bonded_neutral"
        report = check(parse_value(job))
        return job, report, finding(report, "bond", "generator")

    def after(self, job, mend):
        return check(parse_value(apply(job, list(mend.operations))))

    def test_behind_an_interlock_three_ways_each_clears_it(self):
        job, before, wrong = self.bonded("interlock")
        self.assertEqual(
            [mend.label for mend in wrong.mends],
            [
                "Open the bond in it",
                "Another set, made floating",
                "Gear that opens the neutral, in place of the interlock",
            ],
        )
        known = {(item.code, item.id) for item in before.findings if item.outcome == "must_fix"}
        for mend, decision in zip(wrong.mends, ("floating", "floating", "bond_in_source"), strict=True):
            with self.subTest(mend.label):
                after = self.after(job, mend)
                self.assertEqual(after.bonds["generator"].decision, decision)
                new = {(item.code, item.id) for item in after.findings if item.outcome == "must_fix"} - known
                self.assertEqual((new, finding(after, "bond", "generator")), (set(), None))

    def test_what_each_costs_and_changes_is_told(self):
        job, before, wrong = self.bonded("interlock")
        opened, another, gear = (mend_effect(before, self.after(job, mend), mend.operations) for mend in wrong.mends)
        self.assertEqual(opened.parts, [])
        self.assertEqual([part.words for part in another.parts], ["Another set: Portable generator, made floating"])
        self.assertIn("Transfer switch", [part.words for part in gear.parts])
        self.assertTrue(any("Take Interlock" in change or "interlock" in change.lower() for change in gear.changes))
        self.assertEqual([part.price for part in gear.parts], [None] * len(gear.parts))

    def test_marked_anew_where_its_bond_is_opened(self):
        job, _, wrong = self.bonded("interlock")
        after = self.after(job, wrong.mends[0])
        source = next(item for item in after.site.document.sources if item.kind == "generator")
        self.assertEqual(source.marking, "floating_neutral")

    def test_behind_gear_that_leaves_the_neutral_the_gear_is_exchanged(self):
        for portable in (True, False):
            with self.subTest(portable=portable):
                job, _, wrong = self.bonded("transfer_gear", portable=portable)
                self.assertEqual(wrong.mends[-1].label, "Gear that opens the neutral")
                after = self.after(job, wrong.mends[-1])
                self.assertEqual(after.bonds["generator"].decision, "bond_in_source")
                self.assertIsNone(finding(after, "bond", "generator"))
                gear = after.site.document.transfers[0]
                self.assertEqual((gear.switches_neutral, gear.poles), (True, 3))

    def test_the_gear_of_a_service_keeps_its_bond_on_the_side_of_the_utility(self):
        _, _, job = taken(house().job, "transfer_gear", "service", **self.SET)
        next(item for item in job["bonds"] if item["enclosure_id"] == "generator")["made"] = True
        wrong = finding(check(parse_value(job)), "bond", "generator")
        after = self.after(job, wrong.mends[-1])
        decisions = {after.site.enclosures[key].name: bond.decision for key, bond in after.bonds.items()}
        self.assertEqual((decisions["Transfer switch"], decisions["Standby generator"]), ("bond", "bond_in_source"))
        self.assertIsNone(finding(after, "bond", "transfer-switch"))

    def test_a_floating_set_has_none(self):
        report, _, _ = taken(house().job, "interlock", "panel", **self.SET)
        self.assertIsNone(finding(report, "bond", "generator"))


if __name__ == "__main__":
    unittest.main()
