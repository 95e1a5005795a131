"""A known job that is edited is the same as one that is read anew, and only what was touched is read."""

import json
import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from nelvor.errors import BadInput
from nelvor.model.changes.merge import operations_between
from nelvor.model.changes.operations import Delete, Insert, Put, PutSetting
from nelvor.model.document import LISTS
from nelvor.model.edited import KnownJob
from nelvor.model.parse import parse_value
from tests.model.test_merge import some_changes
from tests.support.jobs import orchard
from tests.support.sites import sites


class Editing(unittest.TestCase):
    @settings(deadline=None, max_examples=50)
    @given(sites(), st.data())
    def test_an_edited_job_is_as_one_read_anew(self, job, data):
        known = KnownJob.of(parse_value(job))
        other = some_changes(data, known.value)
        edited = known.edited(list(operations_between(known.value, other)))
        anew = parse_value(edited.value)
        self.assertEqual(edited.document, anew)
        self.assertEqual(edited.value, anew.model_dump(mode="json"))
        again = edited.edited([PutSetting(field="note", value="once more")])
        self.assertEqual(again.document.note, "once more")

    def test_what_is_not_touched_is_not_read_again(self):
        known = KnownJob.of(parse_value(orchard()))
        edited = known.edited([Put(list="runs", id="to-barn", field="length_ft", value=200.0)])
        same = [new is old for new, old in zip(edited.document.runs, known.document.runs, strict=True)]
        self.assertEqual(same.count(False), 1)
        self.assertIs(edited.document.loads, known.document.loads)

    def test_a_piece_that_is_gone_never_stands_for_another(self):
        """An identity is free again once its piece is dropped: a new piece may get it, and is not the old thing."""
        known = KnownJob.of(parse_value(orchard()))
        for number in range(30):
            name = f"hall {number}"
            known = known.edited([Insert(list="buildings", thing={"id": "hall", "name": name})])
            known = known.edited([Delete(list="buildings", id="hall")])
            held = {id(piece) for list_name in LISTS for piece in known.value[list_name]}
            self.assertEqual(set(known.things) - held, set())

    def test_a_thing_is_written_as_it_was_understood(self):
        known = KnownJob.of(parse_value(orchard()))
        edited = known.edited([Insert(list="buildings", thing={"id": "shed", "name": "Shed"})])
        self.assertEqual(edited.value["buildings"][-1]["standing"], "existing")
        self.assertEqual(json.loads(edited.document.model_dump_json()), edited.value)

    def test_faults_are_told_by_field_reason_and_remedy(self):
        known = KnownJob.of(parse_value(orchard()))
        put = Put(list="runs", id="to-house", field="cover_in", value="x", proposed=True)
        for operation, path in (
            (Put(list="runs", id="to-barn", field="length_ft", value=-1), "runs.to-barn.length_ft"),
            (Put(list="runs", id="to-barn", field="from_part", value="nowhere"), "runs.to-barn.from_part"),
            (put, "runs.to-house.proposed.cover_in"),
            (PutSetting(field="ambient_c", value=500.0), "settings.ambient_c"),
            (PutSetting(field="name", value="x" * 300), "name"),
        ):
            with self.subTest(path), self.assertRaises(BadInput) as caught:
                known.edited([operation])
            issue = caught.exception.issues[0]
            self.assertEqual((issue.path, bool(issue.reason and issue.remedy)), (path, True))
