"""What a mend does, told before it is taken: the change in plain words, and what else it moves."""

from __future__ import annotations

from collections.abc import Sequence

from nelvor.model.changes.operations import Operation
from nelvor.report.check import Report
from nelvor.report.order_of_work import changes_in_words
from nelvor.report.parts_bought import PartOut, priced
from nelvor.report.report_changes import FigureChangeOut, FindingChangeOut, figure_changes, finding_changes
from nelvor.report.sent import Wire


class MendEffectOut(Wire):
    """``changes`` are the steps in their order, ``parts`` what is bought; figures that read otherwise and findings that come and go
    follow."""

    changes: list[str]
    parts: list[PartOut]
    figures: list[FigureChangeOut]
    findings: list[FindingChangeOut]


def mend_effect(before: Report, after: Report, operations: Sequence[Operation]) -> MendEffectOut:
    """Return what differs between the report of a document and that of the same document with the operations of a mend."""
    return MendEffectOut(
        changes=changes_in_words(before, after),
        parts=list(priced(after, operations)),
        figures=figure_changes(before, after),
        findings=finding_changes(before, after),
    )
