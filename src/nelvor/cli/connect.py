"""``nelvor connect``: every way to connect a source, those with the least work first, each with its arithmetic."""

from __future__ import annotations

import argparse
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from nelvor.cli.told import tell
from nelvor.errors import CannotCompute, Issue, NotFound
from nelvor.model.document import Document
from nelvor.model.parse import issue_of
from nelvor.report.check import Report
from nelvor.report.panel_schedule import panel_named
from nelvor.report.trials import Trials
from nelvor.report.ways_to_connect import WayOut, WaysOut, ways_for_source, ways_to_connect
from nelvor.report.words import thing_words
from nelvor.ways.way import WantedSource

FOUND, NONE_PASSES = 0, 1
OUTCOME_WORDS = {"passes": "PASSES", "fails": "FAILS", "cannot_tell": "CANNOT TELL"}


def add_connect_command(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    """Declare the command."""
    connect = commands.add_parser("connect", help="print every way to connect a source")
    connect.add_argument("job", type=Path, help="the job as JSON, or - for standard input")
    what = connect.add_mutually_exclusive_group(required=True)
    what.add_argument("--source", metavar="NAME", help="name or id of a source of the design, wherever it is joined")
    what.add_argument("--output", type=float, metavar="A", help="rated output in amperes of one that is wanted")
    connect.add_argument("--panel", metavar="NAME", help="with --output: the panel that is thought of first")
    connect.add_argument("--json", action="store_true", help="print the ways as JSON")


def connect_command(options: argparse.Namespace, document: Document) -> int:
    """Carry out the command; return 0, 1 where no way passes, or 2 for what cannot be asked."""
    at = "--source" if options.source else "--panel"
    job, checked = document.model_dump(mode="json"), Trials().checked
    try:
        found = _ways(options, job, checked(job), checked)
    except CannotCompute as reason:
        return tell([Issue("cannot_compute", at, reason.reason, reason.remedy)], options.json)
    except NotFound as failure:
        return tell([Issue("not_found", at, str(failure), "")], options.json)
    except ValidationError as failure:
        return tell([issue_of("--output", error) for error in failure.errors()], options.json)
    print(found.model_dump_json(indent=2) if options.json else "\n".join(_lines(found)))
    return FOUND if any(way.outcome == "passes" for way in found.ways) else NONE_PASSES


def _ways(options: argparse.Namespace, job: dict[str, Any], report: Report, checked: Any) -> WaysOut:
    if options.source:
        return ways_for_source(job, checked, _source_named(report, options.source))
    if not options.panel:
        raise NotFound("Name the panel that is thought of first with --panel.")
    panel = panel_named(report, options.panel)
    return ways_to_connect(job, checked, panel.bus.enclosure_id, WantedSource(output_a=options.output))


def _source_named(report: Report, wanted: str) -> str:
    own = [source.id for source in report.site.document.sources if source.kind != "utility"]
    found = [item for item in own if item == wanted]
    found = found or [item for item in own if thing_words(report, item).casefold() == wanted.casefold()]
    if len(found) == 1:
        return found[0]
    known = ", ".join(f"{thing_words(report, item)} ({item})" for item in own) or "none but the utility"
    raise NotFound(f"{'Several sources are' if found else 'No source is'} called {wanted!r}. Known: {known}.")


def _lines(found: WaysOut) -> Iterator[str]:
    yield found.told
    for way in found.ways:
        yield ""
        yield from _way(way)


def _way(way: WayOut) -> Iterator[str]:
    largest = f"; largest output {way.largest_a} A" if way.largest_a else ""
    short = f", short by {way.short_by_a} A" if way.short_by_a else ""
    yield f"{OUTCOME_WORDS[way.outcome]}: {way.title}{largest}{short}"
    for reason in way.reasons:
        yield f"  {f'{reason.name}: ' if reason.name else ''}{reason.text} {reason.section}".rstrip()
    for rule in way.rules:
        mark = {True: "+", False: "-", None: "?"}[rule.passes]
        yield f"  {mark} {rule.place}, {rule.rule}: {rule.why} ({rule.section})"
    yield from (f"  follows: {item}" for item in way.follows)
    yield from (f"  must be true: {item}" for item in way.conditions)
    if way.consent:
        yield f"  agrees: {way.consent}"
    for part in way.parts:
        yield f"  part: {part.words}" + ("" if part.price is None else f", {part.price:.2f}")
    yield from (f"  label: {item}" for item in way.labels)
    if way.why:
        yield f"  why it may be right: {way.why}"
    price = "price not known" if way.price is None else f"parts {way.price:.2f}, without labor"
    yield f"  {way.steps} steps of work, {price}" if way.steps else f"  {price}"
