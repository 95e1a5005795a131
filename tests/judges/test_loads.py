import unittest
from fractions import Fraction

from hypothesis import given, settings
from hypothesis import strategies as st

from nelvor.clauses.calculated_load import calculate
from nelvor.clauses.load_kind import amperes_per_va, kind_of, tally_of
from nelvor.errors import CannotCompute, MissingFigure, MissingInput
from nelvor.judges.level_loads import LoadUnknown
from nelvor.model.things import Load
from nelvor.rulebook.rules import rulebook
from nelvor.working.recorder import replay
from tests.support.jobs import JobBuilder, finding, thing

RULES = rulebook().resolve("2023")


def load(category="other", amount=1000.0, unit="VA", **values):
    return Load(
        id=values.pop("id", "load"),
        enclosure_id="panel",
        category=category,
        amount=amount,
        unit=unit,
        **{"volts": 240.0, **values},
    )


def level(*loads, system="split_120_240"):
    return calculate("panel", tally_of(loads, system, RULES), system, RULES)


class Nameplates(unittest.TestCase):
    def va(self, **values):
        return kind_of(load(**values), "split_120_240", RULES).each

    def test_units(self):
        self.assertEqual(self.va(amount=1.5, unit="kW"), 1500)
        self.assertEqual(self.va(amount=2.0, unit="kVA"), 2000)
        self.assertEqual(self.va(amount=10.0, unit="A"), 2400)
        self.assertEqual(self.va(amount=900.0, unit="W"), 900)

    def test_horsepower_goes_by_the_motor_tables(self):
        self.assertEqual(self.va(category="motor", amount=5.0, unit="hp"), 28 * 240)
        self.assertEqual(self.va(category="motor", amount=0.75, unit="hp", volts=120.0), Fraction("13.8") * 120)
        self.assertEqual(self.va(category="motor", amount=1.5, unit="hp"), 10 * 240)

    def test_three_phase_horsepower(self):
        kind = kind_of(load("motor", 10.0, "hp", volts=208.0, three_phase=True), "wye_208_120", RULES)
        self.assertAlmostEqual(float(kind.each), 30.8 * 208 * 1.7320508, places=4)

    def test_what_cannot_be_read_is_named(self):
        with self.assertRaises(MissingInput):
            self.va(amount=None)
        with self.assertRaises(MissingInput):
            self.va(amount=5.0, unit="A", volts=None)
        with self.assertRaises(MissingFigure):
            self.va(category="motor", amount=4.0, unit="hp")
        for wrong in (
            {"category": "lighting_area", "unit": "VA"},
            {"category": "range", "unit": "ft2"},
            {"category": "laundry", "unit": "A"},
            {"category": "motor", "unit": "hp", "volts": 277.0},
        ):
            with self.subTest(wrong), self.assertRaises(CannotCompute):
                self.va(**wrong)


class Legs(unittest.TestCase):
    def test_line_to_neutral_loads_one_leg_and_line_to_line_two(self):
        found = level(
            load(amount=1200.0, connection="L1-N", volts=120.0), load(id="b", amount=2400.0, connection="L1-L2")
        )
        self.assertEqual([leg.actual.number for leg in found.legs], [20, 10])
        self.assertEqual(found.imbalance_a, 10)

    def test_unstated_is_an_even_split(self):
        found = level(load(amount=2400.0, volts=120.0))
        self.assertEqual([leg.actual.number for leg in found.legs], [10, 10])
        self.assertEqual((found.imbalance_a, found.neutral.number), (0, 10))

    def test_line_to_line_leaves_the_neutral_alone(self):
        self.assertEqual(level(load(amount=2400.0)).neutral.number, 0)
        self.assertEqual(level(load(amount=2400.0, neutral_used=True)).neutral.number, 10)

    def test_legs_of_a_wye(self):
        found = level(
            load(amount=2080.0, volts=208.0, connection="L1-L2"),
            load(id="b", amount=1200.0, volts=120.0, connection="L3-N"),
            system="wye_208_120",
        )
        self.assertEqual([leg.actual.number for leg in found.legs], [10, 10, 10])

    def test_a_three_phase_load_on_a_one_phase_panel_is_refused(self):
        with self.assertRaises(CannotCompute):
            amperes_per_va("three_phase", "split_120_240")

    @settings(max_examples=40, deadline=None)
    @given(
        st.lists(
            st.tuples(st.sampled_from(["L1-N", "L2-N", "L1-L2", None]), st.floats(1, 9_000)), min_size=1, max_size=8
        )
    )
    def test_volt_amperes_of_the_legs_add_up(self, parts):
        loads = [
            load(id=f"l{n}", amount=va, connection=where, volts=240.0 if where == "L1-L2" else 120.0)
            for n, (where, va) in enumerate(parts)
        ]
        found = level(*loads)
        self.assertEqual(sum(leg.actual.number for leg in found.legs) * 120, found.demand_va.number)
        self.assertEqual(replay(found.recorder.steps), [])


class ContinuousAndMotors(unittest.TestCase):
    def test_continuous_is_kept_apart_and_raised_for_sizing(self):
        found = level(load(amount=2400.0, continuous=True), load(id="b", amount=2400.0)).worst
        self.assertEqual(
            (found.continuous.number, found.noncontinuous.number, found.actual.number, found.design.number),
            (10, 10, 20, Fraction("22.5")),
        )

    def test_a_charger_is_continuous_by_itself(self):
        self.assertEqual(level(load("vehicle_charging", 9600.0)).worst.design.number, 50)

    def test_the_largest_motor_is_raised_once_and_not_in_the_load_for_drop(self):
        found = level(load("motor", 2400.0), load("motor", 1200.0, id="b"), load("cooling", 960.0, id="c")).worst
        self.assertEqual((found.actual.number, found.design.number), (19, Fraction("21.5")))

    def test_cooling_can_be_the_largest_motor(self):
        self.assertEqual(
            level(load("motor", 1200.0), load("cooling", 2400.0, id="b")).worst.design.number, Fraction("17.5")
        )


class Pumps(unittest.TestCase):
    """A well pump of 1 hp at 240 V, 8 A: 1920 VA; three appliances of 1500 VA beside it."""

    def house(self, **pump):
        others = [
            load("fastened_appliance", 1_500.0, id=f"a{n}", dwelling_unit_id="home", volts=120.0) for n in range(3)
        ]
        motor = load("motor", 1.0, "hp", id="pump", dwelling_unit_id="home", **pump)
        return level(motor, *others)

    def test_a_pump_entered_as_a_motor_counts_among_the_four_where_it_is_fastened(self):
        # (1920 + 4500) x 75 % = 4815; without it three appliances, nothing taken off: 6420
        self.assertEqual(self.house(fastened_in_place=True).demand_va.number, 4_815)
        self.assertEqual(self.house().demand_va.number, 6_420)

    def test_it_stays_the_largest_motor(self):
        for fastened in (True, False):
            leg = self.house(fastened_in_place=fastened).worst
            self.assertEqual(leg.with_motor.number - leg.actual.number, 2)


class Levels(unittest.TestCase):
    def site(self):
        builder = JobBuilder()
        builder.add("dwelling_units", "unit")
        builder.service()
        builder.box("upper", "service", main_a=200.0, feeder_a=200.0)
        builder.box("lower", "upper")
        return builder

    def test_demand_applies_to_the_total_of_each_level_not_to_sums_of_results(self):
        builder = self.site()
        for box in ("upper", "lower"):
            builder.load(box, 1000.0, unit="ft2", category="lighting_area", dwelling_unit_id="unit", volts=None)
        levels = builder.report().levels
        self.assertEqual(levels["lower"].demand_va.number, 3000)
        self.assertEqual(levels["upper"].demand_va.number, 3000 + Fraction(35, 100) * 3000)

    def test_units_and_other_loads_are_grouped_apart(self):
        builder = self.site()
        builder.load("lower", 12_000.0, category="range", dwelling_unit_id="unit")
        builder.load("lower", 12_000.0, category="range")
        level_ = builder.report().levels["service"]
        self.assertEqual([group.units for group in level_.groups], [(), ("unit",)])
        self.assertEqual(level_.demand_va.number, 12_000 + 8_000)

    def test_breakers_may_add_up_to_more_than_the_feeder(self):
        builder = self.site()
        for number in range(6):
            builder.add("devices", f"extra{number}", enclosure_id="upper", role="branch", rating_a=100.0)
        builder.load("upper", 2_000.0)
        self.assertEqual([item for item in builder.report().findings if item.outcome == "must_fix"], [])

    def test_an_amount_that_is_missing_is_told_at_its_panel_and_unknown_above(self):
        builder = self.site()
        builder.load("lower", 1_000.0)["amount"] = None
        report = builder.report()
        self.assertIsInstance(report.levels["service"], LoadUnknown)
        self.assertEqual(finding(report, "load", "lower").outcome, "cannot_tell")
        self.assertIsNone(finding(report, "load", "upper"), "told once, where it is")

    def test_a_system_not_computed_is_named(self):
        builder = self.site()
        builder.load("lower", 1_000.0)
        thing(builder.job, "sources", "utility")["system"] = "delta_240_high_leg"
        report = builder.report()
        self.assertIsInstance(report.levels["lower"], LoadUnknown)
        self.assertEqual(finding(report, "not_computed", "utility").outcome, "cannot_tell")

    def test_dwelling_circuits_outside_a_dwelling_are_refused(self):
        builder = self.site()
        builder.load("lower", 2.0, unit="circuits", category="small_appliance", volts=None)
        self.assertIsInstance(builder.report().levels["lower"], LoadUnknown)

    def test_removed_loads_count_in_what_stands_alone(self):
        builder = self.site()
        builder.load("lower", 2_400.0, standing="removed")
        builder.load("lower", 4_800.0, standing="added")
        self.assertEqual(builder.report("existing").levels["lower"].demand_va.number, 2_400)
        self.assertEqual(builder.report("proposed").levels["lower"].demand_va.number, 4_800)
