"""``nelvor study``: where the current flows in a situation, in words, as JSON, or the circuit as a netlist."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import get_args

from pydantic import ValidationError

from nelvor.cli.told import tell
from nelvor.errors import CannotCompute, Issue
from nelvor.model.document import Document
from nelvor.model.vocabulary import LoadDraw, SituationKind
from nelvor.report.check import check
from nelvor.study.outcome import study, study_netlist
from nelvor.study.shapes import StudyOut
from nelvor.study.situation import Situation, situation_of

DONE = 0


def add_study_command(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    """Declare the command."""
    command = commands.add_parser("study", help="tell where the current flows")
    command.add_argument("job", type=Path, help="the job as JSON, or - for standard input")
    command.add_argument("--scenario", default="all_well", choices=get_args(SituationKind))
    command.add_argument("--place", metavar="ID", help="the enclosure of a fault, or the run of an open conductor")
    command.add_argument("--leg", default="L1", choices=("L1", "L2", "L3"))
    command.add_argument("--ohms", type=float, default=0.01, metavar="OHMS", help="resistance of a fault")
    command.add_argument("--arc", type=float, metavar="VOLTS", help="the fault is an arc that keeps so many volts")
    command.add_argument("--draw", default="impedance", choices=get_args(LoadDraw), help="how loads draw")
    command.add_argument("--kept", metavar="NAME", help="a scenario that is kept with the job, in place of all these")
    command.add_argument("--position", default="", metavar="NAME", help="position of the gear, by its name")
    command.add_argument("--existing", action="store_true", help="what stands instead of the proposal")
    command.add_argument("--netlist", type=Path, metavar="CIR", help="write the circuit as a SPICE netlist")
    command.add_argument("--json", action="store_true", help="print the outcome as JSON")


def study_command(options: argparse.Namespace, document: Document) -> int:
    """Carry out the command on a job; return 0, or 2 where it cannot be told."""
    report = check(document, "existing" if options.existing else "proposed")
    try:
        situation, position = _asked(options, document)
        if options.netlist is not None:
            options.netlist.write_text(study_netlist(report, situation, position))
        outcome = study(report, situation, position)
    except CannotCompute as reason:
        return tell([Issue("cannot_compute", "study", reason.reason, reason.remedy)], options.json)
    except ValidationError as failure:
        return tell([_out_of_bounds(failure)], options.json)
    print(outcome.model_dump_json(indent=2) if options.json else _text(outcome))
    return DONE


def _asked(options: argparse.Namespace, document: Document) -> tuple[Situation, str]:
    """The situation and the position that the options tell, or that the job keeps under a name.

    Raises:
        CannotCompute: the job keeps no such scenario.
    """
    if options.kept is None:
        situation = Situation(
            kind=options.scenario,
            place=options.place,
            leg=options.leg,
            fault_ohms=options.ohms,
            arc_volts=options.arc,
            draw=options.draw,
        )
        return situation, options.position
    kept = next((item for item in document.scenarios if options.kept in (item.id, item.name)), None)
    if kept is None:
        names = ", ".join(item.name for item in document.scenarios) or "none"
        raise CannotCompute(f"The job keeps no scenario {options.kept!r}.", f"Kept: {names}.")
    return situation_of(kept), kept.position


def _out_of_bounds(failure: ValidationError) -> Issue:
    """The first option whose figure is outside of what is studied."""
    first = failure.errors()[0]
    option = {"fault_ohms": "--ohms", "arc_volts": "--arc", "place": "--place"}.get(str(first["loc"][0]), "study")
    return Issue("out_of_bounds", option, f"{first['msg']}.", "Enter a figure within these bounds.")


def _text(outcome: StudyOut) -> str:
    lines = [*outcome.sentences, ""]
    for run in outcome.runs:
        lines.append(f"{run.name}: " + ", ".join(f"{role} {value:g} A" for role, value in run.amperes.items()))
    for box in outcome.boxes:
        lines.append(f"{box.name}: metal " + (f"{box.metal:g} V to earth" if box.metal is not None else "floats"))
    opening = [item for item in outcome.devices if item.opens not in ("stays", "unknown")]
    lines += [f"{item.name}: {item.amperes:g} A, {item.opens.replace('_', ' ')}" for item in opening]
    return "\n".join([*lines, "", f"Assumed: {'; '.join(outcome.assumed)}."])
