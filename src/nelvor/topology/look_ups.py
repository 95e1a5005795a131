"""The things of a resolved document by id and by what they belong to, in one order whatever the order of its lists."""

from __future__ import annotations

import re
from collections import Counter, defaultdict
from collections.abc import Callable, Iterable
from dataclasses import InitVar, dataclass, field
from functools import cached_property, lru_cache
from itertools import chain
from operator import attrgetter
from typing import Any, Protocol, TypeVar

from nelvor.model.base import Thing
from nelvor.model.changes.ids import FreeIds, taken_ids
from nelvor.model.document import LISTS, Document
from nelvor.model.references import owner_of_parts
from nelvor.model.things import (
    Bar,
    Bond,
    Building,
    Bus,
    Circuit,
    CircuitSwitch,
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
    Throw,
    Transfer,
    Transformer,
)

DIGITS = re.compile(r"(\d+)")


class Identified(Protocol):
    """Anything with an id."""

    @property
    def id(self) -> str: ...


T = TypeVar("T", bound=Identified)
Terminal = Device | Lugs | Bar


@lru_cache(maxsize=65536)
def natural(thing_id: str) -> tuple[Any, ...]:
    """Return what ids are ordered by: numbers within them count as numbers, so that p2 comes before p10.

    Each part of an id is two values, a number and words, of which one tells nothing.
    """
    parts = [(int(part), "") if part.isdigit() else (-1, part) for part in DIGITS.split(thing_id) if part]
    return tuple(chain.from_iterable(parts))


def ordered(document: Document) -> Document:
    """Return the document with every list in the order of its ids, so that no answer hangs on how it was listed."""
    return document.model_copy(update={name: by_their_ids(getattr(document, name)) for name in LISTS})


def by_their_ids(things: list[T]) -> list[T]:
    """Return things in the natural order of their ids."""
    orders = [natural(thing.id) for thing in things]
    places = sorted(range(len(things)), key=orders.__getitem__)
    return [things[place] for place in places]


@dataclass(frozen=True)
class LookUps:
    """A resolved document with look-ups. ``taken`` are the ids of the whole document, the other state's things too.

    ``in_order`` says that every list stands in the order of its ids already.
    """

    document: Document
    taken: frozenset[str] | None = None
    in_order: InitVar[bool] = False
    owners: dict[str, str] = field(init=False)

    def __post_init__(self, in_order: bool) -> None:
        if not in_order:
            object.__setattr__(self, "document", ordered(self.document))
        object.__setattr__(self, "owners", owner_of_parts(self.document))

    def free_ids(self) -> FreeIds:
        """Return a giver of ids that are free in the whole document, for the things that a mend adds."""
        return FreeIds(self.taken if self.taken is not None else taken_ids(self.document.things()))

    # -- by id ---------------------------------------------------------------------------------

    @cached_property
    def enclosures(self) -> dict[str, Enclosure]:
        return _by_id(self.document.enclosures)

    @cached_property
    def sources(self) -> dict[str, Source]:
        return _by_id(self.document.sources)

    @cached_property
    def buildings(self) -> dict[str, Building]:
        return _by_id(self.document.buildings)

    @cached_property
    def buses(self) -> dict[str, Bus]:
        return _by_id(self.document.buses)

    @cached_property
    def devices(self) -> dict[str, Device]:
        return _by_id(self.document.devices)

    @cached_property
    def lugs(self) -> dict[str, Lugs]:
        return _by_id(self.document.lugs)

    @cached_property
    def bars(self) -> dict[str, Bar]:
        return _by_id(self.document.bars)

    @cached_property
    def runs(self) -> dict[str, Run]:
        return _by_id(self.document.runs)

    @cached_property
    def transfers(self) -> dict[str, Transfer]:
        return _by_id(self.document.transfers)

    @cached_property
    def by_id(self) -> dict[str, tuple[str, Thing]]:
        """Every thing with the name of its list, by its id."""
        return {thing.id: (name, thing) for name in LISTS for thing in getattr(self.document, name)}

    @cached_property
    def terminals_told(self) -> dict[str, Terminal]:
        """The terminals whose label tells a torque or whose screw is known, by their ids."""
        parts: list[Terminal] = [*self.document.devices, *self.document.lugs, *self.document.bars]
        return {part.id: part for part in parts if part.torque_lb_in is not None or part.screw is not None}

    @cached_property
    def load_ids(self) -> frozenset[str]:
        return frozenset(load.id for load in self.document.loads)

    # -- by what they belong to ----------------------------------------------------------------

    @cached_property
    def buses_in(self) -> dict[str, list[Bus]]:
        return grouped(self.document.buses, attrgetter("enclosure_id"))

    @cached_property
    def devices_in(self) -> dict[str, list[Device]]:
        return grouped(self.document.devices, attrgetter("enclosure_id"))

    @cached_property
    def lugs_in(self) -> dict[str, list[Lugs]]:
        return grouped(self.document.lugs, attrgetter("enclosure_id"))

    @cached_property
    def bars_in(self) -> dict[str, list[Bar]]:
        return grouped(self.document.bars, attrgetter("enclosure_id"))

    @cached_property
    def bonds_in(self) -> dict[str, list[Bond]]:
        return grouped(self.document.bonds, attrgetter("enclosure_id"))

    @cached_property
    def loads_in(self) -> dict[str, list[Load]]:
        return grouped(self.document.loads, attrgetter("enclosure_id"))

    @cached_property
    def circuits_of(self) -> dict[str, list[Circuit]]:
        """Circuits by the device that they leave."""
        return grouped(self.document.circuits, attrgetter("device_id"))

    @cached_property
    def loads_on(self) -> dict[str, list[Load]]:
        """Loads by the device on whose circuit they are."""
        return grouped((load for load in self.document.loads if load.device_id), lambda item: str(item.device_id))

    @cached_property
    def pieces_of_unit(self) -> Counter[str]:
        """How many pieces of load each dwelling unit has on the whole site."""
        found: Counter[str] = Counter()
        for load in self.document.loads:
            if load.dwelling_unit_id:
                found[load.dwelling_unit_id] += load.quantity
        return found

    @cached_property
    def sources_in(self) -> dict[str, list[Source]]:
        """Sources by the enclosure or source that owns them."""
        return grouped(self.document.sources, lambda item: self.owners[item.id])

    @cached_property
    def measurements_at(self) -> dict[str, list[Measurement]]:
        return grouped(self.document.measurements, attrgetter("enclosure_id"))

    @cached_property
    def transfers_in(self) -> dict[str, list[Transfer]]:
        return grouped(self.document.transfers, attrgetter("enclosure_id"))

    @cached_property
    def throws_of(self) -> dict[str, list[Throw]]:
        return grouped(self.document.throws, attrgetter("transfer_id"))

    @cached_property
    def circuit_switches_of(self) -> dict[str, list[CircuitSwitch]]:
        """The switches for single circuits by the gear that they are of; no other gear is named."""
        standing = (item for item in self.document.circuit_switches if item.transfer_id in self.transfers)
        return grouped(standing, attrgetter("transfer_id"))

    @cached_property
    def switches_of_device(self) -> dict[str, list[CircuitSwitch]]:
        """The switches that move the circuit of a device, by the device."""
        every = (item for switches in self.circuit_switches_of.values() for item in switches)
        return grouped((item for item in every if item.device_id in self.devices), lambda item: str(item.device_id))

    @cached_property
    def switched_in(self) -> dict[str, list[str]]:
        """The devices whose circuits gear in an enclosure moves, by that enclosure."""
        found: dict[str, list[str]] = {}
        for device_id, switches in self.switches_of_device.items():
            for home in dict.fromkeys(self.transfers[item.transfer_id].enclosure_id for item in switches):
                found.setdefault(home, []).append(device_id)
        return found

    @cached_property
    def leads(self) -> frozenset[str]:
        """The runs that hold the leads between gear with switches for single circuits and the panel where their breakers stay."""
        begin = {self.transfers[gear].load_part for gear in self.circuit_switches_of}
        return frozenset(run.id for run in self.drawn_runs if run.from_part in begin) if begin else frozenset()

    @cached_property
    def transformers_in(self) -> dict[str, list[Transformer]]:
        return grouped(self.document.transformers, attrgetter("enclosure_id"))

    @cached_property
    def stretches_of(self) -> dict[str, list[Stretch]]:
        """Stretches by the run that they are parts of."""
        return grouped(self.document.stretches, attrgetter("run_id"))

    @cached_property
    def conductors_of(self) -> dict[str, list[Conductor]]:
        return grouped(self.document.conductors, attrgetter("run_id"))

    @cached_property
    def roles_of(self) -> dict[str, frozenset[str]]:
        """The roles of the conductors of each run that has any."""
        return {run_id: frozenset([item.role for item in wires]) for run_id, wires in self.conductors_of.items()}

    @cached_property
    def electrodes_at(self) -> dict[str, list[Electrode]]:
        """Electrodes by the enclosure they connect to."""
        joined = [item for item in self.document.electrodes if item.connects_to in self.owners]
        return grouped(joined, lambda item: self.owners[str(item.connects_to)])

    @cached_property
    def tap_of_run(self) -> dict[str, Tap]:
        """Taps by the run that they are."""
        return {tap.tap_run_id: tap for tap in self._drawn_taps}

    @cached_property
    def taps_on_run(self) -> dict[str, list[Tap]]:
        """Taps by the run that they are taken from."""
        return grouped(self._drawn_taps, attrgetter("run_id"))

    @cached_property
    def _drawn_taps(self) -> list[Tap]:
        drawn = {run.id for run in self.drawn_runs}
        return [tap for tap in self.document.taps if tap.run_id in drawn and tap.tap_run_id in drawn]

    @cached_property
    def transformer_of_secondary(self) -> dict[str, Transformer]:
        """Transformers by their secondary terminals."""
        return {item.secondary_part: item for item in self.document.transformers}

    @cached_property
    def drawn_runs(self) -> list[Run]:
        """Runs both of whose ends are there in this state."""
        return [run for run in self.document.runs if run.from_part in self.owners and run.to_part in self.owners]

    @cached_property
    def runs_from(self) -> dict[str, list[Run]]:
        """Runs by the enclosure or source they leave."""
        return grouped(self.drawn_runs, self.upstream_of)

    @cached_property
    def runs_into(self) -> dict[str, list[Run]]:
        """Runs by the enclosure they lead to."""
        return grouped(self.drawn_runs, self.downstream_of)

    @cached_property
    def runs_from_part(self) -> dict[str, list[Run]]:
        """Runs by the terminal that they leave."""
        return grouped(self.drawn_runs, attrgetter("from_part"))

    @cached_property
    def runs_to_part(self) -> dict[str, list[Run]]:
        """Runs by the terminal that they lead to."""
        return grouped(self.drawn_runs, attrgetter("to_part"))

    # -- small questions -----------------------------------------------------------------------

    def upstream_of(self, run: Run) -> str:
        """Return the enclosure or source that a run leaves, as it is drawn."""
        return self.owners[run.from_part]

    def downstream_of(self, run: Run) -> str:
        """Return the enclosure that a run leads to, as it is drawn."""
        return self.owners[run.to_part]

    def has_conductor(self, run: Run, role: str) -> bool:
        """Tell whether a run has a conductor of a role."""
        return role in self.roles_of.get(run.id, ())

    def bus_of(self, enclosure_id: str) -> Bus | None:
        """Return the bus of an enclosure; the first of several."""
        return next(iter(self.buses_in.get(enclosure_id, [])), None)


def _by_id(things: Iterable[T]) -> dict[str, T]:
    return {item.id: item for item in things}


def grouped(things: Iterable[T], owner: Callable[[T], str]) -> dict[str, list[T]]:
    """Return things by what they belong to."""
    found: dict[str, list[T]] = defaultdict(list)
    for item in things:
        found[owner(item)].append(item)
    return found
