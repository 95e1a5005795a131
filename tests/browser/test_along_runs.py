"""What lies along a run, branch circuits and the local rules of the shop, as a person enters them."""

from playwright.sync_api import expect

from nelvor.model.parse import parse_value
from tests.support.browser import WithBrowser
from tests.support.jobs import JobBuilder, bakery


def feeder_job():
    builder = JobBuilder()
    builder.service()
    builder.box("panel", "service")
    builder.load("panel", 12_000.0)
    return parse_value(builder.job)


class AlongARun(WithBrowser):
    def run_sheet(self, document=None):
        page = self.open(self.new_job(document or feeder_job()), "path")
        page.locator("[data-place=panel]").click()
        page.get_by_role("button", name="Sheet of the feeding run").click()
        return page

    def test_a_hot_stretch_makes_the_conductors_larger_and_undo_takes_it_back(self):
        page = self.run_sheet()
        hots = page.get_by_label("Hots, size")
        expect(hots.locator("option").first).to_have_text("3, chosen")
        page.get_by_role("button", name="Add a stretch").click()
        stretch = page.locator("[data-stretch]")
        expect(page.locator("[data-finding=run_hots]")).to_contain_text("length")
        stretch.get_by_label("Length").fill("20")
        stretch.get_by_label("Ambient").fill("60")
        expect(hots.locator("option").first).to_have_text("2, chosen")
        stretch.get_by_label("Length").fill("5")
        expect(hots.locator("option").first).to_have_text("3, chosen")
        page.get_by_role("button", name="working of Hots").click()
        expect(page.get_by_test_id("working")).to_contain_text("310.14(A)(2)")
        page.get_by_role("button", name="Remove the stretch").click()
        expect(stretch).to_have_count(0)
        page.keyboard.press("Control+z")
        expect(stretch).to_have_count(1)

    def test_a_stretch_in_another_raceway_has_its_own_trade_size(self):
        page = self.run_sheet()
        page.get_by_role("button", name="Add a stretch").click()
        stretch = page.locator("[data-stretch]")
        stretch.get_by_label("Length").fill("15 ft 6 in")
        stretch.get_by_label("Placed").select_option("outdoors")
        stretch.get_by_label("Method").select_option("pvc80")
        expect(stretch).to_contain_text("1-1/4 in")

    def test_a_pull_box_is_added_measured_and_judged(self):
        page = self.open(self.new_job(parse_value(bakery())), "path")
        page.locator("[data-box-mark=corner-box]").click(force=True)
        box = page.locator("[data-box]")
        expect(box).to_contain_text("15 in")
        box.get_by_label("Its width").fill("14")
        finding = page.locator("[data-finding=box]")
        expect(finding).to_contain_text("below the 15 in needed")
        box.get_by_label("Leaves by").select_option("right")
        expect(finding).to_contain_text("below the 20 in needed")
        box.get_by_label("Its width").fill("20")
        expect(finding).to_have_count(0)
        page.get_by_role("button", name="Add a conduit body").click()
        expect(page.locator("[data-box-mark]")).to_have_count(2)
        expect(page.locator("[data-box]").nth(1)).to_contain_text("Length, least")
        page.get_by_role("button", name="Take out Conduit body").click()
        expect(page.locator("[data-box-mark]")).to_have_count(1)

    def test_a_finding_on_a_box_leads_to_the_sheet_of_its_run(self):
        job = bakery()
        job["boxes"][0]["width_in"] = None
        page = self.open(self.new_job(parse_value(job)), "path")
        page.locator("[data-finding=box]").get_by_role("button").first.click()
        expect(page.locator("[data-box=corner-box]")).to_be_visible()

    def test_a_feeder_becomes_a_branch_circuit(self):
        page = self.run_sheet()
        page.get_by_label("Circuit").select_option("branch")
        expect(page.get_by_text("branch circuit, standing")).to_be_visible()
        page.get_by_label("Many receptacles").select_option("yes")
        page.get_by_role("button", name="working of Device").click()
        expect(page.get_by_label("Ground-fault")).to_be_visible()
        page.keyboard.press("Control+z")
        page.keyboard.press("Control+z")
        expect(page.get_by_text("feeder, standing")).to_be_visible()

    def test_farm_loads_ask_what_runs_together(self):
        page = self.open(self.new_job(feeder_job()), "loads")
        page.get_by_label("Other loads", exact=True).select_option("farm")
        expect(page.locator("[data-finding=load]")).to_contain_text("runs together with the others")
        page.get_by_label("Runs with the others").first.select_option("false")
        expect(page.locator("[data-finding=load]")).to_have_count(0)
        expect(page.get_by_label("Calculated load")).to_contain_text("12000 VA")


class LocalRules(WithBrowser):
    def test_rules_of_the_shop_come_into_jobs(self):
        page = self.open(self.new_job(feeder_job()), "path")
        page.goto(page.url.split("/jobs/")[0] + "/shop")
        expect(page.get_by_text("No local rule is kept")).to_be_visible()
        page.get_by_role("button", name="No aluminium").click()
        page.get_by_role("button", name="Deeper cover").click()
        value = page.get_by_label("Deeper cover, value")
        value.fill("deep")
        expect(page.get_by_role("alert")).to_contain_text("not a number")
        value.fill("30")
        page.get_by_label("Written in").first.fill("Memo 4")
        page.get_by_role("button", name="Keep these rules").click()
        expect(page.get_by_text("list 1")).to_be_visible()
        page.goto(page.url.replace("/shop", ""))
        page.get_by_role("link", name="Test job").first.click()
        told = page.get_by_test_id("shop-rules")
        expect(told).to_contain_text("2 local rules that this job lacks: No aluminium, Deeper cover 30 in")
        told.get_by_role("button", name="Bring them in").click()
        expect(told).to_have_count(0)
        expect(page.get_by_text("2 local amendments")).to_be_visible()

    def test_someone_else_was_first(self):
        page = self.open(self.new_job(feeder_job()), "path")
        page.goto(page.url.split("/jobs/")[0] + "/shop")
        other = page.context.new_page()
        other.goto(page.url)
        for each in (page, other):
            each.get_by_role("button", name="Rods at least").click()
        other.get_by_role("button", name="Keep these rules").click()
        expect(other.get_by_text("not kept yet")).to_have_count(0)
        page.get_by_role("button", name="Keep these rules").click()
        expect(page.get_by_role("alert")).to_contain_text("changed by someone else")
        page.get_by_role("button", name="Read them again").click()
        expect(page.get_by_role("alert")).to_have_count(0)


class NewThings(WithBrowser):
    def test_a_transformer_is_fed_rated_and_feeds_a_panel(self):
        builder = JobBuilder(system="wye_480_277")
        builder.legs = ("L1", "L2", "L3")
        builder.service()
        builder.box("panel", "service")
        page = self.open(self.new_job(parse_value(builder.job)), "path")
        sheet = page.get_by_test_id("sheet")
        page.locator("[data-place=panel]").click()
        sheet.get_by_role("button", name="Feed something new from here").click()
        sheet.get_by_role("button", name="Transformer", exact=True).click()
        sheet.get_by_label("Rating").fill("45")
        expect(sheet.get_by_label("Secondary")).to_have_value("wye_208_120")
        sheet.get_by_role("button", name="Sheet of the feeding run").click()
        for role, there in (("L3", True), ("neutral", False), ("ground", True)):
            expect(sheet.get_by_label(f"Conductor {role}")).to_be_checked(checked=there)
        page.locator("[data-place=transformer]").click()
        sheet.get_by_role("button", name="Feed something new from here").click()
        sheet.get_by_role("button", name="Panel", exact=True).click()
        sheet.get_by_role("button", name="Sheet of the feeding run").click()
        expect(sheet).to_contain_text("transformer secondary")
        expect(sheet.get_by_label("Conductor neutral")).to_be_checked()

    def test_conductors_of_a_run_are_taken_out_and_brought_back(self):
        page = self.open(self.new_job(feeder_job()), "path")
        sheet = page.get_by_test_id("sheet")
        page.locator("[data-run=to-panel] > rect").first.click()
        neutral = sheet.get_by_label("Conductor neutral")
        neutral.uncheck()
        expect(page.locator("[data-finding=neutral_missing]")).to_have_count(0)
        expect(sheet.get_by_label("Neutral, size")).to_have_count(0)
        neutral.check()
        expect(sheet.get_by_label("Neutral, size")).to_be_visible()
        sheet.get_by_label("Conductor ground").uncheck()
        missing = page.locator("[data-finding=ground_missing]")
        expect(missing).to_contain_text("no grounding conductor")
        page.keyboard.press("Control+z")
        expect(missing).to_have_count(0)

    def test_a_main_that_is_a_bare_switch_asks_for_its_protection(self):
        page = self.open(self.new_job(feeder_job()), "path")
        sheet = page.get_by_test_id("sheet")
        page.locator("[data-place=service]").click()
        sheet.get_by_label("Main is").select_option("switch")
        finding = page.locator("[data-finding=service_protection]")
        expect(finding).to_contain_text("immediately adjacent")
        sheet.get_by_label("Protection").select_option("yes")
        expect(finding).to_have_count(0)
