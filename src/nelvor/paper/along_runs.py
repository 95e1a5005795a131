"""What lies along the runs: stretches that differ, pull boxes and conduit bodies."""

from __future__ import annotations

from reportlab.platypus import Flowable

from nelvor.clauses.wiring_methods import METHOD_WORDS
from nelvor.judges.run import RunAnswer
from nelvor.model.things import Stretch
from nelvor.paper.schedule import NOT_KNOWN, heading, schedule
from nelvor.report.check import Report
from nelvor.report.words import box_words, thing_words
from nelvor.topology.names import run_name
from nelvor.working import exact, shown


def along_runs(report: Report, width: float) -> list[Flowable]:
    """Return the heading and table of what lies along the runs; nothing where nothing does."""
    rows = [*_stretches(report), *_boxes(report)]
    if not rows:
        return []
    return [heading("Along the runs"), schedule(("Run", "What", "How"), rows, (30, 30, 64), width)]


def _stretches(report: Report) -> list[list[str]]:
    return [
        [run_name(report.site, answer.run), stretch.name or "stretch", _laid(stretch, answer)]
        for run_id, answer in report.runs.items()
        for stretch in report.site.stretches_of.get(run_id, [])
    ]


def _laid(stretch: Stretch, answer: RunAnswer) -> str:
    parts = [NOT_KNOWN if stretch.length_ft is None else f"{shown(exact(stretch.length_ft))} ft"]
    if stretch.placement:
        parts.append(stretch.placement)
    trade_size = answer.figures.get(f"raceway:{stretch.id}")
    if stretch.method:
        parts.append(METHOD_WORDS[stretch.method])
    if trade_size:
        parts.append(f"{trade_size.text} in")
    if stretch.ambient_c is not None:
        parts.append(f"{shown(exact(stretch.ambient_c))} °C")
    if stretch.other_current_carrying is not None:
        parts.append(f"{stretch.other_current_carrying} others carrying")
    cover = answer.figures.get(f"cover:{stretch.id}")
    if cover:
        parts.append(f"{cover.text} in of cover")
    return ", ".join(parts)


def _boxes(report: Report) -> list[list[str]]:
    rows = []
    for box_id, answer in report.boxes.items():
        runs = ", ".join(run_name(report.site, report.runs[run_id].run) for run_id in answer.runs)
        rows.append([runs, thing_words(report, box_id), box_words(answer)])
    return rows
