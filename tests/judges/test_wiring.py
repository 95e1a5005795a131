"""Types and methods of wiring, roofs, bends, flexible raceways, and what else a run asks for."""

import unittest

from tests.judges.test_runs import answer, feeder
from tests.support.jobs import finding, mended, report_of, thing


class Judged(unittest.TestCase):
    def verdict(self, run, code="run_wiring", **options):
        return finding(feeder(run, **options).report(), code, "to-panel")

    def must_fix(self, run, code="run_wiring", **options):
        builder = feeder(run, **options)
        wrong = finding(builder.report(), code, "to-panel")
        self.assertEqual(wrong.outcome, "must_fix")
        if wrong.mend:
            self.assertIsNone(finding(report_of(mended(builder.job, wrong)), code, "to-panel"))
        return wrong


class WhereTypesMayRun(Judged):
    def test_nm_cable_indoors_alone(self):
        self.assertEqual(answer(feeder({"insulation": "NM-B", "method": "cable"})).size("hots"), "2")
        self.must_fix({"insulation": "NM-B", "method": "cable", "placement": "outdoors"})

    def test_nm_stays_at_60_c_whatever_the_lugs(self):
        """12 kVA at 240 V behind 60 A: 6 AWG is 55 A at 60 C and 65 A at 75 C."""
        nm = answer(feeder({"insulation": "NM-B", "method": "cable"}, feeder_a=60.0, main_a=60.0))
        thwn = answer(feeder(None, feeder_a=60.0, main_a=60.0))
        self.assertEqual((nm.size("hots"), nm.figures["ampacity"].number), ("6", 55))
        self.assertEqual((thwn.size("hots"), thwn.figures["ampacity"].number), ("6", 65))

    def test_thhn_where_it_is_wet(self):
        self.must_fix({"insulation": "THHN", "placement": "outdoors"})
        self.assertIsNone(self.verdict({"insulation": "THHN"}))

    def test_uf_in_the_earth_and_in_the_sun(self):
        buried = {"insulation": "UF-B", "method": "earth", "placement": "underground", "burial_location": "general"}
        self.assertIsNone(self.verdict({**buried, "cover_in": 24.0}))
        self.assertEqual(answer(feeder({**buried, "cover_in": 24.0})).figures["ampacity"].number, 95)
        sun = {"insulation": "UF-B", "method": "cable", "placement": "outdoors"}
        self.must_fix({**sun, "jacket_marked_sunlight": False})
        self.assertIsNone(self.verdict({**sun, "jacket_marked_sunlight": True}))

    def test_flexible_metal_conduit_where_it_is_wet(self):
        self.must_fix({"method": "fmc", "placement": "outdoors"})

    def test_small_se_cable_in_insulation_goes_by_60_c(self):
        cable = {"insulation": "SER", "method": "cable", "hot_size": "10"}
        options = {"feeder_a": 30.0, "main_a": 30.0, "load_va": 6_000.0}
        loose = answer(feeder({**cable, "in_thermal_insulation": False}, **options))
        packed = answer(feeder({**cable, "in_thermal_insulation": True}, **options))
        self.assertEqual((loose.figures["ampacity"].number, packed.figures["ampacity"].number), (35, 30))
        self.assertEqual(self.verdict(cable, **options).outcome, "cannot_tell")

    def test_se_cable_of_8_awg_does_not(self):
        cable = {"insulation": "SER", "method": "cable", "hot_size": "8", "in_thermal_insulation": True}
        found = answer(feeder(cable, feeder_a=50.0, main_a=50.0, load_va=9_000.0))
        self.assertEqual(found.figures["ampacity"].number, 50)


class Roofs(unittest.TestCase):
    def ampacity(self, **run):
        found = answer(feeder({"placement": "rooftop", "method": "emt", "hot_size": "3", **run}))
        return found.figures["ampacity"].number

    def test_close_to_the_roof_33_degrees_are_added(self):
        """30 + 33 = 63 C: 115 A x 0.65 = 74.75 A; from 7/8 in on nothing is added."""
        self.assertEqual(self.ampacity(roof_clearance_in=0.5), 115 * 65 / 100)
        self.assertEqual(self.ampacity(roof_clearance_in=0.875), 100)

    def test_xhhw_2_is_exempt(self):
        self.assertEqual(self.ampacity(roof_clearance_in=0.5, insulation="XHHW-2"), 100)

    def test_an_unknown_height_is_asked_for(self):
        found = finding(feeder({"placement": "rooftop"}).report(), "run_hots", "to-panel")
        self.assertEqual((found.outcome, found.field), ("cannot_tell", "roof_clearance_in"))


class AlongTheRun(Judged):
    def names(self, run, **options):
        return [item.name for item in answer(feeder(run, **options)).to_fit]

    def text(self, name, run):
        return next(item.text for item in answer(feeder(run)).to_fit if item.name == name)

    def test_bends_up_to_a_full_turn(self):
        self.assertIsNone(self.verdict({"bends_deg": 360.0}, "bends"))
        self.assertEqual(self.verdict({"bends_deg": 361.0}, "bends").outcome, "must_fix")

    def test_thin_plastic_where_it_can_be_hit(self):
        self.must_fix({"method": "pvc40", "exposed_to_damage": True}, "damage")
        self.assertIsNone(self.verdict({"method": "pvc80", "exposed_to_damage": True}, "damage"))

    def test_a_flexible_raceway_grounds_short_and_small_runs_alone(self):
        small = {"feeder_a": 20.0, "main_a": 20.0, "load_va": 3_000.0}
        run = {"method": "fmc", "ground_by_raceway": True, "length_ft": 6.0}
        self.assertIsNone(self.verdict(run, "flexible_ground", ground=False, **small))
        self.must_fix({**run, "length_ft": 6.1}, "flexible_ground", ground=False, **small)
        self.must_fix(run, "flexible_ground", ground=False, feeder_a=25.0, main_a=25.0, load_va=3_000.0)

    def test_liquid_tight_metal_grounds_to_20_or_60_a_by_its_size(self):
        run = {"method": "lfmc", "ground_by_raceway": True, "length_ft": 6.0}
        for trade_size, device, lawful in (
            ("1/2", 20.0, True),
            ("1/2", 25.0, False),
            ("1", 60.0, True),
            ("1", 70.0, False),
        ):
            with self.subTest(f"{trade_size} in, {device} A"):
                options = {"ground": False, "feeder_a": device, "main_a": device, "load_va": 3_000.0}
                sizes = {"hot_size": "12" if device < 30 else "4", "raceway_size": trade_size}
                found = self.verdict({**run, **sizes}, "flexible_ground", **options)
                self.assertEqual(found is None, lawful)

    def test_armor_grounds_only_where_it_is_listed_for_it(self):
        cable = {"insulation": "MC", "method": "cable", "ground_by_raceway": True}
        for listed, outcome in ((True, None), (False, "must_fix"), (None, "cannot_tell")):
            report = feeder({**cable, "armor_listed_ground": listed}, ground=False).report()
            found = finding(report, "ground_missing", "panel")
            self.assertEqual(found and found.outcome, outcome)

    def test_bushings_from_4_awg_up(self):
        self.assertIn("bushing", self.names(None))
        self.assertNotIn("bushing", self.names(None, feeder_a=60.0, main_a=60.0))

    def test_bending_space_is_worked_out(self):
        self.assertIn("3 in", self.text("bending", None))

    def test_underground_runs_are_sealed_guarded_and_marked(self):
        buried = {"placement": "underground", "method": "pvc40", "burial_location": "general", "cover_in": 18.0}
        self.assertLessEqual({"emergence", "seal", "ribbon"}, set(self.names(buried)))
        self.assertIn("good practice", self.text("ribbon", buried))
        service = feeder()
        thing(service.job, "runs", "to-service").update(buried, method="pvc40")
        ribbons = [item.text for item in service.report().runs["to-service"].to_fit if item.name == "ribbon"]
        self.assertIn("is required for service conductors", ribbons[0])
        self.assertNotIn("emergence", self.names({**buried, "method": "rmc"}))

    def test_plastic_above_ground_may_ask_for_an_expansion_fitting(self):
        """50 ft x 0.0405 in for 100 ft and 1 F: 12.3 F give 0.249 in, 12.4 F give 0.251 in."""
        outdoors = {"placement": "outdoors", "method": "pvc80"}
        self.assertIn("no expansion fitting", self.text("expansion", {**outdoors, "temperature_span_f": 12.3}))
        self.assertIn(
            "an expansion fitting is needed", self.text("expansion", {**outdoors, "temperature_span_f": 12.4})
        )
        self.assertIn("enter the span", self.text("expansion", outdoors))


class MarkedBreakers(unittest.TestCase):
    def test_a_slash_rating_on_a_high_leg(self):
        builder = feeder(None, system="delta_240_high_leg")
        builder.job["devices"][-2]["slash_rated"] = True
        device = builder.job["devices"][-2]
        device["enclosure_id"] = "panel"
        wrong = finding(builder.report(), "slash_rating", "panel")
        self.assertEqual(wrong.outcome, "must_fix")
        self.assertIsNone(finding(report_of(mended(builder.job, wrong)), "slash_rating", "panel"))

    def test_an_unknown_marking_on_a_delta_is_cannot_tell_and_nothing_elsewhere(self):
        told = finding(feeder(None, system="delta_240").report(), "slash_rating", "panel")
        self.assertEqual(told.outcome, "cannot_tell")
        self.assertIsNone(finding(feeder().report(), "slash_rating", "panel"))

    def test_breakers_may_add_up_to_more_than_the_feeder(self):
        builder = feeder()
        for number in range(3):
            builder.add("devices", f"branch-{number}", enclosure_id="panel", role="branch", rating_a=50.0)
        self.assertIsNone(finding(builder.report(), "breaker_sum", "panel"))
        judged = builder.report().panels["panel"].verdicts
        self.assertIn("150 A stand behind 100 A: allowed", next(v.text for v in judged if v.code == "breaker_sum"))

    def test_a_main_like_the_device_ahead_is_lawful_and_said(self):
        said = [
            verdict.text for verdict in feeder().report().panels["panel"].verdicts if verdict.code == "both_may_trip"
        ]
        self.assertIn("either may trip first", said[0])
        self.assertEqual(finding(feeder(feeder_a=125.0).report(), "both_may_trip", "panel"), None)
        other = feeder(feeder_a=125.0).report().panels["panel"].verdicts
        self.assertNotIn("both_may_trip", [verdict.code for verdict in other])

    def test_the_smallest_main_by_a_local_amendment(self):
        builder = feeder(building="barn")
        builder.add("buildings", "barn", name="Barn", use="other")
        self.assertIsNone(finding(builder.report(), "disconnect_floor", "panel"))
        builder.add(
            "amendments", "local", key="disconnect_least_a", action="at_least", value=125.0, source_note="Ord. 7"
        )
        wrong = finding(builder.report(), "disconnect_floor", "panel")
        self.assertIn("at least 125 A", wrong.text)
        self.assertIsNone(finding(report_of(mended(builder.job, wrong)), "disconnect_floor", "panel"))
