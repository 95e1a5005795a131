import csv
import io
import unittest

from hypothesis import given
from hypothesis import strategies as st

from nelvor.errors import BadInput
from nelvor.exchange.cells import STARTS_A_FORMULA, as_written, harmless
from nelvor.exchange.loads_csv import COLUMNS, read_loads, write_loads
from nelvor.model.parse import parse_value
from nelvor.model.resolve import resolve
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
