"""The tree of exceptions. Bad input, an unknown figure and a refused action are different things.

NelvorError
├── BadInput              a document or request that cannot be read; carries every issue at once
├── CannotCompute         an answer cannot be reached
│   ├── MissingFigure     the rulebook holds no such figure for this edition
│   └── MissingInput      a property of the design is not filled in
├── UnknownEdition        no rules of that edition are held
├── RulebookBroken        a data file of the rulebook contradicts itself
├── Refused               not allowed for this member, or not signed in
├── NotFound              no such thing within the reach of this member
├── Conflict              two saves changed the same; the later one is kept beside
├── SaveReused            a save's id belongs to another content
├── Stale                 a change of the shop's own data rests on what is no longer the newest
├── TooManyTries          sign-in is blocked for a while
├── Busy                  too many heavy questions at once; try again in a moment
├── TookTooLong           a heavy question was ended at its time limit
└── StoreUnavailable      the database does not answer
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any, Self


class NelvorError(Exception):
    """Base of all errors raised on purpose. They go from one process to another as they are."""

    def __reduce__(
        self,
    ) -> tuple[Callable[..., NelvorError], tuple[type[NelvorError], tuple[Any, ...], dict[str, Any]]]:
        return _as_it_was, (type(self), self.args, self.__dict__)


def _as_it_was(kind: type[NelvorError], words: tuple[Any, ...], facts: dict[str, Any]) -> NelvorError:
    failure = kind.__new__(kind)
    failure.args = words
    failure.__dict__.update(facts)
    return failure


@dataclass(frozen=True)
class Issue:
    """One thing wrong with an input: where, what, and what to do about it."""

    code: str
    path: str
    reason: str
    remedy: str


class BadInput(NelvorError):
    """The input cannot be read; all its issues are told at once."""

    def __init__(self, issues: list[Issue]) -> None:
        self.issues = issues
        super().__init__("; ".join(f"{issue.path}: {issue.reason}" for issue in issues))


class CannotCompute(NelvorError):
    """No answer is possible; ``reason`` says why and ``remedy`` what would allow it.

    ``asks`` are the empty fields that would, each as the id of its thing and its name.
    """

    def __init__(self, reason: str, remedy: str, asks: tuple[tuple[str, str], ...] = ()) -> None:
        self.reason = reason
        self.remedy = remedy
        self.asks = asks
        super().__init__(f"{reason} {remedy}")

    def kept(self) -> Self:
        """Return it as a reason to keep in an answer: without the frames that it came through, which hold all they saw."""
        self.__cause__ = self.__context__ = None
        return self.with_traceback(None)


class MissingFigure(CannotCompute):
    """The rulebook holds no figure for this key in this edition."""

    def __init__(self, table: str, key: str, edition: str, known: str) -> None:
        self.table = table
        self.key = key
        super().__init__(f"{table} has no figure for {key} in the {edition} edition.", f"Figures exist for {known}.")


class MissingInput(CannotCompute):
    """A property of a thing of the design is empty and the rule needs it."""

    def __init__(self, thing_id: str, field_name: str, what: str) -> None:
        self.thing_id = thing_id
        self.field_name = field_name
        super().__init__(f"{what} is not known.", f"Enter {what[0].lower() + what[1:]}.", ((thing_id, field_name),))


class UnknownEdition(NelvorError):
    """The job names an edition the rulebook does not hold."""

    def __init__(self, edition: str, known: list[str]) -> None:
        self.edition = edition
        self.known = known
        super().__init__(f"No rules of edition {edition!r} are held; known editions: {', '.join(known)}.")


class RulebookBroken(NelvorError):
    """A data file is wrong; the message names file and line."""


class Refused(NelvorError):
    """This member may not do this."""


class NotSignedIn(Refused):
    """Nobody is signed in."""


class NotFound(NelvorError):
    """Nothing of that name is within this member's reach."""


class Stale(NelvorError):
    """Someone else changed the same meanwhile; nothing of this change is kept."""


class TooManyTries(NelvorError):
    """Too many failed sign-ins; try again later."""

    def __init__(self, wait_s: int) -> None:
        self.wait_s = wait_s
        super().__init__(f"Too many failed sign-ins. Try again in {wait_s} seconds.")


class Busy(NelvorError):
    """As many whole-job checks are under way as may be; the same request succeeds in a moment."""


class TookTooLong(NelvorError):
    """A heavy question did not end within its limit, and was ended; asking again would end the same way."""

    def __init__(self, what: str, limit_s: float) -> None:
        self.what = what
        self.limit_s = limit_s
        super().__init__(
            f"This took longer than {limit_s:.0f} seconds and was ended. Part the job into several, or ask whoever runs "
            "the server for a quieter hour."
        )


class StoreUnavailable(NelvorError):
    """The database does not answer now; nothing was saved."""


class SaveReused(NelvorError):
    """A save carries an id under which something else was saved already."""


@dataclass
class Conflict(NelvorError):
    """Two saves changed the same; the later one is kept beside, and what collides is told.

    ``mine`` and ``theirs`` are revision numbers with their authors; ``document`` is theirs with all of mine that
    does not collide, to which ``joining`` leads from theirs; ``collisions`` are chosen one by one.
    """

    mine: int
    theirs: int
    author: str
    theirs_document: dict[str, object]
    joining: list[object] = field(default_factory=list)
    collisions: list[dict[str, object]] = field(default_factory=list)
