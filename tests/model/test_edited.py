"""A known job that is edited is the same as one that is read anew, and only what was touched is read."""

import json
import unittest
from unittest import mock

from hypothesis import given, settings
from hypothesis import strategies as st

from nelvor.errors import BadInput
from nelvor.model.changes.merge import operations_between
from nelvor.model.changes.operations import Delete, Insert, Put, PutSetting
from nelvor.model.crowding import MOST_IN_ONE_ENCLOSURE
from nelvor.model.document import LISTS
from nelvor.model.edited import KnownJob
from nelvor.model.parse import parse_value
from tests.model.test_merge import some_changes
from tests.support.jobs import JobBuilder, orchard
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

    @mock.patch.dict(MOST_IN_ONE_ENCLOSURE, {"lugs": 1, "runs": 3})
    def test_what_meets_in_one_enclosure_stays_bounded_whatever_is_moved_or_added(self):
        builder = JobBuilder()
        builder.service()
        for box, fed_from in (("p", "service"), ("q", "service"), ("r", "q")):
            builder.box(box, fed_from)
            builder.add("lugs", f"{box}-more", enclosure_id=box)
        builder.add("devices", "spare", enclosure_id="service", role="feeder", rating_a=60.0)
        known = KnownJob.read(builder.job)
        crowding = (
            Put(list="lugs", id="q-more", field="enclosure_id", value="p"),
            Insert(list="lugs", thing={"id": "another", "enclosure_id": "p"}),
            Put(list="runs", id="to-r", field="from_part", value="spare"),
        )
        for operation in crowding:
            with self.subTest(operation=operation), self.assertRaises(BadInput) as caught:
                known.edited([operation])
            self.assertEqual([issue.code for issue in caught.exception.issues], ["too_many_in_one_place"])
        known.edited([Put(list="runs", id="to-r", field="length_ft", value=31.0)])

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
