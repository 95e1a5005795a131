"""Every current of the study against an independent simulator, on the samples and on sites drawn at random."""

import itertools
import unittest

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from nelvor.demo import demo_job
from nelvor.errors import CannotCompute
from nelvor.model.parse import parse_value
from nelvor.report.check import check
from nelvor.study.branches import Branch, Circuit
from nelvor.study.build import Builder
from nelvor.study.diagnosis.causes import causes_of
from nelvor.study.diagnosis.observables import observables
from nelvor.study.diagnosis.responses import Responses, circuit_with_bonds
from nelvor.study.netlist import netlist
from nelvor.study.settle import settled
from nelvor.study.situation import Situation
from nelvor.study.solve import solve
from nelvor.topology.scenario import scenarios
from tests.study.sites import WITH_GENERATOR, studied
from tests.study.witness import simulated

SHARE, LEAST = 1e-3, 1e-3
"""A part in a thousand; a milliampere, a millivolt."""


class Witness(unittest.TestCase):
    """Currents and volts agree to one part in a thousand, or a milliampere and a millivolt."""

    def agrees(self, report, scenario, situation):
        self.circuit_agrees(
            Builder(report.site, report.rules, report.runs, report.levels, scenario, situation).built(), situation
        )

    def circuit_agrees(self, circuit, told):
        solved, seen = solve(circuit), simulated(netlist(circuit))
        currents = {f"i(vm{number})": current for number, current in enumerate(solved.currents)}
        volts = {f"v(n{node})": value for node, value in solved.volts.items()}
        for ours in (currents, volts):
            both = ours.keys() & seen.keys()
            self.assertGreater(len(both), 5)
            for name in both:
                allowed = max(LEAST, SHARE * abs(ours[name]))
                self.assertLess(abs(ours[name] - seen[name]), allowed, (told, name))

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
        demos = [check(demo_job(name)) for name in ("orchard", "bakery", "annex", "orchard-sources")]
        for report in (*demos, check(parse_value(WITH_GENERATOR))):
            for scenario in itertools.islice(scenarios(report.site, "proposed"), 4):
                for situation in self.situations(report):
                    with self.subTest(situation=situation):
                        try:
                            self.agrees(report, scenario, situation)
                        except CannotCompute:
                            continue  # the place is not live in this position
                        done += 1
        self.assertGreater(done, 100)

    def test_off_the_grid(self):
        report = check(demo_job("cabin"))
        for situation in (Situation(), Situation(kind="neutral_open", place="to-cabin")):
            self.agrees(report, next(scenarios(report.site, "proposed")), situation)

    def test_loads_that_keep_their_power_once_they_have_settled(self):
        for name in ("orchard", "bakery"):
            report = check(demo_job(name))
            scenario = next(scenarios(report.site, "proposed"))
            builder = Builder(report.site, report.rules, report.runs, report.levels, scenario, Situation(use="stated"))
            self.circuit_agrees(settled(builder.built()).circuit, name)

    def test_what_a_cause_changes_is_what_its_circuit_shows(self):
        """The diagnosis works by small changes of one factorisation; the simulator is given the changed circuit whole."""
        report = check(demo_job("annex"))
        scenario = next(scenarios(report.site, "proposed"))
        circuit = circuit_with_bonds(report, scenario, Situation())
        responses = Responses(circuit, observables(report, circuit))
        causes = [cause for cause in causes_of(report, circuit) if responses.can_tell(cause) and cause.changes]
        self.assertGreater(len(causes), 10)
        for cause in causes:
            added = [Branch(change.a, change.b, 1 / change.admittance, *change.key) for change in cause.changes]
            whole = Circuit(circuit.nodes, [*circuit.branches, *added], circuit.assumed)
            seen = simulated(netlist(whole))
            for observable, expected in zip(responses.seen, responses.of(cause), strict=True):
                if observable.nodes is not None:
                    shown = [seen.get(f"v(n{node})", 0j) for node in observable.nodes]
                    found = shown[0] - shown[1]
                else:
                    found = sum(
                        seen.get(f"i(vm{number})", 0j)
                        for number, branch in enumerate(whole.branches)
                        if (branch.list, branch.id, branch.role) in observable.keys
                    )
                allowed = max(LEAST, SHARE * abs(found))
                self.assertLess(abs(abs(found) - abs(expected)), allowed, (cause.words, observable.words))

    @settings(deadline=None, max_examples=200, suppress_health_check=list(HealthCheck), derandomize=True)
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
