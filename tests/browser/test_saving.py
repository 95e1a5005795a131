"""Nothing is lost: conflicts, outages, reloads, revisions."""

from playwright.sync_api import expect

from nelvor.model.parse import parse_value
from tests.support.browser import WithBrowser, act
from tests.support.jobs import chain

PATIENT_MS = 60_000


def change_length(page, run: str, text: str) -> None:
    page.locator(f"[data-run={run}]").click()
    page.get_by_test_id("sheet").get_by_label("Length").fill(text)


def sheet_of(page, run: str):
    page.locator(f"[data-run={run}]").click()
    return page.get_by_test_id("sheet")


def losing_answers(page, count: int) -> None:
    """Let the server do what it is asked, and cut its answers to the next saves on the way."""
    left = [count]

    def cut(route):
        if left[0] == 0:
            route.continue_()
            return
        left[0] -= 1
        route.fetch()
        route.abort()

    page.route("**/api/jobs/*/revisions", cut)


def failing(status: int, count: int):
    """Return a route that answers the next saves with a failure of the server's, and lets the others pass."""
    left = [count]

    def fail(route):
        left[0] -= 1
        if left[0] >= 0:
            route.fulfill(status=status, json={"error": "x", "message": "no", "issues": []})
        else:
            route.continue_()

    return fail


class TwoEditors(WithBrowser):
    def both(self):
        job = self.demo()
        return self.open(job), self.open(job, email="second@shop.invalid")

    def test_different_fields_of_one_run_are_joined_and_told(self):
        first, second = self.both()
        change_length(first, "to-barn", "200")
        self.saved(first)
        sheet_of(second, "to-barn").get_by_label("Bends between pulls").fill("180")
        expect(second.get_by_role("heading", name="Others changed this job meanwhile")).to_be_visible()
        expect(second.get_by_role("dialog")).to_contain_text("length ft: 180 → 200")
        second.get_by_role("dialog").get_by_role("button", name="Close").click()
        self.saved(second)
        for page in (first, second):
            page.reload()
            expect(page.locator("[data-run=to-barn]")).to_contain_text("200 ft")
            expect(sheet_of(page, "to-barn").get_by_label("Bends between pulls")).to_have_value("180")

    def test_the_same_field_is_chosen_and_typing_goes_on_through_it(self):
        first, second = self.both()
        change_length(first, "to-barn", "200")
        self.saved(first)
        change_length(second, "to-barn", "150")
        expect(second.locator("[data-saving=conflict]")).to_be_attached()
        expect(second.get_by_role("heading", name="Somebody changed the same before you")).to_be_visible()
        second.get_by_label("Which stands: Disconnect to barn").select_option("theirs")
        second.get_by_role("button", name="Go on with these").click()
        change_length(second, "to-green", "95")
        self.saved(second)
        expect(second.locator("[data-run=to-barn]")).to_contain_text("200 ft")
        second.reload()
        expect(second.locator("[data-run=to-barn]")).to_contain_text("200 ft")
        expect(second.locator("[data-run=to-green]")).to_contain_text("95 ft")
        act(second, "More", "Revisions")
        expect(second.get_by_role("dialog")).to_contain_text("kept beside another save")

    def test_edits_made_after_the_colliding_save_are_kept_on_top(self):
        first, second = self.both()
        change_length(first, "to-barn", "200")
        self.saved(first)
        second.route("**/api/jobs/*/revisions", lambda route: (second.wait_for_timeout(1200), route.continue_()))
        change_length(second, "to-barn", "150")
        second.wait_for_timeout(900)
        change_length(second, "to-green", "95")
        expect(second.get_by_role("heading", name="Somebody changed the same before you")).to_be_visible()
        second.get_by_role("button", name="Go on with these").click()
        self.saved(second)
        second.reload()
        expect(second.locator("[data-run=to-barn]")).to_contain_text("150 ft")
        expect(second.locator("[data-run=to-green]")).to_contain_text("95 ft")

    def test_what_one_takes_away_and_the_other_edits_is_asked_for(self):
        first, second = self.both()
        first.locator("[data-place=green-panel]").click()
        first.get_by_test_id("sheet").get_by_role("button", name="Remove").click()
        expect(first.get_by_role("dialog")).to_contain_text("Goes along")
        first.get_by_role("dialog").get_by_role("button", name="Remove").click()
        self.saved(first)
        change_length(second, "to-green", "95")
        dialog = second.get_by_role("dialog")
        expect(dialog).to_contain_text("they took it away")
        second.get_by_role("button", name="Go on with these").click()
        self.saved(second)
        second.reload()
        expect(second.locator("[data-run=to-green]")).to_contain_text("95 ft")


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

    def test_an_answer_is_lost_and_one_types_on_in_the_same_field(self):
        page = self.open(self.demo())
        losing_answers(page, 2)
        change_length(page, "to-barn", "2")
        expect(page.locator("[data-saving=away]")).to_be_attached()
        length = page.get_by_test_id("sheet").get_by_label("Length")
        for text in ("22", "222"):
            length.fill(text)
        self.saved(page)
        page.reload()
        expect(page.locator("[data-run=to-barn]")).to_contain_text("222 ft")

    def test_the_answer_that_tells_of_a_collision_is_lost(self):
        job = self.demo()
        first, second = self.open(job), self.open(job, email="second@shop.invalid")
        change_length(first, "to-barn", "200")
        self.saved(first)
        losing_answers(second, 1)
        change_length(second, "to-barn", "150")
        expect(second.get_by_role("heading", name="Somebody changed the same before you")).to_be_visible()
        second.get_by_role("button", name="Go on with these").click()
        self.saved(second)
        act(second, "More", "Revisions")
        expect(second.get_by_text("kept beside another save")).to_have_count(1)

    def test_a_save_that_fails_for_a_while_does_not_stop_those_behind_it(self):
        for status in (400, 429, 500, 504):
            with self.subTest(status):
                page = self.open(self.demo())
                page.route("**/api/jobs/*/revisions", failing(status, 2))
                change_length(page, "to-barn", "201")
                page.keyboard.press("Tab")
                change_length(page, "to-green", "91")
                self.saved(page)
                page.reload()
                expect(page.locator("[data-run=to-barn]")).to_contain_text("201 ft")
                expect(page.locator("[data-run=to-green]")).to_contain_text("91 ft")

    def test_a_save_that_is_refused_is_told_and_goes_with_the_next_edit(self):
        page = self.open(self.demo())
        refused = []

        def refuse_the_first(route):
            body = route.request.post_data_json
            if not refused or refused[0] == body["save_id"]:
                refused[:] = [body["save_id"]]
                issue = {"code": "x", "path": "runs.to-barn.length_ft", "reason": "no good.", "remedy": "Mend it."}
                route.fulfill(status=422, json={"error": "bad_input", "message": "no", "issues": [issue]})
            else:
                route.continue_()

        page.route("**/api/jobs/*/revisions", refuse_the_first)
        change_length(page, "to-barn", "201")
        expect(page.get_by_role("alert")).to_contain_text("cannot be saved")
        expect(page.get_by_role("alert")).to_contain_text("Mend it.")
        change_length(page, "to-green", "91")
        self.saved(page)
        page.reload()
        expect(page.locator("[data-run=to-barn]")).to_contain_text("201 ft")

    def test_what_will_not_go_can_be_set_aside(self):
        page = self.open(self.demo())
        answer = {"error": "bad_input", "message": "This cannot be.", "issues": []}
        page.route("**/api/jobs/*/revisions", lambda route: route.fulfill(status=422, json=answer))
        change_length(page, "to-barn", "201")
        with page.expect_download() as download:
            page.get_by_role("button", name="Download it").click()
        self.assertIn("201", download.value.path().read_text())
        page.get_by_role("button", name="Set it aside").click()
        self.saved(page)

    def test_a_browser_that_keeps_nothing_says_so(self):
        page = self.open(self.demo())
        page.evaluate(
            "() => { IDBObjectStore.prototype.put = () => { throw new DOMException('full', 'QuotaExceeded'); }; }"
        )
        self.server.stop()
        change_length(page, "to-barn", "222")
        expect(page.get_by_role("alert")).to_contain_text("does not keep what waits")
        self.server.start()
        self.saved(page)
        expect(page.get_by_text("does not keep what waits")).to_have_count(0)

    def test_two_tabs_without_network_do_not_overwrite_each_other(self):
        job = self.demo()
        first = self.open(job)
        second = first.context.new_page()
        second.goto(first.url)
        self.settled(second)
        self.server.stop()
        change_length(first, "to-barn", "201")
        change_length(second, "to-green", "91")
        for page in (first, second):
            expect(page.locator("[data-saving=away]")).to_be_attached()
        second.close()
        self.server.start()
        self.saved(first)
        first.reload()
        expect(first.locator("[data-run=to-barn]")).to_contain_text("201 ft")
        expect(first.locator("[data-run=to-green]")).to_contain_text("91 ft")
        self.saved(first)

    def test_an_outage_of_an_hours_editing_on_a_large_job(self):
        """Sixty steps on a job of 500 boxes with 5,000 loads wait as operations and are there after a reload."""
        job = self.new_job(parse_value(chain(500, loads_each=10)))
        page = self.open(job, patience_ms=PATIENT_MS)
        self.server.stop()
        page.locator("[data-run=to-p499]").dispatch_event("click")
        length = (
            page.get_by_test_id("sheet").get_by_label("Length").element_handle()
        )  # looked for once, not sixty times
        for number in range(60):
            length.fill(str(20 + number))
            length.evaluate("field => field.blur()")
        page.wait_for_timeout(500)
        kept = page.evaluate(
            """async () => {
              const open = indexedDB.open("nelvor");
              const database = await new Promise((done) => (open.onsuccess = () => done(open.result)));
              const all = database.transaction("waiting").objectStore("waiting").getAll();
              return JSON.stringify(await new Promise((done) => (all.onsuccess = () => done(all.result)))).length;
            }"""
        )
        self.assertLess(kept, 100_000)
        self.server.start()
        page.reload()
        self.settled(page, PATIENT_MS)
        expect(page.locator("[data-run=to-p499]")).to_contain_text("79 ft")
        self.saved(page, PATIENT_MS)


class Revisions(WithBrowser):
    def test_each_undo_step_is_a_revision_and_an_old_one_comes_back(self):
        page = self.open(self.demo())
        change_length(page, "to-barn", "200")
        page.keyboard.press("Tab")
        self.saved(page)
        page.get_by_test_id("sheet").get_by_label("Parallel sets").fill("2")
        self.saved(page)
        act(page, "More", "Revisions")
        dialog = page.get_by_role("dialog")
        expect(dialog.get_by_text("Change length")).to_be_visible()
        expect(dialog.locator("li strong").first).to_have_text("3")
        dialog.get_by_role("button", name="Compare").last.click()
        expect(dialog).to_contain_text("length ft: 180 → 200")
        dialog.get_by_role("button", name="Restore").last.click()
        expect(page.locator("[data-run=to-barn]")).to_contain_text("180 ft")
        act(page, "More", "Revisions")
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
