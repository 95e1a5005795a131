"""The published JSON Schema of the job document."""

from __future__ import annotations

from typing import Any

from nelvor.model.document import LISTS, VERSION, Document
from nelvor.model.field_log import SECTION, FieldEntry


def job_schema() -> dict[str, Any]:
    """Return the JSON Schema (draft 2020-12) of the job document in its present version."""
    schema = Document.model_json_schema()
    for model in LISTS.values():
        schema["$defs"][model.__name__]["properties"]["proposed"] = {
            "type": "object",
            "description": "Properties that the proposal changes; the same names and limits as above.",
            "propertyNames": {"enum": sorted(set(model.model_fields) - model.OWN_FIELDS)},
            "default": {},
        }
    schema["$defs"][FieldEntry.__name__] = FieldEntry.model_json_schema()
    schema["properties"][SECTION] = {
        "type": "array",
        "items": {"$ref": f"#/$defs/{FieldEntry.__name__}"},
        "description": "What was done or measured on site; a stream beside the design that is only added to.",
        "default": [],
    }
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": f"Nelvor job, version {VERSION}",
        **schema,
    }
