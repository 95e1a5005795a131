"""Arc-fault and ground-fault protection of a dwelling's circuits that are new or extended (210.8, 210.12)."""

from __future__ import annotations

from nelvor.judges.panelboard.placed import PlacedCircuit
from nelvor.judges.panelboard.standing import name_in
from nelvor.judges.verdict import Judge, Mend, proposing
from nelvor.model.things import Circuit
from nelvor.rulebook.rules import Rules
from nelvor.topology.site import Site
from nelvor.working import exact

ARC_FAULT_USES = frozenset({"general", "small_appliance", "laundry"})
GROUND_FAULT_USES = frozenset({"bathroom", "garage", "outdoors", "laundry", "small_appliance"})
WITH_ARC_FAULT, WITH_GROUND_FAULT = frozenset({"arc_fault", "both"}), frozenset({"ground_fault", "both"})


def judge_protection(site: Site, rules: Rules, judge: Judge, circuit: PlacedCircuit) -> None:
    """Judge a circuit of a dwelling that the work makes or extends; what stands as it was keeps its old rules."""
    device = circuit.device
    if not _of_a_dwelling(site, circuit) or device.poles != 1 or device.role != "branch" or device.rating_a is None:
        return
    largest = exact(rules.parameter("arc_fault_largest_a").value)
    for wires in site.circuits_of.get(device.id, []):
        if exact(device.rating_a) > largest or not _touched(rules, judge, circuit, wires, name_in(site, device)):
            continue
        if wires.use is None:
            text = f"What {name_in(site, device)} serves is not told: its protection by the breaker goes by that."
            judge.about("circuits", wires.id).cannot_tell("arc_fault", text, "afci_dwelling", "use")
            continue
        _judge(judge, circuit, wires, name_in(site, device))


def _of_a_dwelling(site: Site, circuit: PlacedCircuit) -> bool:
    if any(load.dwelling_unit_id for load in circuit.loads):
        return True
    return bool(site.is_one_family(circuit.device.enclosure_id))


def _touched(rules: Rules, judge: Judge, circuit: PlacedCircuit, wires: Circuit, name: str) -> bool:
    """Tell whether the circuit is new, or extended by more than the edition lets pass."""
    if "added" in (circuit.device.standing, wires.standing):
        return True
    if not wires.extended_ft:
        return False
    free_ft = exact(rules.parameter("arc_fault_extension_ft").value)
    if exact(wires.extended_ft) > free_ft or wires.extension_adds_outlets:
        return True
    if wires.extension_adds_outlets is None:
        text = (
            f"{name} is extended by {wires.extended_ft:g} ft. Whether outlets or devices come with it is not entered."
        )
        judge.about("circuits", wires.id).cannot_tell("arc_fault", text, "afci_extension", "extension_adds_outlets")
    return False


def _judge(judge: Judge, circuit: PlacedCircuit, wires: Circuit, name: str) -> None:
    device = circuit.device
    arc, ground = wires.use in ARC_FAULT_USES, wires.use in GROUND_FAULT_USES
    if arc and device.protection is None:
        judge.cannot_tell(
            "arc_fault",
            f"Whether the breaker of {name} protects against arc faults is not entered; "
            "this circuit of a dwelling needs it.",
            "afci_dwelling",
            "protection",
        )
    elif arc and device.protection not in WITH_ARC_FAULT:
        wanted = "both" if ground or device.protection == "ground_fault" else "arc_fault"
        words = "arc and ground faults" if wanted == "both" else "arc faults"
        mend = Mend(f"{name}: a breaker against {words}", proposing("devices", device, protection=wanted))
        text = f"{name} is a circuit of a dwelling that is new or extended, without protection against arc faults."
        judge.must_fix("arc_fault", text, "afci_dwelling", "protection", mend)
    elif arc:
        judge.holds("arc_fault", f"{name} is protected against arc faults.", "afci_dwelling", "protection")
    if ground and device.protection in WITH_GROUND_FAULT:
        judge.holds("ground_fault", f"{name} is protected against ground faults.", "gfci_dwelling", "protection")
    elif ground:
        text = (
            f"The receptacles of {name} need protection against ground faults: by the breaker, or the first receptacle."
        )
        judge.advise("ground_fault", text, "gfci_dwelling", "protection")
