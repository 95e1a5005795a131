"""Local rules of a shop brought into a job: copies of its own, so that a job says alone what it rests on."""

from __future__ import annotations

from collections.abc import Iterable

from nelvor.model.changes.operations import Insert
from nelvor.model.document import Document
from nelvor.model.things import Amendment


def what_it_says(rule: Amendment) -> tuple[str, str, float | None, str]:
    """Return what a rule says, apart from its id and where it is written down."""
    return rule.key, rule.action, rule.value, rule.unit


def missing_from(document: Document, rules: Iterable[Amendment]) -> list[Amendment]:
    """Return the rules that say nothing that a job's own amendments say already, each with an id free in the job."""
    said = {what_it_says(rule) for rule in document.amendments if rule.standing != "removed"}
    taken = {thing.id for _, thing in document.things()}
    found = []
    for rule in rules:
        if what_it_says(rule) in said:
            continue
        said.add(what_it_says(rule))
        new_id = _free_id(rule.key, taken)
        taken.add(new_id)
        found.append(rule.model_copy(update={"id": new_id, "standing": "existing", "proposed": {}}))
    return found


def _free_id(wish: str, taken: set[str]) -> str:
    number = 1
    while (candidate := f"{wish[:30]}-{number}") in taken:
        number += 1
    return candidate


def bringing_in(document: Document, rules: Iterable[Amendment]) -> list[Insert]:
    """Return the operations that bring the missing rules into a job."""
    return [Insert(list="amendments", thing=rule.model_dump(mode="json")) for rule in missing_from(document, rules)]
