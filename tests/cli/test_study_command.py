"""``nelvor study``: words, JSON, netlist, and what cannot be told."""

import io
import json
import tempfile
import unittest
from contextlib import redirect_stderr, redirect_stdout
from pathlib import Path

from nelvor.cli.main import main
from nelvor.demo import FOLDER


class Study(unittest.TestCase):
    def told(self, job, *arguments):
        with redirect_stdout(io.StringIO()) as out, redirect_stderr(io.StringIO()) as err:
            status = main(["study", str(FOLDER / f"{job}.json"), *arguments])
        return status, out.getvalue(), err.getvalue()

    def test_in_words(self):
        status, out, _ = self.told("orchard", "--scenario", "neutral_open", "--place", "to-house")
        self.assertEqual(status, 0)
        self.assertIn("come back over metal", out)
        self.assertIn("Assumed:", out)

    def test_as_json_and_as_a_netlist(self):
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "c.cir"
            status, out, _ = self.told("cabin", "--json", "--netlist", str(path))
            self.assertEqual((status, json.loads(out)["danger"]), (0, "wrong"))
            self.assertIn("Vm0", path.read_text())

    def test_what_cannot_be_told_ends_with_2(self):
        status, out, err = self.told("cabin", "--scenario", "ground_fault", "--place", "wash-panel")
        self.assertEqual(status, 2)
        self.assertIn("gives into a fault", out + err)


if __name__ == "__main__":
    unittest.main()
