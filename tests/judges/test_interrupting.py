"""What devices can break against what is available where they stand: at the service, and behind wires."""

import math
import unittest

from nelvor.study.outcome import study_available
from tests.support.jobs import JobBuilder, thing, through_transformer


class InterruptingRatings(unittest.TestCase):
    """22 kA at the service: a breaker there must break it; one behind a wire need only break what is left."""

    def setUp(self):
        self.builder = JobBuilder()
        self.builder.service()
        self.builder.box("panel", "service")
        self.builder.load("panel", 5_000.0)
        self.source = self.builder.job["sources"][0]
        self.source["fault_current_a"] = 22_000

    def devices_in(self, box):
        return [item for item in self.builder.job["devices"] if item["enclosure_id"] == box]

    def outcomes(self, ratings):
        for box, rating in ratings.items():
            for device in self.devices_in(box):
                device["interrupting_a"] = rating
        report = self.builder.report()
        said = [
            item for answer in report.of("panel").values() for item in answer.verdicts if item.code == "interrupting"
        ]
        self.texts = [item.text for item in said]
        return [item.outcome for item in said]

    def test_at_the_service_all_of_it_must_be_broken(self):
        self.assertIn("must_fix", self.outcomes({"service": 21_999}))
        self.assertEqual(set(self.outcomes({"service": 22_000})), {"holds"})

    def test_behind_the_service_what_breaks_all_of_it_holds(self):
        self.assertEqual(set(self.outcomes({"service": 22_000, "panel": 22_000})), {"holds"})

    def test_behind_the_service_less_is_not_known_to_be_enough(self):
        self.assertEqual(set(self.outcomes({"service": 22_000, "panel": 10_000})), {"holds", "cannot_tell"})
        self.texts = [text for text in self.texts if "as far as" in text]
        self.assertIn("10000 A, and 22000 A are available here as far as the wires are read", self.texts[0])

    def by_plate(self, kva, percent, system="split_120_240"):
        self.source.update(fault_current_a=None, transformer_kva=kva, impedance_percent=percent, system=system)

    def test_the_plate_of_the_utilitys_transformer_tells_the_most(self):
        # 100 kVA / 240 V / (0.9 × 2.5 %) = 18,518.5 A between lines, half as much again to neutral: 27,777.8 A
        self.by_plate(100.0, 2.5)
        self.assertEqual(set(self.outcomes({"service": 27_778})), {"holds"})
        self.assertEqual(set(self.outcomes({"service": 27_777})), {"cannot_tell"})
        self.assertIn("27778 A are available here at most by the plate", self.texts[0])
        self.assertIn("Ask the utility", self.texts[0])

    def test_three_phases_by_the_plate(self):
        # 75 kVA / (208 V × 1.732) / (0.9 × 2 %) = 11,565.6 A
        self.builder = JobBuilder(system="wye_208_120")
        self.builder.service()
        self.source = self.builder.job["sources"][0]
        self.by_plate(75.0, 2.0, "wye_208_120")
        figure = self.builder.report().panels["service"].figures["fault_current"]
        self.assertAlmostEqual(float(figure.number), 75_000 / (208 * 1.7320508) / 0.018, delta=0.1)

    def test_half_a_plate_tells_nothing(self):
        self.by_plate(100.0, None)
        self.assertEqual(self.outcomes({"service": 10_000}), [])

    def test_what_the_utility_tells_goes_before_the_plate(self):
        self.by_plate(100.0, 2.5)
        self.source["fault_current_a"] = 12_000
        self.assertEqual(set(self.outcomes({"service": 12_000})), {"holds"})

    def in_series(self, marked, upper=22_000, motor_va=None, lower=10_000):
        """Return how the breaker in the panel ends that is marked for a series combination with the panel's main."""
        self.setUp()
        self.read()
        self.source["fault_current_a"] = 21_000
        branch = {"enclosure_id": "panel", "role": "branch", "rating_a": 20.0, "poles": 2, "interrupting_a": lower}
        self.builder.add("devices", "branch", name="Pump", series_interrupting_a=marked, **branch)
        thing(self.builder.job, "devices", "panel-main")["interrupting_a"] = upper
        for run in ("to-service", "to-panel"):
            thing(self.builder.job, "runs", run)["length_ft"] = 0.1
        if motor_va:
            self.builder.load("panel", motor_va, category="motor", volts=240.0)
        report = self.builder.report()
        said = [item for item in (*report.findings, *report.held) if (item.code, item.id) == ("interrupting", "branch")]
        self.assertEqual(len(said), 1)
        return said[0].outcome, said[0].section

    def test_a_series_combination_that_is_marked(self):
        self.assertEqual(self.in_series(22_000), ("holds", "240.86(B)"))
        self.assertEqual(self.in_series(20_000), ("must_fix", "240.86(B)"))
        self.assertEqual(self.in_series(22_000, upper=18_000)[0], "must_fix")
        self.assertEqual(self.in_series(22_000, upper=None), ("cannot_tell", "240.86(B)"))
        self.assertEqual(self.in_series(None)[0], "must_fix")

    def test_motors_rule_a_series_combination_out(self):
        # 1 % of 10,000 A: 100 A, or 24,000 VA at 240 V
        self.assertEqual(self.in_series(22_000, motor_va=24_000.0)[0], "holds")
        self.assertEqual(self.in_series(22_000, motor_va=24_001.0), ("must_fix", "240.86(C)"))

    def test_motors_of_panels_beneath_lie_between_too_and_its_own_do_not(self):
        for fed_by, box, expected in ((None, "beyond", "must_fix"), ("branch", "panel", "holds")):
            self.in_series(22_000)
            self.builder.box("beyond", "panel")
            self.builder.load(box, 24_001.0, category="motor", volts=240.0, device_id=fed_by)
            report = self.builder.report()
            said = [
                item for item in (*report.findings, *report.held) if (item.code, item.id) == ("interrupting", "branch")
            ]
            self.assertEqual([item.outcome for item in said], [expected], box)

    def test_motors_come_on_top_of_what_the_utility_gives_at_most(self):
        self.builder.load("panel", 12_000.0, category="motor", volts=240.0)  # 50 A, four times that
        self.assertEqual(set(self.outcomes({"service": 22_200})), {"holds"})
        self.assertIn("cannot_tell", self.outcomes({"service": 22_199}))
        share = self.builder.report().panels["service"].figures["motors_share"]
        self.assertEqual(share.text, "200")

    def test_the_study_tells_the_motors_share_beside_the_fault_current(self):
        self.builder.load("panel", 12_000.0, category="motor", volts=240.0)
        self.read()
        told = {box.id: box.motors_at_most for box in study_available(self.builder.report()).boxes}
        self.assertEqual(told, {"meter": 200.0, "service": 200.0, "panel": 200.0})

    def read(self, size="3/0", length_ft=100.0, method="pvc40"):
        """The wire to the panel as it is read; that of the service takes next to nothing away."""
        for run in ("to-service", "to-panel"):
            wire = {"hot_size": size, "method": method, "material": "copper", "insulation": "THWN-2"}
            thing(self.builder.job, "runs", run).update(**wire, length_ft=length_ft if run == "to-panel" else 0.1)

    def bounds(self):
        """By hand for 100.1 ft of 3/0 copper in plastic: R 0.077 and X 0.042 ohms per 1000 ft at 75 °C, 240 V, two wires."""
        ohms = [value * 0.1001 for value in (0.077, 0.042)]
        cold = 2 * math.hypot(ohms[0] * 0.8385, ohms[1])
        most = 1 / math.hypot(1 / 22_000, cold / 240)
        least = 1 / (1 / 22_000 + 2 * sum(ohms) / 240)
        return least, most

    def outcome_at_panel(self, rating):
        self.outcomes({"service": 22_000, "panel": rating})
        told = [item for item in self.builder.report().of("panel")["panel"].verdicts if item.code == "interrupting"]
        return {item.outcome for item in told}

    def test_what_the_wire_leaves_on_both_sides_of_its_bounds(self):
        self.read()
        least, most = self.bounds()
        self.assertLess(6_900, least)
        self.assertLess(most, 14_000)
        self.assertEqual(self.outcome_at_panel(math.ceil(most)), {"holds"})
        self.assertEqual(self.outcome_at_panel(math.floor(most)), {"cannot_tell"})
        self.assertEqual(self.outcome_at_panel(math.ceil(least)), {"cannot_tell"})
        self.assertEqual(self.outcome_at_panel(math.floor(least)), {"must_fix"})

    def test_the_bounds_hold_the_study_between_them(self):
        self.read()
        least, most = self.bounds()
        study = study_available(self.builder.report())
        here = next(box.line_to_line for box in study.boxes if box.id == "panel")
        self.assertLess(least, here)
        self.assertLess(here, most)

    def test_a_longer_wire_never_leaves_more(self):
        found = []
        for length in (10.0, 50.0, 200.0):
            self.read(length_ft=length)
            found.append(self.builder.report().panels["panel"].figures["fault_current"].number)
        self.assertEqual(found, sorted(found, reverse=True))

    def test_three_phase_by_one_conductor(self):
        self.builder = JobBuilder(system="wye_208_120")
        self.builder.service()
        self.builder.box("panel", "service")
        self.builder.job["sources"][0]["fault_current_a"] = 22_000
        self.read()
        cold = math.hypot(0.077 * 0.8385, 0.042) * 0.1001
        found = float(self.builder.report().panels["panel"].figures["fault_current"].number)
        self.assertAlmostEqual(found, 1 / math.hypot(1 / 22_000, cold / 120), places=3)

    def test_a_marking_of_the_panel_serves_all_but_its_main(self):
        thing(self.builder.job, "enclosures", "service")["interrupting_a"] = 25_000
        self.assertEqual(sorted(set(self.outcomes({"service": 10_000}))), ["holds", "must_fix"])

    def test_what_the_utility_gives_is_no_bound_behind_a_transformer(self):
        self.builder = through_transformer()
        self.builder.job["sources"][0]["fault_current_a"] = 22_000
        behind = {item["enclosure_id"] for item in self.builder.job["devices"]} - {"service"}
        self.assertTrue(behind)
        self.assertEqual(
            self.outcomes({"service": 22_000, **dict.fromkeys(behind, 10_000)}),
            ["holds"] * len(self.devices_in("service")),
        )

    def test_the_main_at_the_service_is_asked_for_what_it_can_break(self):
        self.assertEqual(self.outcomes({}), ["cannot_tell"])
        self.assertIn("22000 A are available here", self.texts[0])

    def test_nothing_is_said_where_the_utility_has_not_told(self):
        self.source["fault_current_a"] = None
        self.assertEqual(self.outcomes({"service": 10_000, "panel": 10_000}), [])
