"""What every view must hold: labels that do not overlap, no page scroll, no serious accessibility finding."""

import json
import unittest

from playwright.sync_api import expect

from nelvor.model.parse import parse_value
from tests.support.browser import WithBrowser, overlaps
from tests.support.jobs import JobBuilder, bakery, chain, orchard, thing
from tools.layout import UI

AXE = UI / "node_modules" / "axe-core" / "axe.min.js"
STAGES = ("survey", "path", "loads", "bonds", "currents", "packet")


def branching() -> dict:
    """One panel that feeds three, two of them at one spot, with short and long runs."""
    builder = JobBuilder()
    builder.service()
    builder.box("hub", "service", run={"length_ft": 3.0})
    for name, feet in (("near", 1.0), ("beside", 1.0), ("far", 900.0)):
        builder.box(name, "hub", run={"length_ft": feet})
        builder.load(name, 2_000.0)
    return builder.job


class Drawing(WithBrowser):
    def check_labels(self, job, **options):
        page = self.open(self.new_job(parse_value(job)), **options)
        page.evaluate("document.fonts.ready")
        page.wait_for_timeout(200)
        self.assertEqual(overlaps(page), [])
        return page

    def test_labels_do_not_overlap(self):
        long_names = orchard()
        thing(long_names, "enclosures", "barn-panel")["name"] = "A panel with a very long name that goes on and on"
        thing(long_names, "buildings", "cider-barn")["name"] = "A building with a very long name as well"
        short = orchard()
        for run in short["runs"]:
            run["length_ft"] = 1.0
        for name, job in (
            ("orchard", orchard()),
            ("bakery", bakery()),
            ("chain of five", chain(5)),
            ("branching", branching()),
            ("long names", long_names),
            ("all short", short),
        ):
            with self.subTest(name):
                self.check_labels(job)

    def test_no_page_scroll_at_1280_by_800_on_any_stage(self):
        job = self.new_job(parse_value(orchard()))
        page = self.open(job)
        for stage in STAGES:
            page.get_by_role("tab", name=stage.capitalize()).click()
            self.settled(page)
            size = page.evaluate("[document.documentElement.scrollWidth, document.documentElement.scrollHeight]")
            self.assertLessEqual(size[0], 1280, stage)
            self.assertLessEqual(size[1], 800, stage)

    def test_a_chain_of_five_fits_without_scrolling_sideways(self):
        page = self.check_labels(chain(5))
        pane = page.get_by_test_id("path-drawing")
        self.assertLessEqual(pane.evaluate("e => e.scrollWidth"), pane.evaluate("e => e.clientWidth"))

    def test_on_a_phone_nothing_is_wider_than_the_screen(self):
        page = self.check_labels(orchard(), viewport={"width": 390, "height": 844}, has_touch=True)
        for stage in ("survey", "path", "bonds", "currents", "packet"):
            page.get_by_role("tab", name=stage.capitalize()).click()
            self.settled(page)
            self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), 390, stage)

    def test_the_drawing_has_a_table_beside_it(self):
        page = self.open(self.new_job(parse_value(orchard())))
        page.get_by_text("The path as a table").click()
        expect(page.get_by_role("rowheader", name="Greenhouse panel")).to_be_visible()


class Accessibility(WithBrowser):
    def serious(self, page) -> list[str]:
        page.evaluate(AXE.read_text())
        found = page.evaluate("axe.run(document, {runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa']})")
        return [
            json.dumps([item["id"], item["nodes"][0]["html"][:160], item["nodes"][0].get("failureSummary", "")[:200]])
            for item in found["violations"]
            if item["impact"] in ("serious", "critical")
        ]

    def test_no_serious_finding_on_any_view(self):
        job = self.new_job(parse_value(orchard()))
        for scheme in ("light", "dark"):
            page = self.open(job, color_scheme=scheme)
            for stage in STAGES:
                page.get_by_role("tab", name=stage.capitalize()).click()
                self.settled(page)
                with self.subTest(stage=stage, scheme=scheme):
                    self.assertEqual(self.serious(page), [])
            page.get_by_role("tab", name="Path").click()
            page.locator("[data-run=to-green]").click()
            page.get_by_role("button", name="Working of Ground").click()
            page.get_by_test_id("working").get_by_text("250.122(B)").first.wait_for()
            self.assertEqual(self.serious(page), [], f"run sheet, {scheme}")
            page.get_by_role("link", name="Nelvor, all jobs").click()
            page.get_by_role("heading", name="Begin a job").wait_for()
            self.assertEqual(self.serious(page), [], f"jobs, {scheme}")

    def test_quick_figures_windows_and_the_meter_record(self):
        job = self.new_job(parse_value(bakery()))
        for scheme in ("light", "dark"):
            page = self.open(job, color_scheme=scheme)
            page.locator("[data-run=to-shop] > rect").click()
            page.get_by_role("button", name="Compare lawful ways").click()
            page.get_by_role("table", name="Lawful ways").wait_for()
            page.get_by_text("Price list, per foot").click()
            self.assertEqual(self.serious(page), [], f"lawful ways, {scheme}")
            page.get_by_role("button", name="Close").click()
            page.locator("[data-run=to-cold] > rect").click()
            page.get_by_role("list", name="Tap rules").wait_for()
            self.assertEqual(self.serious(page), [], f"tap, {scheme}")
            page.locator("[data-box-mark]").click(force=True)
            page.locator("[data-box]").wait_for()
            self.assertEqual(self.serious(page), [], f"stretches and boxes, {scheme}")
            page.goto(f"{self.server.url}/shop")
            page.get_by_role("button", name="Deeper cover").click()
            self.assertEqual(self.serious(page), [], f"local rules, {scheme}")
            page.goto(f"{self.server.url}/jobs/{job}/loads")
            self.settled(page)
            page.get_by_role("button", name="Service disconnect", exact=True).click()
            page.get_by_label("Recorded peak").wait_for()
            self.assertEqual(self.serious(page), [], f"measured demand, {scheme}")
            page.goto(f"{self.server.url}/figures/multifamily")
            page.get_by_test_id("figure-value").wait_for()
            self.assertEqual(self.serious(page), [], f"quick figures, {scheme}")

    def test_ways_readings_and_links(self):
        job = self.new_job(parse_value(orchard()))
        for scheme in ("light", "dark"):
            page = self.open(job, "panels", color_scheme=scheme)
            page.locator("[data-panel=barn-panel]").click()
            page.get_by_role("button", name="Ways to connect a source").click()
            page.get_by_role("dialog").get_by_label("Rated output").fill("32")
            page.locator("[data-way=larger_bus] button").first.click()
            page.get_by_role("button", name="Take this way").wait_for()
            self.assertEqual(self.serious(page), [], f"ways, {scheme}")
            page.goto(f"{self.server.url}/jobs/{job}/currents")
            self.settled(page)
            page.get_by_text("Beside it: the same as it stands").click()
            page.get_by_test_id("beside").wait_for()
            page.get_by_text("Readings of a system that misbehaves").click()
            page.get_by_role("button", name="Practice with a hidden fault").click()
            page.get_by_role("button", name="Read it").click()
            page.locator("[data-cause] button").first.click()
            self.assertEqual(self.serious(page), [], f"readings, {scheme}")
            page.goto(f"{self.server.url}/shop")
            page.get_by_label("Email to invite").fill(f"{scheme}@shop.invalid")
            page.get_by_role("button", name="Invite").click()
            link = page.get_by_label("Link").input_value()
            self.assertEqual(self.serious(page), [], f"members, {scheme}")
            page.goto("about:blank")
            page.goto(link)
            page.get_by_label("Your name").wait_for()
            self.assertEqual(self.serious(page), [], f"a link, {scheme}")

    def test_nothing_of_it_scrolls_sideways_on_a_phone(self):
        job = self.new_job(parse_value(orchard()))
        page = self.open(job, "currents", viewport={"width": 390, "height": 844}, has_touch=True)
        page.get_by_text("Beside it: the same as it stands").click()
        page.get_by_test_id("beside").wait_for()
        page.get_by_text("Readings of a system that misbehaves").click()
        page.get_by_test_id("next-reading").wait_for()
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), 390)
        page.goto(f"{self.server.url}/shop")
        page.get_by_label("Email to invite").wait_for()
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), 390)

    def test_the_sign_in_page(self):
        page = self.context().new_page()
        page.goto(self.server.url)
        page.get_by_label("Email").wait_for()
        self.assertEqual(self.serious(page), [])


class SignInPage(WithBrowser):
    def test_a_wrong_password_is_told_and_what_was_typed_stays(self):
        page = self.context().new_page()
        page.goto(self.server.url)
        page.get_by_label("Email").fill("owner@shop.invalid")
        page.get_by_label("Password").fill("wrong")
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("alert")).to_contain_text("do not match")
        expect(page.get_by_label("Email")).to_have_value("owner@shop.invalid")
        self.assertEqual(page.get_by_role("button", name="Open the demo").count(), 0)

    def test_a_broken_file_is_refused_with_its_reasons(self):
        page = self.open(self.demo())
        page.get_by_role("link", name="Nelvor, all jobs").click()
        files = page.get_by_label("Job file")
        files.set_input_files(
            {"name": "a.json", "mimeType": "application/json", "buffer": b'{"format": "nelvor-job", "ver'}
        )
        expect(page.get_by_role("alert")).to_contain_text("not JSON")
        bad = orchard()
        thing(bad, "runs", "to-barn")["length_ft"] = -1
        files.set_input_files({"name": "b.json", "mimeType": "application/json", "buffer": json.dumps(bad).encode()})
        expect(page.get_by_role("alert")).to_contain_text("runs.to-barn.length_ft")
        files.set_input_files(
            {"name": "c.json", "mimeType": "application/json", "buffer": json.dumps(orchard()).encode()}
        )
        expect(page.get_by_role("heading", level=1)).to_have_text("Orchard at Quince Hollow")


if __name__ == "__main__":
    unittest.main()
