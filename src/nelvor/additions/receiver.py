"""The enclosure that something is added to or ahead of, as it stands."""

from __future__ import annotations

from functools import cached_property
from typing import Any

from nelvor.errors import CannotCompute
from nelvor.judges.zones import Zone, zones
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of
from nelvor.topology.site import Site


class Receiver:
    """An enclosure with its side of the service; only one that can be added to is let through.

    Raises:
        CannotCompute: it is not there, nothing feeds it, or it lies ahead of the service disconnect.
    """

    def __init__(self, site: Site, rules: Rules, enclosure_id: str) -> None:
        self.site = site
        self.rules = rules
        found = site.enclosures.get(enclosure_id)
        if found is None:
            raise CannotCompute("This enclosure is not part of the design.", "Choose one that is drawn.")
        self.enclosure = found
        self.zone: Zone = zones(site, rules)[enclosure_id]
        if self.zone.kind == "supply":
            raise CannotCompute(
                f"{name_of(site, enclosure_id)} lies ahead of the service disconnect.",
                "Choose the service disconnect, or what it feeds.",
            )
        if enclosure_id in site.transfer_enclosures:
            raise CannotCompute(
                f"{name_of(site, enclosure_id)} is transfer gear itself.", "Choose the panel that it feeds."
            )

    @property
    def is_service(self) -> bool:
        """Tell whether it is the service disconnect."""
        return self.zone.kind == "service"

    @cached_property
    def supply_building_id(self) -> str | None:
        """The building of what feeds it; its own where a source does."""
        run = self.site.feeding_run(self.enclosure.id)
        upstream = self.site.enclosures.get(self.site.upstream_of(run)) if run else None
        return upstream.building_id if upstream is not None else self.enclosure.building_id

    @property
    def as_first_disconnect(self) -> dict[str, Any]:
        """What a new first disconnect is marked as."""
        if not self.is_service:
            return {}
        return {"service_marking": "suitable", "emergency_marking": "service_disconnect"}

    @property
    def rating_ahead(self) -> float | None:
        """The rating of what protects the enclosure now: of its main where it is the service, else of the device ahead."""
        main = self.site.main_of(self.enclosure.id)
        run = self.site.feeding_run(self.enclosure.id)
        ahead = self.site.protection_ahead.get(run.id) if run else None
        device = main if self.is_service or ahead is None else ahead
        return device.rating_a if device is not None else None

    def free_name(self, wish: str) -> str:
        """Return a name that no enclosure of the site has."""
        taken = {item.name for item in self.site.document.enclosures}
        number, found = 1, wish
        while found in taken:
            number += 1
            found = f"{wish} {number}"
        return found
