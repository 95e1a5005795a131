"""What holds for every quick figure, whatever it answers."""

import json
import unittest

from hypothesis import given, settings
from hypothesis import strategies as st
from jsonschema import Draft202012Validator

from nelvor.errors import BadInput, CannotCompute, MissingFigure, NotFound, UnknownEdition
from nelvor.figures import all_figures, find_figure, work_out
from nelvor.figures.answer import answer_out
from nelvor.model.vocabulary import SIZES
from nelvor.rulebook.rules import rulebook
from nelvor.working import Recorder
from nelvor.working.recorder import replay

ASKED_FOR = {
    "ampacity",
    "conductor",
    "device",
    "grounding-conductor",
    "electrode-conductor",
    "bonding-jumper",
    "neutral",
    "voltage-drop",
    "raceway-fill",
    "cover",
    "conduit-body",
    "pull-box",
    "bending-space",
    "tap",
    "transformer-secondary",
    "motor-feeder",
    "dwelling-standard",
    "dwelling-optional",
    "existing-dwelling",
    "multifamily",
    "measured-demand",
    "range-demand",
    "dryer-demand",
    "panel-rating",
    "standard-size",
}
EDITIONS = ("2017", "2020", "2023")


class EveryFigure(unittest.TestCase):
    def each(self):
        for figure in all_figures().values():
            with self.subTest(figure.name):
                yield figure

    def test_each_figure_asked_for_is_there(self):
        self.assertLessEqual(ASKED_FOR, set(all_figures()))

    def test_the_schema_is_sound_and_takes_the_example(self):
        for figure in self.each():
            schema = figure.schema()
            Draft202012Validator.check_schema(schema)
            Draft202012Validator(schema).validate(figure.example)
            self.assertEqual(next(iter(schema["properties"])), "edition")
            self.assertIn("edition", schema["required"])

    def test_every_property_has_a_title(self):
        for figure in self.each():
            schema = figure.schema()
            for part in [schema, *schema.get("$defs", {}).values()]:
                for name, facts in part.get("properties", {}).items():
                    self.assertIn("title", facts, name)

    def test_the_example_is_answered_in_every_edition_with_sections_and_a_signature(self):
        for figure in self.each():
            for edition in EDITIONS:
                answer = work_out(figure.name, {**figure.example, "edition": edition})
                self.assertTrue(answer.value and answer.sections and answer.steps)
                self.assertEqual(answer.signature.edition, edition)
                self.assertEqual(answer.steps[answer.step].number, answer.step)
                json.dumps(answer.model_dump(mode="json"), allow_nan=False)

    def test_the_working_replays(self):
        for figure in self.each():
            recorder = Recorder(rulebook().resolve("2023"))
            inputs = figure.inputs.model_validate(figure.example)
            answer_out(figure.name, figure.title, figure.work(inputs, recorder), recorder)
            self.assertEqual(replay(recorder.steps), [])

    def test_the_edition_is_never_assumed(self):
        for figure in self.each():
            without = {key: value for key, value in figure.example.items() if key != "edition"}
            with self.assertRaises(BadInput) as caught:
                work_out(figure.name, without)
            self.assertIn("edition", [issue.path for issue in caught.exception.issues])
            with self.assertRaises(UnknownEdition):
                work_out(figure.name, {**figure.example, "edition": "1999"})

    def test_a_wrong_type_of_any_input_is_told_by_name_with_a_remedy(self):
        for figure in self.each():
            for name in figure.schema()["properties"]:
                for wrong in ({"a": 1}, "no such word", True if name.endswith("_a") else ["x"]):
                    if wrong == "no such word" and name == "edition":
                        continue
                    with self.assertRaises(BadInput) as caught:
                        work_out(figure.name, {**figure.example, name: wrong})
                    issues = [issue for issue in caught.exception.issues if issue.path.split(".")[0] == name]
                    self.assertTrue(issues, (name, wrong))
                    self.assertTrue(all(issue.reason and issue.remedy for issue in issues))

    def test_numbers_out_of_range_unknown_fields_and_no_object(self):
        for figure in self.each():
            for name, facts in figure.schema()["properties"].items():
                options = facts.get("anyOf", [facts])
                if any(option.get("type") in ("number", "integer") for option in options):
                    with self.assertRaises(BadInput):
                        work_out(figure.name, {**figure.example, name: -1_000_000})
            for value in ({**figure.example, "colour": "red"}, [], None, "text", 5):
                with self.assertRaises(BadInput):
                    work_out(figure.name, value)

    def test_an_unknown_figure_names_the_known_ones(self):
        with self.assertRaises(NotFound) as caught:
            find_figure("horoscope")
        self.assertIn("voltage-drop", str(caught.exception))


class Laws(unittest.TestCase):
    """What must hold whatever the numbers are."""

    def number(self, name: str, of: str | None = None, **inputs) -> float:
        answer = work_out(name, {"edition": "2023", **inputs})
        figure = answer.others[of] if of else answer
        return figure.number

    @given(st.floats(1, 200), st.floats(10, 2000), st.floats(0, 3000))
    def test_a_longer_run_never_drops_less(self, load, length, more):
        common = {"load_a": load, "size": "1/0", "material": "aluminum"}
        short = self.number("voltage-drop", "of this run", length_ft=length, **common)
        self.assertGreaterEqual(self.number("voltage-drop", "of this run", length_ft=length + more, **common), short)

    @settings(deadline=None)
    @given(st.floats(1, 300), st.floats(0, 100), st.sampled_from(["copper", "aluminum"]))
    def test_a_bigger_load_never_gets_a_smaller_conductor_or_device(self, load, more, material):
        def chosen(amperes):
            return work_out("conductor", {"edition": "2023", "noncontinuous_a": amperes, "material": material})

        small, large = chosen(load), chosen(load + more)
        self.assertGreaterEqual(SIZES.index(large.value), SIZES.index(small.value))
        self.assertGreaterEqual(large.others["device"].number, small.others["device"].number)

    @given(st.sampled_from(SIZES), st.floats(-10, 85), st.floats(0, 40), st.integers(1, 40), st.integers(0, 20))
    def test_heat_and_company_never_raise_an_ampacity(self, size, ambient, warmer, count, more):
        def amperes(degrees, together):
            try:
                return self.number("ampacity", size=size, ambient_c=min(degrees, 85.0), current_carrying=together)
            except MissingFigure:
                return 0.0

        self.assertLessEqual(amperes(ambient + warmer, count + more), amperes(ambient, count))

    @given(st.floats(1, 5900), st.floats(0, 100))
    def test_a_larger_device_never_has_a_smaller_grounding_conductor(self, device, more):
        def size(amperes):
            found = work_out("grounding-conductor", {"edition": "2023", "device_a": amperes})
            return SIZES.index(found.value)

        self.assertGreaterEqual(size(device + more), size(device))

    @given(st.integers(1, 60), st.floats(1.8, 26))
    def test_one_more_range_never_lowers_the_demand_of_large_ranges(self, pieces, rating):
        def demand(count):
            try:
                return self.number("range-demand", appliances=[{"kw": max(rating, 8.8), "pieces": count}])
            except CannotCompute:
                return 0.0

        self.assertGreaterEqual(demand(pieces + 1), demand(pieces))

    @given(st.floats(100, 20_000), st.floats(0, 5000))
    def test_more_area_never_means_less_load(self, area, more):
        def load(name, ft2):
            return self.number(name, areas=[{"ft2": ft2}])

        for name in ("dwelling-standard", "dwelling-optional", "existing-dwelling"):
            self.assertGreaterEqual(load(name, area + more), load(name, area))
