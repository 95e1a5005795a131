"""Local rules of a shop brought into a job: copies of its own, so that a job says alone what it rests on."""

from __future__ import annotations

from collections.abc import Iterable

from nelvor.model.changes.ids import FreeIds, taken_ids
from nelvor.model.changes.operations import Insert
from nelvor.model.document import Document
from nelvor.model.things import Amendment


def what_it_says(rule: Amendment) -> tuple[str, str, float | None, str]:
    """Return what a rule says, apart from its id and where it is written down."""
    return rule.key, rule.action, rule.value, rule.unit


def missing_from(amendments: Iterable[Amendment], rules: Iterable[Amendment]) -> list[Amendment]:
    """Return the rules that say nothing that the amendments of a job say already, each once."""
    said = {what_it_says(rule) for rule in amendments if rule.standing != "removed"}
    found = []
    for rule in rules:
        if what_it_says(rule) not in said:
            said.add(what_it_says(rule))
            found.append(rule)
    return found


def copies_for(document: Document, rules: Iterable[Amendment]) -> list[Amendment]:
    """Return the rules that a job lacks as amendments of its own, each with an id that is free there."""
    ids = FreeIds(taken_ids(document.things()))
    return [
        rule.model_copy(update={"id": ids.take(rule.key), "standing": "existing", "proposed": {}})
        for rule in missing_from(document.amendments, rules)
    ]


def bringing_in(document: Document, rules: Iterable[Amendment]) -> list[Insert]:
    """Return the operations that bring the missing rules into a job."""
    return [Insert(list="amendments", thing=rule.model_dump(mode="json")) for rule in copies_for(document, rules)]
