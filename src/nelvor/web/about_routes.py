"""Routes that tell about the server itself: editions, schemas, description, health."""

from __future__ import annotations

import shutil
import tempfile

from flask import Response, jsonify
from sqlalchemy import text

from nelvor.model.schema import job_schema
from nelvor.rulebook.rules import rulebook
from nelvor.starters import STARTERS
from nelvor.web import wire
from nelvor.web.api import api
from nelvor.web.asking import pool
from nelvor.web.session import database

LEAST_FREE_MB = 200


@api.route("GET", "/editions", answer=wire.EditionsOut, public=True)
def read_editions() -> wire.EditionsOut:
    """List the editions whose rules are held, and the amendments that are understood."""
    book = rulebook()
    return wire.EditionsOut(
        editions=list(book.editions),
        starters=[wire.StarterOut(key=item.key, title=item.title, words=item.words) for item in STARTERS.values()],
        rulebook=book.version,
        amendment_keys=list(book.amendment_kinds),
    )


@api.route("GET", "/schema/job.json", public=True)
def read_job_schema() -> Response:
    """Return the JSON Schema of the job document."""
    return jsonify(job_schema())


@api.route("GET", "/openapi.json", public=True)
def read_openapi() -> Response:
    """Return the description of this API."""
    from nelvor.web.description import describe  # the description reads this module's endpoints

    return jsonify(describe(api))


@api.route("GET", "/health", public=True)
def health() -> Response:
    """Tell that the server and its database answer."""
    database().connection()
    return jsonify({"ok": True})


@api.route("GET", "/ready", public=True)
def ready() -> Response:
    """Tell whether this server can take work: database, room on the disk, room among the checks. 503 where it cannot."""
    answers = database().scalar(text("select 1")) == 1
    free_mb = shutil.disk_usage(tempfile.gettempdir()).free // 2**20
    told = {"database": answers, "disk": free_mb >= LEAST_FREE_MB, "checks": pool().ready and pool().line.has_room}
    response = jsonify({"ok": all(told.values()), **told})
    response.status_code = 200 if all(told.values()) else 503
    return response
