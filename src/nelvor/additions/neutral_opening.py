"""Gear that opens the neutral, for a set that is bonded inside: in place of an interlock, or of gear that leaves the neutral.

The set is a system of its own then, with its bond, and is joined to an electrode (250.30, 702.11(A)).
"""

from __future__ import annotations

from nelvor.additions.draft import Draft, bar_of
from nelvor.additions.generator import two_rods
from nelvor.additions.options import TransferOptions
from nelvor.additions.receiver import Receiver
from nelvor.additions.transfer_gear import gear_on_the_way
from nelvor.model.things import Device, Interlock, Source, Throw, Transfer
from nelvor.model.voltages import LEGS
from nelvor.topology.feeds import OTHER_SOURCE
from nelvor.topology.site import Site


def in_place_of_interlock(receiver: Receiver, interlock: Interlock, breaker: Device, source: Source) -> Draft:
    """Return the operations that put such gear ahead of a panel; the wire of the inlet lands there instead of at its breaker.

    Raises:
        CannotCompute: nothing feeds the panel, or it lies ahead of the service disconnect.
    """
    options = TransferOptions(neutral="switched", automatic=False, portable=bool(source.portable))
    draft, standby, _ = gear_on_the_way(receiver, options)
    for run in receiver.site.runs_to_part.get(breaker.id, []):
        draft.land_at(run, standby)
    draft.take_out("interlocks", interlock)
    draft.take_out("devices", breaker)
    _rods_at(draft, source)
    return draft


def opened_neutral(site: Site, gear: Transfer, source: Source) -> Draft:
    """Return the operations that exchange gear for one of the same kind with a pole for the neutral."""
    draft, lines = Draft(site), len(LEGS) if "L3" in site.legs_at.get(gear.enclosure_id, ()) else 2
    draft.propose("transfers", gear, switches_neutral=True, poles=(gear.poles or lines) + 1)
    for throw in site.throws_of.get(gear.id, []):
        _own_neutral(draft, gear, throw)
    _rods_at(draft, source)
    return draft


def _own_neutral(draft: Draft, gear: Transfer, throw: Throw) -> None:
    """A neutral terminal for one side; what of the utility's landed on the common one lands there now."""
    site, common = draft.site, throw.neutral_part
    side = draft.add(
        "bars",
        f"{throw.id[:30]}-n",
        enclosure_id=gear.enclosure_id,
        name=f"{throw.name or 'Side'} neutral",
        kind="neutral",
        insulated=True,
    )
    draft.propose("throws", throw, neutral_part=side)
    runs = site.runs_to_part.get(throw.part, [])
    for run in runs:
        for wire in site.conductors_of.get(run.id, []):
            if wire.role == "neutral":
                draft.propose("conductors", wire, to_part=side)
    if any(site.feeds.rank.get(site.upstream_of(run)) == OTHER_SOURCE for run in runs):
        return
    for bond in site.bonds_in.get(gear.enclosure_id, []):
        if bond.made and bond.part_a == common:
            draft.propose("bonds", bond, part_a=side)
    for electrode in site.electrodes_at.get(gear.enclosure_id, []):
        if electrode.connects_to == common:
            draft.propose("electrodes", electrode, connects_to=side)


def _rods_at(draft: Draft, source: Source) -> None:
    box = str(source.enclosure_id)
    if not draft.site.electrodes_at.get(box):
        two_rods(draft, bar_of(draft.site, box, "ground") or box)
