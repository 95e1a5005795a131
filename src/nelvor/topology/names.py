"""What a person calls the things of a design. No id is ever shown where a name or a kind can stand."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Protocol

from nelvor.model.things import Enclosure, Run, Source


class Named(Protocol):
    """The look-ups that names are taken from."""

    @property
    def enclosures(self) -> Mapping[str, Enclosure]: ...

    @property
    def sources(self) -> Mapping[str, Source]: ...

    @property
    def owners(self) -> Mapping[str, str]: ...


def name_of(site: Named, owner: str) -> str:
    """Return the name of an enclosure or source as a person knows it."""
    thing = site.enclosures.get(owner) or site.sources.get(owner)
    return (thing.name if thing else "") or owner


def run_name(site: Named, run: Run) -> str:
    """Return the name of a run, or the names of what it joins."""
    if run.name:
        return run.name
    ends = [site.owners.get(part, part) for part in (run.from_part, run.to_part)]
    return " → ".join(name_of(site, end) for end in ends)
