"""Pictures taken on site: what is told of each beside the picture itself, and how many are kept.

They stand beside a job's revisions; the design document knows nothing of them.
"""

from __future__ import annotations

from typing import Annotated

from pydantic import AwareDatetime, Field

from nelvor.model.base import Id, Name, Part

MOST_PICTURES = 100
MOST_PICTURES_OF_A_THING = 12


class PictureLine(Part):
    """What the list of an exported job tells of one picture: its file, the thing that it shows, words, by whom, when."""

    file: Annotated[str, Field(pattern=r"^pictures/[A-Za-z0-9_-]{1,60}\.(jpg|jpeg|png)$")]
    thing_id: Id
    caption: Name = ""
    author: Name = ""
    at: Annotated[AwareDatetime | None, Field(strict=False)] = None
