"""What every thing of the document shares, and the named limits of its fields."""

from __future__ import annotations

from functools import cached_property
from typing import Annotated, Any, ClassVar, Literal

from pydantic import BaseModel, ConfigDict, Field, StringConstraints

NAME_LIMIT = 200
NOTE_LIMIT = 20_000
LONGEST_RUN_FT = 10_000
LARGEST_RATING_A = 6_000
LARGEST_AMOUNT = 10_000_000
MOST_THINGS = 20_000
MOST_SETS = 12

ID_PATTERN = r"^[a-z0-9][a-z0-9_-]{0,39}$"
Id = Annotated[str, StringConstraints(pattern=ID_PATTERN)]
Name = Annotated[str, StringConstraints(max_length=NAME_LIMIT)]
Note = Annotated[str, StringConstraints(max_length=NOTE_LIMIT)]
Length = Annotated[float, Field(gt=0, le=LONGEST_RUN_FT, allow_inf_nan=False)]
Rating = Annotated[float, Field(gt=0, le=LARGEST_RATING_A, allow_inf_nan=False)]
Standing = Literal["existing", "added", "removed"]


class Part(BaseModel):
    """A strict, closed, unchangeable piece of the document."""

    model_config = ConfigDict(extra="forbid", strict=True, frozen=True)


class Thing(Part):
    """A thing of the design with a stable id.

    ``standing`` says whether it is there now (existing), comes with the proposal (added) or
    goes with it (removed). ``proposed`` holds the properties that the proposal changes.
    """

    OWN_FIELDS: ClassVar[frozenset[str]] = frozenset({"id", "standing", "proposed"})

    id: Id
    standing: Standing = "existing"
    proposed: dict[str, Any] = Field(default_factory=dict)

    def as_proposed(self) -> Thing:
        """Return this thing with its proposed properties in place of the existing ones; the same object each time.

        ``proposed`` stays, so that what the proposal leaves free is told from what nobody has read on site.
        """
        return self._proposed_self if self.proposed else self

    def as_existing(self) -> Thing:
        """Return this thing as it stands, without what is proposed for it; the same object each time."""
        return self._existing_self if self.proposed else self

    def is_unread(self, field_name: str) -> bool:
        """Tell whether a property of a standing thing is not known: an added thing and a proposed change leave it free."""
        return self.standing == "existing" and getattr(self, field_name) is None and field_name not in self.proposed

    @cached_property
    def _proposed_self(self) -> Thing:
        merged = self.model_dump() | self.proposed
        return type(self).model_validate(merged)

    @cached_property
    def _existing_self(self) -> Thing:
        return self.model_copy(update={"proposed": {}})
