"""What must hold whatever the numbers are: laws of loads, legs, stretches, boxes and of making a run otherwise."""

import unittest
from fractions import Fraction

from hypothesis import assume, given, settings
from hypothesis import strategies as st

from nelvor.clauses.box_fill import BoxContents, box_volume
from nelvor.clauses.load_kind import amperes_per_va, kind_of, legs_of
from nelvor.clauses.pull_box import Pull, pull_box, trade_inches
from nelvor.errors import CannotCompute, MissingFigure
from nelvor.judges.run import made_otherwise, with_larger_hots
from nelvor.model.things import Load
from nelvor.model.vocabulary import SIZES
from nelvor.rulebook.rules import rulebook
from nelvor.working import Recorder
from tests.judges.test_runs import answer, feeder
from tests.support.jobs import JobBuilder, thing, through_transformer

RULES = rulebook().resolve("2023")
LOADS = st.lists(
    st.tuples(st.integers(100, 20_000), st.sampled_from(["other", "motor", "receptacles", "kitchen"])), max_size=5
)
SMALL_SIZES = st.sampled_from(["18", "16", "14", "12", "10", "8", "6"])
TRADE_SIZES = st.sampled_from(["1", "1-1/4", "1-1/2", "2", "2-1/2", "3", "4"])
WALLS = st.sampled_from(["left", "right", "top", "bottom"])


def two_panels(method, *, above=(), beneath=()):
    """Return a chain of two panels with loads as (VA, category), by a method for loads of no dwelling unit."""
    builder = JobBuilder()
    builder.job["settings"]["other_load_method"] = method
    builder.service(main_a=400.0)
    builder.add("buildings", "barn", name="Barn", use="farm")
    builder.box("panel", "service", building="barn", main_a=400.0, feeder_a=400.0, rating_a=400.0)
    builder.box("beyond", "panel", building="barn", main_a=400.0, feeder_a=400.0, rating_a=400.0)
    for box, loads in (("panel", above), ("beyond", beneath)):
        for va, category in loads:
            builder.load(box, float(va), category=category, without_diversity=va % 2 == 0)
    return builder


class LoadsOnLevels(unittest.TestCase):
    METHODS = st.sampled_from(["connected", "demand_factors", "farm"])

    @settings(deadline=None, max_examples=40)
    @given(METHODS, LOADS, LOADS, st.integers(100, 20_000))
    def test_one_more_load_never_lowers_a_level(self, method, above, beneath, more):
        """But for a level with one load of a farm building alone: it stands whole, and Table 220.102 begins with several."""
        assume(method != "farm" or 1 not in (len(beneath), len(above) + len(beneath)))
        before = two_panels(method, above=above, beneath=beneath).report().levels
        after = two_panels(method, above=above, beneath=[*beneath, (more, "other")]).report().levels
        for place in ("service", "panel", "beyond"):
            self.assertGreaterEqual(after[place].demand_va.number, before[place].demand_va.number)
            self.assertEqual(after[place].connected_va.number, before[place].connected_va.number + more)

    @settings(deadline=None, max_examples=40)
    @given(METHODS, LOADS)
    def test_a_load_may_stand_on_either_panel_of_a_building_for_all_above(self, method, loads):
        here = two_panels(method, above=loads).report().levels["service"]
        there = two_panels(method, beneath=loads).report().levels["service"]
        self.assertEqual(here.demand_va.number, there.demand_va.number)
        self.assertEqual([leg.design.number for leg in here.legs], [leg.design.number for leg in there.legs])

    @settings(deadline=None, max_examples=40)
    @given(METHODS, LOADS)
    def test_demand_is_never_above_what_is_connected(self, method, loads):
        level = two_panels(method, beneath=loads).report().levels["service"]
        self.assertLessEqual(level.demand_va.number, level.connected_va.number)

    @settings(deadline=None, max_examples=30)
    @given(st.integers(1, 60), st.sampled_from(["L1-N", "L2-N", "L3-N", "L1-L2", "L2-L3", "L1-L3", None]))
    def test_a_transformer_passes_every_volt_ampere_on(self, kva, connection):
        """The legs of the primary carry at least what a balanced load of the same volt-amperes would."""
        volts = 277.0 if connection and connection.endswith("N") else 480.0
        load = {"connection": connection, "volts": volts, "three_phase": connection is None}
        builder = through_transformer(load=load)
        builder.job["loads"][0]["amount"] = kva * 1000.0
        levels = builder.report().levels
        self.assertEqual(levels["service"].demand_va.number, levels["beyond"].demand_va.number)
        amperes = [float(leg.actual.number) for leg in levels["service"].legs]
        self.assertGreaterEqual(sum(amperes) * 208 / 3**0.5, kva * 1000 * 0.999999)
        self.assertEqual(levels["service"].neutral.number, 0)


class Legs(unittest.TestCase):
    """Volt-amperes are neither lost nor won on the way to the legs."""

    def load(self, **values):
        return Load(id="load", enclosure_id="panel", **{"amount": 1200.0, "unit": "VA", "volts": 120.0, **values})

    @given(
        st.sampled_from(["split_120_240", "wye_208_120", "wye_480_277"]),
        st.sets(st.sampled_from(["L1", "L2", "L3"]), min_size=1),
    )
    def test_a_load_to_neutral_lies_on_the_legs_that_are_there_and_amounts_to_itself(self, system, brought):
        brought &= set(legs_of(system))
        assume(brought)
        volts = 277 if system == "wye_480_277" else 120
        kind = kind_of(self.load(volts=float(volts)), system, RULES, frozenset(brought))
        on = amperes_per_va(kind.connection, system)
        self.assertEqual(set(on), brought)
        total = sum(on.values(), Fraction(0)) * volts
        self.assertAlmostEqual(float(total), 1.0, delta=0.003 if system == "wye_480_277" else 0.002)
        self.assertEqual(len(set(on.values())), 1)

    @given(st.sampled_from(["L1-L2", "L2-L3", "L1-L3"]))
    def test_a_load_between_lines_draws_the_same_on_both(self, connection):
        for system, volts in (("wye_208_120", 208), ("wye_480_277", 480)):
            on = amperes_per_va(connection, system)
            self.assertEqual(set(on), set(connection.split("-")))
            self.assertEqual(set(on.values()), {Fraction(1, volts)})

    @given(st.sampled_from(["L1-N", "L2-N", "L3-N", "L1-L2", "L2-L3", "L1-L3", "three_phase"]))
    def test_a_connection_to_legs_that_are_not_there_is_refused(self, connection):
        load = self.load(connection=connection, volts=208.0)
        for brought in ({"L1"}, {"L1", "L2"}, {"L2", "L3"}):
            named = {"L1", "L2", "L3"} if connection == "three_phase" else set(connection.removesuffix("-N").split("-"))
            if named <= brought:
                self.assertEqual(kind_of(load, "wye_208_120", RULES, frozenset(brought)).connection, connection)
            else:
                with self.assertRaises(CannotCompute):
                    kind_of(load, "wye_208_120", RULES, frozenset(brought))


class Stretches(unittest.TestCase):
    def size(self, *lengths, ambient=55.0, **run):
        builder = feeder({"length_ft": 200.0, **run})
        for number, length in enumerate(lengths):
            builder.add("stretches", f"s{number}", run_id="to-panel", length_ft=float(length), ambient_c=ambient)
        found = answer(builder).size("hots")
        return SIZES.index(found)

    @settings(deadline=None, max_examples=40)
    @given(st.integers(1, 150), st.integers(0, 49))
    def test_a_longer_hot_stretch_never_gets_smaller_hots(self, length, more):
        self.assertGreaterEqual(self.size(length + more), self.size(length))

    @settings(deadline=None, max_examples=40)
    @given(st.integers(1, 60), st.integers(1, 60))
    def test_two_stretches_count_as_one_of_both_lengths(self, one, other):
        self.assertEqual(self.size(one, other), self.size(one + other))

    @settings(deadline=None, max_examples=30)
    @given(st.integers(1, 199), st.floats(-10, 60))
    def test_a_stretch_that_is_as_the_run_changes_nothing(self, length, ambient):
        plain = answer(feeder({"length_ft": 200.0, "ambient_c": ambient}))
        builder = feeder({"length_ft": 200.0, "ambient_c": ambient})
        builder.add("stretches", "s", run_id="to-panel", length_ft=float(length))
        parted = answer(builder)
        for name, figure in plain.figures.items():
            self.assertEqual(parted.figures[name].value, figure.value, name)

    @settings(deadline=None, max_examples=30)
    @given(st.integers(1, 199), st.sampled_from(["pvc40", "pvc80", "rmc"]))
    def test_the_drop_lies_between_that_of_either_way(self, length, method):
        own = answer(feeder({"length_ft": 200.0})).figures["drop"].number
        other = answer(feeder({"length_ft": 200.0, "method": method})).figures["drop"].number
        builder = feeder({"length_ft": 200.0})
        builder.add("stretches", "s", run_id="to-panel", length_ft=float(length), method=method)
        mixed = answer(builder).figures["drop"].number
        self.assertLessEqual(min(own, other), mixed)
        self.assertLessEqual(mixed, max(own, other))


class MadeOtherwise(unittest.TestCase):
    """The same run with other hots, by the short way of a comparison and by solving it anew."""

    def test_larger_hots_by_either_way_give_the_same_answer(self):
        for run in (
            None,
            {"material": "aluminum"},
            {"sets": 2, "hot_size": "2/0"},
            {"method": "pvc40", "placement": "underground", "burial_location": "general"},
        ):
            first = made_otherwise(answer(feeder(run)), material="copper")
            place = SIZES.index(first.size("hots"))
            for size in SIZES[place + 1 : place + 5]:
                short = with_larger_hots(first, size)
                anew = made_otherwise(first, hot_size=size)
                self.assertEqual(
                    {name: figure.value for name, figure in short.figures.items()},
                    {name: figure.value for name, figure in anew.figures.items()},
                )
                told = [(item.code, item.outcome, item.text) for item in short.verdicts]
                self.assertEqual(told, [(item.code, item.outcome, item.text) for item in anew.verdicts])

    def test_a_feeder_of_a_dwelling_unit_keeps_its_bound_when_it_is_made_otherwise(self):
        """Behind 2/0 copper that carries the whole unit a 200 A feeder is 2/0 too; by the table it is 3/0, or 4/0 aluminum
        (180 A, next size up)."""
        builder = JobBuilder()
        builder.add("dwelling_units", "unit", name="Unit")
        builder.service(main_a=200.0)
        builder.box("panel", "service", main_a=200.0, feeder_a=200.0)
        builder.load("panel", 24_000.0, dwelling_unit_id="unit")
        builder.load("service", 6_000.0, dwelling_unit_id="unit")
        found = builder.report().runs["to-panel"]
        self.assertEqual(found.size("hots"), "2/0")
        self.assertEqual(made_otherwise(found, method="pvc40").size("hots"), "2/0")
        self.assertEqual(made_otherwise(found, material="aluminum").size("hots"), "4/0")

    def test_upstream_is_left_as_it_is(self):
        report = feeder({"length_ft": 120.0}).report()
        found = report.runs["to-panel"]
        other = made_otherwise(found, material="aluminum")
        self.assertEqual(other.drop_ahead, found.drop_ahead)
        self.assertGreater(other.figures["drop"].number, 0)


class Boxes(unittest.TestCase):
    def volume(self, *contents):
        return box_volume(Recorder(RULES), BoxContents(*contents)).number

    @given(st.lists(SMALL_SIZES, min_size=1, max_size=12), SMALL_SIZES)
    def test_one_more_conductor_takes_more_room(self, sizes, more):
        self.assertGreater(self.volume([*sizes, more]), self.volume(sizes))

    @given(
        st.lists(SMALL_SIZES, min_size=1, max_size=8),
        st.lists(SMALL_SIZES, max_size=8),
        st.lists(SMALL_SIZES, max_size=3),
    )
    def test_the_order_does_not_matter(self, sizes, grounds, devices):
        self.assertEqual(self.volume(sizes, grounds, devices), self.volume(sizes[::-1], grounds[::-1], devices[::-1]))

    @given(st.lists(SMALL_SIZES, min_size=1, max_size=8), st.lists(SMALL_SIZES, min_size=1, max_size=8))
    def test_grounding_conductors_take_less_room_than_as_many_insulated_ones(self, sizes, grounds):
        self.assertLessEqual(self.volume(sizes, grounds), self.volume([*sizes, *grounds]))

    def test_a_size_above_the_table_and_an_empty_box_are_refused(self):
        with self.assertRaises(MissingFigure):
            self.volume(["4"])
        with self.assertRaises(CannotCompute):
            self.volume([])

    def least(self, pulls):
        found = pull_box(Recorder(RULES), "4/0", pulls)
        return [side.number if side else Fraction(0) for side in (found.width, found.height)]

    @given(st.lists(st.tuples(WALLS, WALLS, TRADE_SIZES), min_size=1, max_size=6), st.tuples(WALLS, WALLS, TRADE_SIZES))
    def test_one_more_pull_never_asks_for_a_smaller_box(self, pulls, more):
        made = [Pull(enters, leaves, size, size) for enters, leaves, size in pulls]
        extra = Pull(more[0], more[1], more[2], more[2])
        for before, after in zip(self.least(made), self.least([*made, extra]), strict=True):
            self.assertGreaterEqual(after, before)

    @given(WALLS, WALLS, TRADE_SIZES, TRADE_SIZES)
    def test_a_larger_raceway_never_asks_for_a_smaller_box(self, enters, leaves, one, other):
        small, large = sorted((one, other), key=trade_inches)
        for before, after in zip(
            self.least([Pull(enters, leaves, small, small)]),
            self.least([Pull(enters, leaves, large, large)]),
            strict=True,
        ):
            self.assertGreaterEqual(after, before)

    @given(st.sampled_from([("left", "right"), ("right", "left"), ("top", "bottom")]), TRADE_SIZES)
    def test_a_straight_pull_asks_for_eight_times_its_size_along_it_alone(self, walls, size):
        along = self.least([Pull(*walls, size, size)])
        self.assertEqual(sorted(along), [0, 8 * trade_inches(size)])


class Circuits(unittest.TestCase):
    @settings(deadline=None, max_examples=40)
    @given(st.integers(1, 48), st.sampled_from(["copper", "aluminum"]))
    def test_several_receptacles_never_get_smaller_conductors(self, amperes, material):
        sizes = []
        for several in (False, True):
            builder = feeder(
                {"several_receptacles": several, "material": material},
                feeder_a=50.0,
                main_a=50.0,
                load_va=amperes * 240.0,
            )
            thing(builder.job, "devices", "service-to-panel")["role"] = "branch"
            sizes.append(SIZES.index(answer(builder).size("hots")))
        self.assertGreaterEqual(sizes[1], sizes[0])
