"""What differs between two reports of one job: figures that move, findings that come and go."""

from __future__ import annotations

from typing import Literal

from nelvor.judges.verdict import Verdict
from nelvor.report.check import Report
from nelvor.report.sent import FigureOut, Wire, figure_out
from nelvor.report.subjects import SUBJECTS
from nelvor.report.words import thing_words


class FigureChangeOut(Wire):
    name: str
    figure: str
    before: str
    after: str


class FindingChangeOut(Wire):
    change: Literal["comes", "goes"]
    outcome: Literal["must_fix", "advice", "cannot_tell"]
    name: str
    text: str
    section: str


Key = tuple[str, str, str]
LABELS = {("level", "demand"): "calculated load", ("level", "neutral"): "neutral load"}


def figures_of(report: Report) -> dict[Key, FigureOut]:
    """Return the figures of a report by kind, thing and what they are called."""
    found: dict[Key, FigureOut] = {}
    for subject in SUBJECTS:
        for thing_id, answer in report.of(subject.kind).items():
            for name, figure in answer.figures.items():
                part, _, stretch_id = name.partition(":")
                label = LABELS.get((subject.kind, part), f"least {part}" if subject.kind == "box" else part)
                found[subject.kind, stretch_id or thing_id, label] = figure_out(figure)
    return found


def figure_changes(before: Report, after: Report) -> list[FigureChangeOut]:
    """Return the figures that read otherwise."""
    old, new = figures_of(before), figures_of(after)
    found = []
    for key in dict.fromkeys([*old, *new]):
        was, now = _text(old.get(key)), _text(new.get(key))
        if was != now:
            name, figure = thing_words(after, key[1]), key[2].replace("_", " ")
            found.append(FigureChangeOut(name=name, figure=figure, before=was, after=now))
    return found


def _text(figure: FigureOut | None) -> str:
    return f"{figure.value} {figure.unit}".strip() if figure else "none"


def finding_changes(before: Report, after: Report) -> list[FindingChangeOut]:
    """Return the findings that come, and then those that go."""

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
