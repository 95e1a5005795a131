"""``./nelvor figure``: quick figures without a job, as JSON."""

from __future__ import annotations

import argparse
import json
import sys

from nelvor.cli.told import BAD_INPUT, tell
from nelvor.errors import BadInput, CannotCompute, Issue, NotFound, UnknownEdition
from nelvor.figures import all_figures, find_figure, work_out
from nelvor.model.parse import read_json

WORKED_OUT = 0


def figure_command(options: argparse.Namespace) -> int:
    """List the figures, print a schema, or work one out; return 0, or 2 for bad input or no answer."""
    try:
        if options.list:
            for figure in all_figures().values():
                print(f"{figure.name:24}{figure.question}")
            return WORKED_OUT
        if options.schema:
            print(json.dumps(find_figure(options.schema).schema(), indent=2))
            return WORKED_OUT
        return _work_out(options)
    except NotFound as failure:
        print(str(failure), file=sys.stderr)
        return BAD_INPUT


def _work_out(options: argparse.Namespace) -> int:
    if options.name is None:
        print("Name a figure; --list shows them all.", file=sys.stderr)
        return BAD_INPUT
    figure = find_figure(options.name)
    if options.json is None:
        example = json.dumps(figure.example)
        print(f"Give the inputs, for instance: ./nelvor figure {figure.name} --json '{example}'", file=sys.stderr)
        return BAD_INPUT
    raw = sys.stdin.buffer.read() if options.json == "-" else options.json.encode()
    try:
        answer = work_out(figure.name, read_json(raw))
    except BadInput as failure:
        return tell(failure.issues, as_json=True, what=figure.name)
    except UnknownEdition as failure:
        remedy = f"Choose one of {', '.join(failure.known)}."
        return tell([Issue("unknown_edition", "edition", str(failure), remedy)], as_json=True)
    except CannotCompute as failure:
        return tell([Issue("cannot_compute", "", failure.reason, failure.remedy)], as_json=True, what=figure.name)
    print(answer.model_dump_json(indent=2))
    return WORKED_OUT
