"""What must hold on any site: no answer hangs on the order of lists, and a mend leaves a valid document."""

import json
import unittest

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from nelvor.model.changes.merge import operations_between
from nelvor.model.changes.operations import apply
from nelvor.model.parse import parse_value
from nelvor.report.check import check
from nelvor.report.wire import report_out
from tests.support.jobs import JobBuilder, finding, mended, report_of
from tests.support.sites import shuffled, sites

STATES = st.sampled_from(["existing", "proposed"])
PATIENT = settings(deadline=None, max_examples=60, suppress_health_check=[HealthCheck.too_slow])


def told(job, state):
    return report_out(check(parse_value(job), state)).model_dump(mode="json")


class Order(unittest.TestCase):
    @PATIENT
    @given(sites(), STATES, st.integers(0, 1000))
    def test_the_order_of_lists_changes_no_answer(self, job, state, seed):
        self.assertEqual(json.dumps(told(job, state)), json.dumps(told(shuffled(job, seed), state)))


class Mends(unittest.TestCase):
    @PATIENT
    @given(sites(), STATES)
    def test_after_any_mend_the_document_is_valid(self, job, state):
        plain = json.loads(parse_value(job).model_dump_json())
        for found in check(parse_value(job), state).findings:
            if found.mend is not None:
                check(parse_value(apply(plain, list(found.mend.operations))), "proposed")

    @settings(PATIENT, max_examples=120, derandomize=True)
    @given(sites())
    def test_a_mend_ends_its_finding_brings_no_other_and_comes_off_again(self, job):
        document = parse_value(job)
        plain, before = document.model_dump(mode="json"), check(document)
        wrong = {(item.code, item.id) for item in before.findings if item.outcome == "must_fix"}
        for found in before.findings:
            for mend in found.mends:
                mended_job = apply(plain, list(mend.operations))
                after = check(parse_value(mended_job))
                left = {(item.code, item.id) for item in after.findings if item.outcome == found.outcome}
                self.assertNotIn((found.code, found.id), left, mend.label)
                now = {(item.code, item.id) for item in after.findings if item.outcome == "must_fix"}
                self.assertEqual(now - wrong, set(), mend.label)
                back = apply(mended_job, list(operations_between(mended_job, plain)))
                self.assertEqual(parse_value(back).model_dump_json(), document.model_dump_json())

    def test_an_id_that_is_taken_is_not_given_again(self):
        builder = JobBuilder()
        builder.service()
        builder.box("panel", "service", ground=False)
        builder.add("buildings", "to-panel-g", name="Named like a conductor to come")
        found = finding(builder.report(), "ground_missing", "panel")
        added = {item.thing["id"] for item in found.mend.operations if item.op == "insert"}
        self.assertEqual(added, {"to-panel-g-2"})
        self.assertIsNone(finding(report_of(mended(builder.job, found)), "ground_missing", "panel"))

    def test_ids_of_the_other_state_are_taken_too(self):
        builder = JobBuilder()
        builder.service()
        builder.box("panel", "service", ground=False)
        ends = {"run_id": "to-panel", "from_part": "service-g", "to_part": "panel-g"}
        builder.add("conductors", "to-panel-g", role="ground", standing="removed", **ends)
        found = finding(builder.report(), "ground_missing", "panel")
        self.assertIsNone(finding(report_of(mended(builder.job, found)), "ground_missing", "panel"))
