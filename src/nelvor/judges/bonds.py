"""For every enclosure: bond here, keep apart, or bonded on the supply side; what to fit or take out, and what is found."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from nelvor.clauses import bonding_jumper, grounding_conductor
from nelvor.errors import CannotCompute
from nelvor.judges.answer import Answer, Subject
from nelvor.judges.run import RunAnswer
from nelvor.judges.service_zone import Zone, zones
from nelvor.judges.verdict import Judge, Mend, adding, proposing, removing
from nelvor.model.changes.ids import FreeIds
from nelvor.model.changes.operations import Operation
from nelvor.model.things import Bar, Bond, Conductor, Electrode, Run
from nelvor.rulebook.rules import Rules
from nelvor.topology.joints import Inside, inside
from nelvor.topology.names import name_of, thing_name
from nelvor.topology.site import Site
from nelvor.working import Figure, Recorder

Decision = Literal["bond", "apart", "supply_side", "existing_three_wire", "unknown"]
ONLY_AS_SERVICE = "only_suitable"


@dataclass(frozen=True, kw_only=True)
class BondAnswer(Answer):
    """The decision for one neutral of one enclosure with its reason, what is found, and the figures that go with it."""

    enclosure_id: str
    neutral_part: str
    decision: Decision
    reason: str
    section: str
    found: str
    parts: tuple[str, ...]
    conductors: tuple[str, ...]


class BondJudge:
    """Decides and judges one enclosure."""

    def __init__(self, site: Site, rules: Rules, zone: Zone, answers: dict[str, RunAnswer], enclosure_id: str) -> None:
        self.site = site
        self.rules = rules
        self.zone = zone
        self.answers = answers
        self.enclosure = site.enclosures[enclosure_id]
        self.feeding = site.feeding_run(enclosure_id)
        self.judge = Judge(rules, "enclosures", enclosure_id)
        self.recorder = Recorder(rules)
        self.figures: dict[str, Figure] = {}
        self.gaps: dict[str, CannotCompute] = {}
        self.inside: Inside = inside(site, enclosure_id)
        self.name = name_of(site, enclosure_id)

    def answer(self) -> BondAnswer:
        """Return the decision with everything that follows from it."""
        decision: Decision
        match self.zone.kind:
            case "service":
                decision = self._service()
            case "supply":
                decision = self._supply_side()
            case "load":
                decision = self._load_side()
            case _:
                decision = "unknown"
                self.judge.cannot_tell("bond", self.zone.reason)
        self._wrong_bars(decision)
        neutral = self._bar("neutral")
        return BondAnswer(
            subject=Subject("bond", self.enclosure.id),
            figures=self.figures,
            gaps=self.gaps,
            verdicts=tuple(self.judge.verdicts),
            working=self.recorder,
            enclosure_id=self.enclosure.id,
            neutral_part=neutral.id if neutral else "",
            decision=decision,
            reason=self.zone.reason,
            section=self.rules.section(self.zone.clause),
            found=self.inside.found,
            parts=tuple(self._parts(decision)),
            conductors=tuple(self._conductors(decision)),
        )

    # -- the three places ----------------------------------------------------------------------

    def _service(self) -> Decision:
        self._try_figure("main_bonding_jumper", self._jumper)
        self._switch_without_protection()
        if self.inside.found == "bonded":
            self.judge.holds("bond", f"Neutral and metal are joined by the {self._joined_by()}.", "main_bonding_jumper")
        elif self.inside.found == "unknown":
            self._doubtful("main_bonding_jumper")
        elif self.inside.found == "no_neutral":
            self.judge.must_fix(
                "bond",
                f"{self.name} is the service disconnect but has no neutral bar: the neutral must be brought to it and bonded.",
                "neutral_brought_to_service",
                mend=Mend("Fit a neutral bar with a bonding strap", self._new_bar_and_bond()),
            )
        else:
            self.judge.must_fix(
                "bond",
                f"{self.name} is the service disconnect but its neutral is not joined to the metal. A fault would "
                "never trip a breaker. Fit the bonding screw or strap.",
                "main_bonding_jumper",
                mend=Mend("Fit the bond", tuple(self._make_bond())),
            )
        return "bond"

    def _supply_side(self) -> Decision:
        if self.enclosure.service_marking == ONLY_AS_SERVICE and self.enclosure.emergency_marking != "none":
            self.judge.must_fix(
                "marking",
                f"{self.name} is suitable only as service equipment: its neutral is bonded for good, so it cannot be "
                "marked as not service equipment.",
                "service_equipment_marking",
                "emergency_marking",
                Mend(
                    "Mark it as the service disconnect",
                    proposing("enclosures", self.enclosure, emergency_marking="service_disconnect"),
                ),
            )
        if self.inside.found == "bonded":
            self.judge.holds(
                "bond", "Bonded on the supply side, as is usual; this is no second bond.", "meter_neutral_supply_side"
            )
        elif self.inside.found == "apart":
            self.judge.must_fix(
                "bond",
                f"The metal of {self.name} is ahead of the service disconnect and nothing bonds it. Join it to the neutral.",
                "supply_side_bonding",
                mend=Mend("Bond it to the neutral", tuple(self._make_bond())),
            )
        else:
            self.judge.cannot_tell(
                "bond",
                f"How the metal of {self.name} is bonded is not entered; on the supply side the neutral "
                "usually does it.",
                "meter_neutral_supply_side",
            )
        return "supply_side"

    def _load_side(self) -> Decision:
        assert self.feeding is not None  # the zone of an enclosure without a feed is unknown
        self._marking_on_load_side()
        grounded = self._has_ground(self.feeding)
        if grounded is None:
            self.judge.cannot_tell(
                "ground_missing",
                f"The run to {self.name} has the armor of its MC cable as the only grounding path. Enter whether the "
                "armor is listed as a grounding conductor, or run a wire.",
                "mc_armor_ground",
                "armor_listed_ground",
            )
            return "unknown"
        if not grounded:
            return self._without_ground(self.feeding)
        self._ground_bar()
        clause = self.zone.clause
        if self.inside.found == "bonded":
            self.judge.must_fix(
                "bond",
                f"Neutral is bonded again at {self.name} ({self._joined_by()}). The bond belongs at the service "
                "disconnect alone; here neutral current would flow on grounding conductors and metal.",
                clause,
                mend=Mend("Take the bond out", tuple(self._take_out())),
            )
        elif self.inside.found == "unknown":
            self._doubtful(clause)
        else:
            self.judge.holds("bond", "Neutral is kept apart from the metal.", clause)
        return "apart"

    # -- details of the service ----------------------------------------------------------------

    def _jumper(self) -> Figure:
        assert self.feeding is not None
        answer = self.answers.get(self.feeding.id)
        hots, material = (answer.size("hots"), answer.material) if answer else (None, None)
        if hots is None or material is None:
            if answer is not None and answer.kind == "utility":
                raise CannotCompute(
                    "The jumper goes by the size and the metal of the utility's conductors.",
                    "Ask for them, and enter them at the utility's run.",
                )
            raise CannotCompute("The size of the service conductors is not known.", "Complete the run that feeds it.")
        return bonding_jumper.supply_side_jumper(self.recorder, hots, self.feeding.sets, material, "copper")

    def _try_figure(self, name: str, work: Callable[[], Figure]) -> None:
        try:
            self.figures[name] = work()
        except CannotCompute as reason:
            self.gaps[name] = reason
            self.judge.cannot_compute(name, reason)

    def _switch_without_protection(self) -> None:
        main = self.site.main_of(self.enclosure.id)
        if main is None or main.kind != "switch":
            return
        adjacent = self.enclosure.protection_adjacent
        if adjacent is None:
            self.judge.cannot_tell(
                "service_protection",
                f"{self.name} is a switch without overcurrent protection. Enter whether the "
                "protection is immediately adjacent.",
                "service_switch_protection",
                "protection_adjacent",
            )
        elif not adjacent:
            self.judge.must_fix(
                "service_protection",
                f"{self.name} is a switch without overcurrent protection, and none is immediately adjacent.",
                "service_switch_protection",
                mend=Mend("Use a breaker here", proposing("devices", main, kind="breaker")),
            )

    # -- details of the load side --------------------------------------------------------------

    def _marking_on_load_side(self) -> None:
        if self.enclosure.service_marking == ONLY_AS_SERVICE:
            self.judge.must_fix(
                "marking",
                f"{self.name} is suitable only as service equipment: its neutral is bonded for good, so it cannot be a "
                "sub-panel. Use one whose bond can be taken out.",
                "service_equipment_marking",
                "service_marking",
                Mend("Use one marked suitable", proposing("enclosures", self.enclosure, service_marking="suitable")),
            )

    def _has_ground(self, run: Run) -> bool | None:
        """Tell whether a run brings a grounding path, wire or metal; None where an armor's listing is not known."""
        if self.site.has_conductor(run, "ground"):
            return True
        return grounding_conductor.metal_grounds(run, self.site.stretches_of.get(run.id, []))

    def _without_ground(self, run: Run) -> Decision:
        first_of_building = self.site.is_first_of_building(self.enclosure.id)
        conditions = (
            self._old_three_wire_conditions(run) if first_of_building and run.standing == "existing" else {"": False}
        )
        if any(value is False for value in conditions.values()):
            failing = next(name for name, value in conditions.items() if value is False)
            because = f" The old three-wire feed cannot stay: {failing}." if failing else ""
            self.judge.must_fix(
                "ground_missing",
                f"The run to {self.name} has no grounding conductor.{because} Connect one first, then take the "
                "neutral bond out here.",
                "building_egc" if first_of_building else "egc_required_in_feeder",
                mend=Mend("Add the grounding conductor, then part neutral and ground", tuple(self._convert(run))),
            )
            return "apart"
        unknown = [name for name, value in conditions.items() if value is None]
        if unknown:
            self.judge.cannot_tell(
                "ground_missing",
                f"The old three-wire run to {self.name} may stay only under conditions that are not "
                f"all entered: {'; '.join(unknown)}.",
                "building_existing_3wire",
                "complied_when_installed",
            )
            return "unknown"
        if self.inside.found == "apart":
            self.judge.must_fix(
                "bond",
                f"The old three-wire run to {self.name} has the neutral as its only fault path, and the bond is "
                "lifted. Restore it, or add a grounding conductor.",
                "building_existing_3wire",
                mend=Mend("Restore the bond", tuple(self._make_bond())),
            )
        elif self.inside.found == "unknown":
            self._doubtful("building_existing_3wire")
        else:
            self.judge.advise(
                "ground_missing",
                f"The old three-wire run to {self.name} may stay with its bond. Do not lift that bond "
                "before a grounding conductor is connected.",
                "building_existing_3wire",
            )
        return "existing_three_wire"

    def _old_three_wire_conditions(self, run: Run) -> dict[str, bool | None]:
        building = self.site.buildings.get(self.enclosure.building_id or "")
        path = building.metal_path_to_supply if building else None
        device = self.site.protection_ahead.get(run.id)
        fault_protection = device.ground_fault_protection if device else None
        return {
            "it complied when it was installed": run.complied_when_installed,
            "no continuous metal path joins the buildings": None if path is None else not path,
            "no ground-fault protection stands ahead": None if fault_protection is None else not fault_protection,
        }

    def _convert(self, run: Run) -> list[Operation]:
        """Add the conductor first and part neutral and ground after it, never the other way round."""
        ids, ground_bar = self.site.free_ids(), self._bar("ground")
        operations: list[Operation] = []
        target = ground_bar.id if ground_bar else self.enclosure.id
        if ground_bar is None and self.enclosure.kind == "panel":
            new_bar = self._new_ground_bar(ids)
            operations.append(adding("bars", new_bar))
            target = new_bar.id
        upstream = self.site.upstream_of(run)
        bars = self.site.bars_in.get(upstream, [])
        start = next((bar.id for kind in ("ground", "neutral") for bar in bars if bar.kind == kind), upstream)
        new_id = ids.take(f"{run.id}-g")
        conductor = Conductor(id=new_id, run_id=run.id, role="ground", from_part=start, to_part=target)
        operations.append(adding("conductors", conductor))
        for electrode in self.site.electrodes_at.get(self.enclosure.id, []):
            if self._on_neutral_bar(electrode):
                operations += proposing("electrodes", electrode, connects_to=target)
        return [*operations, *self._take_out()]

    def _new_ground_bar(self, ids: FreeIds) -> Bar:
        new_id = ids.take(f"{self.enclosure.id}-gbar")
        return Bar(id=new_id, enclosure_id=self.enclosure.id, kind="ground", insulated=False)

    def _ground_bar(self) -> None:
        standing = self._bar("ground")
        if standing is not None and standing.insulated and not self._joined_to_metal(standing):
            self.judge.must_fix(
                "ground_bar",
                f"The ground bar of {self.name} stands off from the metal of the enclosure: nothing joins the metal to "
                "the grounding conductor, and a fault to it would stay live. Fasten the bar to the metal.",
                "grounding_terminal_bar",
                mend=Mend("Fasten the bar to the metal", proposing("bars", standing, insulated=False)),
            )
        if self.enclosure.kind != "panel" or standing is not None:
            return
        bar = self._new_ground_bar(self.site.free_ids())
        self.judge.must_fix(
            "ground_bar",
            f"{self.name} has no ground bar; grounding conductors may not land on its neutral bar.",
            "ground_neutral_separate_bar",
            mend=Mend("Fit a listed ground bar", (adding("bars", bar),)),
        )

    def _joined_to_metal(self, bar: Bar) -> bool:
        """Tell whether a bond joins a bar to the enclosure's metal, or may."""
        ends = {bar.id, self.enclosure.id}
        bonds = self.site.bonds_in.get(self.enclosure.id, [])
        return any({bond.part_a, bond.part_b} == ends and bond.made is not False for bond in bonds)

    def _wrong_bars(self, decision: Decision) -> None:
        """Conductors of runs on the wrong bar join neutral and ground as surely as a strap."""
        if decision != "apart":
            return
        for run in [*self.site.runs_into.get(self.enclosure.id, []), *self.site.runs_from.get(self.enclosure.id, [])]:
            for conductor in self.site.conductors_of.get(run.id, []):
                end = "to_part" if self.site.downstream_of(run) == self.enclosure.id else "from_part"
                self._wrong_bar(conductor, end)
        for electrode in self.site.electrodes_at.get(self.enclosure.id, []):
            self._electrode_bar(electrode)

    def _on_neutral_bar(self, electrode: Electrode) -> bool:
        bar = self.site.bars.get(electrode.connects_to or "")
        return bar is not None and bar.kind == "neutral"

    def _electrode_bar(self, electrode: Electrode) -> None:
        """Behind the service an electrode joins the ground bar: on the neutral's it would ground the neutral again."""
        if not self._on_neutral_bar(electrode):
            return
        right = self._bar("ground")
        target = right.id if right else self.enclosure.id
        self.judge.must_fix(
            "electrode_bar",
            f"The conductor to {thing_name(self.site, electrode.id)} lands on the neutral bar of {self.name}, which is kept apart from the "
            "ground. It belongs on the ground bar.",
            self.zone.clause,
            mend=Mend("Move it to the ground bar", proposing("electrodes", electrode, connects_to=target)),
        )

    def _wrong_bar(self, conductor: Conductor, end: str) -> None:
        bar = self.site.bars.get(getattr(conductor, end))
        if bar is None or conductor.role not in ("neutral", "ground") or bar.kind == conductor.role:
            return
        right = self._bar(conductor.role)
        mend = (
            Mend(f"Move it to the {conductor.role} bar", proposing("conductors", conductor, **{end: right.id}))
            if right
            else None
        )
        self.judge.must_fix(
            "wrong_bar",
            f"The {conductor.role} conductor of {thing_name(self.site, conductor.run_id)} lands on the {bar.kind} bar of {self.name}.",
            "neutral_disconnecting_bar",
            mend=mend,
        )

    # -- parts ---------------------------------------------------------------------------------

    def _bar(self, kind: str) -> Bar | None:
        return next((bar for bar in self.site.bars_in.get(self.enclosure.id, []) if bar.kind == kind), None)

    def _joined_by(self) -> str:
        return ", ".join(joint.words for joint in self.inside.joining) or "metal itself"

    def _doubtful(self, clause: str) -> None:
        what = ", ".join(joint.words for joint in self.inside.doubtful)
        self.judge.cannot_tell(
            "bond", f"Whether neutral and metal are joined at {self.name} is not known: look at the {what}.", clause
        )

    def _make_bond(self) -> list[Operation]:
        """Make the bond that lies ready, or bring a new one."""
        ready = [
            bond
            for bond in self.site.bonds_in.get(self.enclosure.id, [])
            if bond.kind in ("screw", "strap", "wire", "factory")
        ]
        if ready:
            return list(proposing("bonds", ready[0], made=True))
        neutral = self._bar("neutral")
        assert neutral is not None  # callers treat an enclosure without a neutral bar apart
        return [adding("bonds", self._new_bond(neutral.id, self.site.free_ids()))]

    def _new_bond(self, neutral_bar: str, ids: FreeIds) -> Bond:
        return Bond(
            id=ids.take(f"{self.enclosure.id}-bond"),
            enclosure_id=self.enclosure.id,
            kind="strap",
            part_a=neutral_bar,
            part_b=self.enclosure.id,
            made=True,
        )

    def _new_bar_and_bond(self) -> tuple[Operation, ...]:
        ids = self.site.free_ids()
        new_id = ids.take(f"{self.enclosure.id}-nbar")
        bar = Bar(id=new_id, enclosure_id=self.enclosure.id, kind="neutral", insulated=True)
        return adding("bars", bar), adding("bonds", self._new_bond(bar.id, ids))

    def _take_out(self) -> list[Operation]:
        operations: list[Operation] = []
        for joint in self.inside.joining:
            if joint.bar is not None:
                operations += proposing("bars", joint.bar, insulated=True)
            elif joint.bond is not None and joint.bond.kind in ("branch_neutral", "branch_ground", "tied_bars", "wire"):
                operations.append(removing("bonds", joint.bond))
            elif joint.bond is not None:
                operations += proposing("bonds", joint.bond, made=False)
        return operations

    def _parts(self, decision: Decision) -> list[str]:
        if decision == "bond":
            size = self.figures.get("main_bonding_jumper")
            return [
                "Fit the maker's bonding screw or strap, torqued to its label"
                + (f", or a copper jumper of {size.text}" if size else "")
            ]
        if decision == "supply_side":
            return ["Leave the neutral bonded to this enclosure, or bond the metal with a supply-side jumper"]
        if decision == "apart":
            parts = [f"Take out: {joint.words}" for joint in self.inside.joining]
            bar = [] if self._bar("ground") else ["Fit a listed ground bar on clean metal"]
            return [*parts, *bar, "Neutral bar insulated, no screw or strap"]
        if decision == "existing_three_wire":
            return ["Leave the existing bond until a grounding conductor is connected"]
        return []

    def _conductors(self, decision: Decision) -> list[str]:
        neutral = ["neutral"] if self.feeding is not None and self.site.has_conductor(self.feeding, "neutral") else []
        if decision in ("bond", "supply_side"):
            return ["hots", "neutral"]
        if decision == "apart":
            return ["hots", *neutral, "grounding conductor"]
        return ["hots", *neutral]


def bond_answers(site: Site, rules: Rules, answers: dict[str, RunAnswer]) -> dict[str, BondAnswer]:
    """Return the decision and the judgement for every enclosure."""
    return {
        enclosure_id: BondJudge(site, rules, zone, answers, enclosure_id).answer()
        for enclosure_id, zone in zones(site, rules).items()
    }
