"""Far ends: what is told of another length or size is what the whole circuit gives with it."""

import re
import unittest

from nelvor.model.parse import parse_value
from nelvor.report.check import check
from nelvor.study.outcome import study_available
from tests.study.test_study import site, told
from tests.support.jobs import changed, thing


def long_site(feet=400.0, **run):
    job = site().job
    thing(job, "runs", "to-panel").update(length_ft=feet, **run)
    return job


def far_end(job, box="panel"):
    found = study_available(check(parse_value(job))).far_ends
    return next((item for item in found if item.id == box), None)


class FarEnds(unittest.TestCase):
    def with_run(self, job, **fields):
        return far_end(changed(job, lambda made: thing(made, "runs", "to-panel").update(fields)))

    def test_a_short_one_is_not_told_of(self):
        self.assertIsNone(far_end(long_site(10.0)))

    def test_what_flows_is_what_the_study_of_the_fault_gives_with_all_loads_off(self):
        job = long_site()
        found = far_end(job)
        outcome = told(job, kind="ground_fault", place="panel", fault_ohms=0.0001, loads_off=frozenset({"lamp"}))
        self.assertAlmostEqual(found.amperes, outcome.fault_a, delta=0.02 * outcome.fault_a)
        self.assertEqual((found.at_once_from_a, found.device.split(" A")[0]), (400.0, "40"))

    def test_up_to_the_length_told_it_opens_at_once_and_not_beyond(self):
        for run in ({}, {"method": "emt"}, {"ground_size": "4", "method": "emt"}):
            job = long_site(600.0, **run)
            found = far_end(job)
            self.assertIsNone(self.with_run(job, length_ft=found.at_once_up_to_ft))
            self.assertIsNotNone(self.with_run(job, length_ft=found.at_once_up_to_ft + 1))

    def test_with_the_sizes_told_it_opens_at_once_and_with_the_next_smaller_not(self):
        job = long_site(170.0, ground_size="10")  # (0.78 + 1.2) ohm per 1000 ft: up to 148 ft; with 8 AWG up to 189 ft
        found = far_end(job)
        self.assertRegex(found.sizes_that_do, "grounding conductor of 8 AWG$")
        self.assertIsNone(self.with_run(job, ground_size="8"))
        job = long_site(400.0)
        size = re.fullmatch("lines and grounding conductor of (.+) AWG", far_end(job).sizes_that_do)[1]
        sizes = ("8", "6", "4", "3", "2", "1", "1/0")
        smaller = sizes[sizes.index(size) - 1]
        self.assertIsNone(self.with_run(job, hot_size=size, ground_size=size))
        self.assertIsNotNone(self.with_run(job, hot_size=smaller, ground_size=smaller))

    def test_where_the_supply_itself_is_too_weak_no_length_does(self):
        job = changed(long_site(), lambda made: made["sources"][0].update(fault_current_a=200))
        found = far_end(job)
        self.assertIsNone(found.at_once_up_to_ft)
        self.assertEqual(found.sizes_that_do, "")


if __name__ == "__main__":
    unittest.main()
