"""A memory spares work and changes no answer, whatever is edited in between."""

import gc
import json
import unittest

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from nelvor.judges.memory import Memory
from nelvor.model.changes.merge import operations_between
from nelvor.model.changes.operations import Put
from nelvor.model.edited import KnownJob
from nelvor.model.parse import parse_value
from nelvor.report.check import check
from nelvor.report.subjects import SUBJECTS
from nelvor.report.wire import report_out, working_out
from tests.judges.test_pushed_back import inverter
from tests.model.test_merge import some_changes
from tests.support.jobs import JobBuilder, bakery, chain, orchard
from tests.support.sites import sites


def told(document, state="proposed", memory=None):
    report = check(document, state, memory)
    return json.loads(report_out(report, looked_at=list(report.runs)).model_dump_json())


def workings(document, memory=None):
    """The steps behind every figure of a report."""
    report = check(document, memory=memory)
    keys = [
        f"{subject.kind}:{item}/{name}"
        for subject in SUBJECTS
        for item, answer in report.of(subject.kind).items()
        for name in answer.figures
    ]
    return {key: working_out(report, key) for key in keys}


class Lengths(unittest.TestCase):
    """Boxes that no edited length touches are judged as before; those that it touches are not."""

    @settings(deadline=None, max_examples=25, suppress_health_check=[HealthCheck.too_slow])
    @given(sites())
    def test_each_length_in_turn_with_all_workings(self, job):
        known, memory = KnownJob.of(parse_value(job)), Memory()
        told(known.document, memory=memory)
        for run in known.value["runs"]:
            for length in (1.5, 410.0, None):
                edited = known.edited([Put(list="runs", id=run["id"], field="length_ft", value=length)]).document
                self.assertEqual(told(edited, memory=memory), told(edited), (run["id"], length))
                self.assertEqual(workings(edited, memory), workings(edited), (run["id"], length))

    def test_what_is_left_of_a_fault_current_reaches_every_box_behind(self):
        job = chain(4)
        job["sources"][0]["fault_current_a"] = 22000.0
        job["runs"][2]["length_ft"] = (
            None  # the drop is lost there, and the runs behind it are told nothing of what lies ahead
        )
        for device in job["devices"]:
            device["interrupting_a"] = 10000.0
        known, memory = KnownJob.of(parse_value(job)), Memory()
        before = check(known.document, memory=memory)
        first = known.edited([Put(list="runs", id=job["runs"][1]["id"], field="length_ft", value=300.0)]).document
        after, last = check(first, memory=memory), list(before.panels)[-1]
        self.assertIs(after.runs[job["runs"][-1]["id"]], before.runs[job["runs"][-1]["id"]])
        self.assertIsNot(after.panels[last], before.panels[last])
        self.assertNotEqual(told(first, memory=memory), told(known.document))
        self.assertEqual(workings(first, memory), workings(first))

    def test_boxes_elsewhere_are_not_judged_again(self):
        job = chain(6)
        known, memory = KnownJob.of(parse_value(job)), Memory()
        before = check(known.document, memory=memory)
        last = known.edited([Put(list="runs", id=job["runs"][-1]["id"], field="length_ft", value=77.0)]).document
        after = check(last, memory=memory)
        kept = [box for box in before.panels if after.panels[box] is before.panels[box]]
        self.assertEqual(kept, [box for box in before.bonds if after.bonds[box] is before.bonds[box]])
        self.assertEqual(len(kept), len(before.panels) - 2)
        wider = last.model_copy(update={"runs": [*last.runs[:-1], last.runs[-1].model_copy(update={"sets": 2})]})
        self.assertFalse(any(check(wider, memory=memory).panels[box] is before.panels[box] for box in before.panels))


class LetGo(unittest.TestCase):
    def test_a_check_that_is_let_go_goes_at_once_with_all_that_hangs_on_it(self):
        """Nothing of it holds itself: a process that checks all day need not stop to look for such garbage."""
        gaps = JobBuilder()
        gaps.box("p", gaps.service(), run={"length_ft": None, "material": None})
        gaps.load("p", None)
        for job in (orchard(), bakery(), chain(5), gaps.job):
            document = parse_value(job)
            told(document)
            gc.collect()
            self.addCleanup(gc.enable)
            gc.disable()
            told(document)
            told(document, "existing")
            with self.subTest(job["name"]):
                self.assertLess(gc.collect(), 50)


class SameAnswers(unittest.TestCase):
    @settings(deadline=None, max_examples=60, suppress_health_check=[HealthCheck.too_slow])
    @given(sites(), st.data())
    def test_whatever_is_edited(self, job, data):
        known, memory = KnownJob.of(parse_value(job)), Memory()
        told(known.document, memory=memory)
        for _ in range(3):
            other = some_changes(data, known.value)
            known = known.edited(list(operations_between(known.value, other)))
            state = data.draw(st.sampled_from(["existing", "proposed"]))
            self.assertEqual(told(known.document, state, memory), told(known.document, state))

    def test_each_number_of_the_demos_in_turn(self):
        for job in (orchard(), bakery()):
            known, memory = KnownJob.of(parse_value(job)), Memory()
            told(known.document, memory=memory)
            fields = [("runs", "length_ft", 77.0), ("runs", "sets", 2), ("loads", "amount", 3000.0)]
            fields += [("devices", "rating_a", 60.0), ("enclosures", "termination_c", 60), ("bars", "insulated", False)]
            for list_name, field, value in fields:
                for thing in known.value[list_name]:
                    edited = known.edited([Put(list=list_name, id=thing["id"], field=field, value=value)])
                    self.assertEqual(told(edited.document, memory=memory), told(edited.document), (thing["id"], field))

    def test_what_a_raised_device_asks_of_the_buses_around_it(self):
        """Mends of runs tell of buses, of what else protects them, and of sources that come in there."""
        builder = JobBuilder()
        builder.service(main_a=100.0)
        builder.box("hall", "service", main_a=80.0, feeder_a=60.0, rating_a=100.0)
        builder.box("shop", "hall", main_a=100.0, feeder_a=40.0, rating_a=60.0)
        builder.box("switch", "hall", kind="disconnect", main_a=40.0, feeder_a=40.0)
        builder.load("shop", 19_200.0)
        inverter(builder, "switch", output_a=24.0)
        before = check(parse_value(builder.job))
        self.assertTrue(
            [item for item in before.findings if item.code == "device_load" and "bus of" in item.mend.label]
        )
        known, memory = KnownJob.of(parse_value(builder.job)), Memory()
        told(known.document, memory=memory)
        fields = [("buses", "rating_a", 70.0), ("buses", "rating_a", 225.0), ("devices", "rating_a", 90.0)]
        fields += [
            ("sources", "rated_output_a", 60.0),
            ("sources", "charging_a", 40.0),
            ("sources", "interactive", False),
        ]
        for list_name, field, value in fields:
            for thing in known.value[list_name]:
                edited = known.edited([Put(list=list_name, id=thing["id"], field=field, value=value)])
                self.assertEqual(
                    told(edited.document, memory=memory), told(edited.document), (thing["id"], field, value)
                )


class SparesWork(unittest.TestCase):
    def test_the_network_stays_where_the_same_things_are_joined(self):
        """A length joins nothing; a raceway that is exchanged and a bond that is made do."""
        known, memory = KnownJob.of(parse_value(chain(3))), Memory()
        networks = [check(known.document, memory=memory).site.network]
        for list_name, thing_id, field, value in (
            ("runs", "to-p1", "length_ft", 33.0),
            ("runs", "to-p1", "method", "pvc40"),
            ("bonds", "p2-bond", "made", True),
        ):
            known = known.edited([Put(list=list_name, id=thing_id, field=field, value=value)])
            networks.append(check(known.document, memory=memory).site.network)
            self.assertEqual(networks[-1].edges, check(known.document).site.network.edges)
        same = [one is other for one, other in zip(networks, networks[1:], strict=False)]
        self.assertEqual(same, [True, False, False])

    def test_only_the_edited_run_is_solved_again(self):
        known, memory = KnownJob.of(parse_value(chain(20))), Memory()
        before = check(known.document, memory=memory)
        edited = known.edited([Put(list="runs", id="to-p19", field="length_ft", value=25.0)])
        after = check(edited.document, memory=memory)
        self.assertEqual([name for name in after.runs if after.runs[name] is not before.runs[name]], ["to-p19"])
        self.assertTrue(all(after.levels[name] is before.levels[name] for name in after.levels))
