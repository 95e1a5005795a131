"""The load on each level of the feed, from all loads beneath it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Hashable, Sequence
from dataclasses import dataclass
from functools import partial
from typing import NamedTuple

from nelvor.clauses.calculated_load import LevelLoad, Methods, calculate, figures_of
from nelvor.clauses.heating_cooling import CLIMATE
from nelvor.clauses.load_kind import (
    OTHER,
    SHARED_LINE,
    THROUGH_DELTA,
    Tally,
    tally_of,
)
from nelvor.errors import CannotCompute
from nelvor.judges.answer import Answer, Subject
from nelvor.judges.memory import Memory, NoMemory
from nelvor.model.things import Load, Run
from nelvor.model.voltages import COMPUTED_SYSTEMS, THREE_PHASE
from nelvor.rulebook.rules import Rules
from nelvor.topology.site import Site
from nelvor.working import Recorder

# Where a load of a wye secondary lies on a delta primary.
PRIMARY_OF = {
    "L1-N": "L1-L2",
    "L2-N": "L2-L3",
    "L3-N": "L1-L3",
    "even": "three_phase",
    "even_line_to_line": "three_phase",
    "three_phase": "three_phase",
    **{connection: f"{THROUGH_DELTA}{connection}" for connection in SHARED_LINE},
}


def methods_of(site: Site) -> Methods:
    """Return the methods that a site's document chooses."""
    document = site.document
    whole: Counter[str] = Counter()
    for load in (*document.loads, *_charging(site)):
        if load.dwelling_unit_id:
            whole[load.dwelling_unit_id] += load.quantity
    return Methods(
        of_unit={unit.id: unit.load_method for unit in document.dwelling_units},
        other=document.settings.other_load_method,
        multifamily=document.settings.multifamily_optional,
        whole=dict(whole),
        climate_added=frozenset(
            load.dwelling_unit_id
            for load in document.loads
            if load.dwelling_unit_id and load.category in CLIMATE and load.standing == "added"
        ),
    )


def _charging(site: Site) -> list[Load]:
    return [load for loads in site.charging.values() for load in loads]


@dataclass(frozen=True)
class LoadUnknown:
    """The load of a level cannot be told, and why."""

    enclosure_id: str
    reason: CannotCompute


LevelLoads = dict[str, LevelLoad | LoadUnknown]


@dataclass(frozen=True, kw_only=True)
class LevelAnswer(Answer):
    """The load of a level as an answer."""

    level: LevelLoad | LoadUnknown


def level_answers(site: Site, rules: Rules, memory: Memory | None = None) -> dict[str, LevelAnswer]:
    """Return the load at every enclosure as an answer, by the enclosure's id; of the same load the same answer."""
    memory = memory or NoMemory()

    def answered(enclosure_id: str, level: LevelLoad | LoadUnknown) -> LevelAnswer:
        work = partial(_answer, enclosure_id, level, rules)
        return memory.recall("level answer", lambda: ([level], enclosure_id), work)

    return {item_id: answered(item_id, level) for item_id, level in level_loads(site, rules, memory).items()}


def _answer(enclosure_id: str, level: LevelLoad | LoadUnknown, rules: Rules) -> LevelAnswer:
    subject = Subject("level", enclosure_id)
    if isinstance(level, LevelLoad):
        return LevelAnswer(subject=subject, figures=figures_of(level), working=level.recorder, level=level)
    return LevelAnswer(subject=subject, figures={}, gaps={"load": level.reason}, working=Recorder(rules), level=level)


def level_loads(site: Site, rules: Rules, memory: Memory) -> LevelLoads:
    """Return the load at every enclosure, each level from all loads beneath it. Linear in their number.

    A level whose loads and everything beneath are the same as before is not worked out again.
    """
    worked: dict[str, _Worked] = {}
    methods = methods_of(site)
    for enclosure_id in reversed(site.feeds.outward):
        if enclosure_id in site.enclosures:
            rests_on = partial(_rests_on, site, enclosure_id, rules, worked, methods)
            work = partial(_level, site, enclosure_id, rules, worked, methods)
            worked[enclosure_id] = memory.recall("level", rests_on, work)
    return {enclosure_id: item.level for enclosure_id, item in worked.items()}


def _rests_on(
    site: Site, enclosure_id: str, rules: Rules, worked: dict[str, _Worked], methods: Methods
) -> tuple[Sequence[object], Hashable]:
    """Return the things that a level is worked out from, and the values that are derived from others."""
    runs = site.feeds.carrying_from.get(enclosure_id, [])
    beneath = [worked[below] for run in runs if (below := site.downstream_of(run)) in worked]
    transformers = [site.transformer_of_secondary.get(run.from_part) for run in runs]
    moved = tuple((load.id, load.connection) for load in site.moved_loads(enclosure_id))
    loads = [*site.loads_in.get(enclosure_id, []), *_on_moved_circuits(site, enclosure_id)]
    by_space = tuple([site.connection_of(load) for load in loads if load.device_id])
    farm = site.document.settings.other_load_method == "farm"
    building = site.building_words(enclosure_id) if farm else ""
    charging = tuple(
        (load.id, load.amount, load.volts, load.three_phase, load.dwelling_unit_id)
        for load in site.charging.get(enclosure_id, [])
    )
    system, legs = site.system_at(enclosure_id), site.legs_at[enclosure_id]
    values = (enclosure_id, system, legs, by_space, building, methods.as_values, charging, moved)
    return [*loads, *beneath, *transformers, rules], values


def _on_moved_circuits(site: Site, enclosure_id: str) -> list[Load]:
    """The loads, as they are drawn, of circuits that gear in an enclosure moves onto a standby supply."""
    devices = site.switched_in.get(enclosure_id, [])
    return [load for device_id in devices for load in site.loads_on.get(device_id, [])]


class _Worked(NamedTuple):
    """The loads beneath a level as they are counted, and the level worked out."""

    tally: Tally | LoadUnknown
    level: LevelLoad | LoadUnknown


def _level(site: Site, enclosure_id: str, rules: Rules, worked: dict[str, _Worked], methods: Methods) -> _Worked:
    tally = _tally_beneath(site, enclosure_id, rules, worked)
    if isinstance(tally, LoadUnknown):
        return _Worked(tally, tally)
    try:
        return _Worked(tally, calculate(enclosure_id, tally, computed_system(site, enclosure_id), rules, methods))
    except CannotCompute as reason:
        return _Worked(tally, LoadUnknown(enclosure_id, reason.kept()))


def computed_system(site: Site, enclosure_id: str) -> str:
    """Return the voltage system at an enclosure, one of those computed.

    Raises:
        CannotCompute: it is not known, or not one of those.
    """
    system = site.system_at(enclosure_id)
    if system is None:
        raise CannotCompute("The voltage system of the source is not known.", "Choose the system on the source.")
    if system not in COMPUTED_SYSTEMS:
        raise CannotCompute(
            f"Loads on {system.replace('_', ' ')} are not computed yet.",
            "120/240 V one-phase, 208Y/120 V and 480Y/277 V are.",
        )
    return system


def _tally_beneath(site: Site, enclosure_id: str, rules: Rules, worked: dict[str, _Worked]) -> Tally | LoadUnknown:
    try:
        own = site.loads_in.get(enclosure_id, [])
        loads = [*own, *site.moved_loads(enclosure_id), *site.charging.get(enclosure_id, [])]
        system = computed_system(site, enclosure_id)
        farm = site.document.settings.other_load_method == "farm"
        building = site.building_words(enclosure_id) if farm else ""
        by_space = {
            load.id: connection for load in loads if load.device_id and (connection := site.connection_of(load))
        }
        tally = tally_of(loads, system, rules, building, site.legs_at[enclosure_id], by_space)
    except CannotCompute as reason:
        return LoadUnknown(enclosure_id, reason.kept())
    for run in site.feeds.carrying_from.get(enclosure_id, []):
        below = worked.get(site.downstream_of(run))
        if below is None:
            continue
        beneath = below.tally
        if isinstance(beneath, LoadUnknown):
            return LoadUnknown(enclosure_id, beneath.reason)
        try:
            tally.update(_through_transformer(site, run, beneath))
        except CannotCompute as reason:
            return LoadUnknown(enclosure_id, reason.kept())
    return tally


def _through_transformer(site: Site, run: Run, tally: Tally) -> Tally:
    """Carry loads to the primary side of the transformer that a run leaves; others stay as they are.

    The primary is taken as delta (or two-wire): a load to neutral lies between two lines there, nothing of
    it on a neutral. Losses are not counted.
    """
    transformer = site.transformer_of_secondary.get(run.from_part)
    if transformer is None:
        return tally
    one_phase = transformer.secondary_system not in THREE_PHASE
    carried: Tally = Counter()
    for (unit, kind), count in tally.items():
        connection = "even_line_to_line" if one_phase else PRIMARY_OF.get(kind.connection)
        if connection is None:
            raise CannotCompute(
                "A one-phase load between two lines is not carried through two three-phase transformers.",
                "Spread such loads evenly over the legs (leave the connection open).",
            )
        carried[unit, kind._replace(connection=connection, uses_neutral=False)] += count
    return carried


def carries_entire_unit(site: Site, levels: LevelLoads, enclosure_id: str) -> bool:
    """Tell whether everything beneath is one dwelling unit, and all of that unit is beneath.

    The whole of a unit is the sum over the site, so two feeders to one house share it and neither carries it all.
    """
    level = levels.get(enclosure_id)
    if not isinstance(level, LevelLoad):
        return False
    units = {unit for unit, _ in level.tally}
    if len(units) != 1 or OTHER in units:
        return False
    unit = next(iter(units))
    charging = sum(load.dwelling_unit_id == unit for load in _charging(site))
    return sum(level.tally.values()) == site.pieces_of_unit[unit] + charging
