"""How much may meet in one place. What one enclosure holds is looked at together: it is bounded before work begins."""

from __future__ import annotations

from collections import Counter
from operator import attrgetter

from nelvor.errors import Issue
from nelvor.model.document import Document
from nelvor.model.references import owner_of_parts

MOST_IN_ONE_ENCLOSURE = {
    "runs": 400,
    "devices": 600,
    "lugs": 200,
    "buses": 60,
    "bars": 200,
    "bonds": 200,
    "sources": 100,
    "transfers": 40,
    "transformers": 40,
}
"""By list; a run counts at each of its ends. The largest switchboards stay well below."""


def crowding_issues(document: Document, before: Document | None = None) -> list[Issue]:
    """Return an issue for each enclosure in which more of a kind meet than may.

    ``before`` is the document that this one was edited from: where nothing has moved since, nothing has become crowded.
    """
    if before is not None and all(_unmoved(name, document, before) for name in MOST_IN_ONE_ENCLOSURE):
        return []
    counted = _counted(document)
    names = {item.id: item.name or item.id for item in document.enclosures}
    return [
        Issue(
            "too_many_in_one_place",
            f"enclosures.{enclosure_id}",
            f"{number} {list_name} meet in {names[enclosure_id]}; {MOST_IN_ONE_ENCLOSURE[list_name]} may.",
            "Spread them over several enclosures, as the sections of a switchboard are.",
        )
        for (list_name, enclosure_id), number in counted.items()
        if enclosure_id in names and number > MOST_IN_ONE_ENCLOSURE[list_name]
    ]


def _unmoved(list_name: str, document: Document, before: Document) -> bool:
    """Tell whether the things of a list stand, or the runs end, where they did before."""
    now, then = getattr(document, list_name), getattr(before, list_name)
    place = attrgetter("id", *(("from_part", "to_part") if list_name == "runs" else ("enclosure_id",)))
    return now is then or list(map(place, now)) == list(map(place, then))


def _counted(document: Document) -> Counter[tuple[str, str]]:
    counted: Counter[tuple[str, str]] = Counter()
    for list_name in MOST_IN_ONE_ENCLOSURE:
        if list_name != "runs":
            counted.update((list_name, item.enclosure_id or "") for item in getattr(document, list_name))
    owners = owner_of_parts(document)
    for run in document.runs:
        counted.update(("runs", owners.get(part, "")) for part in {run.from_part, run.to_part})
    return counted
