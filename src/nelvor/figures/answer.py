"""What a quick figure answers with: the value, its sections, the figures on the way and the whole working."""

from __future__ import annotations

from dataclasses import dataclass, field
from fractions import Fraction
from typing import Literal

from nelvor import ENGINE_VERSION
from nelvor.report.sent import FigureOut, SignatureOut, StepOut, Wire, figure_out, step_out
from nelvor.rulebook.rules import rulebook
from nelvor.working import Figure, Recorder
from nelvor.working.explain import behind, numbered, what_would_change

Outcome = Literal["must_fix", "advice", "cannot_tell", "holds", "note"]


@dataclass(frozen=True)
class Remark:
    """The end of one check beside the figure, in a sentence with its clause; a note judges nothing."""

    outcome: Outcome
    text: str
    clause: str = ""


@dataclass(frozen=True)
class Worked:
    """What the work of a quick figure returns: the main figure, others beside it by label, and remarks."""

    main: Figure
    others: dict[str, Figure] = field(default_factory=dict)
    remarks: tuple[Remark, ...] = ()


class RemarkOut(Wire):
    outcome: Outcome
    text: str
    section: str


class FigureAnswer(Wire):
    """The answer of a quick figure. ``steps`` holds the whole working; ``others`` name their step in it."""

    name: str
    title: str
    value: str
    number: float | None
    unit: str
    section: str
    sections: list[str]
    changes: str
    others: dict[str, FigureOut]
    remarks: list[RemarkOut]
    steps: list[StepOut]
    step: int
    signature: SignatureOut


def answer_out(name: str, title: str, worked: Worked, recorder: Recorder) -> FigureAnswer:
    """Return the answer for sending, signed."""
    steps = recorder.steps
    lines = numbered(steps)
    main = worked.main
    used = behind(steps, main)
    return FigureAnswer(
        name=name,
        title=title,
        value=worked.main.text,
        number=float(main.value) if isinstance(main.value, Fraction) else None,
        unit=main.unit,
        section=main.section,
        sections=list(dict.fromkeys(step.section for step in used if step.section)),
        changes=what_would_change(steps, main),
        others={label: figure_out(figure, "") for label, figure in worked.others.items()},
        remarks=[
            RemarkOut(outcome=item.outcome, text=item.text, section=recorder.rules.section(item.clause))
            for item in worked.remarks
        ],
        steps=[step_out(line) for line in lines],
        step=next(line.number for line in lines if line.step is main),
        signature=SignatureOut(edition=recorder.rules.edition, rulebook=rulebook().version, engine=ENGINE_VERSION),
    )
