"""Bonds by scenario: relays, neutrals that gear parts, and what must be entered before the count can be told."""

import unittest

from nelvor.judges.bonds.count import count_verdicts
from nelvor.model.parse import parse_value
from nelvor.model.resolve import resolve
from nelvor.report.check import check
from nelvor.topology.grounded import neutral_parts, systems_in
from nelvor.topology.scenario import scenarios
from nelvor.topology.site import Site
from tests.support.arrangements import Arrangement
from tests.support.jobs import mended, thing

SOLID = "U -hn- S(main) -hng- T.n(solid) ; G(fixed,brk,out) -hng- T.s ; T.l -hng- P"
SWITCHED = SOLID.replace("solid", "switched")
ISLAND = "U -hn- S(main) -hng- T.n(solid,mid) ; T.l -hng- P ; I(interactive) -hng- P"


def built(line, *bonded):
    made = Arrangement(line)
    for name in bonded:
        made.bond(name, made=True)
    return made


def judged(arrangement):
    return check(parse_value(arrangement.job))


def must_fix(report):
    return {(item.code, item.id) for item in report.findings if item.outcome == "must_fix"}


class Systems(unittest.TestCase):
    def systems(self, line):
        site = Site(resolve(parse_value(built(line, "s").job), "proposed"))
        return {
            (scenario.positions, frozenset(system.sources), system.supplied_by_utility)
            for scenario in scenarios(site, "proposed")
            for system in systems_in(site, scenario)
        }

    def test_a_solid_neutral_makes_one_system_in_every_position(self):
        found = self.systems(SOLID)
        self.assertTrue(all(by_utility for _, _, by_utility in found))
        self.assertIn(frozenset({"u", "g-set"}), {sources for _, sources, _ in found})

    def test_a_switched_neutral_makes_two(self):
        found = self.systems(SWITCHED)
        self.assertEqual({sources for _, sources, _ in found}, {frozenset({"u"}), frozenset({"g-set"})})
        self.assertFalse(any(by_utility for _, sources, by_utility in found if "g-set" in sources))


class Neutrals(unittest.TestCase):
    def test_one_decision_for_each_neutral_of_a_box(self):
        bond = judged(built(SWITCHED, "s", "g")).bonds["t"]
        self.assertEqual([item.neutral_part for item in bond.neutrals], ["t-n-neutral", "t-l-neutral", "t-s-neutral"])
        self.assertEqual({item.decision for item in bond.neutrals}, {"apart"})
        self.assertIsNone(bond.of_neutral("p-neutral"))

    def test_gear_that_leaves_the_neutral_has_one(self):
        site = Site(resolve(parse_value(built(SOLID, "s").job), "proposed"))
        self.assertEqual(neutral_parts(site, "t"), [("t-neutral",)])

    def test_a_bond_past_the_switched_pole_is_taken_out_by_its_mend(self):
        arrangement = built(SWITCHED, "s", "g", "t-l")
        report = judged(arrangement)
        wrong = next(item for item in report.findings if item.code == "other_neutral")
        after = check(parse_value(mended(arrangement.job, wrong)))
        self.assertNotIn("other_neutral", {item.code for item in after.findings})
        self.assertEqual(must_fix(after) & {("bond", "g"), ("bond", "s")}, set())


class Unknowns(unittest.TestCase):
    def test_whether_gear_switches_the_neutral_is_asked_for(self):
        arrangement = built(SOLID, "s")
        thing(arrangement.job, "transfers", "t-gear")["switches_neutral"] = None
        report = judged(arrangement)
        self.assertEqual(report.bonds["g"].decision, "unknown")
        asked = next(item for item in report.findings if item.code == "bond" and item.id == "g")
        self.assertEqual((asked.outcome, asked.field), ("cannot_tell", "switches_neutral"))

    def test_an_inner_bond_that_nobody_looked_at_is_read_from_the_marking(self):
        arrangement = built(SOLID, "s")
        arrangement.job["bonds"] = [item for item in arrangement.job["bonds"] if item["id"] != "g-bond"]
        set_ = thing(arrangement.job, "sources", "g-set")
        for marking, found in ((None, "unknown"), ("floating_neutral", "apart"), ("bonded_neutral", "bonded")):
            with self.subTest(marking=marking):
                set_["marking"] = marking
                report = judged(arrangement)
                self.assertEqual(report.bonds["g"].found, found)
                self.assertEqual(("bond", "g") in must_fix(report), found == "bonded")

    def test_a_generator_that_stands_in_no_enclosure_is_asked_about_and_never_passes(self):
        arrangement = built(SOLID, "s")
        told = {}
        for box in ("g", None):
            thing(arrangement.job, "sources", "g-set")["enclosure_id"] = box
            found = [
                item for item in judged(arrangement).findings if item.id == "g-set" and item.code == "not_computed"
            ]
            told[box] = [(item.outcome, item.field, "bonded inside" in item.text) for item in found]
        self.assertEqual(told["g"], [])
        self.assertEqual(told[None], [("cannot_tell", "enclosure_id", True)])

    def test_an_electrode_of_a_derived_system_is_asked_for(self):
        report = judged(built(SWITCHED, "s", "g"))
        asked = next(item for item in report.findings if item.code == "derived_electrode")
        self.assertEqual((asked.outcome, asked.id, asked.section), ("must_fix", "g", "250.30(C)"))


class Relays(unittest.TestCase):
    def island(self, closes_when_islanded):
        arrangement = built(ISLAND, "s")
        bond = thing(arrangement.job, "bonds", "i-bond")
        bond.update(kind="relay", made=True, closes_when_islanded=closes_when_islanded)
        job = parse_value(arrangement.job)
        report = check(job)
        counted = count_verdicts(report.site, report.rules, "proposed", report.bonds, [])
        return [item.text for item in counted if item.code == "second_bond"]

    def test_a_relay_that_closes_when_islanded_is_a_second_bond_only_with_the_utility_away(self):
        found = self.island(closes_when_islanded=True)
        self.assertEqual(len(found), 1)
        self.assertIn("the utility away", found[0])

    def test_a_relay_that_is_always_closed_is_one_with_every_source_on(self):
        found = self.island(closes_when_islanded=False)
        self.assertEqual(len(found), 1)
        self.assertNotIn("the utility away", found[0])


class JumperSizes(unittest.TestCase):
    def test_the_system_bonding_jumper_goes_by_the_lines_of_the_system(self):
        """3/0 copper: 4 AWG copper by Table 250.102(C)(1); 250 kcmil: 2 AWG."""
        for size, jumper in (("3/0", "4"), ("250", "2")):
            arrangement = built(SWITCHED, "s", "g")
            thing(arrangement.job, "runs", "g-to-t").update(hot_size=size, insulation="THWN-2", placement="outdoors")
            report = judged(arrangement)
            self.assertEqual(report.bonds["g"].figures["system_bonding_jumper"].text, jumper)


class ServiceNeutral(unittest.TestCase):
    def test_a_service_run_without_its_neutral_is_mended_by_bringing_it(self):
        arrangement = built("U -hn- S(main) -hng- P", "s")
        arrangement.without("u", "s", "n")
        report = judged(arrangement)
        wrong = next(item for item in report.findings if item.code == "neutral_missing")
        self.assertEqual((wrong.outcome, wrong.id), ("must_fix", "s"))
        after = check(parse_value(mended(arrangement.job, wrong)))
        self.assertNotIn("neutral_missing", {item.code for item in after.findings})


if __name__ == "__main__":
    unittest.main()
