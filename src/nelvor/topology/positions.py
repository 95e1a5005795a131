"""The ways in which a person finds a site standing: on the utility, or with the utility away and the gear the other way.

Each way that gear or an interlock can rest in is one position; a person looks at it to see what is live, and from where.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import product

from nelvor.model.resolve import State
from nelvor.topology.feeds import OTHER_SOURCE
from nelvor.topology.names import name_of, thing_name
from nelvor.topology.passing import passing_on
from nelvor.topology.scenario import Scenario, ordinary
from nelvor.topology.site import Site

MOST_POSITIONS = 12


@dataclass(frozen=True)
class Position:
    """A scenario by the name that a person gives it."""

    name: str
    scenario: Scenario


@dataclass(frozen=True)
class _Way:
    """One way in which gear or an interlock can rest: the throw that is closed or the device that is open, and its words."""

    words: str
    standby: bool
    throw: tuple[str, str] | None = None
    open_device: str | None = None


def positions(site: Site, state: State) -> list[Position]:
    """Return the positions of a site, the ordinary one first; none where nothing can be switched over.

    At most ``MOST_POSITIONS``; with more gear than that the first ones are told.
    """
    choices = [*_of_gear(site), *_of_interlocks(site)]
    if not choices and not site.passing:
        return []
    utilities = [item for item in site.document.sources if item.kind == "utility"]
    first = "Utility on" if utilities else "All sources on"
    found = [Position(first, _day(site, state, choices))]
    for ways in product(*choices):
        if any(way.standby for way in ways) and len(found) < MOST_POSITIONS:
            words = ", ".join(way.words for way in ways if way.standby)
            found.append(Position(f"Utility away, {words}", _scenario(site, state, ways, _without_utility(site))))
    for passing in site.passing.values():
        alone = _scenario(site, state, tuple(ways[0] for ways in choices), frozenset({passing.source.id}))
        found.append(Position(f"{name_of(site, passing.source.id)} alone", alone))
    return found


def _of_gear(site: Site) -> Iterator[list[_Way]]:
    for gear in site.document.transfers:
        ways = []
        for throw in site.throws_of.get(gear.id, []):
            runs = site.runs_to_part.get(throw.part, [])
            standby = any(site.feeds.rank[site.upstream_of(run)] == OTHER_SOURCE for run in runs)
            on = throw.name or ("its standby side" if standby else "its normal side")
            words = f"{gear.name or name_of(site, gear.enclosure_id)} on {on.lower()}"
            ways.append(_Way(words, standby, throw=(gear.id, throw.id)))
        if any(way.standby for way in ways):
            yield sorted(ways, key=lambda way: way.standby)


def _of_interlocks(site: Site) -> Iterator[list[_Way]]:
    for interlock in site.document.interlocks:
        ends = (interlock.device_a, interlock.device_b)
        standby = {end for end in ends if _brings_standby(site, end)}
        if len(standby) == 1:
            other = next(end for end in ends if end not in standby)
            came = next(iter(standby))
            at = name_of(site, site.owners[came])
            yield [
                _Way(f"{at} on its main", False, open_device=came),
                _Way(f"{at} on {thing_name(site, came).lower()}", True, open_device=other),
            ]


def _brings_standby(site: Site, device_id: str) -> bool:
    runs = site.runs_to_part.get(device_id, [])
    return any(site.feeds.rank[site.upstream_of(run)] == OTHER_SOURCE for run in runs)


def _day(site: Site, state: State, choices: list[list[_Way]]) -> Scenario:
    return _scenario(site, state, tuple(ways[0] for ways in choices), ordinary(site, site.feeds, state).sources_on)


def _without_utility(site: Site) -> frozenset[str]:
    """Sources that are on when the utility is away: those that make a supply by themselves."""
    others = [item for item in site.document.sources if item.kind != "utility"]
    return frozenset(item.id for item in others if not item.interactive or item.forms_supply)


def _scenario(site: Site, state: State, ways: tuple[_Way, ...], on: frozenset[str]) -> Scenario:
    told = dict(way.throw for way in ways if way.throw is not None)
    throws = {gear: throw for gear, throw in ordinary(site, site.feeds, state).positions} | told
    opened = frozenset(way.open_device for way in ways if way.open_device is not None)
    return Scenario(state, tuple(throws.items()), on, opened, passing_on(site, on))
