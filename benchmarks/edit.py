"""From a key press to the verdict in the browser, debounce included, over a bare round trip to the same server.

Run: ``./test --run benchmarks.edit``
"""

from __future__ import annotations

import statistics
import time

from playwright.sync_api import expect

from tests.support.browser import WithBrowser

ROUNDS = 40


class EditToVerdict(WithBrowser):
    """Not a test: it measures and prints."""

    def measure(self) -> None:
        page = self.open(self.demo())
        page.locator("[data-run=to-barn]").click()
        length = page.get_by_test_id("sheet").get_by_label("Length")
        edits, trips = [], []
        for number in range(ROUNDS):
            began = time.perf_counter()
            length.fill(str(150 + number))
            expect(page.locator("[data-fresh=true]")).to_be_attached()
            expect(page.locator("[data-run=to-barn]")).to_contain_text(f"{150 + number} ft")
            edits.append(time.perf_counter() - began)
            trips.append(
                page.evaluate(
                    "async () => { const t = performance.now(); await (await fetch('/api/health')).json(); return (performance.now() - t) / 1000; }"
                )
            )
        edit, trip = statistics.median(edits), statistics.median(trips)
        worst = statistics.quantiles(edits, n=20)[18]
        print(
            f"edit to verdict: median {edit * 1000:.0f} ms, 95th percentile {worst * 1000:.0f} ms (debounce 60 ms included)"
        )
        print(f"bare round trip: median {trip * 1000:.1f} ms; ratio {edit / trip:.0f}")


def main() -> None:
    """Measure once and print."""
    EditToVerdict.setUpClass()
    bench = EditToVerdict("measure")
    bench.setUp()
    try:
        bench.measure()
    finally:
        bench.doCleanups()
        EditToVerdict.tearDownClass()


if __name__ == "__main__":
    main()
