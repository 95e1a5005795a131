import csv
import json
import tempfile
import unittest
from fractions import Fraction
from pathlib import Path

from nelvor.errors import MissingFigure, RulebookBroken, UnknownEdition
from nelvor.model.things import Amendment
from nelvor.model.vocabulary import SIZES
from nelvor.rulebook.rules import DATA, NOT_VERIFIED, rulebook
from nelvor.rulebook.table import read_table
from nelvor.working import Recorder

EDITIONS = ("2017", "2020", "2023")


class Editions(unittest.TestCase):
    def test_an_edition_is_named_and_never_assumed(self):
        with self.assertRaises(UnknownEdition) as caught:
            rulebook().resolve("2026")
        self.assertEqual(caught.exception.known, list(EDITIONS))

    def test_a_section_known_in_one_edition_only_is_not_lent_to_another(self):
        self.assertEqual(rulebook().resolve("2017").section("emergency_disconnect"), NOT_VERIFIED)
        self.assertEqual(rulebook().resolve("2017").section("building_emergency_disconnect"), NOT_VERIFIED)

    def test_a_table_of_later_editions_is_missing_in_earlier_ones(self):
        with self.assertRaises(MissingFigure):
            rulebook().resolve("2017").table("dwelling_table")
        self.assertEqual(rulebook().resolve("2020").row("dwelling_table", "200")["al"], "4/0")

    def test_amendments_that_do_not_fit_are_set_aside(self):
        def made(**values):
            return Amendment(id="a", **values)

        rules = rulebook().resolve(
            "2023",
            [
                made(key="burial_cover_in", action="at_least", value=24.0),
                made(key="burial_cover_in", action="at_least"),
                made(key="material_aluminum", action="at_least", value=1.0),
                made(key="nothing", action="forbid"),
            ],
        )
        self.assertEqual((len(rules.amendments), len(rules.amendments_not_understood)), (1, 3))


class TablesAddedToTheSharedOnes(unittest.TestCase):
    """Corners of the tables that were not handed to us, and the constants of the optional methods."""

    def cell(self, edition, name, key, column):
        return rulebook().resolve(edition).cell(name, key, column)

    def test_unit_lighting_loads_are_printed_differently_in_2017(self):
        for occupancy, of_2017, later in (
            ("office", "3.5", "1.3"),
            ("store", "3", "1.9"),
            ("warehouse", "0.25", "1.2"),
        ):
            self.assertEqual(self.cell("2017", "unit_load", (occupancy,), "va_per_ft2"), Fraction(of_2017))
            for edition in ("2020", "2023"):
                self.assertEqual(self.cell(edition, "unit_load", (occupancy,), "va_per_ft2"), Fraction(later))

    def test_lighting_slices_of_each_occupancy_fall_and_end_open(self):
        for edition in EDITIONS:
            rules = rulebook().resolve(edition)
            for occupancy in ("dwelling", "hotel_motel", "warehouse"):
                slices = rules.lighting_slices(occupancy)
                shares = [Fraction(row["percent"]) for row in slices]
                self.assertEqual(shares, sorted(shares, reverse=True))
                self.assertEqual(slices[-1]["up_to_va"], "")

    def test_an_occupancy_that_an_edition_does_not_name_is_an_error(self):
        self.assertTrue(rulebook().resolve("2017").lighting_slices("hospital"))
        with self.assertRaises(MissingFigure):
            rulebook().resolve("2023").lighting_slices("hospital")

    def test_kitchen_demand(self):
        rules = rulebook().resolve("2023")
        found = [rules.band("kitchen_demand", Fraction(pieces))["percent"] for pieces in (1, 2, 3, 4, 5, 6, 60)]
        self.assertEqual(found, ["100", "100", "90", "80", "70", "65", "65"])

    def test_every_constant_holds_for_each_edition_it_names_and_is_a_number_or_a_size(self):
        for entry in rulebook().parameters:
            with self.subTest(entry.key):
                self.assertTrue(entry.source and entry.editions)
                if entry.unit == "AWG":
                    self.assertIn(entry.value, SIZES)
                else:
                    Fraction(entry.value)

    def test_every_constant_of_the_load_methods_is_held_in_every_edition(self):
        for edition in EDITIONS:
            rules = rulebook().resolve(edition)
            for key in ("optional_first_va", "existing_first_va", "measured_factor", "receptacle_va", "tap_25ft_ratio"):
                self.assertGreater(Fraction(rules.parameter(key).value), 0)


class Gaps(unittest.TestCase):
    """A missing figure is an error that says which figure, which edition and what exists."""

    def setUp(self):
        self.rules = rulebook().resolve("2023")

    def test_a_size_missing_from_a_table(self):
        with self.assertRaises(MissingFigure) as caught:
            self.rules.cell("conductor_ac", ("700",), "r_cu_pvc")
        self.assertIn("700", caught.exception.reason)
        self.assertIn("2023", caught.exception.reason)
        self.assertIn("750", caught.exception.remedy)

    def test_a_blank_cell(self):
        with self.assertRaises(MissingFigure):
            self.rules.cell("ampacity", ("14",), "al75")

    def test_outside_a_band(self):
        recorder = Recorder(self.rules)
        with self.assertRaises(MissingFigure):
            recorder.band("ambient", "ambient_factor", recorder.given("t", 86, "°C", ""), "f90")
        with self.assertRaises(MissingFigure):
            recorder.band("ambient", "ambient_factor", recorder.given("t", 60, "°C", ""), "f60")
        with self.assertRaises(MissingFigure):
            self.rules.band("grounding_conductor", Fraction(6001))

    def test_an_unknown_constant(self):
        with self.assertRaises(MissingFigure):
            self.rules.parameter("no_such_constant")


class TablesAsTables(unittest.TestCase):
    """Corners, order and consistency of the figures."""

    def setUp(self):
        self.rules = rulebook().resolve("2023")

    def column(self, name, column):
        return [Fraction(row[column]) for row in self.rules.table(name).rows if row[column]]

    def test_ampacities_rise_with_size_and_temperature(self):
        for metal in ("cu", "al"):
            for degrees in (60, 75, 90):
                values = self.column("ampacity", f"{metal}{degrees}")
                self.assertEqual(values, sorted(values))
            for row in self.rules.table("ampacity").rows:
                across = [Fraction(row[f"{metal}{degrees}"]) for degrees in (60, 75, 90) if row[f"{metal}{degrees}"]]
                self.assertEqual(across, sorted(across))

    def test_corners_of_the_ampacity_table(self):
        corners = {
            ("14", "cu60"): 15,
            ("14", "cu90"): 25,
            ("12", "al60"): 15,
            ("2000", "cu90"): 750,
            ("2000", "al90"): 630,
        }
        for (size, column), value in corners.items():
            self.assertEqual(self.rules.cell("ampacity", (size,), column), value)

    def test_sizes_of_the_document_are_those_of_table_8_in_order(self):
        self.assertEqual([row["size"] for row in self.rules.table("conductor_dc").rows], list(SIZES))
        areas = self.column("conductor_dc", "area_cmil")
        self.assertEqual(areas, sorted(areas))

    def test_copper_resists_less_than_aluminum_and_falls_with_area(self):
        copper = self.column("conductor_dc", "dc_cu_uncoated_ohm_kft")
        aluminum = self.column("conductor_dc", "dc_al_ohm_kft")
        self.assertEqual(copper, sorted(copper, reverse=True))
        self.assertEqual(aluminum, sorted(aluminum, reverse=True))
        self.assertTrue(all(left < right for left, right in zip(copper, aluminum, strict=True)))

    def test_areas_agree_with_diameters(self):
        for name, diameter, area in (("conductor_area", "od_in", "area_in2"), ("raceway", "id_in", "area_in2")):
            for row in self.rules.table(name).rows:
                worked = 3.14159265 * float(row[diameter]) ** 2 / 4
                self.assertAlmostEqual(worked, float(row[area]), delta=0.006 * worked + 0.0006, msg=str(row))

    def test_bare_stranded_conductors_take_a_little_more_than_their_metal(self):
        """Between strands lies air: a quarter to two fifths more than the circular mils, and never less than 14 AWG's."""
        areas = self.column("bare_conductor", "area_in2")
        self.assertEqual(areas, sorted(areas))
        for row in self.rules.table("bare_conductor").rows:
            metal = float(self.rules.cell("conductor_dc", (row["size"],), "area_cmil")) * 3.14159265 / 4 / 1_000_000
            worked = 3.14159265 * float(row["od_in"]) ** 2 / 4
            self.assertTrue(1.15 <= float(row["area_in2"]) / metal <= 1.4, row)
            self.assertAlmostEqual(worked, float(row["area_in2"]), delta=0.006 * worked + 0.0007, msg=str(row))

    def test_a_bare_conductor_takes_less_than_an_insulated_one(self):
        for row in self.rules.table("bare_conductor").rows:
            insulated = self.rules.table("conductor_area").find(("XHHW", row["size"]))
            if insulated is not None:
                self.assertLess(Fraction(row["area_in2"]), Fraction(insulated["area_in2"]))

    def test_volumes_in_boxes_rise_with_the_size(self):
        volumes = self.column("box_volume", "volume_in3")
        self.assertEqual((volumes, volumes[0], volumes[-1]), (sorted(volumes), Fraction(3, 2), 5))
        with self.assertRaises(MissingFigure):
            self.rules.cell("box_volume", ("4",), "volume_in3")

    def test_ratings_for_several_receptacles_are_standard_ratings(self):
        ratings = self.rules.multi_outlet_ratings()
        self.assertEqual(ratings, (15, 20, 30, 40, 50))
        self.assertLessEqual(set(ratings), set(self.rules.standard_ratings()))

    def test_shares_of_a_farm_fall_with_the_place_and_end_open(self):
        shares = [self.rules.band("farm_total", Fraction(place))["percent"] for place in (1, 2, 3, 4, 40)]
        self.assertEqual(shares, ["100", "75", "65", "50", "50"])

    def test_ambient_factors_follow_their_formula(self):
        for row in self.rules.table("ambient_factor").rows:
            for degrees in (60, 75, 90):
                if row[f"f{degrees}"] and Fraction(row["ambient_max_c"]) > 30:
                    worked = ((degrees - float(row["ambient_max_c"])) / (degrees - 30)) ** 0.5
                    self.assertAlmostEqual(worked, float(row[f"f{degrees}"]), delta=0.0075)

    def test_the_dwelling_table_agrees_with_83_percent_at_75_degrees(self):
        for row in self.rules.table("dwelling_table").rows:
            for metal in ("cu", "al"):
                need = Fraction(row["rating_a"]) * Fraction("0.83")
                self.assertGreaterEqual(self.rules.cell("ampacity", (row[metal],), f"{metal}75"), need)
                smaller = SIZES[SIZES.index(row[metal]) - 1]
                self.assertLess(self.rules.cell("ampacity", (smaller,), f"{metal}75"), need)

    def test_every_table_has_a_pedigree(self):
        manifest = json.loads((DATA / "manifest.json").read_text())
        files = {entry["file"] for entry in manifest["tables"]}
        apart = {"citations.csv", "parameters.csv", "amendments.csv"}
        self.assertEqual(files | apart, {path.name for path in DATA.glob("*.csv")})
        for table in rulebook().tables.values():
            self.assertTrue(table.clause and table.editions, table.name)
            self.assertTrue(rulebook().citations[table.clause])

    def test_every_constant_names_its_source_and_clause(self):
        with (DATA / "parameters.csv").open() as stream:
            for row in csv.DictReader(stream):
                self.assertTrue(row["source"] and row["clause"] and row["editions"], row)


class BrokenData(unittest.TestCase):
    """The loader refuses data files that contradict themselves, naming file and line."""

    def read(self, text: str, **entry):
        with tempfile.TemporaryDirectory() as folder:
            (Path(folder) / "t.csv").write_text(text)
            return read_table(
                Path(folder), {"name": "t", "file": "t.csv", "clause": "c", "unit": "A", "editions": ["2023"], **entry}
            )

    def test_a_good_file_is_read(self):
        self.assertEqual(len(self.read("size,a\n1,5\n2,6\n", key=["size"]).rows), 2)

    def test_faults(self):
        cases = {
            "duplicate row": ("size,a\n1,5\n1,6\n", {"key": ["size"]}, "t.csv:3"),
            "unknown key": ("size,a\n1,5\n", {"key": ["trade"]}, "t.csv"),
            "no number": ("size,a\n1,x\n", {"key": ["size"]}, "t.csv:2"),
            "too few cells": ("size,a\n1\n", {"key": ["size"]}, "t.csv:2"),
            "too many cells": ("size,a\n1,2,3\n", {"key": ["size"]}, "t.csv:2"),
            "overlap": ("low,high,a\n1,5,1\n5,9,2\n", {"band_from": "low", "band_to": "high"}, "t.csv:3"),
            "falling bands": ("high,a\n9,1\n5,2\n", {"band_to": "high"}, "t.csv:3"),
        }
        for name, (text, entry, place) in cases.items():
            with self.subTest(name), self.assertRaises(RulebookBroken) as caught:
                self.read(text, **entry)
            self.assertIn(place, str(caught.exception))

    def test_a_missing_file(self):
        with self.assertRaises(RulebookBroken):
            read_table(Path("/nonexistent"), {"file": "none.csv"})
