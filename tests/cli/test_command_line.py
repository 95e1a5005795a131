import contextlib
import io
import json
import os
import subprocess
import tempfile
import unittest
from pathlib import Path
from unittest import mock

from nelvor.cli.main import main, run
from nelvor.model.document import VERSION
from tests.support.jobs import JobBuilder, orchard, thing
from tools.layout import ROOT


class CheckCommand(unittest.TestCase):
    def run_check(self, job, *options):
        text = job if isinstance(job, str) else json.dumps(job)
        with tempfile.NamedTemporaryFile("w", suffix=".json") as stream:
            stream.write(text)
            stream.flush()
            out, err = io.StringIO(), io.StringIO()
            with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
                status = main(["check", stream.name, *options])
        return status, out.getvalue(), err.getvalue()

    def clean_job(self):
        builder = JobBuilder()
        builder.service()
        builder.box("panel", "service")
        builder.load("panel", 5_000.0)
        for run_id in ("to-service", "to-panel"):
            thing(builder.job, "runs", run_id)["standing"] = "added"
        return builder.job

    def test_exit_status_tells_the_outcome(self):
        self.assertEqual(self.run_check(orchard())[0], 1)
        status, out, _ = self.run_check(self.clean_job())
        self.assertEqual(status, 0, out)

    def test_a_fault_of_ours_is_no_must_fix(self):
        with (
            mock.patch("nelvor.cli.main.check", side_effect=ZeroDivisionError),
            tempfile.NamedTemporaryFile("w") as stream,
        ):
            stream.write(json.dumps(self.clean_job()))
            stream.flush()
            err = io.StringIO()
            with mock.patch("sys.argv", ["nelvor", "check", stream.name]), contextlib.redirect_stderr(err):
                self.assertEqual(run(), 3)
        self.assertIn("ZeroDivisionError", err.getvalue())

    def test_an_output_that_nobody_reads_ends_quietly(self):
        command = f"'{ROOT / 'nelvor'}' schema | head -c 1"
        done = subprocess.run(["bash", "-c", command], capture_output=True, check=True)
        self.assertEqual((done.stdout, done.stderr), (b"{", b""))

    def test_strict_ends_with_1_when_something_cannot_be_told(self):
        job = self.clean_job()
        thing(job, "buses", "panel-bus")["rating_a"] = None
        self.assertEqual(self.run_check(job)[0], 0)
        self.assertEqual(self.run_check(job, "--strict")[0], 1)

    def test_bad_input_ends_with_2_and_names_field_reason_and_remedy(self):
        job = orchard()
        thing(job, "runs", "to-barn")["length_ft"] = -1
        status, _, err = self.run_check(job)
        self.assertEqual(status, 2)
        self.assertIn("runs.to-barn.length_ft: input should be greater than 0. Enter a value above 0", err)
        status, out, _ = self.run_check(job, "--json")
        self.assertEqual(json.loads(out)["issues"][0]["path"], "runs.to-barn.length_ft")

    def boxed_job(self, **measures):
        job = self.clean_job()
        job["boxes"] = [{"id": "box", "name": "Hall box", **measures}]
        job["pulls"] = [{"id": "pull", "box_id": "box", "run_id": "to-panel", "enters": "left", "leaves": "right"}]
        return job

    def test_boxes_decide_the_exit_status_as_everything_does(self):
        """3 copper in 1 in EMT, a straight pull: 8 in wide."""
        for measures, strict, status in (
            ({"width_in": 8.0}, True, 0),
            ({"width_in": 7.9}, False, 1),
            ({}, False, 0),
            ({}, True, 1),
        ):
            options = ["--strict"] if strict else []
            self.assertEqual(self.run_check(self.boxed_job(**measures), *options)[0], status, measures)

    def test_boxes_are_told_as_text_and_as_json(self):
        _, out, _ = self.run_check(self.boxed_job())
        self.assertIn("Hall box: at least 8 in wide", out)
        _, out, _ = self.run_check(self.boxed_job(), "--json")
        box = json.loads(out)["boxes"]["box"]
        self.assertEqual((box["runs"], box["figures"]["width"]["value"]), (["to-panel"], "8"))

    def test_a_passage_through_nothing_is_bad_input(self):
        job = self.boxed_job()
        job["pulls"][0]["box_id"] = "none"
        status, _, err = self.run_check(job)
        self.assertEqual(status, 2)
        self.assertIn("pulls.pull.box_id: none is not in this job. Name one of the boxes.", err)

    def test_an_unknown_edition_and_a_missing_file(self):
        job = orchard()
        job["settings"]["edition"] = "1999"
        status, _, err = self.run_check(job)
        self.assertEqual((status, "2017, 2020, 2023" in err), (2, True))
        with contextlib.redirect_stderr(io.StringIO()) as stream:
            self.assertEqual(main(["check", "/nonexistent.json"]), 2)
        self.assertIn("cannot be read", stream.getvalue())

    def test_json_holds_the_whole_report(self):
        _, out, _ = self.run_check(orchard(), "--json")
        report = json.loads(out)
        self.assertEqual(report["counts"]["must_fix"], 7)
        self.assertEqual(report["runs"]["to-barn"]["chosen"]["figures"]["hots"]["value"], "1/0")

    def test_the_existing_state_can_be_asked_for(self):
        self.assertIn("existing", self.run_check(orchard(), "--existing")[1])

    def test_cautions_close_the_text(self):
        self.assertIn("Never back-feed without an interlock", self.run_check(orchard())[1])

    def test_the_command_itself_needs_no_database_and_no_server(self):
        env = {key: value for key, value in os.environ.items() if not key.startswith(("NELVOR", "PG"))}
        done = subprocess.run(
            [ROOT / "nelvor", "check", "-", "--json"],
            input=json.dumps(orchard()),
            capture_output=True,
            text=True,
            env=env,
            cwd="/",
            check=False,
        )
        self.assertEqual(done.returncode, 1, done.stderr)
        self.assertEqual(json.loads(done.stdout)["counts"]["must_fix"], 7)

    def test_the_schema_is_published(self):
        with contextlib.redirect_stdout(io.StringIO()) as stream:
            self.assertEqual(main(["schema"]), 0)
        schema = json.loads(stream.getvalue())
        self.assertEqual(schema["properties"]["version"]["const"], VERSION)
        self.assertIn("hot_size", schema["$defs"]["Run"]["properties"]["proposed"]["propertyNames"]["enum"])


class UserCommand(unittest.TestCase):
    def test_without_a_database_it_says_what_is_missing(self):
        with mock.patch.dict(os.environ), contextlib.redirect_stderr(io.StringIO()) as stream:
            os.environ.pop("NELVOR_DATABASE_URL", None)
            self.assertEqual(main(["user", "add", "a@example.invalid", "--shop", "S"]), 2)
        self.assertIn("NELVOR_DATABASE_URL", stream.getvalue())


class Files(unittest.TestCase):
    def test_both_commands_are_there_and_may_be_run(self):
        for name in ("start", "test", "nelvor", ".ci/run"):
            self.assertTrue(os.access(Path(ROOT, name), os.X_OK), name)
