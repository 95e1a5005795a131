"""The terminals of the neutral bars: one for each neutral that leaves the panel (408.41)."""

from __future__ import annotations

from collections.abc import Sequence

from nelvor.clauses.load_kind import NEUTRAL_BY_CUSTOM
from nelvor.judges.panelboard.placed import ABOVE_TO_NEUTRAL, PlacedCircuit
from nelvor.judges.verdict import Judge
from nelvor.model.things import Bus, Load
from nelvor.model.voltages import LINE_TO_NEUTRAL_V
from nelvor.topology.names import name_of
from nelvor.topology.site import Site


def judge_terminals(site: Site, judge: Judge, bus: Bus, circuits: Sequence[PlacedCircuit]) -> None:
    """Judge the neutral bars of a panel whose terminals are counted, against the neutrals of its circuits."""
    bars = [bar for bar in site.bars_in.get(bus.enclosure_id, []) if bar.kind == "neutral"]
    counted = [bar.terminals for bar in bars if bar.terminals is not None]
    if not bars or len(counted) < len(bars):
        return
    have, needed = sum(counted), _neutrals(site, bus, circuits)
    about, name = judge.about("bars", bars[0].id), name_of(site, bus.enclosure_id)
    if have >= needed:
        text = f"{name} has {have} terminals for {needed} neutrals, {have - needed} left."
        about.holds("neutral_terminals", text, "one_neutral_to_a_terminal", "terminals")
    else:
        text = f"{name} has {have} terminals for {needed} neutrals; each needs one of its own. Add a bar listed for it."
        about.must_fix("neutral_terminals", text, "one_neutral_to_a_terminal", "terminals")


def _neutrals(site: Site, bus: Bus, circuits: Sequence[PlacedCircuit]) -> int:
    """How many neutrals leave the panel; those of a multiwire circuit are one."""
    shared: set[str] = set()
    alone = 0
    for circuit in circuits:
        words = {wires.shared_neutral for wires in site.circuits_of.get(circuit.device.id, [])} - {""}
        if words:
            shared |= words
        elif _has_neutral(site, bus, circuit):
            alone += 1
    return alone + len(shared)


def _has_neutral(site: Site, bus: Bus, circuit: PlacedCircuit) -> bool:
    device = circuit.device
    runs = [run for run in site.runs_from.get(device.enclosure_id, []) if run.from_part == device.id]
    if runs:
        return any(site.has_conductor(run, "neutral") for run in runs)
    if device.role != "branch":
        return False
    return device.poles == 1 or any(_uses_neutral(load, site.system_at(bus.enclosure_id)) for load in circuit.loads)


def _uses_neutral(load: Load, system: str | None) -> bool:
    if load.neutral_used is not None:
        return load.neutral_used
    to_neutral = LINE_TO_NEUTRAL_V.get(system or "")
    if load.volts is None or to_neutral is None:
        return load.category in NEUTRAL_BY_CUSTOM
    return load.category in NEUTRAL_BY_CUSTOM or load.volts <= to_neutral * ABOVE_TO_NEUTRAL
