"""What a mend would do: the change in plain words, figures that move, findings that come and go."""

import unittest

from nelvor.model.changes.operations import apply
from nelvor.model.parse import parse_value
from nelvor.report.check import check
from nelvor.report.mend_effect import mend_effect
from tests.support.jobs import JobBuilder, finding, orchard


def effect_of(job, code, thing_id, which=0):
    before = check(parse_value(job))
    mend = finding(before, code, thing_id).mends[which]
    operations = list(mend.operations)
    return mend_effect(before, check(parse_value(apply(job, operations))), operations)


class Effects(unittest.TestCase):
    def test_taking_a_bond_out_is_one_step_and_moves_no_figure(self):
        effect = effect_of(orchard(), "bond", "house-panel")
        self.assertEqual(len(effect.changes), 1)
        self.assertIn("strap", effect.changes[0])
        self.assertEqual(effect.figures, [])
        self.assertEqual([(item.change, item.outcome) for item in effect.findings], [("goes", "must_fix")])

    def test_a_larger_device_tells_the_sizes_that_follow(self):
        builder = JobBuilder()
        builder.service()
        builder.box("panel", "service", feeder_a=60.0, main_a=None, rating_a=225.0)
        for run in builder.job["runs"]:
            run["standing"] = "added"
        builder.load("panel", 24_000.0)
        effect = effect_of(builder.job, "device_load", "to-panel")
        self.assertEqual(effect.changes, ["service, device: replace 60 A by 100 A."])
        moved = {(item.name, item.figure): (item.before, item.after) for item in effect.figures}
        self.assertEqual(moved["service → panel", "device"], ("60 A", "100 A"))
        self.assertEqual(moved["service → panel", "ground"], ("10 AWG/kcmil", "8 AWG/kcmil"))
        self.assertIn("goes", {item.change for item in effect.findings})


if __name__ == "__main__":
    unittest.main()
