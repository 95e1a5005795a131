"""What stands is read box by box: the checklist counts down, edits the existing state, and keeps a note."""

import re

from playwright.sync_api import expect

from nelvor.demo import FOLDER
from nelvor.model.parse import parse_bytes
from tests.support.browser import WithBrowser
from tests.support.pictures import as_taken


class Survey(WithBrowser):
    def test_what_is_still_to_be_read_is_read_where_it_is_asked(self):
        job = self.demo()
        page = self.open(job, "survey")
        box = page.locator("[data-survey=house-panel]")
        expect(page.locator("[data-left='2']")).to_have_text("2 still to be read on site.")
        page.get_by_label("only what is still to be read").check()
        expect(page.locator("[data-survey]")).to_have_count(1)
        rating = box.get_by_label("Bus rating")
        rating.fill("225")
        rating.press("Enter")
        box.get_by_label("Unused openings closed").select_option("yes")
        expect(page.locator("[data-left='0']")).to_be_visible()
        note = box.get_by_label("Note")
        note.fill("door is missing")
        note.press("Tab")
        self.saved(page)
        page.reload()
        self.settled(page)
        self.assertEqual(box.get_by_label("Bus rating").input_value(), "225")
        self.assertEqual(box.get_by_label("Note").input_value(), "door is missing")
        expect(page.locator("[data-left='0']")).to_be_visible()

    def test_a_picture_is_taken_at_a_box_given_words_travels_and_is_deleted(self):
        page = self.open(self.demo(), "survey")
        box = page.locator("[data-survey=house-panel]")
        files = [
            {"name": name, "mimeType": "image/jpeg", "buffer": as_taken(2400, width)}
            for name, width in (("IMG_1.jpg", 1800), ("IMG_2.jpg", 1200))
        ]
        box.get_by_label("Add a picture of").set_input_files(files)
        shown = box.get_by_role("list", name="Pictures of").get_by_role("button")
        expect(shown).to_have_count(2)
        self.assertTrue(
            shown.first.locator("img").evaluate("image => image.decode().then(() => image.naturalHeight)") == 1600
        )
        shown.first.click()
        window = page.get_by_role("dialog")
        window.get_by_label("What it shows").fill("Label of the bus")
        window.get_by_label("What it shows").press("Tab")
        window.get_by_role("button", name="Close").click()
        expect(shown.first.get_by_role("img", name="Label of the bus")).to_be_visible()
        page.get_by_role("tab", name="Packet").click()
        with page.expect_download() as download:
            page.get_by_role("button", name="Job with its pictures").click()
        page.get_by_role("link", name="Nelvor, all jobs").click()
        page.get_by_label("Job file").set_input_files(download.value.path(), timeout=5000)
        page.get_by_role("tab", name="Survey").click()
        expect(shown).to_have_count(2)
        shown.nth(1).click()
        window.get_by_role("button", name="Delete it…").click()
        window.get_by_role("button", name="Yes, delete it for good").click()
        expect(shown).to_have_count(1)
        box.get_by_label("Add a picture of").set_input_files(
            {"name": "IMG_3.heic", "mimeType": "image/heic", "buffer": b"0000ftypheic"}
        )
        expect(box.get_by_role("alert")).to_contain_text(
            "IMG_3.heic: this is neither a JPEG nor a PNG picture. Set the camera"
        )

    def test_the_state_that_was_shown_comes_back(self):
        page = self.open(self.demo(), "path")
        proposed = page.get_by_role("button", name="Proposed", exact=True)
        expect(proposed).to_have_attribute("aria-pressed", "true")
        page.get_by_role("tab", name="Survey").click()
        expect(proposed).to_have_attribute("aria-pressed", "false")
        page.get_by_role("tab", name="Path").click()
        expect(proposed).to_have_attribute("aria-pressed", "true")

    def test_a_size_that_nobody_read_is_not_shown_as_chosen(self):
        page = self.open(self.new_job(parse_bytes((FOLDER / "bakery.json").read_bytes())))
        page.locator("[data-run=to-cold]").first.dispatch_event("click")
        sheet = page.get_by_test_id("sheet")
        expect(sheet.get_by_label("Hots, size")).to_have_value(re.compile("would do; not read yet"))
