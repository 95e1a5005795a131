"""A standby generator placed from the path, its consequences taken, positions played, rungs seen on the rails."""

import re

from playwright.sync_api import expect

from tests.support.browser import WithBrowser, act


class Standby(WithBrowser):
    def with_generator(self):
        page = self.open(self.demo())
        page.locator("[data-place=disc-house]").click()
        act(page, "Add ahead or beside", "A standby generator through a transfer switch")
        window = page.get_by_role("dialog")
        told = window.get_by_test_id("consequences")
        expect(told).to_contain_text("House disconnect")
        window.get_by_label("Rated output").fill("24")
        window.get_by_label("Its breaker").fill("100")
        expect(told).to_contain_text("gives 100 A for a calculated load of")
        return page, window, told

    def test_what_it_changes_is_told_and_then_carried_out_in_one_step(self):
        page, window, told = self.with_generator()
        expect(told).to_contain_text("Floating: no bond in it")
        window.get_by_label("Neutral of the gear").select_option("switched")
        expect(told).to_contain_text("Bond in the source")
        window.get_by_role("button", name="Add it").click()
        self.settled(page)
        expect(page.get_by_test_id("sheet").get_by_role("heading", level=2)).to_have_text("Transfer switch")
        expect(page.locator("[data-place=generator]")).to_be_visible()
        page.get_by_role("button", name="Undo").click()
        self.settled(page)
        expect(page.locator("[data-place=generator]")).to_have_count(0)
        expect(page.locator("[data-place=transfer-switch]")).to_have_count(0)

    def test_circuits_are_chosen_for_manual_transfer_gear(self):
        page = self.open(self.demo())
        page.locator("[data-place=house-panel]").click()
        act(page, "Add ahead or beside", "A generator through manual transfer gear for chosen circuits")
        window = page.get_by_role("dialog")
        window.get_by_label("Rated output").fill("7.2")
        window.get_by_label("Its breaker", exact=True).fill("30")
        window.get_by_label("Its breaker in the panel").fill("60")
        window.get_by_label("Rating of the gear").fill("60")
        expect(window.get_by_test_id("consequences")).to_contain_text("Floating: no bond in it")
        window.get_by_role("button", name="Add it").click()
        self.settled(page)
        page.get_by_role("tab", name="Panels").click()
        page.get_by_text("Take circuits of another panel").click()
        page.get_by_label("Out of which panel").select_option(label="House panel")
        told = page.get_by_test_id("take-over")
        told.get_by_role("button", name="None").click()
        expect(told.get_by_role("button", name="Move")).to_have_count(0)
        told.get_by_label("Water heater").check()
        told.get_by_label("Counter left").check()
        expect(told).to_contain_text("It shares its neutral with one that goes.")
        expect(told.get_by_test_id("carried-alone")).to_contain_text("which gives 30 A on each line")
        told.get_by_role("button", name="Move 3 circuits").click()
        expect(page.locator("[data-circuit]")).to_have_count(3)
        self.saved(page)
        page.get_by_role("button", name="Undo").click()
        expect(page.locator("[data-circuit]")).to_have_count(0)

    def test_a_fixed_set_is_added_by_an_example_plate_before_the_shop_has_its_own(self):
        page, window, told = self.with_generator()
        window.get_by_label("By a plate of the shop").select_option("Example standby set, 14 kVA")
        expect(window.get_by_label("Rated output")).to_have_value("14")
        expect(told).to_contain_text("House disconnect")
        window.get_by_role("button", name="Add it").click()
        self.settled(page)
        page.locator("[data-place=generator]").click()
        expect(page.get_by_label("or its rating")).to_have_value("14")
        self.saved(page)

    def test_a_plate_of_the_shop_fills_a_source_in(self):
        page = self.open(self.demo())
        page.goto(f"{self.server.url}/shop")
        box = page.get_by_label("Sources, as CSV")
        expect(box).to_have_value(re.compile("Example standby set, 24 kVA"))
        box.fill("name,kind,rated_kva,portable\nOur set,generator,eleven,no\n")
        page.get_by_role("button", name="Keep this list").click()
        expect(page.get_by_role("alert")).to_contain_text("line 2.rated_kva")
        expect(box).to_have_value(re.compile("eleven"))
        box.fill("name,kind,rated_kva,portable\nOur set,generator,11,no\n")
        page.get_by_role("button", name="Keep this list").click()
        expect(page.get_by_text("1 source, list 1")).to_be_visible()
        page, window, _ = self.with_generator()
        window.get_by_role("button", name="Add it").click()
        self.settled(page)
        page.locator("[data-place=generator]").click()
        plates = page.get_by_label("Fill in from a plate of the shop")
        plates.fill("our")
        page.get_by_role("option", name="Our set").click()
        expect(page.get_by_test_id("sheet").get_by_label("or its rating")).to_have_value("11")
        self.saved(page)
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_test_id("sheet").get_by_label("or its rating")).to_have_value("24")

    def test_a_fault_names_its_field_and_loses_nothing(self):
        _, window, _ = self.with_generator()
        window.get_by_label("Its breaker").fill("-5")
        expect(window.get_by_role("alert").first).to_be_visible()
        expect(window.get_by_label("Its breaker")).to_have_value("-5")
        expect(window.get_by_role("button", name="Add it")).to_be_disabled()
        expect(window.get_by_label("Rated output")).to_have_value("24")

    def test_a_place_where_it_cannot_be_added_is_told_in_words(self):
        page = self.open(self.demo())
        page.locator("[data-place=barn-panel]").click()
        act(page, "Add ahead or beside", "A portable generator through an inlet and an interlock")
        expect(page.get_by_role("dialog").get_by_role("alert")).to_contain_text("no main breaker of its own")

    def test_positions_are_played_on_the_path_and_on_the_rails(self):
        page, window, _ = self.with_generator()
        window.get_by_role("button", name="Add it").click()
        self.settled(page)
        bar = page.get_by_role("radiogroup", name="Position played")
        bar.get_by_role("radio", name="Utility away").click()
        expect(page.locator("[data-place=meter]")).to_contain_text("not live")
        expect(page.locator("[data-place=house-panel]")).not_to_contain_text("not live")
        page.get_by_text("The path as a table").click()
        name = page.get_by_role("rowheader", name="Transfer switch", exact=True)
        row = page.get_by_role("row").filter(has=name)
        expect(row).to_contain_text("live from Standby generator")
        page.get_by_role("tab", name="Bonds").click()
        rails = page.get_by_test_id("bond-rails")
        expect(rails.locator("[data-rung=bonded]")).to_have_count(4)  # meter, two service disconnects, the wrong one
        page.get_by_role("radio", name="Utility away").click()
        expect(page.get_by_test_id("systems")).to_contain_text("Standby generator: its neutral meets the metal at")
        page.keyboard.press("ArrowLeft")
        expect(page.get_by_test_id("systems")).to_contain_text("Utility: its neutral meets the metal at")

    def test_a_box_picked_on_the_rails_shows_its_card(self):
        page = self.open(self.demo(), "bonds")
        page.get_by_test_id("bond-rails").get_by_text("House panel", exact=True).click()
        card = page.locator("[data-bond-enclosure=house-panel]")
        expect(card).to_be_in_viewport()
        card.get_by_label("Bonding strap: joins").select_option("no")
        self.settled(page)
        expect(page.get_by_test_id("bond-rails").locator("[data-rung=apart]")).to_have_count(2)
