"""The electrode conductor of a derived system: by its lines, to rods alone, and as a tap to a common one of several."""

import unittest

from nelvor.model.changes.operations import apply
from nelvor.model.parse import parse_value
from nelvor.report.check import check
from tests.judges.test_pushed_back import held
from tests.support.arrangements import Arrangement
from tests.support.jobs import finding, report_of, thing

INDOORS = "U -hn- S(main) -hg- X.p ; X.q -hnj- P(main)"
WIRES = {"insulation": "THWN-2", "placement": "indoors"}


class DerivedElectrode(unittest.TestCase):
    def report(self, kind="building_steel", hots="3/0", edition="2023", **conductor):
        site = Arrangement(INDOORS, edition)
        for name in ("s", "x"):
            site.bond(name, made=True)
        for run in site.job["runs"]:
            run.update(WIRES)
        thing(site.job, "transformers", "x-core")["secondary_system"] = "split_120_240"
        thing(site.job, "runs", "x-to-p").update(hot_size=hots, neutral_size=hots)
        electrode = {"id": "steel", "kind": kind, "connects_to": "x-g", "conductor_material": "copper"}
        site.job["electrodes"].append({**electrode, **conductor})
        self.job = site.job
        return report_of(self.job)

    def clears(self, verdict, code, thing_id):
        after = check(parse_value(apply(self.job, list(verdict.mend.operations))))
        return finding(after, code, thing_id) is None

    def test_by_the_lines_of_the_system(self):
        # Table 250.66: 3/0 copper asks for 4 AWG, 250 kcmil for 2 AWG
        for hots, enough, small in (("3/0", "4", "6"), ("250", "2", "4")):
            report = self.report(hots=hots, conductor_size=enough)
            self.assertEqual(report.bonds["x"].figures["electrode_conductor"].text, enough)
            self.assertIsNone(finding(report, "electrode_conductor", "x"))
            wrong = finding(self.report(hots=hots, conductor_size=small), "electrode_conductor", "x")
            self.assertEqual((wrong.outcome, wrong.section), ("must_fix", "250.66"))
            self.assertTrue(self.clears(wrong, "electrode_conductor", "x"))

    def test_to_rods_alone_six_is_enough(self):
        self.assertIsNone(finding(self.report(kind="rod", hots="250", conductor_size="6"), "electrode_conductor", "x"))
        small = finding(self.report(kind="rod", hots="250", conductor_size="8"), "electrode_conductor", "x")
        self.assertEqual(small.outcome, "must_fix")

    def test_both_sides_of_a_common_conductor(self):
        for edition in ("2017", "2020", "2023"):
            for metal, least, small in (("copper", "3/0", "2/0"), ("aluminum", "250", "4/0")):
                told = {"conductor_size": "4", "common_material": metal, "edition": edition}
                right = held(self.report(**told, common_size=least), "common_electrode", "steel")
                self.assertEqual(right.section, "250.30(A)(6)")
                wrong = finding(self.report(**told, common_size=small), "common_electrode", "steel")
                self.assertEqual(wrong.outcome, "must_fix")
                self.assertTrue(self.clears(wrong, "common_electrode", "steel"))

    def test_a_tap_to_a_common_one_goes_by_the_lines_of_its_own_system(self):
        told = {"kind": "rod", "hots": "250", "common_size": "3/0", "common_material": "copper"}
        self.assertIsNone(finding(self.report(**told, conductor_size="2"), "electrode_conductor", "x"))
        small = finding(self.report(**told, conductor_size="6"), "electrode_conductor", "x")
        self.assertIn("tap to the common", small.text)

    def test_what_is_not_told(self):
        asked = finding(self.report(common_size="3/0"), "common_electrode", "steel")
        self.assertEqual((asked.outcome, asked.field), ("cannot_tell", "common_material"))
        self.assertIsNone(finding(self.report(conductor_size=None), "electrode_conductor", "x"))


if __name__ == "__main__":
    unittest.main()
