"""For one enclosure: bond here, keep apart, or bonded on the supply side; what to fit or take out, and what is found."""

from __future__ import annotations

from collections.abc import Callable

from nelvor.clauses import bonding_jumper, grounding_conductor
from nelvor.errors import CannotCompute
from nelvor.judges.answer import Subject
from nelvor.judges.bonds.answer import BondAnswer, Decision, NeutralDecision
from nelvor.judges.bonds.mends import Mends
from nelvor.judges.run import RunAnswer
from nelvor.judges.verdict import Judge, Mend, adding, proposing
from nelvor.judges.zones import Zone
from nelvor.model.things import Bar, Conductor, Electrode, Run
from nelvor.rulebook.rules import Rules
from nelvor.topology.grounded import neutral_parts, ordinary_neutral
from nelvor.topology.joints import Found, Inside, inside
from nelvor.topology.names import name_of, thing_name
from nelvor.topology.site import Site
from nelvor.working import Figure, Recorder

ONLY_AS_SERVICE = "only_suitable"


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
        self.neutral = ordinary_neutral(site, enclosure_id)
        self.inside: Inside = inside(site, enclosure_id, self.neutral)
        self.mends = Mends(site, self.enclosure, self.neutral)
        self.found: Found = self._as_found()
        self.name = name_of(site, enclosure_id)

    def _as_found(self) -> Found:
        """What stands; within a source whose inner bond nobody drew, what its marking says."""
        sources = [self.site.sources[part] for part in self.neutral if part in self.site.sources]
        ends = {end for bond in self.site.bonds_in.get(self.enclosure.id, []) for end in (bond.part_a, bond.part_b)}
        if self.inside.found != "apart" or not sources or ends & {*self.neutral}:
            return self.inside.found
        marked: dict[str | None, Found] = {"floating_neutral": "apart", "bonded_neutral": "bonded"}
        return marked.get(sources[0].marking, "unknown")

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
            case "derived" | "in_source":
                decision = self._bond_of_derived_system()
            case "floating":
                decision = self._floating()
            case "no_neutral":
                decision = "no_neutral"
            case "no_way_back":
                decision = "unknown"
                self.judge.must_fix("neutral_missing", self.zone.reason, self.zone.clause)
            case _:
                decision = "unknown"
                self.judge.cannot_tell("bond", self.zone.reason, self.zone.clause, self.zone.field)
        self._wrong_bars(decision)
        return BondAnswer(
            subject=Subject("bond", self.enclosure.id),
            figures=self.figures,
            gaps=self.gaps,
            verdicts=tuple(self.judge.verdicts),
            working=self.recorder,
            enclosure_id=self.enclosure.id,
            neutrals=(self._ordinary(decision), *self._further()),
            parts=tuple(self._parts(decision)),
            conductors=tuple(self._conductors(decision)),
        )

    def _ordinary(self, decision: Decision) -> NeutralDecision:
        part = next(iter(self.neutral), "")
        section = self.rules.section(self.zone.clause)
        return NeutralDecision(part, decision, self.zone.reason, section, self.found)

    def _further(self) -> list[NeutralDecision]:
        """Neutrals that gear parts from the ordinary one: they stay apart, wherever the ordinary one is bonded."""
        if len(self.neutral) == len(self.site.bars_in.get(self.enclosure.id, [])):
            return []
        reason = "Its bond is at the beginning of its own system, or ahead: past the switched pole it stays apart."
        decisions = []
        for part in neutral_parts(self.site, self.enclosure.id)[1:]:
            within = inside(self.site, self.enclosure.id, part)
            section = self.rules.section("derived_neutral_apart")
            decisions.append(NeutralDecision(part[0], "apart", reason, section, within.found))
            name = thing_name(self.site, part[0])
            if within.found == "bonded":
                mend = Mend(f"Take the bond of {name} out", tuple(self.mends.take_out(within.joining)))
                text = f"{name} is bonded in {self.name}, past a pole that opens the neutral: then two bonds are live, or none."
                self.judge.must_fix("other_neutral", text, "derived_neutral_apart", mend=mend)
            elif within.found == "unknown":
                text = f"Whether {name} is joined to the metal of {self.name} is not known."
                self.judge.cannot_tell("other_neutral", text, "derived_neutral_apart")
        return decisions

    # -- the places of a service ---------------------------------------------------------------

    def _service(self) -> Decision:
        self._try_figure("main_bonding_jumper", self._jumper)
        self._switch_without_protection()
        self._neutral_comes_along()
        if self.found == "bonded":
            self.judge.holds("bond", f"Neutral and metal are joined by the {self._joined_by()}.", "main_bonding_jumper")
        elif self.found == "unknown":
            self._doubtful("main_bonding_jumper")
        elif self.found == "no_neutral":
            self.judge.must_fix(
                "bond",
                f"{self.name} is the service disconnect but has no neutral bar: the neutral must be brought to it and bonded.",
                "neutral_brought_to_service",
                mend=Mend("Fit a neutral bar with a bonding strap", self.mends.new_bar_and_bond()),
            )
        else:
            self.judge.must_fix(
                "bond",
                f"{self.name} is the service disconnect but its neutral is not joined to the metal. A fault would "
                "never trip a breaker. Fit the bonding screw or strap.",
                "main_bonding_jumper",
                mend=Mend("Fit the bond", tuple(self.mends.make_bond())),
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
        if self.found == "bonded":
            self.judge.holds(
                "bond", "Bonded on the supply side, as is usual; this is no second bond.", "meter_neutral_supply_side"
            )
        elif self.found == "apart":
            self.judge.must_fix(
                "bond",
                f"The metal of {self.name} is ahead of the service disconnect and nothing bonds it. Join it to the neutral.",
                "supply_side_bonding",
                mend=Mend("Bond it to the neutral", tuple(self.mends.make_bond())),
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
        if self.found == "bonded":
            self.judge.must_fix(
                "bond",
                f"Neutral is bonded again at {self.name} ({self._joined_by()}). {self._where_it_belongs()}; here neutral "
                "current would flow on grounding conductors and metal.",
                clause,
                mend=Mend("Take the bond out", tuple(self.mends.take_out(self.inside.joining))),
            )
        elif self.found == "unknown":
            self._doubtful(clause)
        else:
            self.judge.holds("bond", "Neutral is kept apart from the metal.", clause)
        return "apart"

    def _where_it_belongs(self) -> str:
        of_service = self.zone.clause in ("building_neutral_apart", "load_side_neutral_ground")
        return "The bond belongs at the service disconnect alone" if of_service else "The bond belongs elsewhere"

    # -- systems of their own ------------------------------------------------------------------

    def _bond_of_derived_system(self) -> Decision:
        clause = self.zone.clause
        self._try_figure("system_bonding_jumper", self._system_jumper)
        if self.feeding is not None and self.zone.kind == "derived" and clause == "system_bonding_jumper":
            self._jumper_to_the_beginning(self.feeding)
        if self.found == "bonded":
            self.judge.holds("bond", f"The system has its bond here ({self._joined_by()}).", clause)
        elif self.found == "unknown":
            self._doubtful(clause)
        elif self.found == "no_neutral":
            mend = Mend("Fit a neutral bar with a bonding strap", self.mends.new_bar_and_bond())
            text = f"The system that begins at {self.name} has its bond here, but there is no neutral bar to bond."
            self.judge.must_fix("bond", text, clause, mend=mend)
        else:
            mend = Mend("Fit the bond", tuple(self.mends.make_bond()))
            text = (
                f"The neutral of the system that begins at {self.name} is not joined to the metal. A fault would never "
                "trip a breaker. Fit the system bonding jumper."
            )
            self.judge.must_fix("bond", text, clause, mend=mend)
        if clause == "system_bonding_jumper":
            self._electrode_of_system()
        return "bond_in_source" if self.zone.kind == "in_source" else "derived_bond"

    def _floating(self) -> Decision:
        if self.found == "bonded":
            fixed = any(joint.bond is not None and joint.bond.removable is False for joint in self.inside.joining)
            operations = self.mends.take_out(self.inside.joining)
            self.judge.must_fix(
                "bond",
                f"The neutral is bonded in {self.name} ({self._joined_by()}), and its system has a bond already: neutral "
                "current would flow on grounding conductors. Open this bond as the maker allows and mark it, or use gear "
                "that opens the neutral with the lines, or a set made floating.",
                self.zone.clause,
                mend=Mend("Open the bond in it", tuple(operations)) if operations and not fixed else None,
            )
        elif self.found == "unknown":
            self._doubtful(self.zone.clause)
        elif self.found == "apart":
            self.judge.holds("bond", "Its own bond is out.", self.zone.clause)
        return "apart" if self.site.transformers_in.get(self.enclosure.id) else "floating"

    def _system_jumper(self) -> Figure:
        """By the lines of the derived system: those that leave its beginning, or come to its first disconnect."""
        leaving = [
            run
            for run in self.site.runs_from.get(self.enclosure.id, [])
            if self.zone.kind == "in_source" or run.from_part in self.site.transformer_of_secondary
        ]
        arriving = [self.feeding] if self.feeding is not None and not leaving else []
        for run in (*leaving, *arriving):
            answer = self.answers.get(run.id)
            hots, material = (answer.size("hots"), answer.material) if answer else (None, None)
            if hots is not None and material is not None:
                return bonding_jumper.supply_side_jumper(self.recorder, hots, run.sets, material, "copper")
        raise CannotCompute("The size of the lines of this system is not known.", "Complete the run that leaves it.")

    def _jumper_to_the_beginning(self, feeding: Run) -> None:
        if self._has_ground(feeding) is False:
            name = name_of(self.site, self.site.upstream_of(feeding))
            text = f"No supply-side bonding jumper joins the metal of {name} to the bond at {self.name}."
            mend = Mend("Add the jumper", tuple(self.mends.add_ground(feeding)))
            self.judge.must_fix("jumper_missing", text, "supply_side_bonding_jumper", mend=mend)

    def _electrode_of_system(self) -> None:
        """The electrode conductor of a derived system begins at its bond (250.30(A)(5), outdoors 250.30(C))."""
        outdoors = self.enclosure.placement == "outdoors"
        clause = "outdoor_derived_system" if outdoors else "derived_electrode_conductor"
        if self.site.electrodes_at.get(self.enclosure.id):
            self.judge.holds("derived_electrode", "Its electrode conductor begins at the bond.", clause)
            return
        text = (
            f"{self.name} is a system of its own: its electrode conductor begins at this bond and goes to "
            f"{'an electrode at the source' if outdoors else 'the electrodes of the building'}. None is entered."
        )
        self.judge.cannot_tell("derived_electrode", text, clause)

    def _neutral_comes_along(self) -> None:
        """The neutral comes to every service disconnect, used or not: it is the way home of a fault."""
        assert self.feeding is not None  # the zone of an enclosure without a feed is unknown
        run, neutral = self.feeding, self.mends.bar("neutral")
        if self.site.has_conductor(run, "neutral"):
            return
        self.judge.must_fix(
            "neutral_missing",
            f"The run to {self.name} brings no neutral: without it a fault finds no way back to the utility.",
            "neutral_brought_to_service",
            mend=Mend("Bring the neutral along", tuple(self.mends.add_neutral(run, neutral.id))) if neutral else None,
        )

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
        if self.zone.clause in ("derived_neutral_apart", "not_separately_derived"):
            return self._without_path_to_source(run)
        if any(value is False for value in conditions.values()):
            failing = next(name for name, value in conditions.items() if value is False)
            because = f" The old three-wire feed cannot stay: {failing}." if failing else ""
            self.judge.must_fix(
                "ground_missing",
                f"The run to {self.name} has no grounding conductor.{because} Connect one first, then take the "
                "neutral bond out here.",
                "building_egc" if first_of_building else "egc_required_in_feeder",
                mend=Mend(
                    "Add the grounding conductor, then part neutral and ground",
                    tuple(self.mends.convert(run, self.inside.joining)),
                ),
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
        if self.found == "apart":
            self.judge.must_fix(
                "bond",
                f"The old three-wire run to {self.name} has the neutral as its only fault path, and the bond is "
                "lifted. Restore it, or add a grounding conductor.",
                "building_existing_3wire",
                mend=Mend("Restore the bond", tuple(self.mends.make_bond())),
            )
        elif self.found == "unknown":
            self._doubtful("building_existing_3wire")
        else:
            self.judge.advise(
                "ground_missing",
                f"The old three-wire run to {self.name} may stay with its bond. Do not lift that bond "
                "before a grounding conductor is connected.",
                "building_existing_3wire",
            )
        return "existing_three_wire"

    def _without_path_to_source(self, run: Run) -> Decision:
        """Behind the bond of a derived system: the path back is a grounding conductor, ahead of a device a jumper."""
        unprotected = self.site.protection_ahead.get(run.id) is None
        what = "supply-side bonding jumper" if unprotected else "grounding conductor"
        operations = (*self.mends.add_ground(run), *self.mends.take_out(self.inside.joining))
        self.judge.must_fix(
            "jumper_missing" if unprotected else "ground_missing",
            f"The run to {self.name} has no {what}: a fault to its metal would find no way back to the source.",
            "supply_side_bonding_jumper" if unprotected else "egc_required_in_feeder",
            mend=Mend(f"Add the {what}", operations),
        )
        return "apart"

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

    def _ground_bar(self) -> None:
        standing = self.mends.bar("ground")
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
        bar = self.mends.new_ground_bar(self.site.free_ids())
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

    def _electrode_bar(self, electrode: Electrode) -> None:
        """Behind the service an electrode joins the ground bar: on the neutral's it would ground the neutral again."""
        if not self.mends.on_neutral_bar(electrode):
            return
        right = self.mends.bar("ground")
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
        right = self.mends.bar(conductor.role)
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

    def _joined_by(self) -> str:
        return ", ".join(joint.words for joint in self.inside.joining) or "metal itself"

    def _doubtful(self, clause: str) -> None:
        what = ", ".join(joint.words for joint in self.inside.doubtful) or "marking of the source"
        self.judge.cannot_tell(
            "bond", f"Whether neutral and metal are joined at {self.name} is not known: look at the {what}.", clause
        )

    def _parts(self, decision: Decision) -> list[str]:
        if decision in ("bond", "derived_bond", "bond_in_source"):
            size = self.figures.get("main_bonding_jumper") or self.figures.get("system_bonding_jumper")
            return [
                "Fit the maker's bonding screw or strap, torqued to its label"
                + (f", or a copper jumper of {size.text}" if size else "")
            ]
        if decision == "supply_side":
            return ["Leave the neutral bonded to this enclosure, or bond the metal with a supply-side jumper"]
        if decision == "apart":
            parts = [f"Take out: {joint.words}" for joint in self.inside.joining]
            bar = [] if self.mends.bar("ground") else ["Fit a listed ground bar on clean metal"]
            return [*parts, *bar, "Neutral bar insulated, no screw or strap"]
        if decision == "floating":
            return [f"Take out: {joint.words}" for joint in self.inside.joining] or ["Neutral not joined to the frame"]
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
