"""Each part of a running application killed once: no acknowledged save is lost. For long: ``tests.tools.killing``."""

import unittest

from tests.tools.killing import KINDS, Killing


class Killed(unittest.TestCase):
    def test_no_acknowledged_save_is_lost(self):
        killing = Killing(20261127)
        self.addCleanup(killing.close)
        killing.run(0, KINDS)
        self.assertEqual(set(killing.took), set(KINDS))
        self.assertGreater(len(killing.saver.acknowledged), 10)
        self.assertEqual(killing.lost(), [])


if __name__ == "__main__":
    unittest.main()
