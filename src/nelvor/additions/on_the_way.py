"""A new box on the way to an enclosure: between what feeds it and itself, near the one or the other.

Near the supply a new piece of wire comes ahead of the box and the standing wire goes on from it; near the enclosure the
standing wire ends in the box and a new piece goes on.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from nelvor.additions.draft import Draft, Ends, end_of, feed_of, legs_at, start_of
from nelvor.additions.options import OnTheWay
from nelvor.additions.receiver import Receiver


@dataclass(frozen=True)
class Way:
    """Where a new box stands on the way to an enclosure."""

    receiver: Receiver
    near_supply: bool
    distance_ft: float

    @property
    def building_id(self) -> str | None:
        """The building to which the box belongs."""
        return self.receiver.supply_building_id if self.near_supply else self.receiver.enclosure.building_id

    def lead_through(self, draft: Draft, arrives: Ends, leaves: Ends, values: dict[str, Any]) -> None:
        """Lead the feed of the enclosure through the box: it arrives at one place of it and leaves from another."""
        site = draft.site
        run = feed_of(site, self.receiver.enclosure.id)
        values = {**values, "length_ft": self.distance_ft}
        if self.near_supply:
            draft.run("to-new-box", start_of(site, run), arrives, legs_at(site, run), **values)
            draft.begin_at(run, leaves)
        else:
            draft.run("from-new-box", leaves, end_of(site, run), legs_at(site, run), **values)
            draft.land_at(run, arrives)

    def move_electrodes(self, draft: Draft, neutral: str, ground: str) -> None:
        """Let the electrodes of the building land in the first box of it: on the neutral of a service, else on the ground.

        Those of another building stay: it is a fed building, with electrodes of its own (250.24(A)(1), 250.32(A)).
        """
        enclosure = self.receiver.enclosure
        if self.building_id == enclosure.building_id:
            for electrode in draft.site.electrodes_at.get(enclosure.id, []):
                draft.propose("electrodes", electrode, connects_to=neutral if self.receiver.is_service else ground)


def way_to(receiver: Receiver, options: OnTheWay) -> Way:
    """Return where a new box stands: as asked, else near the supply unless that is at another building.

    Raises:
        CannotCompute: nothing feeds the enclosure.
    """
    feed_of(receiver.site, receiver.enclosure.id)
    here = receiver.supply_building_id == receiver.enclosure.building_id
    near_supply = options.near == "supply" or (options.near is None and here)
    return Way(receiver, near_supply, options.distance_ft)
