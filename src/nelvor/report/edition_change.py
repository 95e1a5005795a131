"""What another edition would change of a job: figures, sections and findings, before it is accepted."""

from __future__ import annotations

from collections import Counter
from typing import Literal

from nelvor.judges.verdict import Verdict
from nelvor.report.check import Report
from nelvor.report.subjects import SUBJECTS
from nelvor.report.wire import FigureOut, Wire, figure_out
from nelvor.report.words import thing_words


class FigureChangeOut(Wire):
    name: str
    figure: str
    before: str
    after: str


class SectionChangeOut(Wire):
    before: str
    after: str
    times: int


class FindingChangeOut(Wire):
    change: Literal["comes", "goes"]
    outcome: Literal["must_fix", "advice", "cannot_tell"]
    name: str
    text: str
    section: str


class EditionChangeOut(Wire):
    before: str
    after: str
    figures: list[FigureChangeOut]
    sections: list[SectionChangeOut]
    findings: list[FindingChangeOut]


Key = tuple[str, str, str]
LABELS = {("level", "demand"): "calculated load", ("level", "neutral"): "neutral load"}


def edition_change(before: Report, after: Report) -> EditionChangeOut:
    """Return what differs between the reports of one document under two editions."""
    old, new = _figures(before), _figures(after)
    figures, sections = [], Counter[tuple[str, str]]()
    for key in dict.fromkeys([*old, *new]):
        was, now = old.get(key), new.get(key)
        was_text, now_text = _text(was), _text(now)
        if was_text != now_text:
            figures.append(
                FigureChangeOut(
                    name=thing_words(after, key[1]), figure=key[2].replace("_", " "), before=was_text, after=now_text
                )
            )
        if was and now and was.section != now.section:
            sections[was.section, now.section] += 1
    return EditionChangeOut(
        before=before.signature.edition,
        after=after.signature.edition,
        figures=figures,
        sections=[SectionChangeOut(before=pair[0], after=pair[1], times=times) for pair, times in sections.items()],
        findings=_findings(before, after),
    )


def _text(figure: FigureOut | None) -> str:
    return f"{figure.value} {figure.unit}".strip() if figure else "none"


def _figures(report: Report) -> dict[Key, FigureOut]:
    found: dict[Key, FigureOut] = {}
    for subject in SUBJECTS:
        for thing_id, answer in report.of(subject.kind).items():
            for name, figure in answer.figures.items():
                part, _, stretch_id = name.partition(":")
                label = LABELS.get((subject.kind, part), f"least {part}" if subject.kind == "box" else part)
                found[subject.kind, stretch_id or thing_id, label] = figure_out(figure)
    return found


def _findings(before: Report, after: Report) -> list[FindingChangeOut]:
    def keys(report: Report) -> dict[tuple[str, str, str], Verdict]:
        return {(item.code, item.id, item.outcome): item for item in report.findings}

    old, new = keys(before), keys(after)
    goes = [_finding("goes", before, old[key]) for key in old if key not in new]
    return [_finding("comes", after, new[key]) for key in new if key not in old] + goes


def _finding(change: Literal["comes", "goes"], report: Report, verdict: Verdict) -> FindingChangeOut:
    assert verdict.outcome != "holds"  # what holds is not among the findings
    return FindingChangeOut(
        change=change,
        outcome=verdict.outcome,
        name=thing_words(report, verdict.id),
        text=verdict.text,
        section=verdict.section,
    )
