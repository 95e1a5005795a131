"""What else has to be fitted along a run: bushings, seals, expansion fittings, bending space, protection where it emerges."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import NamedTuple

from nelvor.clauses import fittings, wiring_methods
from nelvor.clauses.bending_space import bending_space
from nelvor.errors import MissingFigure
from nelvor.judges.run.lays import Lay
from nelvor.working import Figure, Recorder, asked_once

PLASTIC = frozenset({"pvc40", "pvc80"})
METAL = frozenset({"emt", "rmc", "imc", "fmc", "lfmc"})
ABOVE_GROUND_IN_WEATHER = frozenset({"outdoors", "rooftop"})
VOLTS_WITHOUT_BONDING_BUSHING = 250


class FitOut(NamedTuple):
    """One thing to fit or to watch, with its clause, and its figure where one is worked out."""

    name: str
    text: str
    clause: str
    figure: Figure | None = None


def fit_out(recorder: Recorder, lays: Sequence[Lay], hots: str, kind: str, volts_to_neutral: int) -> list[FitOut]:
    """Return what a run asks for besides conductors and raceway, in the order one meets it, each thing once."""
    found = [item for lay in lays for item in _at_the_ends(recorder, lay, hots, kind, volts_to_neutral)]
    found += [bending] if (bending := _bending(recorder, hots)) is not None else []
    found += [item for lay in lays for item in (*_underground(lay, kind), *_weather(recorder, lay))]
    return list({(item.name, item.text): item for item in found}.values())


def _at_the_ends(recorder: Recorder, lay: Lay, hots: str, kind: str, volts_to_neutral: int) -> Iterator[FitOut]:
    method = lay.value("method")
    if method in wiring_methods.RACEWAYS and (bushing := _bushing(recorder, hots)) is not None:
        yield bushing
    if method not in METAL:
        return
    if kind == "service":
        text = "Bonding bushing or hub at the service raceway: concentric knockouts do not bond it."
        yield FitOut("bonding_bushing", text, "bonding_bushing_concentric")
    elif volts_to_neutral > VOLTS_WITHOUT_BONDING_BUSHING:
        text = "Above 250 V to ground: bonding bushing where knockouts are concentric."
        yield FitOut("bonding_bushing", text, "bonding_over_250v")


@asked_once
def _bushing(recorder: Recorder, hots: str) -> FitOut | None:
    if not fittings.needs_bushing(recorder, hots):
        return None
    return FitOut("bushing", f"Insulating bushing at each end, for conductors of {hots}.", "insulating_bushing_4awg")


@asked_once
def _bending(recorder: Recorder, hots: str) -> FitOut | None:
    try:
        space = bending_space(recorder, hots, 1, opposite=True)
    except MissingFigure:
        return None
    text = f"{space.text} in from the lugs to the opposite wall, one conductor to a terminal."
    return FitOut("bending", text, "bending_space_lugs", space)


def _underground(lay: Lay, kind: str) -> Iterator[FitOut]:
    if lay.value("placement") != "underground":
        return
    method = lay.value("method")
    if method == "earth":
        text = "Where it leaves the earth: schedule 80 or metal from 18 in below to 8 ft above grade."
        yield FitOut("emergence", text, "raceway_protection_sch80")
    elif method == "pvc40":
        text = "Where it emerges and can be hit: schedule 80 or metal."
        yield FitOut("emergence", text, "raceway_protection_sch80")
    if method in wiring_methods.RACEWAYS:
        yield FitOut("seal", "Seal the raceway where it enters a building.", "underground_seal")
    wanted = "is required for service conductors" if kind == "service" else "is good practice for a feeder"
    yield FitOut("ribbon", f"Warning ribbon 12 in above the run {wanted}.", "burial_warning_ribbon_service")


def _weather(recorder: Recorder, lay: Lay) -> Iterator[FitOut]:
    in_weather = lay.value("placement") in ABOVE_GROUND_IN_WEATHER
    if lay.value("method") not in PLASTIC or not in_weather or lay.length_ft is None:
        return
    if lay.run.temperature_span_f is None:
        text = "PVC above ground: enter the span of temperatures to see whether it asks for an expansion fitting."
        yield FitOut("expansion", text, "pvc_expansion")
        return
    length = recorder.given("Length", lay.length_ft, "ft", "run")
    span = recorder.given("Span of temperatures", lay.run.temperature_span_f, "°F", "run")
    change, asks = fittings.expansion(recorder, length, span)
    wanted = "an expansion fitting is needed" if asks else "no expansion fitting is needed"
    yield FitOut("expansion", f"It changes by {change.text} in: {wanted}.", "pvc_expansion", change)
