"""Boxes with a switch for each of some circuits: every line of a circuit goes along or none, and its wire stays protected.

The breakers of these circuits stay in their panel. While the set runs they do not act: what protects the wire then, and that
arc- and ground-fault protection is missing, is told here.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from fractions import Fraction

from nelvor.judges.panelboard.standing import name_in
from nelvor.judges.verdict import Judge, Mend, Verdict, proposing
from nelvor.model.changes.operations import Operation
from nelvor.model.things import CircuitSwitch, Device, Transfer
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of
from nelvor.topology.pushed_in import sources_behind
from nelvor.topology.site import Site
from nelvor.working import exact

TRANSFER, ONE_NEUTRAL, TOGETHER = "optional_standby_transfer", "multiwire_one_neutral", "multiwire_disconnect"
ELECTRONIC = {
    "arc_fault": "Its arc-fault protection",
    "ground_fault": "Its ground-fault protection",
    "both": "Its arc- and ground-fault protection",
}
NO_CIRCUITS = frozenset({"main", "source"})


def circuit_switch_verdicts(site: Site, rules: Rules) -> Iterator[Verdict]:
    """Yield what is said of each circuit that a switch moves, and of the box where all of them go by the set's own breaker."""
    for gear_id in site.circuit_switches_of:
        box = _Box(site, rules, site.transfers[gear_id])
        box.judge_circuits()
        box.judge_shared_neutrals()
        yield from box.judge.verdicts


class _Box:
    """One box: the panel whose breakers stay, and the devices with the switches that move their circuits."""

    def __init__(self, site: Site, rules: Rules, gear: Transfer) -> None:
        self.site = site
        self.gear = gear
        self.name = name_of(site, gear.enclosure_id)
        self.judge = Judge(rules, "transfers", gear.id)
        throws = site.throws_of.get(gear.id, [])
        self.panels = {site.owners.get(throw.part, "") for throw in throws if throw.part in site.buses} - {""}
        self.standby = [run for throw in throws for run in site.runs_to_part.get(throw.part, [])]
        self.sources = [item for run in self.standby for item in sources_behind(site, site.upstream_of(run), set())]
        self.moved: dict[str, list[CircuitSwitch]] = {}
        for switch in site.circuit_switches_of[gear.id]:
            if switch.device_id in site.devices:
                self.moved.setdefault(str(switch.device_id), []).append(switch)

    def judge_circuits(self) -> None:
        """Judge each circuit by itself: where its breaker stands, its lines, its wire, and what does not act on the set."""
        if self.moved and self.gear.switches_protected is None:
            text = (
                f"Whether each switch of {self.name} has a breaker or fuse of its own is not entered: look at its face."
            )
            self.judge.cannot_tell("switch_protection", text, "small_conductor_ocpd", "switches_protected")
        for device_id, switches in self.moved.items():
            device = self.site.devices[device_id]
            if device.role in NO_CIRCUITS or device.enclosure_id not in self.panels:
                self._not_reached(device, switches)
                continue
            self._supplies(device, switches)
            self._lines(device, switches)
            self._wire(device, switches)
            self._not_acting(device)

    def _not_reached(self, device: Device, switches: list[CircuitSwitch]) -> None:
        where = " or ".join(sorted(name_of(self.site, panel) for panel in self.panels)) or "no panel yet"
        text = (
            f"{self._letters(switches)} of {self.name} is to move {name_in(self.site, device)}, which is no circuit of {where}, to "
            "which its leads go."
        )
        about = self.judge.about("circuit_switches", switches[0].id)
        about.must_fix("switch_reach", text, "listed_use", "device_id", self._released(device))

    def _supplies(self, device: Device, switches: list[CircuitSwitch]) -> None:
        """One other supply alone moves a circuit, gives it the volts that it needs, and meets none that pushes in from behind."""
        name, about = name_in(self.site, device), self.judge.about("circuit_switches", switches[0].id)
        mend = self._released(device)
        if any(item.transfer_id != self.gear.id for item in self.site.switches_of_device[device.id]):
            text = f"{name} is moved by {self.name} and by another box: over it their supplies can meet. Leave it to one of them."
            about.must_fix("switch_twice", text, TRANSFER, "device_id", mend)
        pushing = [item for item in self.site.sources_through(device) if item.interactive is not False]
        if pushing:
            names = " and ".join(dict.fromkeys(name_of(self.site, item.id) for item in pushing))
            text = f"{names} is behind {name}, which {self.name} moves: it would push into the set. Leave it with the utility."
            about.must_fix("switch_source", text, TRANSFER, "device_id", mend)
        if device.poles > 1 and self._gives_120_v:
            text = f"{self._set} gives 120 V on both lines: what of {name} needs more gets none, and a neutral between them carries the sum."
            about.must_fix("switch_volts", text, TRANSFER, "device_id", mend)

    @property
    def _gives_120_v(self) -> bool:
        """Tell whether all that comes in here gives 120 V on two wires."""
        return bool(self.sources) and all(item.output == "two_wire_120" for item in self.sources)

    @property
    def _set(self) -> str:
        return " and ".join(dict.fromkeys(name_of(self.site, item.id) for item in self.sources))

    def _lines(self, device: Device, switches: list[CircuitSwitch]) -> None:
        """Every pole has a switch, on lines that differ, with handles that go together."""
        name, about = name_in(self.site, device), self.judge.about("circuit_switches", switches[0].id)
        if len(switches) != device.poles:
            poles = f"{device.poles} pole{'s' if device.poles > 1 else ''}"
            text = (
                f"{name} has {poles} and {len(switches)} of the switches of {self.name}: a line that stays behind is live from the "
                "other supply. Move all of its lines, or none."
            )
            about.must_fix("switch_poles", text, TRANSFER, "device_id", self._released(device))
        elif device.poles > 1:
            self._several(about, name, switches, TRANSFER)
        else:
            text = f"{self._letters(switches)} of {self.name} moves {name}; its neutral stays where it is."
            about.holds("switch_poles", text, TRANSFER)

    def _several(self, about: Judge, name: str, switches: list[CircuitSwitch], clause: str) -> None:
        """Lines of one circuit, or that share a neutral: on different lines of the set, and moved together."""
        legs = [item.leg for item in switches]
        if None in legs:
            open_field = next(item for item in switches if item.leg is None)
            text = f"On which line of the set {self._letters([open_field])} of {self.name} lies is not entered: read its diagram."
            about.about("circuit_switches", open_field.id).cannot_tell("switch_leg", text, clause, "leg")
        elif len(set(legs)) < len(legs):
            text = (
                f"{name}: {self._letters(switches)} of {self.name} lie on the same line {legs[0]} of the set. What stands between "
                "lines gets no voltage there, and a shared neutral carries the sum. Take switches of different lines."
            )
            about.must_fix("switch_leg", text, clause, "leg")
        if not self._tied(switches):
            text = f"{name}: the handles of {self._letters(switches)} are not tied, so that its lines can stand on different supplies."
            about.must_fix("switch_tie", text, clause, "tied_to", self._tying(name, switches))
        elif None not in legs and len(set(legs)) == len(legs):
            about.holds("switch_tie", f"{name}: {self._letters(switches)} move together.", clause)

    def _tied(self, switches: list[CircuitSwitch]) -> bool:
        """Tell whether ties join all of these switches."""
        joined = {switches[0].id}
        for _ in switches:
            joined |= {item.id for item in switches if item.tied_to in joined}
            joined |= {str(item.tied_to) for item in switches if item.id in joined and item.tied_to}
        return {item.id for item in switches} <= joined

    def _tying(self, name: str, switches: list[CircuitSwitch]) -> Mend:
        first, *others = switches
        operations = [step for item in others for step in proposing("circuit_switches", item, tied_to=first.id)]
        return Mend(f"{name}: tie the handles of {self._letters(switches)}", tuple(operations))

    def _wire(self, device: Device, switches: list[CircuitSwitch]) -> None:
        """While the set runs, the circuit's wire has a device no larger than its breaker."""
        name, clause = name_in(self.site, device), "small_conductor_ocpd"
        if device.rating_a is None or self.gear.switches_protected is None:
            return
        if self.gear.switches_protected is False:
            self._by_the_set(device)
            return
        about = self.judge.about("circuit_switches", switches[0].id)
        unread = next((item for item in switches if item.rating_a is None), None)
        largest = max((item for item in switches if item.rating_a is not None), key=_rating, default=None)
        if largest is not None and _rating(largest) > exact(device.rating_a):
            text = (
                f"{self._letters([largest])} of {self.name} protects the wire of {name} at {largest.rating_a:g} A, which its breaker of "
                f"{device.rating_a:g} A protects by day."
            )
            operations = [step for item in switches for step in _rated(item, device.rating_a)]
            mend = Mend(f"{self._letters(switches)}: {device.rating_a:g} A", tuple(operations))
            self.judge.about("circuit_switches", largest.id).must_fix("switch_rating", text, clause, "rating_a", mend)
        elif unread is not None:
            text = f"The breaker of {self._letters([unread])} of {self.name}, which is to protect {name}, is not read."
            self.judge.about("circuit_switches", unread.id).cannot_tell("switch_rating", text, clause, "rating_a")
        else:
            about.holds("switch_rating", f"{name} is protected at {switches[0].rating_a:g} A on the set.", clause)

    def _by_the_set(self, device: Device) -> None:
        """Without breakers of its own, the box leaves the wire to what protects its feed."""
        name, clause, about = name_in(self.site, device), "small_conductor_ocpd", self.judge.about("devices", device.id)
        ahead = [self.site.protection_ahead.get(run.id) for run in self.standby]
        ratings = [item.rating_a for item in ahead if item is not None and item.rating_a is not None]
        if len(ratings) < len(self.standby) or not ratings:
            text = (
                f"{self.name} has no breakers of its own, and what protects its feed, and {name} with it, is not known."
            )
            self.judge.cannot_tell("switch_rating", text, clause)
        elif exact(max(ratings)) > exact(device.rating_a or 0):
            text = (
                f"{self.name} has no breakers of its own: on the set the wire of {name} is left to {max(ratings):g} A, and it goes with "
                f"{device.rating_a:g} A. Take a box with a breaker for each switch."
            )
            self.judge.must_fix("switch_rating", text, clause, "switches_protected")
        else:
            about.holds("switch_rating", f"{name} is protected at {max(ratings):g} A on the set.", clause)

    def _not_acting(self, device: Device) -> None:
        words = ELECTRONIC.get(device.protection or "")
        if words is not None:
            text = (
                f"{name_in(self.site, device)} goes over {self.name} on the set. {words} is in the breaker that stays in the panel, and "
                "does not act then."
            )
            self.judge.about("devices", device.id).advise("switch_not_acting", text, TRANSFER)

    # -- shared neutrals -----------------------------------------------------------------------

    def judge_shared_neutrals(self) -> None:
        """Circuits that share a neutral are moved together or not at all."""
        for members in self._sharing().values():
            moved = [device for device in members if device.id in self.moved]
            if not moved or len(members) < 2:
                continue
            switches = [item for device in moved for item in self.moved[device.id]]
            about, names = self.judge.about("circuit_switches", switches[0].id), self._names(members)
            mend = self._released(*moved)
            if self._gives_120_v:
                text = f"{names} share a neutral, which carries the sum of both where {self._set} gives 120 V on both lines."
                about.must_fix("switch_volts", text, ONE_NEUTRAL, "device_id", mend)
            if len(moved) < len(members):
                text = (
                    f"{names} share a neutral, and {self.name} moves {self._names(moved)} alone: on two supplies the neutral carries "
                    "the sum of their currents. Move both lines, or none."
                )
                about.must_fix("multiwire_apart", text, ONE_NEUTRAL, "device_id", mend)
            else:
                self._several(about, names, switches, TOGETHER)

    def _sharing(self) -> dict[str, list[Device]]:
        """The devices of the panel whose circuits share a neutral, by the word for it."""
        found: dict[str, dict[str, Device]] = {}
        for wires in self.site.document.circuits:
            device = self.site.devices.get(wires.device_id)
            if wires.shared_neutral and device is not None and device.enclosure_id in self.panels:
                found.setdefault(wires.shared_neutral, {})[device.id] = device
        return {word: list(devices.values()) for word, devices in sorted(found.items())}

    # -- words ---------------------------------------------------------------------------------

    def _names(self, devices: Iterable[Device]) -> str:
        return " and ".join(name_in(self.site, item) for item in devices)

    def _letters(self, switches: list[CircuitSwitch]) -> str:
        words = " and ".join(item.name or item.id for item in switches)
        return f"{'Switches' if len(switches) > 1 else 'Switch'} {words}"

    def _released(self, *devices: Device) -> Mend:
        operations = [step for device in devices for item in self.moved[device.id] for step in released(item)]
        return Mend(f"{self._names(devices)}: stays on its breaker", tuple(operations))


def released(switch: CircuitSwitch) -> tuple[Operation, ...]:
    """Return the operations by which a switch moves nothing any more, and its handle by itself."""
    return proposing("circuit_switches", switch, device_id=None, tied_to=None)


def _rated(switch: CircuitSwitch, rating_a: float) -> tuple[Operation, ...]:
    return proposing("circuit_switches", switch, rating_a=rating_a)


def _rating(switch: CircuitSwitch) -> Fraction:
    return exact(switch.rating_a or 0)
