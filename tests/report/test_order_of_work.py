"""The order of the work: nothing is taken apart before what replaces it stands, in words without ids."""

import unittest

from hypothesis import given, settings

from nelvor.demo import demo_job
from nelvor.model.document import LISTS
from nelvor.model.parse import parse_value
from nelvor.report.check import check
from nelvor.report.order_of_work import STAGE_TITLES, order_of_work, steps_text
from nelvor.starters import started
from tests.support.jobs import JobBuilder, finding, mended, orchard, report_of, thing
from tests.support.sites import sites


def order_of(job):
    document = parse_value(job)
    return order_of_work(check(document, "existing"), check(document))


def steps_of(order, stage):
    return [step.text for item in order.stages if item.stage == stage for step in item.steps]


class Stages(unittest.TestCase):
    def test_nothing_proposed_is_no_work(self):
        builder = JobBuilder()
        builder.service()
        self.assertEqual(order_of(builder.job).stages, [])
        self.assertIn("changes nothing", steps_text(order_of(builder.job)))

    def test_a_second_bond_goes_out_after_all_else_stands_and_before_power_comes(self):
        job = orchard()
        wrong = finding(report_of(job), "bond", "house-panel")
        order = order_of(mended(job, wrong))
        taken, looked_for = steps_of(order, "unbond")
        self.assertEqual(taken, "Take the bonding strap out at House panel.")
        self.assertIn("Greenhouse panel: look at the bonding strap", looked_for)
        stages = [stage.stage for stage in order.stages]
        self.assertEqual(stages, [stage for stage in STAGE_TITLES if stage in stages])
        self.assertLess(stages.index("place"), stages.index("unbond"))
        self.assertIn("House panel: lift the feeder's neutral", " ".join(steps_of(order, "measure")))
        self.assertIn("landed and torqued again before power comes", steps_of(order, "measure")[-1])

    def test_a_missing_service_bond_comes_first_of_all(self):
        builder = JobBuilder()
        builder.service()
        thing(builder.job, "bonds", "service-bond")["made"] = False
        builder.box("panel", "service")
        missing = finding(report_of(builder.job), "bond", "service")
        order = order_of(mended(builder.job, missing))
        self.assertEqual([stage.stage for stage in order.stages][:2], ["off", "first"])
        self.assertEqual(steps_of(order, "first"), ["Fit the bonding screw at service."])

    def test_a_grounding_conductor_is_added_before_the_old_bond_goes(self):
        builder = JobBuilder()
        builder.service()
        builder.box("panel", "service", ground=False, bond=True)
        builder.add(
            "conductors",
            "new-ground",
            run_id="to-panel",
            role="ground",
            from_part="service-g",
            to_part="panel-g",
            standing="added",
        )
        thing(builder.job, "bonds", "panel-bond")["proposed"] = {"made": False}
        order = order_of(builder.job)
        added = steps_of(order, "place")
        self.assertEqual(len(added), 1)
        self.assertTrue(added[0].startswith("Add the grounding conductor, "), added)
        self.assertEqual(steps_of(order, "unbond"), ["Take the bonding screw out at panel."])

    def test_a_box_comes_with_its_parts_and_a_run_with_its_conductors_in_one_step_each(self):
        order = order_of_work(check(demo_job(), "existing"), check(demo_job()))
        placed = steps_of(order, "place")
        self.assertIn("Set Barn panel (indoors).", placed)
        self.assertEqual(len([text for text in placed if text.startswith("Run ")]), 2)
        self.assertIn("Install Ground rod at Barn panel and join it (2 times).", placed)
        self.assertEqual(steps_of(order, "set"), ["Barn main: replace 200 A by 125 A."])

    def test_a_bond_that_may_be_in_is_looked_for_after_the_new_one_stands(self):
        document = started("old_panel_inside", "New", "2023")
        order = order_of_work(check(document, "existing"), check(document))
        stages = [stage.stage for stage in order.stages]
        self.assertLess(stages.index("bond"), stages.index("unbond"))
        looked_for = steps_of(order, "unbond")
        self.assertEqual(len(looked_for), 1)
        self.assertIn("Old panel: look at the bonding screw and the neutral bar not insulated", looked_for[0])
        self.assertIn("Take the conductors from Meter to Old panel out at both ends.", steps_of(order, "away"))

    def test_work_ahead_of_the_service_disconnect_needs_the_utility(self):
        job = orchard()
        thing(job, "runs", "svc-house")["proposed"] = {"hot_size": "250"}
        self.assertIn("Have the utility disconnect", " ".join(steps_of(order_of(job), "off")))
        self.assertNotIn("Have the utility", " ".join(steps_of(order_of(orchard()), "off")))

    def test_a_load_alone_leaves_the_joints_unmeasured(self):
        order = order_of_work(check(demo_job("bakery"), "existing"), check(demo_job("bakery")))
        self.assertEqual(len(steps_of(order, "measure")), 1)


class Words(unittest.TestCase):
    @given(sites())
    @settings(max_examples=25, deadline=None)
    def test_whatever_a_mend_proposes_is_told_in_words_without_ids(self, job):
        report = report_of(job)
        for verdict in [item for item in report.findings if item.mend is not None][:4]:
            document = parse_value(mended(job, verdict))
            order = order_of_work(check(document, "existing"), check(document))
            stages = [stage.stage for stage in order.stages]
            self.assertEqual(stages, [stage for stage in STAGE_TITLES if stage in stages])
            things = [item for name in LISTS for item in getattr(document, name)]
            ids = {item.id for item in things if "-" in item.id and item.id != getattr(item, "name", "")}
            text = steps_text(order)
            self.assertEqual([item for item in ids if f" {item} " in text], [])


if __name__ == "__main__":
    unittest.main()
