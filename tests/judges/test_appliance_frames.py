"""Frames of ranges and dryers on the neutral: what an old circuit may keep at the service and behind it, by edition."""

import unittest

from nelvor.model.changes.operations import apply
from nelvor.model.parse import parse_value
from nelvor.report.check import check
from tests.judges.test_pushed_back import held
from tests.support.arrangements import Arrangement
from tests.support.jobs import finding, report_of, thing

SERVICE = "U -hn- M -hn- P(main)"
REFED = "U -hn- M -hn- D(brk,out) -hng- P(main)"
CODE = "appliance_frame"
EDITIONS = ("2017", "2020", "2023")
SECTIONS = {"2017": "250.140 Ex", "2020": "250.140 Ex", "2023": "250.140(B)"}


class Frames(unittest.TestCase):
    def site(self, line=SERVICE, edition="2023", category="range", standing="existing", frame=True, **wires):
        made = Arrangement(line, edition)
        for name in ("m", "d", "p"):
            if any(bond["id"] == f"{name}-bond" for bond in made.job["bonds"]):
                made.bond(name, made=name != ("p" if line == REFED else ""))
        self.job = made.job
        breaker = {"id": "old", "enclosure_id": "p", "bus_id": "p-bus", "role": "branch", "rating_a": 40.0, "poles": 2}
        self.job["devices"].append({**breaker, "standing": standing})
        load = {"id": "oven", "name": "Old range", "enclosure_id": "p", "device_id": "old", "category": category}
        self.job["loads"].append(
            {**load, "amount": 8.0, "unit": "kW", "volts": 240.0, "standing": standing, "frame_bonded": frame}
        )
        facts = {"neutral_size": "8", "material": "copper", "neutral_covering": "insulated", "has_ground": False}
        self.job["circuits"] = [{"id": "wires", "device_id": "old", "standing": standing, **facts, **wires}]
        return self.job

    def found(self, *line, **values):
        return finding(report_of(self.site(*line, **values)), CODE, "oven")

    def assert_clears(self, verdict):
        """The mend clears the finding and brings no other that must be fixed."""
        before = report_of(self.job)
        after = check(parse_value(apply(self.job, list(verdict.mend.operations))))
        must = lambda report: {(item.code, item.id) for item in report.findings if item.outcome == "must_fix"}  # noqa: E731
        self.assertIsNone(finding(after, CODE, "oven"))
        self.assertLessEqual(must(after), must(before))

    def test_an_old_one_at_the_service_keeps_its_bare_neutral(self):
        for edition in EDITIONS:
            for covering in ("bare", "insulated", None):
                report = report_of(self.site(edition=edition, neutral_covering=covering))
                self.assertEqual(held(report, CODE, "oven").section, SECTIONS[edition])

    def test_behind_a_new_disconnect_a_bare_neutral_has_to_go(self):
        for edition in EDITIONS:
            wrong = self.found(REFED, edition=edition, neutral_covering="bare")
            self.assertEqual((wrong.outcome, wrong.section), ("must_fix", SECTIONS[edition]))
            self.assertIn("second bond", wrong.text)
            self.assert_clears(wrong)

    def test_covered_in_the_panel_it_may_stay_from_2023_on(self):
        outcomes = [self.found(REFED, edition=edition, neutral_covering="covered_in_box") for edition in EDITIONS]
        self.assertEqual([item.outcome if item else "holds" for item in outcomes], ["must_fix", "must_fix", "holds"])

    def test_an_insulated_neutral_may_begin_at_a_sub_panel(self):
        for category in ("range", "dryer"):
            self.assertIsNotNone(held(report_of(self.site(REFED, category=category)), CODE, "oven"))

    def test_both_sides_of_the_least_neutral(self):
        for material, enough, small in (("copper", "10", "12"), ("aluminum", "8", "10")):
            self.assertIsNone(self.found(material=material, neutral_size=enough))
            wrong = self.found(material=material, neutral_size=small)
            self.assertEqual(wrong.outcome, "must_fix")
            self.assertIn("smaller than 10 AWG copper or 8 AWG aluminum", wrong.text)

    def test_a_new_circuit_has_four_wires(self):
        wrong = self.found(standing="added")
        self.assertEqual(wrong.outcome, "must_fix")
        self.assert_clears(wrong)

    def test_a_grounding_conductor_besides_is_a_second_bond(self):
        for facts in ({"has_ground": True}, {"ground_size": "10"}):
            wrong = self.found(**facts)
            self.assertEqual(wrong.outcome, "must_fix")
            self.assertIn("second bond", wrong.text)
            self.assert_clears(wrong)

    def test_off_the_neutral_it_needs_a_grounding_conductor(self):
        wrong = self.found(frame=False)
        self.assertEqual((wrong.outcome, wrong.section), ("must_fix", "250.4(A)(5)"))
        self.assert_clears(wrong)
        for ground in (True, None):
            self.assertIsNone(self.found(frame=False, has_ground=ground))

    def test_what_is_not_told_is_asked_for_where_it_decides(self):
        asked = self.found(REFED, neutral_size=None, neutral_covering=None)
        self.assertEqual(asked.outcome, "cannot_tell")
        self.assertEqual(asked.asks, (("wires", "neutral_size"), ("wires", "neutral_covering")))
        self.assertEqual(self.found(has_ground=None).asks, (("wires", "has_ground"),))
        self.assertIsNone(self.found(frame=None, has_ground=None))
        self.assertEqual(self.found(frame=None).asks, (("oven", "frame_bonded"),))
        unseen = self.found(REFED, frame=None, has_ground=None)
        self.assertEqual((unseen.outcome, unseen.asks), ("cannot_tell", (("oven", "frame_bonded"),)))
        self.assertIsNone(self.found(REFED, frame=None, has_ground=True))
        self.assertIsNone(self.found(REFED, frame=None, has_ground=None, standing="added"))

    def test_without_its_wires_it_cannot_be_told(self):
        job = self.site()
        job["circuits"] = []
        asked = finding(report_of(job), CODE, "oven")
        self.assertEqual(asked.outcome, "cannot_tell")
        self.assertIn("Enter the wires", asked.text)

    def test_no_frame_on_the_neutral_of_a_480_volt_system(self):
        job = self.site(SERVICE.replace("U", "U(wye_480)"))
        thing(job, "loads", "oven")["volts"] = 277.0
        self.assertEqual(finding(report_of(job), CODE, "oven").outcome, "must_fix")

    def test_other_loads_are_not_asked(self):
        self.assertIsNone(self.found(REFED, category="water_heater", frame=None))


if __name__ == "__main__":
    unittest.main()
