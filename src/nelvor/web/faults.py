"""The one place where errors become answers of the server."""

from __future__ import annotations

import logging

from flask import Flask, Response, jsonify
from flask_wtf.csrf import CSRFError
from sqlalchemy.exc import DBAPIError, OperationalError, TimeoutError
from werkzeug.exceptions import HTTPException

from nelvor import errors
from nelvor.errors import BadInput, Busy, Conflict, Issue, NelvorError, TooManyTries, UnknownEdition
from nelvor.store.watch import GONE
from nelvor.web.wire import ConflictOut, ErrorOut, IssueOut

log = logging.getLogger(__name__)

STATUS: dict[type[NelvorError], tuple[int, str]] = {
    errors.BadInput: (422, "bad_input"),
    errors.UnknownEdition: (422, "unknown_edition"),
    errors.CannotCompute: (422, "cannot_compute"),
    errors.MissingFigure: (422, "cannot_compute"),
    errors.MissingInput: (422, "cannot_compute"),
    errors.NotSignedIn: (401, "not_signed_in"),
    errors.Refused: (403, "refused"),
    errors.NotFound: (404, "not_found"),
    errors.Conflict: (409, "conflict"),
    errors.Stale: (409, "stale"),
    errors.SaveReused: (422, "save_reused"),
    errors.Busy: (503, "busy"),
    errors.TookTooLong: (422, "took_too_long"),
    errors.TooManyTries: (429, "too_many_tries"),
    errors.StoreUnavailable: (503, "store_unavailable"),
    errors.RulebookBroken: (500, "internal"),
}
DISK_FULL = (
    "The server's disk is full: nothing can be saved now. Your edits are kept in this browser; tell whoever runs it."
)
OUT_OF_ROOM = "53100"  # SQLSTATE disk_full


def answer(
    status: int, code: str, message: str, issues: list[Issue] | None = None, conflict: ConflictOut | None = None
) -> Response:
    """Return a refusal in the one form that all have."""
    body = ErrorOut(
        error=code, message=message, issues=[IssueOut(**vars(issue)) for issue in issues or []], conflict=conflict
    )
    response = jsonify(body.model_dump(mode="json"))
    response.status_code = status
    return response


def register(app: Flask) -> None:
    """Hand every error of the application to this module."""
    app.register_error_handler(NelvorError, _ours)
    app.register_error_handler(
        CSRFError, lambda failure: answer(400, "stale_form", "The page is out of date; load it again.")
    )
    app.register_error_handler(HTTPException, _http)
    app.register_error_handler(TimeoutError, lambda failure: answer(503, "store_unavailable", GONE))
    app.register_error_handler(DBAPIError, _database)
    app.register_error_handler(Exception, _unexpected)


def _ours(failure: NelvorError) -> Response:
    status, code = STATUS[type(failure)]
    if status == 500:
        return _unexpected(failure)
    if isinstance(failure, UnknownEdition):
        remedy = f"Choose one of {', '.join(failure.known)}."
        return answer(status, code, str(failure), [Issue("unknown_edition", "settings.edition", str(failure), remedy)])
    if isinstance(failure, Conflict):
        told = "Somebody changed the same before you. Yours is kept beside theirs."
        return answer(status, code, told, conflict=ConflictOut.model_validate(vars(failure)))
    response = answer(status, code, str(failure), failure.issues if isinstance(failure, BadInput) else None)
    if isinstance(failure, TooManyTries):
        response.headers["Retry-After"] = str(failure.wait_s)
    if isinstance(failure, Busy):
        response.headers["Retry-After"] = "1"
    return response


def _http(failure: HTTPException) -> Response:
    return answer(failure.code or 500, "http", failure.description or failure.name)


def _database(failure: DBAPIError) -> Response:
    if getattr(failure.orig, "sqlstate", None) == OUT_OF_ROOM:
        return answer(503, "store_unavailable", DISK_FULL)
    if failure.connection_invalidated or isinstance(failure, OperationalError):
        return answer(503, "store_unavailable", GONE)
    return _unexpected(failure)


def _unexpected(failure: Exception) -> Response:
    log.exception("unexpected error", exc_info=failure)
    return answer(500, "internal", "Something went wrong here; nothing was changed. Please try again.")
