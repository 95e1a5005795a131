"""A way to connect a source: what it takes, who has to agree, what must be true, and the operations that draw it."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError

from nelvor.additions.options import InverterOptions
from nelvor.additions.receiver import Receiver
from nelvor.clauses.calculated_load import LevelLoad
from nelvor.errors import BadInput, CannotCompute
from nelvor.judges.level_loads import LevelLoads
from nelvor.model.base import Rating
from nelvor.model.changes.operations import Operation
from nelvor.model.parse import issue_of

WayKind = Literal[
    "own_bus",
    "smaller_main",
    "other_bus",
    "power_control",
    "feeder_tap",
    "supply_side",
    "larger_bus",
    "second_section",
    "new_service",
]


class WantedSource(InverterOptions):
    """The source that is to be connected."""

    output_a: Annotated[Rating, Field(title="Rated output", json_schema_extra={"unit": "A"})]


def wanted_of(asked: Mapping[str, Any]) -> WantedSource:
    """Return what is wanted.

    Raises:
        BadInput: a value is missing, unknown or out of its limits.
    """
    try:
        return WantedSource.model_validate(dict(asked))
    except ValidationError as failure:
        raise BadInput([issue_of("", error) for error in failure.errors()]) from failure


@dataclass(frozen=True)
class Wish:
    """What is wanted where: the panel that is thought of first, the source, and the loads of the site."""

    receiver: Receiver
    wanted: WantedSource
    levels: LevelLoads

    @property
    def level(self) -> LevelLoad | None:
        """The load of the panel, None where it is not known."""
        found = self.levels.get(self.receiver.enclosure.id)
        return found if isinstance(found, LevelLoad) else None


@dataclass(frozen=True)
class Way:
    """One way. Without operations it cannot be drawn here, for the reason in ``refused``, or has to be drawn by hand.

    ``then`` draws what comes on the site as the operations leave it, where room is made first.

    ``conditions`` must be true and are not told by the design; ``why`` tells when it may be right although others ask for
    less work; ``enclosure_id`` is where it comes in.
    """

    kind: WayKind
    title: str
    enclosure_id: str
    operations: tuple[Operation, ...] = ()
    then: Callable[[Receiver], tuple[Operation, ...]] | None = None
    refused: str = ""
    by_hand: bool = False
    conditions: tuple[str, ...] = ()
    consent: str = ""
    why: str = ""


def drawn(way: Way, draw: Callable[[], Iterable[Operation]]) -> Way:
    """Return a way with its operations, or with the reason why it cannot be drawn."""
    try:
        return replace(way, operations=tuple(draw()))
    except CannotCompute as reason:
        return replace(way, refused=reason.reason)
