"""JSON values made at random from a JSON Schema: what a program sends that has read nothing but the published schema."""

from __future__ import annotations

import random
import re
from dataclasses import dataclass
from typing import Any

NAMES = ("a", "b-1", "main", "old_panel", "x" * 40)
"""Few, so that things made at random name each other now and then."""

WORDS = (*NAMES, "", "12 ft", "Ä ß 漢", "x" * 200, "2026-11-27", "someone@east.invalid", "#4", "1/0", "0.5", "-3")
OFTEN, SELDOM = 0.75, 0.25
SHALLOW = 6
"""How deep a value may be before what need not be there is left out."""


@dataclass
class Maker:
    """Makes values of the types, bounds and choices that a schema gives; ``names`` is what its things may name."""

    chance: random.Random
    schema: dict[str, Any]
    names: tuple[str, ...] = NAMES

    def whole(self) -> Any:
        """Return a value of the whole schema."""
        return self.made(self.schema)

    def made(self, schema: dict[str, Any], depth: int = 0) -> Any:
        """Return a value of one part of the schema."""
        if "$ref" in schema:
            return self.made(self.schema["$defs"][schema["$ref"].rpartition("/")[2]], depth)
        if "const" in schema:
            return schema["const"]
        if "enum" in schema:
            return self.chance.choice(schema["enum"])
        choices = schema.get("anyOf") or schema.get("oneOf")
        if choices:
            return self.made(self.chance.choice(choices), depth)
        kind = schema.get("type", "object" if "properties" in schema else "any")
        if isinstance(kind, list):
            kind = self.chance.choice(kind)
        return getattr(self, f"_{kind}")(schema, depth)

    def _object(self, schema: dict[str, Any], depth: int) -> dict[str, Any]:
        required = schema.get("required", ())
        wanted = OFTEN if depth < 2 else SELDOM if depth < SHALLOW else 0.0
        made = {
            name: self.made(part, depth + 1)
            for name, part in schema.get("properties", {}).items()
            if name in required or self.chance.random() < wanted
        }
        more = schema.get("additionalProperties")
        for part in [*schema.get("patternProperties", {}).values(), *([more] if isinstance(more, dict) else [])]:
            if self.chance.random() < wanted:
                made[self.chance.choice(self.names)] = self.made(part, depth + 1)
        return made

    def _array(self, schema: dict[str, Any], depth: int) -> list[Any]:
        least = schema.get("minItems", 0)
        most = max(least, min(schema.get("maxItems", 3), 3 if depth < SHALLOW else 0))
        part = schema.get("items", {})
        return [self.made(part, depth + 1) for _ in range(self.chance.randint(least, most))]

    def _string(self, schema: dict[str, Any], depth: int) -> str:
        if "pattern" in schema:
            fits = [word for word in (*self.names, *WORDS) if re.search(schema["pattern"], word)]
            return self.chance.choice(fits) if fits else "x"
        return self.chance.choice(WORDS)[: schema.get("maxLength", 200)]

    def _number(self, schema: dict[str, Any], depth: int) -> float:
        low = schema.get("minimum", schema.get("exclusiveMinimum", -1e6) + (schema.get("exclusiveMinimum") is not None))
        high = schema.get("maximum", schema.get("exclusiveMaximum", 1e6) - (schema.get("exclusiveMaximum") is not None))
        usual = [value for value in (0, 1, 12.5, 100, 240) if low <= value <= high]
        return self.chance.choice([low, high, low + (high - low) * self.chance.random(), *usual])

    def _integer(self, schema: dict[str, Any], depth: int) -> int:
        return int(self._number(schema, depth))

    def _boolean(self, schema: dict[str, Any], depth: int) -> bool:
        return self.chance.random() < 0.5

    def _null(self, schema: dict[str, Any], depth: int) -> None:
        return None

    def _any(self, schema: dict[str, Any], depth: int) -> Any:
        return self.chance.choice((None, True, 0, 1.5, "a", [], {}))


def grafted(document: dict[str, Any], schema: dict[str, Any], chance: random.Random) -> dict[str, Any]:
    """Return a valid document with a few things of its lists made anew from the schema, naming what is there."""
    document = {name: list(value) if isinstance(value, list) else value for name, value in document.items()}
    things = [item for value in document.values() if isinstance(value, list) for item in value]
    names = tuple(item["id"] for item in things if "id" in item) or NAMES
    maker = Maker(chance, schema, names)
    lists = {name: part for name, part in schema["properties"].items() if part.get("type") == "array"}
    for number in range(chance.choice((1, 1, 2, 4))):
        name = chance.choice(sorted(lists))
        made, there = maker.made(lists[name]["items"], 1), document.get(name, [])
        like = chance.choice(there) if there else {}
        if like and chance.random() < OFTEN:  # what it names stays, so that most of what is sent can be read
            made = {field: value for field, value in made.items() if not field.endswith(("_id", "_ids"))}
        new = f"made-{number}"
        if like and chance.random() < OFTEN:
            there[there.index(like)] = {**like, **made, "id": like["id"]}
        else:
            document[name] = [*there, {**like, **made, "id": new if chance.random() < OFTEN else made.get("id", new)}]
    return document
