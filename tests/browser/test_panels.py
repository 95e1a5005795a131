"""Panels in the browser, by mouse and by keys alone."""

import json

from playwright.sync_api import expect

from nelvor.model.parse import parse_value
from tests.report.test_ways import house
from tests.support.browser import WithBrowser
from tests.support.jobs import JobBuilder


class Panels(WithBrowser):
    def house(self):
        page = self.open(self.demo(), "panels")
        page.locator("[data-panel=house-panel]").click()
        self.settled(page)
        expect(page.locator("[data-circuit=h13]")).to_be_visible()
        return page

    def empty_panel(self, spaces=12):
        builder = JobBuilder()
        builder.service()
        builder.box("panel", "service")
        builder.job["buses"][0]["spaces"] = spaces
        builder.load("panel", 1_200.0, volts=120.0, name="Kettle")
        return self.open(self.new_job(parse_value(builder.job)), "panels")

    def place_of(self, page, circuit):
        return page.locator(f"[data-circuit={circuit}]").get_attribute("data-spaces")

    def test_all_of_a_panel_of_42_is_read_without_scrolling(self):
        page = self.empty_panel(42)
        box = page.locator("[data-drawing]").bounding_box()
        self.assertLessEqual(box["y"] + box["height"], 800)
        self.assertEqual(page.locator("[data-drawing] [data-at]").count(), 42)

    def test_a_door_is_typed_line_by_line(self):
        page = self.empty_panel()
        space = page.get_by_label("Space", exact=True)
        for text, poles in (("Range", "2"), ("Bath", "1")):
            page.get_by_label("What the door says").fill(text)
            page.get_by_label("Poles", exact=True).select_option(poles)
            page.get_by_label("Amperes").fill("20")
            page.get_by_label("Amperes").press("Enter")
            expect(page.locator("[data-drawing]").get_by_text(text)).to_be_visible()
            expect(space).to_be_focused()
        self.settled(page)
        space.fill("3")
        page.get_by_label("What the door says").fill("Hall")
        page.get_by_label("What the door says").press("Enter")
        expect(page.get_by_role("alert")).to_have_text("Space 3 is taken by Range.")
        expect(page.get_by_label("What the door says")).to_have_value("Hall")
        space.fill("12")
        page.get_by_label("Poles", exact=True).select_option("2")
        space.press("Enter")
        expect(page.get_by_role("alert")).to_contain_text("does not go on for 2 poles")
        self.saved(page)

    def test_a_breaker_that_is_taken_out_is_still_seen_in_the_proposal(self):
        page = self.house()
        page.locator("[data-circuit=h13]").click()
        name = page.get_by_label("On the door").input_value()
        page.get_by_role("button", name="Take the breaker out").click()
        page.get_by_role("dialog").get_by_role("button", name="Remove", exact=True).click()
        expect(page.locator("[data-circuit=h13]")).to_have_count(0)
        space = page.locator("[data-space='13']")
        expect(space).to_contain_text(name)
        self.assertIn(f"{name} is taken out", space.get_attribute("aria-label"))
        page.get_by_role("button", name="Existing", exact=True).click()
        expect(page.locator("[data-circuit=h13]")).to_be_visible()

    def test_what_each_breaker_switches_is_found_by_trying_and_logged(self):
        page = self.empty_panel()
        for text in ("Range", "Bath"):
            page.get_by_label("What the door says").fill(text)
            page.get_by_label("What the door says").press("Enter")
            expect(page.locator("[data-drawing]").get_by_text(text)).to_be_visible()
        page.get_by_text("0 of 2 breakers found by trying").click()
        form = page.get_by_role("form", name="Log a breaker")
        form.get_by_role("button", name="Log it").click()
        expect(form.get_by_role("alert")).to_contain_text("write at least a word")
        form.get_by_label("Found by", exact=True).fill("R. Alder")
        form.get_by_label("What went off").fill("Hall lights, pump")
        form.get_by_role("button", name="Log it").click()
        found = page.get_by_role("list", name="Found by trying").get_by_role("listitem")
        expect(found).to_have_count(1)
        expect(found).to_contain_text("Hall lights, pump")
        expect(found).to_contain_text("R. Alder")
        expect(page.get_by_text("1 of 2 breakers found by trying")).to_be_visible()
        expect(form.get_by_label("Breaker off")).to_contain_text("2 Bath")
        found.get_by_role("button", name="Write it on the door").click()
        expect(page.locator("[data-drawing]").get_by_text("Hall lights, pump")).to_be_visible()
        self.saved(page)
        page.reload()
        page.get_by_text("1 of 2 breakers found by trying").click()
        expect(found).to_contain_text("Hall lights, pump")

    def test_a_breaker_is_dragged_and_its_leg_follows(self):
        page = self.house()
        expect(page.locator("[data-apart]")).to_have_attribute("data-apart", "7.8")
        page.locator("[data-circuit=h15]").drag_to(page.locator("[data-circuit=h13]"))
        self.settled(page)
        self.assertEqual((self.place_of(page, "h15"), self.place_of(page, "h13")), ("13", "15"))
        page.locator("[data-panel=house-panel]").click()
        expect(page.locator("[data-apart]")).to_have_attribute("data-apart", "2.8")
        page.keyboard.press("Control+z")
        expect(page.locator("[data-circuit=h15]")).to_have_attribute("data-spaces", "15")

    def test_a_finger_that_rests_on_a_breaker_carries_it_and_one_that_moves_scrolls(self):
        page = self.open(self.demo(), "panels", viewport={"width": 390, "height": 844}, has_touch=True)
        page.locator("[data-panel=house-panel]").click()
        page.locator("[data-circuit=h15]").scroll_into_view_if_needed()
        fingers = page.context.new_cdp_session(page)

        def touch(kind, *at):
            points = [{"x": at[0], "y": at[1]}] if at else []
            fingers.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": points})

        def middle(circuit):
            box = page.locator(f"[data-circuit={circuit}]").bounding_box()
            return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2

        def still(circuit):
            """Its middle once nothing scrolls on any more."""
            before, now = None, middle(circuit)
            while now != before:
                page.wait_for_timeout(150)
                before, now = now, middle(circuit)
            return now

        for rests, expected in ((False, ("15", "13")), (True, ("13", "15"))):
            page.locator("[data-circuit=h15]").scroll_into_view_if_needed()
            start, end = still("h15"), still("h13")
            touch("touchStart", *start)
            if rests:
                expect(page.locator("[data-told]")).to_contain_text("let go to put it there")
            touch("touchMove", start[0], (start[1] + end[1]) / 2)
            touch("touchMove", *end)
            touch("touchEnd")
            self.settled(page)
            for circuit, spaces in zip(("h15", "h13"), expected, strict=True):
                expect(page.locator(f"[data-circuit={circuit}]")).to_have_attribute("data-spaces", spaces)

    def test_what_cannot_be_is_refused_in_words(self):
        page = self.house()
        page.locator("[data-circuit=h13]").drag_to(page.locator("[data-circuit=h1]"))
        expect(page.locator("[data-refused]")).to_have_text("Space 1 is taken by Range.")
        self.assertEqual(self.place_of(page, "h13"), "13")

    def test_by_keys_alone(self):
        page = self.open(self.demo(), "panels")
        self.settled(page)
        page.locator("[data-panel=house-panel]").focus()
        page.keyboard.press("Enter")
        expect(page.locator("[data-circuit=h1]")).to_be_visible()
        page.locator("[data-circuit=h1]").focus()
        for _ in range(3):
            page.keyboard.press("ArrowDown")
        expect(page.locator("[data-circuit=h13]")).to_be_focused()
        page.keyboard.press("m")
        expect(page.locator("[data-told]")).to_contain_text("arrows choose")
        page.keyboard.press("ArrowRight")
        page.keyboard.press("ArrowDown")
        page.keyboard.press("Enter")
        self.settled(page)
        self.assertEqual((self.place_of(page, "h13"), self.place_of(page, "h16")), ("16", "13"))
        page.locator("[data-circuit=h13]").focus()
        page.keyboard.press("Enter")
        expect(page.get_by_test_id("panel-sheet").get_by_role("heading", name="Dishwasher")).to_be_visible()

    def test_a_load_is_put_on_a_circuit_and_its_legs_follow(self):
        page = self.empty_panel()
        page.get_by_label("What the door says").fill("Kettle")
        page.get_by_label("What the door says").press("Enter")
        self.settled(page)
        page.locator("[data-drawing]").get_by_role("button", name="Space 1: Kettle").click()
        page.get_by_label("Put a load on this circuit").select_option(label="Kettle")
        expect(page.locator("[data-poles-a]")).to_have_attribute("data-poles-a", "10")
        page.get_by_role("button", name="Enter its wire").click()
        page.locator("[data-wires]").get_by_label("Used for").select_option("individual")
        self.saved(page)

    def test_the_legs_are_balanced_after_the_moves_were_told(self):
        page = self.house()
        page.get_by_label("Bring them within").fill("x")
        page.get_by_role("button", name="Find the moves").click()
        expect(page.get_by_role("alert")).to_contain_text("Within")
        page.get_by_label("Bring them within").fill("3")
        page.get_by_role("button", name="Find the moves").click()
        expect(page.get_by_test_id("moves")).to_contain_text("2 moves bring the legs within 3 A")
        self.assertEqual(self.place_of(page, "h15"), "15")
        page.get_by_role("button", name="Make these moves").click()
        expect(page.locator("[data-apart]")).to_have_attribute("data-apart", "2.8")

    def test_a_list_is_read_and_its_mistakes_are_told_by_line(self):
        page = self.empty_panel()
        page.get_by_text("A list of circuits").click()
        field = page.get_by_label("Circuit list")
        field.fill("1-3 Range 2p 50\n3 Kettle 20")
        page.get_by_role("button", name="Read the circuits").click()
        expect(page.get_by_text("space 3 is taken by Range")).to_be_visible()
        expect(field).to_have_value("1-3 Range 2p 50\n3 Kettle 20")
        field.fill("1-3 Range 2p 50\n5 Kettle 20")
        page.get_by_role("button", name="Read the circuits").click()
        expect(page.get_by_text("2 circuits were read")).to_be_visible()
        page.get_by_text("The same as a table").click()
        expect(page.get_by_role("table", name="Circuits").get_by_role("row")).to_have_count(3)
        with page.expect_download() as caught:
            page.get_by_role("button", name="Circuits, CSV").click()
        self.assertIn("Kettle", caught.value.path().read_text())

    def test_what_may_come_is_planned_and_told(self):
        page = self.empty_panel()
        page.get_by_role("button", name="Plan a load").click()
        page.get_by_role("menuitem", name="Basement rooms").click()
        expect(page.locator("[data-plan]")).to_contain_text("Fits, in space 1")
        page.get_by_role("button", name="Plan a load").click()
        page.get_by_role("menuitem", name="Hot tub").click()
        expect(page.locator("[data-plan][data-fits]")).to_have_count(2)
        self.saved(page)

    def test_circuits_move_into_another_panel(self):
        page = self.house()
        page.get_by_text("Move its circuits into another panel").click()
        page.get_by_label("Into which panel").select_option(label="Barn panel")
        page.get_by_label("further by").fill("12 ft")
        expect(page.get_by_test_id("take-over")).to_contain_text("Range: 1 to 12")
        page.get_by_role("button", name="Move 8 circuits").click()
        expect(page.locator("[data-circuit=h1]")).to_have_count(0)
        self.saved(page)

    def test_a_failing_solar_design_is_taken_to_a_lawful_one(self):
        builder = JobBuilder()
        builder.service()
        builder.box("panel", "service", main_a=200.0, feeder_a=200.0, rating_a=200.0)
        builder.job["buses"][0].update(spaces=20, main_end="top")
        for number, space in enumerate((1, 2, 5, 6, 17, 18), 1):
            values = {"enclosure_id": "panel", "bus_id": "panel-bus", "role": "branch", "name": f"Load {number}"}
            builder.add("devices", f"l{number}", **values, rating_a=50.0, poles=2, space=space)
        page = self.open(self.new_job(parse_value(builder.job)), "panels")
        page.get_by_role("button", name="A solar inverter feeds in here").click()
        sheet = page.get_by_test_id("panel-sheet")
        expect(sheet.get_by_role("heading", name="Solar", exact=True)).to_be_visible()
        sheet.get_by_label("Rating", exact=True).fill("40")
        sheet.get_by_label("Rated output").fill("32")
        sheet.get_by_role("button", name="Back to the panel").click()
        finding = page.locator("[data-finding=bus_source]")
        expect(finding).to_have_attribute("data-outcome", "must_fix")
        expect(page.locator("[data-segment]").first).to_be_attached()
        expect(sheet.locator("[data-rule=bus_120]")).to_contain_text("32 A")
        finding.get_by_role("button", name="Solar to space 18").click()
        expect(finding).to_have_count(0)
        self.assertEqual(page.locator("[data-state=added]").get_attribute("data-spaces"), "18 20")
        page.keyboard.press("Control+z")
        expect(finding).to_have_count(1)
        self.saved(page)

    def full_hall(self):
        """A 200 A panel whose bus takes no more than 32 A at its far end."""
        return self.open(self.new_job(parse_value(house().job)), "panels")

    def test_every_way_is_looked_at_and_one_is_taken(self):
        page = self.full_hall()
        page.get_by_role("button", name="Ways to connect a source").click()
        ways = page.get_by_test_id("ways")
        expect(ways).to_contain_text("Enter its rated output")
        page.get_by_role("dialog").get_by_label("Rated output").fill("40")
        expect(ways).to_contain_text("8 pass")
        own = ways.locator("[data-way=own_bus]")
        expect(own).to_have_attribute("data-outcome", "fails")
        expect(own).to_contain_text("8 A too many")
        own.get_by_role("button").first.click()
        expect(own).to_contain_text("250 A of 240 A")
        larger = ways.locator("[data-way=larger_bus]")
        larger.get_by_role("button").first.click()
        larger.get_by_role("button", name="Take this way").click()
        expect(page.get_by_role("dialog")).to_have_count(0)
        expect(page.get_by_test_id("panel-sheet").get_by_role("heading", name="Solar", exact=True)).to_be_visible()
        self.assertEqual(page.locator("[data-state=added]").get_attribute("data-spaces"), "17 19")
        expect(page.locator("[data-finding=bus_source]")).to_have_count(0)
        page.keyboard.press("Control+z")
        expect(page.locator("[data-state=added]")).to_have_count(0)
        self.saved(page)

    def test_parts_are_priced_in_a_way_and_kept_with_the_job(self):
        page = self.full_hall()
        page.get_by_role("button", name="Ways to connect a source").click()
        page.get_by_role("dialog").get_by_label("Rated output").fill("32")
        own = page.get_by_test_id("ways").locator("[data-way=own_bus]")
        own.get_by_role("button").first.click()
        expect(own).to_contain_text("price not known")
        for label, price in (
            ("Price of Solar: breaker", "38.5"),
            ("Price of Inverter", "900"),
            ("Price of 8 ·", "61,5"),
        ):
            own.get_by_label(label).fill(price)
            own.get_by_label(label).press("Tab")
        expect(own).to_contain_text("1000.00 for all parts, without labor")
        self.saved(page)
        own.get_by_label("Price of Inverter").fill("")
        own.get_by_label("Price of Inverter").press("Tab")
        expect(own).to_contain_text("price not known")

    def test_a_drawn_source_that_fails_is_taken_another_way_by_keyboard(self):
        page = self.full_hall()
        page.get_by_role("button", name="Ways to connect a source").press("Enter")
        page.get_by_role("dialog").get_by_label("Rated output").fill("40")
        own = page.locator("[data-way=own_bus]")
        own.get_by_role("button").first.press("Enter")
        own.get_by_role("button", name="Draw it all the same").press("Enter")
        finding = page.locator("[data-finding=bus_source]")
        expect(finding).to_have_attribute("data-outcome", "must_fix")
        page.get_by_role("button", name="Back to the panel").press("Enter")
        page.get_by_role("button", name="Other ways for Inverter").press("Enter")
        ahead = page.locator("[data-way=supply_side]")
        expect(ahead).to_have_attribute("data-outcome", "passes")
        ahead.get_by_role("button").first.press("Enter")
        ahead.get_by_role("button", name="Take this way").press("Enter")
        expect(finding).to_have_count(0)
        asked = page.locator("[data-finding=source_facts]").filter(has_text="whether the utility agrees")
        expect(asked).to_have_attribute("data-outcome", "cannot_tell")
        page.keyboard.press("Control+z")
        expect(finding).to_have_count(1)
        self.saved(page)

    def test_a_finding_opens_the_breaker_that_it_is_about(self):
        page = self.open(self.demo())
        page.get_by_label("Findings").get_by_role("button", name="must fix: Porch").click()
        expect(page.get_by_test_id("panel-sheet").get_by_role("heading", name="Porch")).to_be_visible()
        page.get_by_role("tab", name="Path").click()
        expect(page.get_by_test_id("sheet").get_by_role("heading", name="House panel")).to_be_visible()

    def test_the_same_on_a_phone(self):
        page = self.open(self.demo(), "panels", viewport={"width": 390, "height": 844}, has_touch=True)
        expect(page.locator("[data-drawing]")).to_be_visible()
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), 390)

    def test_a_panel_of_60_circuits_is_drawn_whole(self):
        builder = JobBuilder()
        builder.service()
        builder.box("panel", "service")
        builder.job["buses"][0]["spaces"] = 60
        for space in range(1, 61):
            builder.add(
                "devices",
                f"c{space}",
                enclosure_id="panel",
                bus_id="panel-bus",
                role="branch",
                poles=1,
                name=f"Room {space}",
                rating_a=20.0,
                space=space,
            )
        page = self.open(self.new_job(parse_value(json.loads(json.dumps(builder.job)))), "panels")
        self.assertEqual(page.locator("[data-circuit]").count(), 60)
        page.locator("[data-circuit=c1]").click()
        page.get_by_label("On the door").fill("Room one")
        self.settled(page)
        expect(page.locator("[data-circuit=c1]")).to_contain_text("Room one")
