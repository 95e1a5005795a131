"""Take the pictures of docs/screenshots from the demo data. Run: ``./test --run tools.screenshots``."""

from __future__ import annotations

from playwright.sync_api import Page

from nelvor.demo import demo_job
from tests.support.browser import WithBrowser, act
from tools.layout import ROOT

FOLDER = ROOT / "docs" / "screenshots"


class Pictures(WithBrowser):
    """Not a test: it opens each main view and keeps a picture."""

    def keep(self, page: Page, name: str) -> None:
        page.evaluate("document.fonts.ready")
        page.wait_for_timeout(300)
        page.screenshot(path=FOLDER / f"{name}.png")

    def shop(self, page: Page) -> None:
        """The members of the shop and its history, with a job shared and a link closed."""
        act(page, "More", "Share")
        for whom in ("the inspector", "the owner"):
            page.get_by_label("For whom").fill(whom)
            page.get_by_role("button", name="Make a link").click()
            page.get_by_label("Links").get_by_text(whom).wait_for()
        page.get_by_role("button", name="Close the link for the owner").click()
        page.get_by_text("closed", exact=True).wait_for()
        page.goto(f"{self.server.url}/shop")
        page.get_by_label("History").wait_for()
        page.get_by_role("heading", name="Members").scroll_into_view_if_needed()
        page.evaluate("window.scrollTo(0, document.body.scrollHeight)")
        self.keep(page, "shop")

    def standby(self) -> None:
        """Put a generator with its transfer switch ahead of the house, and play the position without the utility."""
        page = self.open(self.demo())
        page.locator("[data-place=disc-house]").click()
        act(page, "Add ahead or beside", "A standby generator through a transfer switch")
        window = page.get_by_role("dialog")
        for label, value in (("Rated output", "24"), ("Its breaker", "100")):
            window.get_by_label(label).fill(value)
        window.get_by_text("for a calculated load of").wait_for()
        window.get_by_role("button", name="Add it").click()
        page.locator("[data-place=generator]").wait_for()
        page.get_by_role("radio", name="Utility away").click()
        self.settled(page)
        self.keep(page, "standby")

    def diagnosis(self) -> None:
        """Read the annex that misbehaves until one cause stands out."""
        page = self.open(self.new_job(demo_job("annex")), "currents", viewport={"width": 1280, "height": 1180})
        page.evaluate("Math.random = () => 0.53")  # the same hidden fault each time
        page.get_by_text("Readings of a system that misbehaves").click()
        bench = page.get_by_test_id("readings")
        page.get_by_role("button", name="Practice with a hidden fault").click()
        for number in range(1, 4):
            bench.get_by_test_id("next-reading").wait_for()
            bench.get_by_role("button", name="Read it").click()
            bench.locator("[data-reading]").nth(number - 1).wait_for()
            page.wait_for_timeout(400)
        bench.locator("[data-cause] button").first.click()
        self.keep(page, "currents")

    def ways(self) -> None:
        """Every way to connect a source at the barn, the one that passes by its bus opened."""
        page = self.open(self.demo(), "panels")
        page.locator("[data-panel=barn-panel]").click()
        page.get_by_role("button", name="Ways to connect a source").click()
        page.get_by_role("dialog").get_by_label("Rated output").fill("32")
        page.locator("[data-way=larger_bus] button").first.click()
        self.keep(page, "ways")

    def take(self) -> None:
        job = self.demo()
        page = self.open(job)
        self.keep(page, "path")
        page.locator("[data-run=to-green]").click()
        page.get_by_role("button", name="Working of Ground").click()
        page.get_by_test_id("working").get_by_text("250.122(B)").first.wait_for()
        self.keep(page, "run-sheet")
        page.get_by_role("tab", name="Panels").click()
        page.locator("[data-panel=house-panel]").click()
        self.settled(page)
        page.get_by_role("button", name="Find the moves").click()
        page.get_by_test_id("moves").wait_for()
        self.keep(page, "panels")
        page.get_by_role("tab", name="Path").click()
        page.locator("[data-place=barn-panel]").click()
        for stage in ("Survey", "Loads", "Bonds", "Packet"):
            page.get_by_role("tab", name=stage).click()
            self.settled(page)
            self.keep(page, stage.lower())
        act(page, "More", "Changes")
        page.get_by_text("Set Barn panel").wait_for()
        self.keep(page, "order-of-work")
        page.get_by_role("button", name="Close").click()
        page.get_by_role("tab", name="Path").click()
        page.locator("[data-run=to-barn]").click()
        page.get_by_role("button", name="Compare lawful ways").click()
        page.get_by_role("table", name="Lawful ways").wait_for()
        self.keep(page, "compare")
        self.standby()
        bakery = self.open(self.new_job(demo_job("bakery")))
        self.keep(bakery, "bakery")
        bakery.locator("[data-box-mark]").click(force=True)
        bakery.locator("[data-box]").scroll_into_view_if_needed()
        self.keep(bakery, "along-a-run")
        self.diagnosis()
        self.ways()
        bakery.goto(self.server.url)
        bakery.get_by_role("radio", name="House and detached garage").click()
        self.keep(bakery, "jobs")
        page = self.open(self.demo())
        self.shop(page)
        page.goto(f"{self.server.url}/figures/tap")
        page.get_by_test_id("figure-value").wait_for()
        self.keep(page, "figure")
        self.keep(self.open(job, color_scheme="dark"), "dark")
        phone = self.open(job, viewport={"width": 390, "height": 844}, has_touch=True)
        self.keep(phone, "phone")


def main() -> None:
    """Take all pictures."""
    FOLDER.mkdir(parents=True, exist_ok=True)
    Pictures.setUpClass()
    pictures = Pictures("take")
    pictures.setUp()
    try:
        pictures.take()
    finally:
        pictures.doCleanups()
        Pictures.tearDownClass()


if __name__ == "__main__":
    main()
