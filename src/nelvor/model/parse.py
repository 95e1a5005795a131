"""Reading a job document from the outside: every fault named at once, nothing half read."""

from __future__ import annotations

import json
import math
import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any, NoReturn

from pydantic import ValidationError

from nelvor.errors import BadInput, Issue
from nelvor.model.base import Thing
from nelvor.model.crowding import crowding_issues
from nelvor.model.document import FORMAT, LISTS, VERSION, Document
from nelvor.model.field_log import SECTION, FieldEntry, entries_of
from nelvor.model.migrate import known_version, migrated
from nelvor.model.references import reference_issues

LARGEST_DOCUMENT_BYTES = 10 * 1024 * 1024
DEEPEST_NESTING = 32
MOST_ISSUES_TOLD = 100
NEVER_STORED = re.compile("[\x00\ud800-\udfff]")
CONTROL = re.compile("[\x00-\x08\x0b\x0c\x0e-\x1f\x7f\ud800-\udfff]")
"""What no text may hold that comes in: all control characters but those of lines and columns. Older jobs may hold some."""


def _refuse(code: str, reason: str, remedy: str, path: str = "") -> NoReturn:
    raise BadInput([Issue(code, path, reason, remedy)])


def _without_duplicates(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    found: dict[str, Any] = {}
    for key, value in pairs:
        if key in found:
            _refuse(
                "duplicate_key", f"the key {key[:80]!r} stands twice in one object.", "Keep one of the two.", key[:80]
            )
        found[key] = value
    return found


def _no_constant(text: str) -> NoReturn:
    _refuse("not_a_number", f"{text} is not a number that JSON allows.", "Write a number, or null for not known.")


def _finite(text: str) -> float:
    value = float(text)
    if not math.isfinite(value):
        _refuse("not_a_number", f"{text[:40]} is too large for a number.", "Write a number within the field's limits.")
    return value


def _check_nesting(value: Any, depth: int = 1) -> None:
    if depth > DEEPEST_NESTING:
        _refuse(
            "too_deep",
            f"the document is nested deeper than {DEEPEST_NESTING} levels.",
            "A job needs five; check where the file comes from.",
        )
    if isinstance(value, dict):
        for inner in value.values():
            _check_nesting(inner, depth + 1)
    elif isinstance(value, list):
        for inner in value:
            _check_nesting(inner, depth + 1)


def _texts(value: Any, path: tuple[Any, ...] = ()) -> Iterator[tuple[str, tuple[Any, ...]]]:
    """Yield every text within a value, names of fields among them, with where it stands."""
    if isinstance(value, dict):
        for key, inner in value.items():
            yield key, path
            yield from _texts(inner, (*path, key))
    elif isinstance(value, list):
        for place, inner in enumerate(value):
            yield from _texts(inner, (*path, place))
    elif isinstance(value, str):
        yield value, path


def _check_texts(value: Any, forbidden: re.Pattern[str]) -> None:
    for text, path in _texts(value):
        found = forbidden.search(text)
        if found is None:
            continue
        location = _named_location(path, value) if isinstance(value, dict) else path
        where = ".".join(str(part) for part in location)[:300]
        if "\ud800" <= found[0] <= "\udfff":
            reason, remedy = "half of a character (a lone surrogate)", "Write the character again."
        else:
            reason, remedy = f"the control character U+{ord(found[0]):04X}", "Take it out, or write the text again."
        _refuse("bad_text", f"the text holds {reason}.", remedy, where)


def read_json(raw: bytes, forbidden: re.Pattern[str] = CONTROL) -> Any:
    """Return the JSON value of ``raw``, refusing what JSON libraries differ on, and control characters in its texts.

    Raises:
        BadInput: too large, not UTF-8, truncated, nested too deep, duplicate keys, NaN, a control character.
    """
    if len(raw) > LARGEST_DOCUMENT_BYTES:
        _refuse(
            "too_large",
            f"the file is larger than {LARGEST_DOCUMENT_BYTES // 1024 // 1024} MB.",
            "Split the job in two.",
        )
    try:
        text = raw.decode("utf-8-sig")
        value = json.loads(
            text, object_pairs_hook=_without_duplicates, parse_constant=_no_constant, parse_float=_finite
        )
    except UnicodeDecodeError:
        _refuse("not_utf8", "the file is not UTF-8 text.", "Save it as UTF-8.")
    except RecursionError:
        _refuse("too_deep", f"the document is nested deeper than {DEEPEST_NESTING} levels.", "A job needs five levels.")
    except json.JSONDecodeError as failure:
        _refuse(
            "not_json",
            f"not JSON at line {failure.lineno}, column {failure.colno}: {failure.msg}.",
            "Check that the file is whole.",
        )
    except ValueError:
        _refuse("not_a_number", "a number has too many digits.", "Write a number within the field's limits.")
    _check_nesting(value)
    _check_texts(value, forbidden)
    return value


@dataclass(frozen=True)
class JobFile:
    """What a file of a job holds: the design document, and the log of what was done on site."""

    document: Document
    field_log: tuple[FieldEntry, ...]


def parse_bytes(raw: bytes) -> Document:
    """Return the document held in JSON text.

    Raises:
        BadInput: with every issue found.
    """
    return parse_value(read_json(raw))


def parse_stored(text: str) -> Document:
    """Return a document from the text in which it was stored, by whatever version."""
    return parse_value(read_json(text.encode(), NEVER_STORED))


def parse_value(value: Any) -> Document:
    """Return the document held in a JSON value that ``read_json`` would accept.

    Raises:
        BadInput: with every issue found: wrong types, out of range, unknown ids.
    """
    return parse_job(value).document


def parse_job(value: Any) -> JobFile:
    """Return the document and the field log held in a JSON value that ``read_json`` would accept.

    Raises:
        BadInput: with every issue found.
    """
    if not isinstance(value, dict) or value.get("format") != FORMAT:
        _refuse("wrong_format", "this is not a job document.", f'A job says "format": "{FORMAT}".', "format")
    if not known_version(value.get("version")):
        _refuse(
            "wrong_version",
            f"version {str(value.get('version'))[:20]} of the job document is not known here.",
            f"This program reads versions up to {VERSION}.",
            "version",
        )
    value = dict(migrated(value))
    field_log = entries_of(value.pop(SECTION, []))
    try:
        document = Document.model_validate(value)
    except ValidationError as failure:
        raise BadInput(issues_of(failure, value)) from None
    issues = proposal_issues(document) or reference_issues(document) or crowding_issues(document)
    if issues:
        raise BadInput(_once(issues)[:MOST_ISSUES_TOLD])
    return JobFile(document, tuple(field_log))


def _once(issues: list[Issue]) -> list[Issue]:
    return list(dict.fromkeys(issues))


def proposal_issues(document: Document, before: Document | None = None) -> list[Issue]:
    """Return an issue for each proposed property that is unknown or does not fit its field.

    Things that ``before`` holds, too, were looked at then.
    """
    issues = []
    for list_name, thing in document.things_new_since(before):
        if not thing.proposed:
            continue
        path = f"{list_name}.{thing.id}.proposed"
        allowed = set(LISTS[list_name].model_fields) - Thing.OWN_FIELDS
        unknown = sorted(set(thing.proposed) - allowed)
        if unknown:
            issues.append(
                Issue(
                    "unknown_field",
                    f"{path}.{unknown[0][:80]}",
                    "there is no such property.",
                    f"Known properties: {', '.join(sorted(allowed))}.",
                )
            )
            continue
        try:
            thing.as_proposed()
        except ValidationError as failure:
            issues += [issue_of(path, error) for error in failure.errors()]
    return issues


REMEDIES = {
    "greater_than": "Enter a value above {gt}.",
    "greater_than_equal": "Enter a value of at least {ge}.",
    "less_than_equal": "Enter a value of at most {le}.",
    "string_too_long": "Shorten it to {max_length} characters.",
    "too_long": "Keep at most {max_length}.",
    "literal_error": "Choose one of {expected}.",
    "missing": "Add it.",
    "extra_forbidden": "Take it out; this version has no such property.",
    "float_type": "Enter a number.",
    "int_type": "Enter a whole number.",
    "bool_type": "Enter true, false or null.",
    "string_type": "Enter text.",
    "finite_number": "Enter a finite number.",
    "string_pattern_mismatch": "Use lower-case letters, digits, - and _ (ids), or a value of the list.",
}


def issue_of(prefix: str, error: Any) -> Issue:
    """Return one fault of a validation with its remedy; ``prefix`` is where the validated piece stands."""
    inner = ".".join(str(part) for part in error["loc"])
    path = f"{prefix}.{inner}" if prefix and inner else prefix or inner
    template = REMEDIES.get(error["type"], "See the published schema of the job document.")
    remedy = template.format_map({key: str(fact) for key, fact in error.get("ctx", {}).items()})
    message = error["msg"][0].lower() + error["msg"][1:300]
    return Issue(error["type"], path[:300], f"{message}.", remedy)


def issues_of(failure: ValidationError, value: dict[str, Any]) -> list[Issue]:
    """Return the issues of a failed validation, with ids in place of positions in the lists."""
    issues = []
    for error in failure.errors()[:MOST_ISSUES_TOLD]:
        issues.append(issue_of("", {**error, "loc": _named_location(error["loc"], value)}))
    return issues


def _named_location(location: tuple[Any, ...], value: dict[str, Any]) -> tuple[Any, ...]:
    if len(location) < 2 or not isinstance(location[1], int):
        return location
    try:
        thing_id = value[location[0]][location[1]]["id"]
    except (KeyError, TypeError, IndexError):
        return location
    return (location[0], thing_id, *location[2:]) if isinstance(thing_id, str) else location
