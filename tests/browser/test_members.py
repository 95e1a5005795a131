"""Members in the browser: an invitation handed over, taken, a role changed, a member taken out, one's own password."""

from playwright.sync_api import expect

from tests.support.browser import WithBrowser
from tests.support.server import PASSWORD

NEW = "a longer new password"


class Members(WithBrowser):
    def shop(self):
        page = self.open(self.demo())
        page.goto(f"{self.server.url}/shop")
        return page

    def test_from_the_invitation_to_the_end_of_a_membership(self):
        page = self.shop()
        page.get_by_label("Email to invite").fill("ada@east.invalid")
        page.get_by_label("Role", exact=True).select_option("field")
        page.get_by_role("button", name="Invite").click()
        link = page.get_by_label("Link").input_value()
        self.assertIn("/link#", link)
        other = page.context.browser.new_context().new_page()
        other.goto(link)
        expect(other.get_by_text("invites you to")).to_contain_text("as field")
        other.get_by_label("Your name").fill("Ada")
        other.get_by_label("Password").fill(PASSWORD)
        other.get_by_role("button", name="Become a member").click()
        expect(other.get_by_role("link", name="The shop")).to_be_visible()
        page.reload()
        row = page.locator("[data-member='ada@east.invalid']")
        expect(row).to_contain_text("Ada")
        page.get_by_label("Role of Ada").select_option("reviewer")
        page.reload()
        expect(page.get_by_label("Role of Ada")).to_have_value("reviewer")
        row.get_by_role("button", name="Remove").click()
        row.get_by_role("button", name="Take Ada out").click()
        expect(row).to_have_count(0)
        other.reload()
        expect(other.get_by_role("button", name="Sign in", exact=True)).to_be_visible()
        other.goto(link)
        expect(other.get_by_role("alert")).to_contain_text("was used already")

    def test_the_last_owner_stays_and_a_wrong_password_is_told(self):
        page = self.shop()
        role = page.get_by_label("Role of Owner")
        role.select_option("reviewer")
        expect(page.get_by_role("alert")).to_contain_text("last owner")
        page.get_by_label("Current password").fill("not this one at all")
        page.get_by_label("New password").fill(NEW)
        page.get_by_role("button", name="Change it").click()
        expect(page.get_by_role("alert").last).to_contain_text("do not match")
