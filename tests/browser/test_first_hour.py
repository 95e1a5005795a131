"""Six first jobs of a new user, each from the nearest starter, with the number of entries; and one by keyboard alone."""

import io
import re

from playwright.sync_api import expect
from pypdf import PdfReader

from tests.support.browser import WithBrowser
from tests.support.hand import Hand

HOUSEHOLD = (
    "item,size,volts\nLiving space,1800 sq ft,\nSmall appliance,2,\nLaundry,1,\nRange,12 kW,240\nDryer,5 kW,240\n"
    "Water heater,4500 W,240\nDishwasher,1200,120\nDisposal,900,120\n",
    "item,size,volts\nLiving space,2400 sq ft,\nSmall appliance,3,\nLaundry,1,\nWall oven,6 kW,240\nCooktop,8 kW,240\n"
    "Heat pump,18 A,240\n",
)
NEW_CIRCUITS = (
    ("Kitchen counter left", "1", "20", "Small-appliance circuits"),
    ("Kitchen counter right", "1", "20", "Small-appliance circuits"),
    ("Laundry", "1", "20", "Laundry circuit"),
    ("Bathroom", "1", "20", "Bathroom"),
    ("EV charger", "2", "50", None),
    ("Shed", "1", "20", None),
)
MOST_PRESSES = 120
NAME_IN_FOCUS = """() => { const e = document.activeElement, l = e.labels && e.labels[0];
    return (e.getAttribute('aria-label') || (l ? l.textContent : e.textContent)).trim(); }"""


class FirstHour(WithBrowser):
    """A second round makes every choice otherwise: then the page still answers, whatever it finds."""

    def both_rounds(self, starter, work, wanted):
        for second in (False, True):
            with self.subTest(starter=starter, second=second):
                page = self.begin(starter)
                hand = Hand(page, second)
                work(hand)
                self.settled(page)
                self.saved(page)
                print(f"{work.__name__}, {'second' if second else 'first'} choices: {hand.entries} of {wanted} entries")
                self.assertLessEqual(hand.entries, wanted)
                if not second:
                    self.assertEqual(hand.left(), [])
                page.context.close()

    def places(self, hand, *names):
        for name in names:
            hand.answer(f"Where {name} stands", "All as required", ("yes", "no"))

    def metal(self, hand, building, steel=None):
        hand.answer(f"{building} .*metal water", "water", ("Bonded", "Not bonded"))
        hand.answer(f"{building} .*metal gas", "gas", ("Absent", "Bonded"))
        if steel is not None:
            hand.answer(f"{building} .*steel frame", "Steel", steel)

    def household(self, hand, area):
        hand.load("living", area)
        for kind in ("small appliance", "laundry", "range"):
            hand.load(kind)

    def test_a_basement_panel_and_a_garage_panel_fed_on(self):
        def basement_and_garage(hand):
            hand.box("Panel")
            for name, bus, main in (("Basement", "125", ("100", "60")), ("Garage", ("100", "125"), ("50", "40"))):
                hand.menu("Feed something new from here", "Panel in this building")
                hand.fill("Name", f"{name} panel")
                hand.fill("Bus rating", bus)
                hand.fill("Main", main)
                hand.choose("Lugs marked", ("75 °C", "60 °C"))
            hand.button("Sheet of the feeding run")
            hand.fill("Length", ("45", "90"))
            hand.fill("Its breaker", ("50", "40"))
            hand.run_to("Basement panel")
            hand.fill("Length", ("30", "12 m"))
            hand.fill("Its breaker", ("100", "60"))
            hand.tab("Loads")
            hand.level("Panel")
            self.household(hand, ("1800", "2400"))
            hand.level("Garage panel")
            hand.load(("EV", "Motor"), (None, "2"))
            hand.answer("jumper", "Hots", ("4/0", "350"))
            hand.answer("Meter-main → Panel", "Length", ("20", "60 ft 6 in"))
            self.places(hand, "Meter-main", "Panel", "Basement panel", "Garage panel")
            self.metal(hand, "House")

        self.both_rounds("House with meter-main", basement_and_garage, 45)

    def test_an_outdoor_disconnect_ahead_of_an_old_panel(self):
        def outdoor_disconnect(hand):
            self.places(hand, "Service disconnect")
            hand.answer("length of the run", "Length", ("25", "8"))
            hand.answer("neutral and metal", "Joins", ("yes", "no"))
            hand.answer("bus rating", "Rating", ("200", "125"))
            self.metal(hand, "House")
            hand.tab("Loads")
            hand.level("Old panel")
            self.household(hand, ("1600", "2000"))
            if not hand.second:
                hand.mend("Take the bond out")
            hand.answer("neutral and metal", "Insulated", ("yes", "no"))

        self.both_rounds("Outdoor disconnect ahead", outdoor_disconnect, 25)

    def test_a_detached_garage_with_a_wrong_cable_asked_for(self):
        def garage_and_wrong_cable(hand):
            hand.run_to("Garage panel")
            hand.fill("Length", ("120", "200"))
            hand.choose("Method", "Cable")
            hand.choose("Conductor type", ("NM-B", "SER"))
            hand.mend("Use THWN-2")
            hand.fill("Cover", ("24", "18"))
            hand.tab("Loads")
            hand.level("House panel")
            self.household(hand, ("1800", "2400"))
            hand.level("Garage panel")
            hand.load(("EV", "Motor"), ("32", "3"))
            hand.answer("Service disconnect → House", "Length", ("20", "35"))
            self.places(hand, "Service disconnect", "House panel", "Garage panel")
            self.metal(hand, "House")
            self.metal(hand, "Garage", steel=("Absent", "Bonded"))

        self.both_rounds("House and detached garage", garage_and_wrong_cable, 35)

    def test_load_sheets_of_an_owner_builder_with_six_new_circuits(self):
        def load_sheets_and_six_circuits(hand):
            hand.box("Panel")
            hand.fill("Spaces", ("30", "40"))
            hand.answer("jumper", "Hots", ("4/0", "350"))
            hand.answer("Meter-main → Panel", "Length", ("20", "60 ft 6 in"))
            self.places(hand, "Meter-main", "Panel")
            self.metal(hand, "House")
            hand.tab("Loads")
            hand.level("Panel")
            hand.click(hand.page.get_by_text("Load lists and the load sheet"))
            hand.type(hand.page.get_by_label("Load list", exact=True), HOUSEHOLD)
            hand.button("Read the list")
            hand.tab("Panels")
            for text, poles, amperes, _ in NEW_CIRCUITS:
                hand.circuit(text, poles, amperes)
            for text, _, _, use in NEW_CIRCUITS:
                if use:
                    hand.click(hand.page.locator("[data-drawing]").get_by_text(text))
                    hand.pick(hand.page.get_by_label("Used for", exact=True), use)
            for text in ("Kitchen counter left", "Kitchen counter right", "Laundry"):
                hand.answer(f"breaker of {text}", "Protection", ("arc and ground fault", "arc fault"))
            with hand.page.expect_download() as sheet:
                hand.tab("Loads")
                hand.click(hand.page.get_by_text("Load lists and the load sheet"))
                hand.button("Load sheet, XLSX with live formulas")
            self.assertEqual(sheet.value.path().read_bytes()[:2], b"PK")

        self.both_rounds("House with meter-main", load_sheets_and_six_circuits, 60)

    def test_a_shop_that_feeds_the_house(self):
        def shop_feeds_house(hand):
            hand.answer("Service disconnect → Shop panel", "Length", ("15", "6 m"))
            hand.answer("House disconnect → House panel", "Length", ("10", "18"))
            self.places(hand, "Service disconnect", "Shop panel", "House disconnect", "House panel")
            self.metal(hand, "Shop", steel=("Absent", "Bonded"))
            self.metal(hand, "House")
            hand.run_to("House disconnect")
            hand.fill("Length", ("140", "200"))
            hand.fill("Cover", ("24", "12"))
            hand.tab("Loads")
            hand.level("Shop panel")
            hand.load("motor", ("5", "7.5"))
            hand.load("lighting", ("1500", "900"))
            hand.level("House panel")
            self.household(hand, ("1400", "2100"))

        self.both_rounds("Shop with the service", shop_feeds_house, 40)

    def test_a_transformer_and_a_three_phase_panel(self):
        def transformer_and_panel(hand):
            hand.box("Utility")
            hand.choose("System", "480Y/277 V three-phase")
            hand.box("Panel")
            hand.menu("Feed something new from here", "Transformer")
            hand.fill("Rating", ("75", "45"))
            hand.fill("Impedance", ("4", "3.5"))
            hand.menu("Feed something new from here", "Panel in this building")
            hand.fill("Name", "Mixer panel")
            hand.fill("Bus rating", ("225", "400"))
            hand.fill("Main", ("200", "125"))
            hand.choose("Lugs marked", ("75 °C", "60 °C"))
            hand.answer("Panel → Transformer", "Length", ("30", "45"))
            hand.answer("Panel → Transformer", "Rating", ("110", "70"))
            hand.answer("Transformer → Mixer panel", "Length", ("8", "20"))
            hand.answer("Service disconnect → Panel", "Length", ("15", "40"))
            self.places(hand, "Service disconnect", "Panel", "Mixer panel")
            self.metal(hand, "Store", steel="Absent")
            hand.tab("Loads")
            hand.level("Mixer panel")
            hand.load("motor", ("15", "10"))
            hand.level("Panel")
            hand.load("lighting", ("9000", "12000"))
            hand.tab("Bonds")
            heading = hand.page.get_by_role("heading", name="Transformer")
            card = hand.page.locator("[data-bond-enclosure]").filter(has=heading).first
            hand.click(card.get_by_text("No electrode joins here"))
            hand.click(card.get_by_role("button", name="Add a rod"))
            hand.pick(card.get_by_label("Electrode", exact=True), "Water pipe")

        self.both_rounds("Small commercial", transformer_and_panel, 35)


class ByKeyboard(WithBrowser):
    """Service, panel and outbuilding from the empty job to the paper, without a mouse; typed text does not count."""

    def press(self, *keys):
        for key in keys:
            self.page.keyboard.press(key)
            self.presses += 1
            self.page.wait_for_timeout(60)

    def type(self, text):
        self.page.keyboard.type(text)

    def focused(self, name, within=12):
        """Go on by Tab until a control of this name has the focus, or it is there already."""
        for _ in range(within):
            if self.page.evaluate(NAME_IN_FOCUS).startswith(name):
                return
            self.press("Tab")
        self.fail(f"{name} is not reached; at {self.page.evaluate(NAME_IN_FOCUS)}")

    def comes_to(self, name):
        """The page itself puts the focus on a control of this name, in its own time and without a Tab."""
        self.page.wait_for_function(f"(name) => ({NAME_IN_FOCUS})().startsWith(name)", arg=name)

    def at_the_box(self, name):
        self.page.wait_for_function(
            "(name) => document.activeElement.textContent.replaceAll(' ', '').startsWith(name.replaceAll(' ', ''))",
            arg=name,
        )

    def sheet_of(self, name):
        expect(self.page.get_by_test_id("sheet").get_by_role("heading", level=2)).to_have_text(name)
        expect(self.page.get_by_test_id("sheet").get_by_label("Name")).to_be_focused()

    def back_at(self, name):
        self.press("Escape")
        self.at_the_box(name)

    def run_of(self, name, *values):
        self.press("r")
        expect(self.page.get_by_test_id("sheet").get_by_label("Name")).to_be_focused()
        for value in values:
            self.press("Tab")
            self.type(value)
        self.back_at(name)

    def panel(self, name, bus, main, *moves):
        self.press("a")
        expect(self.page.get_by_role("menu")).to_be_visible()
        self.press(*moves, "Enter")
        self.sheet_of("Panel")
        self.type(name)
        self.press("Tab")
        self.type(bus)
        self.press("Tab", "Tab")
        self.type(main)
        self.back_at(name)

    def test_service_panel_and_outbuilding_from_the_empty_job_to_the_packet(self):
        self.page, self.presses = self.open(self.new_job()), 0
        self.comes_to("Utility at 120/240")
        self.press("Enter")
        self.at_the_box("Meter")
        self.press("a")
        expect(self.page.get_by_role("menu")).to_be_visible()
        self.press("d", "Enter")
        self.sheet_of("Disconnect")
        for value in ("200", "200"):
            self.press("Tab")
            self.type(value)
        self.back_at("Disconnect")
        self.run_of("Disconnect", "5")
        self.panel("House panel", "200", "200")
        self.run_of("House panel", "30")
        self.panel("Garage panel", "125", "60", "ArrowDown")
        self.run_of("Garage panel", "120", "60")
        self.press("2")
        self.comes_to("LevelExisting")
        self.focused("Add a load")
        self.type("EV")
        self.press("Enter")
        self.settled(self.page)
        self.press("Tab", "n", "Tab")
        for mend in ("Fit the bond", "Add two rods", "Add two rods"):
            self.comes_to(mend)
            self.press("Enter")
            self.settled(self.page)
        for asked, answer in [("All as required", "yes")] * 3 + [
            ("Metal water pipe", "absent"),
            ("Metal gas pipe", "absent"),
            ("Steel frame", "absent"),
            ("Bonding terminal", "yes"),
        ]:
            self.focused(asked, within=2)
            self.type(answer)
            self.press("Enter")
            self.settled(self.page)
        expect(self.page.locator("[data-finding]:not([data-outcome=advice])")).to_have_count(0)
        self.press("7")
        self.saved(self.page)
        self.focused("Permit sheet, PDF", within=25)
        with self.page.expect_download() as download:
            self.press("Enter")
        print(f"from the empty job to the packet: {self.presses} presses besides typed text")
        self.assertLessEqual(self.presses, MOST_PRESSES)
        reader = PdfReader(io.BytesIO(download.value.path().read_bytes()))
        text = re.sub(r"\s+", " ", " ".join(page.extract_text() for page in reader.pages))
        for words in ("House panel", "Garage panel", "120 ft"):
            self.assertIn(words, text)
