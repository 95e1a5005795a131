"""Circuits in their spaces: what cannot stand, multiwire circuits, wires and breakers, motors, the door, dwellings."""

import unittest

from tests.support.jobs import JobBuilder, finding, mended, report_of, thing


class WithPanel(unittest.TestCase):
    """A panel of twelve spaces behind a service; each test puts breakers into it."""

    system = "split_120_240"

    def setUp(self):
        self.builder = JobBuilder(system=self.system)
        self.builder.service()
        self.builder.box("panel", "service")
        self.bus = thing(self.builder.job, "buses", "panel-bus")
        self.bus["spaces"] = 12

    def breaker(self, new_id, space, rating_a=20.0, poles=1, **values):
        values = {"role": "branch", "name": new_id.title(), "enclosure_id": "panel", "bus_id": "panel-bus", **values}
        return self.builder.add("devices", new_id, space=space, rating_a=rating_a, poles=poles, **values)

    def wires(self, device_id, **values):
        values = {"material": "copper", "insulation": "NM-B", **values}
        return self.builder.add("circuits", f"{device_id}-wires", device_id=device_id, **values)

    def load(self, device_id, va, **values):
        return self.builder.load("panel", va, device_id=device_id, **{"volts": 120.0, "name": "Load", **values})

    def found(self, code, thing_id):
        return finding(self.builder.report(), code, thing_id)

    def outcome(self, code, thing_id):
        verdict = self.found(code, thing_id)
        return None if verdict is None else verdict.outcome

    def schedule(self):
        return self.builder.report().schedules["panel-bus"]

    def mended_is_gone(self, code, thing_id):
        wrong = self.found(code, thing_id)
        for mend in wrong.mends:
            after = report_of(mended(self.builder.job, wrong._replace(mends=(mend,))))
            self.assertIsNone(finding(after, code, thing_id), mend.label)


class Standing(WithPanel):
    def test_two_breakers_in_one_space(self):
        self.breaker("one", 3)
        self.assertIsNone(self.found("space_taken", "one"))
        self.breaker("two", 1, poles=2)
        self.assertEqual(self.outcome("space_taken", "one"), "must_fix")
        self.mended_is_gone("space_taken", "one")

    def test_poles_beyond_the_bus(self):
        device = self.breaker("long", 9, poles=2)
        self.assertIsNone(self.found("space_off_bus", "long"))
        device["space"] = 11
        self.assertEqual(self.outcome("space_off_bus", "long"), "must_fix")
        self.mended_is_gone("space_off_bus", "long")

    def test_three_poles_on_two_legs(self):
        self.breaker("three", 1, poles=3)
        self.assertEqual(self.outcome("poles_on_bus", "three"), "must_fix")

    def test_half_size_only_where_the_panel_is_marked(self):
        self.breaker("half", 3, half="first")
        self.assertEqual(self.outcome("half_size", "panel-bus"), "cannot_tell")
        self.bus.update(half_size_spaces=True, half_size_from=3)
        self.assertIsNone(self.found("half_size", "panel-bus"))
        self.bus["half_size_from"] = 5
        self.assertEqual(self.outcome("half_size", "half"), "must_fix")
        self.bus["half_size_spaces"] = False
        self.assertEqual(self.outcome("half_size", "half"), "must_fix")


class Legs(WithPanel):
    def test_moving_a_breaker_changes_legs_and_no_total(self):
        self.breaker("one", 1)
        self.load("one", 1_200.0)
        before = self.builder.report()
        thing(self.builder.job, "devices", "one")["space"] = 3
        after = self.builder.report()
        legs = [
            {leg: float(figure.number) for leg, figure in report.schedules["panel-bus"].figures.items()}
            for report in (before, after)
        ]
        self.assertEqual(legs, [{"L1": 10, "L2": 0}, {"L1": 0, "L2": 10}])
        for report in (before, after):
            self.assertEqual(report.levels["panel"].connected_va.number, 1_200)

    def test_swapping_the_legs_everywhere_changes_no_verdict(self):
        for place, (poles, va) in enumerate(((1, 1_200.0), (1, 600.0), (1, 2_400.0))):
            self.breaker(f"c{place}", 1 + 2 * place, poles=poles)
            self.load(f"c{place}", va)
        self.breaker("range", 8, 40.0, 2)
        self.load("range", 12_000.0, volts=240.0, category="range")
        before = [(item.code, item.outcome) for item in self.builder.report().findings]
        self.bus["legs"] = ["L2", "L1"]
        report = self.builder.report()
        self.assertEqual([(item.code, item.outcome) for item in report.findings], before)

    def test_a_feeder_brings_what_the_panel_behind_it_carries(self):
        self.builder.box("attic", "panel", feeder_a=60.0, main_a=60.0)
        thing(self.builder.job, "devices", "panel-to-attic")["space"] = 5
        self.builder.load("attic", 4_800.0, volts=240.0)
        self.assertEqual({leg: figure.number for leg, figure in self.schedule().figures.items()}, {"L1": 20, "L2": 20})

    def test_a_load_that_its_breaker_cannot_feed_is_told(self):
        self.breaker("one", 1)
        load = self.load("one", 1_200.0, volts=240.0)
        self.assertIn("two poles", self.found("circuit_load", "one").text)
        load.update(volts=120.0, connection="L2-N")
        self.assertIn("stands on L1", self.found("circuit_load", "one").text)
        load["connection"] = "L1-N"
        self.assertIsNone(self.found("circuit_load", "one"))


class LoadAgainstBreaker(WithPanel):
    def circuit(self, va, rating_a=20.0, poles=1, **load):
        self.breaker("one", 1, rating_a, poles)
        self.load("one", va, **load)
        return self.outcome("circuit_load", "one")

    def test_up_to_the_rating(self):
        self.assertIsNone(self.circuit(2_400.0))
        self.load("one", 12.0)
        self.assertEqual(self.outcome("circuit_load", "one"), "must_fix")

    def test_continuous_load_at_125_percent(self):
        # 16 A x 1.25 = 20 A
        self.assertIsNone(self.circuit(1_920.0, continuous=True))
        thing(self.builder.job, "loads", "load-1")["amount"] = 1_932.0
        verdict = self.found("circuit_load", "one")
        self.assertEqual((verdict.outcome, verdict.section), ("must_fix", "210.20(A)"))

    def test_a_range_by_the_table_and_an_oven_by_its_plate(self):
        # 12 kW: 8 kW by Table 220.55, 33.3 A; an oven of 6 kW: 25 A
        self.circuit(12_000.0, 40.0, 2, volts=240.0, category="range")
        worst = self.schedule().circuits[0].load.worst
        self.assertEqual(worst.actual.number * 3, 100)
        thing(self.builder.job, "loads", "load-1")["amount"] = 6_000.0
        self.assertEqual(self.schedule().circuits[0].load.worst.actual.number, 25)

    def test_cooking_units_that_share_a_circuit_are_one_range_there_and_each_one_further_up(self):
        # 6 kW and 4 kW: one range of 10 kW there, 8 kW, 33.3 A; at the panel two in column B: 65 %, 6.5 kW
        self.circuit(6_000.0, 40.0, 2, volts=240.0, category="range")
        self.load("one", 4_000.0, volts=240.0, category="range")
        self.builder.add("dwelling_units", "home", name="Home")
        for load in self.builder.job["loads"]:
            load["dwelling_unit_id"] = "home"
        report = self.builder.report()
        self.assertEqual(report.schedules["panel-bus"].circuits[0].load.demand_va.number, 8_000)
        self.assertEqual(report.levels["panel"].demand_va.number, 6_500)

    def test_more_cooking_units_than_the_note_takes_together(self):
        self.circuit(2_000.0, 40.0, 2, volts=240.0, category="range", quantity=4)
        self.assertEqual(self.outcome("circuit_load", "one"), "cannot_tell")


class Wires(WithPanel):
    def wire(self, size, rating_a, poles=1, **values):
        self.breaker("one", 1, rating_a, poles)
        self.wires("one", wire_size=size, **values)
        return self.outcome("circuit_wire", "one-wires")

    def test_small_conductors_have_their_own_limits(self):
        self.assertIsNone(self.wire("12", 20.0))
        thing(self.builder.job, "devices", "one")["rating_a"] = 25.0
        self.assertEqual(self.outcome("circuit_wire", "one-wires"), "must_fix")
        thing(self.builder.job, "devices", "one")["rating_a"] = 15.0
        thing(self.builder.job, "circuits", "one-wires")["wire_size"] = "14"
        self.assertIsNone(self.found("circuit_wire", "one-wires"))

    def test_cable_at_60_degrees_and_the_next_size_up(self):
        # 6 AWG NM-B carries 55 A at 60 C: behind 60 A only where the circuit serves one appliance (240.4(B)(1))
        self.assertEqual(self.wire("6", 60.0, 2), "cannot_tell")
        self.assertEqual(self.found("circuit_wire", "one-wires").field, "use")
        for use, outcome in (("general", "must_fix"), ("individual", None), (None, "cannot_tell")):
            thing(self.builder.job, "circuits", "one-wires")["use"] = use
            self.assertEqual(self.outcome("circuit_wire", "one-wires"), outcome)
        self.load("one", 9_600.0, volts=240.0, category="heating")
        self.assertIsNone(self.found("circuit_wire", "one-wires"))
        self.load("one", 120.0, volts=240.0, category="other")
        self.assertEqual(self.outcome("circuit_wire", "one-wires"), "must_fix")

    def test_each_way_out_clears_it(self):
        self.wire("14", 20.0)
        self.assertEqual(len(self.found("circuit_wire", "one-wires").mends), 2)
        self.mended_is_gone("circuit_wire", "one-wires")

    def test_what_is_not_read_or_told_whole_is_asked_for(self):
        self.assertEqual(self.wire(None, 20.0), "cannot_tell")
        thing(self.builder.job, "circuits", "one-wires").update(wire_size="12", material=None)
        self.assertIn("metal", self.found("circuit_wire", "one-wires").text)

    def test_the_grounding_conductor_goes_by_the_device_and_never_above_the_wires(self):
        self.wire("8", 40.0, 2, ground_size="10")
        self.assertIsNone(self.found("circuit_ground", "one-wires"))
        thing(self.builder.job, "circuits", "one-wires")["ground_size"] = "12"
        self.assertEqual(self.outcome("circuit_ground", "one-wires"), "must_fix")
        self.mended_is_gone("circuit_ground", "one-wires")

    def test_two_sets_of_wires_under_one_terminal(self):
        self.wire("12", 20.0)
        self.assertIsNone(self.found("two_wires", "one"))
        self.builder.add("circuits", "more", device_id="one", wire_size="12", material="copper", insulation="NM-B")
        self.assertEqual(self.outcome("two_wires", "one"), "cannot_tell")


class Motors(WithPanel):
    """5 hp at 240 V, one-phase: 28 A by Table 430.248, wires 35 A, device 250 %: 70 A."""

    def motor(self, size="8", rating_a=60.0, **load):
        self.breaker("press", 1, rating_a, 2)
        self.wires("press", wire_size=size)
        values = {"unit": "hp", "volts": 240.0, "category": "motor", "overload_protected": True, **load}
        self.load("press", 5.0, **values)

    def test_the_device_may_be_above_the_wires(self):
        # 8 AWG carries 40 A at 60 C: below 60 A, right for this motor
        self.motor()
        self.assertIsNone(self.found("circuit_wire", "press-wires"))
        self.assertIsNone(self.found("circuit_load", "press"))

    def test_the_wires_carry_125_percent(self):
        self.motor(size="10")
        verdict = self.found("circuit_wire", "press-wires")
        self.assertEqual((verdict.outcome, verdict.section), ("must_fix", "430.22"))

    def test_the_device_has_its_limit(self):
        self.motor(rating_a=70.0)
        self.assertIsNone(self.found("circuit_load", "press"))
        thing(self.builder.job, "devices", "press")["rating_a"] = 80.0
        self.assertEqual(self.found("circuit_load", "press").section, "430.52(C)(1)")
        self.mended_is_gone("circuit_load", "press")

    def test_overload_protection_is_asked_for_where_the_wires_rest_on_it(self):
        self.motor(overload_protected=None)
        asked = self.found("motor_overload", "load-1")
        self.assertEqual((asked.outcome, asked.field), ("cannot_tell", "overload_protected"))
        thing(self.builder.job, "loads", "load-1")["overload_protected"] = False
        self.assertEqual(self.outcome("motor_overload", "load-1"), "must_fix")
        thing(self.builder.job, "devices", "press")["rating_a"] = 40.0
        self.assertIsNone(self.found("motor_overload", "load-1"))

    def test_a_compressor_at_175_percent_rounded_down(self):
        # 24 A x 1.75 = 42 A: 40 A is the most; wires 30 A: 10 AWG
        self.breaker("cool", 5, 40.0, 2)
        self.wires("cool", wire_size="10")
        self.load("cool", 24.0, unit="A", volts=240.0, category="cooling", overload_protected=True)
        self.assertIsNone(self.found("circuit_wire", "cool-wires"))
        self.assertIsNone(self.found("circuit_load", "cool"))
        thing(self.builder.job, "devices", "cool")["rating_a"] = 45.0
        self.assertEqual(self.found("circuit_load", "cool").section, "440.22(A)")


class Multiwire(WithPanel):
    def pair(self, spaces=(1, 3), **values):
        for name, space in zip(("left", "right"), spaces, strict=True):
            self.breaker(name, space, **values)
            self.wires(name, shared_neutral="counter")

    def test_untied_breakers_and_the_tie_that_mends_it(self):
        self.pair()
        self.load("right", 600.0)
        wrong = self.found("multiwire_tie", "left")
        self.assertEqual((wrong.outcome, wrong.section), ("must_fix", "210.4(B)"))
        self.mended_is_gone("multiwire_tie", "left")
        report = report_of(mended(self.builder.job, wrong))
        (tied,) = report.schedules["panel-bus"].circuits
        self.assertEqual((tied.device.poles, tied.device.tie, len(tied.loads)), (2, "handle_tie", 1))

    def test_the_tie_of_breakers_that_took_over_standing_wires_leaves_a_valid_proposal(self):
        self.pair(standing="added")
        for name in ("left", "right"):
            wires = next(item for item in self.builder.job["circuits"] if item["device_id"] == name)
            old = {
                **thing(self.builder.job, "devices", name),
                "id": f"old-{name}",
                "space": None,
                "standing": "removed",
            }
            self.builder.job["devices"].append(old)
            wires.update(standing="existing", device_id=f"old-{name}", proposed={"device_id": name})
        wrong = self.found("multiwire_tie", "left")
        report = report_of(mended(self.builder.job, wrong))  # it can be read: nothing names a breaker that is gone
        self.assertEqual(
            [item.device.id for item in report.schedules["panel-bus"].circuits if item.device.tie], ["left"]
        )

    def test_tied_ones_on_different_legs_hold(self):
        self.pair(tie="handle_tie")
        self.assertIsNone(self.found("multiwire_tie", "left"))
        self.assertIsNone(self.found("multiwire_leg", "left"))

    def test_the_same_leg_loads_the_neutral_with_the_sum(self):
        self.pair(spaces=(1, 2))
        self.assertEqual(self.outcome("multiwire_leg", "left"), "must_fix")
        self.assertIsNone(self.found("multiwire_tie", "left").mend)

    def test_loads_between_the_lines_ask_for_a_common_trip(self):
        device = self.breaker("both", 1, poles=2)
        self.wires("both", shared_neutral="both")
        self.load("both", 600.0)
        self.assertIsNone(self.found("multiwire_trip", "both"))
        self.load("both", 600.0, volts=240.0)
        self.assertEqual(self.outcome("multiwire_trip", "both"), "cannot_tell")
        device["tie"] = "handle_tie"
        self.assertEqual(self.found("multiwire_trip", "both").section, "210.4(C)")
        self.mended_is_gone("multiwire_trip", "both")
        device["tie"] = "common_trip"
        self.assertIsNone(self.found("multiwire_trip", "both"))

    def test_a_neutral_shared_with_nobody_is_looked_for(self):
        self.breaker("left", 1)
        self.wires("left", shared_neutral="counter")
        self.assertEqual(self.outcome("multiwire", "left"), "cannot_tell")

    def test_half_of_it_in_a_panel_that_is_fed_from_here_is_wrong(self):
        self.pair(tie="handle_tie")
        self.builder.box("sub", "panel", feeder_a=60.0)
        half = thing(self.builder.job, "devices", "right")
        half.update(enclosure_id="sub", bus_id="sub-bus")
        wrong = self.found("multiwire_apart", "left")
        self.assertEqual((wrong.outcome, wrong.section), ("must_fix", "210.4(A)"))
        self.assertIsNone(self.found("multiwire", "left"))
        half.update(enclosure_id="panel", bus_id="panel-bus")
        self.assertIsNone(self.found("multiwire_apart", "left"))

    def test_the_same_word_in_panels_that_do_not_feed_each_other_is_no_half(self):
        self.pair(tie="handle_tie")
        self.builder.box("one", "panel", feeder_a=60.0)
        self.builder.box("two", "panel", feeder_a=60.0)
        for name, box in (("left", "one"), ("right", "two")):
            thing(self.builder.job, "devices", name).update(enclosure_id=box, bus_id=f"{box}-bus")
        self.assertIsNone(self.found("multiwire_apart", "left"))
        self.assertEqual([self.outcome("multiwire", name) for name in ("left", "right")], ["cannot_tell"] * 2)


class Door(WithPanel):
    def test_what_the_directory_says(self):
        self.breaker("one", 1, name="Bedroom east")
        self.assertIsNone(self.found("directory", "panel-bus"))
        self.breaker("two", 2, name="")
        self.breaker("three", 3, name="Lights")
        self.assertIn("space 2.", self.found("directory", "panel-bus").text)
        self.assertIn("space 3 ", self.found("directory_words", "panel-bus").text)
        self.breaker("four", 4, name="Bedroom east")
        self.assertIn("spaces 1 and 4", self.found("directory_alike", "panel-bus").text)

    def test_a_spare_and_a_feeder_say_enough(self):
        self.breaker("spare", 1, name="", role="spare")
        self.builder.box("attic", "panel", feeder_a=60.0, main_a=60.0)
        thing(self.builder.job, "devices", "panel-to-attic")["space"] = 5
        self.assertIsNone(self.found("directory", "panel-bus"))

    def test_a_breaker_that_fits_is_not_one_that_is_listed(self):
        thing(self.builder.job, "enclosures", "panel")["series"] = "Q7"
        device = self.breaker("one", 1, series="Q7")
        self.assertIsNone(self.found("breaker_series", "one"))
        device["series"] = "M2"
        self.assertEqual(self.outcome("breaker_series", "one"), "cannot_tell")
        device["listed_for_panel"] = True
        self.assertIsNone(self.found("breaker_series", "one"))
        device["listed_for_panel"] = False
        self.assertEqual(self.found("breaker_series", "one").section, "110.3(B)")
        self.mended_is_gone("breaker_series", "one")
        self.breaker("two", 3)
        self.assertIn("space 3", self.found("breaker_series", "panel-bus").text)


class Terminals(WithPanel):
    def test_one_neutral_to_a_terminal(self):
        bar = thing(self.builder.job, "bars", "panel-n")
        self.breaker("one", 1)
        self.breaker("two", 3, poles=2)
        self.load("two", 4_800.0, volts=240.0)
        self.assertIsNone(self.found("neutral_terminals", "panel-n"))
        bar["terminals"] = 1
        self.assertIsNone(self.found("neutral_terminals", "panel-n"))
        bar["terminals"] = 0
        self.assertEqual(self.outcome("neutral_terminals", "panel-n"), "must_fix")

    def test_a_multiwire_circuit_needs_one_and_so_does_a_range(self):
        bar = thing(self.builder.job, "bars", "panel-n")
        for name, space in (("left", 1), ("right", 3)):
            self.breaker(name, space, tie="handle_tie")
            self.wires(name, shared_neutral="counter")
        self.breaker("range", 5, 40.0, 2)
        self.load("range", 8_000.0, volts=240.0, category="range")
        bar["terminals"] = 2
        self.assertIsNone(self.found("neutral_terminals", "panel-n"))
        bar["terminals"] = 1
        self.assertEqual(self.found("neutral_terminals", "panel-n").section, "408.41")


class Dwellings(WithPanel):
    def setUp(self):
        super().setUp()
        self.builder.add("buildings", "house", use="dwelling", name="House")
        thing(self.builder.job, "enclosures", "panel")["building_id"] = "house"
        self.builder.add("dwelling_units", "home", name="Home", building_id="house")

    def used(self, new_id, space, use, standing="existing", **values):
        self.breaker(new_id, space, standing=standing, **values)
        self.wires(new_id, use=use, wire_size="12", standing=standing)

    def test_the_circuits_that_every_dwelling_has(self):
        for place, use in enumerate(("small_appliance", "small_appliance", "laundry", "bathroom")):
            self.used(f"c{place}", 1 + place, use)
        self.load("c0", 600.0, dwelling_unit_id="home")
        self.assertIsNone(self.found("dwelling_circuits", "home"))
        thing(self.builder.job, "circuits", "c3-wires")["use"] = "general"
        missing = self.found("dwelling_circuits", "home")
        self.assertEqual((missing.outcome, missing.section), ("advice", "210.11(C)(3)"))
        thing(self.builder.job, "enclosures", "panel")["standing"] = "added"
        self.assertEqual(self.outcome("dwelling_circuits", "home"), "must_fix")
        thing(self.builder.job, "circuits", "c3-wires")["use"] = None
        self.assertEqual(self.outcome("dwelling_circuits", "home"), "cannot_tell")

    def test_a_multiwire_circuit_counts_for_each_of_its_poles(self):
        self.used("counter", 1, "small_appliance", poles=2)
        for place, use in enumerate(("laundry", "bathroom")):
            self.used(f"c{place}", 5 + place, use)
        self.load("counter", 600.0, dwelling_unit_id="home")
        self.assertIsNone(self.found("dwelling_circuits", "home"))
        thing(self.builder.job, "devices", "counter")["poles"] = 1
        self.assertEqual(self.outcome("dwelling_circuits", "home"), "advice")

    def test_arc_fault_protection_of_what_is_new(self):
        self.used("old", 1, "general", protection="none")
        self.assertIsNone(self.found("arc_fault", "old"))
        self.used("new", 2, "general", standing="added", protection="none")
        self.assertEqual(self.outcome("arc_fault", "new"), "must_fix")
        self.mended_is_gone("arc_fault", "new")
        self.used("bath", 3, "bathroom", standing="added", protection="none")
        self.assertIsNone(self.found("arc_fault", "bath"))
        self.assertEqual(self.outcome("ground_fault", "bath"), "advice")
        thing(self.builder.job, "devices", "bath")["protection"] = "ground_fault"
        self.assertIsNone(self.found("ground_fault", "bath"))

    def test_how_far_an_extension_goes_before_it_counts(self):
        self.used("old", 1, "general", protection="none")
        wires = thing(self.builder.job, "circuits", "old-wires")
        wires.update(extended_ft=6.0, extension_adds_outlets=False)
        self.assertIsNone(self.found("arc_fault", "old"))
        wires["extension_adds_outlets"] = None
        self.assertEqual(self.outcome("arc_fault", "old-wires"), "cannot_tell")
        wires["extension_adds_outlets"] = True
        self.assertEqual(self.outcome("arc_fault", "old"), "must_fix")
        wires.update(extended_ft=6.5, extension_adds_outlets=False)
        self.assertEqual(self.outcome("arc_fault", "old"), "must_fix")

    def served(self, *places, use="general", edition="2023", protection="none", **values):
        """Return what is said of arc and of ground faults of a new circuit that serves these places."""
        self.setUp()
        self.builder.job["settings"]["edition"] = edition
        self.used("new", 2, use, standing="added", protection=protection, **values)
        thing(self.builder.job, "circuits", "new-wires")["serves"] = list(places)
        found = (self.found("arc_fault", "new"), self.found("ground_fault", "new"))
        return tuple((item.outcome, item.section) if item else None for item in found)

    def test_what_protection_each_place_asks_for_by_edition(self):
        arc, ground = ("must_fix", "210.12(B)"), ("advice", "210.8(A)")
        earlier = ("must_fix", "210.12(A)")
        for places, edition, expected in (
            (("living_rooms",), "2023", (arc, None)),
            (("attic",), "2023", (None, None)),
            (("bathroom", "living_rooms"), "2023", (arc, ground)),
            (("garage",), "2023", (None, ground)),
            (("laundry_area",), "2017", (earlier, ground)),
            (("finished_basement",), "2017", (earlier, None)),
            (("finished_basement",), "2020", (earlier, ground)),
            (("unfinished_basement",), "2017", (None, ground)),
            (("wet_indoors",), "2017", (None, None)),
            (("wet_indoors",), "2020", (None, ground)),
            (("sump_pump",), "2017", (None, None)),
            (("sump_pump",), "2020", (None, ("advice", "210.8(D)"))),
            (("dishwasher",), "2017", (earlier, ("advice", "210.8(D)"))),
            (("microwave",), "2020", (earlier, None)),
            (("microwave",), "2023", (arc, ("advice", "210.8(D)"))),
            (("outdoor_equipment",), "2017", (None, None)),
            (("outdoor_equipment",), "2020", (None, ("advice", "210.8(F)"))),
        ):
            with self.subTest(places=places, edition=edition):
                self.assertEqual(self.served(*places, edition=edition), expected)
        self.assertEqual(self.served("bathroom", protection="ground_fault"), (None, None))

    def test_receptacles_of_a_kitchen_are_all_meant_from_2023_on_those_of_its_countertops_before(self):
        for edition, words in (("2020", "its outlets that serve its countertops need"), ("2023", "its outlets need")):
            self.served("kitchens", edition=edition)
            self.assertIn(words, self.found("ground_fault", "new").text)

    def test_larger_and_two_pole_circuits(self):
        for edition, poles, rating, use, expected in (
            ("2017", 1, 20.0, "laundry", "advice"),
            ("2017", 1, 30.0, "laundry", None),
            ("2017", 2, 20.0, "laundry", None),
            ("2020", 2, 30.0, "laundry", "advice"),
            ("2020", 2, 60.0, "laundry", "advice"),
            ("2020", 2, 70.0, "laundry", None),
        ):
            with self.subTest(edition=edition, poles=poles, rating=rating):
                self.setUp()
                self.builder.job["settings"]["edition"] = edition
                self.breaker("new", 1, rating, poles, standing="added", protection="none")
                self.wires("new", use=use, wire_size="4", standing="added")
                self.assertEqual(self.outcome("ground_fault", "new"), expected)
                self.assertEqual(self.outcome("arc_fault", "new"), "must_fix" if (poles, rating) == (1, 20.0) else None)

    def test_a_dryer_or_a_range_is_known_by_its_load(self):
        for edition, expected in (("2020", None), ("2023", ("advice", "210.8(D)"))):
            self.setUp()
            self.builder.job["settings"]["edition"] = edition
            self.breaker("new", 1, 30.0, 2, standing="added", protection="none")
            self.wires("new", use="individual", wire_size="10", standing="added")
            self.load("new", 5000.0, category="dryer", volts=240.0, dwelling_unit_id="home")
            found = self.found("ground_fault", "new")
            self.assertEqual((found.outcome, found.section) if found else None, expected)

    def test_receptacles_that_are_replaced_need_what_new_ones_need(self):
        self.used("old", 1, "bathroom", protection="none")
        self.assertIsNone(self.found("ground_fault", "old"))
        wires = thing(self.builder.job, "circuits", "old-wires")
        wires["proposed"] = {"receptacles_replaced": True}
        self.assertEqual(self.found("ground_fault", "old").section, "406.4(D)(3)")
        self.assertIsNone(self.found("arc_fault", "old"))
        wires["use"] = "general"
        self.assertEqual(self.found("arc_fault", "old").section, "406.4(D)(4)")
        self.mended_is_gone("arc_fault", "old")

    def test_a_wire_that_is_replaced_is_told_of(self):
        self.used("old", 1, "general", protection="none")
        wires = thing(self.builder.job, "circuits", "old-wires")
        wires["proposed"] = {"length_ft": 40.0}
        self.assertIsNone(self.found("arc_fault", "old"))
        wires["proposed"] = {"wire_size": "10"}
        found = self.found("arc_fault", "old")
        self.assertEqual((found.outcome, found.section), ("advice", "210.12(E)"))
        thing(self.builder.job, "devices", "old")["protection"] = "arc_fault"
        self.assertIsNone(self.found("arc_fault", "old"))

    def test_a_new_breaker_on_wires_that_stand_calls_for_nothing(self):
        self.breaker("new", 1, standing="added", protection="none")
        self.wires("new", use="general", wire_size="12")
        self.assertIsNone(self.found("arc_fault", "new"))
        wires = thing(self.builder.job, "circuits", "new-wires")
        wires.update(extended_ft=7.0, extension_adds_outlets=False)
        self.assertEqual(self.found("arc_fault", "new").section, "210.12(E)")
        self.assertIsNone(self.found("ground_fault", "new"))
        wires.update(use="garage", extension_adds_outlets=None)
        self.assertEqual(self.outcome("ground_fault", "new-wires"), "cannot_tell")

    def test_other_buildings_by_their_own_list(self):
        for places, edition, expected in (
            (("bathroom",), "2017", "210.8(B)"),
            (("laundry_area",), "2017", None),
            (("laundry_area",), "2020", "210.8(B)"),
            (("living_rooms",), "2023", None),
            (("dishwasher",), "2023", "210.8(D)"),
        ):
            with self.subTest(places=places, edition=edition):
                self.setUp()
                thing(self.builder.job, "buildings", "house")["use"] = "commercial"
                self.builder.job["dwelling_units"] = []
                self.builder.job["settings"]["edition"] = edition
                self.used("new", 2, None, standing="added", protection="none")
                self.assertIsNone(self.found("ground_fault", "new"))
                thing(self.builder.job, "circuits", "new-wires")["serves"] = list(places)
                found = self.found("ground_fault", "new")
                self.assertEqual(found.section if found else None, expected)
                self.assertIsNone(self.found("arc_fault", "new"))


class OtherBuildings(WithPanel):
    system = "wye_208_120"

    def of_a_kitchen(self, rating, poles):
        self.setUp()
        self.breaker("new", 1, rating, poles, standing="added", protection="none")
        self.wires("new", use="individual", serves=["kitchens"], wire_size="1", standing="added")
        return self.outcome("ground_fault", "new")

    def test_receptacles_of_50_a_of_one_phase_and_100_a_of_three(self):
        for poles, most in ((1, 50.0), (2, 50.0), (3, 100.0)):
            self.assertEqual(self.of_a_kitchen(most, poles), "advice", poles)
            self.assertIsNone(self.of_a_kitchen(most + 10, poles), poles)


class HigherVoltage(OtherBuildings):
    system = "wye_480_277"

    def test_receptacles_of_50_a_of_one_phase_and_100_a_of_three(self):
        """Above 150 V to ground the rule is silent."""
        self.assertIsNone(self.of_a_kitchen(20.0, 1))


class ThreePhase(WithPanel):
    system = "wye_208_120"

    def test_each_pole_on_its_leg(self):
        self.breaker("oven", 1, 40.0, 3)
        self.load("oven", 12_000.0, volts=208.0, three_phase=True)
        self.breaker("fan", 2, 20.0, 1)
        self.load("fan", 600.0)
        legs = {leg: float(figure.number) for leg, figure in self.schedule().figures.items()}
        self.assertAlmostEqual(legs["L1"], 33.309 + 5, places=3)
        self.assertAlmostEqual(legs["L2"], 33.309, places=3)
