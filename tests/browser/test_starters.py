"""A new user begins from the nearest starter, and enters no more than the site asks for."""

from playwright.sync_api import expect

from tests.support.browser import WithBrowser, act, choose


class Starters(WithBrowser):
    def test_a_garage_is_designed_from_its_starter(self):
        page = self.begin("House and detached garage")
        sheet = page.get_by_test_id("sheet")
        expect(page.locator("[data-outcome=must_fix]")).to_have_count(0)
        for run, length in (("to-panel", "30"), ("to-garage-panel", "120")):
            page.locator(f"[data-run={run}]").first.dispatch_event("click")
            sheet.get_by_label("Length").fill(length)
        sheet.get_by_label("Cover", exact=True).fill("24")
        page.locator("[data-place=garage-panel]").click()
        page.get_by_role("tab", name="Loads").click()
        choose(page.get_by_label("Add a load"), "vehicle")
        self.settled(page)
        expect(page.get_by_label("Calculated load")).to_contain_text("7680 VA")
        page.get_by_role("button", name="The job", exact=True).click()
        for label, choice in (("Metal water pipe", "bonded"), ("Metal gas pipe", "absent")):
            for at in (0, 1):
                sheet.get_by_label(label).nth(at).select_option(choice)
        sheet.get_by_label("Steel frame").select_option("absent")  # asked of the garage alone
        for box in ("service-disconnect", "panel", "garage-panel"):
            page.locator(f"[data-place={box}]").click()
            sheet.get_by_label("All as required").select_option("yes")
        expect(page.locator("[data-outcome=must_fix]")).to_have_count(0)
        expect(page.locator("[data-outcome=cannot_tell]")).to_have_count(0)
        self.saved(page)

    def test_the_order_of_work_of_an_outdoor_disconnect_is_read_from_its_starter(self):
        page = self.begin("Outdoor disconnect ahead of an old panel")
        act(page, "More", "Changes")
        expect(page.get_by_text("Have the utility disconnect and seal")).to_be_visible()
        expect(page.get_by_text("Old panel: look at the bonding screw")).to_be_visible()
        page.get_by_role("tab", name="Thing by thing").click()
        expect(page.get_by_role("dialog").get_by_text("Service disconnect", exact=True).first).to_be_visible()

    def test_the_size_that_the_utility_tells_is_entered_at_its_run(self):
        page = self.begin("House with meter-main")
        expect(page.get_by_label("Findings")).to_contain_text("Ask for them, and enter them at the utility's run")
        page.locator("[data-run=to-meter-main]").first.dispatch_event("click")
        sheet = page.get_by_test_id("sheet")
        choose(sheet.get_by_label("Hots"), "4/0")
        sheet.get_by_label("Metal").select_option("aluminum")
        expect(page.get_by_label("Findings")).not_to_contain_text("the utility's run")
