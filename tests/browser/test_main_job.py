"""The main job in the real interface: from an empty job to the PDF, by mouse and wholly by keyboard."""

import io

from playwright.sync_api import expect
from pypdf import PdfReader

from tests.support.browser import WithBrowser, act, choose


class FromEmptyToPaper(WithBrowser):
    def test_by_mouse(self):
        page = self.open(self.new_job())
        sheet = page.get_by_test_id("sheet")
        page.get_by_role("button", name="Utility at 120/240 V one-phase").click()
        for kind in ("Disconnect", "Panel"):
            act(page, "Feed something new from here", kind)
            expect(sheet.get_by_role("heading", level=2)).to_have_text(kind)
        sheet.get_by_label("Bus rating").fill("125")
        sheet.get_by_label("Main", exact=True).fill("100")
        sheet.get_by_label("Lugs marked").select_option("75")
        page.get_by_role("button", name="Sheet of the feeding run").click()
        sheet.get_by_label("Length").fill("180 ft")
        sheet.get_by_label("Cover", exact=True).fill("18")
        page.locator("[data-place=disconnect]").click()
        sheet.get_by_label("Main", exact=True).fill("200")
        sheet.get_by_label("Rating", exact=True).fill("200")
        sheet.get_by_label("Lugs marked").select_option("75")
        page.locator("[data-place=panel]").click()
        page.get_by_role("tab", name="Loads").click()
        choose(page.get_by_label("Add a load"), "motor")
        page.get_by_label("Amount, Motor").fill("5")
        self.settled(page)
        expect(page.get_by_label("Calculated load")).to_contain_text("6720 VA")
        page.get_by_role("tab", name="Path").click()
        self.clear_must_fixes(page)
        self.saved(page)
        text = self.permit_text(page)
        for words in ("Panel", "180 ft", "N and G apart", "N–G bonded here", "6720 VA"):
            self.assertIn(words, text)

    def clear_must_fixes(self, page):
        fixes = page.locator("[data-outcome=must_fix]")
        for _ in range(12):
            self.settled(page)
            if fixes.count() == 0:
                return
            fixes.first.get_by_label("Ways to mend it").get_by_role("button").first.click()
            page.wait_for_timeout(250)
        self.assertEqual(fixes.all_inner_texts(), [])

    def permit_text(self, page) -> str:
        page.get_by_role("tab", name="Packet").click()
        with page.expect_download() as download:
            page.get_by_role("button", name="Permit sheet, PDF").click()
        return "\n".join(
            sheet.extract_text() for sheet in PdfReader(io.BytesIO(download.value.path().read_bytes())).pages
        )

    def test_by_keyboard_alone(self):
        page = self.open(self.new_job())
        press = page.keyboard.press

        def reach(name: str, role: str = "button"):
            """Tab until a control of this name has the focus."""
            for _ in range(120):
                press("Tab")
                focused = page.evaluate(
                    "() => { const e = document.activeElement; const l = e.labels && e.labels[0];"
                    " return [e.getAttribute('aria-label') || (l ? l.textContent : e.textContent).trim(), e.tagName]; }"
                )
                if focused[0].startswith(name):
                    return
            self.fail(f"{name} is not reached with Tab")

        reach("Utility at 120/240")
        press("Enter")
        for at in ("meter", "disconnect"):
            page.locator(f"[data-place={at}]").wait_for()
            page.locator(f"[data-place={at}]").focus()
            press("a")
            expect(page.get_by_role("menu")).to_be_visible()
            if at == "meter":
                press("d")
            press("Enter")
            expect(page.get_by_test_id("sheet").get_by_label("Name")).to_be_focused()
        expect(page.get_by_test_id("sheet").get_by_role("heading", level=2)).to_have_text("Panel")
        page.locator("[data-place=panel]").focus()
        for _ in range(40):
            press("]")
        page.wait_for_timeout(100)
        expect(page.locator("[data-run=disconnect-panel]")).to_contain_text("40 ft")
        press("ArrowLeft")
        expect(page.locator("[data-place=disconnect]")).to_be_focused()
        press("ArrowRight")
        expect(page.locator("[data-place=panel]")).to_be_focused()
        press("Enter")
        expect(page.get_by_test_id("sheet").get_by_label("Name")).to_be_focused()
        page.locator("[data-place=panel]").focus()
        press("f")
        page.wait_for_timeout(100)
        self.assertEqual(page.evaluate("document.activeElement.tagName"), "SELECT")
        page.locator("[data-place=panel]").focus()
        press("Delete")
        expect(page.get_by_role("dialog")).to_contain_text("Goes along")
        expect(page.get_by_role("dialog").get_by_role("button", name="Remove")).to_be_focused()
        press("Enter")
        expect(page.locator("[data-place=panel]")).to_have_count(0)
        press("Control+z")
        expect(page.locator("[data-place=panel]")).to_have_count(1)
        press("Escape")
        page.evaluate("document.activeElement.blur()")
        press("?")
        expect(page.get_by_role("heading", name="Keys")).to_be_visible()
        press("Escape")
        page.wait_for_timeout(300)
        press("7")
        self.saved(page)
        reach("Permit sheet, PDF")
        with page.expect_download() as download:
            press("Enter")
        self.assertTrue(download.value.path().read_bytes().startswith(b"%PDF"))


class OnTheDemo(WithBrowser):
    def test_a_mend_clears_its_finding_and_undo_brings_it_back(self):
        page = self.open(self.demo())
        finding = page.locator("[data-finding=bond][data-outcome=must_fix]")
        finding.get_by_role("button", name="Take the bond out").click()
        expect(finding).to_have_count(0)
        page.keyboard.press("Control+z")
        expect(finding).to_have_count(1)
        page.keyboard.press("Control+Shift+z")
        expect(finding).to_have_count(0)

    def test_editing_a_length_changes_the_answers_at_once_and_keeps_what_stands(self):
        page = self.open(self.demo())
        page.locator("[data-run=to-house]").click()
        length = page.get_by_test_id("sheet").get_by_label("Length")
        length.fill("100 ft 6 in")
        expect(page.locator("[data-run=to-house]")).to_contain_text("100.5 ft")
        page.get_by_role("button", name="Existing", exact=True).click()
        expect(page.locator("[data-run=to-house]")).to_contain_text("60 ft")
        page.get_by_role("button", name="Proposed", exact=True).click()
        expect(page.locator("[data-run=to-house]")).to_contain_text("100.5 ft")
        act(page, "More", "Changes")
        expect(page.get_by_role("dialog")).to_contain_text("Disconnect to house: 100.5 ft long instead of 60 ft.")
        page.get_by_role("tab", name="Thing by thing").click()
        expect(page.get_by_role("dialog")).to_contain_text("length ft: 60 → 100.5")

    def test_bad_values_keep_the_text_with_reason_and_remedy_and_save_the_rest(self):
        page = self.open(self.demo())
        page.locator("[data-run=to-barn]").click()
        sheet = page.get_by_test_id("sheet")
        length = sheet.get_by_label("Length")
        for text, told in (
            ("-5", "not a length"),
            ("0", "more than 0"),
            ("10001", "at most 10000"),
            ("far away", "not a length"),
            ("1e9", "not a length"),
        ):
            length.fill(text)
            expect(sheet.get_by_role("alert")).to_contain_text(told)
            expect(length).to_have_value(text)
        sheet.get_by_label("Name").fill("<b>Barn</b> 🍎 التفاح")
        expect(length).to_have_value("1e9")
        self.saved(page)
        expect(page.locator("[data-run=to-barn]")).to_contain_text("180 ft")
        page.locator("[data-run=to-green]").click()
        page.locator("[data-run=to-barn]").click()
        expect(length).to_have_value("1e9")
        page.reload()
        page.locator("[data-run=to-barn]").click()
        expect(sheet.get_by_label("Name")).to_have_value("<b>Barn</b> 🍎 التفاح")
        self.assertEqual(page.locator("b").count(), 0)

    def test_working_opens_in_place_with_sections_of_the_edition(self):
        page = self.open(self.demo())
        page.locator("[data-run=to-green]").click()
        page.get_by_role("button", name="Working of Ground").click()
        working = page.get_by_test_id("working")
        expect(working).to_contain_text("250.122(B)")
        expect(working).to_contain_text("66360")
        expect(working).to_contain_text("refused: 6 has a smaller area")

    def test_an_enclosure_is_dragged_and_carries_all_downstream(self):
        page = self.open(self.demo())
        box = page.locator("[data-place=barn-panel]").bounding_box()
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] - 60
        page.mouse.move(x, y)
        page.mouse.down()
        page.mouse.move(x - 40, y, steps=4)
        page.mouse.up()
        self.settled(page)
        places = {item["id"]: item["x_ft"] for item in self.report(page)["places"]}
        self.assertLess(places["barn-panel"], 242)
        self.assertEqual(places["green-panel"] - places["barn-panel"], 90)

    def report(self, page):
        def of_the_proposal(response):
            return response.url.endswith("/check") and response.request.post_data_json["state"] == "proposed"

        page.keyboard.press("x")
        self.settled(page)
        with page.expect_response(of_the_proposal) as caught:
            page.keyboard.press("x")
        return caught.value.json()

    def test_a_panel_is_fed_from_elsewhere_by_its_sheet(self):
        page = self.open(self.demo())
        page.locator("[data-place=green-panel]").click()
        page.get_by_test_id("sheet").get_by_label("Fed from").select_option(label="House panel")
        expect(page.locator("[data-run=to-green]")).to_contain_text("90 ft")
        page.get_by_role("button", name="The path as a table").or_(
            page.get_by_text("The path as a table")
        ).first.click()
        row = page.get_by_role("row").filter(has=page.get_by_role("rowheader", name="Greenhouse panel"))
        expect(row).to_contain_text("House panel")
        page.keyboard.press("Control+z")
        expect(row).to_contain_text("Barn panel")

    def test_touch_selects_opens_the_sheet_and_changes_a_length(self):
        page = self.open(self.demo(), viewport={"width": 390, "height": 844}, has_touch=True)
        page.locator("[data-run=svc-barn] rect").last.tap(force=True)
        sheet = page.get_by_test_id("sheet")
        length = sheet.get_by_label("Length")
        length.tap()
        length.fill("6")
        expect(page.locator("[data-run=svc-barn]")).to_contain_text("6 ft")
        self.saved(page)

    def test_what_is_found_is_edited_part_by_part(self):
        page = self.open(self.demo(), "bonds")
        house = page.locator("[data-bond-enclosure=house-panel]")
        house.get_by_label("Bonding strap: joins").select_option("no")
        expect(house).to_contain_text("Found: apart")
        house.get_by_label("Also found").select_option("branch_neutral")
        expect(house).to_contain_text("Found: joined")
        expect(page.locator("[data-finding=bond][data-outcome=must_fix]")).to_contain_text(
            "branch neutral on the ground bar"
        )
