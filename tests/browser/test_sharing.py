"""A job shared for reading, remarks, a paper that takes its time, a job deleted by its owner: in the browser."""

from unittest import mock

from playwright.sync_api import expect

from nelvor.errors import Busy
from nelvor.pool.question import Question, Told, Work
from tests.support.browser import WithBrowser, act


class Sharing(WithBrowser):
    def shared(self, page, meant_for="the inspector"):
        act(page, "More", "Share")
        page.get_by_label("For whom").fill(meant_for)
        page.get_by_label("Days").fill("3")
        page.get_by_role("button", name="Make a link").click()
        return page.get_by_label("Link to this job").input_value()

    def guest(self, page, link):
        other = page.context.browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
        other.on("pageerror", lambda error: self.faults.append(str(error)))
        other.set_default_timeout(10_000)
        other.goto(link)
        return other

    def test_a_guest_reads_until_the_link_is_closed(self):
        page = self.open(self.demo())
        link = self.shared(page)
        guest = self.guest(page, link)
        expect(guest.get_by_role("heading", level=1)).to_contain_text("Orchard")
        self.settled(guest)
        expect(guest.get_by_text("for reading", exact=True)).to_be_visible()
        guest.get_by_role("button", name="More", exact=True).click()
        items = guest.get_by_role("menuitem").all_inner_texts()
        self.assertFalse([item for item in items if item.startswith(("Share", "Revisions"))], items)
        guest.keyboard.press("Escape")
        guest.get_by_role("tab", name="Packet").click()
        with guest.expect_download() as download:
            guest.get_by_role("button", name="Permit sheet, PDF").click()
        self.assertTrue(download.value.path().read_bytes().startswith(b"%PDF"))
        guest.goto(f"{self.server.url}/shop")
        expect(guest.get_by_role("heading", level=1)).to_contain_text("Orchard")
        page.get_by_role("button", name="Close the link for the inspector").click()
        expect(page.get_by_label("Links").first).to_contain_text("closed")
        page.goto(f"{self.server.url}/shop")
        lines = page.get_by_label("History", exact=True).get_by_role("listitem")
        expect(lines.first).to_contain_text("link revoked")
        expect(lines.nth(1)).to_contain_text("for the inspector, 3 days")
        guest.reload()
        expect(guest.get_by_role("button", name="Sign in", exact=True)).to_be_visible()
        again = self.guest(page, link)
        expect(again.get_by_role("alert")).to_contain_text("was revoked")

    def test_remarks_stand_under_a_heading_of_their_own(self):
        job = self.demo()
        page = self.open(job)
        counts = page.locator("header [data-outcome]").all_inner_texts()
        act(page, "More", "Remarks")
        expect(page.get_by_text("Nobody has remarked anything yet.")).to_be_visible()
        page.get_by_label("Remark", exact=True).fill("Where is the second rod?")
        page.get_by_label("About").fill("House disconnect")
        page.get_by_role("button", name="Add the remark").click()
        expect(page.get_by_label("Remarks").last).to_contain_text("Where is the second rod?")
        expect(page.get_by_label("Remarks").last).to_contain_text("on revision 1")
        page.get_by_role("button", name="Close", exact=True).click()
        self.assertEqual(page.locator("header [data-outcome]").all_inner_texts(), counts)
        guest = self.guest(page, self.shared(page))
        self.settled(guest)
        act(guest, "More", "Remarks")
        expect(guest.get_by_label("Remarks").last).to_contain_text("House disconnect")
        expect(guest.get_by_role("button", name="Add the remark")).to_have_count(0)

    def test_a_paper_tells_how_far_it_is_and_can_be_stopped(self):
        page = self.open(self.demo(), "packet")
        self.saved(page)
        work = Work(Question("paper", "x", None), "a", begun_at=1.0, done=4, parts=9)
        extensions = self.server.app.extensions
        pool = mock.Mock(wraps=extensions["nelvor_pool"])
        pool.begin = mock.Mock(side_effect=[Busy("later"), work])
        with (
            mock.patch.dict(extensions, {"nelvor_pool": pool}),
            mock.patch("nelvor.web.asking.SOON_S", 0.05),
        ):
            page.get_by_role("button", name="Permit sheet, PDF").click()
            expect(page.get_by_text("Waiting its turn")).to_be_visible()
            expect(page.get_by_text("Laid out: 4 of 9 parts")).to_be_visible()
            page.get_by_role("button", name="Stop: Permit sheet, PDF").click()
            expect(page.get_by_role("button", name="Permit sheet, PDF", exact=True)).to_be_visible()
            with page.expect_download():
                page.get_by_role("button", name="Permit sheet, PDF").click()
                work.answer.set_result(
                    Told(b"%PDF", "application/pdf", headers=(("Content-Disposition", 'attachment; filename="a.pdf"'),))
                )

    def test_only_an_archived_job_is_deleted_and_its_name_is_written_to_be_sure(self):
        name = "Shed at Medlar Row"
        self.new_job(name=name)
        page = self.open(self.demo())
        page.get_by_role("link", name="Nelvor, all jobs").click()
        act(page, f"More for {name}", "Archive")
        page.get_by_label("archived").check()
        act(page, f"More for {name}", "Delete…")
        remove = page.get_by_role("button", name="Delete it")
        expect(remove).to_be_disabled()
        page.get_by_label("Write its name to be sure").fill(name)
        remove.click()
        expect(page.locator(f"[data-job='{name}']")).to_have_count(0)
        page.reload()
        expect(page.locator("[data-job]").first).to_be_visible()
        expect(page.locator(f"[data-job='{name}']")).to_have_count(0)
