"""One circuit: its load against its breaker, its wires against both, the breaker against the panel, and its words."""

from __future__ import annotations

from nelvor.clauses import hot_conductors, wiring_methods
from nelvor.clauses.ampacity import Circumstances, final_ampacity, size_index
from nelvor.clauses.calculated_load import LegLoad
from nelvor.clauses.grounding_conductor import by_device
from nelvor.clauses.hot_conductors import Demand
from nelvor.clauses.motor_circuit import DRIVEN, MotorCircuit, motor_circuit
from nelvor.errors import CannotCompute
from nelvor.judges.panelboard.arc_and_ground_fault import judge_protection
from nelvor.judges.panelboard.placed import THREE_POLES, PlacedCircuit
from nelvor.judges.panelboard.standing import name_in
from nelvor.judges.verdict import Judge, Mend, proposing
from nelvor.model.things import Circuit, Load
from nelvor.rulebook.rules import Rules
from nelvor.topology.site import Site
from nelvor.working import Figure, Recorder, exact

COOL_TERMINATIONS_C, WARM_TERMINATIONS_C = 60, 75
CIRCUITS = frozenset({"branch", "feeder"})


def judge_circuit(site: Site, rules: Rules, judge: Judge, recorder: Recorder, circuit: PlacedCircuit) -> None:
    """Judge one device of a bus with what leaves it."""
    device = circuit.device
    about = judge.about("devices", device.id)
    if device.role not in CIRCUITS:
        return
    one = OneCircuit(site, rules, about, recorder, circuit)
    if circuit.gap is not None:
        about.cannot_compute("circuit_load", circuit.gap, "branch_total_load")
    if circuit.load is not None and device.rating_a is not None:
        one.loaded()
    one.wires()
    judge_protection(site, rules, about, circuit)


class OneCircuit:
    """The checks of one circuit, resting on its load and its breaker."""

    def __init__(self, site: Site, rules: Rules, judge: Judge, recorder: Recorder, circuit: PlacedCircuit) -> None:
        self.site = site
        self.rules = rules
        self.judge = judge
        self.recorder = recorder
        self.circuit = circuit
        self.device = circuit.device
        self.name = name_in(site, circuit.device)
        self.motor = self._motor()

    # -- load against breaker ------------------------------------------------------------------

    def loaded(self) -> None:
        """The breaker carries the load, what is continuous at 125 % (210.20(A)); a motor goes by its own article."""
        rating = self._rating()
        if self.motor is not None:
            self._motor_device(rating, self.motor)
            return
        design = self._carried("Load with continuous part at 125 %", self._worst.design)
        if self.recorder.at_least("Breaker carries the load", rating, design, clause="branch_total_load"):
            text = f"{self.name}: {rating.text} A carries {design.text} A."
            self.judge.holds("circuit_load", text, "continuous_125_branch_ocpd")
            return
        clause = "continuous_125_branch_ocpd" if self._worst.continuous.number else "branch_total_load"
        text = f"{self.name} carries {design.text} A, what is continuous at 125 %, and its breaker is {rating.text} A."
        self.judge.must_fix("circuit_load", f"{text} Move some of it to another circuit.", clause, "rating_a")

    @property
    def _worst(self) -> LegLoad:
        assert self.circuit.load is not None
        return self.circuit.load.worst

    def _rating(self) -> Figure:
        assert self.device.rating_a is not None
        return self.recorder.given(f"Breaker of {self.name}", self.device.rating_a, "A", "panel")

    def _carried(self, label: str, figure: Figure) -> Figure:
        assert self.circuit.load is not None
        return self.recorder.carried(f"{self.name}: {label}", figure, self.circuit.load.recorder)

    # -- motors and compressors ----------------------------------------------------------------

    def _motor(self) -> MotorCircuit | None:
        """What the one motor or compressor of the circuit asks; None for any other circuit."""
        load = self._only_load()
        driven = DRIVEN.get(load.category) if load is not None else None
        if load is None or driven is None or self.circuit.load is None:
            return None
        current = self._carried("current of the motor", self._worst.actual)
        if not current.number:
            return None
        three_phase = self.device.poles == THREE_POLES
        return motor_circuit(self.recorder, driven, current, three_phase=three_phase, fuses=self.device.kind == "fuses")

    def _only_load(self) -> Load | None:
        loads = self.circuit.loads
        return loads[0] if len(loads) == 1 and loads[0].quantity == 1 else None

    def _motor_device(self, rating: Figure, motor: MotorCircuit) -> None:
        if self.recorder.at_least("Device within its limit", motor.largest_device, rating, clause=motor.device_clause):
            text = f"{self.name}: {rating.text} A is within the {motor.largest_device.text} A that its motor allows."
            self.judge.holds("circuit_load", text, motor.device_clause)
            return
        most = motor.largest_device
        text = (
            f"{self.name}: a device of {rating.text} A protects a motor for which {most.text} A is the most. "
            "A plate that gives a largest device goes before this figure."
        )
        mend = Mend(
            f"{self.name}: {rating.text} A to {most.text} A",
            proposing("devices", self.device, rating_a=float(most.number)),
        )
        self.judge.must_fix("circuit_load", text, motor.device_clause, "rating_a", mend)

    # -- wires ---------------------------------------------------------------------------------

    def wires(self) -> None:
        """Every set of wires that leaves the breaker; a second one under its terminal is told."""
        circuits = self.site.circuits_of.get(self.device.id, [])
        if len(circuits) > 1:
            text = f"{len(circuits)} sets of wires leave {self.name}: most breakers take one to a terminal. Look at its marking."
            self.judge.cannot_tell("two_wires", text, "one_wire_to_a_terminal")
        for wires in circuits:
            if wires.wire_size is None and wires.is_unread("wire_size"):
                text = f"The wire of {self.name} is not read yet."
                self.judge.about("circuits", wires.id).cannot_tell("circuit_wire", text, "", "wire_size")
            elif self.device.rating_a is not None:
                self._wire(wires)

    def _wire(self, wires: Circuit) -> None:
        judge = self.judge.about("circuits", wires.id)
        try:
            at = self._circumstances(wires)
            if self.motor is not None:
                self._motor_wire(wires, at, self.motor, judge)
            else:
                self._general_wire(wires, at, judge)
            self._ground(wires, judge)
        except CannotCompute as reason:
            judge.cannot_compute("circuit_wire", reason, "ampacity_table")

    def _circumstances(self, wires: Circuit) -> Circumstances:
        """In free surroundings at the job's temperature, on terminals of 60 °C up to 100 A (110.14(C)).

        Raises:
            CannotCompute: metal or type is not told.
        """
        if wires.material is None or wires.insulation is None:
            raise CannotCompute(f"The wire of {self.name} is not told whole.", "Enter its metal and its type.")
        limit = self.rules.parameter("small_termination_limit_a").number
        warm = self._rating().number > limit
        poles = self.device.poles
        return Circumstances(
            material=wires.material,
            insulation=wires.insulation,
            insulation_c=wiring_methods.insulation_temperature(wires.insulation, False, self.rules),
            termination_c=WARM_TERMINATIONS_C if warm else COOL_TERMINATIONS_C,
            sets=1,
            ambient_c=exact(self.site.document.settings.ambient_c),
            current_carrying=2 if poles == 1 else poles,
            nipple=False,
            dwelling_share=False,
            cap_c=wiring_methods.cable_cap_c(wires.insulation),
        )

    def _demand(self, several_receptacles: bool) -> Demand:
        rating = self._rating()
        if self.circuit.load is None:
            nothing = self.recorder.given(f"{self.name}: load", 0, "A", "not told")
            return Demand(nothing, nothing, rating, several_receptacles, "continuous_125_branch_conductor")
        actual, design = self._carried("load", self._worst.with_motor), self._carried("design load", self._worst.design)
        return Demand(actual, design, rating, several_receptacles, "continuous_125_branch_conductor")

    def _several_receptacles(self, wires: Circuit) -> bool | None:
        """Tell whether the circuit may have several receptacles, by its loads or its use; None where neither tells."""
        if any(load.category == "receptacles" for load in self.circuit.loads):
            return True
        if wires.use == "individual" or self._only_load() is not None:
            return False
        return True if wires.use is not None or self.circuit.loads else None

    def _general_wire(self, wires: Circuit, at: Circumstances, judge: Judge) -> None:
        several = self._several_receptacles(wires)
        demand = self._demand(several is not False)
        if wires.wire_size is None:
            least = hot_conductors.smallest_hots(self.recorder, at, demand).size
            judge.holds("circuit_wire", f"{self.name}: {least} is the least wire for {demand.device.text} A.")
            return
        why, ampacity, _ = hot_conductors.refusal(self.recorder, wires.wire_size, at, demand)
        if not why:
            text = f"{self.name}: {wires.wire_size} of {ampacity.text} A behind {demand.device.text} A."
            judge.holds("circuit_wire", text, "ampacity_table")
            return
        if several is None and not hot_conductors.refusal(self.recorder, wires.wire_size, at, self._demand(False))[0]:
            text = f"{self.name}: {why}. For one appliance alone it would do. Enter what it is used for."
            judge.cannot_tell("circuit_wire", text, "several_receptacles", "use")
            return
        judge.must_fix(
            "circuit_wire",
            f"The wire of {self.name} is too small. {why}.",
            "small_conductor_ocpd" if "at most" in why else "next_size_up_ocpd",
            "wire_size",
            self._ways(wires, ampacity, at, demand),
        )

    def _ways(self, wires: Circuit, ampacity: Figure, at: Circumstances, demand: Demand) -> tuple[Mend, ...]:
        """A smaller breaker where it still carries the load, and larger wire."""
        least = hot_conductors.smallest_hots(self.recorder, at, demand).size
        limit = hot_conductors.small_conductor_limit(self.recorder, str(wires.wire_size), at.material)
        most = min(ampacity.number, limit.number) if limit is not None else ampacity.number
        fitting = [rating for rating in self.rules.standard_ratings() if demand.design.number <= rating <= most]
        larger = Mend(f"Wire of {self.name}: {least}", proposing("circuits", wires, wire_size=least))
        if not fitting or self.circuit.gap is not None:
            return (larger,)
        smaller = Mend(
            f"{self.name}: {demand.device.text} A to {fitting[-1]} A",
            proposing("devices", self.device, rating_a=float(fitting[-1])),
        )
        return (smaller, larger)

    def _motor_wire(self, wires: Circuit, at: Circumstances, motor: MotorCircuit, judge: Judge) -> None:
        """Wires of a motor carry 125 % of it; its overload protection, not the breaker, guards them (240.4(G))."""
        if wires.wire_size is None:
            judge.holds("circuit_wire", f"{self.name}: its wires carry {motor.least_ampacity.text} A at least.")
            return
        ampacity = final_ampacity(self.recorder, wires.wire_size, at)[1]
        if not self.recorder.at_least(
            "Wires carry the motor", ampacity, motor.least_ampacity, clause=motor.conductor_clause
        ):
            text = (
                f"The wire of {self.name}, {wires.wire_size}, carries {ampacity.text} A; its motor asks for "
                f"{motor.least_ampacity.text} A."
            )
            judge.must_fix("circuit_wire", text, motor.conductor_clause, "wire_size")
            return
        rating, load = self._rating(), self._only_load()
        if self.recorder.at_least("Wires reach the device", ampacity, rating, clause="motor_conductor_protection"):
            judge.holds("circuit_wire", f"{self.name}: {wires.wire_size} reaches its device.", motor.conductor_clause)
            return
        guarded = load.overload_protected if load is not None else None
        about = self.judge.about("loads", load.id) if load is not None else judge
        start = f"{self.name}: {wires.wire_size} of {ampacity.text} A behind {rating.text} A"
        if guarded:
            judge.holds("circuit_wire", f"{start}, guarded by the overload protection.", "motor_conductor_protection")
        elif guarded is None:
            text = f"{start} is right for a motor with overload protection. Whether it has one is not entered."
            about.cannot_tell("motor_overload", text, "motor_overload", "overload_protected")
        else:
            text = f"{start} is guarded by nothing: the motor has no overload protection. Fit it."
            about.must_fix("motor_overload", text, "motor_overload", "overload_protected")

    def _ground(self, wires: Circuit, judge: Judge) -> None:
        """The grounding conductor goes by the device, but is never asked to be larger than the wires (250.122(A), (D))."""
        if wires.ground_size is None or wires.material is None:
            return
        needed = by_device(self.recorder, self._rating(), wires.material).text
        clause = "egc_size" if self.motor is None else "motor_grounding_conductor"
        if wires.wire_size is not None and size_index(needed) > size_index(wires.wire_size):
            needed = wires.wire_size
        if size_index(wires.ground_size) >= size_index(needed):
            judge.holds("circuit_ground", f"{self.name}: {wires.ground_size} to ground.", clause)
            return
        text = f"The grounding conductor of {self.name}, {wires.ground_size}, is below {needed}."
        mend = Mend(f"Grounding conductor of {self.name}: {needed}", proposing("circuits", wires, ground_size=needed))
        judge.must_fix("circuit_ground", text, clause, "ground_size", mend)
