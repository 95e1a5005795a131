"""Runs the suite in a few processes, module by module: fails on no tests and on any skipped test, ends with one line of counts."""

from __future__ import annotations

import io
import multiprocessing
import os
import sys
import time
import unittest
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path

SLOWEST_TOLD = 8
MOST_PROCESSES = 2
"""More would want more connections than the throw-away database has."""

FIRST = (
    "tests.browser.test_saving",
    "tests.tools",
    "tests.report.test_any_value",
    "tests.browser",
    "tests.conventions",
)
"""Modules that take longest begin first, so that no process works alone at the end. The largest job that a browser opens stands
beside what mostly waits, not beside what computes all the time."""

ROOT = Path(__file__).parent


@dataclass
class Outcome:
    """How the tests of one module ended, ready to be sent from one process to another."""

    ran: int = 0
    failed: int = 0
    told: str = ""
    durations: list[tuple[float, str]] = field(default_factory=list)


class TimedResult(unittest.TextTestResult):
    """Remembers how long each test took."""

    durations: list[tuple[float, str]]

    def startTestRun(self) -> None:
        self.durations = []

    def startTest(self, test: unittest.TestCase) -> None:
        self.began = time.monotonic()
        super().startTest(test)

    def stopTest(self, test: unittest.TestCase) -> None:
        super().stopTest(test)
        self.durations.append((time.monotonic() - self.began, test.id()))


def modules() -> list[str]:
    """The test modules, those that take longest ahead."""
    found = [".".join(file.relative_to(ROOT.parent).with_suffix("").parts) for file in sorted(ROOT.rglob("test_*.py"))]
    return sorted(found, key=lambda name: next((at for at, first in enumerate(FIRST) if name.startswith(first)), 99))


def run_module(name: str, patterns: list[str]) -> Outcome:
    """Run the tests of one module."""
    loader = unittest.TestLoader()
    if patterns:
        loader.testNamePatterns = [f"*{pattern}*" for pattern in patterns]
    suite = loader.loadTestsFromName(name)
    if suite.countTestCases() == 0:
        return Outcome()
    stream = io.StringIO()
    runner = unittest.TextTestRunner(stream, verbosity=0, resultclass=TimedResult, buffer=True)
    result = runner.run(suite)
    assert isinstance(result, TimedResult)  # the runner was told so
    failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses) + len(result.skipped)
    skipped = [f"skipped, which counts as failed: {test.id()}: {reason}" for test, reason in result.skipped]
    told = "\n".join([*([stream.getvalue()] if failed else []), *skipped])
    return Outcome(result.testsRun, failed, told, result.durations)


def _one(task: tuple[str, list[str]]) -> tuple[str, Outcome]:
    return task[0], run_module(*task)


def outcomes(patterns: list[str]) -> Iterator[tuple[str, Outcome]]:
    """Run all modules, a few at once."""
    tasks = [(name, patterns) for name in modules()]
    context = multiprocessing.get_context("spawn")
    with context.Pool(min(MOST_PROCESSES, os.cpu_count() or 1)) as pool:
        yield from pool.imap_unordered(_one, tasks)


def main(patterns: list[str]) -> int:
    whole, began = Outcome(), time.monotonic()
    for name, outcome in outcomes(patterns):
        whole.ran += outcome.ran
        whole.failed += outcome.failed
        whole.durations += outcome.durations
        if outcome.ran:
            took = sum(seconds for seconds, _ in outcome.durations)
            print(f"{'FAILED' if outcome.failed else 'ok':<7}{outcome.ran:>5} in {took:6.1f} s  {name}", flush=True)
        if outcome.told:
            print(outcome.told, flush=True)
    for took, test in sorted(whole.durations, reverse=True)[:SLOWEST_TOLD]:
        print(f"  {took:6.1f} s  {test}")
    if whole.ran == 0:
        print("No test was run.")
    passed = max(whole.ran - whole.failed, 0)
    print(f"{passed} passed, {whole.failed} failed, in {time.monotonic() - began:.0f} s")
    return 0 if whole.failed == 0 and whole.ran > 0 else 1


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
