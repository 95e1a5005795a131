"""The report as it goes over the wire: the same answers for the screen, the command line and the tests."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from typing import Literal

from nelvor.clauses.calculated_load import Group, LevelLoad
from nelvor.clauses.demand import DemandLine
from nelvor.errors import NotFound
from nelvor.judges.answer import Answer, Subject
from nelvor.judges.boxes import BoxAnswer
from nelvor.judges.panelboard import ScheduleAnswer
from nelvor.judges.run import RunAnswer
from nelvor.judges.run.applies import fields_of_lay, fields_of_run
from nelvor.judges.run.lays import Lay
from nelvor.judges.verdict import Verdict
from nelvor.report.check import Report
from nelvor.report.panel_schedule import ScheduleOut, schedule_out
from nelvor.report.positions_played import positions_out
from nelvor.report.sent import (
    AnswerOut,
    AskOut,
    BoxOut,
    CountsOut,
    DemandLineOut,
    EnclosureOut,
    FactOut,
    FigureOut,
    FindingOut,
    FitOutOut,
    GroupOut,
    HeldList,
    HeldOut,
    LegOut,
    LevelOut,
    MendOut,
    NeutralOut,
    PlaceOut,
    PositionOut,
    RunOut,
    SignatureOut,
    SizesOut,
    TapRuleOut,
    UseOut,
    Wire,
    WorkingOut,
    figure_out,
    step_out,
)
from nelvor.report.subjects import SUBJECTS, SubjectKind
from nelvor.report.survey import SurveyBox, survey
from nelvor.report.words import field_words, group_name, thing_words
from nelvor.topology.names import home_of, name_of, run_name, thing_name
from nelvor.working import Figure, Recorder, shown
from nelvor.working.explain import ancestry, what_would_change

OF_AN_ENCLOSURE = ("bond", "panel", "capacity", "electrode", "standby")
SAID_THOUGH_IT_HOLDS = frozenset({"breaker_sum", "both_may_trip"})


class ReportOut(Wire):
    signature: SignatureOut
    state: Literal["existing", "proposed"]
    counts: CountsOut
    findings: list[FindingOut]
    runs: dict[str, RunOut]
    enclosures: dict[str, EnclosureOut]
    boxes: dict[str, BoxOut]
    places: list[PlaceOut]
    positions: list[PositionOut]
    walking_order: list[str]
    answers: list[AnswerOut]
    survey: list[SurveyBox]
    schedules: dict[str, ScheduleOut]
    workings: dict[str, WorkingOut]
    facts: list[FactOut]


def _figures(answer: Answer) -> dict[str, FigureOut]:
    return {name: figure_out(figure, answer.subject.key(name)) for name, figure in answer.figures.items()}


def _recalled(report: Report, answer: Answer) -> dict[str, FigureOut]:
    """The figures of an answer that an edit elsewhere leaves as it is, written once for all reports that hold it."""
    return report.checking.memory.recall("figures of", lambda: ([answer], None), lambda: _figures(answer))


def figure_of(report: Report, key: str) -> tuple[Figure, Recorder]:
    """Return a figure of a report by its identity, with the working that it is part of.

    Raises:
        NotFound: the report has no such figure.
    """
    kind, _, rest = key.partition(":")
    thing_id, _, name = rest.partition("/")
    answer = report.alternative(thing_id) if kind == "other" else report.of(kind).get(thing_id)
    figure = answer.figure(name) if answer is not None else None
    if answer is None or figure is None:
        raise NotFound("This figure is not part of the answers any more.")
    return figure, answer.working


def working_out(report: Report, key: str) -> WorkingOut:
    """Return the working behind one figure, through all subjects that it comes from.

    Raises:
        NotFound: the report has no such figure.
    """
    figure, working = figure_of(report, key)
    steps = [step_out(line) for line in ancestry(figure)]
    return WorkingOut(steps=steps, changes=what_would_change(working.steps, figure))


def report_out(report: Report, looked_at: Sequence[str] = (), open_workings: Sequence[str] = ()) -> ReportOut:
    """Return the whole report for sending.

    ``looked_at`` are the runs whose alternatives and the panels, or their breakers, whose schedules are wanted, ``open_workings`` the figures whose workings are; one
    that is not there any more is left out.
    """
    looked = frozenset(looked_at)
    return ReportOut(
        signature=SignatureOut(**vars(report.signature)),
        state=report.state,
        counts=CountsOut(**{name: report.count(name) for name in ("must_fix", "advice", "cannot_tell", "holds")}),
        findings=[_finding(report, verdict) for verdict in report.findings],
        runs={run_id: _run(report, answer, run_id in looked) for run_id, answer in report.runs.items()},
        enclosures={enclosure_id: enclosure_out(report, enclosure_id) for enclosure_id in report.bonds},
        boxes={box_id: _box(report, answer) for box_id, answer in report.boxes.items()},
        places=[PlaceOut(**vars(place)) for place in report.places],
        positions=positions_out(report),
        walking_order=report.site.walking_order,
        answers=[answer for subject in SUBJECTS if not subject.shown_apart for answer in _plain(report, subject)],
        survey=survey(report.site) if report.state == "existing" else [],
        schedules={
            bus_id: schedule_of(report, answer)
            for bus_id, answer in report.schedules.items()
            if not looked.isdisjoint((answer.bus.enclosure_id, *(circuit.device.id for circuit in answer.circuits)))
        },
        workings=_workings(report, open_workings),
        facts=[
            FactOut(list=fact.list, id=fact.id, field=fact.field, label=field_words(fact.field), hint=fact.asked)
            for fact in report.facts
        ],
    )


def schedule_of(report: Report, answer: ScheduleAnswer) -> ScheduleOut:
    """Return the schedule of one bus with its legs."""
    return schedule_out(report, answer, _recalled(report, answer))


def held_out(report: Report) -> HeldList:
    """Return the checks that hold, for who looks at them."""
    return HeldList(
        held=[
            HeldOut(id=item.id, name=thing_words(report, item.id), text=item.text, section=item.section)
            for item in report.held
        ]
    )


def _workings(report: Report, keys: Sequence[str]) -> dict[str, WorkingOut]:
    found = {}
    for key in keys:
        try:
            found[key] = working_out(report, key)
        except NotFound:
            continue
    return found


def _plain(report: Report, subject: SubjectKind) -> Iterator[AnswerOut]:
    """The answers of a kind that has no form of its own."""
    for thing_id, answer in report.of(subject.kind).items():
        yield AnswerOut(
            kind=subject.kind,
            title=subject.title,
            id=thing_id,
            name=thing_words(report, thing_id),
            place=home_of(report.site, thing_id),
            figures=_figures(answer),
            gaps=_gaps(answer),
        )


def _gaps(answer: Answer) -> dict[str, str]:
    return {part: f"{reason.reason} {reason.remedy}" for part, reason in answer.gaps.items()}


def _finding(report: Report, verdict: Verdict) -> FindingOut:
    name = thing_words(report, verdict.id)
    assert verdict.outcome != "holds"  # what holds is counted, not listed
    return FindingOut(
        code=verdict.code,
        outcome=verdict.outcome,
        list=verdict.list,
        id=verdict.id,
        name=name,
        text=verdict.text,
        section=verdict.section,
        field=verdict.field,
        mends=tuple(MendOut(label=mend.label, operations=list(mend.operations)) for mend in verdict.mends),
        asks=tuple(_asked(report, verdict)),
    )


def _asked(report: Report, verdict: Verdict) -> Iterator[AskOut]:
    """Yield the fields that a finding asks for; what it asks for that is no field of the document is told in its words."""
    for thing_id, field in verdict.asks:
        list_name, thing = report.site.by_id.get(thing_id, ("", None))
        if thing is None or getattr(thing, field, "no such field") is not None:
            continue
        label = field_words(field)
        named = label if thing_id == verdict.id else f"{thing_words(report, thing_id)}: {label}"
        yield AskOut(list=list_name, id=thing_id, field=field, label=named)


def _sizes(answer: RunAnswer, figures: dict[str, FigureOut]) -> SizesOut:
    return SizesOut(material=answer.material, figures=figures, gaps=_gaps(answer))


def _run(report: Report, answer: RunAnswer, with_other: bool) -> RunOut:
    """One run, written once for all reports that hold the same answer where its other metal is not asked for."""
    site, run = report.site, answer.run
    named = (run_name(site, run), site.upstream_of(run), site.downstream_of(run))
    if not with_other:
        return report.checking.memory.recall(
            "run sent", lambda: ([answer], named), lambda: _written_run(report, answer, named, None)
        )
    other = report.alternative(run.id)
    return _written_run(report, answer, named, replace(other, subject=Subject("other", run.id)) if other else None)


def _written_run(report: Report, answer: RunAnswer, named: tuple[str, str, str], other: RunAnswer | None) -> RunOut:
    site, run = report.site, answer.run
    name, from_id, to_id = named
    return RunOut(
        id=run.id,
        name=name,
        kind=answer.kind,
        from_id=from_id,
        to_id=to_id,
        locked=sorted(answer.locked),
        unread=sorted(answer.unread),
        chosen=_sizes(answer, _recalled(report, answer)),
        alternative=_sizes(other, _figures(other)) if other else None,
        use=_run_use(answer),
        applies=fields_of_run(run),
        stretches={stretch.id: fields_of_lay(Lay(run, stretch, None)) for stretch in site.stretches_of.get(run.id, [])},
        to_fit=[
            FitOutOut(
                name=item.name,
                text=item.text,
                section=report.rules.section(item.clause),
                figure=figure_out(item.figure, answer.subject.key(f"fit {item.name}")) if item.figure else None,
            )
            for item in answer.to_fit
        ],
        tap_rules=[
            TapRuleOut(
                title=item.title,
                fits=item.fits,
                why=item.why,
                smallest=item.smallest,
                section=report.rules.section(item.clause),
            )
            for item in answer.tap_rules
        ],
    )


def _box(report: Report, answer: BoxAnswer) -> BoxOut:
    return BoxOut(
        id=answer.box.id,
        name=thing_words(report, answer.box.id),
        runs=list(answer.runs),
        figures=_figures(answer),
        gap=_gaps(answer).get("box", ""),
    )


def _run_use(answer: RunAnswer) -> UseOut | None:
    """The rating used is the smaller of device and ampacity; with the 83 % rule the device alone."""
    figures = answer.figures
    if not {"load", "device", "ampacity"} <= figures.keys():
        return None
    rating = figures["device"].number
    if not answer.whole_dwelling:
        rating = min(rating, figures["ampacity"].number)
    return UseOut(load_a=float(figures["load"].number), rating_a=float(rating))


def enclosure_out(report: Report, enclosure_id: str) -> EnclosureOut:
    """Return what is sent of one enclosure."""
    bond, panel = report.bonds[enclosure_id], report.panels[enclosure_id]
    figures: dict[str, FigureOut] = {}
    for kind in OF_AN_ENCLOSURE:
        answer = report.of(kind).get(enclosure_id)
        figures |= _figures(answer) if answer else {}
    use = None
    if {"bus", "bus_load"} <= panel.figures.keys():
        use = UseOut(load_a=float(panel.figures["bus_load"].number), rating_a=float(panel.figures["bus"].number))
    return EnclosureOut(
        id=enclosure_id,
        name=name_of(report.site, enclosure_id),
        decision=bond.decision,
        reason=bond.reason,
        section=bond.section,
        found=bond.found,
        further_neutrals=[
            NeutralOut(
                part=neutral.neutral_part,
                name=thing_name(report.site, neutral.neutral_part),
                decision=neutral.decision,
                reason=neutral.reason,
                section=neutral.section,
                found=neutral.found,
            )
            for neutral in bond.neutrals[1:]
        ],
        wrong=any(item.code == "bond" and item.outcome == "must_fix" for item in bond.verdicts),
        parts=list(bond.parts),
        conductors=list(bond.conductors),
        notes=[verdict.text for verdict in panel.verdicts if verdict.code in SAID_THOUGH_IT_HOLDS],
        figures=figures,
        level=_level(report, enclosure_id),
        use=use,
    )


def _level(report: Report, enclosure_id: str) -> LevelOut:
    level = report.levels.get(enclosure_id)
    if not isinstance(level, LevelLoad):
        gap = f"{level.reason.reason} {level.reason.remedy}" if level else "Nothing is known of its load."
        return LevelOut(
            system=report.site.system_at(enclosure_id),
            connected=None,
            demand=None,
            neutral=None,
            legs=[],
            groups=[],
            gap=gap,
        )
    figures = _recalled(report, report.of("level")[enclosure_id])
    return LevelOut(
        system=level.system,
        connected=figures["connected"],
        demand=figures["demand"],
        neutral=figures["neutral"],
        gap="",
        legs=[
            LegOut(leg=leg.leg, load=figures[f"{leg.leg} load"], design=figures[f"{leg.leg} design"])
            for leg in level.legs
        ],
        groups=[_group(report, group, figures) for group in level.groups],
    )


def _factor(line: DemandLine) -> str:
    """What of the connected load is taken, in per cent; "" where nothing is connected."""
    connected = line.connected_va.number
    return f"{shown(line.demand_va.number / connected * 100, 3)} %" if connected else ""


def _group(report: Report, group: Group, figures: dict[str, FigureOut]) -> GroupOut:
    names = {line.label: f"{'+'.join(group.units)} {line.label}" for line in group.lines}
    return GroupOut.model_validate(
        {
            "name": group_name(report, group),
            "method": group.method,
            "lines": [
                DemandLineOut(
                    label=line.label,
                    connected=figures[f"{names[line.label]} connected"],
                    demand=figures[f"{names[line.label]} demand"],
                    factor=_factor(line),
                )
                for line in group.lines
            ],
        }
    )
