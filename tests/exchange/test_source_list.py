"""Plates of sources as CSV: the examples that ship, what a shop writes, and its faults by line."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from nelvor.errors import BadInput
from nelvor.exchange.cells import STARTS_A_FORMULA
from nelvor.exchange.source_list import COLUMNS, example_sources, read_sources, write_sources
from nelvor.model.source_plates import MOST_PLATES, SourcePlate
from nelvor.model.things import Source


class SourceLists(unittest.TestCase):
    def test_the_examples_say_that_they_are_made_up_and_come_back_as_written(self):
        examples = example_sources()
        self.assertGreaterEqual(len(examples), 10)
        self.assertEqual({plate.kind for plate in examples}, {"inverter", "battery", "generator"})
        for plate in examples:
            self.assertTrue(plate.name.startswith("Example"))
            self.assertIn("ade up", plate.note)
        self.assertEqual(read_sources(write_sources(examples)), examples)

    def test_every_column_but_the_note_is_a_field_of_a_source_in_a_design(self):
        self.assertEqual(set(COLUMNS) - set(Source.model_fields), {"note"})
        for plate in example_sources():
            Source.model_validate({"id": "x", **plate.model_dump(exclude={"note"})})

    def test_a_list_as_one_types_it(self):
        read = read_sources(
            '\ufeffName, Kind ,Rated kVA,portable,marking\n\nRoof 5,INVERTER,"5,5",,\n\'=Set,generator,7.5,Yes,floating_neutral\n'
        )
        self.assertEqual(
            [(plate.name, plate.kind, plate.rated_kva) for plate in read],
            [("Roof 5", "inverter", 5.5), ("=Set", "generator", 7.5)],
        )
        self.assertEqual((read[1].portable, read[1].marking, read[0].portable), (True, "floating_neutral", None))

    def faults(self, text):
        with self.assertRaises(BadInput) as caught:
            read_sources(text)
        self.assertTrue(all(issue.reason and issue.remedy for issue in caught.exception.issues))
        return [issue.path for issue in caught.exception.issues]

    def test_each_fault_is_told_by_its_line_and_column(self):
        head = "name,kind,rated_kva,portable\n"
        self.assertEqual(
            self.faults(f"{head}A,inverter,-5,\nB,windmill,5,\nC,generator,five,perhaps\n,inverter,,\n"),
            ["line 2.rated_kva", "line 3.kind", "line 4.rated_kva", "line 4.portable", "line 5.name"],
        )
        self.assertEqual(self.faults(f"{head}A,inverter,,\na,inverter,,\n"), ["line 3.name"])
        self.assertEqual(self.faults(f"{head}A,inverter,5,,,\n"), ["line 2"])
        self.assertEqual(self.faults("name,kind,colour\nA,inverter,red\n"), ["line 1"])
        self.assertEqual(self.faults("name\nA\n"), ["line 1"])
        self.assertEqual(self.faults(""), ["line 1"])
        self.assertEqual(self.faults('name,kind\n"A,inverter\n'), [""])
        self.assertEqual(self.faults("x" * 200_001), [""])
        self.assertEqual(self.faults("name,kind\n" + "".join(f"S{n},inverter\n" for n in range(MOST_PLATES + 1))), [""])

    @given(st.text(min_size=1, max_size=40), st.text(max_size=40))
    def test_any_text_comes_back_and_starts_no_formula(self, name, note):
        try:
            plate = SourcePlate(name=name.strip(), kind="inverter", note=note.strip())
        except ValueError:
            return
        if "\0" in name + note:
            return
        text = write_sources([plate])
        self.assertFalse(text.splitlines()[1].startswith(STARTS_A_FORMULA))
        self.assertEqual(read_sources(text), [plate])
