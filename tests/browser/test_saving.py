"""Nothing is lost: conflicts, outages, reloads, revisions."""

from playwright.sync_api import expect

from tests.support.browser import WithBrowser


def change_length(page, run: str, text: str) -> None:
    page.locator(f"[data-run={run}]").click()
    page.get_by_test_id("sheet").get_by_label("Length").fill(text)


class TwoEditors(WithBrowser):
    def test_the_later_is_told_chooses_one_by_one_and_loses_nothing(self):
        job = self.demo()
        first, second = self.open(job), self.open(job, email="second@shop.invalid")
        change_length(first, "to-barn", "200")
        self.saved(first)
        change_length(second, "to-barn", "150")
        change_length(second, "to-green", "95")
        expect(second.get_by_role("heading", name="Somebody saved this job before you")).to_be_visible()
        second.get_by_label("Which stands: Disconnect to barn").first.select_option("theirs")
        second.get_by_role("button", name="Go on with these").click()
        self.saved(second)
        expect(second.locator("[data-run=to-barn]")).to_contain_text("200 ft")
        second.reload()
        expect(second.locator("[data-run=to-barn]")).to_contain_text("200 ft")
        second.get_by_role("button", name="Revisions").click()
        dialog = second.get_by_role("dialog")
        expect(dialog).to_contain_text("kept beside another save")

    def test_taking_all_of_theirs_keeps_mine_as_a_revision(self):
        job = self.demo()
        first, second = self.open(job), self.open(job, email="second@shop.invalid")
        change_length(first, "to-barn", "200")
        self.saved(first)
        change_length(second, "to-barn", "150")
        second.get_by_role("button", name="Take all of theirs").click()
        expect(second.locator("[data-run=to-barn]")).to_contain_text("200 ft")
        self.saved(second)


class Outage(WithBrowser):
    def test_server_stopped_page_reloaded_server_back(self):
        job = self.demo()
        page = self.open(job)
        self.server.stop()
        change_length(page, "to-barn", "222")
        expect(page.locator("[data-saving=away]")).to_be_attached()
        expect(page.get_by_role("status")).to_contain_text("kept in this browser")
        self.server.start()
        page.reload()
        expect(page.locator("[data-run=to-barn]")).to_contain_text("222 ft")
        self.saved(page)
        page.evaluate("localStorage.clear()")
        page.reload()
        expect(page.locator("[data-run=to-barn]")).to_contain_text("222 ft")

    def test_edits_made_while_the_server_is_away_are_saved_when_it_is_back(self):
        page = self.open(self.demo())
        self.server.stop()
        for feet in ("201", "202", "203"):
            change_length(page, "to-barn", feet)
            page.keyboard.press("Tab")
        expect(page.locator("[data-saving=away]")).to_be_attached()
        self.server.start()
        self.saved(page)
        self.settled(page)


class Revisions(WithBrowser):
    def test_each_undo_step_is_a_revision_and_an_old_one_comes_back(self):
        page = self.open(self.demo())
        change_length(page, "to-barn", "200")
        page.keyboard.press("Tab")
        self.saved(page)
        page.get_by_test_id("sheet").get_by_label("Parallel sets").fill("2")
        self.saved(page)
        page.get_by_role("button", name="Revisions").click()
        dialog = page.get_by_role("dialog")
        expect(dialog.get_by_text("Change length")).to_be_visible()
        expect(dialog.locator("li strong").first).to_have_text("3")
        dialog.get_by_role("button", name="Compare").last.click()
        expect(dialog).to_contain_text("length ft: 180 → 200")
        dialog.get_by_role("button", name="Restore").last.click()
        expect(page.locator("[data-run=to-barn]")).to_contain_text("180 ft")
        page.get_by_role("button", name="Revisions").click()
        expect(page.get_by_role("dialog")).to_contain_text("Restored revision 1")

    def test_a_reader_can_look_and_change_nothing(self):
        with self.database.sessions.begin() as session:
            from nelvor.store.members import add_member
            from tests.support.server import PASSWORD

            add_member(session, "shop", "reader@shop.invalid", "Reader", PASSWORD, "reviewer")
        page = self.open(self.demo(), email="reader@shop.invalid")
        page.locator("[data-run=to-barn]").click()
        expect(page.get_by_test_id("sheet").get_by_label("Length")).to_be_disabled()
        self.assertEqual(page.get_by_role("button", name="Take the bond out").count(), 0)
