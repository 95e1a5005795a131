"""What lies along a run, branch circuits and the local rules of the shop, as a person enters them."""

from playwright.sync_api import expect

from nelvor.model.parse import parse_value
from tests.support.browser import WithBrowser, act, choose
from tests.support.jobs import JobBuilder, bakery, thing


def feeder_job():
    builder = JobBuilder()
    builder.service()
    builder.box("panel", "service")
    builder.load("panel", 12_000.0)
    thing(builder.job, "runs", "to-panel")["standing"] = "added"
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
        expect(hots).to_have_value("3, chosen")
        page.get_by_role("button", name="Add a stretch").click()
        stretch = page.locator("[data-stretch]")
        expect(page.locator("[data-finding=run_hots]")).to_contain_text("length")
        stretch.get_by_label("Length").fill("20")
        stretch.get_by_label("Ambient").fill("60")
        expect(hots).to_have_value("2, chosen")
        stretch.get_by_label("Length").fill("5")
        expect(hots).to_have_value("3, chosen")
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
        expect(page.get_by_text("branch circuit, proposed")).to_be_visible()
        page.get_by_label("Many receptacles").select_option("yes")
        page.get_by_role("button", name="working of Device").click()
        expect(page.get_by_label("Ground-fault")).to_be_visible()
        page.keyboard.press("Control+z")
        page.keyboard.press("Control+z")
        expect(page.get_by_text("feeder, proposed")).to_be_visible()

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
        page.get_by_role("button", name="No aluminum").click()
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
        expect(told).to_contain_text("2 local rules that this job lacks: No aluminum, Deeper cover 30 in")
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
        act(page, "Feed something new from here", "Transformer")
        sheet.get_by_label("Rating").fill("45")
        expect(sheet.get_by_label("Secondary")).to_have_value("wye_208_120")
        sheet.get_by_role("button", name="Sheet of the feeding run").click()
        for role, there in (("L3", True), ("neutral", False), ("ground", True)):
            expect(sheet.get_by_label(f"Conductor {role}")).to_be_checked(checked=there)
        page.locator("[data-place=transformer]").click()
        act(page, "Feed something new from here", "Panel")
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


class OnThePhone(WithBrowser):
    """Large targets and no sideways scrolling on the sheets that are used on site."""

    PHONE = {"viewport": {"width": 390, "height": 844}, "has_touch": True, "is_mobile": True}

    def narrow(self, page):
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), 390)

    def test_stretches_and_boxes(self):
        page = self.open(self.new_job(parse_value(bakery())), **self.PHONE)
        page.locator("[data-box-mark]").dispatch_event("click")
        box = page.locator("[data-box]")
        box.wait_for()
        self.narrow(page)
        for field in (box.get_by_label("Its width"), page.locator("[data-stretch]").get_by_label("Ambient")):
            self.assertGreaterEqual(field.bounding_box()["height"], 44)
        page.get_by_role("button", name="Add a stretch").tap()
        expect(page.locator("[data-stretch]")).to_have_count(2)
        self.narrow(page)

    def test_conductors_have_targets_for_a_finger(self):
        page = self.open(self.new_job(parse_value(bakery())), **self.PHONE)
        page.locator("[data-run=to-oven] > rect").first.dispatch_event("click")
        label = page.locator("label", has=page.get_by_label("Conductor ground"))
        self.assertGreaterEqual(label.bounding_box()["height"], 44)
        self.narrow(page)

    def test_local_rules(self):
        page = self.open(self.new_job(feeder_job()), **self.PHONE)
        page.goto(f"{self.server.url}/shop")
        page.get_by_role("button", name="Smallest main").tap()
        page.get_by_label("Written in").last.fill("Ordinance 7, told by the office on the phone")
        self.narrow(page)


class MoreOfLoads(WithBrowser):
    def add(self, page, words):
        choose(page.get_by_label("Add a load"), words)

    def test_signs_windows_and_tracks_are_counted_as_the_rules_ask(self):
        page = self.open(self.new_job(feeder_job()), "loads")
        level = page.get_by_label("Calculated load")
        self.add(page, "sign")
        page.get_by_label("Amount, Sign").fill("300")
        expect(level).to_contain_text("13200 VA")
        self.add(page, "show window")
        page.get_by_label("Amount, Show window").fill("12")
        expect(level).to_contain_text("15600 VA")
        self.add(page, "track")
        page.get_by_label("Amount, Track lighting").fill("9")
        expect(level).to_contain_text("16350 VA")
        page.get_by_label("Unit, Track lighting", exact=True).select_option("VA")
        expect(level).to_contain_text("15609 VA")

    def test_farm_buildings_are_reduced_by_their_place(self):
        builder = JobBuilder()
        builder.job["settings"]["other_load_method"] = "farm"
        builder.service(main_a=400.0)
        for number, va in enumerate((12_000.0, 8_000.0), 1):
            builder.add("buildings", f"barn-{number}", name=f"Barn {number}", use="farm")
            builder.box(f"panel-{number}", "service", building=f"barn-{number}")
            builder.load(f"panel-{number}", va, without_diversity=True)
        page = self.open(self.new_job(parse_value(builder.job)), "loads")
        page.get_by_role("button", name="service", exact=True).click()
        level = page.get_by_label("Calculated load")
        for words in ("farm loads, by building", "Farm loads, Barn 2", "75 % of 8000", "6000 VA", "18000 VA"):
            expect(level).to_contain_text(words)
        page.get_by_role("button", name="working of Farm loads, Barn 2").click()
        expect(page.get_by_test_id("working")).to_contain_text("220.103")


class Previews(WithBrowser):
    def test_another_edition_tells_what_changes_of_a_stretch(self):
        builder = JobBuilder()
        builder.service()
        builder.box("panel", "service")
        builder.load("panel", 12_000.0)
        builder.add("stretches", "hot", run_id="to-panel", name="boiler room", length_ft=5.0, ambient_c=60.0)
        page = self.open(self.new_job(parse_value(builder.job)), "path")
        page.get_by_label("Code edition").select_option("2017")
        window = page.get_by_role("dialog")
        for words in ("hots", "3 AWG/kcmil→2 AWG/kcmil", "boiler room, raceway"):
            expect(window).to_contain_text(words)

    def test_lawful_ways_of_a_run_keep_its_stretches(self):
        page = self.open(self.new_job(feeder_job()), "path")
        page.locator("[data-run=to-panel] > rect").first.click()
        page.get_by_role("button", name="Compare lawful ways").click()
        ways = page.get_by_role("table", name="Lawful ways")
        smallest = ways.get_by_role("row").filter(has_text="Cu THWN-2, EMT").first
        expect(smallest.get_by_role("cell").nth(1)).to_have_text("3")
        page.get_by_role("button", name="Close").click()
        page.get_by_role("button", name="Add a stretch").click()
        stretch = page.locator("[data-stretch]")
        stretch.get_by_label("Length").fill("30")
        stretch.get_by_label("Ambient").fill("60")
        expect(page.get_by_label("Hots, size")).to_have_value("2, chosen")
        page.get_by_role("button", name="Compare lawful ways").click()
        expect(smallest.get_by_role("cell").nth(1)).to_have_text("2")
