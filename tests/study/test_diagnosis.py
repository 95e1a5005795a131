"""From readings to causes: responses against whole solves, the true cause found, what to read next, and what is refused."""

import random
import unittest
from dataclasses import replace

import numpy as np

from benchmarks.diagnosis import METER, alike, diagnosed, generated, site_of
from nelvor.errors import BadInput, CannotCompute
from nelvor.exchange.readings_csv import read_readings, write_readings
from nelvor.study.branches import Branch, Circuit
from nelvor.study.diagnosis.answer import Bench
from nelvor.study.diagnosis.causes import Cause
from nelvor.study.diagnosis.diagnose import Diagnosis
from nelvor.study.diagnosis.meanings import MEANINGS
from nelvor.study.diagnosis.meter import SimulatedMeter
from nelvor.study.diagnosis.observables import Observable
from nelvor.study.diagnosis.readings import Meter, Reading
from nelvor.study.diagnosis.responses import Responses as SmallRank
from nelvor.study.outcome import study
from nelvor.study.situation import Situation
from nelvor.study.solve import solve
from nelvor.topology.network import Node
from tests.support.jobs import JobBuilder, orchard, report_of


def with_changes(circuit, causes):
    """The circuit with the changes of causes as branches of their own, a negative one for what goes."""
    added = [
        Branch(change.a, change.b, 1 / change.admittance, *change.key) for cause in causes for change in cause.changes
    ]
    return Circuit(circuit.nodes, [*circuit.branches, *added], circuit.assumed)


def read_off(solved, item):
    """What a whole solution shows where something is read."""
    if item.nodes is not None:
        return abs(solved.volts[item.nodes[0]] - solved.volts[item.nodes[1]])
    pairs = zip(solved.circuit.branches, solved.currents, strict=True)
    return abs(sum(current for branch, current in pairs if (branch.list, branch.id, branch.role) in item.keys))


class SimulatedMeters(unittest.TestCase):
    """What the meter shows is the circuit with the meter in it."""

    def reads(self, site, cause, item):
        meter = SimulatedMeter(site.responses, [cause], Meter(accuracy_percent=0.1, resolution=0.01), 1)
        return meter.read(item).value

    def test_a_voltmeter_is_a_branch_of_a_megohm_and_a_clamp_is_none(self):
        site = site_of(generated(random.Random(5)))
        cause = next(item for item in site.causes if item.kind == "ground_open")
        for item in site.responses.seen:
            circuit = with_changes(site.circuit, [cause])
            if item.nodes is not None:
                circuit.branches.append(Branch(*item.nodes, 1e6, "", "", "meter"))
            with_it = read_off(solve(circuit), item)
            self.assertAlmostEqual(self.reads(site, cause, item), with_it, delta=0.1 + 0.02 * with_it)

    def test_what_hangs_on_next_to_nothing_shows_less(self):
        # 120 V behind 100,000 ohm, read with 1,000,000 ohm: 120 × 10 / 11 = 109.1 V
        circuit, line, neutral, metal = Circuit(), Node("line", ""), Node("neutral", ""), Node("metal", "")
        circuit.join(line, neutral, 0.01, "sources", "s", "L1", 120)
        circuit.join(line, metal, 1e5, "runs", "r", "leak")
        ends = (circuit.nodes[metal], circuit.nodes[neutral])
        item = Observable("v", "box", "volts", "V", "outside", nodes=ends)
        responses = SmallRank(circuit, [item])
        self.assertAlmostEqual(abs(responses.base[0]), 120.0, places=3)
        self.assertAlmostEqual(SimulatedMeter(responses, [], Meter(), 1).read(item).value, 109.1, delta=2.0)


class Responses(unittest.TestCase):
    """Small-rank changes give what solving the changed circuit as a whole gives."""

    def same(self, site, causes):
        solved = solve(with_changes(site.circuit, causes))
        shown = np.abs(site.responses.of(*causes))
        for at, item in enumerate(site.responses.seen):
            whole = read_off(solved, item)
            self.assertLess(abs(shown[at] - whole), 1e-3 + 1e-4 * whole, f"{item.words}: {[c.words for c in causes]}")

    def test_every_single_cause_and_some_pairs_on_generated_sites(self):
        chance = random.Random(5)
        for _ in range(6):
            site = site_of(generated(chance))
            real = [cause for cause in site.causes if cause.changes]
            for cause in real:
                self.same(site, [cause])
            for _ in range(12):
                one, other = chance.sample(real, 2)
                if one.family != other.family:
                    self.same(site, [one, other])

    def test_against_the_study_of_the_same_situation(self):
        report = report_of(orchard())
        bench = Bench(report, Situation())
        places = {item.id: at for at, item in enumerate(bench.responses.seen)}
        for cause in bench.causes:
            situation = {
                "neutral_open": lambda place: Situation(kind="neutral_open", place=place),
                "ground_open": lambda place: Situation(kind="ground_open", place=place),
                "bond_too_many": lambda place: Situation(bonds={place: True}),
                "bond_missing": lambda place: Situation(bonds={place: False}),
            }.get(cause.kind)
            if situation is None:
                continue
            outcome = study(report, situation(cause.place))
            shown = np.abs(bench.responses.of(cause))
            for run in outcome.runs:
                for role in ("neutral", "ground"):
                    at = places.get(f"run:{run.id}:{role}")
                    if at is not None and role in run.amperes:
                        self.assertAlmostEqual(
                            shown[at], run.amperes[role], delta=0.02 + 0.001 * shown[at], msg=cause.words
                        )

    def test_a_second_bond_divides_the_neutral_current_by_conductance(self):
        # neutral and grounding conductor of one size and length: half of it flows in each
        builder = JobBuilder()
        builder.service()
        sizes = {"hot_size": "3", "neutral_size": "8", "ground_size": "8", "method": "pvc40", "material": "copper"}
        builder.box("panel", "service", run={**sizes, "length_ft": 100.0})
        values = {"category": "other", "unit": "VA", "volts": 120.0, "connection": "L1-N", "continuous": False}
        builder.add("loads", "heater", enclosure_id="panel", name="Heater", amount=2_400.0, **values)
        site = site_of(builder.job)
        second = next(cause for cause in site.causes if cause.kind == "bond_too_many" and "panel" in cause.words)
        shown = dict(zip([item.id for item in site.responses.seen], np.abs(site.responses.of(second)), strict=True))
        self.assertAlmostEqual(shown["run:to-panel:ground"] / shown["run:to-panel:neutral"], 1.0, delta=0.02)
        self.assertAlmostEqual(shown["run:to-panel:ground"] + shown["run:to-panel:neutral"], 20.0, delta=0.5)


class Found(unittest.TestCase):
    def test_the_true_cause_stands_first_within_six_readings(self):
        chance, first, tried = random.Random(11), 0, 0
        while tried < 25:
            site = site_of(generated(chance))
            true = chance.choice([cause for cause in site.causes if cause.kind != "nothing"])
            same = alike(site, [true])
            if frozenset({("nothing", "")}) in same:
                continue
            tried += 1
            taken, diagnosis = diagnosed(site, [true], tried)
            self.assertLessEqual(taken, 6)
            first += diagnosis.ranked[0].families in same
        self.assertGreaterEqual(first, 23)

    def test_a_sound_site_is_found_sound(self):
        site = site_of(generated(random.Random(3)))
        nothing = next(cause for cause in site.causes if cause.kind == "nothing")
        _, diagnosis = diagnosed(site, [nothing], 1)
        self.assertEqual(diagnosis.ranked[0].causes[0].kind, "nothing")

    def test_two_at_once(self):
        site = site_of(generated(random.Random(8)))
        of_kind = {cause.kind: cause for cause in site.causes if cause.usual}
        true = [of_kind["bond_too_many"], of_kind["neutral_poor"]]
        _, diagnosis = diagnosed(site, true, 4)
        self.assertIn(diagnosis.ranked[0].families, alike(site, true))

    def test_more_readings_never_spread_what_was_sure(self):
        site = site_of(generated(random.Random(21)))
        true = next(cause for cause in site.causes if cause.kind == "bond_too_many")
        readings = [
            Reading(observable=item.id, value=round(float(abs(site.responses.of(true)[at])), 1), unit=item.unit)
            for at, item in enumerate(site.responses.seen)
        ]
        whole = Diagnosis(site.responses, site.causes, readings, METER)
        self.assertIn(whole.ranked[0].families, alike(site, [true]))
        self.assertIsNone(whole.next_reading())


class Told(unittest.TestCase):
    def setUp(self):
        self.bench = Bench(report_of(orchard()), Situation())

    def practiced(self, number, readings=8):
        meter, taken = Meter(), []
        while (asked := self.bench.diagnosed(taken, meter).next) is not None and len(taken) < readings:
            taken.append(self.bench.simulated(number, asked.observable.id, meter))
        return taken

    def test_without_a_reading_the_first_is_asked_for(self):
        found = self.bench.diagnosed([], Meter())
        self.assertEqual(found.causes, [])
        self.assertIsNotNone(found.next)
        self.assertIn("No reading yet", found.told)

    def test_practice_hides_the_same_fault_under_a_number_and_is_found(self):
        for number in range(6):
            readings = self.practiced(number)
            self.assertEqual(readings, self.practiced(number))
            found = self.bench.diagnosed(readings, Meter())
            self.assertTrue(found.causes[0].fits, number)
            hidden = self.bench.hidden(number)
            fitting = [cause.words for cause in found.causes if cause.fits]
            told_apart = hidden.words in fitting or "nothing that can be read tells them apart" in found.told
            self.assertTrue(told_apart or found.causes[0].share < 0.9, (hidden.words, found.told, fitting))

    def test_what_would_be_shown_danger_and_mend_come_with_each_cause(self):
        found = self.bench.diagnosed(self.practiced(2, readings=2), Meter())
        for cause in found.causes:
            self.assertEqual(cause.danger == "none", set(cause.kinds) <= {"nothing", "bond_otherwise"})
            self.assertTrue(cause.mend or cause.kinds == ["nothing"])
            self.assertTrue(cause.sentences)
        self.assertEqual(set(MEANINGS), {cause.kind for cause in self.bench.causes} | set(MEANINGS))

    def test_every_mend_on_conductors_begins_with_all_dead(self):
        for kind, meaning in MEANINGS.items():
            if kind in ("nothing", "outside_current"):
                continue
            self.assertRegex(" ".join(meaning.mend[:2]), "proved dead|call the utility")

    def test_no_reading_asks_to_lift_a_conductor(self):
        for item in self.bench.readable():
            self.assertRegex(item.what, "^(clamp on|clamp around|volts from)")
            self.assertNotIn("lift", item.what)
            inside = item.what.startswith("clamp on its") or "neutral" in item.what
            self.assertEqual(item.care, "behind_cover" if inside else "outside", item.what)

    def test_a_reading_that_no_cause_gives_is_said(self):
        run = "run:to-house:ground"
        found = self.bench.diagnosed([Reading(observable=run, value=5_000.0, unit="A")], Meter(load_doubt_percent=0))
        self.assertIn("No fault known here", found.told)
        self.assertFalse(found.causes[0].fits)

    def test_a_reading_that_contradicts_the_others_is_named(self):
        site = site_of(generated(random.Random(4)))
        true = next(cause for cause in site.causes if cause.kind == "bond_too_many")
        shown = np.abs(site.responses.of(true))
        readings = [
            Reading(observable=item.id, value=round(float(shown[at]), 1), unit=item.unit)
            for at, item in enumerate(site.responses.seen)
            if item.unit == "A"
        ]
        wrong = next(at for at, item in enumerate(readings) if item.observable.endswith("neutral") and item.value > 1)
        readings[wrong] = readings[wrong].model_copy(update={"value": readings[wrong].value * 3 + 40})
        diagnosis = Diagnosis(site.responses, site.causes, readings, METER)
        self.assertIn(wrong, diagnosis.contradicting())

    def test_what_cannot_be_read_is_refused_in_words(self):
        for reading, words in (
            (Reading(observable="run:nowhere:ground", value=1, unit="A"), "cannot be read"),
            (Reading(observable="run:to-house:ground", value=1, unit="V"), "is read in A"),
        ):
            with self.assertRaisesRegex(CannotCompute, words):
                self.bench.diagnosed([reading], Meter())
        with self.assertRaisesRegex(CannotCompute, "without a fault played"):
            Bench(report_of(orchard()), Situation(kind="neutral_open", place="to-house"))

    def test_a_site_without_a_source_is_refused(self):
        job = orchard()
        job["sources"], job["runs"] = [], [item for item in job["runs"] if item["from_part"] != "utility"]
        job["conductors"] = [item for item in job["conductors"] if item["run_id"] != "drop"]
        with self.assertRaises(CannotCompute):
            Bench(report_of(job), Situation())

    def test_a_wrong_bond_that_is_drawn_and_not_there_is_no_danger(self):
        kinds = {cause.place: cause.kind for cause in self.bench.causes if cause.kind.startswith("bond")}
        self.assertEqual(kinds["house-panel-bond"], "bond_otherwise")  # drawn as made, where it does not belong
        self.assertEqual(kinds["disc-house-bond"], "bond_missing")
        self.assertEqual(kinds["barn-panel-bond"], "bond_too_many")
        self.assertEqual(MEANINGS["bond_otherwise"].danger, "none")


class AsCsv(unittest.TestCase):
    def setUp(self):
        self.seen = Bench(report_of(orchard()), Situation()).responses.seen

    def test_written_and_read_without_loss(self):
        readings = [
            Reading(observable=item.id, value=1.5 + at, unit=item.unit, taken_at="09:30", instrument="=clamp")
            for at, item in enumerate(self.seen)
        ]
        self.assertEqual(read_readings(write_readings(readings, self.seen), self.seen), readings)

    def test_places_by_id_too(self):
        (reading,) = read_readings("place,what,value,unit\nto-barn,ground,2.5,A\n", self.seen)
        self.assertEqual((reading.observable, reading.value), ("run:to-barn:ground", 2.5))

    def test_every_fault_by_line_and_column(self):
        text = "place,what,value,unit\nAttic,ground,1,A\nto-barn,smell,1,A\nto-barn,ground,much,A\nto-barn,ground,1,V\nto-barn,ground,-1,A\n"
        with self.assertRaises(BadInput) as caught:
            read_readings(text, self.seen)
        self.assertEqual(
            [issue.path for issue in caught.exception.issues],
            ["line 2, place", "line 3, what", "line 4, value", "line 5, unit", "line 6, value"],
        )
        with self.assertRaises(BadInput) as caught:
            read_readings("where,what\n", self.seen)
        self.assertEqual(caught.exception.issues[0].path, "line 1")


class Causes(unittest.TestCase):
    def test_strengths_of_one_cause_are_one_family(self):
        one = Cause("neutral_poor", "run", "words")
        self.assertEqual(one.family, replace(one, likely=0.1).family)


if __name__ == "__main__":
    unittest.main()
