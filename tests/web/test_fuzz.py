"""Every route takes what nobody should send: a few hundred requests here; thousands by ``tests.web.fuzzing``."""

import unittest

from tests.web.fuzzing import Fuzzing

MANY = 400
SEED = 20261127


class Fuzz(Fuzzing):
    def test_no_request_is_answered_by_a_fault_of_the_server(self):
        self.begin()
        statuses, wrong = self.run_many(SEED, MANY)
        self.assertEqual(wrong, [])
        self.assertGreater(statuses[422], MANY / 4)
        self.assertGreater(sum(statuses[status] for status in (200, 201)), MANY / 20, "some of it has to be read")


if __name__ == "__main__":
    unittest.main()
