"""``nelvor panel``: the schedule of a panel, its circuits as CSV, or the moves that balance its legs."""

from __future__ import annotations

import argparse
from fractions import Fraction
from pathlib import Path

from nelvor.cli.told import tell
from nelvor.errors import CannotCompute, Issue, NotFound
from nelvor.exchange.circuits_csv import write_circuits
from nelvor.model.document import Document
from nelvor.report.check import check
from nelvor.report.panel_balance import BalanceOut, panel_balance
from nelvor.report.panel_schedule import CircuitOut, ScheduleOut, panel_named
from nelvor.report.wire import schedule_of

DONE = 0


def add_panel_command(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    """Declare the command."""
    panel = commands.add_parser("panel", help="print the schedule of a panel")
    panel.add_argument("job", type=Path, help="the job as JSON, or - for standard input")
    panel.add_argument("--panel", required=True, metavar="NAME", help="name or id of the panel")
    panel.add_argument(
        "--balance", type=_amperes, metavar="A", help="the fewest moves that bring the legs within A amperes"
    )
    panel.add_argument("--csv", action="store_true", help="print its circuits as CSV")
    panel.add_argument("--json", action="store_true", help="print the schedule, or the moves, as JSON")
    panel.add_argument("--existing", action="store_true", help="what stands instead of the proposal")


def _amperes(text: str) -> Fraction:
    value = Fraction(text)
    if value < 0:
        raise ValueError(text)
    return value


def panel_command(options: argparse.Namespace, document: Document) -> int:
    """Carry out the command on a job; return 0, or 2 where the panel is not there or cannot be told."""
    report = check(document, "existing" if options.existing else "proposed")
    try:
        answer = panel_named(report, options.panel)
        if options.csv:
            print(write_circuits(report.site.document, answer.bus.id), end="")
        elif options.balance is not None:
            moves = panel_balance(report, answer.bus.id, options.balance)
            print(moves.model_dump_json(indent=2) if options.json else _moves_text(moves))
        else:
            schedule = schedule_of(report, answer)
            print(schedule.model_dump_json(indent=2) if options.json else _schedule_text(schedule))
    except CannotCompute as reason:
        return tell([Issue("cannot_compute", options.panel, reason.reason, reason.remedy)], options.json)
    except NotFound as failure:
        return tell([Issue("not_found", "--panel", str(failure), "")], options.json)
    return DONE


def _schedule_text(schedule: ScheduleOut) -> str:
    lines = [f"{schedule.name}: {len(schedule.spaces)} spaces, {schedule.free_spaces} free"]
    lines += [_circuit_line(circuit) for circuit in schedule.circuits]
    lines += [f"{leg}: {figure.value} A" for leg, figure in schedule.amperes.items()]
    return "\n".join(lines)


def _circuit_line(circuit: CircuitOut) -> str:
    spaces = ",".join(f"{spot.space}{'ab'[spot.half == 'second'] if spot.half else ''}" for spot in circuit.spots)
    rating = f"{circuit.rating_a:g} A" if circuit.rating_a is not None else "? A"
    load = f"{' / '.join(circuit.poles_a)} A" if circuit.poles_a else ""
    cells = (spaces.rjust(8), circuit.name[:34].ljust(34), f"{circuit.poles}P", rating.rjust(6), " ".join(circuit.legs))
    return "  ".join((*cells, load)).rstrip()


def _moves_text(found: BalanceOut) -> str:
    lines = [found.words]
    for move in found.moves:
        lifted = " (lift it out first)" if move.lifted else ""
        lines.append(f"  {move.name}: space {move.from_space} to space {move.to_space}{lifted}")
    lines += [f"{leg.leg}: {leg.before} A, then {leg.after} A" for leg in found.legs]
    return "\n".join(lines)
