"""How each part of a run is laid: what it has of its own, what from the run, and what an edit of it changes."""

import unittest
from fractions import Fraction

from nelvor.errors import CannotCompute, MissingInput
from nelvor.judges.run.lays import lays_of
from nelvor.model.things import Run, Stretch

OWN = {
    "from_part": "a",
    "to_part": "b",
    "length_ft": 100.0,
    "placement": "underground",
    "method": "pvc40",
    "raceway_size": "2",
    "burial_location": "general",
    "cover_in": 18.0,
    "ambient_c": 20.0,
    "other_current_carrying": 3,
}


def run(**values):
    return Run(id="run", **{**OWN, **values})


def stretch(name="part", **values):
    return Stretch(id=name, run_id="run", name=name, **{"length_ft": 10.0, **values})


class Parts(unittest.TestCase):
    def test_a_run_without_stretches_is_one_part(self):
        (only,) = lays_of(run(), [])
        self.assertEqual((only.key, only.name, only.list_name, only.length_ft), ("", "", "runs", 100))

    def test_without_a_length_it_is_still_one_part(self):
        (only,) = lays_of(run(length_ft=None), [])
        self.assertIsNone(only.length_ft)

    def test_the_run_has_what_its_stretches_leave_exactly(self):
        own, first, second = lays_of(run(length_ft=100.1), [stretch(length_ft=0.1), stretch("more", length_ft=33.3)])
        self.assertEqual(
            (own.length_ft, first.length_ft, second.length_ft), (Fraction("66.7"), Fraction("0.1"), Fraction("33.3"))
        )
        self.assertEqual((first.key, first.list_name), (":part", "stretches"))

    def test_stretches_that_fill_it_leave_nothing(self):
        self.assertEqual(
            [part.key for part in lays_of(run(), [stretch(length_ft=60.0), stretch("b", length_ft=40.0)])],
            [":part", ":b"],
        )

    def test_lengths_that_are_missing_or_too_long(self):
        with self.assertRaises(MissingInput) as caught:
            lays_of(run(length_ft=None), [stretch()])
        self.assertEqual((caught.exception.thing_id, caught.exception.field_name), ("run", "length_ft"))
        with self.assertRaises(MissingInput) as caught:
            lays_of(run(), [stretch(length_ft=None)])
        self.assertEqual(caught.exception.thing_id, "part")
        with self.assertRaises(CannotCompute) as refused:
            lays_of(run(), [stretch(length_ft=60.0), stretch("b", length_ft=40.1)])
        self.assertIn("add up to more", refused.exception.reason)


class Inheriting(unittest.TestCase):
    def value(self, field, **own):
        return lays_of(run(), [stretch(**own)])[1].value(field)

    def test_what_a_stretch_leaves_open_is_as_the_run(self):
        for field, value in OWN.items():
            if field not in ("from_part", "to_part", "length_ft"):
                self.assertEqual(self.value(field), value, field)

    def test_what_it_says_is_its_own(self):
        self.assertEqual(self.value("ambient_c", ambient_c=0.0), 0)
        self.assertEqual(self.value("other_current_carrying", other_current_carrying=0), 0)
        self.assertEqual(self.value("method", method="rmc"), "rmc")

    def test_a_trade_size_goes_with_its_method(self):
        self.assertIsNone(self.value("raceway_size", method="rmc"))
        self.assertEqual(self.value("raceway_size", method="rmc", raceway_size="3"), "3")
        self.assertEqual(self.value("raceway_size", ambient_c=40.0), "2")

    def test_cover_and_what_lies_above_go_with_the_place(self):
        for field in ("cover_in", "burial_location"):
            self.assertIsNone(self.value(field, placement="underground"), field)
            self.assertEqual(self.value(field, method="rmc"), OWN[field])
        self.assertEqual(self.value("cover_in", placement="underground", cover_in=6.0), 6)

    def test_an_empty_property_is_named_where_it_belongs(self):
        part = lays_of(run(), [stretch(placement="underground")])[1]
        with self.assertRaises(MissingInput) as caught:
            part.filled("burial_location", "What lies above")
        self.assertEqual((caught.exception.thing_id, caught.exception.field_name), ("part", "burial_location"))


class Edits(unittest.TestCase):
    def changes(self, part, **values):
        return [(item.list, item.id, item.field, item.value, item.proposed) for item in part.changing(**values)]

    def test_of_the_run_itself(self):
        own = lays_of(run(), [])[0]
        self.assertEqual(self.changes(own, cover_in=24.0), [("runs", "run", "cover_in", 24.0, True)])

    def test_of_a_stretch_and_of_what_only_the_run_has(self):
        part = lays_of(run(), [stretch(standing="added")])[1]
        self.assertEqual(
            self.changes(part, method="rmc", insulation="THWN-2"),
            [("stretches", "part", "method", "rmc", False), ("runs", "run", "insulation", "THWN-2", True)],
        )
