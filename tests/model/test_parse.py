import json
import unittest

from nelvor.errors import BadInput
from nelvor.model.document import VERSION
from nelvor.model.parse import DEEPEST_NESTING, LARGEST_DOCUMENT_BYTES, parse_bytes, parse_stored, parse_value
from nelvor.report.check import check
from tests.support.jobs import changed, orchard, thing


def raw(text: str) -> bytes:
    return text.encode()


class ReadingJobs(unittest.TestCase):
    def refused(self, content: bytes) -> dict[str, str]:
        """Return code by path of a refused document; each issue must name reason and remedy."""
        with self.assertRaises(BadInput) as caught:
            parse_bytes(content)
        for issue in caught.exception.issues:
            self.assertTrue(issue.reason and issue.remedy, issue)
        return {issue.path: issue.code for issue in caught.exception.issues}

    def refused_change(self, change) -> dict[str, str]:
        return self.refused(json.dumps(changed(orchard(), change)).encode())

    def test_the_demo_is_read_and_written_without_loss(self):
        document = parse_value(orchard())
        again = parse_bytes(document.model_dump_json().encode())
        self.assertEqual(document, again)

    def test_text_that_json_libraries_differ_on_is_refused(self):
        cases = {
            "truncated": (raw('{"format": "nelvor-job", "ver'), "not_json"),
            "empty": (b"", "not_json"),
            "not utf-8": (b"\xff\xfe{}", "not_utf8"),
            "NaN": (raw('{"format": NaN}'), "not_a_number"),
            "Infinity": (raw('{"format": -Infinity}'), "not_a_number"),
            "overflow": (raw('{"format": 1e999}'), "not_a_number"),
            "many digits": (raw('{"format": ' + "9" * 5000 + "}"), "not_a_number"),
            "duplicate key": (raw('{"format": "a", "format": "b"}'), "duplicate_key"),
            "NUL": (raw('{"format": "a\\u0000"}'), "bad_text"),
            "lone surrogate": (raw('{"format": "a\\ud800"}'), "bad_text"),
            "too deep": (raw("[" * (DEEPEST_NESTING + 1) + "]" * (DEEPEST_NESTING + 1)), "too_deep"),
            "far too deep": (raw("[" * 200_000), "too_deep"),
            "too large": (b" " * (LARGEST_DOCUMENT_BYTES + 1), "too_large"),
            "a list": (raw("[]"), "wrong_format"),
            "other format": (raw('{"format": "else", "version": 1}'), "wrong_format"),
            "newer version": (raw(f'{{"format": "nelvor-job", "version": {VERSION + 1}}}'), "wrong_version"),
            "version true": (raw('{"format": "nelvor-job", "version": true}'), "wrong_version"),
        }
        for name, (content, code) in cases.items():
            with self.subTest(name):
                self.assertIn(code, self.refused(content).values())

    def test_a_control_character_is_refused_with_the_field_that_holds_it(self):
        for character, path, spoil in (
            ("\u0001", "name", lambda job: job.update(name="Barn\u0001")),
            (
                "\u001b",
                "enclosures.house-panel.note",
                lambda job: thing(job, "enclosures", "house-panel").update(note="\u001b[31m"),
            ),
            (
                "\u007f",
                "runs.to-barn.proposed.name",
                lambda job: thing(job, "runs", "to-barn").update(proposed={"name": "\u007f"}),
            ),
        ):
            with self.subTest(path), self.assertRaises(BadInput) as caught:
                parse_bytes(json.dumps(changed(orchard(), spoil)).encode())
            issue = caught.exception.issues[0]
            self.assertEqual((issue.code, issue.path), ("bad_text", path))
            self.assertIn(f"U+{ord(character):04X}", issue.reason)
        lines = changed(orchard(), lambda job: job.update(note="First\tline\r\nsecond"))
        self.assertEqual(parse_bytes(json.dumps(lines).encode()).note, "First\tline\r\nsecond")

    def test_a_job_that_was_stored_with_one_can_still_be_read(self):
        old = json.dumps(changed(orchard(), lambda job: job.update(name="Barn\u0001")))
        self.assertEqual(parse_stored(old).name, "Barn\u0001")

    def test_every_bad_value_is_told_at_once_by_thing_and_field(self):
        def spoil(job):
            thing(job, "runs", "to-barn")["length_ft"] = -5
            thing(job, "runs", "to-green")["length_ft"] = 10_001
            thing(job, "runs", "to-house")["length_ft"] = "sixty"
            thing(job, "enclosures", "meter")["rating_a"] = 0
            thing(job, "runs", "svc-barn")["hot_size"] = "5/0"
            thing(job, "loads", "h-dish")["quantity"] = 1.5
            thing(job, "bars", "meter-n")["kind"] = "phase"

        issues = self.refused_change(spoil)
        self.assertEqual(
            set(issues),
            {
                "runs.to-barn.length_ft",
                "runs.to-green.length_ft",
                "runs.to-house.length_ft",
                "enclosures.meter.rating_a",
                "runs.svc-barn.hot_size",
                "loads.h-dish.quantity",
                "bars.meter-n.kind",
            },
        )

    def test_proposed_values_have_the_same_limits(self):
        def spoil(job):
            thing(job, "runs", "to-house")["proposed"] = {"length_ft": 0}

        self.assertEqual(self.refused_change(spoil), {"runs.to-house.proposed.length_ft": "greater_than"})

    def test_unknown_properties_are_refused_in_both_states(self):
        self.assertIn(
            "enclosures.meter.colour",
            self.refused_change(lambda job: thing(job, "enclosures", "meter").update(colour="red")),
        )
        self.assertIn(
            "enclosures.meter.proposed.id",
            self.refused_change(lambda job: thing(job, "enclosures", "meter").update(proposed={"id": "x"})),
        )

    def test_unknown_and_repeated_ids_are_refused(self):
        self.assertEqual(
            self.refused_change(lambda job: thing(job, "runs", "to-barn").update(from_part="nowhere")),
            {"runs.to-barn.from_part": "unknown_id"},
        )
        self.assertEqual(
            self.refused_change(lambda job: thing(job, "runs", "to-barn").update(to_part="barn-panel-n")),
            {"runs.to-barn.to_part": "unknown_id"},
        )
        self.assertIn("duplicate_id", self.refused_change(lambda job: job["bars"].append(job["bars"][0])).values())

    def test_a_loop_of_feeders_is_read_and_told_in_either_state(self):
        def close(job):
            thing(job, "runs", "to-barn")["from_part"] = "barn-green"

        self.assertIn(("loop", "to-barn"), self.told(changed(orchard(), close)))

        def close_by_proposal(job):
            thing(job, "runs", "to-barn")["standing"] = "existing"
            thing(job, "runs", "to-barn")["proposed"] = {"from_part": "barn-green"}
            for list_name in ("enclosures", "devices", "lugs", "runs", "bars", "bonds"):
                for item in job[list_name]:
                    item["standing"] = "existing"

        self.assertIn(("loop", "to-barn"), self.told(changed(orchard(), close_by_proposal)))

    def told(self, job):
        return {(item.code, item.id) for item in check(parse_value(job)).findings if item.outcome == "must_fix"}

    def test_names_take_markup_emoji_and_right_to_left_text_but_have_a_length(self):
        for name in ("<script>alert(1)</script>", "🍎" * 50, "بستان التفاح", "x" * 200):
            with self.subTest(name[:20]):
                document = parse_value(changed(orchard(), lambda job, name=name: job.update(name=name)))
                self.assertEqual(document.name, name)
        self.assertEqual(self.refused_change(lambda job: job.update(name="x" * 10_000)), {"name": "string_too_long"})

    def test_markup_in_a_key_or_id_is_no_way_in(self):
        self.assertTrue(self.refused_change(lambda job: job.update({"<b>": 1})))
        self.assertTrue(self.refused_change(lambda job: thing(job, "bars", "meter-n").update(id="../../x")))
