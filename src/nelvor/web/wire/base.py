"""What the models of requests and answers rest on."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from nelvor.model.changes.differences import Difference
from nelvor.model.changes.operations import Operation
from nelvor.web.endpoint import Body

State = Literal["existing", "proposed"]


Operations = list[Operation]


SaveId = Annotated[str, Field(min_length=8, max_length=64)]


class Answer(BaseModel):
    """Base of answers: closed, so that the description is exact."""

    model_config = ConfigDict(extra="forbid")


class DifferenceOut(Answer):
    list: str
    id: str
    name: str
    field: str
    before: Any
    after: Any


class DifferenceList(Answer):
    differences: list[DifferenceOut]


def difference_list(found: list[Difference]) -> DifferenceList:
    """Return differences for sending."""
    return DifferenceList(differences=[DifferenceOut(**vars(item)) for item in found])


class DocumentBody(Body):
    document: dict[str, Any]


class StateBody(DocumentBody):
    state: State = "proposed"


FigureKey = Annotated[str, Field(max_length=300)]


ThingId = Annotated[str, Field(max_length=40)]


class TextOut(Answer):
    """A file as text: a netlist, readings as CSV."""

    text: str
