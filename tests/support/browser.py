"""Headless Chromium for tests: one browser per class, a fresh context per test, faults of the page told."""

from __future__ import annotations

import unittest
from typing import Any

from playwright.sync_api import BrowserContext, Locator, Page, expect, sync_playwright

from nelvor.demo import demo_job
from nelvor.model.document import Document, Settings
from nelvor.store import members
from nelvor.store.jobs import create_job
from nelvor.web.app import create_app
from tests.support.server import FAST_HASHER, PASSWORD, Database, LiveServer
from tools.packages import CHROMIUM

ARGUMENTS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--no-default-browser-check",
]
WAIT_MS = 10_000
expect.set_options(timeout=WAIT_MS)


class WithBrowser(unittest.TestCase):
    """A live server over a database with one shop, its owner, the demo job and an empty job for each test."""

    @classmethod
    def setUpClass(cls) -> None:
        cls._hasher = members.hasher
        members.hasher = FAST_HASHER
        cls.database = Database()
        with cls.database.sessions.begin() as session:
            members.add_member(session, "shop", "owner@shop.invalid", "Owner", PASSWORD, "owner")
            members.add_member(session, "shop", "second@shop.invalid", "Second", PASSWORD, "designer")
        cls.server = LiveServer(create_app(cls.database.url, "test key"))
        cls.playwright = sync_playwright().start()
        cls.browser = cls.playwright.chromium.launch(executable_path=CHROMIUM, args=ARGUMENTS)

    @classmethod
    def tearDownClass(cls) -> None:
        cls.browser.close()
        cls.playwright.stop()
        cls.server.stop()
        cls.database.drop()
        members.hasher = cls._hasher

    def setUp(self) -> None:
        self.faults: list[str] = []

    def new_job(self, document: Document | None = None, name: str = "Test job") -> str:
        with self.database.sessions.begin() as session:
            owner = session.query(members.Member).filter_by(email="owner@shop.invalid").one()
            empty = Document(name=name, settings=Settings(edition="2023"))
            return str(create_job(session, owner, document or empty, "Begun").id)

    def demo(self) -> str:
        return self.new_job(demo_job())

    def context(self, **options: Any) -> BrowserContext:
        found = self.browser.new_context(
            **{
                "viewport": {"width": 1280, "height": 800},
                "reduced_motion": "reduce",
                "service_workers": "block",
                **options,
            }
        )
        found.set_default_timeout(WAIT_MS)
        self.addCleanup(found.close)
        return found

    def open(
        self,
        job_id: str,
        stage: str = "path",
        email: str = "owner@shop.invalid",
        patience_ms: int = WAIT_MS,
        **options: Any,
    ) -> Page:
        """Sign in and open a stage of a job; errors of the page fail the test at its end."""
        page = self.context(**options).new_page()
        page.on("pageerror", lambda error: self.faults.append(str(error)))
        page.goto(f"{self.server.url}/jobs/{job_id}/{stage}")
        page.get_by_label("Email").fill(email)
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("heading", level=1)).to_be_visible()
        self.settled(page, patience_ms)
        return page

    def begin(self, starter: str) -> Page:
        """Begin a new job from a starter as a person does, and return its page."""
        page = self.open(self.new_job())
        page.get_by_role("link", name="Nelvor, all jobs").click()
        page.get_by_label("Name").fill("First job")
        page.get_by_label("Code edition in force").select_option("2023")
        page.get_by_role("radio", name=starter).click()
        page.get_by_role("button", name="Begin", exact=True).click()
        expect(page.get_by_role("heading", level=1)).to_have_text("First job")
        self.settled(page)
        return page

    def settled(self, page: Page, patience_ms: int = WAIT_MS) -> None:
        """Wait until the answers belong to the document as it stands."""
        self.awaited(page, "[data-fresh=true]", patience_ms)

    def saved(self, page: Page, patience_ms: int = WAIT_MS) -> None:
        self.awaited(page, "[data-saving=saved]", patience_ms)

    def awaited(self, page: Page, selector: str, patience_ms: int = WAIT_MS) -> None:
        """Wait until something is on the page. An expectation would read out the whole page at every look, which a large job
        takes seconds for."""
        page.locator(selector).wait_for(state="attached", timeout=patience_ms)

    def tearDown(self) -> None:
        self.assertEqual(self.faults, [], "errors on the page")


def choose(field: Locator, text: str) -> None:
    """Find an entry of a long list by typing it, and take the first that fits."""
    field.click()
    field.fill(text)
    expect(field.page.get_by_role("listbox").get_by_role("option").first).to_contain_text(text, ignore_case=True)
    expect(field.page.get_by_role("listbox").get_by_role("option").first).to_have_attribute("data-focus", "")
    field.press("Enter")


def act(page: Page, menu: str, name: str) -> None:
    """Open a menu by its button and take one of its acts."""
    page.get_by_role("button", name=menu, exact=True).click()
    page.get_by_role("menuitem", name=name, exact=True).click()


def overlaps(page: Page, selector: str = "[data-label]") -> list[str]:
    """Return pairs of labels whose boxes overlap by more than a pixel."""
    found: list[str] = page.evaluate(
        """(selector) => {
          const boxes = [...document.querySelectorAll(selector)].filter((item) => item.textContent.trim())
            .map((item) => [item.textContent, item.getBoundingClientRect()]);
          const hits = [];
          boxes.forEach(([a, r], i) => boxes.slice(i + 1).forEach(([b, s]) => {
            const wide = Math.min(r.right, s.right) - Math.max(r.left, s.left);
            const high = Math.min(r.bottom, s.bottom) - Math.max(r.top, s.top);
            if (wide > 1 && high > 3) hits.push(`${a} / ${b}`);
          }));
          return hits;
        }""",
        selector,
    )
    return found
