"""Arcs, loads that keep their power, electrodes played with and sources that shut themselves off, by hand and by law."""

import json
import math
import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from nelvor.model.parse import parse_value
from nelvor.study.arc import arc_ohms
from nelvor.study.branches import Circuit
from nelvor.study.impedances import rod_ohms
from nelvor.study.settle import settled
from nelvor.study.situation import situation_of
from nelvor.study.solve import Nodal, fault_currents, solve
from nelvor.topology.network import Node
from tests.study.sites import WITH_GENERATOR
from tests.study.test_study import site, told
from tests.support.command import run_on_job
from tests.support.jobs import changed, thing

A, B, C, N = (Node(name, "") for name in "abcn")


def loop(ohms: complex) -> Circuit:
    """120 V behind an impedance."""
    circuit = Circuit()
    circuit.join(A, N, ohms, "x", "source", "s", 120)
    return circuit


class Arcs(unittest.TestCase):
    def test_over_pure_resistance_the_arc_takes_its_volts_off(self):
        # (120 - 60) / 0.1 = 600 A, and 60 V / 600 A = 0.1 ohm
        self.assertAlmostEqual(arc_ohms(loop(0.1), A, N, 60), 0.1)

    def test_over_pure_reactance_the_volts_stand_square(self):
        # sqrt(120² - 60²) / 0.1 = 1039.2 A
        self.assertAlmostEqual(arc_ohms(loop(0.1j), A, N, 60), 60 / 1039.2304845)

    def test_one_that_asks_for_more_volts_than_there_are_goes_out(self):
        self.assertIsNone(arc_ohms(loop(0.1), A, N, 120))
        self.assertIsNone(arc_ohms(loop(0.1), A, Node("elsewhere", ""), 20))

    @settings(max_examples=60, deadline=None)
    @given(st.floats(0.001, 5), st.floats(0, 5), st.floats(10, 119))
    def test_the_solved_arc_keeps_its_volts_and_lets_less_through_than_a_bolted_fault(self, r, x, volts):
        ohms = arc_ohms(loop(complex(r, x)), A, N, volts)
        circuit = loop(complex(r, x))
        bolted = fault_currents(Nodal(circuit), [(circuit.nodes[A], circuit.nodes[N])])[0]
        circuit.join(A, N, complex(ohms), "faults", "fault", "fault")
        solved = solve(circuit)
        self.assertAlmostEqual(abs(solved.volts[circuit.nodes[A]] - solved.volts[circuit.nodes[N]]), volts, 4)
        self.assertLess(abs(solved.currents[1]), bolted)

    def test_in_a_panel_it_flows_below_the_bolted_current_or_goes_out(self):
        job = site().job
        fault = {"kind": "ground_fault", "place": "panel"}
        bolted, arcing = told(job, **fault), told(job, **fault, arc_volts=60.0)
        self.assertTrue(arcing.arc_holds)
        self.assertLess(arcing.fault_a, bolted.fault_a)
        self.assertIn("through an arc", arcing.sentences[0])
        out = told(job, **fault, arc_volts=140.0)
        self.assertFalse(out.arc_holds)
        self.assertIsNone(out.fault_a)
        self.assertIn("goes out", out.sentences[0])
        self.assertIsNone(bolted.arc_holds)


class LoadsThatKeepTheirPower(unittest.TestCase):
    def test_the_root_of_the_quadratic(self):
        # 120 V behind 0.5 ohm, 2400 W: V² - 120·V + 1200 = 0, V = 60 + sqrt(3600 - 1200) = 108.99
        circuit = loop(0.5)
        circuit.put_load(A, N, 2400.0, 120.0, "load")
        solved = settled(circuit)
        self.assertAlmostEqual(
            abs(solved.volts[circuit.nodes[A]] - solved.volts[circuit.nodes[N]]), 60 + math.sqrt(2400), 3
        )
        self.assertAlmostEqual(abs(solved.currents[1]) * (60 + math.sqrt(2400)), 2400.0, 2)

    def test_far_below_its_volts_a_load_is_an_impedance_again(self):
        # 60 V is all that arrives at most: it draws as 0.7² of its ohms would, 2.94 ohms
        circuit = loop(3.0)
        circuit.put_load(A, N, 2400.0, 120.0, "load")
        self.assertAlmostEqual(abs(settled(circuit).currents[1]), 120 / (3 + 6 * 0.49), 4)

    def test_in_a_job_it_draws_more_than_an_impedance_where_volts_are_few(self):
        job = site().job
        thing(job, "runs", "to-panel")["length_ft"] = 400.0
        plain, power = (told(job, use="stated", draw=draw) for draw in ("impedance", "power"))
        amperes = [next(run for run in item.runs if run.id == "to-panel").amperes["L1"] for item in (plain, power)]
        self.assertGreater(amperes[1], amperes[0])
        self.assertAlmostEqual(amperes[1] * power.loads[0].volts, 1440.0, delta=2.0)

    def test_while_a_fault_lasts_they_are_impedances(self):
        fault = {"kind": "ground_fault", "place": "panel"}
        one, other = (told(site().job, **fault, draw=draw) for draw in ("impedance", "power"))
        self.assertEqual(one.fault_a, other.fault_a)


class ElectrodesPlayedWith(unittest.TestCase):
    def test_a_rod_alone_trips_nothing_whatever_its_ohms_are_below_some(self):
        job = site().job
        job["electrodes"] = [{"id": "rod", "kind": "rod", "connects_to": "panel", "standing": "existing"}]
        job["conductors"] = [
            item for item in job["conductors"] if item["run_id"] != "to-panel" or item["role"] != "ground"
        ]
        fault = {"kind": "ground_fault", "place": "panel"}
        for ohms, most in ((25.0, 4.9), (5.0, 12.5)):
            outcome = told(job, **fault, electrode_ohms={"rod": ohms}, loads_off=frozenset({"lamp"}))
            # 120 V over the rod, the utility's 5 ohms and 0.1 ohm of line
            self.assertAlmostEqual(outcome.fault_a, 120 / (ohms + 5.1), delta=0.05)
            self.assertLess(outcome.fault_a, most)
            self.assertEqual(outcome.danger, "lethal")


class Soil(unittest.TestCase):
    def test_a_rod_by_dwight(self):
        # 100 ohm-m, 8 ft = 2.438 m, radius 7.9 mm: 100 / 15.32 × (ln(1234.7) - 1) = 39.9 ohm
        self.assertAlmostEqual(rod_ohms(100.0, 8.0), 39.9, delta=0.1)
        self.assertLess(rod_ohms(100.0, 10.0), rod_ohms(100.0, 8.0))

    def test_what_was_not_measured_goes_with_the_soil_and_what_was_does_not(self):
        job = site().job
        rod = {"id": "rod", "kind": "rod", "connects_to": "panel", "standing": "existing"}
        job["electrodes"] = [rod]
        job["conductors"] = [
            item for item in job["conductors"] if item["run_id"] != "to-panel" or item["role"] != "ground"
        ]
        fault = {"kind": "ground_fault", "place": "panel", "loads_off": frozenset({"lamp"})}
        # 500 ohm-m: 199.7 ohm and the utility's 5; 62.6 ohm-m are the 25 ohm that are taken of a rod
        for soil, ohms in ((500.0, 199.7), (62.6, 25.0), (None, 25.0)):
            self.assertAlmostEqual(told(job, **fault, soil_ohm_m=soil).fault_a, 120 / (ohms + 5.1), delta=0.05)
        rod["resistance_ohm"] = 25.0
        self.assertAlmostEqual(told(job, **fault, soil_ohm_m=500.0).fault_a, 120 / 30.1, delta=0.05)


class SourcesThatShutThemselvesOff(unittest.TestCase):
    AWAY = "Utility away, t on its standby side"

    def on_the_set(self, amperes, seconds, position=AWAY, place="p"):
        plate = {"fault_contribution_a": amperes, "fault_contribution_s": seconds}
        job = changed(WITH_GENERATOR, lambda job: thing(job, "sources", "g-set").update(plate))
        return told(job, position, kind="line_to_neutral", place=place, fault_ohms=0.001)

    def test_only_where_nothing_else_feeds_the_fault(self):
        self.assertEqual([item.within_s for item in self.on_the_set(400.0, 0.01).shuts_off], [0.01])
        self.assertEqual(self.on_the_set(400.0, None).shuts_off, [])
        self.assertEqual(self.on_the_set(400.0, 0.01, position="Utility on", place="q").shuts_off, [])

    def test_it_is_told_where_no_breaker_is_sure_to_be_faster(self):
        # Behind a 100 A breaker: 70 A open nothing, 400 A may take 360 s, 1300 A open at once, within 0.05 s
        for amperes, seconds, expected in (
            (70.0, 5.0, "shuts itself off"),
            (400.0, 0.01, "shuts itself off"),
            (400.0, 3000.0, "within 360 s"),
            (1500.0, 0.01, "shuts itself off"),
            (1500.0, 0.1, "at once"),
        ):
            self.assertIn(expected, " ".join(self.on_the_set(amperes, seconds).sentences), (amperes, seconds))


class Kept(unittest.TestCase):
    KEPT = {
        "id": "s1", "standing": "existing", "name": "Arc in the panel", "kind": "ground_fault", "box_id": "panel",
        "arc_volts": 60.0, "electrode_ohms": {"rod": 90.0}, "loads_off": ["lamp"], "draw": "power",
    }  # fmt: skip

    def test_it_is_called_back_whole(self):
        document = parse_value({**site().job, "scenarios": [self.KEPT]})
        found = situation_of(document.scenarios[0])
        self.assertEqual((found.place, found.arc_volts, found.draw), ("panel", 60.0, "power"))
        self.assertEqual((found.electrode_ohms, found.loads_off), ({"rod": 90.0}, frozenset({"lamp"})))

    def test_the_command_line_studies_it_by_its_name(self):
        job = {**site().job, "scenarios": [self.KEPT]}
        code, out, _ = run_on_job("study", job, "--kept", "Arc in the panel", "--json")
        self.assertEqual((code, json.loads(out)["situation"]["arc_volts"]), (0, 60.0))
        code, out, err = run_on_job("study", job, "--kept", "Nothing")
        self.assertEqual(code, 2)
        self.assertIn("Arc in the panel", out + err)
        fault = ("--scenario", "ground_fault", "--place", "panel")
        code, out, err = run_on_job("study", job, *fault, "--arc", "3")
        self.assertEqual(code, 2)
        self.assertIn("--arc", out + err)


if __name__ == "__main__":
    unittest.main()
