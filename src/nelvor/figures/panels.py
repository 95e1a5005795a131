"""Quick figures of panels: the legs of a bus brought close with the fewest moves."""

from __future__ import annotations

from fractions import Fraction

from pydantic import Field

from nelvor.figures.answer import Remark, Worked
from nelvor.figures.inputs import Inputs, Part, amperes, choice, given, impossible, quantity
from nelvor.figures.quick_figure import QuickFigure
from nelvor.model.things import Bus
from nelvor.spaces.balance import Balance, Standing, balance
from nelvor.spaces.bus_spaces import Spot, spots_from
from nelvor.working import Figure, Recorder, exact

LEGS = ("L1", "L2", "L3")
MOST_BREAKERS = 84


class Breaker(Part):
    """One breaker: the space of its first pole, its poles, and what each of them carries."""

    space: int = quantity("Space", ge=1, le=84)
    poles: int = quantity("Poles", default=1, ge=1, le=3)
    load_a: float = amperes("Amperes on each pole")


class LegBalanceInputs(Inputs):
    spaces: int = quantity("Spaces", ge=2, le=84)
    three_phase: bool = choice("Three-phase", False)
    within_a: float = amperes("Legs within", 5.0)
    breakers: list[Breaker] = Field(title="Breakers", min_length=1, max_length=MOST_BREAKERS)


def _leg_balance(inputs: LegBalanceInputs, recorder: Recorder) -> Worked:
    bus = Bus(id="bus", enclosure_id="panel", spaces=inputs.spaces)
    legs = LEGS if inputs.three_phase else LEGS[:2]
    found = balance(bus, legs, _standing(bus, len(legs), inputs.breakers), exact(inputs.within_a))
    remarks = [
        Remark("note", f"Space {move.start.space} to space {move.to.space}{', lifted first' if move.lifted else ''}.")
        for move in found.moves
    ]
    before, after = (
        _apart(recorder, words, of) for words, of in (("as they are", found.before), ("after", found.after))
    )
    number = recorder.choose("Moves", str(len(found.moves)), "", (before, after), clause="load_evenly_proportioned")
    return Worked(number, {"apart before": before, "apart after": after}, (_verdict(inputs, found), *remarks))


def _standing(bus: Bus, legs: int, breakers: list[Breaker]) -> list[Standing]:
    taken: list[Spot] = []
    found = []
    for place, item in enumerate(breakers):
        spots = spots_from(bus, item.poles, Spot(item.space))
        field = f"breakers[{place}].space"
        if item.poles > legs:
            raise impossible(f"breakers[{place}].poles", f"{item.poles} poles on {legs} legs.", "Correct the poles.")
        if len(spots) < item.poles:
            raise impossible(field, "the bus does not go on for all its poles.", "Correct space or poles.")
        if any(spot.overlaps(other) for spot in spots for other in taken):
            raise impossible(field, "another breaker stands there.", "Give each breaker spaces of its own.")
        taken += spots
        found.append(Standing(str(place), spots, (exact(item.load_a),) * item.poles))
    return found


def _apart(recorder: Recorder, words: str, legs: dict[str, Fraction]) -> Figure:
    figures = [given(recorder, f"{leg} {words}", amperes, "A") for leg, amperes in legs.items()]
    most = recorder.greatest(f"Most, {words}", *figures)
    return recorder.subtract(f"Legs apart, {words}", most, recorder.least(f"Least, {words}", *figures))


def _verdict(inputs: LegBalanceInputs, found: Balance) -> Remark:
    within = f"within {inputs.within_a:g} A"
    if found.reached:
        return Remark(
            "note", f"The legs come {within}; {'fewer moves do not do it' if found.proven else 'not proven least'}."
        )
    how = "no moves bring them closer" if found.proven else "not every set of moves could be tried"
    return Remark("note", f"The legs do not come {within}; {how}.")


FIGURES = [
    QuickFigure(
        "leg-balance",
        "Leg balance",
        "Which breakers must change their spaces, as few as can be, for the legs to carry alike?",
        "Taps, motors, panels",
        LegBalanceInputs,
        _leg_balance,
        {
            "edition": "2023",
            "spaces": 12,
            "within_a": 3,
            "breakers": [{"space": 1, "load_a": 12}, {"space": 2, "load_a": 8}, {"space": 3, "load_a": 3}],
        },
    ),
]
