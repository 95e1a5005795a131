"""Take the pictures of docs/screenshots from the demo data. Run: ``./test --run tools.screenshots``."""

from __future__ import annotations

from playwright.sync_api import Page

from tests.support.browser import WithBrowser
from tools.layout import ROOT

FOLDER = ROOT / "docs" / "screenshots"


class Pictures(WithBrowser):
    """Not a test: it opens each main view and keeps a picture."""

    def keep(self, page: Page, name: str) -> None:
        page.evaluate("document.fonts.ready")
        page.wait_for_timeout(300)
        page.screenshot(path=FOLDER / f"{name}.png")

    def take(self) -> None:
        job = self.demo()
        page = self.open(job)
        self.keep(page, "path")
        page.locator("[data-run=to-green]").click()
        page.get_by_role("button", name="Working of Ground").click()
        page.get_by_test_id("working").get_by_text("250.122(B)").first.wait_for()
        self.keep(page, "run-sheet")
        page.locator("[data-place=barn-panel]").click()
        for stage in ("Loads", "Bonds", "Packet"):
            page.get_by_role("button", name=stage, exact=True).click()
            self.settled(page)
            self.keep(page, stage.lower())
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
