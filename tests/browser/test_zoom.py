"""The drawing fits its room on opening; wheel, keys and buttons change its size, and a drag still means its feet."""

from playwright.sync_api import expect

from nelvor.demo import demo_job
from nelvor.model.parse import parse_value
from tests.support.browser import WithBrowser
from tests.support.jobs import chain


class Zoom(WithBrowser):
    def scale(self, page):
        return float(page.get_by_test_id("path-drawing").get_attribute("data-scale"))

    def overflow(self, page):
        return page.evaluate(
            "() => { const e = document.querySelector('[data-testid=path-drawing]');"
            " return [e.scrollWidth - e.clientWidth, e.scrollHeight - e.clientHeight]; }"
        )

    def test_a_large_site_fits_on_opening_and_is_made_larger(self):
        page = self.open(self.new_job(demo_job("bakery")))
        fitting = self.scale(page)
        self.assertLess(fitting, 1)
        self.assertTrue(all(over <= 1 for over in self.overflow(page)))
        page.get_by_role("button", name="Larger").click()
        page.wait_for_timeout(50)
        self.assertAlmostEqual(self.scale(page), fitting * 1.2, places=5)
        page.locator("[data-place=main-panel]").focus()
        page.keyboard.press("+")
        page.keyboard.press("-")
        page.keyboard.press("0")
        page.wait_for_timeout(50)
        self.assertAlmostEqual(self.scale(page), fitting, places=5)

    def test_the_wheel_keeps_what_lies_under_it_in_place(self):
        page = self.open(self.new_job(demo_job("bakery")))
        box = page.locator("[data-place=mixer]")
        before = box.bounding_box()
        middle = (before["x"] + before["width"] / 2, before["y"] + before["height"] / 2)
        page.mouse.move(*middle)
        page.keyboard.down("Control")
        page.mouse.wheel(0, -300)
        page.keyboard.up("Control")
        page.wait_for_timeout(100)
        after = box.bounding_box()
        self.assertGreater(after["width"], before["width"] * 1.5)
        self.assertAlmostEqual(after["x"] + after["width"] / 2, middle[0], delta=20)

    def test_a_drag_at_another_size_means_the_same_feet(self):
        moved = []
        for larger in (0, 2):
            page = self.open(self.demo())
            for _ in range(larger):
                page.get_by_role("button", name="Larger").click()
            page.wait_for_timeout(100)
            place = page.locator("[data-place=green-panel] rect").first
            place.scroll_into_view_if_needed()
            at = place.bounding_box()
            x, y = at["x"] + at["width"] / 2, at["y"] + at["height"] / 2
            page.mouse.move(x, y)
            page.mouse.down()
            page.mouse.move(x - 30 * self.scale(page), y, steps=4)
            page.mouse.up()
            page.locator("[data-run=to-green]").first.dispatch_event("click")
            moved.append(page.get_by_test_id("sheet").get_by_label("Length").input_value())
        self.assertEqual(moved[0], moved[1])
        self.assertNotEqual(moved[0], "90 ft")

    def test_on_a_phone_it_opens_at_full_size(self):
        page = self.open(self.demo(), viewport={"width": 390, "height": 844})
        self.assertEqual(self.scale(page), 1)
        expect(page.get_by_role("group", name="Size of the drawing")).to_be_visible()

    def test_a_site_larger_than_its_room_has_an_overview_that_leads_anywhere(self):
        page = self.open(self.new_job(parse_value(chain(50))), patience_ms=30_000)
        pane, overview = page.get_by_test_id("path-drawing"), page.get_by_test_id("overview")
        scrolled = "pane => [pane.scrollLeft, pane.clientWidth, pane.scrollWidth]"
        box = overview.bounding_box()
        page.mouse.click(box["x"] + box["width"] - 2, box["y"] + box["height"] / 2)
        left, seen, whole = pane.evaluate(scrolled)
        self.assertAlmostEqual(left + seen, whole, delta=4)
        page.mouse.click(box["x"] + 1, box["y"] + box["height"] / 2)
        self.assertEqual(pane.evaluate(scrolled)[0], 0)
        page.close()
        small = self.open(self.demo())
        expect(small.get_by_test_id("overview")).to_have_count(0)
