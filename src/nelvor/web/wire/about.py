"""The server itself, and its refusals."""

from __future__ import annotations

from nelvor.web.wire.base import Answer
from nelvor.web.wire.jobs import ConflictOut


class StarterOut(Answer):
    key: str
    title: str
    words: str


class EditionsOut(Answer):
    editions: list[str]
    starters: list[StarterOut]
    rulebook: str
    amendment_keys: list[str]


class IssueOut(Answer):
    code: str
    path: str
    reason: str
    remedy: str


class ErrorOut(Answer):
    """Every refusal: a code, a message and, for bad input, each issue."""

    error: str
    message: str
    issues: list[IssueOut]
    conflict: ConflictOut | None = None
