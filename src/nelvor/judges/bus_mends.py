"""The lawful ways out where a bus is rated below what protects it; none leaves what pushes into the bus unlawful."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction

from nelvor.clauses.calculated_load import LevelLoad
from nelvor.judges.bus_large_enough import smallest_bus, sources_pass
from nelvor.judges.level_loads import LoadUnknown
from nelvor.judges.run import RunAnswer
from nelvor.judges.verdict import Mend, adding, proposing, removing
from nelvor.model.things import Bus, Device
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of
from nelvor.topology.site import Site
from nelvor.working import Figure, exact


@dataclass(frozen=True)
class BusMends:
    """A bus below its protection, with the load on it and the answer of the run that feeds it."""

    site: Site
    rules: Rules
    level: LevelLoad | LoadUnknown | None
    feed: RunAnswer | None
    thing: Bus
    bus: Figure
    protection: Figure
    device: Device

    @property
    def _enclosure_id(self) -> str:
        return self.thing.enclosure_id

    def all(self) -> tuple[Mend, ...]:
        """Return the ways side by side: a smaller device, a main of its own, a larger bus."""
        return (*self._lower(), *self._own_main(), *self._larger_bus())

    def _largest_device(self, own: bool) -> Fraction | None:
        """The largest rating up to that of the bus that is enough for the load, what sources push back, and the floor.

        The floor is that of a disconnect, which the device is where it is the building's ``own``.
        """
        if not isinstance(self.level, LevelLoad):
            return None
        least = self.level.worst.design.number
        if self.feed is not None and "pushed_back" in self.feed.figures:
            least = max(least, self.feed.figures["pushed_back"].number)
        if self.feed is not None and self.feed.whole_dwelling:
            least = max([least, *self._feeders_beneath()])
        feeding = self.site.feeding_run(self._enclosure_id)
        if own and (feeding is None or self.site.is_first_of_building(self._enclosure_id)):
            least = max(least, self.rules.parameter("one_family_disconnect_a").number)
        smaller = [rating for rating in self.rules.standard_ratings() if rating < self.bus.number]
        ratings = (rating for rating in (self.bus.number, *reversed(smaller)) if rating >= least)
        return next((rating for rating in ratings if self._sources_pass(rating)), None)

    def _feeders_beneath(self) -> Iterator[Fraction]:
        """The devices of feeders beneath, which may be as small as a feed that carries the whole dwelling unit allows (310.12)."""
        for box in self.site.boxes_beneath(self._enclosure_id):
            for run in self.site.runs_from.get(box, []):
                device = self.site.devices.get(run.from_part)
                if device is not None and device.rating_a is not None:
                    yield exact(device.rating_a)

    def _sources_pass(self, protection_a: Fraction) -> bool:
        return sources_pass(self.site, self.rules, self.thing, self.device, self.bus.number, protection_a)

    def _lower(self) -> Iterator[Mend]:
        """Offer the smaller device only where it is the panel's own, or feeds it alone.

        A main ahead protects more than this panel, so it is left as it is.
        """
        device, feeding = self.device, self.site.feeding_run(self._enclosure_id)
        own = device.enclosure_id == self._enclosure_id
        feeds_it_alone = feeding is not None and feeding.from_part == device.id and device.role in ("feeder", "branch")
        rating = self._largest_device(own) if own or feeds_it_alone else None
        if rating is not None:
            name = device.name or f"{'Main' if own else 'Feeder breaker'} of {name_of(self.site, device.enclosure_id)}"
            change = f"{name}: {self.protection.text} A to {rating} A"
            yield Mend(change, proposing("devices", device, rating_a=float(rating)))

    def _own_main(self) -> Iterator[Mend]:
        """A main in place of the lugs on which the feed lands, rated for the bus."""
        feeding = self.site.feeding_run(self._enclosure_id)
        lugs = self.site.lugs.get(feeding.to_part) if feeding is not None else None
        rating = self._largest_device(own=True) if lugs is not None else None
        if feeding is None or lugs is None or rating is None:
            return
        main = Device(
            id=self.site.free_ids().take(f"{self._enclosure_id}-main"),
            enclosure_id=self._enclosure_id,
            role="main",
            rating_a=float(rating),
            poles=max(2, len(self.site.legs_at.get(self._enclosure_id, ()))),
        )
        landed = [item for item in self.site.conductors_of.get(feeding.id, []) if item.to_part == lugs.id]
        operations = (
            adding("devices", main),
            *proposing("runs", feeding, to_part=main.id),
            *(step for item in landed for step in proposing("conductors", item, to_part=main.id)),
            *proposing("buses", self.thing, fed_by=main.id),
            removing("lugs", lugs),
        )
        name = name_of(self.site, self._enclosure_id)
        yield Mend(f"Fit a main of {rating} A in {name}, in place of its lugs", operations)

    def _larger_bus(self) -> Iterator[Mend]:
        """Another panel, whose bus is large enough for its protection and for what pushes in besides."""
        protection_a = self.protection.number
        rating = smallest_bus(self.site, self.rules, self.thing, self.device, protection_a, protection_a)
        if rating is not None:
            change = f"Bus of {name_of(self.site, self._enclosure_id)}: {self.bus.text} A to {rating} A, another panel"
            yield Mend(change, proposing("buses", self.thing, rating_a=float(rating)))
