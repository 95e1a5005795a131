"""Every current of the study against an independent simulator, on the samples and on sites drawn at random."""

import itertools
import unittest

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from nelvor.demo import demo_job
from nelvor.errors import CannotCompute
from nelvor.model.parse import parse_value
from nelvor.report.check import check
from nelvor.study.build import Builder
from nelvor.study.netlist import netlist
from nelvor.study.situation import Situation
from nelvor.study.solve import solve
from nelvor.topology.scenario import scenarios
from tests.study.sites import WITH_GENERATOR, studied
from tests.study.witness import simulated

SHARE, LEAST_A = 1e-3, 1e-3


class Witness(unittest.TestCase):
    """Currents agree to one part in a thousand, or a milliampere."""

    def agrees(self, report, scenario, situation):
        circuit = Builder(report.site, report.rules, report.runs, report.levels, scenario, situation).built()
        solved, seen = solve(circuit), simulated(netlist(circuit))
        compared = 0
        for number, current in enumerate(solved.currents):
            other = seen.get(f"i(vm{number})")
            if other is not None:
                compared += 1
                allowed = max(LEAST_A, SHARE * abs(current))
                self.assertLess(abs(current - other), allowed, (situation, circuit.branches[number]))
        self.assertGreater(compared, 5)

    def situations(self, report):
        yield Situation()
        yield Situation(use="stated")
        for place in report.site.enclosures:
            yield Situation(kind="ground_fault", place=place)
            yield Situation(kind="ground_fault", place=place, leg="L2", fault_ohms=10.0)
            yield Situation(kind="short_circuit", place=place)
        for run in report.site.drawn_runs:
            yield Situation(kind="neutral_open", place=run.id)
            yield Situation(kind="ground_open", place=run.id)

    def test_the_samples_and_a_site_with_a_generator(self):
        done = 0
        for report in (check(demo_job("orchard")), check(demo_job("bakery")), check(parse_value(WITH_GENERATOR))):
            for scenario in itertools.islice(scenarios(report.site, "proposed"), 4):
                for situation in self.situations(report):
                    with self.subTest(situation=situation):
                        try:
                            self.agrees(report, scenario, situation)
                        except CannotCompute:
                            continue  # the place is not live in this position
                        done += 1
        self.assertGreater(done, 60)

    def test_off_the_grid(self):
        report = check(demo_job("cabin"))
        for situation in (Situation(), Situation(kind="neutral_open", place="to-cabin")):
            self.agrees(report, next(scenarios(report.site, "proposed")), situation)

    @settings(deadline=None, max_examples=60, suppress_health_check=list(HealthCheck), derandomize=True)
    @given(studied(), st.integers(0, 30))
    def test_sites_drawn_at_random(self, job, number):
        report = check(parse_value(job))
        all_of = list(self.situations(report))
        situation = all_of[number % len(all_of)]
        for scenario in scenarios(report.site, "proposed"):
            try:
                self.agrees(report, scenario, situation)
            except CannotCompute:
                continue
            break


if __name__ == "__main__":
    unittest.main()
