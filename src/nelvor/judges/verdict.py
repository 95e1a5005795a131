"""What a check ends as: holds, advice, must fix or cannot tell, with the section and a mend."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal, NamedTuple

from nelvor.errors import CannotCompute, MissingInput
from nelvor.model.base import Thing
from nelvor.model.changes.operations import Delete, Insert, Operation, Put
from nelvor.model.things import Run
from nelvor.rulebook.rules import Rules

Outcome = Literal["must_fix", "advice", "cannot_tell", "holds"]


@dataclass(frozen=True)
class Mend:
    """A design change that removes a finding, as operations on the document."""

    label: str
    operations: tuple[Operation, ...]


Mends = Mend | tuple[Mend, ...] | None


Asks = tuple[tuple[str, str], ...]
"""Empty fields whose answers would let a check be decided, each as the id of its thing and its name."""


class Verdict(NamedTuple):
    """The end of one check on one thing; several mends stand side by side, each enough by itself."""

    code: str
    outcome: Outcome
    list: str
    id: str
    text: str
    section: str = ""
    field: str = ""
    mends: tuple[Mend, ...] = ()
    asks: Asks = ()

    @property
    def mend(self) -> Mend | None:
        """The first of the mends."""
        return next(iter(self.mends), None)


class Judge:
    """Collects the verdicts on one thing."""

    def __init__(self, rules: Rules, list_name: str, thing_id: str) -> None:
        self.rules = rules
        self.list_name = list_name
        self.thing_id = thing_id
        self.verdicts: list[Verdict] = []

    def about(self, list_name: str, thing_id: str) -> Judge:
        """Return a judge of another thing whose verdicts are collected together with these."""
        other = Judge(self.rules, list_name, thing_id)
        other.verdicts = self.verdicts
        return other

    def _say(
        self, code: str, outcome: Outcome, text: str, clause: str, field_name: str, mend: Mends, asks: Asks = ()
    ) -> None:
        mends = mend if isinstance(mend, tuple) else (mend,) if mend is not None else ()
        section = self.rules.sections[clause]
        self.verdicts.append(
            Verdict(code, outcome, self.list_name, self.thing_id, text, section, field_name, mends, asks)
        )

    def holds(self, code: str, text: str, clause: str = "", field_name: str = "") -> None:
        self._say(code, "holds", text, clause, field_name, None)

    def advise(self, code: str, text: str, clause: str = "", field_name: str = "", mend: Mends = None) -> None:
        self._say(code, "advice", text, clause, field_name, mend)

    def must_fix(self, code: str, text: str, clause: str = "", field_name: str = "", mend: Mends = None) -> None:
        self._say(code, "must_fix", text, clause, field_name, mend)

    def cannot_tell(self, code: str, text: str, clause: str = "", field_name: str = "", asks: Asks = ()) -> None:
        """Take down that nothing can be told; ``asks`` are the fields that would let it, else ``field_name`` of the thing."""
        asks = asks or (((self.thing_id, field_name),) if field_name else ())
        self._say(code, "cannot_tell", text, clause, field_name, None, asks)

    def cannot_compute(self, code: str, reason: CannotCompute, clause: str = "") -> None:
        """Take down an answer that could not be reached, pointing at the empty field when there is one."""
        field_name = reason.field_name if isinstance(reason, MissingInput) and reason.thing_id == self.thing_id else ""
        self.cannot_tell(code, f"{reason.reason} {reason.remedy}", clause, field_name, reason.asks)


def size_as_told(run: Run) -> Asks:
    """Return what is asked of conductors that somebody else sized."""
    return (run.id, "hot_size"), (run.id, "material")


def proposing(list_name: str, thing: Thing, **values: Any) -> tuple[Operation, ...]:
    """Return the operations that change properties in the proposed state.

    A thing that comes with the proposal is changed itself; one that stands keeps its existing values beside.
    """
    added = thing.standing == "added"
    return tuple(
        Put(list=list_name, id=thing.id, field=name, value=value, proposed=not added) for name, value in values.items()
    )


def adding(list_name: str, thing: Thing) -> Operation:
    """Return the operation that adds a thing with the proposal."""
    return Insert(list=list_name, thing={**thing.model_dump(), "standing": "added"})


def removing(list_name: str, thing: Thing) -> Operation:
    """Return the operation that takes a thing out with the proposal."""
    if thing.standing == "added":
        return Delete(list=list_name, id=thing.id)
    return Put(list=list_name, id=thing.id, field="standing", value="removed")
