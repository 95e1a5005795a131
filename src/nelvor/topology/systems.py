"""Voltages and legs: which system stands at each enclosure, which legs reach it, and how a load lies on those of a space."""

from __future__ import annotations

from nelvor.model.things import Load
from nelvor.model.voltages import LEGS, LINE_TO_NEUTRAL_V, THREE_PHASE, legs_of
from nelvor.topology.feeds import INTERACTIVE, Feeds
from nelvor.topology.look_ups import LookUps

TWO_POLES = 2


def systems_of(things: LookUps, feeds: Feeds) -> dict[str, str | None]:
    """Return the voltage system at each source and enclosure: its own, or that of the transformer or source ahead.

    A source that runs beside the utility, and the boxes on its way, have that of what they feed into.
    """
    found: dict[str, str | None] = {}
    for owner in feeds.root:
        if owner in things.sources:
            found[owner] = things.sources[owner].system
    for enclosure_id in feeds.walking_order:
        run = feeds.feeding.get(enclosure_id)
        transformer = things.transformer_of_secondary.get(run.from_part) if run else None
        ahead: str | None = next((source.system for source in things.sources_in.get(enclosure_id, [])), None)
        if transformer is not None:
            ahead = transformer.secondary_system
        elif run is not None:
            ahead = found.get(things.upstream_of(run))
        found[enclosure_id] = things.enclosures[enclosure_id].system or ahead
    for owner in reversed(feeds.outward):
        if found.get(owner) is None and feeds.rank[owner] == INTERACTIVE:
            beyond = (found.get(things.downstream_of(run)) for run in things.runs_from.get(owner, []))
            found[owner] = next((system for system in beyond if system), None)
    return found


def legs_reaching(things: LookUps, feeds: Feeds, systems: dict[str, str | None]) -> dict[str, frozenset[str]]:
    """Return the legs that reach each enclosure: those of its system that every run on the way brings."""
    found: dict[str, frozenset[str]] = {}
    for owner in [*(owner for owner in feeds.root if owner in things.sources), *feeds.walking_order]:
        legs = frozenset(legs_of(systems.get(owner)))
        run = feeds.feeding.get(owner)
        if run is not None:
            brought = frozenset(item.role for item in things.conductors_of.get(run.id, []) if item.role in LEGS)
            if run.from_part not in things.transformer_of_secondary:
                legs &= found.get(things.upstream_of(run), legs)
            legs = (legs & brought) or legs
        found[owner] = legs
    return found


def connection_by_space(load: Load, legs: tuple[str, ...], system: str) -> str | None:
    """Return how a load lies on the legs of its circuit's device; None where they do not tell.

    A load at the voltage to neutral on two or three poles is spread over them, as on a multiwire circuit.
    """
    if not legs:
        return None
    if len(legs) == 1:
        return f"{legs[0]}-N"
    to_neutral = LINE_TO_NEUTRAL_V.get(system)
    if load.volts is None or (to_neutral is not None and load.volts <= to_neutral * 1.1):
        return None
    if len(legs) == TWO_POLES:
        return "-".join(legs)
    return "three_phase" if system in THREE_PHASE else None
