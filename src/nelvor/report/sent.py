"""The shapes of what is sent: figures, answers, findings, the whole report."""

from __future__ import annotations

from fractions import Fraction
from typing import Literal

from pydantic import BaseModel, ConfigDict

from nelvor.model.changes.operations import Operation
from nelvor.working import Figure, shown
from nelvor.working.explain import Line


class Wire(BaseModel):
    """Base of everything sent."""

    model_config = ConfigDict(extra="forbid")


class StepOut(Wire):
    number: int
    label: str
    operation: str
    inputs: list[int]
    value: str
    unit: str
    section: str
    source: str
    refused: str


class FigureOut(Wire):
    """A figure; ``key`` is its identity, by which its working is asked for. "" where there is none to ask for."""

    value: str
    number: float | None
    unit: str
    section: str
    key: str


class WorkingOut(Wire):
    steps: list[StepOut]
    changes: str


class AnswerOut(Wire):
    """An answer that is shown as a list of its figures: of what kind, about which thing, shown on which sheet."""

    kind: str
    title: str
    id: str
    name: str
    place: str
    figures: dict[str, FigureOut]
    gaps: dict[str, str]


class SystemBondsOut(Wire):
    """A grounded system that is live in a position: the names of its sources, and the enclosures of its bonds."""

    sources: list[str]
    places: list[str]


class PositionOut(Wire):
    """One position of the gear: enclosures and runs that are live in it, and whence each enclosure is fed.

    ``closed`` are the throws that are closed in it, ``circuits`` the names of those that a box of switches keeps live in a panel
    whose bus is not.
    """

    name: str
    closed: list[str]
    live: list[str]
    runs: list[str]
    fed_from: dict[str, list[str]]
    circuits: dict[str, list[str]]
    systems: list[SystemBondsOut]


class LegOut(Wire):
    leg: str
    load: FigureOut
    design: FigureOut


class DemandLineOut(Wire):
    label: str
    connected: FigureOut
    demand: FigureOut
    factor: str


class GroupOut(Wire):
    name: str
    method: Literal[
        "standard", "optional", "existing", "multifamily", "two_units", "connected", "demand_factors", "farm"
    ]
    lines: list[DemandLineOut]


class LevelOut(Wire):
    """The load at an enclosure; ``gap`` says why there is none."""

    system: str | None
    connected: FigureOut | None
    demand: FigureOut | None
    neutral: FigureOut | None
    legs: list[LegOut]
    groups: list[GroupOut]
    gap: str


class UseOut(Wire):
    load_a: float
    rating_a: float


class SizesOut(Wire):
    """One run's figures and gaps in one metal."""

    material: str | None
    figures: dict[str, FigureOut]
    gaps: dict[str, str]


class TapRuleOut(Wire):
    """How one tap rule judges a run; ``fits`` is None where an input is missing."""

    title: str
    fits: bool | None
    why: str
    smallest: str | None
    section: str


class FitOutOut(Wire):
    """One thing to fit or watch along a run."""

    name: str
    text: str
    section: str
    figure: FigureOut | None


class RunOut(Wire):
    """One run. ``applies`` names the properties that mean anything for it; ``stretches`` the same for its parts."""

    id: str
    name: str
    kind: str
    from_id: str
    to_id: str
    locked: list[str]
    unread: list[str]
    chosen: SizesOut
    alternative: SizesOut | None
    use: UseOut | None
    tap_rules: list[TapRuleOut]
    to_fit: list[FitOutOut]
    applies: list[str]
    stretches: dict[str, list[str]]


class BoxOut(Wire):
    """A pull box or conduit body: what it must measure, or why that cannot be told."""

    id: str
    name: str
    runs: list[str]
    figures: dict[str, FigureOut]
    gap: str


class NeutralOut(Wire):
    """A neutral that gear parts from the ordinary one of its enclosure, and what is decided for it."""

    part: str
    name: str
    decision: str
    reason: str
    section: str
    found: str


class EnclosureOut(Wire):
    """One enclosure; ``wrong`` tells that neutral and metal are not joined, or parted, as they must be."""

    id: str
    name: str
    decision: str
    reason: str
    section: str
    found: str
    further_neutrals: list[NeutralOut]
    wrong: bool
    parts: list[str]
    conductors: list[str]
    notes: list[str]
    figures: dict[str, FigureOut]
    level: LevelOut
    use: UseOut | None


class MendOut(Wire):
    label: str
    operations: list[Operation]


class FactOut(Wire):
    """A fact of a thing that decides something: the field it is entered in, what that is called, and what it tells."""

    list: str
    id: str
    field: str
    label: str
    hint: str


class AskOut(Wire):
    """An empty field whose answer would let a check be decided."""

    list: str
    id: str
    field: str
    label: str


class FindingOut(Wire):
    code: str
    outcome: Literal["must_fix", "advice", "cannot_tell"]
    list: str
    id: str
    name: str
    text: str
    section: str
    field: str
    mends: tuple[MendOut, ...]
    asks: tuple[AskOut, ...]


class PlaceOut(Wire):
    id: str
    x_ft: float
    lane: int
    run_id: str | None
    length_known: bool
    joins_ft: float | None


class SignatureOut(Wire):
    edition: str
    rulebook: str
    engine: str


class CountsOut(Wire):
    must_fix: int
    advice: int
    cannot_tell: int
    holds: int


class HeldOut(Wire):
    """A check that holds."""

    id: str
    name: str
    text: str
    section: str


class HeldList(Wire):
    held: list[HeldOut]


def step_out(line: Line) -> StepOut:
    """Return a step of a working for reading."""
    step = line.step
    if isinstance(step.value, bool):
        value = "yes" if step.value else "no"
    else:
        value = shown(step.value) if isinstance(step.value, Fraction) else step.value
    return StepOut(
        number=line.number,
        label=step.label,
        operation=step.operation,
        inputs=list(line.inputs),
        value=value,
        unit=step.unit,
        section=step.section,
        source=step.source,
        refused=step.refused,
    )


def figure_out(figure: Figure, key: str = "") -> FigureOut:
    """Return a figure for reading, with its identity."""
    value = figure.value
    number = float(value) if isinstance(value, Fraction) else None
    # Built without being checked again: its parts come from our own steps, and a report holds thousands.
    return FigureOut.model_construct(
        value=figure.text, number=number, unit=figure.unit, section=figure.section, key=key
    )
