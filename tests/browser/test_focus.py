"""The keyboard's focus stays where the work goes on: after adding, mending and removing."""

from playwright.sync_api import expect

from tests.support.browser import WithBrowser, act


class Focus(WithBrowser):
    def test_after_adding_it_is_on_the_name_of_what_was_added(self):
        page = self.open(self.demo())
        page.locator("[data-place=barn-panel]").click()
        act(page, "Feed something new from here", "Panel in this building")
        name = page.get_by_test_id("sheet").get_by_label("Name")
        expect(name).to_be_focused()
        expect(name).to_have_value("Panel")

    def test_after_a_mend_it_is_on_the_finding_in_its_place(self):
        page = self.open(self.demo())
        mend = page.get_by_role("button", name="Take the bond out")
        mend.focus()
        page.keyboard.press("Enter")
        expect(mend).to_have_count(0)
        inside = page.get_by_label("Findings").locator(":focus")
        expect(inside).to_have_count(1)

    def test_after_removing_it_is_at_what_fed_the_thing(self):
        page = self.open(self.demo())
        place = page.locator("[data-place=green-panel]")
        place.focus()
        page.keyboard.press("Enter")
        name = page.get_by_test_id("sheet").get_by_label("Name")
        expect(name).to_have_value("Greenhouse panel")
        expect(page.get_by_test_id("sheet").locator(":focus")).to_have_count(1)
        place.focus()
        page.keyboard.press("Delete")
        expect(page.get_by_role("dialog").get_by_role("button", name="Remove")).to_be_focused()
        page.keyboard.press("Enter")
        expect(place).to_have_count(0)
        expect(page.locator("[data-place=barn-panel]")).to_be_focused()

    def test_a_menu_is_walked_with_arrows_and_left_with_escape(self):
        page = self.open(self.demo())
        more = page.get_by_role("button", name="More", exact=True)
        more.focus()
        page.keyboard.press("ArrowDown")
        expect(page.get_by_role("menu")).to_be_visible()
        page.keyboard.press("Escape")
        expect(page.get_by_role("menu")).to_have_count(0)
        expect(more).to_be_focused()
        page.keyboard.press("ArrowDown")
        page.keyboard.type("cha")
        page.keyboard.press("Enter")
        expect(page.get_by_role("heading", name="From existing to proposed")).to_be_visible()

    def test_each_count_opens_its_list_also_what_holds(self):
        page = self.open(self.demo())
        for outcome, words in (("must_fix", "Neutral is bonded again"), ("holds", "125 A bus behind 125 A")):
            page.locator(f"[data-count={outcome}]").get_by_role("button").first.click()
            panel = page.locator(f"[data-count={outcome}] >> css=button").first
            expect(panel).to_have_attribute("aria-expanded", "true")
            expect(page.get_by_text(words).last).to_be_visible()
            page.keyboard.press("Escape")

    def test_stages_are_tabs_that_arrows_walk(self):
        page = self.open(self.demo())
        page.get_by_role("tab", name="Path").focus()
        page.keyboard.press("ArrowRight")
        page.keyboard.press("Enter")
        expect(page.get_by_role("tabpanel").get_by_label("Panels", exact=True)).to_be_visible()
        self.assertTrue(page.url.endswith("/panels"))
