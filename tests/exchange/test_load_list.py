import csv
import io
import unittest
from typing import get_args

from hypothesis import given
from hypothesis import strategies as st

from nelvor.errors import BadInput
from nelvor.exchange.cells import STARTS_A_FORMULA, as_written, harmless
from nelvor.exchange.loads_csv import COLUMNS, read_loads, write_loads
from nelvor.model.new_loads import NEW_LOADS, UNIT_SPELLINGS, category_of, plain
from nelvor.model.parse import parse_value
from nelvor.model.resolve import resolve
from nelvor.model.vocabulary import AmountUnit, LoadCategory
from tests.support.jobs import changed, orchard, thing


class Cells(unittest.TestCase):
    @given(st.text())
    def test_any_text_comes_back_and_starts_no_formula(self, text):
        self.assertEqual(as_written(harmless(text)), text)
        self.assertFalse(harmless(text).startswith(STARTS_A_FORMULA))


class LoadLists(unittest.TestCase):
    def setUp(self):
        self.document = resolve(parse_value(orchard()), "proposed")

    def read(self, text, **options):
        return read_loads(text, self.document, **options)

    def refused(self, text, **options):
        with self.assertRaises(BadInput) as caught:
            self.read(text, **options)
        for issue in caught.exception.issues:
            self.assertTrue(issue.reason and issue.remedy)
        return {issue.path: issue.code for issue in caught.exception.issues}

    def test_a_round_trip_loses_nothing_but_the_ids(self):
        again = self.read(write_loads(self.document))
        self.assertEqual(
            [load.model_dump(exclude={"id", "proposed"}) for load in again],
            [load.model_dump(exclude={"id", "proposed"}) for load in self.document.loads],
        )
        self.assertEqual({load.id for load in again} & {load.id for load in self.document.loads}, set())

    def test_a_circuit_goes_by_the_space_of_its_breaker(self):
        (load,) = self.read("circuit,name,amount\n13,Dishwasher,1200\n", default_panel="house-panel")
        self.assertEqual(load.device_id, "h13")
        self.assertEqual(
            self.refused("circuit,amount\n31,5\n", default_panel="house-panel"), {"line 2, circuit": "unknown_name"}
        )

    def test_a_name_that_looks_like_a_formula_is_neutralised_and_comes_back(self):
        job = changed(orchard(), lambda job: thing(job, "loads", job["loads"][0]["id"]).update(name="=1+1"))
        document = resolve(parse_value(job), "proposed")
        text = write_loads(document)
        row = next(csv.DictReader(io.StringIO(text)))
        self.assertEqual(row["name"], "'=1+1")
        self.assertEqual(read_loads(text, document)[0].name, "=1+1")

    def test_rows_pasted_from_a_spreadsheet(self):
        loads = self.read(
            "Name\tCategory\tAmount\tUnit\tVolts\tContinuous\nFan\tmotor\t1.5\thp\t240\tno\n\nSign\tlighting\t1,2\tkVA\t120\tyes\n",
            default_panel="barn-panel",
            default_state="proposed",
        )
        self.assertEqual(
            [(load.name, load.amount, load.unit) for load in loads], [("Fan", 1.5, "hp"), ("Sign", 1.2, "kVA")]
        )
        self.assertEqual({load.standing for load in loads}, {"added"})
        self.assertTrue(loads[1].continuous)

    def test_a_list_is_read_in_the_words_of_the_trade(self):
        text = (
            "Item,Size,Qty,Voltage,On\n"
            "Living space,1800 sq ft,,,\nSmall appliance,2,,,\nElectric range,12 kW,1,240 V,\n"
            "Water heater 2,4500 watts,,240,\nEV charger,40A,,240V,L1-L2\nDishwasher,1200,,120,L1\nPotter's wheel,700,,120,l2\n"
        )
        loads = self.read(text, default_panel="house-panel")
        self.assertEqual(
            [(load.category, load.amount, load.unit, load.volts, load.connection) for load in loads],
            [
                ("lighting_area", 1800, "ft2", None, None),
                ("small_appliance", 2, "circuits", None, None),
                ("range", 12, "kW", 240, None),
                ("water_heater", 4500, "W", 240, None),
                ("vehicle_charging", 40, "A", 240, "L1-L2"),
                ("fastened_appliance", 1200, "VA", 120, "L1-N"),
                ("other", 700, "VA", 120, "L2-N"),
            ],
        )

    def test_a_kind_goes_by_its_column_before_the_name_and_an_unknown_word_is_told(self):
        (load,) = self.read("name,kind,amount\nRange,Other,500\n", default_panel="house-panel")
        self.assertEqual(load.category, "other")
        told = self.refused("name,kind,amount\nRange,flux,500\nRange,,5 furlongs\n", default_panel="house-panel")
        self.assertEqual(told, {"line 2, category": "bad_value", "line 3, unit": "bad_value"})

    def test_a_small_number_of_what_is_told_in_kilowatts_is_not_taken_for_volt_amperes(self):
        text = "name,amount\nRange,12\nMotor,1.5\nEV charger,40\nRange,100\nDishwasher,12\n"
        told = self.refused(text, default_panel="house-panel")
        self.assertEqual(told, {f"line {line}, unit": "missing" for line in (2, 3, 4)})

    def test_a_fraction_without_a_unit_stays_one_number(self):
        loads = self.read('name,amount,unit\nMotor,1.5,hp\nLamp,62.5,\nSign,"1,200.5",\n', default_panel="house-panel")
        self.assertEqual([(load.amount, load.unit) for load in loads], [(1.5, "hp"), (62.5, "VA"), (1200.5, "VA")])

    def test_every_kind_and_unit_has_words_and_each_word_stands_for_one(self):
        self.assertEqual(set(NEW_LOADS), set(get_args(LoadCategory)))
        self.assertEqual(set(UNIT_SPELLINGS), set(get_args(AmountUnit)))
        words = [
            (plain(word), kind)
            for kind, new in NEW_LOADS.items()
            for word in (kind, new.label, new.name, *new.spellings)
        ]
        for word, kind in words:
            self.assertEqual({other for known, other in words if known == word}, {kind}, word)
            self.assertEqual(category_of(word), kind)

    def test_the_only_household_is_meant_in_its_house_unless_the_list_tells_of_households(self):
        first, second = self.read("panel,name,amount\nHouse panel,Range,8000\nBarn panel,Fan,700\n")
        self.assertEqual((first.dwelling_unit_id, second.dwelling_unit_id), (self.document.dwelling_units[0].id, None))
        (told,) = self.read("panel,name,amount,dwelling_unit\nHouse panel,Range,8000,\n")
        self.assertIsNone(told.dwelling_unit_id)

    def test_loads_of_one_name_have_ids_of_their_own(self):
        text = "name,panel,amount\n" + "lamp,house-panel,10\n" * 300
        ids = [load.id for load in read_loads(text, parse_value(orchard()))]
        self.assertEqual((ids[0], ids[1], ids[299], len(set(ids))), ("lamp", "lamp-2", "lamp-300", 300))

    def test_panels_and_units_go_by_name_or_id(self):
        loads = self.read("panel,amount,dwelling_unit\nBarn panel,100,\nhouse-panel,200,Household\n")
        self.assertEqual([load.enclosure_id for load in loads], ["barn-panel", "house-panel"])
        self.assertTrue(loads[1].dwelling_unit_id)

    def test_every_fault_is_told_by_line_and_column(self):
        told = self.refused(
            "panel,name,category,amount,unit,quantity,continuous\n"
            "Nowhere,a,other,1,VA,1,no\n"
            "Barn panel,b,rocket,1,VA,1,no\n"
            "Barn panel,c,other,many,VA,1,no\n"
            "Barn panel,d,other,-1,VA,1,no\n"
            "Barn panel,e,other,1,VA,1.5,no\n"
            "Barn panel,f,other,1,VA,1,perhaps\n"
            ",g,other,1,VA,1,no\n"
        )
        self.assertEqual(
            set(told),
            {
                "line 2, panel",
                "line 3, category",
                "line 4, amount",
                "line 5, amount",
                "line 6, quantity",
                "line 7, continuous",
                "line 8, panel",
            },
        )

    def test_what_is_no_list(self):
        self.refused("")
        self.refused("colour,amount\nred,1\n")
        self.refused("amount,amount\n1,1\n")
        self.refused("name\nx\n")
        self.refused('amount\n"1\n')
        self.refused("amount,unit\n1,VA,2\n", default_panel="barn-panel")

    def test_the_columns_are_those_of_the_model(self):
        named = {"panel", "dwelling_unit", "circuit", "state"}
        self.assertEqual(set(COLUMNS) - named - set(type(self.document.loads[0]).model_fields), set())
