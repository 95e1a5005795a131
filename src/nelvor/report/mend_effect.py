"""What a mend does, told before it is taken: the change in plain words, and what else it moves."""

from __future__ import annotations

from nelvor.report.check import Report
from nelvor.report.order_of_work import changes_in_words
from nelvor.report.report_changes import FigureChangeOut, FindingChangeOut, figure_changes, finding_changes
from nelvor.report.sent import Wire


class MendEffectOut(Wire):
    """``changes`` are the steps in their order; figures that read otherwise and findings that come and go follow."""

    changes: list[str]
    figures: list[FigureChangeOut]
    findings: list[FindingChangeOut]


def mend_effect(before: Report, after: Report) -> MendEffectOut:
    """Return what differs between the report of a document and that of the same document with a mend."""
    return MendEffectOut(
        changes=changes_in_words(before, after),
        figures=figure_changes(before, after),
        findings=finding_changes(before, after),
    )
