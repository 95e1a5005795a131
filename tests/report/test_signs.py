"""Signs: what sources ask for, at the box where it hangs, with the section of the edition."""

import io
import unittest

from pypdf import PdfReader

from nelvor.demo import demo_job
from nelvor.model.parse import parse_value
from nelvor.paper.permit import permit_sheet
from nelvor.paper.signs import sign_sheet
from nelvor.report.check import check
from nelvor.report.signs import signs_due
from tests.judges.test_interconnection import WithSolar
from tests.support.arrangements import Arrangement
from tests.support.jobs import JobBuilder, orchard, report_of, thing

STANDBY = "U -hn- M -hn- S(main) -hng- T.n({gear}) ; G({set}) -hng- T.s ; T.l -hng- P"


def told(report, section):
    return [(sign.enclosure_id, sign.words) for sign in signs_due(report) if sign.section.startswith(section)]


class OfASourceOnABus(WithSolar):
    def test_the_breaker_at_the_far_end_is_not_to_be_moved(self):
        for edition, section in (("2017", "705.12(B)(2)(3)(b)"), ("2020", "705.12(B)(3)(2)"), ("2023", "705.12(B)(2)")):
            report = self.site(edition=edition).report()
            (at, words), *further = [
                (sign.enclosure_id, sign.words) for sign in signs_due(report) if sign.section == section
            ]
            self.assertEqual((at, further), ("hall", []))
            self.assertIn("DO NOT MOVE", words)

    def test_where_all_is_within_the_bus_it_may_be_moved(self):
        report = self.site(output_a=16.0, bus_a=225.0, breaker_a=20.0).report()
        self.assertFalse([sign for sign in signs_due(report) if "DO NOT MOVE" in sign.words])
        self.assertIn("ROOF", told(report, "705.30(C)")[0][1])

    def test_a_bus_that_no_rule_allows_has_no_sign_that_says_it_is_right(self):
        report = self.site(space=1).report()
        self.assertEqual(told(report, "705.12"), [])

    def test_the_service_says_that_there_are_several_sources(self):
        ((at, words),) = told(self.site().report(), "705.10")
        self.assertEqual(at, "service")
        self.assertIn("ROOF", words)
        self.assertNotIn("STANDBY", words)


class OfStandbySets(unittest.TestCase):
    def report(self, gear, kind, **bonds):
        arrangement = Arrangement(STANDBY.format(gear=gear, set=kind))
        for name, made in {"m": True, "s": True, **bonds}.items():
            arrangement.bond(name, made=made)
        return check(parse_value(arrangement.job))

    def test_every_standby_source_is_told_at_the_service(self):
        ((at, words),) = told(self.report("solid", "fixed,brk,out"), "702.7(A)")
        self.assertEqual(at, "s")
        self.assertIn("STANDBY SOURCE: G", words)

    def test_where_the_set_has_no_bond_the_service_warns_of_lifting_its_own(self):
        ((at, words),) = told(self.report("solid", "fixed,brk,out"), "702.7(B)")
        self.assertEqual(at, "s")
        self.assertIn("SHOCK HAZARD", words)

    def test_a_separately_derived_set_has_its_own_bond_and_no_such_warning(self):
        report = self.report("switched", "fixed,brk", g=True)
        self.assertEqual(report.bonds["g"].decision, "bond_in_source")
        self.assertEqual(told(report, "702.7(B)"), [])
        self.assertEqual(len(told(report, "702.7(A)")), 1)


class OfEmergencyDisconnects(unittest.TestCase):
    def test_the_words_follow_the_marking_and_the_edition(self):
        job = orchard()
        for edition, found in (("2017", 0), ("2020", 2), ("2023", 2)):
            job["settings"]["edition"] = edition
            signs = [
                sign for sign in signs_due(report_of(job)) if sign.words.startswith("EMERGENCY DISCONNECT, SERVICE")
            ]
            self.assertEqual(len(signs), found, edition)


class OfFaultCurrents(unittest.TestCase):
    def test_at_the_service_of_what_is_no_dwelling(self):
        job = JobBuilder()
        job.service()
        job.job["sources"][0]["fault_current_a"] = 14_000
        job.add("buildings", "works", name="Works", use="commercial")
        thing(job.job, "enclosures", "service")["building_id"] = "works"
        ((at, words),) = told(job.report(), "110.24(A)")
        self.assertEqual(at, "service")
        self.assertIn("FAULT CURRENT 14000 A", words)
        for use in ("dwelling", None):
            thing(job.job, "buildings", "works")["use"] = use
            self.assertEqual(told(job.report(), "110.24(A)"), [])
        thing(job.job, "buildings", "works")["use"] = "commercial"
        job.job["sources"][0]["fault_current_a"] = None
        self.assertEqual(told(job.report(), "110.24(A)"), [])


class OffTheGrid(unittest.TestCase):
    def test_a_plaque_names_the_source_and_where_it_stands(self):
        ((at, words),) = told(check(demo_job("cabin")), "710.10")
        self.assertEqual(at, "inverter")
        self.assertIn("CABIN INVERTER, AT CABIN", words)


class OnPaper(unittest.TestCase):
    def text(self, pdf):
        return " ".join("\n".join(page.extract_text() for page in PdfReader(io.BytesIO(pdf)).pages).split())

    def test_each_sign_with_where_it_hangs(self):
        report = check(demo_job("cabin"))
        text = self.text(sign_sheet(report))
        for sign in signs_due(report):
            self.assertIn(sign.words, text)
            self.assertIn(f"{sign.why}. {sign.section}", text)

    def test_they_stand_on_the_permit_sheet_and_none_is_said_to_be_none(self):
        document = demo_job("cabin")
        self.assertIn("STAND-ALONE SUPPLY", self.text(permit_sheet(check(document), check(document, "existing"))))
        bare = JobBuilder()
        bare.service()
        self.assertEqual(signs_due(bare.report()), [])
        self.assertIn("No sign is due", self.text(sign_sheet(bare.report())))
