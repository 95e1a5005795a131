"""The report as plain text for a terminal."""

from __future__ import annotations

from nelvor.clauses.calculated_load import LevelLoad
from nelvor.report.check import Report
from nelvor.report.subjects import SUBJECTS
from nelvor.report.words import CAUTIONS, DECISION_WORDS, OUTCOME_WORDS, box_words, figures_words, run_tag, thing_words
from nelvor.topology.names import name_of, run_name


def report_text(report: Report) -> str:
    """Return the findings, loads, runs and bonds of a report as text."""
    counts = ", ".join(f"{report.count(name)} {words}" for name, words in OUTCOME_WORDS.items())
    lines = [f"{report.site.document.name}  ({report.signature.edition} rules, {report.state})", counts, ""]
    for finding in report.findings:
        section = f"  [{finding.section}]" if finding.section else ""
        mend = "".join(f"\n    Mend: {item.label}" for item in finding.mends)
        lines.append(
            f"{OUTCOME_WORDS[finding.outcome].upper()}  {thing_words(report, finding.id)}: {finding.text}{section}{mend}"
        )
    lines += ["", "LOADS"]
    for enclosure_id in report.site.walking_order:
        lines.append(f"  {name_of(report.site, enclosure_id)}: {_load_text(report, enclosure_id)}")
    lines += ["", "RUNS"]
    for answer in report.runs.values():
        total = answer.figures.get("total_drop")
        drop = f", drop {total.text} %" if total else ""
        lines.append(f"  {run_name(report.site, answer.run)}: {run_tag(answer)}{drop}")
    if report.boxes:
        lines += ["", "BOXES"]
        lines += [f"  {thing_words(report, box_id)}: {box_words(answer)}" for box_id, answer in report.boxes.items()]
    for subject in SUBJECTS:
        answers = report.of(subject.kind)
        if answers and not subject.shown_apart:
            lines += ["", subject.title.upper()]
            lines += [
                f"  {thing_words(report, thing_id)}: {figures_words(answer)}" for thing_id, answer in answers.items()
            ]
    lines += ["", "NEUTRAL AND GROUND"]
    for enclosure_id, bond in report.bonds.items():
        lines.append(
            f"  {name_of(report.site, enclosure_id)}: {DECISION_WORDS[bond.decision]}. {bond.reason} [{bond.section}]"
        )
    return "\n".join([*lines, "", *CAUTIONS])


def _load_text(report: Report, enclosure_id: str) -> str:
    level = report.levels.get(enclosure_id)
    if not isinstance(level, LevelLoad):
        return f"cannot tell. {level.reason.reason}" if level else "cannot tell"
    legs = ", ".join(f"{leg.leg} {leg.actual.text} A" for leg in level.legs)
    return f"{level.demand_va.text} VA, {legs}, neutral {level.neutral.text} A"
