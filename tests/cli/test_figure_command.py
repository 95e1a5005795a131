import contextlib
import io
import json
import unittest
from unittest import mock

from nelvor.cli.main import main
from nelvor.figures import all_figures


def run(*arguments: str) -> tuple[int, str, str]:
    out, err = io.StringIO(), io.StringIO()
    with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
        status = main(["figure", *arguments])
    return status, out.getvalue(), err.getvalue()


class FigureCommand(unittest.TestCase):
    def test_the_list_names_every_figure(self):
        status, out, _ = run("--list")
        self.assertEqual(status, 0)
        self.assertEqual({line.split()[0] for line in out.splitlines()}, set(all_figures()))

    def test_each_figure_prints_value_unit_working_and_sections(self):
        for name, figure in all_figures().items():
            with self.subTest(name):
                status, out, _ = run(name, "--json", json.dumps(figure.example))
                answer = json.loads(out)
                self.assertEqual(status, 0)
                self.assertTrue(answer["value"] and answer["steps"] and answer["sections"])
                self.assertIn("unit", answer)

    def test_a_schema_is_printed(self):
        status, out, _ = run("--schema", "tap")
        self.assertEqual(status, 0)
        self.assertIn("device_ahead_a", json.loads(out)["properties"])

    def test_bad_input_of_each_figure_ends_with_2_and_names_the_remedy(self):
        for name, figure in all_figures().items():
            for bad in ({**figure.example, "edition": "1999"}, {**figure.example, "nothing": 1}, {}):
                with self.subTest(name, bad=bad):
                    status, out, err = run(name, "--json", json.dumps(bad))
                    self.assertEqual(status, 2)
                    self.assertTrue(all(issue["remedy"] for issue in json.loads(out)["issues"]))
                    self.assertTrue(err)

    def test_what_the_tables_do_not_hold_ends_with_2(self):
        status, out, err = run("ampacity", "--json", '{"edition": "2023", "size": "14", "material": "aluminum"}')
        self.assertEqual((status, json.loads(out)["issues"][0]["code"]), (2, "cannot_compute"))
        self.assertIn("no figure for 14", err)

    def test_text_that_is_no_json(self):
        for text in ("{", '{"edition": NaN}', '{"edition": "2023", "edition": "2020"}'):
            self.assertEqual(run("device", "--json", text)[0], 2)

    def test_inputs_from_standard_input(self):
        example = json.dumps(all_figures()["device"].example).encode()
        with mock.patch("sys.stdin", mock.Mock(buffer=io.BytesIO(example))):
            self.assertEqual(json.loads(run("device", "--json", "-")[1])["value"], "100")

    def test_without_a_name_or_inputs_it_says_what_is_missing(self):
        self.assertEqual(run()[0], 2)
        status, _, err = run("device")
        self.assertEqual(status, 2)
        self.assertIn("--json", err)
        self.assertIn("voltage-drop", run("horoscope", "--json", "{}")[2])
