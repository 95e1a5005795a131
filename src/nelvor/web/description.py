"""The API described in OpenAPI 3.1, made from the declared endpoints; the interface's types are made from it."""

from __future__ import annotations

import re
from typing import Any

from pydantic import BaseModel
from pydantic.json_schema import models_json_schema

from nelvor import ENGINE_VERSION
from nelvor.web.endpoint import Api, Endpoint
from nelvor.web.wire import ErrorOut

REFUSALS = {
    "400": "stale form",
    "401": "not signed in",
    "403": "refused",
    "404": "not found",
    "409": "conflict",
    "413": "too large",
    "415": "wrong type",
    "422": "bad input",
    "429": "too many tries",
    "503": "busy, or the database does not answer",
}


def describe(api: Api) -> dict[str, Any]:
    """Return the OpenAPI document of the declared endpoints."""
    models: list[type[BaseModel]] = [ErrorOut]
    for endpoint in api.endpoints:
        models += [model for model in (endpoint.body, endpoint.answer, endpoint.later) if model is not None]
    unique = list(dict.fromkeys(models))
    _, schema = models_json_schema(
        [(model, "serialization") for model in unique], ref_template="#/components/schemas/{model}"
    )
    paths: dict[str, dict[str, Any]] = {}
    for endpoint in api.endpoints:
        path = "/api" + re.sub(r"<(?:\w+:)?(\w+)>", r"{\1}", endpoint.path)
        paths.setdefault(path, {})[endpoint.method.lower()] = _operation(endpoint)
    return {
        "openapi": "3.1.0",
        "info": {"title": "Nelvor", "version": ENGINE_VERSION},
        "paths": paths,
        "components": {"schemas": schema["$defs"]},
    }


def _content(model: type[BaseModel]) -> dict[str, Any]:
    return {"application/json": {"schema": {"$ref": f"#/components/schemas/{model.__name__}"}}}


def _operation(endpoint: Endpoint) -> dict[str, Any]:
    answer: dict[str, Any] = {"description": endpoint.summary}
    if endpoint.answer is not None:
        answer["content"] = _content(endpoint.answer)
    operation: dict[str, Any] = {
        "summary": endpoint.summary,
        "responses": {str(endpoint.status): answer}
        | {status: {"description": words, "content": _content(ErrorOut)} for status, words in REFUSALS.items()},
    }
    if endpoint.later is not None:
        operation["responses"]["202"] = {"description": "not ready yet", "content": _content(endpoint.later)}
    if endpoint.body is not None:
        operation["requestBody"] = {"required": True, "content": _content(endpoint.body)}
    if endpoint.reads:
        operation["requestBody"] = {"required": True, "content": {endpoint.reads: {"schema": {"type": "string"}}}}
    parameters = [
        {"name": name, "in": "path", "required": True, "schema": {"type": "integer" if kind == "int:" else "string"}}
        for kind, name in re.findall(r"<(int:)?(\w+)>", endpoint.path)
    ]
    if endpoint.later is not None:
        told_soon = {"type": "string", "enum": ["1"]}
        parameters.append({"name": "soon", "in": "query", "required": False, "schema": told_soon})
    if parameters:
        operation["parameters"] = parameters
    return operation
