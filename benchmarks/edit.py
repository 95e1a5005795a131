"""From the key event to the painted verdict, by marks inside the page, over a bare round trip to the same server.

Run: ``./test --run benchmarks.edit``
"""

from __future__ import annotations

import statistics

from playwright.sync_api import Page

from benchmarks.panel import panel_of
from nelvor.model.parse import parse_value
from tests.support.browser import WithBrowser
from tests.support.jobs import chain

ROUNDS = 30
# Types into a field of the open sheet as a key would, and waits until the answer to it has been painted.
EDIT = """
async ([sheet, label, value]) => {
  const field = [...document.querySelectorAll(`[data-testid=${sheet}] input`)].find((item) => item.labels?.[0]?.textContent.includes(label));
  const painted = () => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)));
  const page = document.querySelector('[data-fresh]');
  const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set;
  field.focus();
  const began = performance.now();
  set.call(field, value);
  field.dispatchEvent(new Event('input', { bubbles: true }));
  await new Promise((done) => setTimeout(done));
  while (page.dataset.fresh !== 'true') await new Promise((done) => setTimeout(done, 1));
  await painted();
  return performance.now() - began;
}
"""
TRIP = """
async () => {
  const began = performance.now();
  await (await fetch('/api/health')).json();
  return performance.now() - began;
}
"""


class EditToVerdict(WithBrowser):
    """Not a test: it measures and prints."""

    def measure(self) -> None:
        self.one("demo", self.open(self.demo()), "[data-run=to-barn]", "sheet", "Length")
        long = self.new_job(parse_value(chain(50)), name="Chain of 50")
        self.one("chain of 50", self.open(long), "[data-run=to-p49]", "sheet", "Length")
        full = self.new_job(parse_value(panel_of(60, "split_120_240")), name="Panel of 60")
        self.one("panel of 60 circuits", self.open(full, "panels"), "[data-circuit=c60]", "panel-sheet", "Rating")

    def one(self, name: str, page: Page, thing: str, sheet: str, label: str) -> None:
        page.locator(thing).first.dispatch_event("click")
        page.get_by_test_id(sheet).get_by_label(label).first.wait_for()
        edits, trips = [], []
        for number in range(ROUNDS):
            edits.append(page.evaluate(EDIT, [sheet, label, str(15 + number)]))
            trips.append(page.evaluate(TRIP))
            self.saved(page)
        edit, trip = statistics.median(edits), statistics.median(trips)
        worst = statistics.quantiles(edits, n=20)[18]
        print(f"{name}: key event to painted verdict: median {edit:.0f} ms, 95th percentile {worst:.0f} ms")
        print(f"{name}: bare round trip: median {trip:.1f} ms; ratio {edit / trip:.1f}")


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
