"""A new user's hand on the page: finds things by what they are called, never by ids, and counts what it enters.

An entry is one click, one choice or one completed field.
"""

from __future__ import annotations

import re
from typing import Any

from playwright.sync_api import Locator, Page, expect

from tests.support.browser import act


class Hand:
    """Works on one page. In its second ``round`` it makes another choice wherever two are offered."""

    def __init__(self, page: Page, second: bool = False) -> None:
        self.page = page
        self.second = second
        self.entries = 0
        self.sheet = page.get_by_test_id("sheet")
        self.findings = page.get_by_label("Findings")

    def _entered(self, number: int = 1) -> None:
        self.entries += number
        self.page.wait_for_timeout(60)

    def of(self, choice: Any) -> Any:
        """Return what is chosen this round: a pair holds a choice for each."""
        return choice[self.second] if isinstance(choice, tuple) else choice

    def click(self, what: Locator) -> None:
        """Click something."""
        what.click()
        self._entered()

    def button(self, name: str) -> None:
        """Press a button of this name."""
        self.click(self.page.get_by_role("button", name=name, exact=True).first)

    def tab(self, name: str) -> None:
        """Go to a stage."""
        self.click(self.page.get_by_role("tab", name=name, exact=True))

    def menu(self, button: str, item: str) -> None:
        """Take an act of a menu: two clicks."""
        act(self.page, button, item)
        self._entered(2)

    def box(self, name: str) -> None:
        """Select an enclosure of the drawing by its name."""
        words = r"\s*".join(re.escape(word) for word in name.split())  # a long name stands in two lines
        self.click(self.page.locator("svg [data-place]").filter(has_text=re.compile(rf"^\s*{words}")).first)

    def run_to(self, name: str) -> None:
        """Open the sheet of the run that feeds an enclosure."""
        self.box(name)
        self.button("Sheet of the feeding run")

    def type(self, field: Locator, text: Any) -> None:
        """Complete a field."""
        field.fill(self.of(text))
        field.blur()
        self._entered()

    def fill(self, label: str, text: Any) -> None:
        """Complete a field of the sheet."""
        self.type(self.sheet.get_by_label(label, exact=True).first, text)

    def choose(self, label: str, option: Any) -> None:
        """Choose in a list of the sheet by the words shown."""
        self.pick(self.sheet.get_by_label(label, exact=True).first, self.of(option))

    def pick(self, field: Locator, words: str) -> None:
        """Choose in a list by the words shown."""
        if field.get_attribute("role") == "combobox":
            field.fill(words)
            self.page.get_by_role("listbox").get_by_role("option").first.click()
        else:
            field.select_option(label=words)
        self._entered()

    def answer(self, finding: str, label: str, value: Any) -> None:
        """Answer what a finding asks for, in the finding."""
        asked = self.findings.get_by_role("listitem").filter(has_text=re.compile(finding))
        field = asked.get_by_role("group", name="Answer it here").get_by_label(re.compile(label)).first
        if field.get_attribute("role") == "combobox":
            self.pick(field, self.of(value))
        else:
            field.fill(self.of(value))
            field.press("Enter")
            self._entered()
        expect(field).to_have_count(0)

    def mend(self, words: str) -> None:
        """Take a mend that is offered."""
        self.click(self.findings.get_by_role("button", name=words).first)

    def level(self, name: str) -> None:
        """Go to the loads of a panel."""
        self.click(self.page.get_by_label("Loads", exact=True).get_by_role("button", name=name, exact=True))

    def load(self, kind: Any, amount: Any = None) -> None:
        """Add a load from the catalogue, and its amount where its own will not do."""
        self.pick(self.page.get_by_label("Add a load"), self.of(kind))
        if self.of(amount) is not None:
            self.type(self.page.get_by_label(re.compile("^Amount, ")).last, amount)

    def circuit(self, text: str, poles: str, amperes: str) -> None:
        """Enter a circuit as one reads a door, changing only what does not stand there already."""
        door = self.page.get_by_role("form", name="Enter a circuit")
        self.type(door.get_by_label("What the door says"), text)
        if door.get_by_label("Poles").input_value() != poles:
            self.pick(door.get_by_label("Poles"), poles)
        if door.get_by_label("Amperes").input_value() != amperes:
            self.type(door.get_by_label("Amperes"), amperes)
        door.get_by_label("What the door says").press("Enter")
        self._entered()

    def left(self) -> list[str]:
        """Return what is still found wrong or asked for."""
        found = self.findings.locator("[data-outcome=must_fix], [data-outcome=cannot_tell]")
        return [text.replace("\n", " ") for text in found.all_inner_texts()]
