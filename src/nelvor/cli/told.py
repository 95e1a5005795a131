"""Telling bad input on the command line: each issue with field, reason and remedy."""

from __future__ import annotations

import json
import sys

from nelvor.errors import Issue

BAD_INPUT = 2


def tell(issues: list[Issue], as_json: bool, what: str = "job") -> int:
    """Print issues, and return the exit status of bad input."""
    if as_json:
        print(json.dumps({"issues": [vars(issue) for issue in issues]}, indent=2))
    for issue in issues:
        print(f"{issue.path or what}: {issue.reason} {issue.remedy}", file=sys.stderr)
    return BAD_INPUT
