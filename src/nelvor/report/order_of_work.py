"""From what stands to what is proposed: the steps of the work in plain words, in an order that is safe.

All sources off, locked and proved dead; what is missing put in place at both ends; the right bond made; only then the
wrong one taken out; measured; every conductor lifted for measuring landed again before anything is switched on.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

from pydantic import BaseModel

from nelvor.clauses.wiring_methods import METHOD_WORDS
from nelvor.judges.run.answer import CORD
from nelvor.model.base import Thing
from nelvor.model.changes.differences import Difference, between
from nelvor.model.things import Bond, Circuit, CircuitSwitch, Conductor, Electrode, Run
from nelvor.report.around_the_work import AroundTheWork
from nelvor.report.check import Report
from nelvor.report.moved_leads import back_on_breaker, bring_leads, switch_words
from nelvor.report.moved_wires import MOVED, moved_wires
from nelvor.report.panel_schedule import torque_at
from nelvor.report.words import run_tag
from nelvor.report.work_steps import WorkStageOut, WorkStepOut, counted, ends_of
from nelvor.report.work_words import (
    FIELD_WORDS,
    LANDINGS,
    LEAVE_JOINTS,
    NOT_ON_SITE,
    ON_PAPER,
    PARTS_OF_OTHERS,
    ROLE_WORDS,
    STAGE_TITLES,
    Stage,
)
from nelvor.topology.joints import BOND_WORDS
from nelvor.topology.names import home_of, name_of, part_name, run_name, thing_name
from nelvor.topology.site import Site


class OrderOfWork(BaseModel):
    """The stages of the work in their order; empty where the proposal changes nothing on site."""

    stages: list[WorkStageOut]


def order_of_work(existing: Report, proposed: Report) -> OrderOfWork:
    """Return the steps from the existing to the proposed state of one document."""
    work = _Work(existing, proposed)
    for difference in between(existing.site.document, proposed.site.document):
        work.take(difference)
    return OrderOfWork(stages=work.stages())


def changes_in_words(before: Report, after: Report) -> list[str]:
    """Return what differs between two designs as steps, in their order, without what goes before and after all work."""
    work = _Work(before, after)
    for difference in between(before.site.document, after.site.document):
        work.take(difference)
    return [step.text for steps in work.steps.values() for step in steps]


def steps_text(order: OrderOfWork) -> str:
    """Return the order of work for a terminal."""
    if not order.stages:
        return "The proposal changes nothing on site."
    lines = []
    for number, stage in enumerate(order.stages, 1):
        lines += [f"{number}. {stage.title}", *(f"   - {step.text}" for step in stage.steps)]
    return "\n".join(lines)


@dataclass
class _Work:
    """The steps as they are found, by stage."""

    existing: Report
    proposed: Report
    steps: dict[Stage, list[WorkStepOut]] = field(default_factory=lambda: {stage: [] for stage in STAGE_TITLES})
    touched: dict[str, None] = field(default_factory=dict)
    joined_anew: dict[str, None] = field(default_factory=dict)
    placed_runs: set[str] = field(default_factory=set)

    @property
    def before(self) -> Site:
        return self.existing.site

    @property
    def after(self) -> Site:
        return self.proposed.site

    def take(self, difference: Difference) -> None:
        """Take down the steps of one difference."""
        if (difference.list, difference.field) in ON_PAPER or self._goes_along(difference):
            return
        if difference.list in NOT_ON_SITE or (difference.field in Thing.OWN_FIELDS and difference.field):
            return
        if difference.field == "":
            self._comes_or_goes(difference)
        else:
            self._changes(difference)

    def _goes_along(self, difference: Difference) -> bool:
        """Tell whether a change is part of another one that has a step of its own."""
        return self._goes_with_its_circuit(difference) or self._goes_with_its_run(difference)

    def _goes_with_its_run(self, difference: Difference) -> bool:
        """Tell whether a conductor moves an end together with its run."""
        if difference.list != "conductors" or difference.field not in ("from_part", "to_part"):
            return False
        run_id = getattr(self.after.by_id[difference.id][1], "run_id", "")
        runs = [site.runs.get(run_id) for site in (self.before, self.after)]
        return len({getattr(run, difference.field, None) for run in runs}) > 1

    def _goes_with_its_circuit(self, difference: Difference) -> bool:
        """Tell whether a load changes its panel together with the wires of its circuit, which have a step of their own."""
        if (difference.list, difference.field) != ("loads", "enclosure_id"):
            return False
        load = self.after.by_id[difference.id][1]
        return bool(self.after.circuits_of.get(getattr(load, "device_id", None) or ""))

    def say(self, stage: Stage, text: str, thing_id: str) -> None:
        self.steps[stage].append(WorkStepOut(text=text, id=thing_id))
        for site in (self.before, self.after):
            home = home_of(site, thing_id)
            ends = [home]
            if home in site.runs:
                ends = list(ends_of(site, site.runs[home]))
            boxes = dict.fromkeys(end for end in ends if end in site.enclosures)
            self.touched |= boxes
            if site.by_id.get(thing_id, ("", None))[0] not in LEAVE_JOINTS:
                self.joined_anew |= boxes

    # -- things that come and go ---------------------------------------------------------------

    def _comes_or_goes(self, difference: Difference) -> None:
        comes = difference.before is None
        site = self.after if comes else self.before
        thing = site.by_id[difference.id][1]
        told = COMING_AND_GOING.get(difference.list)
        if told is not None:
            told(self, site, thing, comes)
        elif difference.list not in PARTS_OF_OTHERS:
            words = thing_name(site, difference.id)
            self.say("place" if comes else "away", f"{'Add' if comes else 'Take away'} {words}.", difference.id)

    def _enclosure(self, site: Site, thing: Any, comes: bool) -> None:
        where = f" ({thing.placement})" if thing.placement else ""
        words = f"Set {name_of(site, thing.id)}{where}." if comes else f"Take {name_of(site, thing.id)} down."
        self.say("place" if comes else "away", words, thing.id)

    def _run(self, site: Site, run: Run, comes: bool) -> None:
        ends = "from {} to {}".format(*(name_of(site, end) for end in ends_of(site, run)))
        if not comes:
            self.say("away", f"Take the conductors {ends} out at both ends.", run.id)
            return
        self.placed_runs.add(run.id)
        length = f", {run.length_ft:g} ft" if run.length_ft is not None else ""
        answer = self.proposed.runs.get(run.id)
        if answer is not None and answer.kind == CORD:
            self.say("place", f"Have the cord {ends} ready: it is plugged in only to run the set.", run.id)
            return
        if run.id in site.leads:
            self.say("place", bring_leads(site, run), run.id)
            return
        what = run_tag(answer) if answer else METHOD_WORDS.get(run.method or "", "")
        torques = answer.torque_words if answer else ""
        self.say("place", f"Run {what} {ends}{length}; land and torque every conductor at both ends.{torques}", run.id)

    def _conductor(self, site: Site, conductor: Conductor, comes: bool) -> None:
        other = self.before if comes else self.after
        if conductor.run_id not in other.runs or conductor.run_id in self.placed_runs:
            return  # it comes or goes with its run
        run = site.runs[conductor.run_id]
        role = ROLE_WORDS.get(conductor.role, f"hot conductor {conductor.role}")
        name = run_name(site, run)
        if not comes:
            self.say("away", f"Take the {role} of {name} out at both ends, or cap and mark it.", conductor.id)
            return
        size = self._size(run.id, {"neutral": "neutral", "ground": "ground"}.get(conductor.role, "hots"))
        ends = " and ".join(thing_name(site, part) for part in (conductor.from_part, conductor.to_part))
        self.say("place", f"Add the {role}{size} to {name}: land it on {ends}, and torque both.", conductor.id)

    def _size(self, run_id: str, part: str) -> str:
        answer = self.proposed.runs.get(run_id)
        size = answer.size(part) if answer else None
        return f", {size}" if size else ""

    def _electrode(self, site: Site, electrode: Electrode, comes: bool) -> None:
        words = thing_name(site, electrode.id)
        if not comes:
            self.say("away", f"Take the conductor of {words} off; the electrode may stay.", electrode.id)
            return
        answer = self.proposed.electrodes.get(site.owners.get(electrode.connects_to or "", ""))
        figure = answer.figure("conductor") if answer else None
        size = f" with {figure.text} {figure.unit}".rstrip() if figure else ""
        self.say("place", f"Install {words} and join it{size}.", electrode.id)

    def _bond(self, site: Site, bond: Bond, comes: bool) -> None:
        if comes and bond.made:
            self._bond_made(bond)
        elif not comes and bond.made is not False:
            self._bond_out(site, bond)

    def _bond_made(self, bond: Bond) -> None:
        name = name_of(self.after, bond.enclosure_id)
        stands = bond.enclosure_id in self.before.enclosures
        missing = stands and any(
            item.code == "bond" and item.outcome == "must_fix" and self._is_service(bond.enclosure_id)
            for item in self.existing.bonds[bond.enclosure_id].verdicts
        )
        self.say("first" if missing else "bond", f"Fit the {BOND_WORDS[bond.kind]} at {name}.", bond.id)

    def _is_service(self, enclosure_id: str) -> bool:
        return self.existing.bonds[enclosure_id].decision == "bond"

    def _bond_out(self, site: Site, bond: Bond) -> None:
        if bond.enclosure_id in self.after.enclosures:
            name = name_of(site, bond.enclosure_id)
            self.say("unbond", f"Take the {BOND_WORDS[bond.kind]} out at {name}.", bond.id)

    def _load(self, site: Site, load: Any, comes: bool) -> None:
        where = name_of(site, load.enclosure_id)
        words = f"Connect {load.name or 'the load'} at {where}." if comes else f"Disconnect {load.name} at {where}."
        self.say("place" if comes else "away", words, load.id)

    def _device(self, site: Site, device: Any, comes: bool) -> None:
        other = self.before if comes else self.after
        if device.enclosure_id not in other.enclosures:
            return  # it comes or goes with its box
        rating = f", {device.rating_a:g} A" if device.rating_a is not None else ""
        name, where = device.name or "a breaker", name_of(site, device.enclosure_id)
        text = f"Fit {name}{rating} in {where}." if comes else f"Take {name} out of {where} and close its space."
        self.say("place" if comes else "away", text, device.id)

    def _source(self, site: Site, source: Any, comes: bool) -> None:
        other = self.before if comes else self.after
        if source.enclosure_id is not None and source.enclosure_id not in other.enclosures:
            return  # it comes or goes with its box
        name = name_of(site, source.id)
        self.say("place" if comes else "away", f"Set {name}." if comes else f"Take {name} away.", source.id)

    def _interlock(self, site: Site, interlock: Any, comes: bool) -> None:
        names = " and ".join(thing_name(site, item) for item in (interlock.device_a, interlock.device_b))
        words = f"Fit the interlock between {names}, and try that only one of them can be on."
        self.say("place" if comes else "away", words if comes else f"Take the interlock of {names} out.", interlock.id)

    def _circuit_switch(self, site: Site, switch: CircuitSwitch, comes: bool) -> None:
        if comes or switch.transfer_id in self.after.transfers:
            self.say("place" if comes else "away", switch_words(site, switch, comes), switch.id)
        elif words := back_on_breaker(self.after, switch):
            self.say("place", words, switch.device_id or "")

    def _wires(self, site: Site, wires: Any, comes: bool) -> None:
        other = self.before if comes else self.after
        if wires.device_id not in other.devices:
            return  # they come or go with their breaker
        size = f", {wires.wire_size} {wires.insulation or ''}".rstrip() if wires.wire_size else ""
        name = thing_name(site, wires.device_id)
        told = torque_at(self.proposed, site.devices[wires.device_id]) if comes else ""
        torque = f" At the breaker {told}" if told else ""
        text = f"Run the wires of {name}{size}; land and torque.{torque}" if comes else f"Take the wires off {name}."
        self.say("place" if comes else "away", text, wires.id)

    # -- properties ----------------------------------------------------------------------------

    def _changes(self, difference: Difference) -> None:
        thing = self.after.by_id[difference.id][1]
        if isinstance(thing, Bond) and difference.field == "made":
            if thing.made:
                self._bond_made(thing)
            elif difference.before is not False:
                self._bond_out(self.before, thing)
            return
        if isinstance(thing, Circuit) and difference.field in MOVED:
            if words := moved_wires(self.before, self.after, thing, difference):
                self.say("place", words, difference.id)
            return
        if isinstance(thing, CircuitSwitch) and difference.field == "device_id":
            old = self.before.by_id[difference.id][1]
            if isinstance(old, CircuitSwitch) and (words := back_on_breaker(self.after, old)):
                self.say("place", words, difference.id)
            self.say("place", switch_words(self.after, thing, comes=True), difference.id)
            return
        name = thing_name(self.after, difference.id)
        before, after = (self._value(value) for value in (difference.before, difference.after))
        if difference.field in ENDS:
            before, after = self._part(self.before, difference.before), self._part(self.after, difference.after)
        told = FIELD_WORDS.get((difference.list, difference.field))
        if told is None:
            what = difference.field.removesuffix("_id").replace("_", " ")
            text = f"{name}: {what} {before} → {after}."
        else:
            text = told.format(name=name, before=before, after=after)
        stage: Stage = "place" if difference.field in LANDINGS else "set"
        self.say(stage, text, difference.id)

    def _part(self, site: Site, part: Any) -> str:
        """A terminal or bar with the box that it is in."""
        where = next((item for item in (site, self.after, self.before) if part in item.owners), None)
        if where is None:
            return "where it was"
        owner = where.owners[part]
        return name_of(where, owner) if owner == part else f"{part_name(where, part)} of {name_of(where, owner)}"

    def _value(self, value: Any) -> str:
        if value is None:
            return "as calculated"
        if isinstance(value, bool):
            return "yes" if value else "no"
        if isinstance(value, str):
            for site in (self.after, self.before):
                if value in site.by_id:
                    return thing_name(site, value)
            return METHOD_WORDS.get(value, value.replace("_", " "))
        return f"{value:g}" if isinstance(value, int | float) else str(value)

    # -- before and after the work -------------------------------------------------------------

    def stages(self) -> list[WorkStageOut]:
        """Return the stages that have steps, framed by switching off, measuring and switching on."""
        if not any(self.steps.values()):
            return []
        around = AroundTheWork(self.existing, self.proposed, self.touched, self.joined_anew, self.placed_runs)
        self.steps["unbond"] += list(around.looked_for())
        self.steps["off"] = list(around.off())
        self.steps["measure"] = list(around.measured())
        self.steps["on"] = list(around.on())
        return [
            WorkStageOut(stage=stage, title=title, steps=counted(self.steps[stage]))
            for stage, title in STAGE_TITLES.items()
            if self.steps[stage]
        ]


ENDS = frozenset({"from_part", "to_part", "connects_to"})

COMING_AND_GOING: dict[str, Callable[[_Work, Site, Any, bool], None]] = {
    "enclosures": _Work._enclosure,
    "runs": _Work._run,
    "conductors": _Work._conductor,
    "electrodes": _Work._electrode,
    "bonds": _Work._bond,
    "loads": _Work._load,
    "devices": _Work._device,
    "circuits": _Work._wires,
    "sources": _Work._source,
    "interlocks": _Work._interlock,
    "circuit_switches": _Work._circuit_switch,
}
