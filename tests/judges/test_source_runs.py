"""Runs of the premises' own sources, against hand arithmetic: outputs at 125 %, generators at 115 %, standby by its device."""

import unittest
from fractions import Fraction

from nelvor.judges.source_currents import output_of
from nelvor.model.things import Source
from tests.support.jobs import JobBuilder, finding, mended, report_of, thing

COPPER = {"material": "copper", "insulation": "THWN-2", "method": "emt", "placement": "indoors"}


def conductors(builder, run, start, end, roles=("L1", "L2", "neutral", "ground"), bars=None):
    for role in roles:
        at = bars.get(role) if bars and role in bars else None
        builder.add(
            "conductors",
            f"{run}-{role.lower()}",
            run_id=run,
            role=role,
            from_part=at[0] if at else start,
            to_part=at[1] if at else end,
        )


def with_inverter(output_a=32.0, **run):
    """An inverter without neutral on a 40 A breaker of the service panel."""
    builder = JobBuilder()
    builder.service(main_a=200.0)
    builder.box("hall", "service", main_a=200.0, feeder_a=200.0)
    plate = {"kind": "inverter", "interactive": True, "output": "line_to_line", "rated_output_a": output_a}
    builder.add("sources", "roof", name="Roof", **plate)
    device = {"enclosure_id": "hall", "bus_id": "hall-bus", "role": "source", "rating_a": 40.0, "poles": 2}
    builder.add("devices", "solar", name="Solar", **device)
    builder.add("runs", "out", from_part="roof", to_part="solar", **{"length_ft": 50.0, **COPPER, **run})
    conductors(builder, "out", "roof", "solar", ("L1", "L2", "ground"), {"ground": ("roof", "hall-g")})
    return builder


def _moved(builder, run_id, end, part):
    """Let the lines of a run begin or end at another part."""
    run = thing(builder.job, "runs", run_id)
    for item in builder.job["conductors"]:
        if item["run_id"] == run_id and item[end] == run[end]:
            item[end] = part
    run[end] = part


def with_generator(own_device=True, **run):
    """A 24 kVA set of 100 A beside transfer gear ahead of a panel; with its breaker, or with one in a box of its own."""
    builder = JobBuilder()
    builder.service(main_a=200.0)
    builder.box("gear", "service", kind="transfer_switch", main_a=None, feeder_a=200.0)
    for name in ("normal", "other", "out"):
        builder.add("lugs", f"gear-{name}", enclosure_id="gear")
    _moved(builder, "to-gear", "to_part", "gear-normal")
    builder.job["devices"] = [item for item in builder.job["devices"] if item["id"] != "gear-main"]
    builder.add(
        "transfers", "switch", enclosure_id="gear", load_part="gear-out", rating_a=200.0, switches_neutral=False
    )
    for name in ("normal", "other"):
        builder.add("throws", f"on-{name}", transfer_id="switch", part=f"gear-{name}", neutral_part="gear-n")
    builder.add("enclosures", "yard", name="Set", kind="generator", placement="outdoors", termination_c=75)
    builder.add("bars", "yard-g", enclosure_id="yard", kind="ground", insulated=False)
    plate = {"kind": "generator", "interactive": False, "output": "with_neutral", "rated_kva": 24.0}
    builder.add("sources", "engine", name="Engine", system="split_120_240", enclosure_id="yard", **plate)
    builder.add("bonds", "yard-bond", enclosure_id="yard", kind="factory", part_a="engine", part_b="yard", made=False)
    start = "engine"
    if own_device:
        builder.add("devices", "yard-main", enclosure_id="yard", name="Set breaker", role="main", rating_a=100.0)
        start = "yard-main"
    bars = {"neutral": ("engine", "gear-n"), "ground": ("yard-g", "gear-g")}
    if own_device:
        builder.add("runs", "feed", from_part=start, to_part="gear-other", **{"length_ft": 30.0, **COPPER, **run})
        conductors(builder, "feed", start, "gear-other", bars=bars)
    else:
        builder.add("enclosures", "box", name="Box", kind="disconnect", placement="outdoors", termination_c=75)
        builder.add("bars", "box-n", enclosure_id="box", kind="neutral", insulated=True)
        builder.add("bars", "box-g", enclosure_id="box", kind="ground", insulated=False)
        builder.add("devices", "box-main", enclosure_id="box", name="Box main", role="main", rating_a=125.0)
        builder.add("runs", "feed", from_part="engine", to_part="box-main", **{"length_ft": 10.0, **COPPER, **run})
        conductors(
            builder, "feed", "engine", "box-main", bars={"neutral": ("engine", "box-n"), "ground": ("yard-g", "box-g")}
        )
        builder.add("runs", "on", from_part="box-main", to_part="gear-other", **{"length_ft": 30.0, **COPPER})
        conductors(
            builder,
            "on",
            "box-main",
            "gear-other",
            bars={"neutral": ("box-n", "gear-n"), "ground": ("box-g", "gear-g")},
        )
    builder.box("backed", "gear", main_a=100.0, feeder_a=None)
    _moved(builder, "to-backed", "from_part", "gear-out")
    load = {"enclosure_id": "backed", "category": "other", "amount": 36000.0, "unit": "VA", "volts": 240.0}
    builder.add("loads", "all", name="All", continuous=False, **load)
    return builder


def figures(builder, run):
    return {name: figure.text for name, figure in builder.report().runs[run].figures.items()}


class Output(unittest.TestCase):
    """32 A × 125 % = 40 A: a 40 A breaker, 8 AWG copper (50 A at 75 °C), 10 AWG ground for 40 A (Table 250.122)."""

    def test_it_is_sized_at_125_percent(self):
        found = figures(with_inverter(), "out")
        self.assertEqual((found["load"], found["design"], found["device"]), ("32", "40", "40"))
        self.assertEqual((found["hots"], found["ground"]), ("8", "10"))

    def test_a_smaller_wire_is_refused_and_mended(self):
        builder = with_inverter(hot_size="10")
        wrong = finding(builder.report(), "hots_size", "out")
        self.assertEqual(wrong.outcome, "must_fix")
        self.assertIsNone(finding(report_of(mended(builder.job, wrong)), "hots_size", "out"))
        self.assertIsNone(finding(with_inverter(hot_size="8").report(), "hots_size", "out"))

    def test_the_rise_is_told_and_beyond_the_limit_advised(self):
        """8 AWG copper in steel: 0.78 Ω/kft (Table 9); 32 A × 0.78 × 0.05 = 1.248 V of 120 V: 1.04 %."""
        found = with_inverter().report()
        self.assertEqual(round(float(found.runs["out"].figures["drop"].number), 2), 1.04)
        self.assertIsNone(finding(found, "rise", "out"))
        far = finding(with_inverter(length_ft=160.0).report(), "rise", "out")
        self.assertEqual(far.outcome, "advice")

    def test_without_its_output_it_is_asked_for_on_the_source(self):
        report = with_inverter(output_a=None).report()
        asked = [item for item in report.findings if item.field == "rated_output_a" or "rated output" in item.text]
        self.assertTrue(asked)
        self.assertEqual({item.outcome for item in asked}, {"cannot_tell"})

    def test_kva_over_two_and_over_three_lines(self):
        """7.6 kVA at 208 V over two lines: 36.5 A; over three: 7600 / (208 × √3) = 21.1 A; at 240 V 31.7 A."""
        source = Source(id="s", kind="inverter", rated_kva=7.6)
        for system, lines, amperes in (("wye_208_120", 2, 36.5), ("wye_208_120", 3, 21.1), ("split_120_240", 2, 31.7)):
            with self.subTest(system=system, lines=lines):
                self.assertEqual(round(float(output_of(source, system, lines)), 1), amperes)
        self.assertIsNone(output_of(source, "split_120_240", 1))
        self.assertIsNone(output_of(source.model_copy(update={"system": "wye_208_120"}), "split_120_240", 2))


class Generator(unittest.TestCase):
    def test_up_to_the_first_device_115_percent_of_the_nameplate(self):
        """24 kVA / 240 V = 100 A, × 115 % = 115 A: 2 AWG copper (115 A at 75 °C); the jumper 8 AWG (Table 250.102(C)(1))."""
        found = figures(with_generator(own_device=False), "feed")
        self.assertEqual((found["load"], found["design"]), ("100", "115"))
        self.assertEqual((found["hots"], found["ground"], found["neutral"]), ("2", "8", "2"))

    def test_one_size_smaller_does_not_carry_it(self):
        wrong = finding(with_generator(own_device=False, hot_size="3").report(), "hots_size", "feed")
        self.assertEqual((wrong.outcome, "115" in wrong.text), ("must_fix", True))

    def test_behind_its_device_the_wire_goes_by_the_device(self):
        """The load of 150 A is more than the set gives: 100 A through its breaker; 3 AWG copper, 8 AWG ground."""
        report = with_generator().report()
        found = {name: figure.text for name, figure in report.runs["feed"].figures.items()}
        self.assertEqual((found["load"], found["device"], found["hots"], found["ground"]), ("100", "100", "3", "8"))
        self.assertEqual(report.runs["feed"].kind, "standby")
        self.assertIsNone(finding(report, "device_load", "feed"))

    def test_the_device_of_a_set_is_read_and_not_chosen(self):
        builder = with_generator()
        thing(builder.job, "devices", "yard-main")["rating_a"] = None
        asked = [item for item in builder.report().findings if item.id == "feed"]
        self.assertIn("cannot_tell", {item.outcome for item in asked})

    def test_no_share_of_a_dwelling_for_a_set(self):
        """A feeder of a whole dwelling may be smaller (83 %); the wire of a set may not."""
        builder = with_generator()
        builder.add("dwelling_units", "unit", name="Unit")
        thing(builder.job, "loads", "all").update(dwelling_unit_id="unit")
        self.assertEqual(figures(builder, "feed")["hots"], "3")


class Capacity(unittest.TestCase):
    """150 A of load (36 kVA / 240 V) on a set of 100 A."""

    def outcome(self, **gear):
        builder = with_generator()
        thing(builder.job, "transfers", "switch").update(gear)
        report = builder.report()
        found = [item for item in (*report.findings, *report.held) if item.code == "standby_capacity"]
        self.assertEqual(len(found), 1)
        return found[0].outcome, found[0].field

    def test_by_itself_it_carries_all_or_something_sheds_the_rest(self):
        self.assertEqual(self.outcome(automatic=True, sheds_load=False), ("must_fix", "sheds_load"))
        self.assertEqual(self.outcome(automatic=True, sheds_load=None), ("cannot_tell", "sheds_load"))
        self.assertEqual(self.outcome(automatic=True, sheds_load=True), ("holds", ""))

    def test_by_hand_its_user_chooses(self):
        self.assertEqual(self.outcome(automatic=False), ("holds", ""))
        self.assertEqual(self.outcome(automatic=None), ("cannot_tell", "automatic"))

    def test_a_set_that_carries_all_of_it_is_not_asked_about(self):
        builder = with_generator()
        for amount, outcome in ((24000.0, "holds"), (24240.0, "cannot_tell")):
            with self.subTest(amount=amount):
                thing(builder.job, "loads", "all")["amount"] = amount
                report = builder.report()
                found = next(item for item in (*report.findings, *report.held) if item.code == "standby_capacity")
                self.assertEqual(found.outcome, outcome)

    def test_gear_below_its_devices_is_refused_and_mended(self):
        builder = with_generator()
        thing(builder.job, "transfers", "switch")["rating_a"] = 100.0
        wrong = finding(builder.report(), "gear_rating", "switch")
        self.assertEqual(wrong.outcome, "must_fix")
        after = report_of(mended(builder.job, wrong))
        self.assertIsNone(finding(after, "gear_rating", "switch"))
        self.assertEqual(after.of("standby")["gear"].figures["gear_rating"].number, Fraction(200))

    def test_that_the_largest_motor_starts_is_advice(self):
        """24 kVA of set; a motor of 10 hp at 230 V takes 50 A x 230 V = 11.5 kVA, and three times that while it starts."""
        for horsepower, expected in ((3.0, None), (10.0, "advice")):
            with self.subTest(horsepower=horsepower):
                builder = with_generator()
                motor = {"category": "motor", "amount": horsepower, "unit": "hp", "volts": 230.0, "continuous": False}
                builder.add("loads", "pump", name="Pump", enclosure_id=builder.job["loads"][0]["enclosure_id"], **motor)
                found = next((item for item in builder.report().findings if item.code == "standby_start"), None)
                self.assertEqual(found.outcome if found else None, expected)

    def test_the_rating_of_gear_is_asked_for(self):
        builder = with_generator()
        thing(builder.job, "transfers", "switch")["rating_a"] = None
        self.assertEqual(finding(builder.report(), "gear_rating", "switch").field, "rating_a")


if __name__ == "__main__":
    unittest.main()
