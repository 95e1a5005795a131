"""The demo is complete, shows each kind of verdict, and every mendable must-fix clears by its mend."""

import unittest

from nelvor.demo import demo_job
from nelvor.model.resolve import resolve
from nelvor.report.check import check
from nelvor.report.path import places
from nelvor.report.summary import signed_summary
from nelvor.study.diagnosis.answer import Bench
from nelvor.study.diagnosis.readings import Meter, Reading
from nelvor.study.situation import Situation
from nelvor.topology.site import Site
from tests.support.jobs import chain, mended, orchard, report_of, thing


class Annex(unittest.TestCase):
    """Three flats that misbehave: two bonds too many, and one that nobody has looked at."""

    def setUp(self):
        self.report = check(demo_job("annex"))

    def test_each_wrong_bond_is_found_and_the_doubtful_one_is_asked_for(self):
        told = {(item.id, item.outcome) for item in self.report.findings if item.code == "bond"}
        wrong = {("annex", "must_fix"), ("flat-c-panel", "must_fix"), ("flat-b-panel", "cannot_tell")}
        self.assertEqual(told, wrong)

    def test_the_doubtful_bond_is_told_from_readings_of_the_site(self):
        bench = Bench(self.report, Situation())
        made = next(cause for cause in bench.causes if "Flat B" in cause.words and cause.kind == "bond_too_many")
        shown = dict(zip([item.id for item in bench.responses.seen], abs(bench.responses.of(made)), strict=True))
        ids = ("run:to-flat-b:ground", "run:to-flat-b:neutral", "run:to-annex:ground")
        readings = [Reading(observable=item, value=round(float(shown[item]), 1), unit="A") for item in ids]
        found = bench.diagnosed(readings, Meter())
        self.assertEqual(found.causes[0].words, "A bond stands at Flat B panel, where none belongs")
        self.assertTrue(found.causes[0].fits)


class Cabin(unittest.TestCase):
    """Off the grid: the inverter's own bond meets that of the panel."""

    def setUp(self):
        self.report = check(demo_job("cabin"))

    def test_the_second_bond_is_found_and_its_mend_leaves_one(self):
        (wrong,) = [item for item in self.report.findings if item.outcome == "must_fix"]
        self.assertEqual((wrong.code, wrong.id, wrong.section), ("bond", "cabin-panel", "250.30(A)"))
        after = report_of(mended(demo_job("cabin").model_dump(mode="json"), wrong))
        self.assertEqual(after.count("must_fix"), 0)
        self.assertEqual(
            {key: bond.decision for key, bond in after.bonds.items()},
            {"inverter": "bond_in_source", "cabin-panel": "apart", "wash-panel": "apart"},
        )

    def test_figures_agree_with_a_hand_calculation(self):
        # 480 ft2 x 3 + 4500 = 5940 -> 3000 + 35 % of 2940 = 4029; pump 8 A x 240 = 1920; tape 400; wash house 300 + 1800:
        # 8449 VA.
        level = self.report.levels["cabin-panel"]
        self.assertEqual(level.demand_va.number, 8_449)


class Orchard(unittest.TestCase):
    def setUp(self):
        self.report = check(demo_job())

    def test_each_kind_of_verdict_is_shown(self):
        for outcome in ("must_fix", "advice", "cannot_tell", "holds"):
            self.assertGreater(self.report.count(outcome), 0, outcome)

    def test_every_must_fix_can_be_mended_and_clears(self):
        job, mends = orchard(), 0
        while True:
            report = report_of(job)
            open_ = [item for item in report.findings if item.outcome == "must_fix"]
            if not open_:
                break
            self.assertIsNotNone(open_[0].mend, open_[0].text)
            job = mended(job, open_[0])
            mends += 1
            self.assertLess(mends, 20, "a mend that clears nothing")
        self.assertEqual(mends, 7)

    def test_mends_touch_the_proposal_and_leave_what_stands(self):
        before = report_of(orchard(), "existing")
        job = orchard()
        for verdict in [item for item in self.report.findings if item.outcome == "must_fix"]:
            job = mended(job, verdict)
        after = report_of(job, "existing")
        self.assertEqual([item.text for item in before.findings], [item.text for item in after.findings])

    def test_findings_come_by_severity_and_in_walking_order_within(self):
        severity = {"must_fix": 0, "advice": 1, "cannot_tell": 2}
        ranks = [severity[item.outcome] for item in self.report.findings]
        self.assertEqual(ranks, sorted(ranks))
        fixes = [item.id for item in self.report.findings if item.outcome == "must_fix"]
        self.assertEqual(fixes, ["to-green", "to-green", "green-panel", "house-panel", "h10", "h30", "h28-wires"])

    def test_figures_of_the_house_agree_with_a_hand_calculation(self):
        # 2680 ft2 x 3 + 4500 = 12540 -> 3000 + 35 % of 9540 = 6339; fastened 8060 x 75 % = 6045;
        # dryer 5500; range 8000; heat 9600; charger 7680: 43164 VA.
        # On L2, by the spaces: lighting (33.5 + two circuits of 12.5) x 6339/12540 = 29.5719; water heater and microwave
        # (18.75 + 12.5) x 75 % = 23.4375; dryer 22.9167; range 33.3333; heat 40; charger 32: 181.2594 A
        level = self.report.levels["house-panel"]
        self.assertEqual(level.demand_va.number, 43_164)
        self.assertAlmostEqual(float(level.worst.actual.number), 181.2594, places=4)

    def test_loads_of_a_level_are_those_of_all_beneath(self):
        levels = self.report.levels
        self.assertEqual(
            levels["meter"].connected_va.number,
            levels["house-panel"].connected_va.number + levels["barn-panel"].connected_va.number,
        )

    def test_answers_are_signed(self):
        signature = signed_summary(self.report)["signature"]
        self.assertEqual(signature["edition"], "2023")
        self.assertTrue(signature["rulebook"] and signature["engine"])

    def test_the_demo_is_made_up_and_in_one_piece(self):
        job = orchard()
        owners = {item["id"] for item in job["enclosures"]}
        self.assertTrue(all(bar["enclosure_id"] in owners for bar in job["bars"]))


class ThePath(unittest.TestCase):
    def test_x_is_conductor_length_from_the_source(self):
        found = {place.id: (place.x_ft, place.lane) for place in check(demo_job()).places}
        self.assertEqual(found["meter"], (60, 0))
        self.assertEqual(found["house-panel"], (122, 1))
        self.assertEqual(found["green-panel"], (332, 0))

    def test_the_existing_state_draws_only_what_stands(self):
        found = {place.id for place in places(Site(resolve(demo_job(), "existing")))}
        self.assertNotIn("barn-panel", found)

    def test_an_unknown_length_is_marked(self):
        job = orchard()
        thing(job, "runs", "to-barn")["length_ft"] = None
        place = next(place for place in report_of(job).places if place.id == "barn-panel")
        self.assertFalse(place.length_known)

    def test_a_long_chain_is_walked_without_recursion(self):
        report = report_of(chain(600))
        self.assertEqual(len(report.places), 603)


class Editions(unittest.TestCase):
    def test_the_demo_is_judged_by_each_edition_in_its_own_sections(self):
        sections = {}
        for edition in ("2017", "2020", "2023"):
            job = orchard()
            job["settings"]["edition"] = edition
            report = report_of(job)
            sections[edition] = next(
                item.section for item in report.findings if item.code == "drop" and item.id == "to-green"
            )
        self.assertEqual(sections, {"2017": "215.2(A)(1) IN 2", "2020": "215.2(A)(1) IN 2", "2023": "215.2(A)(2) IN 2"})
