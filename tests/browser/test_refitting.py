"""A panel is taken out and those behind it are fed on; a main gives way to lugs; the breaker stands on its run's sheet."""

from playwright.sync_api import expect

from tests.support.browser import WithBrowser


class Refitting(WithBrowser):
    def test_removing_feeds_on_what_is_behind(self):
        page = self.open(self.demo())
        barn = page.locator("[data-place=barn-panel]")
        barn.click()
        barn.focus()
        page.keyboard.press("Delete")
        window = page.get_by_role("dialog")
        expect(window).to_contain_text("fed from Barn disconnect")
        window.get_by_role("button", name="Remove, and feed on what is behind").click()
        expect(barn).to_have_count(0)
        page.locator("[data-place=green-panel]").click()
        expect(page.get_by_test_id("sheet").locator("[data-feed]")).to_contain_text("Barn disconnect")
        page.get_by_role("button", name="Undo").click()
        expect(barn).to_have_count(1)

    def test_a_main_gives_way_to_lugs(self):
        page = self.open(self.demo())
        page.locator("[data-place=green-panel]").click()
        sheet = page.get_by_test_id("sheet")
        lands = sheet.get_by_label("Feed lands on")
        expect(lands).to_have_value("main")
        lands.select_option("lugs")
        expect(lands).to_have_value("lugs")
        expect(page.locator("[data-place=green-panel]")).to_contain_text("lugs")
        self.settled(page)

    def test_the_breaker_of_a_run_stands_on_its_sheet(self):
        page = self.open(self.demo())
        page.locator("[data-run=to-green]").first.dispatch_event("click")
        breaker = page.get_by_test_id("sheet").get_by_label("Its breaker")
        breaker.fill("50")
        breaker.press("Enter")
        self.settled(page)
        expect(page.get_by_test_id("sheet")).to_contain_text("50 A")
