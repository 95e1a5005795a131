"""What another edition would change of a job: figures, sections and findings, before it is accepted."""

from __future__ import annotations

from collections import Counter

from nelvor.report.check import Report
from nelvor.report.report_changes import (
    FigureChangeOut,
    FindingChangeOut,
    figure_changes,
    figures_of,
    finding_changes,
)
from nelvor.report.sent import Wire


class SectionChangeOut(Wire):
    before: str
    after: str
    times: int


class EditionChangeOut(Wire):
    before: str
    after: str
    figures: list[FigureChangeOut]
    sections: list[SectionChangeOut]
    findings: list[FindingChangeOut]


def edition_change(before: Report, after: Report) -> EditionChangeOut:
    """Return what differs between the reports of one document under two editions."""
    old, new = figures_of(before), figures_of(after)
    moved = [(old[key].section, new[key].section) for key in old if key in new]
    sections = Counter(pair for pair in moved if pair[0] != pair[1])
    return EditionChangeOut(
        before=before.signature.edition,
        after=after.signature.edition,
        figures=figure_changes(before, after),
        sections=[SectionChangeOut(before=pair[0], after=pair[1], times=times) for pair, times in sections.items()],
        findings=finding_changes(before, after),
    )
