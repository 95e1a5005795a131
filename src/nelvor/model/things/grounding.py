"""What joins neutral, metal and earth: bonds, metal paths and electrodes."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from nelvor.model.base import LONGEST_RUN_FT, Id, Name, Note, Thing
from nelvor.model.limits import Amount
from nelvor.model.vocabulary import BondKind, ElectrodeKind, Material, MetalPathKind, Size


class Bond(Thing):
    """One possible connection between two named parts: a screw, a strap, tied bars, a conductor on the wrong bar.

    A part is a bar, a source's or a transfer throw's neutral, or the enclosure itself, which stands for its metal.
    ``made`` is what is found: a screw that sits in the bar but not in the enclosure is not made. ``removable`` tells
    whether it can be taken out, ``closes_when_islanded`` whether it closes by itself when the utility is away.
    """

    enclosure_id: Id
    kind: BondKind = "screw"
    part_a: Id
    part_b: Id
    made: bool | None = None
    removable: bool | None = None
    closes_when_islanded: bool | None = None
    size: Size | None = None
    material: Material | None = None
    note: Note = ""


class MetalPath(Thing):
    """Metal that joins enclosures or buildings besides runs: a pipe, steel, a fence, a cable's shield.

    An open end is not known; ``leaves_site`` tells that the other end lies outside, as a neighbor's service on the
    same water pipe does.
    """

    name: Name = ""
    kind: MetalPathKind = "water_pipe"
    end_a: Id | None = None
    end_b: Id | None = None
    leaves_site: bool | None = None
    continuous: bool | None = None
    resistance_ohm: Amount | None = None


class Electrode(Thing):
    """A grounding electrode and the conductor that joins it to a bar or enclosure.

    Where that conductor is a tap to a common one of several derived systems, ``common_size`` and ``common_material`` are those of the
    common one.
    """

    kind: ElectrodeKind = "rod"
    building_id: Id | None = None
    connects_to: Id | None = None
    length_ft: Annotated[float, Field(gt=0, le=LONGEST_RUN_FT, allow_inf_nan=False)] | None = None
    resistance_ohm: Amount | None = None
    spacing_ft: Amount | None = None
    conductor_size: Size | None = None
    conductor_material: Material | None = None
    common_size: Size | None = None
    common_material: Material | None = None
