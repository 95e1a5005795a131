"""Documents that no one would draw on purpose: each ends in answers or in reasons, never in a crash."""

import json
import unittest
from pathlib import Path

from nelvor.errors import BadInput
from nelvor.report.wire import report_out
from tests.support.jobs import report_of

STRANGE = sorted((Path(__file__).parent / "strange").glob("*.json"))


class StrangeDocuments(unittest.TestCase):
    def test_each_is_judged_in_both_states_and_goes_over_the_wire(self):
        self.assertGreaterEqual(len(STRANGE), 6)
        for path in STRANGE:
            for state in ("existing", "proposed"):
                with self.subTest(f"{path.stem} {state}"):
                    try:
                        report = report_of(json.loads(path.read_text()), state)
                    except BadInput as refused:
                        self.assertTrue(all(issue.path and issue.reason for issue in refused.issues))
                        continue
                    self.assertTrue(report_out(report).model_dump_json())


if __name__ == "__main__":
    unittest.main()
