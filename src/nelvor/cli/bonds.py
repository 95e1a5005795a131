"""``nelvor bonds``: what is decided for neutral and ground in every box, and where each live system is bonded."""

from __future__ import annotations

import argparse
import json
from pathlib import Path

from nelvor.cli.told import tell
from nelvor.errors import Issue
from nelvor.model.document import Document
from nelvor.report.check import Report, check
from nelvor.report.positions_played import positions_out
from nelvor.report.sent import PositionOut
from nelvor.report.wire import enclosure_out
from nelvor.report.words import DECISION_WORDS, FOUND_WORDS, thing_words

DONE, WRONG = 0, 1
OF_BONDS = frozenset(
    {"bond", "second_bond", "no_bond", "other_neutral", "ground_missing", "jumper_missing", "wrong_bar"}
)


def add_bonds_command(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    """Declare the command."""
    bonds = commands.add_parser("bonds", help="print where neutral and ground meet, box by box and in every position")
    bonds.add_argument("job", type=Path, help="the job as JSON, or - for standard input")
    bonds.add_argument("--position", metavar="WORDS", help="only the positions in whose name these words stand")
    bonds.add_argument("--existing", action="store_true", help="what stands instead of the proposal")
    bonds.add_argument("--json", action="store_true", help="print boxes and positions as JSON")


def bonds_command(options: argparse.Namespace, document: Document) -> int:
    """Carry out the command; return 0, 1 where a bond is wrong, or 2 where no position has that name."""
    report = check(document, "existing" if options.existing else "proposed")
    known = positions_out(report)
    wanted = (options.position or "").casefold()
    shown = [item for item in known if wanted in item.name.casefold()]
    if options.position and not shown:
        names = ", ".join(item.name for item in known) or "none; nothing is switched over here"
        reason = f"no position is called {options.position!r}."
        return tell([Issue("not_found", "--position", reason, f"Known: {names}.")], options.json)
    if options.json:
        boxes = {key: enclosure_out(report, key).model_dump(mode="json") for key in report.bonds}
        told = {"boxes": boxes, "positions": [item.model_dump(mode="json") for item in shown]}
        print(json.dumps(told, indent=2))
    else:
        print("\n".join([*_boxes(report), *(line for item in shown for line in _position(report, item))]))
    return WRONG if any(item.code in OF_BONDS and item.outcome == "must_fix" for item in report.findings) else DONE


def _boxes(report: Report) -> list[str]:
    lines = []
    for enclosure_id, bond in report.bonds.items():
        found = FOUND_WORDS[bond.found]
        lines.append(
            f"{thing_words(report, enclosure_id)}: {DECISION_WORDS[bond.decision]}; found {found}. {bond.section}"
        )
        lines += [f"  {part}" for part in bond.parts]
    return lines


def _position(report: Report, position: PositionOut) -> list[str]:
    lines = ["", f"{position.name}:"]
    for system in position.systems:
        at = ", ".join(thing_words(report, item) for item in system.places) or "nowhere"
        lines.append(f"  {' and '.join(system.sources)}: neutral meets metal at {at}")
    dark = [thing_words(report, item) for item in report.bonds if item not in position.live]
    return [*lines, *([f"  not live: {', '.join(dark)}"] if dark else [])]
