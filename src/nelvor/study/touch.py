"""What a person feels who touches two things at once: a hand on each, or one hand and the feet on the earth.

A caution, never a license: skin, sweat, shoes and ground differ without end. Taken are wet hands, a body of 1000 Ω from
hand to hand and as much again for shoes on damp ground; the bands are of alternating current that lasts.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator

from nelvor.study.shapes import Felt, TouchOut
from nelvor.topology.names import name_of
from nelvor.topology.network import METAL, Node
from nelvor.topology.site import Site

HAND_TO_HAND_OHM, HAND_TO_FEET_OHM = 1000.0, 2000.0
EARTH = "earth"
LEAST_TOLD_V = 1.0
BANDS: tuple[tuple[float, Felt], ...] = ((0.0005, "nothing"), (0.005, "felt"), (0.030, "cannot_let_go"))
"""Below so many amperes through the body: not felt, felt, hands that cannot let go; above the last one, a heart that stops."""

Volts = Callable[[Node], complex | None]


def touches(site: Site, volts: Volts, asked: tuple[str, ...]) -> Iterator[TouchOut]:
    """Yield what is felt at metal against earth where there is a volt, between enclosures marked as side by side, and where asked.

    ``volts`` are those of a node against earth; what floats has none and is told as such where it was asked for.
    """
    seen: set[frozenset[str]] = set()
    pairs = [
        *([(asked[0], asked[1])] if len(asked) > 1 else [(place, EARTH) for place in asked]),
        *((reach.enclosure_a, reach.enclosure_b) for reach in site.document.reaches),
    ]
    for one, other in pairs:
        if one != other and frozenset((one, other)) not in seen:
            seen.add(frozenset((one, other)))
            yield _between(site, volts, one, other)
    for enclosure_id in site.walking_order:
        found = _between(site, volts, enclosure_id, EARTH)
        if frozenset((enclosure_id, EARTH)) not in seen and found.volts is not None and found.volts >= LEAST_TOLD_V:
            yield found


def _between(site: Site, volts: Volts, one: str, other: str) -> TouchOut:
    ends = [0j if end == EARTH else volts(Node(end, METAL)) for end in (one, other)]
    name = " and ".join("the earth" if end == EARTH else name_of(site, end) for end in (one, other))
    if ends[0] is None or ends[1] is None:
        return TouchOut(a=one, b=other, name=name, volts=None, milliamperes=None, felt="unknown")
    across = abs(ends[0] - ends[1])
    through = across / (HAND_TO_FEET_OHM if EARTH in (one, other) else HAND_TO_HAND_OHM)
    felt: Felt = next((words for most, words in BANDS if through < most), "lethal")
    return TouchOut(a=one, b=other, name=name, volts=_shown(across), milliamperes=_shown(through * 1000), felt=felt)


def _shown(value: float) -> float:
    return float(f"{value:.3g}")
