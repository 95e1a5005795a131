"""The signed answers that are stored with a revision: what was worked out then, and by what."""

from __future__ import annotations

from typing import Any

from nelvor.judges.loads import LevelLoad
from nelvor.report.check import Report


def signed_summary(report: Report) -> dict[str, Any]:
    """Return the figures of a report as text, signed with edition, rulebook and engine."""
    return {
        "signature": vars(report.signature),
        "counts": {outcome: report.count(outcome) for outcome in ("must_fix", "advice", "cannot_tell", "holds")},
        "runs": {
            run_id: {name: f"{figure.text} {figure.unit}".strip() for name, figure in answer.figures.items()}
            for run_id, answer in report.runs.items()
        },
        "loads": {
            enclosure_id: f"{level.demand_va.text} VA"
            for enclosure_id, level in report.levels.items()
            if isinstance(level, LevelLoad)
        },
        "boxes": {
            box_id: {name: f"{figure.text} {figure.unit}" for name, figure in answer.figures.items()}
            for box_id, answer in report.boxes.items()
        },
        "bonds": {enclosure_id: bond.decision for enclosure_id, bond in report.bonds.items()},
    }
