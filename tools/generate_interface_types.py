"""Write what the interface takes from the server's models: the API description, field limits, facts and types.

Run with the project's Python: ``PYTHONPATH=src:. .nelvor/venv/bin/python -m tools.generate_interface_types``.
"""

from __future__ import annotations

import json
import subprocess
from typing import Any

from nelvor.clauses.load_kind import ALWAYS_CONTINUOUS
from nelvor.model import new_loads, new_things
from nelvor.model.document import LISTS
from nelvor.model.references import REFERENCES
from nelvor.model.schema import job_schema
from nelvor.model.source_plates import FACTS_OF_PLATE
from nelvor.model.voltages import LINE_TO_LINE_V, LINE_TO_NEUTRAL_V, THREE_PHASE
from nelvor.report.words import shared_words
from nelvor.web.description import describe
from nelvor.web.routes import api
from tools.layout import UI

KEPT = ("minimum", "exclusiveMinimum", "maximum", "maxLength", "enum", "type")


def api_description() -> str:
    """Return the OpenAPI document as committed."""
    return json.dumps(describe(api), indent=1, sort_keys=True) + "\n"


def field_limits() -> str:
    """Return, for each list and field, the limits that the schema states."""
    schema = job_schema()
    limits: dict[str, Any] = {
        name: {
            field: _limit(facts, schema)
            for field, facts in schema["$defs"][model.__name__]["properties"].items()
            if field not in model.OWN_FIELDS
        }
        for name, model in LISTS.items()
    }
    limits["settings"] = {
        field: _limit(facts, schema) for field, facts in schema["$defs"]["Settings"]["properties"].items()
    }
    return json.dumps(limits, indent=1, sort_keys=True) + "\n"


def model_facts() -> str:
    """Return what else the interface needs of the model: its lists, references, defaults of new things, and words."""
    facts = {
        "lists": list(LISTS),
        "references": {
            name: {field: {"lists": list(item.lists), "kind": item.kind} for field, item in fields.items()}
            for name, fields in REFERENCES.items()
        },
        "plate_fields": list(FACTS_OF_PLATE),
        "defaults": {
            name: {
                field: facts.get_default(call_default_factory=True)
                for field, facts in model.model_fields.items()
                if not facts.is_required()
            }
            for name, model in LISTS.items()
        },
        "new_enclosures": new_things.as_data(),
        "new_loads": new_loads.as_data(),
        "volts": {"between_lines": LINE_TO_LINE_V, "to_neutral": LINE_TO_NEUTRAL_V},
        "three_phase": sorted(THREE_PHASE),
        "always_continuous": sorted(ALWAYS_CONTINUOUS),
        "words": shared_words(),
    }
    return json.dumps(facts, indent=1, sort_keys=True, ensure_ascii=False) + "\n"


def _limit(facts: dict[str, Any], schema: dict[str, Any]) -> dict[str, Any]:
    options = facts.get("anyOf", [facts])
    nullable = any(option.get("type") == "null" for option in options)
    chosen = next((option for option in options if option.get("type") != "null"), {})
    of_items = {"enum": items["enum"]} if (items := chosen.get("items", {})).get("enum") else {}
    return {key: chosen[key] for key in KEPT if key in chosen} | of_items | {"nullable": nullable}


def main() -> None:
    """Write the files."""
    folder = UI / "src" / "api"
    folder.mkdir(parents=True, exist_ok=True)
    (folder / "openapi.json").write_text(api_description())
    (folder / "limits.json").write_text(field_limits())
    (folder / "model.json").write_text(model_facts())
    subprocess.run(["npm", "run", "--silent", "types"], cwd=UI, check=True)


if __name__ == "__main__":
    main()
