"""Where enclosures stand on the drawing: to scale along the axis, each branch in a lane where it meets nothing."""

import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from nelvor.model.parse import parse_value
from nelvor.report.path import Lanes, places
from nelvor.topology.site import Site
from tests.support.jobs import JobBuilder, bakery, orchard

TREES = st.lists(st.tuples(st.integers(0, 30), st.integers(5, 200)), min_size=1, max_size=14)


def tree(edges):
    """Return a site whose panels are each fed from an earlier one, as (which, length in ft)."""
    builder = JobBuilder()
    names = [builder.service()]
    for number, (which, length) in enumerate(edges):
        fed_from = names[which % len(names)]
        names.append(builder.box(f"p{number}", fed_from, run={"length_ft": float(length)}))
    return Site(parse_value(builder.job))


def placed(site):
    return {place.id: place for place in places(site)}


def way_down(site, place, at):
    """The place a branch goes down from: the axis of what feeds it."""
    run = site.runs[place.run_id]
    return at[site.upstream_of(run)]


class Beside(unittest.TestCase):
    def test_what_pushes_in_stands_beyond_the_box_that_it_feeds_into(self):
        builder = JobBuilder()
        builder.service()
        builder.box("panel", "service")
        builder.box("switch", "panel", kind="disconnect", main_a=None, feeder_a=None)
        job = builder.job
        job["runs"] = [item for item in job["runs"] if item["id"] != "to-switch"]
        job["conductors"] = [item for item in job["conductors"] if item["run_id"] != "to-switch"]
        builder.add("sources", "roof", kind="inverter", system="split_120_240", interactive=True)
        builder.add("devices", "solar", enclosure_id="panel", role="source", rating_a=40.0)
        builder.add("lugs", "switch-lugs", enclosure_id="switch")
        builder.add("runs", "roof-switch", from_part="roof", to_part="switch-main", length_ft=30.0)
        builder.add("runs", "switch-panel", from_part="switch-lugs", to_part="solar", length_ft=10.0)
        at = placed(Site(parse_value(job)))
        self.assertEqual((at["switch"].x_ft, at["switch"].run_id), (at["panel"].x_ft + 10, "switch-panel"))
        self.assertEqual((at["roof"].x_ft, at["roof"].run_id), (at["panel"].x_ft + 40, "roof-switch"))
        self.assertGreater(at["switch"].lane, at["panel"].lane)


class Lane(unittest.TestCase):
    def test_what_does_not_meet_shares_a_lane(self):
        lanes = Lanes()
        self.assertEqual(lanes.new(0, 100), 0)
        self.assertEqual(lanes.below(0, 60, 80), 1)
        self.assertEqual(lanes.below(0, 20, 50), 1)
        self.assertEqual(lanes.below(0, 20, 50), 2)

    def test_nothing_goes_down_through_another_branch(self):
        lanes = Lanes()
        lanes.new(0, 100)
        lanes.below(0, 10, 90)
        lanes.new(0, 5)
        self.assertEqual(lanes.below(0, 50, 60), 3)

    def test_branches_that_touch_do_not_share(self):
        lanes = Lanes()
        lanes.new(0, 100)
        lanes.below(0, 50, 80)
        self.assertEqual(lanes.below(0, 20, 50), 2)


class Trees(unittest.TestCase):
    @settings(deadline=None, max_examples=60)
    @given(TREES)
    def test_every_enclosure_has_its_place_at_its_length_from_the_source(self, edges):
        site = tree(edges)
        at = placed(site)
        self.assertEqual(set(at) - set(site.sources), set(site.enclosures))
        for place in at.values():
            if place.run_id is not None:
                run = site.runs[place.run_id]
                self.assertAlmostEqual(place.x_ft, at[site.upstream_of(run)].x_ft + run.length_ft)

    @settings(deadline=None, max_examples=60)
    @given(TREES)
    def test_no_two_stand_on_one_spot_and_no_two_branches_overlap_in_a_lane(self, edges):
        site = tree(edges)
        at = placed(site)
        spans = {}
        for place in at.values():
            if place.run_id is None:
                continue
            begins = way_down(site, place, at)
            same_lane = begins.lane == place.lane
            first = begins.x_ft if not same_lane else place.x_ft
            spans.setdefault(place.lane, []).append((first, place.x_ft, place.id, begins.id if same_lane else None))
        for lane in spans.values():
            for number, (first, last, own, parent) in enumerate(lane):
                for other_first, other_last, other, other_parent in lane[number + 1 :]:
                    related = own in (other, other_parent) or other == parent
                    if not related:
                        self.assertTrue(last < other_first or other_last < first, (own, other))

    @settings(deadline=None, max_examples=60)
    @given(TREES)
    def test_a_branch_lies_below_what_feeds_it_and_the_first_goes_straight_on(self, edges):
        site = tree(edges)
        at = placed(site)
        for place in at.values():
            if place.run_id is not None:
                self.assertGreaterEqual(place.lane, way_down(site, place, at).lane)
        for owner, runs in site.runs_from.items():
            if runs:
                self.assertEqual(at[site.downstream_of(runs[0])].lane, at[owner].lane)

    @settings(deadline=None, max_examples=40)
    @given(TREES)
    def test_lanes_are_numbered_without_a_gap(self, edges):
        lanes = {place.lane for place in placed(tree(edges)).values()}
        self.assertEqual(lanes, set(range(max(lanes) + 1)))


class Demos(unittest.TestCase):
    def test_lanes_of_the_demos(self):
        bakery_at = placed(Site(parse_value(bakery())))
        self.assertEqual({bakery_at[name].lane for name in ("prep", "cold")}, {1})
        self.assertEqual(max(place.lane for place in bakery_at.values()), 3)
        orchard_at = placed(Site(parse_value(orchard())))
        self.assertEqual(orchard_at["green-panel"].lane, orchard_at["barn-panel"].lane)
