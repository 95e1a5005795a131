"""Sources that other power passes through on its way: a hybrid inverter before its backup panel, a charger behind a set.

While its input is live such a source hands it on; when the input goes away it opens it and makes the supply by itself.
Whether the neutral goes along or is opened with the lines decides whose system its output is.
"""

from __future__ import annotations

from dataclasses import dataclass

from nelvor.model.things import Source
from nelvor.topology.look_ups import LookUps

ENGINES = frozenset({"utility", "generator"})


@dataclass(frozen=True)
class Passing:
    """A source that power passes through. ``inputs`` are the parts at which runs arrive, ``input_bars`` the neutral bars
    at which only neutrals arrive; ``behind`` are the sources that its input comes from."""

    source: Source
    inputs: frozenset[str]
    input_bars: frozenset[str]
    behind: frozenset[str]

    def is_fed(self, sources_on: frozenset[str]) -> bool:
        """Tell whether its input is live when these sources are on."""
        return bool(self.behind & sources_on)


def passing_sources(things: LookUps) -> dict[str, Passing]:
    """Return the sources that power passes through, by their enclosures."""
    found = {}
    for enclosure_id in things.enclosures:
        makers = [item for item in things.sources_in.get(enclosure_id, []) if _makes_a_supply(item)]
        arriving, leaving = things.runs_into.get(enclosure_id, []), things.runs_from.get(enclosure_id, [])
        if not makers or not arriving or not leaving:
            continue
        behind = frozenset(_behind(things, enclosure_id)) - {makers[0].id}
        if behind:
            inputs = frozenset(run.to_part for run in arriving)
            found[enclosure_id] = Passing(makers[0], inputs, _input_bars(things, enclosure_id), behind)
    return found


def _makes_a_supply(source: Source) -> bool:
    return source.kind not in ENGINES and source.forms_supply is True


def _input_bars(things: LookUps, enclosure_id: str) -> frozenset[str]:
    bars = {bar.id for bar in things.bars_in.get(enclosure_id, []) if bar.kind == "neutral"}
    at = {"to_part": set[str](), "from_part": set[str]()}
    for side, runs in (("to_part", things.runs_into), ("from_part", things.runs_from)):
        for run in runs.get(enclosure_id, []):
            at[side] |= {getattr(item, side) for item in things.conductors_of.get(run.id, []) if item.role == "neutral"}
    return frozenset(bars & at["to_part"] - at["from_part"])


def _behind(things: LookUps, enclosure_id: str) -> set[str]:
    """The sources from which the runs into an enclosure come."""
    found: set[str] = set()
    seen, stack = {enclosure_id}, [enclosure_id]
    while stack:
        owner = stack.pop()
        found |= {item.id for item in things.sources_in.get(owner, [])}
        for run in things.runs_into.get(owner, []):
            upstream = things.upstream_of(run)
            if upstream not in seen:
                seen.add(upstream)
                stack.append(upstream)
    return found


def passing_on(things: LookUps, sources_on: frozenset[str]) -> frozenset[str]:
    """Return the ids of the sources that hand their input on when these sources are on."""
    return frozenset(item.source.id for item in passing_sources(things).values() if item.is_fed(sources_on))
