import contextlib
import io
import json
import tempfile
import unittest

from nelvor.cli.main import main
from tests.support.jobs import orchard


class PanelCommand(unittest.TestCase):
    def run_panel(self, *options, panel="House panel"):
        with tempfile.NamedTemporaryFile("w", suffix=".json") as stream:
            json.dump(orchard(), stream)
            stream.flush()
            out, err = io.StringIO(), io.StringIO()
            with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
                status = main(["panel", stream.name, "--panel", panel, *options])
        return status, out.getvalue(), err.getvalue()

    def test_the_schedule_as_text_and_as_json(self):
        status, out, _ = self.run_panel()
        self.assertEqual(status, 0)
        self.assertIn("Dryer", out)
        self.assertIn("L2: 176.5 A", out)
        schedule = json.loads(self.run_panel("--json", panel="house-panel")[1])
        self.assertEqual(len(schedule["spaces"]), 30)

    def test_the_moves_that_balance_it(self):
        out = self.run_panel("--balance", "5")[1]
        self.assertIn("2 moves bring the legs within 5 A", out)
        self.assertIn("Microwave: space 15 to space 13", out)
        self.assertEqual(len(json.loads(self.run_panel("--balance", "5", "--json")[1])["moves"]), 2)

    def test_its_circuits_as_csv(self):
        out = self.run_panel("--csv")[1]
        self.assertEqual(len(out.splitlines()), 26)

    def test_what_is_not_there_is_told_with_what_is(self):
        status, out, err = self.run_panel(panel="Attic panel")
        self.assertEqual((status, out), (2, ""))
        self.assertIn("House panel", err)

    def test_amperes_below_nothing_are_refused(self):
        with self.assertRaises(SystemExit):
            self.run_panel("--balance", "-1")
