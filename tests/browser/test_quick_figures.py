"""Quick figures through the interface: links that keep their inputs, answers while typing, bad input told by field."""

from playwright.sync_api import Page, expect

from nelvor.figures import all_figures
from tests.support.browser import WithBrowser


class QuickFigures(WithBrowser):
    def figure(self, path: str, **options) -> Page:
        page = self.open(self.new_job(), **options)
        page.goto(f"{self.server.url}/figures/{path}")
        expect(page.get_by_test_id("figure-value").or_(page.get_by_role("alert")).first).to_be_visible()
        return page

    def test_every_figure_opens_with_an_answer_to_its_example(self):
        page = self.figure("standard-size")
        for name, figure in all_figures().items():
            page.get_by_role("link", name=figure.title, exact=True).click()
            expect(page.locator(f"[data-figure={name}]")).to_be_visible()

    def test_the_answer_follows_what_is_typed_and_the_link_keeps_it(self):
        page = self.figure("voltage-drop")
        value = page.get_by_test_id("figure-value")
        expect(value).to_have_text("1.7 %")
        page.get_by_label("Length one way").fill("360")
        expect(value).to_have_text("3.5 %")
        expect(page.get_by_test_id("working")).to_contain_text("Chapter 9 Table 9")
        page.goto(page.url)
        expect(page.get_by_label("Length one way")).to_have_value("360")
        expect(value).to_have_text("3.5 %")

    def test_a_link_with_rows_and_words_is_opened(self):
        page = self.figure(
            "range-demand?edition=2020&appliances=%5B%7B%22kw%22%3A14%7D%2C%7B%22kw%22%3A12%2C%22pieces%22%3A2%7D%5D"
        )
        expect(page.get_by_label("Rating, Cooking appliances 1")).to_have_value("14")
        expect(page.get_by_label("Pieces, Cooking appliances 2")).to_have_value("2")
        expect(page.get_by_text("2020 rules")).to_be_visible()

    def test_rows_are_added_and_removed(self):
        page = self.figure("dryer-demand")
        page.get_by_role("button", name="Add to Dryers").click()
        page.get_by_label("Rating, Dryers 2").fill("6")
        expect(page.get_by_test_id("figure-value")).to_have_text("32400 VA")
        page.get_by_role("button", name="Remove Dryers 2").click()
        expect(page.get_by_test_id("figure-value")).to_have_text("30360 VA")

    def test_wrong_type_out_of_table_and_impossible_combination(self):
        page = self.figure("ampacity")
        page.get_by_label("Ambient temperature").fill("hot")
        expect(page.get_by_role("alert").filter(has_text="valid number")).to_be_visible()
        expect(page.get_by_label("Ambient temperature")).to_have_value("hot")
        page.get_by_label("Ambient temperature").fill("30")
        page.get_by_label("Metal").select_option("aluminum")
        page.get_by_label("Size, AWG or kcmil").select_option("14")
        expect(page.get_by_role("alert").filter(has_text="no figure for 14")).to_be_visible()
        page = self.figure("conduit-body")
        page.get_by_label("Marked on the body: number").fill("3")
        expect(page.get_by_role("alert").filter(has_text="a size and a number")).to_be_visible()

    def test_a_tap_tells_how_each_rule_judges(self):
        page = self.figure("tap")
        expect(page.get_by_test_id("figure-value")).to_have_text("1/0")
        for rule in ("Tap of 10 ft or less", "Tap of 25 ft or less", "High-bay tap", "Outside tap"):
            expect(page.get_by_label("Answer")).to_contain_text(rule)

    def test_it_fits_a_phone(self):
        page = self.figure("ampacity", viewport={"width": 390, "height": 844}, has_touch=True)
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), 390)
