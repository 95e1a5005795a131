"""The fewest moves that balance the legs of a panel, told breaker by breaker before any is taken."""

from __future__ import annotations

from collections import Counter
from fractions import Fraction

from nelvor.errors import CannotCompute, NotFound
from nelvor.judges.panelboard import PlacedCircuit, ScheduleAnswer
from nelvor.judges.panelboard.standing import name_in
from nelvor.model.vocabulary import HalfSpace
from nelvor.report.check import Report
from nelvor.report.sent import Wire
from nelvor.spaces.balance import Balance, Standing, balance
from nelvor.topology.site import Site
from nelvor.working.number import read


class MoveOut(Wire):
    """One breaker to its new place; ``lifted``: it is taken out first, since another goes where it stands."""

    device_id: str
    name: str
    from_space: int
    to_space: int
    from_half: HalfSpace | None
    to_half: HalfSpace | None
    lifted: bool


class LegBalance(Wire):
    leg: str
    before: str
    after: str


class BalanceOut(Wire):
    """The moves and the legs before and after, in A. ``words`` says how good the answer is."""

    moves: list[MoveOut]
    legs: list[LegBalance]
    apart_before: str
    apart_after: str
    reached: bool
    proven: bool
    words: str
    stay: list[str]


def panel_balance(report: Report, bus_id: str, within_a: Fraction) -> BalanceOut:
    """Return the fewest moves that bring the legs of a bus within ``within_a`` amperes of each other.

    Raises:
        NotFound: there is no such bus, or nothing of its spaces is told.
        CannotCompute: its spaces are not all known, or two breakers stand in one.
    """
    answer = report.schedules.get(bus_id)
    if answer is None:
        raise NotFound("The spaces of this panel are not entered.")
    if answer.bus.spaces is None:
        raise CannotCompute("The number of spaces is not known.", "Enter it on the panel's sheet.")
    if any(verdict.code in ("space_taken", "space_off_bus") for verdict in answer.verdicts):
        raise CannotCompute("Two breakers stand in one space, or one off the bus.", "Mend that first.")
    tied = _sharing(report.site, answer)
    standing = [_standing(report.site, item, tied) for item in answer.circuits if len(item.legs) == item.device.poles]
    found = balance(answer.bus, answer.legs, standing, within_a)
    names = {item.device.id: name_in(report.site, item.device) for item in answer.circuits}
    stay = [names[item.id] for item in standing if item.fixed]
    unknown = sum(not item.poles_a() and item.device.role != "spare" for item in answer.circuits)
    return _out(found, names, within_a, stay, unknown)


def _sharing(site: Site, answer: ScheduleAnswer) -> frozenset[str]:
    """Devices that share a neutral with another: they stay, so that no pair is parted."""
    words = {
        item.device.id: {wires.shared_neutral for wires in site.circuits_of.get(item.device.id, [])} - {""}
        for item in answer.circuits
    }
    often = Counter(word for found in words.values() for word in found)
    return frozenset(device_id for device_id, found in words.items() if any(often[word] > 1 for word in found))


def _standing(site: Site, circuit: PlacedCircuit, tied: frozenset[str]) -> Standing:
    """A breaker for the search; one of a source, of an interlock, or with a shared neutral stays where it is."""
    device = circuit.device
    interlocked = {end for item in site.document.interlocks for end in (item.device_a, item.device_b)}
    fixed = device.role in ("source", "main") or device.id in tied or device.id in interlocked
    amperes = circuit.poles_a() or (Fraction(0),) * len(circuit.spots)
    return Standing(device.id, circuit.spots, amperes, fixed)


def _out(found: Balance, names: dict[str, str], within_a: Fraction, stay: list[str], unknown: int) -> BalanceOut:
    before, after = (max(legs.values()) - min(legs.values()) for legs in (found.before, found.after))
    return BalanceOut(
        moves=[
            MoveOut(
                device_id=move.id,
                name=names[move.id],
                from_space=move.start.space,
                to_space=move.to.space,
                from_half=move.start.half,
                to_half=move.to.half,
                lifted=move.lifted,
            )
            for move in found.moves
        ],
        legs=[
            LegBalance(leg=leg, before=read(amperes, "A"), after=read(found.after[leg], "A"))
            for leg, amperes in found.before.items()
        ],
        apart_before=read(before, "A"),
        apart_after=read(after, "A"),
        reached=found.reached,
        proven=found.proven,
        words=f"{_words(found, read(within_a, 'A'))}{_without_load(unknown)}",
        stay=stay,
    )


def _without_load(unknown: int) -> str:
    if not unknown:
        return ""
    return f" {unknown} circuit{'' if unknown == 1 else 's'} without a load count as nothing."


def _words(found: Balance, within: str) -> str:
    number = f"{len(found.moves)} move{'' if len(found.moves) == 1 else 's'}"
    if not found.moves and found.reached:
        return f"The legs are within {within} A as they are."
    if found.reached:
        least = "fewer do not do it" if found.proven else "whether fewer would do is not proven"
        return f"{number} bring the legs within {within} A; {least}."
    if found.proven:
        return (
            f"The legs cannot be brought within {within} A by moving breakers; {number} bring them as close as can be."
        )
    return f"No moves within {within} A were found; {number} bring the legs closer. Not every set could be tried."
