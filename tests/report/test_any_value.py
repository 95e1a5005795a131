"""Whatever lawful value a field takes, the check comes to an end and says what it cannot tell."""

import json
import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from nelvor.errors import BadInput
from nelvor.model.document import LISTS
from nelvor.model.parse import parse_value
from nelvor.model.references import REFERENCES
from nelvor.paper.permit import permit_sheet
from nelvor.report.check import check
from nelvor.report.subjects import SUBJECTS
from nelvor.report.text import report_text
from nelvor.report.wire import report_out
from nelvor.working.recorder import replay
from tests.support.jobs import orchard
from tools.generate_interface_types import field_limits

LIMITS = json.loads(field_limits())


def values_for(limit: dict) -> list:
    """Return the values at the edges of a field: nothing, each word of its list, its least and its most."""
    if limit.get("type") == "array" and "enum" in limit:
        values = [*([word] for word in limit["enum"]), limit["enum"]]
    elif "enum" in limit:
        values = list(limit["enum"])
    elif limit.get("type") == "boolean":
        values = [True, False]
    elif limit.get("type") in ("number", "integer"):
        kind = int if limit["type"] == "integer" else float
        least = limit.get("minimum", limit.get("exclusiveMinimum", 0) + 1)
        values = [kind(least), kind(limit.get("maximum", 1000))]
    elif limit.get("type") == "string":
        values = ["", "x" * min(limit.get("maxLength", 50), 50)]
    else:
        values = []
    return values + ([None] if limit.get("nullable") else [])


def edits():
    """Yield (list, place of the thing, field, value) for the first and last thing of each list and each edge value."""
    job = orchard()
    for list_name in LISTS:
        things = job.get(list_name, [])
        for place in sorted({0, len(things) - 1} & set(range(len(things)))):
            for field, limit in LIMITS[list_name].items():
                if field in REFERENCES.get(list_name, {}) or (list_name, field) == ("amendments", "key"):
                    continue
                for value in values_for(limit):
                    yield list_name, place, field, value


class AnyLawfulValue(unittest.TestCase):
    def check_all(self, job: dict, *states: str) -> None:
        """Check the states, and read the report in each of its forms."""
        document = parse_value(job)
        for state in states or ("proposed",):
            report = check(document, state)
            report_out(report)
            report_text(report)
            for subject in SUBJECTS:
                for answer in report.of(subject.kind).values():
                    self.assertEqual(replay(answer.working.steps), [])

    def test_each_field_at_its_edges(self):
        tried = 0
        for list_name, place, field, value in edits():
            job = orchard()
            job[list_name][place][field] = value
            with self.subTest(f"{list_name}[{place}].{field} = {value!r}"):
                self.check_all(job)
            tried += 1
        self.assertGreater(tried, 300)

    @settings(max_examples=30, deadline=None)
    @given(st.data())
    def test_many_fields_at_once(self, data):
        job = orchard()
        choices = list(edits())
        for list_name, place, field, value in data.draw(st.lists(st.sampled_from(choices), min_size=2, max_size=12)):
            job[list_name][place][field] = value
        try:
            self.check_all(job)
        except BadInput as refused:
            self.assertTrue(all(issue.remedy for issue in refused.issues))

    def test_each_thing_taken_away_by_the_proposal(self):
        for list_name in LISTS:
            for place in range(0, len(orchard().get(list_name, [])), 1 if list_name != "conductors" else 4):
                job = orchard()
                thing = job[list_name][place]
                if thing.get("standing") == "added":
                    continue
                thing["standing"] = "removed"
                with self.subTest(f"{list_name}.{thing['id']}"):
                    self.check_all(job, "existing", "proposed")

    def test_the_sheet_prints_with_every_list_empty(self):
        for list_name in LISTS:
            job = orchard()
            ids = {item["id"] for item in job.get(list_name, [])}
            job[list_name] = []
            for other, fields in REFERENCES.items():
                job[other] = [
                    item for item in job.get(other, []) if not any(item.get(field) in ids for field in fields)
                ]
            try:
                document = parse_value(job)
            except BadInput:
                continue
            with self.subTest(list_name):
                self.assertTrue(permit_sheet(check(document), check(document, "existing")).startswith(b"%PDF"))
