"""What was done or measured on site: a stream of its own beside a job's revisions, which is only ever added to.

An exported job carries the stream in a section of its own; the design document knows nothing of it.
"""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import Field, ValidationError

from nelvor.errors import BadInput, Issue
from nelvor.model.base import MOST_THINGS, Id, Name, Note, Part
from nelvor.model.vocabulary import FieldRecordKind

SECTION = "field_log"


class FieldEntry(Part):
    """Something done or measured at a thing of the design, which may be gone from it by now."""

    thing_id: Id
    kind: FieldRecordKind
    text: Note = ""
    value: Annotated[float, Field(allow_inf_nan=False)] | None = None
    unit: Name = ""
    taken_at: Name = ""
    taken_by: Name = ""


def entries_of(value: Any) -> list[FieldEntry]:
    """Return the entries of a section as it stands in a file.

    Raises:
        BadInput: with every issue found.
    """
    if not isinstance(value, list) or len(value) > MOST_THINGS:
        raise BadInput([Issue("list_type", SECTION, "the field log is not a list.", "Make it a list of entries.")])
    entries, issues = [], []
    for place, item in enumerate(value):
        try:
            entries.append(FieldEntry.model_validate(item))
        except ValidationError as failure:
            error = failure.errors()[0]
            path = ".".join(str(part) for part in (SECTION, place, *error["loc"]))
            issues.append(Issue(error["type"], path, f"{error['msg'].lower()}.", "See the published schema."))
    if issues:
        raise BadInput(issues)
    return entries
