"""The site in one state: its things with all that is derived from how they are joined."""

from __future__ import annotations

from collections.abc import Callable
from functools import cached_property
from weakref import proxy

from nelvor.model.things import Bus, Device, Load, Run, Source
from nelvor.model.voltages import legs_of
from nelvor.spaces.bus_spaces import legs_of_device
from nelvor.topology import protection, pushed_in, systems
from nelvor.topology.charging import charging_loads
from nelvor.topology.feeds import Feeds, feeds_of
from nelvor.topology.grounding_edges import grounding_edges
from nelvor.topology.line_edges import line_edges
from nelvor.topology.look_ups import LookUps
from nelvor.topology.network import Network
from nelvor.topology.passing import Passing, passing_sources


class Site(LookUps):
    """A resolved document with look-ups and topology. Build it with ``Site(resolve(document, state))``."""

    @cached_property
    def network(self) -> Network:
        """All that is joined: lines, neutral, metal and earth."""
        return self._kept_network("network", lambda: Network((*line_edges(self), *self.grounding.edges)))

    @cached_property
    def grounding(self) -> Network:
        """What is joined of neutral, metal and earth; enough where no line has a part in the question."""
        return self._kept_network("grounding", lambda: Network(tuple(grounding_edges(self))))

    def keep_networks(self, kept: Callable[[str, Callable[[], Network]], Network]) -> None:
        """Have networks recalled by whoever keeps those of an earlier site that is made of the very same things."""
        vars(self)["_kept_network"] = kept

    @staticmethod
    def _kept_network(name: str, work: Callable[[], Network]) -> Network:
        return work()

    @cached_property
    def passing(self) -> dict[str, Passing]:
        """The sources that other power passes through, by their enclosures."""
        return passing_sources(self)

    @cached_property
    def feeds(self) -> Feeds:
        """The feeds of this site. They know it weakly: a site that is let go goes at once, with all that hangs on it."""
        return feeds_of(proxy(self))

    # -- the feed ------------------------------------------------------------------------------

    @property
    def walking_order(self) -> list[str]:
        """Enclosure ids from the sources outward, each after what feeds it, branches one after another."""
        return self.feeds.walking_order

    def feeding_run(self, enclosure_id: str) -> Run | None:
        """Return the run over which ordinary power arrives at an enclosure."""
        return self.feeds.feeding.get(enclosure_id)

    def runs_to_source(self, enclosure_id: str) -> list[Run]:
        """Return the runs from an enclosure back to its source, nearest first."""
        return self.feeds.way_to_source(enclosure_id)

    def source_of(self, enclosure_id: str) -> Source | None:
        """Return the source whose power arrives at an enclosure; the first of several at one place."""
        return next(iter(self.sources_in.get(self.feeds.root.get(enclosure_id, ""), [])), None)

    def boxes_beneath(self, enclosure_id: str) -> list[str]:
        """Return an enclosure and all that it supplies, on a standby supply too."""
        found, stack = {enclosure_id: None}, [enclosure_id]
        while stack:
            for run in self.feeds.carrying_from.get(stack.pop(), []):
                beneath = self.downstream_of(run)
                if beneath not in found:
                    found[beneath] = None
                    stack.append(beneath)
        return list(found)

    def loads_beneath(self, enclosure_id: str) -> list[Load]:
        """Return the loads of an enclosure and of all that it supplies, on a standby supply too."""
        boxes = self.boxes_beneath(enclosure_id)
        return [load for box in boxes for load in (*self.loads_in.get(box, []), *self.moved_loads(box))]

    def moved_loads(self, enclosure_id: str) -> list[Load]:
        """Return the loads of circuits that gear in an enclosure moves from their panel, each as it lies on the standby supply."""
        return [
            self._as_moved(load)
            for device_id in self.switched_in.get(enclosure_id, [])
            for load in self.loads_on.get(device_id, [])
        ]

    def _as_moved(self, load: Load) -> Load:
        """A load of one pole on the line to which its switch moves it; others as they lie in their panel."""
        device = self.devices[str(load.device_id)]
        legs = {item.leg for item in self.switches_of_device[device.id]} - {None}
        if device.poles > 1 or len(legs) != 1:
            return load
        return load.model_copy(update={"connection": f"{next(iter(legs))}-N"})

    # -- what pushes in beside the feed ----------------------------------------------------------

    @cached_property
    def sources_beneath(self) -> dict[str, dict[str, Source]]:
        """The sources of the premises that come in at each enclosure or at any that it feeds, by their ids."""
        return pushed_in.sources_beneath(self, self.feeds) if pushed_in.has_own_sources(self) else {}

    @cached_property
    def charging(self) -> dict[str, list[Load]]:
        """The charging of storage as a load, by the enclosure that supplies it."""
        return charging_loads(self, self.feeds, self.passing, self.sources_beneath, self._systems)

    def gathers_sources_alone(self, enclosure_id: str) -> bool:
        """Tell whether an enclosure serves nothing but sources that run beside the utility."""
        return pushed_in.gathers_sources_alone(self, self.sources_beneath, enclosure_id)

    def sources_through(self, device: Device) -> list[Source]:
        """Return the sources whose power comes in through a device: at its end, or at the panels that it feeds."""
        if not self.sources_beneath:
            return []
        found: dict[str, Source] = {}
        for run in self.runs_to_part.get(device.id, []):
            if run.id in self.feeds.beside or device.role == "source":
                found |= {item.id: item for item in pushed_in.sources_behind(self, self.upstream_of(run), set())}
        for run in self.runs_from_part.get(device.id, []):
            if run.id not in self.feeds.beside:
                found |= self.sources_beneath.get(self.downstream_of(run), {})
        return list(found.values())

    def connecting_device(self, source: Source) -> Device | None:
        """Return the device by which a source is joined to the rest: of one that power passes through, that of its input."""
        if str(source.enclosure_id) in self.passing:
            feeding = self.feeding_run(str(source.enclosure_id))
            return self.protection_ahead.get(feeding.id) if feeding is not None else None
        return pushed_in.source_device(self, source)

    def onward_from_lugs(self, enclosure_id: str) -> list[Run]:
        """Return the runs that feed further sections from the feed-through lugs of an enclosure."""
        lugs = (item for item in self.lugs_in.get(enclosure_id, []) if item.feed_through)
        return [run for item in lugs for run in self.runs_from_part.get(item.id, []) if run.id not in self.feeds.beside]

    def is_on_feed_through(self, run: Run) -> bool:
        """Tell whether a run leaves feed-through lugs."""
        lugs = self.lugs.get(run.from_part)
        return lugs is not None and lugs.feed_through

    def sources_at_lugs(self, enclosure_id: str) -> list[Source]:
        """Return the sources that come in at lugs of an enclosure, beside its feed."""
        if not self.sources_beneath:
            return []
        runs = [run for lugs in self.lugs_in.get(enclosure_id, []) for run in self.runs_to_part.get(lugs.id, [])]
        beside = [run for run in runs if run.id in self.feeds.beside]
        found = {
            item.id: item for run in beside for item in pushed_in.sources_behind(self, self.upstream_of(run), set())
        }
        return list(found.values())

    # -- voltages, legs, protection ------------------------------------------------------------

    @cached_property
    def _systems(self) -> dict[str, str | None]:
        return systems.systems_of(self, self.feeds)

    def system_at(self, enclosure_id: str) -> str | None:
        """Return the voltage system at an enclosure: its own, or that of the transformer or source ahead."""
        return self._systems.get(enclosure_id)

    @cached_property
    def legs_at(self) -> dict[str, frozenset[str]]:
        """The legs that reach each enclosure."""
        return systems.legs_reaching(self, self.feeds, self._systems)

    def connection_of(self, load: Load) -> str | None:
        """Return how a load lies on the legs by the space of its circuit's device; None where that does not tell."""
        on = self._legs_of_devices.get(load.device_id or "")
        system = self.system_at(load.enclosure_id)
        return systems.connection_by_space(load, on, system) if on and system else None

    @cached_property
    def _legs_of_devices(self) -> dict[str, tuple[str, ...]]:
        """The legs that the poles of each device on a bus stand on by its space; none where that cannot be told."""
        legs_of_buses = {bus.id: self.legs_of_bus(bus) for bus in self.document.buses}
        return {
            device.id: legs_of_device(self.buses[device.bus_id], device, legs_of_buses[device.bus_id])
            for device in self.document.devices
            if device.bus_id in self.buses
        }

    def legs_of_bus(self, bus: Bus) -> tuple[str, ...]:
        """Return the legs of a bus in the order in which they come along it: its own, or those that reach it."""
        system = self.system_at(bus.enclosure_id)
        return tuple(bus.legs or sorted(self.legs_at.get(bus.enclosure_id, legs_of(system))))

    @cached_property
    def protection_ahead(self) -> dict[str, Device | None]:
        """For each run, the overcurrent device ahead of it, or None on the supply side of the first one."""
        return protection.protection_ahead(self, self.feeds, self._mains)

    @cached_property
    def protected_by(self) -> dict[str, list[Run]]:
        """The drawn runs that each device is the overcurrent protection of, by its id."""
        found: dict[str, list[Run]] = {}
        for run in self.drawn_runs:
            device = self.protection_ahead.get(run.id)
            if device is not None:
                found.setdefault(device.id, []).append(run)
        return found

    def main_of(self, enclosure_id: str) -> Device | None:
        """Return the main device of an enclosure."""
        return self._mains.get(enclosure_id)

    @cached_property
    def _mains(self) -> dict[str, Device | None]:
        return {enclosure_id: protection.main_of(self, self.feeds, enclosure_id) for enclosure_id in self.enclosures}

    # -- what stands where ---------------------------------------------------------------------

    def is_first_of_building(self, enclosure_id: str) -> bool:
        """Tell whether the run that feeds an enclosure enters a building from outside it; a standby supply is no feed."""
        building = self.enclosures[enclosure_id].building_id
        feeding = self.feeding_run(enclosure_id)
        if building is None or feeding is None or feeding.id in self.feeds.standby:
            return False
        upstream = self.enclosures.get(self.upstream_of(feeding))
        return upstream is None or upstream.building_id != building

    def is_one_family(self, enclosure_id: str) -> bool | None:
        """Tell whether an enclosure belongs to a dwelling; None where the use of its building is not known."""
        building_id = self.enclosures[enclosure_id].building_id
        if building_id is None:
            return False
        building = self.buildings.get(building_id)
        return building.use == "dwelling" if building is not None and building.use else None

    def building_words(self, enclosure_id: str) -> str:
        """Return what tells the building of an enclosure from all others: its name, its id, or the enclosure's own."""
        building_id = self.enclosures[enclosure_id].building_id
        names = [item.name for item in self.document.buildings]
        name = next((item.name for item in self.document.buildings if item.id == building_id), "")
        return (name if names.count(name) == 1 else "") or building_id or enclosure_id

    def rating_a(self, enclosure_id: str) -> float | None:
        """Return what an enclosure is rated for by its label: bus, meter class, transfer gear, or frame of its main."""
        bus, enclosure = self.bus_of(enclosure_id), self.enclosures[enclosure_id]
        main = self.main_of(enclosure_id)
        gear = next(iter(self.transfers_in.get(enclosure_id, [])), None)
        ratings = (
            bus.rating_a if bus else None,
            enclosure.meter_class_a,
            gear.rating_a if gear else None,
            main.frame_a if main else None,
        )
        return next((rating for rating in ratings if rating is not None), None)

    @cached_property
    def transformer_enclosures(self) -> frozenset[str]:
        return frozenset(item.enclosure_id for item in self.document.transformers)

    @cached_property
    def transfer_enclosures(self) -> frozenset[str]:
        return frozenset(item.enclosure_id for item in self.document.transfers)
