"""The signed answers that are kept with a revision: what was worked out then, and by what."""

from __future__ import annotations

from typing import Any

from nelvor.report.check import Report
from nelvor.report.subjects import SUBJECTS


def signed_summary(report: Report) -> dict[str, Any]:
    """Return the figures of a report as text, by kind and thing, signed with edition, rulebook and engine."""
    return {
        "signature": vars(report.signature),
        "counts": {outcome: report.count(outcome) for outcome in ("must_fix", "advice", "cannot_tell", "holds")},
        "answers": {
            subject.kind: {
                thing_id: {name: f"{figure.text} {figure.unit}".strip() for name, figure in answer.figures.items()}
                for thing_id, answer in report.of(subject.kind).items()
                if answer.figures
            }
            for subject in SUBJECTS
        },
        "bonds": {enclosure_id: bond.decision for enclosure_id, bond in report.bonds.items()},
    }
