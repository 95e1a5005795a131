"""Arc-fault and ground-fault protection of circuits that are new, extended or get other receptacles (210.8, 210.12, 406.4(D)).

What is needed goes by the places that a circuit serves (``protection_by_place``): rooms, and equipment that the code
names by itself. What stands as it was keeps its old rules: a breaker or a panel that is replaced calls for nothing.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from nelvor.judges.panelboard.placed import PlacedCircuit
from nelvor.judges.panelboard.standing import name_in
from nelvor.judges.verdict import Judge, Mend, proposing
from nelvor.model.things import Circuit
from nelvor.model.voltages import LINE_TO_NEUTRAL_V
from nelvor.rulebook.rules import Rules
from nelvor.topology.site import Site
from nelvor.working import exact

PLACES_OF_USE: dict[str, tuple[str, ...]] = {
    "general": ("living_rooms",),
    "small_appliance": ("kitchens",),
    "laundry": ("laundry_area",),
    "bathroom": ("bathroom",),
    "garage": ("garage",),
    "outdoors": ("outdoors",),
    "individual": (),
}
"""Where a circuit serves of which only the use is told; one for general use is taken to reach rooms that people live in."""

PLACE_OF_LOAD = {"range": "cooking", "dryer": "clothes_dryer"}
PLACE_WORDS = {
    "living_rooms": "rooms that people live in",
    "kitchens": "the kitchen",
    "laundry_area": "the laundry area",
    "bathroom": "a bathroom",
    "garage": "a garage or a building beside the house",
    "finished_basement": "a finished basement",
    "unfinished_basement": "an unfinished basement",
    "crawl_space": "a crawl space",
    "outdoors": "outdoors",
    "near_sink": "within 6 ft of a sink",
    "near_tub": "within 6 ft of a bathtub or shower",
    "wet_indoors": "a damp or wet place indoors",
    "boathouse": "a boathouse",
    "dishwasher": "a dishwasher",
    "sump_pump": "a sump pump",
    "microwave": "a microwave oven",
    "cooking": "cooking equipment",
    "clothes_dryer": "a clothes dryer",
    "outdoor_equipment": "equipment outdoors",
}
WITH_ARC_FAULT, WITH_GROUND_FAULT = frozenset({"arc_fault", "both"}), frozenset({"ground_fault", "both"})
REWIRED = frozenset({"wire_size", "material", "insulation"})
"""Properties of a standing circuit that only other wire gives it."""

THREE_POLES = 3
MOST_TO_GROUND_V = 150
COUNTERS = "counters"


@dataclass(frozen=True)
class Work:
    """What the work does to a circuit: the clause by which arc faults are asked about, and whether outlets are new to it."""

    arc_clause: str = ""
    new_outlets: bool | None = False
    replaced: bool = False
    rewired: bool = False


@dataclass(frozen=True)
class Served:
    """A circuit that is worked on, with the places that it serves and what it is called."""

    rules: Rules
    judge: Judge
    circuit: PlacedCircuit
    wires: Circuit
    work: Work
    places: tuple[str, ...]
    dwelling: bool
    name: str

    def needing(self, column: str) -> Iterator[tuple[str, str, str]]:
        """Yield each place that needs protection: the place, how far it does, and the clause that says so."""
        for place in self.places:
            row = self.rules.row("protection_by_place", place)
            if row[column] != "no":
                yield place, row[column], row["clause"]


def judge_protection(site: Site, rules: Rules, judge: Judge, circuit: PlacedCircuit) -> None:
    """Judge a circuit that the work makes, extends or gives other receptacles."""
    device = circuit.device
    if device.role != "branch" or device.rating_a is None:
        return
    dwelling = _of_a_dwelling(site, circuit)
    name = name_in(site, device)
    for wires in site.circuits_of.get(device.id, []):
        work = _work_on(rules, wires)
        if work == Work():
            continue
        places = _places(circuit, wires)
        if places is None:
            if dwelling and device.poles == 1 and _within(rules, circuit, "arc_fault_largest_a"):
                text = f"What {name} serves is not told: its protection by the breaker goes by that."
                judge.about("circuits", wires.id).cannot_tell("arc_fault", text, "afci_dwelling", "use")
            continue
        served = Served(rules, judge, circuit, wires, work, places, dwelling, name)
        if dwelling:
            _judge_arc_faults(served)
        if _receptacles_count(site, rules, circuit, dwelling):
            _judge_ground_faults(served)


def _of_a_dwelling(site: Site, circuit: PlacedCircuit) -> bool:
    if any(load.dwelling_unit_id for load in circuit.loads):
        return True
    return bool(site.is_one_family(circuit.device.enclosure_id))


def _within(rules: Rules, circuit: PlacedCircuit, parameter: str) -> bool:
    rating_a = circuit.device.rating_a
    return rating_a is not None and exact(rating_a) <= rules.parameter(parameter).number


def _work_on(rules: Rules, wires: Circuit) -> Work:
    """Tell what is done to a circuit. An extension of a few feet without outlets calls for nothing."""
    if wires.standing == "added":
        return Work("afci_dwelling", new_outlets=True)
    if wires.receptacles_replaced:
        return Work("afci_replaced", new_outlets=True, replaced=True)
    if not wires.extended_ft:
        rewired = bool(REWIRED & wires.proposed.keys())
        return Work("afci_extension" if rewired else "", rewired=rewired)
    long = exact(wires.extended_ft) > rules.parameter("arc_fault_extension_ft").number
    adds = wires.extension_adds_outlets
    return Work("afci_extension" if long or adds or adds is None else "", new_outlets=adds)


def _places(circuit: PlacedCircuit, wires: Circuit) -> tuple[str, ...] | None:
    """Return what a circuit serves, as told or by its use and its loads; None where none of it is told."""
    of_loads = tuple(PLACE_OF_LOAD[load.category] for load in circuit.loads if load.category in PLACE_OF_LOAD)
    told = tuple(wires.serves) or (PLACES_OF_USE[wires.use] if wires.use is not None else ())
    if not told and not of_loads and wires.use is None:
        return None
    return tuple(dict.fromkeys((*told, *of_loads)))


def _judge_arc_faults(served: Served) -> None:
    judge, wires, work, name = served.judge, served.wires, served.work, served.name
    device = served.circuit.device
    needing = [place for place, _, _ in served.needing("arc_fault")]
    if (
        not work.arc_clause
        or not needing
        or device.poles != 1
        or not _within(served.rules, served.circuit, "arc_fault_largest_a")
    ):
        return
    if device.protection in WITH_ARC_FAULT:
        judge.holds("arc_fault", f"{name} is protected against arc faults.", work.arc_clause, "protection")
        return
    if work.rewired:
        free_ft = served.rules.parameter("arc_fault_extension_ft").value
        text = (
            f"Where more than {free_ft} ft of the wire of {name} is replaced, it needs protection against arc faults."
        )
        judge.advise("arc_fault", text, work.arc_clause, "protection")
        return
    long = exact(wires.extended_ft or 0) > served.rules.parameter("arc_fault_extension_ft").number
    if work.new_outlets is None and not long:
        text = (
            f"{name} is extended by {wires.extended_ft:g} ft. Whether outlets or devices come with it is not entered."
        )
        about = judge.about("circuits", wires.id)
        about.cannot_tell("arc_fault", text, "afci_extension", "extension_adds_outlets")
    elif device.protection is None:
        text = (
            f"Whether the breaker of {name} protects against arc faults is not entered; "
            f"it serves {PLACE_WORDS[needing[0]]} of a dwelling and needs it."
        )
        judge.cannot_tell("arc_fault", text, work.arc_clause, "protection")
    else:
        ground = any(served.needing("ground_fault")) or device.protection == "ground_fault"
        wanted, words = ("both", "arc and ground faults") if ground else ("arc_fault", "arc faults")
        mend = Mend(f"{name}: a breaker against {words}", proposing("devices", device, protection=wanted))
        done = "gets other receptacles" if work.replaced else "is new or extended"
        text = (
            f"{name} serves {PLACE_WORDS[needing[0]]} of a dwelling and {done}, without protection against arc faults."
        )
        judge.must_fix("arc_fault", text, work.arc_clause, "protection", mend)


def _receptacles_count(site: Site, rules: Rules, circuit: PlacedCircuit, dwelling: bool) -> bool:
    """Tell whether receptacles of this size and voltage are among those that the edition speaks of."""
    to_ground = LINE_TO_NEUTRAL_V.get(site.system_at(circuit.device.enclosure_id) or "")
    if to_ground is None or to_ground > MOST_TO_GROUND_V:
        return False
    if dwelling:
        most_poles = rules.parameter("ground_fault_most_poles").number
        return circuit.device.poles <= most_poles and _within(rules, circuit, "ground_fault_largest_a")
    three_phase = circuit.device.poles == THREE_POLES
    kind = "ground_fault_other_three_phase_largest_a" if three_phase else "ground_fault_other_largest_a"
    return _within(rules, circuit, kind)


def _judge_ground_faults(served: Served) -> None:
    judge, work, name, dwelling = served.judge, served.work, served.name, served.dwelling
    needing = list(served.needing("ground_fault" if dwelling else "ground_fault_other"))
    if not needing or work.new_outlets is False:
        return
    place, how_far, clause = needing[0]
    clause = "gfci_replaced" if work.replaced else clause if dwelling or clause != "gfci_dwelling" else "gfci_other"
    if work.new_outlets is None:
        text = f"{name} is extended. Whether outlets come with it is not entered; at {PLACE_WORDS[place]} they need protection."
        judge.about("circuits", served.wires.id).cannot_tell("ground_fault", text, clause, "extension_adds_outlets")
    elif served.circuit.device.protection in WITH_GROUND_FAULT:
        judge.holds("ground_fault", f"{name} is protected against ground faults.", clause, "protection")
    else:
        those = " that serve its countertops" if how_far == COUNTERS and served.wires.use != "small_appliance" else ""
        text = (
            f"{name} serves {PLACE_WORDS[place]}: its outlets{those} need protection against ground faults, "
            "by the breaker or by a device ahead of them, such as the first receptacle."
        )
        judge.advise("ground_fault", text, clause, "protection")
