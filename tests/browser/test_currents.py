"""The Currents stage: situations chosen, bonds played with by pointer and key, and what is told of them."""

from playwright.sync_api import expect

from tests.support.browser import WithBrowser


class Currents(WithBrowser):
    def test_a_second_bond_shows_and_taking_it_out_in_play_ends_it(self):
        page = self.open(self.demo(), "currents")
        told = page.get_by_test_id("sentences")
        expect(told).to_contain_text("come back over the metal of Disconnect to house")
        rung = page.get_by_role("button", name="Bond at House panel")
        expect(rung).to_have_attribute("aria-pressed", "true")
        rung.click()
        expect(told).to_contain_text("comes back on the neutral")
        rung.press("Enter")
        expect(told).to_contain_text("come back over the metal")
        page.get_by_role("button", name="Bonds as they are").click()
        expect(page.get_by_role("button", name="Undo")).to_be_disabled()  # playing changes nothing of the job

    def test_a_fault_is_put_where_one_points(self):
        page = self.open(self.demo(), "currents")
        page.get_by_label("Situation").select_option("ground_fault")
        expect(page.get_by_test_id("sentences")).to_have_count(0)
        page.get_by_test_id("bond-rails").get_by_text("Greenhouse panel").click()
        expect(page.get_by_label("Where")).to_have_value("green-panel")
        expect(page.get_by_test_id("sentences")).to_contain_text("flow from L1 to the metal of Greenhouse panel")
        expect(page.get_by_role("list", name="Devices")).to_contain_text("Greenhouse feeder")
        page.get_by_label("Through").select_option("1000 Ω, a wet hand")
        expect(page.get_by_test_id("sentences")).to_contain_text("no breaker opens")
        page.get_by_label("Line", exact=True).select_option("L2")
        expect(page.get_by_test_id("sentences")).to_contain_text("flow from L2")

    def test_an_open_neutral_and_what_cannot_be_told(self):
        page = self.open(self.demo(), "currents")
        page.get_by_label("Situation").select_option("neutral_open")
        page.get_by_label("Where").select_option("Disconnect to barn")
        expect(page.get_by_test_id("sentences")).to_contain_text("Danger to life")
        expect(page.get_by_role("list", name="Loads with wrong volts")).to_be_visible()
        with page.expect_download() as download:
            page.get_by_role("button", name="Netlist of this circuit").click()
        self.assertEqual(download.value.suggested_filename, "circuit.cir")
