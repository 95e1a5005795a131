import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from nelvor.judges.zones import zones
from nelvor.rulebook.rules import rulebook
from nelvor.topology.joints import inside
from nelvor.topology.site import Site
from tests.support.jobs import JobBuilder, thing

KINDS = ("screw", "strap", "wire", "factory", "tied_bars", "branch_neutral", "branch_ground", "relay")
MADE = st.sampled_from([True, False, None])
BONDS = st.lists(st.tuples(st.sampled_from(KINDS), MADE), max_size=5)
WORSE = {"apart": 0, "unknown": 1, "bonded": 2}


def box(bonds, insulated=True, ground_insulated=False):
    """Return a site whose panel holds these bonds between neutral bar and metal, or between the bars."""
    builder = JobBuilder()
    builder.service()
    builder.box("panel", "service")
    builder.job["bonds"] = [bond for bond in builder.job["bonds"] if bond["enclosure_id"] != "panel"]
    thing(builder.job, "bars", "panel-n")["insulated"] = insulated
    thing(builder.job, "bars", "panel-g")["insulated"] = ground_insulated
    for number, (kind, made) in enumerate(bonds):
        across = kind in ("tied_bars", "branch_neutral", "branch_ground")
        builder.add(
            "bonds",
            f"bond{number}",
            enclosure_id="panel",
            kind=kind,
            part_a="panel-n",
            part_b="panel-g" if across else "panel",
            made=made,
        )
    return Site(builder.document())


class LawsOfJoints(unittest.TestCase):
    """What holds for any set of bonds in a box."""

    @settings(max_examples=60, deadline=None)
    @given(BONDS, st.tuples(st.sampled_from(KINDS), MADE), st.sampled_from([True, False, None]))
    def test_one_more_bond_never_parts_neutral_and_metal(self, bonds, more, insulated):
        before = inside(box(bonds, insulated), "panel").found
        after = inside(box([*bonds, more], insulated), "panel").found
        self.assertGreaterEqual(WORSE[after], WORSE[before])

    @settings(max_examples=60, deadline=None)
    @given(BONDS, st.sampled_from([True, False, None]))
    def test_one_made_joint_is_enough_and_none_is_needed_to_be_apart(self, bonds, insulated):
        found = inside(box(bonds, insulated), "panel")
        states = [made for _, made in bonds] + [None if insulated is None else not insulated]
        wanted = "bonded" if True in states else "unknown" if None in states else "apart"
        self.assertEqual(found.found, wanted)

    @settings(max_examples=40, deadline=None)
    @given(BONDS)
    def test_what_joins_is_named_joint_by_joint(self, bonds):
        found = inside(box(bonds), "panel")
        self.assertEqual(len(found.joining), sum(made is True for _, made in bonds))
        if found.found == "unknown":
            self.assertEqual(len(found.doubtful), sum(made is None for _, made in bonds))

    def test_a_tie_to_a_ground_bar_that_stands_off_the_metal_joins_nothing(self):
        self.assertEqual(inside(box([("tied_bars", True)], ground_insulated=True), "panel").found, "apart")
        self.assertEqual(inside(box([("tied_bars", True)], ground_insulated=None), "panel").found, "bonded")

    def test_a_screw_in_the_bar_but_not_in_the_box_is_open(self):
        self.assertEqual(inside(box([("screw", False)]), "panel").found, "apart")

    def test_a_box_without_a_neutral_bar_has_nothing_to_join(self):
        builder = JobBuilder()
        builder.service()
        builder.job["bars"] = [bar for bar in builder.job["bars"] if bar["id"] != "service-n"]
        for item in [*builder.job["conductors"], *builder.job["bonds"], *builder.job["electrodes"]]:
            for field, value in item.items():
                if value == "service-n":
                    item[field] = "service"
        self.assertEqual(inside(Site(builder.document()), "service").found, "no_neutral")


class LawsOfZones(unittest.TestCase):
    def site(self, depth: int, marking: str, marked_at: int) -> Site:
        builder = JobBuilder()
        builder.box("meter", "utility", kind="meter", ground=False)
        fed_from = "meter"
        for number in range(depth):
            kind = "disconnect" if number == marked_at else "panel"
            extra = {"emergency_marking": marking} if number == marked_at else {}
            fed_from = builder.box(f"b{number}", fed_from, kind=kind, **extra)
        return Site(builder.document())

    @settings(max_examples=40, deadline=None)
    @given(
        st.integers(1, 6),
        st.sampled_from(["none", "service_disconnect", "meter_disconnect", "not_service_equipment"]),
        st.integers(0, 5),
        st.sampled_from(["2020", "2023"]),
    )
    def test_exactly_one_service_disconnect_on_each_way_and_only_supply_ahead_of_it(self, depth, marking, at, edition):
        site = self.site(depth, marking, at)
        kinds = [zone.kind for zone in zones(site, rulebook().resolve(edition)).values()]
        passed_over = at == 0 and marking in ("meter_disconnect", "not_service_equipment")
        if passed_over and depth == 1:
            self.assertEqual(kinds, ["supply", "supply"])
            return
        self.assertEqual(kinds.count("service"), 1)
        first = kinds.index("service")
        self.assertEqual(kinds[:first], ["supply"] * first)
        self.assertEqual(kinds[first + 1 :], ["load"] * (len(kinds) - first - 1))
