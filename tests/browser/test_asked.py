"""What a finding asks for, answered in the finding itself."""

from playwright.sync_api import expect

from nelvor.model.parse import parse_value
from nelvor.starters.starters import started
from tests.support.browser import WithBrowser, choose
from tests.support.jobs import chain


class Asked(WithBrowser):
    def begin(self, starter):
        page = self.open(self.new_job(started(starter, "First job", "2023")))
        return page, page.get_by_label("Findings")

    def test_what_stands_is_read_and_not_proposed(self):
        page, findings = self.begin("old_panel_inside")
        rating = findings.get_by_label("Rating")
        rating.fill("125")
        rating.press("Enter")
        expect(rating).to_have_count(0)
        page.locator("[data-place=old-panel]").click()
        expect(page.get_by_test_id("sheet").get_by_label("Bus rating")).to_have_value("125")
        page.get_by_role("button", name="Existing", exact=True).click()
        expect(page.get_by_test_id("sheet").get_by_label("Bus rating")).to_have_value("125")
        page.keyboard.press("Control+z")
        expect(page.get_by_test_id("sheet").get_by_label("Bus rating")).to_have_value("")

    def test_what_cannot_be_taken_stays_with_its_reason_and_a_number_is_taken_whole(self):
        page, findings = self.begin("house_meter_main")
        length = findings.get_by_label("Length")
        length.fill("far away")
        length.blur()
        expect(findings.get_by_role("alert")).to_contain_text("not a length")
        expect(length).to_have_value("far away")
        length.fill("")
        length.press_sequentially("60 ft 6 in")
        expect(page.locator("[data-run=to-panel]")).to_contain_text("length ?")
        length.press("Enter")
        expect(page.locator("[data-run=to-panel]")).to_contain_text("60.5 ft")

    def test_a_field_that_two_findings_need_is_asked_for_once(self):
        page, findings = self.begin("house_meter_main")
        hots = findings.get_by_label("Utility → Meter-main: Hots")
        expect(hots).to_have_count(1)
        hots.fill("4/0")
        hots.press("Enter")
        expect(page.locator("[data-finding=electrode_conductor]")).to_have_count(0)
        expect(page.locator("[data-finding=main_bonding_jumper]")).to_have_count(0)

    def test_what_was_typed_in_one_finding_stays_when_one_ahead_of_it_goes(self):
        page, findings = self.begin("house_meter_main")
        length = findings.get_by_label("Length")
        length.fill("far away")
        length.blur()
        above = [
            field
            for field in findings.get_by_role("combobox").all()
            if field.bounding_box()["y"] < length.bounding_box()["y"]
        ]
        self.assertTrue(above, "something is asked for ahead of it")
        before = page.locator("[data-finding]").count()
        above[0].click()
        page.get_by_role("listbox").get_by_role("option").nth(1).click()
        expect(page.locator("[data-finding]")).not_to_have_count(before)
        expect(length).to_have_value("far away")
        expect(findings.get_by_role("alert")).to_contain_text("not a length")

    def test_far_down_a_long_list_fields_are_drawn_as_one_comes_to_them(self):
        page = self.open(self.new_job(parse_value(chain(60))))
        last = page.locator("[data-finding=to_be_read]").last
        expect(last).to_contain_text("p58 → p59")
        expect(last.get_by_label("Hots")).to_have_count(0)
        last.get_by_role("button").first.focus()
        hots = last.get_by_label("Hots")
        choose(hots, "4/0")
        expect(hots).to_have_count(0)
        expect(last).to_contain_text("Still to be read on site: the size of the neutral")

    def test_a_click_on_the_words_leads_to_the_thing(self):
        page, findings = self.begin("house_meter_main")
        findings.get_by_text("Whether House has metal gas piping").click()
        expect(page.get_by_test_id("sheet").get_by_label("Metal gas pipe")).to_be_visible()

    def test_animals_in_a_barn_bring_their_questions_one_by_one(self):
        page = self.open(self.demo())
        sheet, asked = page.get_by_test_id("sheet"), page.locator("[data-finding=livestock]")
        expect(asked).to_have_count(0)
        sheet.get_by_label("Livestock").select_option(label="yes")
        fields = ("Equipotential plane", "Other supply near", "Neutral isolator", "Volts to earth")
        for field in fields:
            expect(asked.get_by_label(field)).to_be_visible()
        sheet.get_by_label("Equipotential plane").select_option("missing")
        expect(page.locator("[data-finding=equipotential_plane]")).to_contain_text("solid copper 8 AWG")
        sheet.get_by_label("Equipotential plane").select_option("bonded")
        expect(page.locator("[data-finding=equipotential_plane]")).to_have_count(0)
        choose(asked.get_by_label("Other supply near"), "none within")
        choose(asked.get_by_label("Volts to earth"), "None noticed")
        choose(asked.get_by_label("Neutral isolator"), "no")
        expect(asked).to_have_count(0)
        aluminum = page.locator("[data-finding=farm_ground]")
        before = aluminum.count()
        aluminum.first.get_by_role("button", name="Grounding conductor of").click()
        expect(aluminum).to_have_count(before - 1)
