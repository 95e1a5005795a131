"""What others see of a job: links, remarks."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from nelvor.web.endpoint import Body
from nelvor.web.wire.base import Answer


class ShareBody(Body):
    """For how many days a job is shared, and with whom, as the history tells it."""

    days: Annotated[int, Field(ge=1, le=365)]
    meant_for: Annotated[str, Field(max_length=80)] = ""


class SharedLinkLine(Answer):
    id: str
    meant_for: str
    made_by: str
    expires_at: str
    open: bool
    revoked: bool


class SharedLinkList(Answer):
    links: list[SharedLinkLine]


class SharedLinkOut(Answer):
    """A new link with its token, which is told this once."""

    token: str
    link: SharedLinkLine


class RemarkBody(Body):
    """A remark, about a thing by its name or about the whole job."""

    words: Annotated[str, Field(min_length=1, max_length=2000)]
    about: Annotated[str, Field(max_length=80)] = ""


class RemarkLine(Answer):
    words: str
    about: str
    author: str
    revision: int
    at: str


class RemarkList(Answer):
    remarks: list[RemarkLine]


class DeleteJobBody(Body):
    """The name of the job, as whoever deletes it writes it."""

    name: Annotated[str, Field(max_length=200)]


class Nothing(Answer):
    """Done; there is nothing to tell."""
