"""``./nelvor``: check a job document, work out quick figures, print schemas."""

from __future__ import annotations

import argparse
import json
import os
import sys
import traceback
from collections.abc import Callable
from datetime import date
from pathlib import Path

from nelvor.cli.bonds import add_bonds_command, bonds_command
from nelvor.cli.connect import add_connect_command, connect_command
from nelvor.cli.diagnose import add_diagnose_command, diagnose_command
from nelvor.cli.figure import figure_command
from nelvor.cli.keeping import add_keeping_commands, keeping_command
from nelvor.cli.panel import add_panel_command, panel_command
from nelvor.cli.study import add_study_command, study_command
from nelvor.cli.told import tell
from nelvor.errors import BadInput, Issue, UnknownEdition
from nelvor.model.document import Document
from nelvor.model.parse import parse_bytes
from nelvor.model.schema import job_schema
from nelvor.report.check import Report, check
from nelvor.report.order_of_work import order_of_work, steps_text
from nelvor.report.text import report_text
from nelvor.report.wire import report_out

NO_MUST_FIX, MUST_FIX = 0, 1
FAILED = 3


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="nelvor", description="Feeders, sub-panels and bonding, with working shown.")
    commands = parser.add_subparsers(dest="command", required=True)
    checking = commands.add_parser("check", help="check a job document")
    checking.add_argument("job", type=Path, help="the job as JSON, or - for standard input")
    checking.add_argument("--json", action="store_true", help="print the whole report as JSON")
    checking.add_argument("--strict", action="store_true", help="end with 1 when something cannot be told")
    checking.add_argument("--existing", action="store_true", help="check what stands instead of the proposal")
    steps = commands.add_parser("steps", help="print the order of work from what stands to what is proposed")
    steps.add_argument("job", type=Path, help="the job as JSON, or - for standard input")
    steps.add_argument("--json", action="store_true", help="print the steps as JSON")
    packet = commands.add_parser("packet", help="write the packet for the office as PDF")
    packet.add_argument("job", type=Path, help="the job as JSON, or - for standard input")
    packet.add_argument("-o", "--output", type=Path, required=True, metavar="PDF", help="the file to write")
    packet.set_defaults(json=False)
    add_panel_command(commands)
    add_bonds_command(commands)
    add_connect_command(commands)
    add_study_command(commands)
    add_diagnose_command(commands)
    commands.add_parser("schema", help="print the JSON Schema of the job document")
    quick = commands.add_parser("figure", help="work out a quick figure without a job")
    quick.add_argument("name", nargs="?", help="name of the figure")
    quick.add_argument("--list", action="store_true", help="list the figures")
    quick.add_argument("--schema", metavar="NAME", help="print the JSON Schema of a figure's inputs")
    quick.add_argument("--json", metavar="INPUTS", help="the inputs as JSON, or - for standard input")
    add_keeping_commands(commands)
    _add_user_commands(commands)
    return parser


def _add_user_commands(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    users = commands.add_parser("user", help="members of a shop (needs the database of ./start)")
    user_commands = users.add_subparsers(dest="user_command", required=True)
    adding = user_commands.add_parser("add", help="add a member; the password is asked for")
    adding.add_argument("email")
    adding.add_argument("--shop", required=True, help="name of the shop; made when it is not there")
    adding.add_argument("--name", default="")
    adding.add_argument("--role", default="designer", choices=["owner", "designer", "field", "reviewer"])
    giving = user_commands.add_parser("password", help="give a member a new password, which is asked for")
    giving.add_argument("email")


def main(arguments: list[str] | None = None) -> int:
    """Run the command; return 0 for no must-fix, 1 for a must-fix, 2 for bad input."""
    options = _parser().parse_args(arguments)
    if options.command == "schema":
        print(json.dumps(job_schema(), indent=2))
        return NO_MUST_FIX
    if options.command == "figure":
        return figure_command(options)
    if options.command in ("backup", "restore"):
        return keeping_command(options)
    if options.command == "user":
        from nelvor.cli.users import add_user, give_password  # only this command needs the database

        return add_user(options) if options.user_command == "add" else give_password(options)
    return _told(options, COMMANDS[options.command])


def _told(options: argparse.Namespace, command: Callable[[argparse.Namespace, Document], int]) -> int:
    """Read the job and carry out a command on it; what is wrong with the job is told, and ends with 2."""
    try:
        raw = sys.stdin.buffer.read() if str(options.job) == "-" else options.job.read_bytes()
        return command(options, parse_bytes(raw))
    except BrokenPipeError:
        raise  # nobody reads the output to its end: no fault of the file
    except OSError as failure:
        return tell(
            [Issue("unreadable", str(options.job), f"the file cannot be read: {failure.strerror}.", "Check its name.")],
            options.json,
        )
    except BadInput as failure:
        return tell(failure.issues, options.json)
    except UnknownEdition as failure:
        return tell(
            [Issue("unknown_edition", "settings.edition", str(failure), f"Choose one of {', '.join(failure.known)}.")],
            options.json,
        )


def _check(options: argparse.Namespace, document: Document) -> int:
    report = check(document, "existing" if options.existing else "proposed")
    print(report_out(report).model_dump_json(indent=2) if options.json else report_text(report))
    return _status(report, options.strict)


def _steps(options: argparse.Namespace, document: Document) -> int:
    order = order_of_work(check(document, "existing"), check(document))
    if options.json:
        print(order.model_dump_json(indent=2))
    else:
        print(steps_text(order))
    return NO_MUST_FIX


def _packet(options: argparse.Namespace, document: Document) -> int:
    from nelvor.paper.permit import permit_sheet  # only this command needs the PDF library

    report = check(document)
    options.output.write_bytes(permit_sheet(report, check(document, "existing"), on=date.today()))
    return _status(report, strict=False)


def _status(report: Report, strict: bool) -> int:
    if report.count("must_fix") or (strict and report.count("cannot_tell")):
        return MUST_FIX
    return NO_MUST_FIX


COMMANDS = {
    "check": _check,
    "steps": _steps,
    "packet": _packet,
    "panel": panel_command,
    "bonds": bonds_command,
    "connect": connect_command,
    "study": study_command,
    "diagnose": diagnose_command,
}


def run() -> int:
    """Run the command; a fault of ours ends with 3, and an output that nobody reads to its end is no fault."""
    try:
        status = main()
        sys.stdout.flush()
    except BrokenPipeError:
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return NO_MUST_FIX
    except Exception:
        traceback.print_exc()
        return FAILED
    return status


if __name__ == "__main__":
    sys.exit(run())
