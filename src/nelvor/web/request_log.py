"""The log of the server: a line of JSON for each request and each fault, without names, addresses or what was sent.

A request is told by its id, the route (not the address), status and time; whoever asked by the id of the member. A fault
is told by its kind and the places in the code, not by its message, which may hold what a person entered.
"""

from __future__ import annotations

import json
import logging
import os
import re
import sys
import traceback
import uuid
from datetime import UTC, datetime
from logging.handlers import RotatingFileHandler
from time import perf_counter

from flask import Flask, Response, g, has_request_context, request

REQUEST_ID = "X-Request-Id"
LARGEST_FILE_BYTES = 20_000_000
FILES_KEPT = 5
FACTS = ("request", "method", "route", "status", "ms", "member")
OF_A_REQUEST_ID = re.compile(r"[A-Za-z0-9._-]{1,64}")
SLOW_TO_SPEAK = ("waitress.queue", "alembic")

log = logging.getLogger("nelvor.request")


class JsonLines(logging.Formatter):
    """Writes a record as one line of JSON."""

    def format(self, record: logging.LogRecord) -> str:
        """Return the line."""
        told = {
            "at": datetime.fromtimestamp(record.created, UTC).isoformat(timespec="milliseconds"),
            "level": record.levelname.lower(),
            "from": record.name,
            "what": record.getMessage(),
            **{name: value for name in FACTS if (value := getattr(record, name, None)) is not None},
        }
        if "request" not in told and has_request_context():
            told["request"] = request_id()
        if record.exc_info and record.exc_info[1] is not None:
            told["failure"] = type(record.exc_info[1]).__name__
            told["where"] = places(record.exc_info[1])
        return json.dumps(told)


def places(failure: BaseException) -> list[str]:
    """Return where in the code a failure came about, the outermost first."""
    frames = traceback.extract_tb(failure.__traceback__)
    return [f"{os.path.basename(frame.filename)}:{frame.lineno} {frame.name}" for frame in frames]


def configure() -> None:
    """Write what is logged to the file that ``NELVOR_LOG`` names, which is kept within bounds, or to standard error."""
    path = os.environ.get("NELVOR_LOG")
    handler: logging.Handler = (
        RotatingFileHandler(path, maxBytes=LARGEST_FILE_BYTES, backupCount=FILES_KEPT)
        if path
        else logging.StreamHandler(sys.stderr)
    )
    handler.setFormatter(JsonLines())
    logging.basicConfig(level=logging.INFO, handlers=[handler], force=True)
    for name in SLOW_TO_SPEAK:
        logging.getLogger(name).setLevel(logging.ERROR)


def register(app: Flask) -> None:
    """Log every request of an application, and tell its id in the answer."""
    app.before_request(_begun)
    app.after_request(_ended)


def request_id() -> str:
    """Return the id of this request: the one that a proxy gave it, or a new one."""
    if "request_id" not in g:
        given = request.headers.get(REQUEST_ID, "")
        g.request_id = given if OF_A_REQUEST_ID.fullmatch(given) else uuid.uuid4().hex
    found: str = g.request_id
    return found


def _begun() -> None:
    g.began = perf_counter()


def _ended(response: Response) -> Response:
    response.headers[REQUEST_ID] = request_id()
    facts = {
        "request": request_id(),
        "method": request.method,
        "route": request.url_rule.rule if request.url_rule else None,
        "status": response.status_code,
        "ms": round((perf_counter() - g.get("began", perf_counter())) * 1000, 1),
        "member": g.get("member_id"),
    }
    log.info("request", extra=facts)
    return response
