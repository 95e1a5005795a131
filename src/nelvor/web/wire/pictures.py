"""What is told of the pictures of a job, and what is said of one."""

from __future__ import annotations

from nelvor.model.base import Name
from nelvor.web.endpoint import Body
from nelvor.web.wire.base import Answer


class PictureOut(Answer):
    id: str
    thing_id: str
    caption: str
    author: str
    at: str
    size: int


class PictureList(Answer):
    """The pictures of a job, the oldest first, and how many of one box and of the whole job are kept at most."""

    pictures: list[PictureOut]
    most_of_a_thing: int
    most_of_a_job: int


class CaptionBody(Body):
    caption: Name
