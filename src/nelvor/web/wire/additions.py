"""What is added in one act, and ways to connect a source."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import Field

from nelvor.additions.kinds import AdditionKind
from nelvor.model.source_plates import SourcePlate
from nelvor.web.wire.base import Answer, DocumentBody


class AdditionLine(Answer):
    """A kind of addition that can be asked for, with the schema of what is asked before it is made."""

    kind: AdditionKind
    title: str
    words: str
    options_schema: dict[str, Any]


class AdditionList(Answer):
    additions: list[AdditionLine]


class WantedForm(Answer):
    """The schema of what is asked of a source before the ways to connect it are looked for."""

    wanted_schema: dict[str, Any]


class AdditionBody(DocumentBody):
    """What is to be added to or ahead of which enclosure; ``options`` are told by the schema of the kind.

    ``plate`` is that of the source that comes with it; what the addition itself decides of the source goes before it.
    """

    kind: AdditionKind
    enclosure_id: Annotated[str, Field(max_length=40)]
    options: dict[str, Any] = Field(default_factory=dict, max_length=20)
    plate: SourcePlate | None = None


class WaysBody(DocumentBody):
    """A source that is wanted at a panel (``wanted`` is told by the schema of its form), or one that is drawn already."""

    source_id: Annotated[str, Field(max_length=40)] = ""
    enclosure_id: Annotated[str, Field(max_length=40)] = ""
    wanted: dict[str, Any] = Field(default_factory=dict, max_length=20)
