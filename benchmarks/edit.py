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
# Types into a field of the open sheet as a key would, and waits until the answer to it has been painted: a message that
# is posted while a frame is made comes when that frame is painted. The frame after it is told besides, as it was measured
# in earlier versions.
EDIT = """
async ([sheet, label, value]) => {
  const field = [...document.querySelectorAll(`[data-testid=${sheet}] input`)].find((item) => item.labels?.[0]?.textContent.includes(label));
  const frame = () => new Promise((done) => requestAnimationFrame(done));
  const painted = async () => {
    await frame();
    const { port1, port2 } = new MessageChannel();
    await new Promise((done) => {
      port1.onmessage = done;
      port2.postMessage(null);
    });
  };
  const page = document.querySelector('[data-fresh]');
  const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set;
  field.focus();
  const began = performance.now();
  set.call(field, value);
  field.dispatchEvent(new Event('input', { bubbles: true }));
  await new Promise((done) => setTimeout(done));
  while (page.dataset.fresh !== 'true') await new Promise((done) => setTimeout(done, 1));
  await painted();
  const shown = performance.now() - began;
  await frame();
  return [shown, performance.now() - began];
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
        edits, frames_after, trips = [], [], []
        for number in range(ROUNDS):
            shown, after = page.evaluate(EDIT, [sheet, label, str(15 + number)])
            edits.append(shown)
            frames_after.append(after)
            trips.append(page.evaluate(TRIP))
            self.saved(page)
        edit, trip = statistics.median(edits), statistics.median(trips)
        worst = statistics.quantiles(edits, n=20)[18]
        print(f"{name}: key event to painted verdict: median {edit:.0f} ms, 95th percentile {worst:.0f} ms")
        after = statistics.median(frames_after)
        print(
            f"{name}: bare round trip: median {trip:.1f} ms; ratio {edit / trip:.1f}, to the frame after it "
            f"{after / trip:.1f}"
        )


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
