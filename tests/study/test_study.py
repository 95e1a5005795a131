"""The study against closed forms and the classic outcomes of the trade; conservation on any site."""

import math
import unittest

from hypothesis import HealthCheck, assume, given, settings

from nelvor.demo import demo_job
from nelvor.errors import CannotCompute
from nelvor.model.parse import parse_value
from nelvor.report.check import check
from nelvor.study.branches import Circuit
from nelvor.study.build import phasors, shares
from nelvor.study.outcome import study, study_available
from nelvor.study.situation import Situation
from nelvor.study.solve import solve
from nelvor.study.trip import trip_of
from nelvor.topology.network import Node
from tests.study.sites import WITH_GENERATOR, studied
from tests.support.boxes import with_switch_box
from tests.support.jobs import JobBuilder, bakery, changed, thing


def site(**options):
    """A service and one panel 100 ft behind it on 8 AWG copper in plastic, 10 AWG ground, 12 A on L1."""
    builder = JobBuilder()
    builder.service()
    run = {"length_ft": 100.0, "method": "pvc40", "material": "copper", "insulation": "THWN-2", "placement": "indoors"}
    run |= {"hot_size": "8", "neutral_size": "8", "ground_size": "8"}
    builder.box("panel", "service", feeder_a=40.0, main_a=40.0, run=run, **options)
    builder.job["electrodes"] = []
    thing(builder.job, "runs", "to-service").update(
        hot_size="4/0", neutral_size="4/0", material="copper", method="pvc40"
    )
    load = {"category": "other", "amount": 1440.0, "unit": "VA", "volts": 120.0, "connection": "L1-N"}
    builder.add("loads", "lamp", name="Lamp", enclosure_id="panel", continuous=False, **load)
    return builder


def told(job, position="", **situation):
    return study(check(parse_value(job)), Situation(**situation), position)


def run(outcome, run_id):
    return next(item.amperes for item in outcome.runs if item.id == run_id)


class ClosedForms(unittest.TestCase):
    def circuit(self, *branches):
        circuit = Circuit()
        for number, (a, b, ohms, emf) in enumerate(branches):
            circuit.join(Node(a, ""), Node(b, ""), ohms, "x", str(number), "r", emf)
        return circuit

    def test_a_divider(self):
        # 120 V over 1 + 2 + 3 ohms: 20 A
        solved = solve(self.circuit(("s", "n", 1, 120), ("s", "m", 2, 0), ("m", "n", 3, 0)))
        self.assertAlmostEqual(abs(solved.currents[1]), 20.0)

    def test_two_paths_share_by_their_conductance(self):
        solved = solve(self.circuit(("s", "n", 0.5, 100), ("s", "n", 1, 0), ("s", "n", 3, 0)))
        self.assertAlmostEqual(abs(solved.currents[1]) / abs(solved.currents[2]), 3.0)

    def test_what_no_source_reaches_floats(self):
        solved = solve(self.circuit(("s", "n", 1, 120), ("s", "n", 5, 0), ("far", "off", 1, 0)))
        self.assertNotIn(solved.circuit.nodes[Node("far", "")], solved.volts)
        self.assertEqual(solved.currents[2], 0)

    def test_nothing_live_is_refused(self):
        with self.assertRaises(CannotCompute):
            solve(self.circuit(("a", "b", 1, 0)))

    def test_phasors_and_shares(self):
        self.assertAlmostEqual(abs(phasors("wye_208_120")["L1"] - phasors("wye_208_120")["L2"]), 120 * math.sqrt(3))
        self.assertAlmostEqual(abs(phasors("split_120_240")["L1"] - phasors("split_120_240")["L2"]), 240)
        for connection in ("L1-N", "even", "even on L1,L3", "three_phase", "even_line_to_line", "L1-L2"):
            self.assertAlmostEqual(sum(share for *_, share in shares(connection, "wye_208_120")), 1.0)


class AtTheTerminals(unittest.TestCase):
    """What the study gives at the service, next to no wire behind what was told of the supply."""

    def at_the_service(self, system="split_120_240", **supply):
        builder = JobBuilder(system=system)
        builder.service()
        thing(builder.job, "runs", "to-service").update(
            hot_size="600", neutral_size="600", material="copper", method="pvc40", length_ft=0.01, sets=4
        )
        builder.job["sources"][0].update(supply)
        told = study_available(check(parse_value(builder.job)))
        return next(item for item in told.boxes if item.id == "service"), told

    def near(self, found, expected):
        self.assertAlmostEqual(found / expected, 1.0, delta=0.05)

    def test_a_letter_tells_the_fault_of_all_lines(self):
        here, _ = self.at_the_service(fault_current_a=10_000)
        self.near(here.line_to_line, 10_000)
        self.near(here.line_to_neutral, 15_000)
        here, _ = self.at_the_service("wye_208_120", fault_current_a=10_000)
        self.near(here.three_phase, 10_000)
        self.near(here.line_to_line, 10_000 * math.sqrt(3) / 2)

    def test_the_plate_of_its_transformer_tells_all_that_it_lets_through(self):
        # 50 kVA / 240 V / 2 % = 10,417 A; 75 kVA / (208 V × 1.732) / 2 % = 10,409 A
        here, told = self.at_the_service(transformer_kva=50.0, impedance_percent=2.0)
        self.near(here.line_to_line, 10_417)
        self.near(here.line_to_neutral, 15_625)
        self.assertTrue(told.told)
        self.assertIn("all that its plate lets through", " ".join(told.assumed))
        here, _ = self.at_the_service("wye_208_120", transformer_kva=75.0, impedance_percent=2.0)
        self.near(here.three_phase, 10_409)


class Classic(unittest.TestCase):
    def test_all_well_the_neutral_brings_it_back_and_metal_carries_none(self):
        outcome = told(site().job)
        amperes = run(outcome, "to-panel")
        self.assertAlmostEqual(amperes["L1"], amperes["neutral"], places=2)
        self.assertAlmostEqual(amperes["L1"], 12.0, delta=0.3)
        self.assertLess(amperes["ground"], 0.01)
        self.assertEqual(outcome.danger, "none")

    def test_a_second_bond_shares_it_between_neutral_and_metal(self):
        # neutral and ground alike, 8 copper: half and half but for the contacts
        outcome = told(site(bond=True).job)
        amperes = run(outcome, "to-panel")
        self.assertAlmostEqual(amperes["ground"], amperes["L1"] / 2, delta=0.2)
        self.assertAlmostEqual(amperes["neutral"] + amperes["ground"], amperes["L1"], places=1)
        self.assertEqual(outcome.danger, "wrong")
        self.assertIn("over the metal of", outcome.sentences[0])

    def test_a_bond_can_be_played_with(self):
        outcome = told(site().job, bonds={"panel-bond": True})
        self.assertGreater(run(outcome, "to-panel")["ground"], 5)
        self.assertLess(run(told(site(bond=True).job, bonds={"panel-bond": False}), "to-panel")["ground"], 0.01)

    def test_with_a_second_bond_an_open_neutral_is_carried_by_metal(self):
        outcome = told(site(bond=True).job, kind="neutral_open", place="to-panel")
        amperes = run(outcome, "to-panel")
        self.assertAlmostEqual(amperes["ground"], amperes["L1"], places=1)
        self.assertEqual(outcome.danger, "lethal")

    def test_an_open_neutral_divides_240_volts_by_the_loads(self):
        # lamp 10 ohm on L1, heater 40 ohm on L2: 240 V x 10/50 = 48 V and 192 V
        builder = site()
        load = {"category": "other", "amount": 360.0, "unit": "VA", "volts": 120.0, "connection": "L2-N"}
        builder.add("loads", "radio", name="Radio", enclosure_id="panel", continuous=False, **load)
        outcome = told(builder.job, kind="neutral_open", place="to-panel", use="stated")
        volts = {item.id: item.volts for item in outcome.loads}
        self.assertAlmostEqual(volts["lamp"], 48, delta=1)
        self.assertAlmostEqual(volts["radio"], 192, delta=2)
        self.assertIn("Radio gets 191", outcome.sentences[0])

    def test_a_fault_opens_the_breaker_by_the_impedance_of_its_loop(self):
        # 8 copper in plastic 0.78 ohm/kft and 0.052 reactance, out and back 200 ft: about 120 / 0.17 = 700 A
        outcome = told(site().job, kind="ground_fault", place="panel")
        loop = 2 * 0.1 * complex(0.78, 0.052) + 0.01
        self.assertAlmostEqual(outcome.fault_a, 120 / abs(loop), delta=0.1 * 120 / abs(loop))
        opens = {item.id: item.opens for item in outcome.devices}
        self.assertEqual(opens["service-feeder-panel" if "service-feeder-panel" in opens else "panel-main"], "at_once")

    def test_without_a_grounding_conductor_nothing_opens_and_metal_stays_live(self):
        builder = site()
        builder.job["conductors"] = [
            item for item in builder.job["conductors"] if (item["run_id"], item["role"]) != ("to-panel", "ground")
        ]
        builder.add("electrodes", "rod", kind="rod", connects_to="panel-g", resistance_ohm=25.0)
        outcome = told(builder.job, kind="ground_fault", place="panel")
        # 119 V (the lamp is on) over 25 + 5 ohm: 4 A, and 99 V of them on the rod
        self.assertAlmostEqual(outcome.fault_a, 4.0, delta=0.05)
        self.assertAlmostEqual(next(item.metal for item in outcome.boxes if item.id == "panel"), 99, delta=1)
        self.assertEqual(outcome.danger, "lethal")
        self.assertIn("no breaker opens", outcome.sentences[0])

    def test_without_rod_and_conductor_its_metal_floats_and_is_told(self):
        builder = site()
        builder.job["conductors"] = [
            item for item in builder.job["conductors"] if (item["run_id"], item["role"]) != ("to-panel", "ground")
        ]
        self.assertEqual(told(builder.job).floating, ["panel"])

    def test_on_the_set_a_box_of_switches_carries_its_circuits_alone(self):
        """Fridge, 1 200 VA on L1, is 10 A there and back; the well, 3 600 VA at 240 V, is 15 A on both lines."""
        for moved, amperes in (
            ({"fridge": "c"}, (10.0, 0.0, 10.0)),
            ({"well": "ab", "fridge": "c"}, (25.0, 15.0, 10.0)),
        ):
            job = with_switch_box(**moved).job
            on_set = run(told(job, "Utility away, Box on generator", use="stated"), "from-set")
            for role, wanted in zip(("L1", "L2", "neutral"), amperes, strict=True):
                self.assertAlmostEqual(on_set[role], wanted, delta=0.06 * max(wanted, 1.0))
            by_day = run(told(job, "Utility on", use="stated"), "from-set")
            self.assertLess(max(by_day.values()), 0.01)

    def test_a_bond_left_in_a_generator_shows_on_metal_in_its_position_alone(self):
        position = "Utility away, t on its standby side"
        wrong = changed(WITH_GENERATOR, lambda job: thing(job, "bonds", "g-bond").update(made=True))
        for job, stray in ((WITH_GENERATOR, False), (wrong, True)):
            with self.subTest(stray=stray):
                amperes = run(told(job, position), "g-to-t")
                self.assertEqual(amperes.get("ground", 0.0) > 1, stray)


class Available(unittest.TestCase):
    def at(self, builder, box):
        return next(item for item in study_available(check(parse_value(builder.job))).boxes if item.id == box)

    def test_by_the_impedance_of_the_way_there(self):
        # 10,000 A at 240 V: 0.024 ohm; 4/0 in plastic 5 ft; 8 copper 100 ft out and back
        builder = site()
        thing(builder.job, "sources", "utility")["fault_current_a"] = 10_000.0
        source = complex(0.2, 0.98) * 0.024  # between lines; a half of it leaks a third of that
        service = 2 * 0.005 * complex(0.062, 0.041)
        feeder = 2 * 0.1 * complex(0.78, 0.052)
        self.assertAlmostEqual(self.at(builder, "meter").line_to_line, 10_000, delta=150)
        self.assertAlmostEqual(self.at(builder, "service").line_to_line, 240 / abs(source + service), delta=150)
        here = self.at(builder, "panel")
        self.assertAlmostEqual(here.line_to_line, 240 / abs(source + service + feeder), delta=15)
        self.assertAlmostEqual(here.line_to_neutral, 120 / abs(source / 3 + service + feeder), delta=15)
        self.assertIsNone(here.three_phase)
        self.assertTrue(study_available(check(parse_value(builder.job))).told)
        self.assertFalse(study_available(check(parse_value(site().job))).told)

    def test_it_agrees_with_a_fault_put_there(self):
        builder = site()
        report = check(parse_value(builder.job))
        for kind, name in (("short_circuit", "line_to_line"), ("line_to_neutral", "line_to_neutral")):
            put = study(report, Situation(kind=kind, place="panel", fault_ohms=0.0001, loads_off=frozenset({"lamp"})))
            self.assertAlmostEqual(put.fault_a, getattr(self.at(builder, "panel"), name), delta=2)

    def test_what_limits_itself_has_to_tell(self):
        with self.assertRaisesRegex(CannotCompute, "gives into a fault"):
            study_available(check(demo_job("cabin")))


class Trips(unittest.TestCase):
    def test_generic_bands(self):
        report = check(demo_job())
        device = next(item for item in report.site.devices.values() if item.rating_a == 200)
        for amperes, opens, seconds in (
            (200, "stays", None),
            (260, "may_stay", None),
            (280, "opens", 7200),
            (400, "opens", 600),
            (2000, "at_once", 0.05),
        ):
            with self.subTest(amperes=amperes):
                trip = trip_of(report.rules, device, amperes)
                self.assertEqual((trip.opens, trip.within_s), (opens, seconds))
        self.assertEqual(trip_of(report.rules, device.model_copy(update={"rating_a": None}), 5).opens, "unknown")
        self.assertEqual(trip_of(report.rules, device.model_copy(update={"kind": "switch"}), 9000).opens, "stays")


class Refused(unittest.TestCase):
    def test_what_is_not_known_is_named(self):
        job = changed(site().job, lambda job: thing(job, "runs", "to-panel").update(length_ft=None))
        with self.assertRaisesRegex(CannotCompute, "length of the run"):
            told(job)
        with self.assertRaisesRegex(CannotCompute, "not an enclosure"):
            told(site().job, kind="ground_fault", place="nowhere")
        with self.assertRaisesRegex(CannotCompute, "no run"):
            told(site().job, kind="neutral_open", place="panel")
        with self.assertRaisesRegex(CannotCompute, "no position"):
            told(site().job, "on the moon")

    def test_an_inverter_limits_what_it_gives_into_a_fault(self):
        report = check(demo_job("cabin"))
        with self.assertRaisesRegex(CannotCompute, "gives into a fault"):
            study(report, Situation(kind="ground_fault", place="wash-panel"))
        self.assertEqual(study(report, Situation()).danger, "wrong")

    def test_a_transformer_tells_its_impedance(self):
        job = changed(bakery(), lambda job: thing(job, "transformers", "dry").update(impedance_percent=None))
        with self.assertRaisesRegex(CannotCompute, "impedance of a transformer"):
            told(job)


class Transformers(unittest.TestCase):
    """45 kVA, 4.5 %, 208 V delta to 480Y/277 V."""

    def test_currents_go_over_by_the_turns(self):
        outcome = told(bakery())
        primary, secondary = run(outcome, "to-xfmr"), run(outcome, "to-mixer")
        self.assertAlmostEqual(primary["L1"] * 208 / 480, secondary["L1"], delta=0.05)
        self.assertLess(primary.get("ground", 0), 0.01)

    def test_the_fault_at_its_terminals_by_rating_and_impedance(self):
        # 45000 / (480 x 1.732) / 0.045 = 1203 A behind a supply without impedance; the supply here adds a little
        job = changed(bakery(), lambda job: thing(job, "sources", "utility").update(fault_current_a=200_000.0))
        here = next(item for item in study_available(check(parse_value(job))).boxes if item.id == "mixer")
        self.assertLess(here.three_phase, 1203)
        self.assertGreater(here.three_phase, 900)

    def test_a_split_service_gives_more_from_line_to_neutral_than_between_lines(self):
        builder = site()
        thing(builder.job, "sources", "utility")["fault_current_a"] = 10_000.0
        meter = study_available(check(parse_value(builder.job))).boxes[0]
        self.assertAlmostEqual(meter.line_to_neutral / meter.line_to_line, 1.5, delta=0.05)


class Laws(unittest.TestCase):
    @settings(deadline=None, max_examples=60, suppress_health_check=list(HealthCheck), derandomize=True)
    @given(studied())
    def test_current_and_power_are_conserved(self, job):
        report = check(parse_value(job))
        for situation in (
            Situation(),
            Situation(kind="ground_fault", place="p0"),
            Situation(kind="neutral_open", place="to-p0"),
        ):
            try:
                outcome = study(report, situation)
            except CannotCompute:
                assume(False)
            self.assertLess(outcome.proof.residual_a, 1e-4)
            self.assertLess(outcome.proof.imbalance, 1e-6)
            for item in outcome.runs:
                if item.id == "to-service":
                    continue
                self.assertLessEqual(item.amperes.get("ground", 0), sum(item.amperes.values()))


if __name__ == "__main__":
    unittest.main()
