"""A mend says beforehand what it changes and what else it moves, and is taken only by its own button."""

from playwright.sync_api import expect

from nelvor.model.parse import parse_value
from tests.report import test_ways_out
from tests.support.arrangements import Arrangement
from tests.support.browser import WithBrowser


class Mends(WithBrowser):
    def test_what_a_mend_moves_is_told_before_it_is_taken(self):
        page = self.open(self.demo())
        finding = page.locator("[data-finding=bond]").filter(has_text="bonded again")
        told = finding.get_by_test_id("mend-effect")
        finding.get_by_role("button", name="what it moves").click()
        expect(told).to_contain_text("bonding strap")
        expect(told).to_contain_text("One finding goes, none comes.")
        expect(finding).to_have_count(1)
        expect(page.get_by_role("button", name="Undo")).to_be_disabled()
        finding.get_by_role("button", name="Take the bond out").click()
        expect(finding).to_have_count(0)
        page.get_by_role("button", name="Undo").click()
        expect(finding).to_have_count(1)

    def test_an_old_range_whose_frame_hangs_on_the_neutral_behind_a_new_disconnect(self):
        page = self.open(self.demo(), "panels")
        page.locator("[data-circuit=h1]").first.dispatch_event("click")
        sheet = page.get_by_test_id("panel-sheet")
        sheet.get_by_label("Frame on neutral").select_option("yes")
        finding = page.locator("[data-finding=appliance_frame]")
        expect(finding).to_have_attribute("data-outcome", "cannot_tell")
        if sheet.get_by_label("Neutral is").count() == 0:
            sheet.get_by_role("button", name="Enter its wire").click()
        sheet.get_by_label("Metal").select_option("copper")
        sheet.get_by_label("Neutral", exact=True).fill("8")
        sheet.get_by_label("Neutral", exact=True).press("Enter")
        sheet.get_by_label("Neutral is").select_option("bare")
        expect(finding).to_have_attribute("data-outcome", "must_fix")
        expect(finding).to_contain_text("not the service equipment")
        finding.get_by_role("button", name="Run four wires to it").click()
        expect(finding).to_have_count(0)
        expect(sheet.get_by_label("Frame on neutral")).to_have_value("no")
        expect(sheet.get_by_label("Has a ground")).to_have_value("yes")

    def test_a_neutral_formed_for_a_source_without_one(self):
        site = Arrangement("I(standalone,v240,no_neutral) -hnj- P(main)")
        page = self.open(self.new_job(parse_value(site.job)))
        page.locator("[data-place=p]").dispatch_event("click")
        sheet = page.get_by_test_id("sheet")
        expect(sheet).to_contain_text("has no neutral")
        sheet.get_by_role("button", name="Feed something new from here").click()
        page.get_by_role("menuitem", name="Autotransformer for a neutral").click()
        expect(sheet).to_contain_text("no bond belongs here")
        for label in ("Listed for it", "Opens the source"):
            sheet.get_by_label(label).select_option("yes")
        expect(page.locator("[data-finding=neutral_listing], [data-finding=neutral_lost]")).to_have_count(0)
        missing = page.locator("[data-finding=bond]")
        expect(missing).to_contain_text("not joined to the metal")
        missing.get_by_role("button", name="Fit the bond").click()
        expect(missing).to_have_count(0)
        page.locator("[data-place=p]").dispatch_event("click")
        expect(sheet).to_contain_text("forms it, and the one bond is here")

    def test_the_ways_out_of_a_bonded_set_side_by_side(self):
        job, _, _ = test_ways_out.WaysOut().bonded("interlock")
        page = self.open(self.new_job(parse_value(job)), "bonds")
        ways = page.locator("[data-finding=bond]").get_by_role("list", name="Ways to mend it")
        expect(ways.get_by_role("listitem").filter(has=page.get_by_role("button", name="what it moves"))).to_have_count(
            3
        )
        gear = ways.get_by_role("listitem").filter(has_text="in place of the interlock")
        gear.get_by_role("button", name="what it moves").click()
        expect(gear.get_by_role("list", name="What is bought")).to_contain_text("Transfer switch: price not known")
        gear.get_by_role("button", name="Gear that opens the neutral").press("Enter")
        expect(page.locator("[data-finding=bond]")).to_have_count(0)
        expect(page.locator("[data-bond-enclosure]").filter(has_text="Bond in the source")).to_have_count(1)
        self.saved(page)
