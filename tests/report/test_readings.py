"""The other readings of a report: levels side by side, lawful ways of a run, what an edition changes."""

import unittest

from nelvor.demo import DEMO_JOBS, demo_job
from nelvor.errors import NotFound
from nelvor.model.parse import parse_value
from nelvor.prices import prices_of, shipped_prices
from nelvor.report.check import check
from nelvor.report.comparison import compare_run
from nelvor.report.edition_change import edition_change
from nelvor.report.levels import level_table
from nelvor.report.wire import report_out
from nelvor.rulebook.rules import rulebook
from nelvor.working.recorder import replay
from tests.support.jobs import JobBuilder, bakery, changed, finding, mended, orchard, report_of


class Levels(unittest.TestCase):
    def rows(self, job):
        document = parse_value(job)
        table = level_table(check(document, "existing"), check(document, "proposed"))
        return {row.id: row for row in table.levels}

    def test_existing_proposed_and_the_difference(self):
        row = self.rows(orchard())["meter"]
        self.assertEqual((row.existing.demand_va, row.proposed.demand_va, row.more_va), ("35484", "65916", "+30432"))
        self.assertEqual((row.proposed.rating_a, row.proposed.spare_a, row.proposed.over), ("320", "21.8", False))

    def test_each_leg_and_the_neutral_in_both_states(self):
        rows = self.rows(orchard())
        row = rows["house-panel"]
        names = {item.name: item for item in row.quantities}
        self.assertEqual(list(names), ["Connected", "Calculated", "L1", "L2", "Neutral"])
        calculated = names["Calculated"]
        self.assertEqual((calculated.existing, calculated.proposed, calculated.more), ("35484", "43164", "+7680"))
        self.assertEqual((names["L1"].unit, names["L1"].more), ("A", "+32"))
        barn = rows["barn-panel"].quantities
        self.assertEqual({(item.existing, item.more) for item in barn}, {("", "")})

    def test_what_does_not_stand_yet_has_no_existing_side(self):
        row = self.rows(orchard())["green-panel"]
        self.assertIsNone(row.existing)
        self.assertEqual(row.more_va, "+7812")

    def test_a_level_that_cannot_be_told_says_why(self):
        row = self.rows(changed(orchard(), lambda job: job["loads"][0].update(amount=None)))["house-panel"]
        self.assertIn("amount", row.proposed.gap)
        self.assertEqual(row.more_va, "")


class Ways(unittest.TestCase):
    def compare(self, job, run_id="to-barn"):
        return compare_run(report_of(job), run_id)

    def test_each_way_is_lawful_when_it_is_taken(self):
        job = orchard()
        for way in self.compare(job).alternatives:
            with self.subTest(f"{way.words} {way.hots}"):

                def take(job, way=way):
                    run = next(item for item in job["runs"] if item["id"] == "to-barn")
                    run.update(material=way.material, insulation=way.insulation, method=way.method, hot_size=way.hots)

                report = report_of(changed(job, take))
                wrong = [item for item in report.findings if item.id == "to-barn" and item.outcome == "must_fix"]
                self.assertEqual([item for item in wrong if item.code != "cover"], [])
                self.assertEqual(report.runs["to-barn"].size("ground") or "", way.ground)

    def test_the_chosen_way_is_marked_and_the_least_work_comes_first_until_the_job_has_all_prices(self):
        found = self.compare(orchard())
        self.assertEqual(sum(way.chosen for way in found.alternatives), 1)
        self.assertGreater(len(found.alternatives), 20)
        self.assertFalse(found.priced)
        work = [way.work_place for way in found.alternatives]
        self.assertEqual(work, sorted(work))
        self.assertEqual(found.alternatives[0].method, "earth")
        priced = self.compare(changed(orchard(), self.with_all_prices(found)))
        self.assertTrue(priced.priced)
        prices = [way.price for way in priced.alternatives]
        self.assertEqual(prices, sorted(prices))
        self.assertFalse(self.compare(changed(orchard(), self.with_all_prices(found, but=1))).priced)

    def with_all_prices(self, found, but=0):
        items = sorted(found.prices)[but:]
        return lambda job: job.update(
            prices=[{"id": f"p{at}", "item": item, "price": 1.0 + at % 7} for at, item in enumerate(items)]
        )

    def indoors(self, job):
        next(item for item in job["runs"] if item["id"] == "to-barn").update(placement="indoors", cover_in=None)

    def test_nothing_is_offered_that_nobody_makes(self):
        ways = self.compare(changed(orchard(), self.indoors)).alternatives
        cables = {(way.insulation, way.material, way.hots) for way in ways if way.method == "cable"}
        self.assertTrue(cables)
        self.assertNotIn("aluminum", {material for insulation, material, _ in cables if insulation == "NM-B"})
        for insulation, material, size in cables:
            made = rulebook().resolve("2023").table("cable_sizes").find((insulation, material))["sizes"].split()
            self.assertIn(size, made)
        self.assertNotIn(
            ("SER", "aluminum", "1/0", 0), {(w.insulation, w.material, w.hots, w.step) for w in ways if w.step}
        )

    def test_a_size_that_is_not_made_gives_way_to_the_next_one_that_is(self):
        def small(job):
            self.indoors(job)
            next(item for item in job["devices"] if item["id"] == "disc-barn-main").update(rating_a=80.0, proposed={})

        ways = self.compare(changed(orchard(), small)).alternatives
        least = {(way.insulation, way.material): way.hots for way in ways if way.step == 0 and way.method == "cable"}
        self.assertEqual(least.get(("NM-B", "copper"), "2"), "2")  # never 3, which nobody makes

    def test_direct_burial_tells_where_it_has_to_change(self):
        ways = {way.insulation: way.change for way in self.compare(orchard()).alternatives if way.method == "earth"}
        self.assertIn("300.5(D)(1)", ways["USE-2"])
        self.assertIn("may not go on indoors", ways["USE-2"])
        self.assertIn("338.12(B)(1)", ways["USE-2"])

        def outdoors(job):
            for item in job["enclosures"]:
                item["placement"] = "outdoors"

        outside = self.compare(changed(orchard(), outdoors)).alternatives
        self.assertNotIn("indoors", next(way.change for way in outside if way.insulation == "USE-2"))
        self.assertEqual({way.change for way in outside if way.method != "earth"}, {""})

    def test_a_smaller_size_than_the_first_of_a_wiring_is_not_lawful(self):
        first = next(way for way in self.compare(orchard()).alternatives if way.free and way.material == "aluminum")
        self.assertEqual(first.hots, "1/0")
        self.assertIn("is below", first.limited_by)

    def test_the_longest_length_meets_the_limit_exactly(self):
        job = orchard()
        way = next(way for way in self.compare(job).alternatives if way.chosen)

        def stretch(job):
            next(item for item in job["runs"] if item["id"] == "to-barn")["length_ft"] = way.longest_ft

        total = report_of(changed(job, stretch)).runs["to-barn"].figures["total_drop"].number
        self.assertAlmostEqual(float(total), 3.0, places=6)

    def test_prices_of_the_job_replace_the_shipped_ones(self):
        def own(job):
            job["prices"] = [{"id": "p", "item": "aluminum 1/0", "price": 50.0}]

        document = parse_value(changed(orchard(), own))
        self.assertEqual(prices_of(document)["aluminum 1/0"], 50)
        self.assertEqual(set(prices_of(document)), set(shipped_prices()))
        dear = next(way for way in self.compare(changed(orchard(), own)).alternatives if way.chosen)
        self.assertGreater(dear.price, 50 * 180)

    def test_the_utilitys_run_is_not_compared(self):
        for run_id in ("drop", "nowhere"):
            with self.assertRaises(NotFound):
                self.compare(orchard(), run_id)


class EditionChanges(unittest.TestCase):
    def change(self, job, edition):
        other = changed(job, lambda job: job["settings"].update(edition=edition))
        return edition_change(report_of(job), report_of(other))

    def test_figures_sections_and_findings(self):
        found = self.change(orchard(), "2017")
        self.assertEqual((found.before, found.after), ("2023", "2017"))
        figures = {(item.name, item.figure): (item.before, item.after) for item in found.figures}
        self.assertEqual(figures["House panel", "calculated load"], ("43164 VA", "42660 VA"))
        self.assertIn(("Table 310.16", "Table 310.15(B)(16)"), [(item.before, item.after) for item in found.sections])

    def test_the_bakery_lighting_differs_by_edition(self):
        found = self.change(bakery(), "2017")
        self.assertIn("Shop panel", {item.name for item in found.figures})

    def test_stretches_and_boxes_are_among_what_changes(self):
        """6 grounding conductors of 10: 2.5 in3 in 2017, a quarter of 2.5 more for each of two from 2020 on."""
        builder = JobBuilder("2017")
        builder.service()
        small = {"main_a": 30.0, "feeder_a": 30.0}
        builder.add("boxes", "b", name="Box", internal_clamps=False)
        for name in ("one", "two", "three"):
            builder.box(name, "service", **small)
            builder.load(name, 6_000.0)
            ends = {"run_id": f"to-{name}", "enters": "left", "leaves": "right", "spliced": True}
            builder.add("pulls", f"pull-{name}", box_id="b", **ends)
        buried = {"placement": "underground", "method": "pvc40", "burial_location": "general", "cover_in": 18.0}
        builder.add("stretches", "s", name="crossing", run_id="to-one", length_ft=5.0, **buried)
        found = {(item.name, item.figure): item for item in self.change(builder.job, "2023").figures}
        change = found["Box", "least volume"]
        self.assertEqual((change.before, change.after), ("47.5 in³", "48.75 in³"))
        sections = {name for name, _ in found}
        self.assertFalse([name for name in sections if ":" in name])

    def test_the_same_edition_changes_nothing(self):
        found = self.change(orchard(), "2023")
        self.assertEqual((found.figures, found.sections, found.findings), ([], [], []))


class Bakery(unittest.TestCase):
    """Figures of the second demo, worked out by hand from its loads (2020 edition)."""

    def setUp(self):
        self.report = check(demo_job("bakery"))

    def test_each_kind_of_verdict_is_shown_and_the_must_fix_clears(self):
        for outcome in ("must_fix", "advice", "cannot_tell", "holds"):
            self.assertGreater(self.report.count(outcome), 0, outcome)
        wrong = next(item for item in self.report.findings if item.outcome == "must_fix")
        self.assertIsNone(finding(report_of(mended(bakery(), wrong)), wrong.code, wrong.id))

    def test_the_kitchen_by_hand(self):
        """Six pieces: 18 + 12 + 6 + 9 + 7.5 + 8 = 60.5 kW x 65 % = 39325 VA, above the two largest of 30 kW."""
        lines = {line.label: line.demand_va.number for line in self.report.levels["kitchen"].groups[0].lines}
        self.assertEqual(lines["Kitchen equipment"], 60_500 * 65 / 100)

    def test_the_shop_by_hand(self):
        """1400 ft2 x 1.9 = 2660 VA of lighting above the sign; receptacles 24 x 180 + 2400 = 6720 VA."""
        lines = {line.label: line.demand_va.number for line in self.report.levels["shop"].groups[0].lines}
        self.assertEqual(lines["Lighting by area, store"], 2_660)
        self.assertEqual(lines["Receptacles"], 6_720)

    def test_receptacles_of_the_whole_are_reduced_once_at_each_level(self):
        """Main: 6720 + 60 x 180 = 17520 VA: 10000 + 3760."""
        lines = {line.label: line.demand_va.number for line in self.report.levels["main-panel"].groups[0].lines}
        self.assertEqual(lines["Receptacles"], 13_760)

    def test_the_tap_and_the_secondary(self):
        self.assertEqual(self.report.runs["to-cold"].size("hots"), "4")
        self.assertEqual(self.report.runs["to-mixer"].kind, "secondary")

    def test_every_working_of_the_demos_replays(self):
        for name in DEMO_JOBS:
            report = check(demo_job(name))
            for answer in (*report.runs.values(), *report.capacity.values(), *report.panels.values()):
                self.assertEqual(replay(answer.working.steps), [])
            report_out(report)
