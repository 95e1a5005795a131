"""The hand-worked cases against the rules, and proof that a wrong table cell would be noticed."""

import tomllib
import unittest
from collections import Counter
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

from nelvor.clauses import bonding_jumper, electrode_conductor, grounding_conductor
from nelvor.clauses import cover as burial
from nelvor.clauses import device_rating as device
from nelvor.clauses import raceway_fill as raceway
from nelvor.clauses import voltage_drop as drop
from nelvor.clauses.ampacity import Circumstances, final_ampacity
from nelvor.clauses.calculated_load import LevelLoad, calculate
from nelvor.clauses.hot_conductors import Demand, smallest_hots
from nelvor.clauses.load_kind import tally_of
from nelvor.clauses.next_size_up import largest_device
from nelvor.errors import CannotCompute
from nelvor.model.things import Amendment, Load
from nelvor.rulebook.rules import Rules, rulebook
from nelvor.working import Figure, Recorder, exact

CASES = tomllib.loads((Path(__file__).parent / "cases.toml").read_text())["case"]
EDITIONS = ("2017", "2020", "2023")


def circumstances(given: dict, material_key: str = "material") -> Circumstances:
    return Circumstances(
        material=given[material_key],
        insulation="XHHW-2",
        insulation_c=90,
        termination_c=given["termination_c"],
        sets=given.get("sets", 1),
        ambient_c=exact(given.get("ambient_c", 30)),
        current_carrying=given.get("current_carrying", 2),
        nipple=given.get("nipple", False),
        dwelling_share=given.get("dwelling", False),
    )


def dwelling(given: dict, rules: Rules) -> LevelLoad:
    """Read lines such as ``range 12 kW x2`` and ``lighting 60000 VA 120 V`` as loads of one dwelling unit."""
    loads = []
    for number, line in enumerate(given["loads"]):
        words = line.split()
        category, amount, unit = words[0], float(words[1]), words[2]
        space = category if category in ("living", "garage") else None
        quantity = next((int(word[1:]) for word in words if word.startswith("x")), 1)
        volts = float(words[words.index("V") - 1]) if "V" in words else 240.0
        loads.append(
            Load(
                id=f"load{number}",
                enclosure_id="panel",
                category="lighting_area" if space else category,
                amount=amount,
                unit=unit,
                quantity=quantity,
                volts=volts,
                space_kind=space,
                dwelling_unit_id="unit",
            )
        )
    return calculate("panel", tally_of(loads, "split_120_240", rules), "split_120_240", rules)


def plain(figure: Figure) -> str:
    """The number without the rounding of the screen."""
    return f"{float(figure.number):.9f}"


class Answers:
    """One method for each question that a case may ask; each returns the answer as text."""

    def __init__(self, rules: Rules) -> None:
        self.rules = rules
        self.recorder = Recorder(rules)

    def number(self, value: float, unit: str = "A"):
        return self.recorder.given("given", value, unit, "case")

    def ampacity(self, given: dict) -> str:
        return final_ampacity(self.recorder, given["size"], circumstances(given))[1].text

    def device(self, given: dict) -> str:
        return device.smallest_device(self.recorder, self.number(given["design_a"])).text

    def next_size_up(self, given: dict) -> str:
        found = largest_device(self.recorder, self.number(given["ampacity_a"]), not given.get("tap", False))
        return found.text if found else "none"

    def hots(self, given: dict) -> str:
        demand = Demand(
            self.number(given["load_a"]),
            self.number(given.get("design_a", given["load_a"])),
            self.number(given["device_a"]),
        )
        return smallest_hots(self.recorder, circumstances(given), demand).size

    def egc(self, given: dict) -> str:
        rated = self.number(given["device_a"])
        if "hots" not in given:
            return grounding_conductor.by_device(self.recorder, rated, given["material"]).text
        return grounding_conductor.grounding_conductor(
            self.recorder, rated, given["material"], given["hots"], given["smallest"]
        ).text

    def electrode_conductor(self, given: dict) -> str:
        return electrode_conductor.electrode_conductor(
            self.recorder, given["hots"], 1, given["material"], "copper"
        ).text

    def rods(self, given: dict) -> str:
        full = electrode_conductor.electrode_conductor(self.recorder, given["hots"], 1, given["material"], "copper")
        return electrode_conductor.to_rods(self.recorder, full, "copper").text

    def jumper(self, given: dict) -> str:
        return bonding_jumper.supply_side_jumper(
            self.recorder, given["hots"], given.get("sets", 1), given["material"], "copper"
        ).text

    def drop(self, given: dict) -> str:
        case = drop.DropCase(
            method=given["method"],
            material=given["material"],
            sets=given.get("sets", 1),
            length_ft=exact(given["length_ft"]),
            load=self.number(given["load_a"]),
            imbalance_a=exact(given.get("imbalance_a", 0)),
            hot_size=given["hots"],
            neutral_size=given.get("neutral"),
            base_volts=Fraction(120),
            power_factor=exact(given.get("power_factor", 1)),
            by_resistance=given.get("by_resistance", False),
        )
        return plain(drop.run_drop_percent(self.recorder, case))

    def raceway(self, given: dict) -> str:
        area = raceway.conductors_area(self.recorder, given["insulation"], tuple(given["sizes"]))
        length = self.number(given.get("length_in", 1200), "in")
        allowed = raceway.allowed_fill(self.recorder, len(given["sizes"]), length)
        return raceway.smallest_raceway(self.recorder, given["method"], area, allowed).trade_size

    def cover(self, given: dict) -> str:
        if "local_in" in given:
            local = Amendment(
                id="local", key="burial_cover_in", action="at_least", value=float(given["local_in"]), unit="in"
            )
            self.recorder = Recorder(replace(self.rules, amendments=(local,)))
        return burial.cover_needed(self.recorder, given["method"], given["location"]).text

    def dwelling_va(self, given: dict) -> str:
        return plain(dwelling(given, self.rules).demand_va)

    def dwelling_neutral_a(self, given: dict) -> str:
        return plain(dwelling(given, self.rules).neutral)

    def dwelling_leg_a(self, given: dict) -> str:
        return plain(dwelling(given, self.rules).worst.actual)

    def dwelling_design_a(self, given: dict) -> str:
        return plain(dwelling(given, self.rules).worst.design)

    def section(self, given: dict) -> str:
        return self.rules.section(given["clause"])


def same(found: str, wanted: str) -> bool:
    """Sizes and sections to the letter; numbers to the rounding of the printed result."""
    if "/" in found + wanted:
        return found == wanted
    try:
        left, right = Fraction(found), Fraction(wanted)
    except ValueError:
        return found == wanted
    digits = len(wanted.partition(".")[2])
    return abs(left - right) <= Fraction(1, 2 * 10**digits)


def failing(rules_of: dict[str, Rules]) -> list[str]:
    """Return the names of the cases, with edition, that do not come out as worked by hand."""
    failed = []
    for case in CASES:
        for edition in EDITIONS:
            wanted = case["expect"] if isinstance(case["expect"], str) else case["expect"][edition]
            try:
                found = getattr(Answers(rules_of[edition]), case["question"])(case["given"])
            except CannotCompute as reason:
                found = str(reason)
            if not same(found, wanted):
                failed.append(f"{case['name']} ({edition}): found {found}, worked by hand {wanted}: {case['working']}")
    return failed


class HandWorkedCases(unittest.TestCase):
    def test_every_case_comes_out_in_every_edition(self):
        self.assertEqual(failing({edition: rulebook().resolve(edition) for edition in EDITIONS}), [])

    def test_there_are_enough_of_them_and_each_shows_its_working(self):
        self.assertGreaterEqual(len(CASES), 25)
        self.assertEqual([case["name"] for case in CASES if not case["working"] or not case["source"]], [])
        self.assertEqual([name for name, times in Counter(case["name"] for case in CASES).items() if times > 1], [])
        by_edition = [case for case in CASES if isinstance(case["expect"], dict)]
        differing = [case for case in by_edition if len(set(case["expect"].values())) > 1]
        self.assertGreaterEqual(len(differing), 10)


MUTATED = [
    ("ampacity", {"size": "1/0"}, "al75"),
    ("ampacity", {"size": "3"}, "cu90"),
    ("ampacity", {"size": "3"}, "cu60"),
    ("ambient_factor", {"ambient_max_c": "50"}, "f90"),
    ("bundling_percent", {"ccc_min": "7"}, "percent"),
    ("conductor_area", {"insulation": "XHHW", "size": "4/0"}, "area_in2"),
    ("raceway", {"kind": "RMC", "trade_size": "1-1/4"}, "area_in2"),
    ("fill", {"conductors": "nipple"}, "percent"),
    ("conductor_dc", {"size": "6"}, "area_cmil"),
    ("conductor_dc", {"size": "4/0"}, "dc_al_ohm_kft"),
    ("conductor_ac", {"size": "1/0"}, "r_al_pvc"),
    ("conductor_ac", {"size": "1/0"}, "xl_pvc_al"),
    ("burial", {"location": "general"}, "pvc_in"),
    ("lighting_demand", {"occupancy": "dwelling", "up_to_va": "120000"}, "percent"),
    ("dryer_demand", {"dryers_min": "12"}, "base_percent"),
    ("range_demand", {"appliances_min": "26"}, "col_c_base_kw"),
    ("small_conductor", {"material": "cu", "size": "10"}, "max_ocpd_a"),
]
MUTATED_SIZES = [
    ("grounding_conductor", {"ocpd_a": "60"}, "al", "6"),
    ("electrode_conductor", {"cu_service_max": "3/0"}, "gec_cu", "2"),
    ("bonding_jumper", {"cu_service_max": "1100"}, "cu", "3/0"),
]


class WrongCellsAreNoticed(unittest.TestCase):
    def mutated(self, name: str, key: dict[str, str], column: str, value: str | None) -> dict[str, Rules]:
        book = rulebook()
        table = book.tables[name]
        rows = []
        for row in table.rows:
            if all(row[field] == cell for field, cell in key.items()):
                new = value or str(Fraction(row[column]) * Fraction(3, 2))
                row = {**row, column: new}
            rows.append(row)
        self.assertNotEqual(tuple(rows), table.rows, f"{name} {key} names no row")
        changed = replace(book, tables={**book.tables, name: replace(table, rows=tuple(rows))})
        return {edition: changed.resolve(edition) for edition in EDITIONS}

    def test_a_changed_cell_fails_a_case(self):
        for name, key, column, value in [*[(*cell, None) for cell in MUTATED], *MUTATED_SIZES]:
            with self.subTest(f"{name} {key} {column}"):
                self.assertTrue(failing(self.mutated(name, key, column, value)))
