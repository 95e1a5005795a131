"""Runs the suite: fails on no tests and on any skipped test, and ends with one line of counts."""

from __future__ import annotations

import sys
import time
import unittest
from pathlib import Path

SLOWEST_TOLD = 8


class TimedResult(unittest.TextTestResult):
    """Remembers how long each test took."""

    def startTest(self, test: unittest.TestCase) -> None:
        self.began = time.monotonic()
        super().startTest(test)

    def stopTest(self, test: unittest.TestCase) -> None:
        super().stopTest(test)
        durations.append((time.monotonic() - self.began, test.id()))


durations: list[tuple[float, str]] = []


def main(patterns: list[str]) -> int:
    loader = unittest.TestLoader()
    if patterns:
        loader.testNamePatterns = [f"*{pattern}*" for pattern in patterns]
    root = Path(__file__).parent
    suite = loader.discover(str(root), top_level_dir=str(root.parent))
    result = unittest.TextTestRunner(verbosity=1, resultclass=TimedResult, buffer=True).run(suite)
    for took, name in sorted(durations, reverse=True)[:SLOWEST_TOLD]:
        print(f"  {took:6.1f} s  {name}")
    failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
    for test, reason in result.skipped:
        print(f"skipped, which counts as failed: {test.id()}: {reason}")
    failed += len(result.skipped)
    passed = max(result.testsRun - failed, 0)
    if result.testsRun == 0:
        print("No test was run.")
    print(f"{passed} passed, {failed} failed")
    return 0 if failed == 0 and result.testsRun > 0 else 1


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
