"""The published JSON Schema of the job document."""

from __future__ import annotations

from typing import Any

from nelvor.model.document import LISTS, Document


def job_schema() -> dict[str, Any]:
    """Return the JSON Schema (draft 2020-12) of the job document, version 1."""
    schema = Document.model_json_schema()
    for model in LISTS.values():
        schema["$defs"][model.__name__]["properties"]["proposed"] = {
            "type": "object",
            "description": "Properties that the proposal changes; the same names and limits as above.",
            "propertyNames": {"enum": sorted(set(model.model_fields) - model.OWN_FIELDS)},
            "default": {},
        }
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", "title": "Nelvor job, version 1", **schema}
