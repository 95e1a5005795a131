"""The Currents stage: situations chosen, bonds played with by pointer and key, and what is told of them."""

from xml.etree import ElementTree

from playwright.sync_api import expect

from nelvor.demo import demo_job
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

    def test_two_things_touched_at_once(self):
        page = self.open(self.demo(), "currents")
        page.get_by_label("Situation").select_option("ground_fault")
        page.get_by_label("Where").select_option("Greenhouse panel")
        page.get_by_label("Through").select_option("1 Ω")
        touched = page.get_by_role("region", name="Touched at once")
        expect(touched).to_contain_text("Greenhouse panel and the earth")
        touched.get_by_label("One hand on").select_option("Greenhouse panel")
        touched.get_by_label("The other one on").select_option("Barn panel")
        expect(touched.get_by_role("listitem").first).to_contain_text("Greenhouse panel and Barn panel")
        touched.get_by_role("button", name="They stand side by side").click()
        self.saved(page)
        touched.get_by_label("One hand on").select_option("")
        expect(touched.get_by_role("listitem").first).to_contain_text("Greenhouse panel and Barn panel")
        expect(touched).to_contain_text("A caution, no license")

    def test_a_scenario_is_named_kept_with_the_job_and_called_back(self):
        page = self.open(self.demo(), "currents")
        page.get_by_label("Situation").select_option("ground_fault")
        page.get_by_label("Where").select_option("Greenhouse panel")
        page.get_by_label("Through").select_option("1000 Ω, a wet hand")
        page.get_by_role("button", name="Bond at House panel").click()
        expect(page.get_by_test_id("sentences")).to_contain_text("no breaker opens")
        told = page.get_by_test_id("sentences").inner_text()
        page.get_by_role("button", name="Keep this scenario").click()
        page.get_by_label("Name of the scenario").fill("Wet hand in the greenhouse")
        page.get_by_role("button", name="Keep", exact=True).click()
        self.saved(page)
        page.reload()
        self.settled(page)
        page.get_by_label("Kept scenarios").select_option("Wet hand in the greenhouse")
        expect(page.get_by_label("Where")).to_have_value("green-panel")
        expect(page.get_by_test_id("sentences")).to_have_text(told)
        expect(page.get_by_role("button", name="Bond at House panel")).to_have_attribute("aria-pressed", "false")
        page.get_by_role("button", name="Keep it no more").click()
        expect(page.get_by_label("Kept scenarios")).to_have_count(0)
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_label("Kept scenarios")).to_have_count(1)

    def test_the_desk_of_the_utility_is_asked_and_its_answer_is_seen_along_the_path(self):
        page = self.open(self.demo(), "path")
        page.get_by_test_id("path-drawing").get_by_text("Utility", exact=True).click()
        page.get_by_role("button", name="Ask the desk of the utility").click()
        form = page.get_by_role("form", name="Desk of the utility")
        form.get_by_label("Number of the premises").fill("2041")
        form.get_by_role("button", name="Ask", exact=True).click()
        expect(form.get_by_role("alert")).to_contain_text("eight digits")
        form.get_by_label("Number of the premises").fill("20411870")
        form.get_by_role("button", name="Ask", exact=True).click()
        expect(form.get_by_role("alert")).to_contain_text("five working days")
        form.get_by_label("Number of the premises").fill("20411873")
        form.get_by_role("button", name="Ask", exact=True).click()
        expect(form).to_contain_text("Made up: not for real work")
        form.get_by_role("button", name="Take it over").click()
        expect(page.get_by_role("textbox", name="Fault current")).to_have_value("5040")
        expect(page.get_by_text("Fault of all lines, at most")).to_be_visible()
        self.saved(page)
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_role("textbox", name="Fault current")).to_have_value("")
        expect(page.get_by_text("Fault of all lines, at most")).to_have_count(0)

    def test_far_ends_are_told_with_what_would_do(self):
        page = self.open(self.demo(), "currents")
        page.get_by_text("Available fault current at every box").click()
        row = page.get_by_role("table", name="Far ends").get_by_role("row", name="Greenhouse panel")
        expect(row).to_contain_text("60 A Greenhouse feeder")
        expect(row).to_contain_text("ft instead of 90, or a grounding conductor of")

    def test_an_arc_loads_off_and_a_rod_played_with_are_kept_too(self):
        page = self.open(self.new_job(demo_job("annex")), "currents")
        page.get_by_label("Situation").select_option("ground_fault")
        page.get_by_label("Where").select_option("Flat A panel")
        expect(page.get_by_test_id("sentences")).to_contain_text("A flow from L1")
        page.get_by_label("Through").select_option("an arc")
        expect(page.get_by_test_id("sentences")).to_contain_text("through an arc")
        page.get_by_label("The arc keeps").fill("5")
        expect(page.get_by_text("from 10 to 1,000 V")).to_be_visible()
        page.get_by_label("The arc keeps").fill("150")
        expect(page.get_by_test_id("sentences")).to_contain_text("An arc of 150 V")
        page.get_by_label("Situation").select_option("all_well")
        page.get_by_text("Loads and electrodes").click()
        before = page.get_by_role("row", name="Annex to flat A").inner_text()
        page.get_by_role("checkbox", name="Flat A panel").uncheck()
        expect(page.get_by_text("0 of 6 on")).to_be_visible()
        expect(page.get_by_role("row", name="Annex to flat A")).not_to_have_text(before)
        page.get_by_label("Ohms of Ground rod at Front disconnect (2)").fill("250")
        page.get_by_label("Soil, where none is measured").select_option("500")
        page.get_by_label("What is on draws").select_option("power")
        expect(page.get_by_text("6 loads off, 1 electrode played with")).to_be_visible()
        page.get_by_role("button", name="Keep this scenario").click()
        page.get_by_label("Name of the scenario").fill("Dry summer")
        page.get_by_role("button", name="Keep", exact=True).click()
        self.saved(page)
        page.get_by_role("button", name="All as they are").click()
        expect(page.get_by_text("6 loads off")).to_have_count(0)
        page.get_by_label("Kept scenarios").select_option("")
        page.get_by_label("Kept scenarios").select_option("Dry summer")
        expect(page.get_by_label("Ohms of Ground rod at Front disconnect (2)")).to_have_value("250")
        expect(
            page.get_by_text("6 loads off, 1 electrode played with, soil of 500 Ω·m, the same power at any volts")
        ).to_be_visible()

    def test_the_picture_for_the_customer_stands_on_its_own(self):
        page = self.open(self.demo(), "currents")
        sentence = page.get_by_test_id("sentences")
        expect(sentence).to_contain_text("come back over the metal")
        with page.expect_download() as download:
            page.get_by_role("button", name="Picture for the customer").click()
        text = download.value.path().read_text()
        drawing = ElementTree.fromstring(text)
        self.assertTrue(drawing.tag.endswith("svg"))
        written = " ".join("".join(item.itertext()) for item in drawing.iter() if item.tag.endswith("}text"))
        for words in ("House panel", "1.43 A", "come back over the metal", "Nelvor computes"):
            self.assertIn(words, written)
        for moves in ("@keyframes flow", ".flow-along", 'class="flow-along"'):
            self.assertIn(moves, text)
        for left_over in ("var(--", "data-", "aria-"):
            self.assertNotIn(left_over, text)

    def test_an_open_neutral_and_what_cannot_be_told(self):
        page = self.open(self.demo(), "currents")
        page.get_by_label("Situation").select_option("neutral_open")
        page.get_by_label("Where").select_option("Disconnect to barn")
        expect(page.get_by_test_id("sentences")).to_contain_text("Danger to life")
        expect(page.get_by_role("list", name="Loads with wrong volts")).to_be_visible()
        with page.expect_download() as download:
            page.get_by_role("button", name="Netlist of this circuit").click()
        self.assertEqual(download.value.suggested_filename, "circuit.cir")

    def test_both_states_stand_side_by_side(self):
        page = self.open(self.demo(), "currents")
        page.get_by_text("Beside it: the same as it stands").click()
        both = page.get_by_test_id("beside")
        expect(both.locator("[data-state=proposed]")).to_contain_text("As proposed")
        expect(both.locator("[data-state=existing]")).to_contain_text("As it stands")
        table = both.get_by_role("table", name="Both states")
        expect(table.get_by_role("row", name="Disconnect to house")).to_contain_text("1.43")
        expect(table.get_by_role("row", name="Barn to greenhouse")).to_be_visible()

    def bench(self, page):
        page.get_by_text("Readings of a system that misbehaves").click()
        return page.get_by_test_id("readings")

    def test_practice_until_the_hidden_fault_is_found(self):
        page = self.open(self.demo(), "currents")
        bench = self.bench(page)
        page.get_by_role("button", name="Practice with a hidden fault").click()
        expect(bench.get_by_test_id("next-reading")).to_be_visible()
        for number in range(1, 9):
            if bench.get_by_test_id("next-reading").count() == 0:
                break
            bench.get_by_role("button", name="Read it").click()
            expect(bench.get_by_role("table", name="Readings").locator("tr")).to_have_count(number)
            expect(bench.locator("[data-cause]").first).to_be_visible()
            page.wait_for_timeout(300)  # the next reading comes with the next diagnosis
        page.get_by_role("button", name="Show what was hidden").click()
        expect(bench.locator("p.font-semibold").first).not_to_be_empty()
        bench.locator("[data-cause]").first.get_by_role("button").first.click()
        expect(bench.locator("[data-cause]").first).to_contain_text("Least well given")

    def test_a_reading_of_the_site_is_kept_with_the_job_and_can_be_left_out(self):
        page = self.open(self.demo(), "currents")
        bench = self.bench(page)
        expect(bench.get_by_test_id("next-reading")).to_be_visible()
        bench.get_by_label("Value read").fill("much")
        expect(bench.get_by_role("button", name="Add")).to_be_disabled()
        bench.get_by_label("Value read").fill("12.5")
        bench.get_by_label("Value read").press("Enter")
        expect(bench.locator("[data-reading]")).to_contain_text("12.5 A")
        expect(bench.get_by_test_id("diagnosis")).not_to_contain_text("No reading yet")
        page.reload()
        bench = self.bench(page)
        expect(bench.locator("[data-reading]")).to_contain_text("12.5 A")
        expect(bench.locator("[data-reading] input")).to_be_checked()
        bench.locator("[data-reading] input").uncheck()
        expect(bench.get_by_test_id("diagnosis")).to_contain_text("No reading yet")

    def test_a_cause_is_shown_on_the_rails(self):
        page = self.open(self.demo(), "currents")
        rung = page.get_by_role("button", name="Bond at House disconnect")
        expect(rung).to_have_attribute("aria-pressed", "true")
        bench = self.bench(page)
        page.get_by_role("button", name="Practice with a hidden fault").click()
        shown = bench.get_by_role("button", name="Show it on the rails")
        for _ in range(3):
            bench.get_by_role("button", name="Read it").click()
            expect(bench.locator("[data-cause]").first).to_be_visible()
        causes = bench.locator("[data-cause^=bond]")
        if causes.count() > 0:
            causes.first.get_by_role("button").first.click()
            shown.first.click()
            expect(page.get_by_role("button", name="Bonds as they are")).to_be_visible()
