"""``nelvor diagnose``: what readings tell of a site that misbehaves, and what to read next."""

from __future__ import annotations

import argparse
from collections.abc import Iterator
from pathlib import Path

from nelvor.cli.told import tell
from nelvor.errors import BadInput, CannotCompute, Issue
from nelvor.exchange.readings_csv import read_readings, write_readings
from nelvor.model.document import Document
from nelvor.report.check import check
from nelvor.study.diagnosis.answer import Bench
from nelvor.study.diagnosis.readings import DiagnosisOut, Meter, Reading
from nelvor.study.situation import Situation

DONE = 0


def add_diagnose_command(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    """Declare the command."""
    command = commands.add_parser("diagnose", help="tell what readings of a site that misbehaves mean")
    command.add_argument("job", type=Path, help="the job as JSON, or - for standard input")
    command.add_argument("readings", type=Path, nargs="?", help="readings as CSV; none asks for the first")
    command.add_argument("--existing", action="store_true", help="what stands instead of the proposal")
    command.add_argument("--position", default="", metavar="NAME", help="position of the gear, by its name")
    command.add_argument("--off", nargs="*", default=[], metavar="ID", help="loads that were switched off")
    command.add_argument("--stated", action="store_true", help="loads at what is stated of them, and not as calculated")
    command.add_argument(
        "--load-doubt", type=float, default=10.0, metavar="%", help="doubt about the loads that were on"
    )
    command.add_argument("--practice", type=int, metavar="N", help="read the site with the fault hidden by this number")
    command.add_argument("--json", action="store_true", help="print the diagnosis as JSON")


def diagnose_command(options: argparse.Namespace, document: Document) -> int:
    """Carry out the command on a job; return 0, or 2 where it cannot be told."""
    report = check(document, "existing" if options.existing else "proposed")
    situation = Situation(loads_off=frozenset(options.off), use="stated" if options.stated else "calculated")
    meter = Meter(load_doubt_percent=options.load_doubt)
    try:
        bench = Bench(report, situation, options.position)
        if options.practice is not None:
            print(_practice(bench, options.practice, meter), end="")
            return DONE
        text = options.readings.read_text() if options.readings is not None else ""
        readings: list[Reading] = read_readings(text, bench.responses.seen) if text else []
        found = bench.diagnosed(readings, meter)
    except CannotCompute as reason:
        return tell([Issue("cannot_compute", "diagnose", reason.reason, reason.remedy)], options.json)
    except BadInput as failure:
        return tell(failure.issues, options.json)
    print(found.model_dump_json(indent=2) if options.json else "\n".join(_lines(found)))
    return DONE


def _practice(bench: Bench, number: int, meter: Meter) -> str:
    """The readings that a diagnosis asks for one after another at a site with a hidden fault, as CSV."""
    readings: list[Reading] = []
    while (asked := bench.diagnosed(readings, meter).next) is not None and len(readings) < len(bench.responses.seen):
        readings.append(bench.simulated(number, asked.observable.id, meter))
    return write_readings(readings, bench.responses.seen)


def _lines(found: DiagnosisOut) -> Iterator[str]:
    yield found.told
    for cause in found.causes:
        yield ""
        yield f"{cause.share:.0%} {cause.words}{'' if cause.fits else ' (does not give all readings)'}"
        if cause.worst is not None:
            yield f"  {cause.worst.words}: read {cause.worst.read:g}, it would be {cause.worst.expected:g} {cause.worst.unit}"
        yield from (f"  would show: {item}" for item in cause.would_show)
        yield from (f"  {sentence}" for sentence in cause.sentences)
        yield from (f"  mend: {step}" for step in cause.mend)
    if found.contradicting:
        yield ""
        yield f"Without this reading one cause would give all others: {'; '.join(found.contradicting)}."
    if found.next is not None:
        cover = " (behind a cover)" if found.next.observable.care == "behind_cover" else ""
        yield ""
        yield f"Read next: {found.next.observable.what}, {found.next.observable.place}{cover}"
        yield from (f"  {item}" for item in found.next.expected)
    yield ""
    yield from found.cautions
