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
