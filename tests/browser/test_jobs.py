"""The list of jobs: found by any word of it, copied, put away and fetched back; counts of the newest judgement."""

from playwright.sync_api import expect

from tests.support.browser import WithBrowser, act


class Jobs(WithBrowser):
    def listed(self):
        page = self.open(self.demo())
        self.settled(page)
        page.get_by_role("link", name="Nelvor, all jobs").click()
        expect(page.locator("[data-job]").first).to_be_visible()
        return page

    def test_a_job_is_found_by_words_of_its_name_place_customer_and_status(self):
        self.new_job(name="Mill at Weir Lane")
        page = self.listed()
        find = page.get_by_label("Find a job")
        rows = page.locator("[data-job]")
        for wanted, names in (("weir", 1), ("quince design", 1), ("quince closed", 0)):
            find.fill(wanted)
            if names:
                expect(rows.first).to_be_visible()
                self.assertGreaterEqual(rows.count(), names)
            else:
                expect(page.get_by_text("No job here answers to that.")).to_be_visible()
        find.fill("hollow road")
        expect(rows.first).to_contain_text("A. Quince")

    def test_a_job_is_copied_put_away_and_fetched_back(self):
        name = "Shed at Pear Court"
        self.new_job(name=name)
        page = self.listed()
        row = page.locator(f"[data-job='{name}']")
        act(page, f"More for {name}", "Archive")
        expect(row).to_have_count(0)
        page.get_by_label("archived").check()
        expect(row).to_have_count(1)
        act(page, f"More for {name}", "Fetch back")
        expect(row).to_have_count(0)
        page.get_by_label("archived").click()
        act(page, f"More for {name}", "Copy")
        expect(page.get_by_role("heading", level=1)).to_have_text(f"Copy of {name}")
