"""The other stages and the sheet of the job, as a person uses them."""

import re

from playwright.sync_api import expect

from nelvor.model.parse import parse_value
from tests.support.browser import WithBrowser, act, choose
from tests.support.jobs import JobBuilder, orchard


class Loads(WithBrowser):
    def test_loads_are_added_changed_and_removed_and_the_sums_follow(self):
        page = self.open(self.demo(), "loads")
        page.get_by_role("button", name="Greenhouse panel", exact=True).click()
        level = page.get_by_label("Calculated load")
        expect(level).to_contain_text("7812 VA")
        page.get_by_label("Amount, Bench heat").fill("4")
        expect(level).to_contain_text("8812 VA")
        choose(page.get_by_label("Add a load"), "other")
        expect(level).to_contain_text("Cannot tell")
        page.get_by_label("Amount, Other load").fill("188")
        expect(level).to_contain_text("9000 VA")
        page.get_by_role("button", name="Remove Grow lights").click()
        expect(level).to_contain_text("7500 VA")
        page.keyboard.press("Control+z")
        expect(level).to_contain_text("9000 VA")

    def test_a_bad_amount_keeps_the_text_and_the_last_answer(self):
        page = self.open(self.demo(), "loads")
        page.get_by_role("button", name="Greenhouse panel", exact=True).click()
        amount = page.get_by_label("Amount, Bench heat")
        for text, told in (("-1", "at least 0"), ("abc", "not a number"), ("99999999999", "at most")):
            amount.fill(text)
            expect(page.get_by_role("alert")).to_contain_text(told)
            expect(amount).to_have_value(text)
        expect(page.get_by_label("Calculated load")).to_contain_text("7812 VA")

    def test_continuous_legs_and_dwelling_unit_are_chosen(self):
        page = self.open(self.demo(), "loads")
        page.get_by_role("button", name="Barn panel", exact=True).click()
        level = page.get_by_label("Calculated load")
        page.get_by_label("Legs, Barn lighting").select_option("L1-N")
        expect(level).to_contain_text("sized for 121.1 A")
        page.get_by_label("Continuous, Barn lighting").uncheck()
        page.get_by_label("Dwelling unit, Barn lighting").select_option(label="Household")
        expect(level).to_contain_text("dwelling, standard method")

    def test_the_working_of_a_load_line_opens_in_place(self):
        page = self.open(self.demo(), "loads")
        page.get_by_role("button", name="House panel", exact=True).click()
        page.get_by_role("button", name="working of Lighting, small appliance, laundry").click()
        working = page.get_by_test_id("working")
        for words in ("220.41", "2200 ft2", "35 %", "6339 VA"):
            expect(working).to_contain_text(words)

    def test_levels_stand_side_by_side_with_what_is_added_and_left(self):
        page = self.open(self.demo(), "loads")
        meter = page.locator("[data-level=meter]")
        for words in ("35484", "65916", "+30432", "320", "21.8"):
            expect(meter).to_contain_text(words)
        expect(page.locator("[data-level=green-panel]")).to_contain_text("not there")
        page.get_by_role("button", name="Meter", exact=True).click()
        legs = page.get_by_role("table", name="Meter, leg by leg")
        for words in ("35484", "65916", "+30432", "149.3", "275.5", "Neutral"):
            expect(legs).to_contain_text(words)
        page.get_by_role("button", name="Greenhouse panel", exact=True).click()
        page.get_by_label("Amount, Bench heat").fill("40")
        expect(page.locator("[data-level=green-panel]")).to_contain_text("over")
        expect(meter).to_contain_text("over")

    def test_the_method_is_chosen_and_the_sums_follow(self):
        page = self.open(self.demo(), "loads")
        page.get_by_role("button", name="House panel", exact=True).click()
        level = page.get_by_label("Calculated load")
        expect(level).to_contain_text("43164 VA")
        page.get_by_label("Household", exact=True).select_option("optional")
        expect(level).to_contain_text("dwelling, optional method")
        expect(level).not_to_contain_text("43164 VA")
        page.keyboard.press("Control+z")
        expect(level).to_contain_text("43164 VA")

    def test_a_pasted_list_is_read_or_refused_by_line(self):
        page = self.open(self.demo(), "loads")
        page.get_by_role("button", name="Barn panel", exact=True).click()
        page.get_by_text("Load lists and the load sheet").click()
        pasted = page.get_by_label("Load list", exact=True)
        pasted.fill("name,amount,unit\nFan,many,VA\n")
        page.get_by_role("button", name="Read the list").click()
        expect(page.get_by_role("alert")).to_contain_text("line 2, amount")
        expect(pasted).to_have_value("name,amount,unit\nFan,many,VA\n")
        pasted.fill("name\tcategory\tamount\tunit\tvolts\nFan\tmotor\t1\thp\t240\nSign\tlighting\t240\tVA\t120\n")
        page.get_by_role("button", name="Read the list").click()
        expect(page.get_by_text("2 loads were read")).to_be_visible()
        expect(page.get_by_label("Amount, Sign")).to_have_value("240")
        page.keyboard.press("Control+z")
        expect(page.get_by_label("Amount, Sign")).to_have_count(0)

    def test_a_meter_record_is_looked_at_and_its_peak_kept(self):
        lines = ["start,kwh"]
        for number in range(96 * 31):
            day, quarter = divmod(number, 96)
            lines.append(f"2026-01-{day + 1:02} {quarter // 4:02}:{quarter % 4 * 15:02},{3.5 if number == 500 else 1}")
        page = self.open(self.demo(), "loads")
        page.get_by_role("button", name="House disconnect", exact=True).click()
        page.get_by_text("Measured demand").click()
        page.get_by_label("Record of the meter").set_input_files(
            {"name": "r.csv", "mimeType": "text/csv", "buffer": "\n".join(lines).encode()}
        )
        expect(page.get_by_role("img", name="Meter record from 2026-01-01")).to_be_visible()
        expect(page.get_by_text("31 days, 0 % missing")).to_be_visible()
        page.get_by_role("button", name="Keep its peak on this level").click()
        expect(page.get_by_label("Recorded peak")).to_have_value("14")
        finding = page.locator("[data-finding=measured]")
        expect(finding).to_contain_text("whether the meter nets generation")
        page.get_by_label("Net of generation").select_option("no")
        page.get_by_label("Highest phase").select_option("yes")
        page.get_by_label("Season allowed for").select_option("yes")
        expect(finding).to_have_count(0)
        expect(page.get_by_text("25180 VA")).to_be_visible()

    def test_a_broken_record_is_refused_with_its_reason(self):
        page = self.open(self.demo(), "loads")
        page.get_by_text("Measured demand").click()
        page.get_by_label("Record of the meter").set_input_files(
            {"name": "r.csv", "mimeType": "text/csv", "buffer": b"when,therms\n1,2\n"}
        )
        expect(page.get_by_role("alert")).to_contain_text("kWh")

    def test_the_load_sheet_and_the_list_are_downloaded(self):
        page = self.open(self.demo(), "loads")
        page.get_by_text("Load lists and the load sheet").click()
        for link, start in (("Load sheet, XLSX", b"PK"), ("Loads, CSV", b"panel,circuit,name,category")):
            with page.expect_download() as download:
                page.get_by_role("button", name=link).click()
            self.assertTrue(download.value.path().read_bytes().startswith(start))

    def test_without_a_path_it_says_where_to_begin(self):
        page = self.open(self.new_job(), "loads")
        expect(page.get_by_text("Draw the path first")).to_be_visible()


class TheJob(WithBrowser):
    def test_switching_the_edition_changes_sections_and_is_undone(self):
        page = self.open(self.demo())
        finding = page.locator("[data-finding=drop]")
        expect(finding).to_contain_text("215.2(A)(2) IN 2")
        page.get_by_label("Code edition").select_option("2017")
        preview = page.get_by_role("dialog")
        expect(preview.get_by_role("row").filter(has_text="House panel, calculated load")).to_contain_text("42660 VA")
        expect(preview).to_contain_text("becomes Table 310.15(B)(16)")
        page.get_by_role("button", name="Keep the 2023 edition").click()
        expect(page.get_by_label("Code edition")).to_have_value("2023")
        page.get_by_label("Code edition").select_option("2017")
        page.get_by_role("button", name="Use the 2017 edition").click()
        expect(finding).to_contain_text("215.2(A)(1) IN 2")
        expect(page.get_by_text("2017 rules")).to_be_visible()
        page.keyboard.press("Control+z")
        expect(finding).to_contain_text("215.2(A)(2) IN 2")

    def test_what_a_disconnect_can_do_is_asked_for_and_entered(self):
        """Whether a panel has no other circuits, what can flow into a fault, and what a main can break."""
        builder = JobBuilder()
        builder.add("buildings", "shed", name="Shed", use="other")
        builder.service()
        builder.box("panel", "service", building="shed", main_a=30.0, feeder_a=30.0)
        builder.add("devices", "lamps", enclosure_id="panel", role="branch", rating_a=15.0, poles=1)
        page = self.open(self.new_job(builder.document()))
        floor = page.locator("[data-finding=disconnect_floor]")
        expect(floor).to_contain_text("Enter it")
        sheet = page.get_by_test_id("sheet")
        page.locator("[data-place=panel]").dispatch_event("click")
        sheet.get_by_label("Circuits complete").select_option("yes")
        expect(floor).to_have_count(0)
        page.locator("[data-place=utility]").dispatch_event("click")
        sheet.get_by_label("Fault current").fill("22000")
        page.locator("[data-place=service]").dispatch_event("click")
        sheet.get_by_label("Main breaks").fill("10000")
        expect(page.locator("[data-finding=interrupting]")).to_contain_text("22000 A are available")
        sheet.get_by_label("Main breaks").fill("22000")
        expect(page.locator("[data-finding=interrupting]")).to_have_count(0)

    def test_a_local_amendment_is_added_changed_and_taken_away(self):
        page = self.open(self.demo())
        sheet = page.get_by_test_id("sheet")
        sheet.get_by_role("button", name="No aluminum", exact=True).click()
        material = page.locator("[data-finding=material]")
        expect(material).to_have_count(4)
        expect(page.get_by_text("2 local amendments")).to_be_visible()
        sheet.get_by_role("button", name="Remove No aluminum").click()
        expect(material).to_have_count(0)
        sheet.get_by_label("Deeper cover", exact=True).fill("30")
        expect(page.locator("[data-finding=cover]")).to_have_count(3)

    def test_buildings_and_units_are_kept_on_the_sheet_of_the_job(self):
        page = self.open(self.demo())
        sheet = page.get_by_test_id("sheet")
        sheet.get_by_role("button", name="Add a building").click()
        expect(sheet.get_by_role("button", name="Remove Building")).to_be_visible()
        sheet.get_by_role("button", name="Add a dwelling unit").click()
        sheet.get_by_role("button", name="Remove Dwelling unit").click()
        sheet.get_by_label("Drop by").select_option("direct_current")
        sheet.get_by_label("Feeder drop limit").fill("5")
        expect(page.locator("[data-finding=drop]")).to_have_count(0)

    def test_the_name_and_the_limits_of_names(self):
        page = self.open(self.demo())
        name = page.get_by_test_id("sheet").get_by_label("Name").first
        name.fill("x" * 201)
        expect(page.get_by_role("alert")).to_contain_text("Shorten it to 200")
        name.fill("بستان 🍎 <i>")
        expect(page.get_by_role("heading", level=1)).to_have_text("بستان 🍎 <i>")

    def test_keys_switch_stages_and_states(self):
        page = self.open(self.demo())
        page.locator("body").press("5")
        expect(page.get_by_role("tabpanel").get_by_label("Bonds", exact=True)).to_be_visible()
        page.keyboard.press("x")
        expect(page.get_by_role("button", name="Existing", exact=True)).to_have_attribute("aria-pressed", "true")
        page.keyboard.press("6")
        expect(page.get_by_role("tabpanel").get_by_label("Currents", exact=True)).to_be_visible()
        page.keyboard.press("7")
        expect(page.get_by_role("heading", name="Permit sheet")).to_be_visible()

    def test_both_metals_stand_side_by_side_and_the_other_is_one_click_away(self):
        page = self.open(self.demo())
        page.locator("[data-run=to-barn]").click()
        sheet = page.get_by_test_id("sheet")
        expect(sheet.get_by_role("row").filter(has_text="Hots")).to_contain_text("1/0")
        sheet.get_by_role("button", name="Copper", exact=True).click()
        expect(sheet.get_by_role("columnheader", name="Copper, chosen")).to_be_visible()
        expect(page.locator("[data-run=to-barn]")).to_contain_text("Cu")

    def test_a_size_is_locked_and_freed(self):
        page = self.open(self.demo())
        page.locator("[data-run=to-barn]").click()
        size = page.get_by_label("Hots, size")
        choose(size, "4")
        expect(page.locator("[data-finding=hots_size]")).to_contain_text("65 A")
        page.get_by_role("button", name="to 1/0").click()
        expect(page.locator("[data-finding=hots_size]")).to_have_count(0)
        choose(size, "choose for me")
        expect(size).to_have_value("1/0, chosen")


class Ways(WithBrowser):
    def test_lawful_ways_are_compared_sorted_and_one_is_taken(self):
        page = self.open(self.demo())
        page.locator("[data-run=to-barn]").click()
        page.get_by_role("button", name="Compare lawful ways").click()
        ways = page.get_by_role("table", name="Lawful ways").get_by_role("row")
        expect(ways.nth(1)).to_contain_text("laid in earth")
        expect(ways.nth(1)).to_contain_text("comes up it lies in a raceway")
        page.get_by_role("button", name="Drop", exact=True).click()
        page.get_by_label("only within the drop limit").check()
        copper = page.get_by_role("row", name="Cu THWN-2, PVC schedule 40")
        copper.get_by_role("button", name="larger size").click()
        page.get_by_role("button", name="Use Cu THWN-2, PVC schedule 40 2", exact=True).click()
        expect(page.locator("[data-run=to-barn]")).to_contain_text("2 · 2 N")
        expect(page.locator("[data-run=to-barn]")).to_contain_text("Cu")
        page.keyboard.press("Control+z")
        expect(page.locator("[data-run=to-barn]")).to_contain_text("Al")

    def test_a_price_of_the_job_takes_the_place_of_the_shipped_one(self):
        page = self.open(self.demo())
        page.locator("[data-run=to-barn]").click()
        page.get_by_role("button", name="Compare lawful ways").click()
        page.get_by_text("Price list, per foot").click()
        price = page.get_by_label("aluminum 1/0", exact=True)
        price.fill("100")
        price.press("Tab")
        table = page.get_by_role("table", name="Lawful ways")
        expect(table.locator("tr", has_text="chosen")).to_contain_text(re.compile(r"5\d{4}"))
        expect(table.get_by_role("button", name="Price")).to_have_count(0)  # made-up prices do not decide
        expect(page.get_by_text("enter them all below")).to_be_visible()

    def test_a_run_is_tapped_and_every_rule_is_told(self):
        page = self.open(self.demo())
        page.locator("[data-run=to-barn]").click()
        page.get_by_role("button", name="Tap this run").click()
        sheet = page.get_by_test_id("sheet")
        expect(sheet).to_contain_text("tap, proposed")
        sheet.get_by_label("Length", exact=True).fill("9")
        sheet.get_by_label("Protected").select_option("yes")
        sheet.get_by_label("Leaves the box").select_option("yes")
        rules = sheet.get_by_role("list", name="Tap rules")
        expect(rules).to_contain_text("Enter what is there and its rating")
        page.locator("[data-place^=panel]").click()
        sheet.get_by_label("Main", exact=True).fill("30")
        sheet.get_by_role("button", name="Sheet of the feeding run").click()
        expect(rules).to_contain_text("30 A are needed; 10 carries it")
        expect(sheet.get_by_label("Hots, size")).to_have_value("10, chosen")


class OtherSystems(WithBrowser):
    def test_three_phase_is_drawn_with_three_legs(self):
        page = self.open(self.new_job())
        page.get_by_role("button", name="Utility at 208Y/120 V three-phase").click()
        act(page, "Feed something new from here", "Disconnect")
        expect(page.get_by_test_id("sheet")).to_contain_text("L3")

    def test_what_is_not_computed_is_named_on_the_screen(self):
        builder = JobBuilder()
        builder.service()
        builder.add("sources", "standby", name="Standby", kind="generator", system="split_120_240")
        page = self.open(self.new_job(parse_value(builder.job)))
        expect(page.get_by_label("Findings")).to_contain_text(
            "Whether the neutral of Standby is bonded inside is not told"
        )
        page.get_by_role("tab", name="Packet").click()
        expect(page.get_by_text("Not covered yet")).to_be_visible()

    def test_an_exported_job_is_read_back(self):
        page = self.open(self.demo(), "packet")
        with page.expect_download() as download:
            page.get_by_role("button", name="Job, JSON").click()
        content = download.value.path().read_bytes()
        page.get_by_role("link", name="Nelvor, all jobs").click()
        page.get_by_label("Job file").set_input_files(
            {"name": "j.json", "mimeType": "application/json", "buffer": content}
        )
        expect(page.get_by_role("heading", level=1)).to_have_text(orchard()["name"])
