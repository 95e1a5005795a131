"""What the new jobs of a shop begin with: who it is on paper, the edition in force, and its usual limits."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from nelvor.model.base import Name, Part
from nelvor.model.document import Document, Percent, Settings
from nelvor.model.limits import PowerFactor


class ShopDefaults(Part):
    """Settings that every new job of a shop takes over, each within the limits of a job's own."""

    contractor: Name = ""
    license: Name = ""
    authority: Name = ""
    edition: Annotated[str, Field(max_length=20)] = ""
    feeder_drop_limit_percent: Percent = 3.0
    total_drop_limit_percent: Percent = 5.0
    power_factor: PowerFactor = 0.85
    ambient_c: Annotated[float, Field(ge=-50, le=85, allow_inf_nan=False)] = 30.0


def with_defaults(document: Document, defaults: ShopDefaults) -> Document:
    """Return a new job with the defaults of its shop; its edition is chosen for each job and stays."""
    taken = defaults.model_dump(exclude={"edition"})
    settings = Settings.model_validate({**document.settings.model_dump(), **taken})
    return document.model_copy(update={"settings": settings})
