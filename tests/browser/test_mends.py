"""A mend says beforehand what it changes and what else it moves, and is taken only by its own button."""

from playwright.sync_api import expect

from tests.support.browser import WithBrowser


class Mends(WithBrowser):
    def test_what_a_mend_moves_is_told_before_it_is_taken(self):
        page = self.open(self.demo())
        finding = page.locator("[data-finding=bond]").filter(has_text="bonded again")
        told = finding.get_by_test_id("mend-effect")
        finding.get_by_role("button", name="what it moves").click()
        expect(told).to_contain_text("bonding strap")
        expect(told).to_contain_text("One finding goes, none comes.")
        expect(finding).to_have_count(1)
        expect(page.get_by_role("button", name="Undo")).to_be_disabled()
        finding.get_by_role("button", name="Take the bond out").click()
        expect(finding).to_have_count(0)
        page.get_by_role("button", name="Undo").click()
        expect(finding).to_have_count(1)

    def test_an_old_range_whose_frame_hangs_on_the_neutral_behind_a_new_disconnect(self):
        page = self.open(self.demo(), "panels")
        page.locator("[data-circuit=h1]").first.dispatch_event("click")
        sheet = page.get_by_test_id("panel-sheet")
        sheet.get_by_label("Frame on neutral").select_option("yes")
        finding = page.locator("[data-finding=appliance_frame]")
        expect(finding).to_have_attribute("data-outcome", "cannot_tell")
        if sheet.get_by_label("Neutral is").count() == 0:
            sheet.get_by_role("button", name="Enter its wire").click()
        sheet.get_by_label("Metal").select_option("copper")
        sheet.get_by_label("Neutral", exact=True).fill("8")
        sheet.get_by_label("Neutral", exact=True).press("Enter")
        sheet.get_by_label("Neutral is").select_option("bare")
        expect(finding).to_have_attribute("data-outcome", "must_fix")
        expect(finding).to_contain_text("not the service equipment")
        finding.get_by_role("button", name="Run four wires to it").click()
        expect(finding).to_have_count(0)
        expect(sheet.get_by_label("Frame on neutral")).to_have_value("no")
        expect(sheet.get_by_label("Has a ground")).to_have_value("yes")
