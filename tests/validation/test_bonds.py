"""The bond matrix: arrangement × edition × as found, against decisions written down by hand."""

import tomllib
import unittest
from pathlib import Path

from nelvor.report.check import check
from tests.support.jobs import JobBuilder, Json, mended, thing

ROWS = tomllib.loads((Path(__file__).parent / "bonds.toml").read_text())["row"]


def arrangement(name: str, edition: str) -> Json:
    """Build the site that an arrangement names."""
    builder = JobBuilder(edition)
    builder.add("buildings", "house", name="House", use="other", metal_path_to_supply=False)
    marking = {
        "emergency disconnect as service disconnect": "service_disconnect",
        "emergency disconnect as meter disconnect": "meter_disconnect",
        "emergency disconnect, not service equipment": "not_service_equipment",
    }.get(name, "none")
    builder.service(outdoors=name != "first disconnect indoors", emergency_marking=marking)
    detached = "house" if name == "detached building with a grounding conductor" else None
    builder.box("panel", "service", building=detached, main_a=100.0)
    if name == "several grouped disconnects":
        builder.box(
            "second",
            "meter",
            kind="disconnect",
            ground=False,
            bond=True,
            run={"placement": "outdoors", "method": "rmc"},
        )
    if detached:
        builder.add("electrodes", "rod-a", connects_to="panel-g", building_id="house")
        builder.add("electrodes", "rod-b", connects_to="panel-g", building_id="house")
    return builder.job


def as_found(job: Json, box: str, found: str) -> None:
    """Leave in the box what the surveyor found there."""
    job["bonds"] = [bond for bond in job["bonds"] if bond["enclosure_id"] != box]
    neutral = thing(job, "bars", f"{box}-n")
    neutral["insulated"] = found != "bare_bar"
    if found == "unknown":
        neutral["insulated"] = None
    kinds = {
        "screw": ("screw", True),
        "loose": ("screw", False),
        "strap": ("strap", True),
        "tied": ("tied_bars", True),
        "branch_neutral": ("branch_neutral", True),
    }
    wanted = ["screw", "strap"] if found == "two" else [found] if found in kinds else []
    for number, one in enumerate(wanted):
        kind, made = kinds[one]
        other = f"{box}-g" if kind in ("tied_bars", "branch_neutral") else box
        job["bonds"].append(
            {
                "id": f"found-{number}",
                "enclosure_id": box,
                "kind": kind,
                "part_a": f"{box}-n",
                "part_b": other,
                "made": made,
            }
        )


class BondMatrix(unittest.TestCase):
    def rows(self):
        for row in ROWS:
            for edition, section in row["section"].items():
                for found, outcome in row["found"].items():
                    yield row, str(edition), section, found, outcome

    def test_every_row(self):
        for row, edition, section, found, outcome in self.rows():
            with self.subTest(arrangement=row["arrangement"], box=row["box"], edition=edition, found=found):
                job = arrangement(row["arrangement"], edition)
                as_found(job, row["box"], found)
                report = JobReport(job)
                answer = report.report.bonds[row["box"]]
                self.assertEqual(answer.decision, row["decision"])
                self.assertEqual(answer.section, section)
                self.assertEqual(report.bond_outcome(row["box"]), outcome)

    def test_every_must_fix_of_the_matrix_clears_by_its_mend(self):
        for row, edition, _, found, outcome in self.rows():
            if outcome != "must_fix":
                continue
            with self.subTest(arrangement=row["arrangement"], box=row["box"], edition=edition, found=found):
                job = arrangement(row["arrangement"], edition)
                as_found(job, row["box"], found)
                verdict = next(
                    item for item in JobReport(job).report.bonds[row["box"]].verdicts if item.outcome == "must_fix"
                )
                after = JobReport(mended(job, verdict))
                self.assertEqual(after.bond_outcome(row["box"]), "holds")


class JobReport:
    def __init__(self, job: Json) -> None:
        from nelvor.model.parse import parse_value

        self.report = check(parse_value(job))

    def bond_outcome(self, box: str) -> str:
        return next(item.outcome for item in self.report.bonds[box].verdicts if item.code == "bond")
