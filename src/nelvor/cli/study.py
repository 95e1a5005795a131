"""``nelvor study``: where the current flows in a situation, in words, as JSON, or the circuit as a netlist."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import get_args

from nelvor.cli.told import tell
from nelvor.errors import CannotCompute, Issue
from nelvor.model.document import Document
from nelvor.model.vocabulary import SituationKind
from nelvor.report.check import check
from nelvor.study.outcome import study, study_netlist
from nelvor.study.shapes import StudyOut
from nelvor.study.situation import Situation

DONE = 0


def add_study_command(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    """Declare the command."""
    command = commands.add_parser("study", help="tell where the current flows")
    command.add_argument("job", type=Path, help="the job as JSON, or - for standard input")
    command.add_argument("--scenario", default="all_well", choices=get_args(SituationKind))
    command.add_argument("--place", metavar="ID", help="the enclosure of a fault, or the run of an open conductor")
    command.add_argument("--leg", default="L1", choices=("L1", "L2", "L3"))
    command.add_argument("--ohms", type=float, default=0.01, metavar="OHMS", help="resistance of a fault")
    command.add_argument("--position", default="", metavar="NAME", help="position of the gear, by its name")
    command.add_argument("--existing", action="store_true", help="what stands instead of the proposal")
    command.add_argument("--netlist", type=Path, metavar="CIR", help="write the circuit as a SPICE netlist")
    command.add_argument("--json", action="store_true", help="print the outcome as JSON")


def study_command(options: argparse.Namespace, document: Document) -> int:
    """Carry out the command on a job; return 0, or 2 where it cannot be told."""
    report = check(document, "existing" if options.existing else "proposed")
    situation = Situation(kind=options.scenario, place=options.place, leg=options.leg, fault_ohms=options.ohms)
    try:
        if options.netlist is not None:
            options.netlist.write_text(study_netlist(report, situation, options.position))
        outcome = study(report, situation, options.position)
    except CannotCompute as reason:
        return tell([Issue("cannot_compute", "study", reason.reason, reason.remedy)], options.json)
    print(outcome.model_dump_json(indent=2) if options.json else _text(outcome))
    return DONE


def _text(outcome: StudyOut) -> str:
    lines = [*outcome.sentences, ""]
    for run in outcome.runs:
        lines.append(f"{run.name}: " + ", ".join(f"{role} {value:g} A" for role, value in run.amperes.items()))
    for box in outcome.boxes:
        lines.append(f"{box.name}: metal " + (f"{box.metal:g} V to earth" if box.metal is not None else "floats"))
    opening = [item for item in outcome.devices if item.opens not in ("stays", "unknown")]
    lines += [f"{item.name}: {item.amperes:g} A, {item.opens.replace('_', ' ')}" for item in opening]
    return "\n".join([*lines, "", f"Assumed: {'; '.join(outcome.assumed)}."])
