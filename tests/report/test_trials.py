"""Jobs that are tried out one after another have the answers that each has by itself."""

import json
import unittest

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from nelvor.errors import BadInput, UnknownEdition
from nelvor.model.changes.merge import operations_between
from nelvor.model.changes.operations import Put, apply
from nelvor.model.parse import parse_value
from nelvor.report.check import check
from nelvor.report.trials import Trials
from nelvor.report.wire import report_out
from tests.model.test_merge import some_changes
from tests.support.jobs import bakery, orchard
from tests.support.sites import sites


def told(report):
    return json.loads(report_out(report, looked_at=list(report.runs)).model_dump_json())


class OneAfterAnother(unittest.TestCase):
    @settings(deadline=None, max_examples=40, suppress_health_check=[HealthCheck.too_slow])
    @given(sites(), st.data())
    def test_whatever_is_tried(self, job, data):
        trials, written = Trials(), parse_value(job).model_dump(mode="json")
        for base in (job, written):
            self.assertEqual(told(trials.checked(base)), told(check(parse_value(job))))
            for _ in range(2):
                other = some_changes(data, written)
                tried = apply(base, list(operations_between(written, other)))
                state = data.draw(st.sampled_from(["existing", "proposed"]))
                self.assertEqual(told(trials.checked(tried, state)), told(check(parse_value(tried), state)))

    def test_another_job_is_read_as_a_whole(self):
        trials = Trials()
        for job in (orchard(), bakery(), orchard()):
            self.assertEqual(told(trials.checked(job)), told(check(parse_value(job))))

    def test_what_cannot_be_read_is_refused_and_the_next_is_answered(self):
        trials, job = Trials(), parse_value(orchard()).model_dump(mode="json")
        trials.checked(job)
        run = job["runs"][0]["id"]
        for wrong in (
            apply(job, [Put(list="runs", id=run, field="length_ft", value=-1.0)]),
            apply(job, [Put(list="runs", id=run, field="from_part", value="nowhere")]),
            {**job, "settings": {}},
            {**job, "settings": {**job["settings"], "edition": "1900"}},
            "a word",
            {},
        ):
            with self.assertRaises((BadInput, UnknownEdition)):
                trials.checked(wrong)
            self.assertEqual(told(trials.checked(job)), told(check(parse_value(job))))
