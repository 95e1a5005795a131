"""Enclosures taken out with those behind them fed on, and mains in place of lugs: done in the interface, judged here."""

import json
import unittest

from pydantic import TypeAdapter

from nelvor.model.changes.operations import Operation, apply
from nelvor.model.parse import parse_value
from nelvor.report.check import check
from tests.interface.test_changes import in_the_interface
from tests.support.jobs import JobBuilder

OPERATIONS = TypeAdapter(list[Operation])


def chain():
    """Service, a panel, and two panels fed from that one."""
    builder = JobBuilder()
    builder.service()
    builder.box("hall", "service")
    builder.box("attic", "hall", feeder_a=60.0, main_a=60.0)
    builder.box("cellar", "hall", feeder_a=40.0, main_a=40.0)
    return json.loads(parse_value(builder.job).model_dump_json())


def changed(job, call, *arguments):
    (operations,) = in_the_interface("core/refitting.ts", [{"call": call, "arguments": [job, *arguments]}])
    return parse_value(apply(job, OPERATIONS.validate_python(operations)))


class Joining(unittest.TestCase):
    def test_what_is_behind_is_fed_from_what_was_ahead(self):
        job = chain()
        for state, left in (("proposed", "removed"), ("existing", None)):
            with self.subTest(state=state):
                document = changed(job, "removeAndJoin", state, "hall")
                report = check(document, state)
                self.assertNotIn("hall", report.site.enclosures)
                for box in ("attic", "cellar"):
                    feeding = report.site.feeding_run(box)
                    self.assertEqual(report.site.upstream_of(feeding), "service")
                    ends = {item.role: item.from_part for item in report.site.conductors_of[feeding.id]}
                    self.assertEqual((ends["neutral"], ends["ground"]), ("service-n", "service-g"))
                    self.assertEqual(ends["L1"], feeding.from_part)
                hall = next((item for item in document.enclosures if item.id == "hall"), None)
                self.assertEqual(hall.standing if hall else None, left)

    def test_where_nothing_is_behind_or_ahead_it_is_not_offered(self):
        job = chain()
        calls = [{"call": "aheadOf", "arguments": [job, "proposed", box]} for box in ("hall", "attic", "nowhere")]
        self.assertEqual(in_the_interface("core/refitting.ts", calls), ["service", None, None])


class Landing(unittest.TestCase):
    def test_a_main_gives_way_to_lugs_and_comes_back(self):
        job = chain()
        lugs = changed(job, "landOn", "existing", "attic", "lugs")
        report = check(lugs, "existing")
        feeding = report.site.feeding_run("attic")
        self.assertIn(feeding.to_part, report.site.lugs)
        self.assertIsNone(report.site.main_of("attic"))
        self.assertEqual(report.site.bus_of("attic").fed_by, feeding.to_part)
        self.assertEqual(
            {item.to_part for item in report.site.conductors_of[feeding.id] if item.role == "L1"}, {feeding.to_part}
        )
        back = changed(json.loads(lugs.model_dump_json()), "landOn", "existing", "attic", "main")
        report = check(back, "existing")
        self.assertEqual(report.site.main_of("attic").rating_a, None)
        self.assertEqual(report.site.bus_of("attic").fed_by, report.site.main_of("attic").id)

    def test_what_stands_keeps_its_main_until_the_proposal(self):
        document = changed(chain(), "landOn", "proposed", "attic", "lugs")
        self.assertIsNotNone(check(document, "existing").site.main_of("attic"))
        self.assertIsNone(check(document, "proposed").site.main_of("attic"))

    def test_asking_for_what_is_there_changes_nothing(self):
        job = chain()
        calls = [{"call": "landOn", "arguments": [job, "proposed", "attic", "main"]}]
        calls += [{"call": "landsOn", "arguments": [job, "proposed", box]} for box in ("attic", "meter")]
        self.assertEqual(in_the_interface("core/refitting.ts", calls), [[], "main", "lugs"])


if __name__ == "__main__":
    unittest.main()
