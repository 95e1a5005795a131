"""Who feeds whom: the feed by design, sources beside it, loops, and what protects a run."""

import unittest

from hypothesis import given, settings

from nelvor.model.parse import parse_value
from nelvor.topology.feeds import INTERACTIVE, UTILITY
from nelvor.topology.scenario import Scenario, feeds_in, ordinary, scenarios
from nelvor.topology.site import Site
from tests.support.jobs import JobBuilder
from tests.support.sites import sites


def with_solar(first: bool) -> JobBuilder:
    """Return a panel with a solar run, landed first or last in the lists."""
    builder = JobBuilder()
    builder.service()
    builder.box("panel", "service")
    builder.load("panel", 4_800.0)
    builder.add("sources", "a-roof", kind="inverter", system="split_120_240", interactive=True)
    builder.add("devices", "a-solar", enclosure_id="panel", role="source", rating_a=40.0, bus_id="panel-bus")
    builder.add("runs", "a-solar-run", from_part="a-roof", to_part="a-solar", length_ft=10.0)
    if first:
        for name in ("sources", "devices", "runs"):
            builder.job[name].insert(0, builder.job[name].pop())
    return builder


def with_generator() -> JobBuilder:
    """Return transfer gear fed by the utility, with a generator on its other throw and a panel behind it."""
    builder = JobBuilder()
    builder.service()
    builder.box("ats", "service", kind="transfer_switch")
    for name in ("standby", "out"):
        builder.add("lugs", f"ats-{name}", enclosure_id="ats")
    builder.add("sources", "engine", kind="generator", system="split_120_240", interactive=False)
    builder.add("runs", "engine-run", from_part="engine", to_part="ats-standby", length_ft=30.0)
    builder.add("transfers", "gear", enclosure_id="ats", load_part="ats-out", switches_neutral=False)
    builder.add("throws", "gear-u", transfer_id="gear", name="Utility", part="ats-main")
    builder.add("throws", "gear-g", transfer_id="gear", name="Generator", part="ats-standby")
    builder.box("backed", "ats")
    for item in [builder.job["runs"][-1], *builder.job["conductors"]]:
        if item["from_part"] == "ats-to-backed":
            item["from_part"] = "ats-out"
    return builder


class ByDesign(unittest.TestCase):
    def test_a_solar_run_is_no_feed_wherever_it_stands_in_the_list(self):
        for first in (True, False):
            site = Site(parse_value(with_solar(first).job))
            self.assertEqual(site.feeding_run("panel").id, "to-panel")
            self.assertEqual(site.source_of("panel").id, "utility")
            self.assertEqual(site.feeds.beside, {"a-solar-run"})
            self.assertEqual(site.main_of("panel").id, "panel-main")
            self.assertEqual(site.protection_ahead["to-panel"].id, "service-to-panel")

    def test_what_a_source_pushes_in_is_told_and_carries_no_load(self):
        report = with_solar(True).report()
        self.assertEqual(report.runs["a-solar-run"].kind, "output")
        self.assertNotIn("load", report.runs["a-solar-run"].figures)
        told = {(item.id, item.outcome) for item in report.findings}
        self.assertIn(("a-solar-run", "cannot_tell"), told)
        self.assertEqual(report.levels["panel"].demand_va.number, 4800)

    def test_the_utility_is_the_feed_of_transfer_gear(self):
        site = Site(parse_value(with_generator().job))
        self.assertEqual(site.feeding_run("ats").id, "to-ats")
        self.assertEqual(site.feeds.rank["backed"], UTILITY)
        self.assertEqual({run.id for run in site.runs_into["ats"]}, {"to-ats", "engine-run"})

    def test_an_interactive_source_alone_feeds(self):
        builder = JobBuilder()
        builder.job["sources"][0].update(kind="inverter", interactive=True)
        builder.box("panel", "utility")
        site = Site(parse_value(builder.job))
        self.assertEqual((site.feeding_run("panel").id, site.feeds.rank["panel"]), ("to-panel", INTERACTIVE))
        self.assertEqual(site.feeds.beside, frozenset())

    def test_a_loop_is_told_and_everything_else_answered(self):
        builder = JobBuilder()
        builder.service()
        builder.box("one", "service")
        builder.box("two", "one")
        builder.add("devices", "back", enclosure_id="two", role="feeder", rating_a=60.0)
        builder.add("lugs", "one-more", enclosure_id="one")
        builder.add("runs", "closing", from_part="back", to_part="one-more", length_ft=10.0)
        builder.load("two", 2_400.0)
        report = builder.report()
        self.assertEqual(report.site.feeds.in_loop, {"closing", "to-two"})
        self.assertEqual({item.id for item in report.findings if item.code == "loop"}, {"closing", "to-two"})
        self.assertEqual(report.levels["service"].demand_va.number, 2400)
        self.assertEqual(report.site.walking_order, ["meter", "service", "one", "two"])

    def test_interlocked_devices_keep_two_supplies_apart(self):
        builder = JobBuilder()
        builder.service()
        builder.box("panel", "service")
        builder.add("sources", "set", kind="generator", system="split_120_240")
        builder.add("devices", "inlet", enclosure_id="panel", role="source", rating_a=30.0)
        builder.add("runs", "cord", from_part="set", to_part="inlet", length_ft=20.0)
        codes = {item.code for item in builder.report().findings if item.outcome == "must_fix"}
        self.assertIn("second_feed", codes)
        builder.add("interlocks", "slide", device_a="panel-main", device_b="inlet")
        codes = {item.code for item in builder.report().findings if item.outcome == "must_fix"}
        self.assertNotIn("second_feed", codes)

    @settings(deadline=None, max_examples=40)
    @given(sites())
    def test_outward_holds_everything_once_and_what_supplies_first(self, job):
        site = Site(parse_value(job))
        order = site.feeds.outward
        self.assertEqual(sorted(order), sorted(site.feeds.root))
        self.assertEqual(sorted(site.walking_order), sorted(site.enclosures))
        place = {owner: number for number, owner in enumerate(order)}
        for owner, runs in site.feeds.supplying_from.items():
            for run in runs:
                self.assertLess(place[owner], place[site.downstream_of(run)])

    @settings(deadline=None, max_examples=40)
    @given(sites())
    def test_a_run_is_in_a_loop_where_its_end_leads_back_to_its_beginning(self, job):
        site = Site(parse_value(job))

        def reached(owner):
            found, waiting = {owner}, [owner]
            while waiting:
                ends = {site.downstream_of(run) for run in site.runs_from.get(waiting.pop(), [])} - found
                found |= ends
                waiting += ends
            return found

        back = {run.id for run in site.drawn_runs if site.upstream_of(run) in reached(site.downstream_of(run))}
        self.assertEqual(site.feeds.in_loop, back)


class Scenarios(unittest.TestCase):
    def setUp(self):
        self.site = Site(parse_value(with_generator().job))

    def feeds(self, throw: str, *on: str) -> dict:
        scenario = Scenario("proposed", (("gear", throw),), frozenset(on))
        found = feeds_in(self.site, self.site.network, scenario)
        return {enclosure: [run.id for run in runs] for enclosure, runs in found.items()}

    def test_on_the_utility(self):
        found = self.feeds("gear-u", "utility")
        self.assertEqual((found["ats"], found["backed"]), (["to-ats"], ["to-backed"]))

    def test_on_the_generator_the_rest_of_the_house_is_dark(self):
        found = self.feeds("gear-g", "engine")
        self.assertEqual(found, {"ats": ["engine-run"], "backed": ["to-backed"]})

    def test_the_generator_stands_ready_while_the_utility_feeds(self):
        self.assertEqual(self.feeds("gear-u", "utility", "engine")["ats"], ["engine-run", "to-ats"])

    def test_the_ordinary_day_closes_the_throw_of_the_utility(self):
        scenario = ordinary(self.site, self.site.feeds, "proposed")
        self.assertEqual((scenario.positions, scenario.sources_on), ((("gear", "gear-u"),), {"utility"}))

    def test_every_position_with_and_without_the_utility(self):
        found = {(item.positions[0][1], item.sources_on) for item in scenarios(self.site, "proposed")}
        both = frozenset({"utility", "engine"})
        self.assertEqual(found, {(t, on) for t in ("gear-u", "gear-g") for on in (both, frozenset({"engine"}))})
