"""The site in one state: who feeds whom, derived from runs, and what stands ahead of each enclosure."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass, field
from functools import cached_property
from typing import TypeVar

from nelvor.model.document import Document
from nelvor.model.references import owner_of_parts
from nelvor.model.things import (
    Bar,
    Bond,
    Building,
    Conductor,
    Device,
    Electrode,
    Enclosure,
    Load,
    Lugs,
    Measurement,
    Run,
    Source,
    Stretch,
    Tap,
    Transformer,
)

T = TypeVar("T", Device, Bar, Bond, Load, Measurement)

LINE_TO_NEUTRAL_V = {
    "split_120_240": 120,
    "wye_208_120": 120,
    "wye_480_277": 277,
    "delta_240_high_leg": 120,
    "single_120": 120,
}
LINE_TO_LINE_V = {
    "split_120_240": 240,
    "wye_208_120": 208,
    "wye_480_277": 480,
    "delta_240": 240,
    "delta_240_high_leg": 240,
    "single_240": 240,
}
LEGS = ("L1", "L2", "L3")
THREE_PHASE = frozenset({"wye_208_120", "wye_480_277", "delta_240", "delta_240_high_leg"})
COMPUTED_SYSTEMS = frozenset({"split_120_240", "wye_208_120", "wye_480_277"})


@dataclass(frozen=True)
class Site:
    """A resolved document with look-ups. Build it with ``Site(resolve(document, state))``."""

    document: Document
    owners: dict[str, str] = field(init=False)

    def __post_init__(self) -> None:
        object.__setattr__(self, "owners", owner_of_parts(self.document))

    # -- look-ups ------------------------------------------------------------------------------

    @cached_property
    def enclosures(self) -> dict[str, Enclosure]:
        return {item.id: item for item in self.document.enclosures}

    @cached_property
    def sources(self) -> dict[str, Source]:
        return {item.id: item for item in self.document.sources}

    @cached_property
    def buildings(self) -> dict[str, Building]:
        return {item.id: item for item in self.document.buildings}

    @cached_property
    def devices(self) -> dict[str, Device]:
        return {item.id: item for item in self.document.devices}

    @cached_property
    def lugs(self) -> dict[str, Lugs]:
        return {item.id: item for item in self.document.lugs}

    @cached_property
    def bars(self) -> dict[str, Bar]:
        return {item.id: item for item in self.document.bars}

    @cached_property
    def devices_in(self) -> dict[str, list[Device]]:
        return _grouped(self.document.devices)

    @cached_property
    def bars_in(self) -> dict[str, list[Bar]]:
        return _grouped(self.document.bars)

    @cached_property
    def bonds_in(self) -> dict[str, list[Bond]]:
        return _grouped(self.document.bonds)

    @cached_property
    def loads_in(self) -> dict[str, list[Load]]:
        return _grouped(self.document.loads)

    @cached_property
    def load_ids(self) -> frozenset[str]:
        return frozenset(load.id for load in self.document.loads)

    @cached_property
    def tap_of_run(self) -> dict[str, Tap]:
        """Taps by the run that they are."""
        return {tap.tap_run_id: tap for tap in self.document.taps}

    @cached_property
    def taps_on_run(self) -> dict[str, list[Tap]]:
        """Taps by the run that they are taken from."""
        found: dict[str, list[Tap]] = defaultdict(list)
        for tap in self.document.taps:
            found[tap.run_id].append(tap)
        return found

    @cached_property
    def runs(self) -> dict[str, Run]:
        return {item.id: item for item in self.document.runs}

    @cached_property
    def measurements_at(self) -> dict[str, list[Measurement]]:
        return _grouped(self.document.measurements)

    def building_words(self, enclosure_id: str) -> str:
        """Return what tells the building of an enclosure from all others: its name, its id, or the enclosure's own."""
        building_id = self.enclosures[enclosure_id].building_id
        names = [item.name for item in self.document.buildings]
        name = next((item.name for item in self.document.buildings if item.id == building_id), "")
        return (name if names.count(name) == 1 else "") or building_id or enclosure_id

    def loads_beneath(self, enclosure_id: str) -> list[Load]:
        """Return the loads of an enclosure and of all that it feeds."""
        found: list[Load] = []
        seen, stack = {enclosure_id}, [enclosure_id]
        while stack:
            owner = stack.pop()
            found += self.loads_in.get(owner, [])
            for run in self.runs_from.get(owner, []):
                beneath = self.owners[run.to_part]
                if beneath not in seen:
                    seen.add(beneath)
                    stack.append(beneath)
        return found

    @cached_property
    def stretches_of(self) -> dict[str, list[Stretch]]:
        """Stretches by the run that they are parts of."""
        found: dict[str, list[Stretch]] = defaultdict(list)
        for stretch in self.document.stretches:
            found[stretch.run_id].append(stretch)
        return found

    @cached_property
    def conductors_of(self) -> dict[str, list[Conductor]]:
        found: dict[str, list[Conductor]] = defaultdict(list)
        for conductor in self.document.conductors:
            found[conductor.run_id].append(conductor)
        return found

    @cached_property
    def electrodes_at(self) -> dict[str, list[Electrode]]:
        """Electrodes by the enclosure they connect to."""
        found: dict[str, list[Electrode]] = defaultdict(list)
        for electrode in self.document.electrodes:
            if electrode.connects_to in self.owners:
                found[self.owners[electrode.connects_to]].append(electrode)
        return found

    @cached_property
    def runs_from(self) -> dict[str, list[Run]]:
        """Runs by the enclosure or source they leave."""
        found: dict[str, list[Run]] = defaultdict(list)
        for run in self.document.runs:
            if run.from_part in self.owners and run.to_part in self.owners:
                found[self.owners[run.from_part]].append(run)
        return found

    @cached_property
    def runs_into(self) -> dict[str, list[Run]]:
        """Runs by the enclosure they feed."""
        found: dict[str, list[Run]] = defaultdict(list)
        for run in self.document.runs:
            if run.from_part in self.owners and run.to_part in self.owners:
                found[self.owners[run.to_part]].append(run)
        return found

    @cached_property
    def walking_order(self) -> list[str]:
        """Enclosure ids from the sources outward, each after what feeds it, branches one after another."""
        order: list[str] = []
        seen: set[str] = set()
        roots = [source.id for source in self.document.sources]
        roots += [item.id for item in self.document.enclosures if not self.runs_into.get(item.id)]
        stack = list(reversed(roots))
        while stack:
            owner = stack.pop()
            if owner in seen:
                continue
            seen.add(owner)
            if owner in self.enclosures:
                order.append(owner)
            stack += [self.owners[run.to_part] for run in reversed(self.runs_from.get(owner, []))]
        return order

    # -- questions about the feed --------------------------------------------------------------

    def feeding_run(self, enclosure_id: str) -> Run | None:
        """Return the run that feeds an enclosure; the first one where there are several."""
        runs = self.runs_into.get(enclosure_id, [])
        return runs[0] if runs else None

    def upstream_of(self, run: Run) -> str:
        return self.owners[run.from_part]

    def downstream_of(self, run: Run) -> str:
        return self.owners[run.to_part]

    def runs_to_source(self, enclosure_id: str) -> list[Run]:
        """Return the runs from an enclosure back to its source, nearest first."""
        runs = []
        run = self.feeding_run(enclosure_id)
        while run is not None:
            runs.append(run)
            run = self.feeding_run(self.upstream_of(run))
        return runs

    @cached_property
    def root_of(self) -> dict[str, str]:
        """For each enclosure and source, where its feed begins (itself when nothing feeds it)."""
        roots = {source.id: source.id for source in self.document.sources}
        for enclosure_id in self.walking_order:
            run = self.feeding_run(enclosure_id)
            roots[enclosure_id] = roots.get(self.upstream_of(run), enclosure_id) if run else enclosure_id
        return roots

    def source_of(self, enclosure_id: str) -> Source | None:
        return self.sources.get(self.root_of.get(enclosure_id, ""))

    def system_at(self, enclosure_id: str) -> str | None:
        """Return the voltage system at an enclosure: its own, or that of the transformer or source ahead."""
        return self._systems.get(enclosure_id, self.enclosures[enclosure_id].system)

    @cached_property
    def _systems(self) -> dict[str, str | None]:
        found: dict[str, str | None] = {source.id: source.system for source in self.document.sources}
        for enclosure_id in self.walking_order:
            run = self.feeding_run(enclosure_id)
            transformer = self.transformer_of_secondary.get(run.from_part) if run else None
            ahead = transformer.secondary_system if transformer else found.get(self.upstream_of(run)) if run else None
            found[enclosure_id] = self.enclosures[enclosure_id].system or ahead
        return found

    @cached_property
    def legs_at(self) -> dict[str, frozenset[str]]:
        """The legs that reach each enclosure: those of its system that every run on the way brings."""
        found: dict[str, frozenset[str]] = {}
        for owner in [*self.sources, *self.walking_order]:
            system = self.sources[owner].system if owner in self.sources else self.system_at(owner)
            legs = frozenset(LEGS if system in THREE_PHASE else LEGS[:2])
            run = self.feeding_run(owner)
            if run is not None:
                brought = frozenset(item.role for item in self.conductors_of.get(run.id, []) if item.role in LEGS)
                if run.from_part not in self.transformer_of_secondary:
                    legs &= found.get(self.upstream_of(run), legs)
                legs = (legs & brought) or legs
            found[owner] = legs
        return found

    @cached_property
    def transformer_of_secondary(self) -> dict[str, Transformer]:
        """Transformers by their secondary terminals."""
        return {item.secondary_part: item for item in self.document.transformers}

    @cached_property
    def protection_ahead(self) -> dict[str, Device | None]:
        """For each run, the overcurrent device ahead of it, or None on the supply side of the first one."""
        ahead: dict[str, Device | None] = {}
        for source in self.document.sources:
            for run in self.runs_from.get(source.id, []):
                ahead[run.id] = None
        for enclosure_id in self.walking_order:
            feeding = self.feeding_run(enclosure_id)
            arriving = ahead.get(feeding.id) if feeding else None
            main = self.main_of(enclosure_id)
            within = main if main is not None and main.kind != "switch" else arriving
            for run in self.runs_from.get(enclosure_id, []):
                device = self.devices.get(run.from_part)
                if run.from_part in self.transformer_of_secondary and device is None:
                    ahead[run.id] = None
                    continue
                ahead[run.id] = device if device is not None and device.kind != "switch" else within
        return ahead

    def main_of(self, enclosure_id: str) -> Device | None:
        """Return the main device of an enclosure: the one its feeding run lands on, or the one marked main."""
        feeding = self.feeding_run(enclosure_id)
        landed = self.devices.get(feeding.to_part) if feeding else None
        if landed is not None:
            return landed
        mains = [device for device in self.devices_in.get(enclosure_id, []) if device.role == "main"]
        return mains[0] if mains else None

    def has_conductor(self, run: Run, role: str) -> bool:
        return any(conductor.role == role for conductor in self.conductors_of.get(run.id, []))

    @cached_property
    def transformer_enclosures(self) -> frozenset[str]:
        return frozenset(item.enclosure_id for item in self.document.transformers)

    @cached_property
    def transfer_enclosures(self) -> frozenset[str]:
        return frozenset(item.enclosure_id for item in self.document.transfers)


def _grouped(things: list[T]) -> dict[str, list[T]]:
    found: dict[str, list[T]] = defaultdict(list)
    for thing in things:
        found[thing.enclosure_id].append(thing)
    return found
