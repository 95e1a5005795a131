"""Steps of work and the stages that they are done in, as they are sent."""

from __future__ import annotations

from collections import Counter

from pydantic import BaseModel

from nelvor.model.things import Run
from nelvor.report.work_words import Stage
from nelvor.topology.site import Site


class WorkStepOut(BaseModel):
    """One step: its words, and the thing that it is about ("" for none)."""

    text: str
    id: str


class WorkStageOut(BaseModel):
    """Steps that are done together, before those of the next stage."""

    stage: Stage
    title: str
    steps: list[WorkStepOut]


def ends_of(site: Site, run: Run) -> tuple[str, str]:
    """Return the boxes at both ends of a run; an end whose part is gone goes by the part's own id."""
    return site.owners.get(run.from_part, run.from_part), site.owners.get(run.to_part, run.to_part)


def counted(steps: list[WorkStepOut]) -> list[WorkStepOut]:
    """Return steps of the same words as one, with their number."""
    times = Counter(step.text for step in steps)
    first = {step.text: step for step in reversed(steps)}
    return [
        WorkStepOut(text=text if count == 1 else f"{text.removesuffix('.')} ({count} times).", id=first[text].id)
        for text, count in times.items()
    ]
