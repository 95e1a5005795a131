"""Stretches, boxes and passages as the document holds them: limits, references, two states."""

import json
import unittest

from hypothesis import given
from hypothesis import strategies as st

from nelvor.errors import BadInput
from nelvor.model.changes.differences import proposal
from nelvor.model.parse import parse_bytes, parse_value
from nelvor.model.resolve import resolve
from nelvor.report.check import check
from tests.support.jobs import bakery, changed, finding, mended, thing


def refused(job) -> dict[str, str]:
    """Return the issues that a job is refused with, by path."""
    try:
        parse_value(job)
    except BadInput as failure:
        return {issue.path: issue.code for issue in failure.issues}
    return {}


def with_values(list_name, thing_id, **values):
    """Return the bakery with properties of one thing changed."""
    job = bakery()
    thing(job, list_name, thing_id).update(values)
    return job


class Limits(unittest.TestCase):
    CASES = (
        ("stretches", "over-ovens", "length_ft", (0.0, -1.0, 10_000.1, "five", True)),
        ("stretches", "over-ovens", "ambient_c", (-50.1, 85.1, "warm")),
        ("stretches", "over-ovens", "other_current_carrying", (-1, 101, 2.5)),
        ("stretches", "over-ovens", "placement", ("attic", "")),
        ("stretches", "over-ovens", "cover_in", (-0.1, 240.1)),
        ("boxes", "corner-box", "width_in", (0.0, 600.1, "wide")),
        ("boxes", "corner-box", "kind", ("crate",)),
        ("boxes", "corner-box", "marked_count", (0, 201, 1.5)),
        ("boxes", "corner-box", "marked_size", ("5/0",)),
        ("boxes", "corner-box", "volume_in3", (0.0, -3.0)),
        ("pulls", "corner-pull", "at_ft", (-1.0, "halfway")),
        ("pulls", "corner-pull", "enters", ("ceiling", 1)),
        ("pulls", "corner-pull", "row", (0, 21)),
    )

    def test_every_value_out_of_bounds_is_told_by_thing_and_field(self):
        for list_name, thing_id, field, values in self.CASES:
            for value in values:
                job = with_values(list_name, thing_id, **{field: value})
                self.assertIn(f"{list_name}.{thing_id}.{field}", refused(job), (field, value))

    def test_all_at_once(self):
        def spoil(job):
            for list_name, thing_id, field, values in self.CASES:
                thing(job, list_name, thing_id)[field] = values[0]

        wanted = {f"{list_name}.{thing_id}.{field}" for list_name, thing_id, field, _ in self.CASES}
        self.assertLessEqual(wanted, set(refused(changed(bakery(), spoil))))

    def test_proposed_values_have_the_same_bounds(self):
        job = with_values("boxes", "corner-box", proposed={"width_in": -1.0})
        self.assertTrue(refused(job))


class References(unittest.TestCase):
    def test_what_is_named_must_be_there_and_of_the_right_kind(self):
        for list_name, thing_id, field in (
            ("stretches", "over-ovens", "run_id"),
            ("pulls", "corner-pull", "run_id"),
            ("pulls", "corner-pull", "box_id"),
        ):
            for target in ("nothing", "kitchen"):
                job = with_values(list_name, thing_id, **{field: target})
                self.assertEqual(refused(job), {f"{list_name}.{thing_id}.{field}": "unknown_id"})

    def test_an_id_is_free_beside_all_lists(self):
        job = with_values("boxes", "corner-box", id="kitchen")
        self.assertIn("duplicate_id", refused(job).values())


class TwoStates(unittest.TestCase):
    def test_a_stretch_that_comes_with_the_proposal_is_judged_there_alone(self):
        job = with_values("stretches", "over-ovens", standing="added", length_ft=20.0)
        document = parse_value(job)
        sizes = {state: check(document, state).runs["to-kitchen"].size("hots") for state in ("existing", "proposed")}
        self.assertEqual(sizes, {"existing": "4/0", "proposed": "4/0"})
        lays = {state: len(check(document, state).runs["to-kitchen"].case.lays) for state in ("existing", "proposed")}
        self.assertEqual(lays, {"existing": 1, "proposed": 2})

    def test_a_box_that_goes_is_not_judged_any_more(self):
        def take_out(job):
            for list_name, thing_id in (("boxes", "corner-box"), ("pulls", "corner-pull")):
                thing(job, list_name, thing_id)["standing"] = "removed"

        document = parse_value(changed(bakery(), take_out))
        self.assertEqual(set(check(document, "existing").boxes), {"corner-box"})
        self.assertEqual(set(check(document, "proposed").boxes), set())

    def test_a_passage_whose_run_goes_leaves_the_box_alone(self):
        job = with_values("runs", "to-kitchen", standing="removed")
        found = finding(check(parse_value(job)), "box", "corner-box")
        self.assertIn("No run passes", found.text)

    def test_a_measure_of_the_proposal_stands_beside_the_one_that_is(self):
        job = with_values("boxes", "corner-box", width_in=12.0, proposed={"width_in": 18.0})
        document = parse_value(job)
        self.assertIsNotNone(finding(check(document, "existing"), "box", "corner-box"))
        self.assertIsNone(finding(check(document, "proposed"), "box", "corner-box"))
        changes = {(item.id, item.field): (item.before, item.after) for item in proposal(document)}
        self.assertEqual(changes["corner-box", "width_in"], (12, 18))

    def test_a_mend_of_a_stretch_changes_the_proposal_alone(self):
        def spoil(job):
            thing(job, "stretches", "over-ovens").update(placement="outdoors", method="fmc")

        job = changed(bakery(), spoil)
        wrong = finding(check(parse_value(job)), "run_wiring", "over-ovens")
        after = mended(job, wrong)
        self.assertEqual(thing(after, "stretches", "over-ovens")["method"], "fmc")
        self.assertEqual(resolve(parse_value(after), "proposed").stretches[0].method, "lfmc")


class RoundTrips(unittest.TestCase):
    @given(
        st.floats(0.01, 9_999, allow_nan=False),
        st.floats(-50, 85, allow_nan=False),
        st.text(max_size=40).filter(lambda text: "\0" not in text and text.isprintable()),
    )
    def test_any_stretch_and_box_comes_back_as_it_was(self, feet, degrees, name):
        job = bakery()
        thing(job, "stretches", "over-ovens").update(length_ft=feet, ambient_c=degrees, name=name)
        thing(job, "boxes", "corner-box").update(width_in=min(feet, 600.0), name=name)
        document = parse_value(job)
        self.assertEqual(parse_bytes(json.dumps(document.model_dump(mode="json")).encode()), document)
