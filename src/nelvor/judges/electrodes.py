"""The electrode system at the service and at each fed building, and the conductor that joins it."""

from __future__ import annotations

from nelvor.clauses import bonding_jumper, electrode_conductor, grounding_conductor
from nelvor.clauses.ampacity import size_index
from nelvor.errors import CannotCompute
from nelvor.judges.answer import Answer, Subject
from nelvor.judges.bonds import BondAnswer
from nelvor.judges.bonds.rods import electrodes_behind, landed_at, landing_words, new_rods
from nelvor.judges.run import RunAnswer
from nelvor.judges.verdict import Judge, Mend, proposing, size_as_told
from nelvor.model.changes.operations import Operation
from nelvor.model.things import Electrode
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of, thing_name
from nelvor.topology.site import Site
from nelvor.working import Figure, Recorder, exact, shown

MADE = electrode_conductor.MADE
IN_THE_EARTH = (*MADE, "ring")


class ElectrodeJudge:
    """Judges the electrodes that belong to one enclosure: a service disconnect or the first one of a building."""

    def __init__(
        self, site: Site, rules: Rules, answers: dict[str, RunAnswer], enclosure_id: str, service: bool
    ) -> None:
        self.site = site
        self.rules = rules
        self.answers = answers
        self.enclosure_id = enclosure_id
        self.enclosure = site.enclosures[enclosure_id]
        self.service = service
        self.name = name_of(site, enclosure_id)
        self.judge = Judge(rules, "enclosures", enclosure_id)
        self.recorder = Recorder(rules)
        self.figures: dict[str, Figure] = {}

    def judged(self) -> Answer:
        """Return the answer."""
        electrodes = self._electrodes()
        for electrode in electrodes:
            self._aluminum(electrode)
        self._sizes(electrodes)
        if not electrodes and self._on_one_circuit():
            text = "One branch circuit with a grounding conductor feeds this building: it needs no electrode."
            self.judge.holds("electrode", text, "building_single_circuit")
        elif not electrodes:
            clause = "electrode_connection_at_service" if self.service else "building_electrode"
            where = "at or ahead of this service disconnect" if self.service else "at this building"
            text = f"No grounding electrode is connected {where} ({self.name})."
            strayed = electrodes_behind(self.site, self.enclosure)
            if strayed:
                text = f"{text} {landing_words(self.site, strayed)}"
                more = self._new_rods(self._rods_beside(strayed), len(strayed))
                mend = Mend("Land the electrode conductor here", (*landed_at(strayed, self._landing()), *more))
            else:
                mend = Mend("Add two rods", tuple(self._new_rods(2, 0)))
            self.judge.must_fix("electrode", text, clause, mend=mend)
        else:
            self._enough(electrodes)
        return Answer(
            subject=Subject("electrode", self.enclosure_id),
            figures=self.figures,
            verdicts=tuple(self.judge.verdicts),
            working=self.recorder,
        )

    def _electrodes(self) -> list[Electrode]:
        found = list(self.site.electrodes_at.get(self.enclosure_id, []))
        if self.service:
            for run in self.site.runs_to_source(self.enclosure_id):
                ahead = self.site.upstream_of(run)
                found += self.site.electrodes_at.get(ahead, [])
                for sibling in self.site.runs_from.get(ahead, []):
                    found += self.site.electrodes_at.get(self.site.downstream_of(sibling), [])
        return list({item.id: item for item in found}.values())

    def _sizes(self, electrodes: list[Electrode]) -> None:
        feeding = self.site.feeding_run(self.enclosure_id)
        answer = self.answers.get(feeding.id) if feeding else None
        hots = answer.size("hots") if answer else None
        if answer is not None and answer.kind == "utility" and (hots is None or answer.material is None):
            self.judge.cannot_tell(
                "electrode_conductor",
                f"The electrode conductor at {self.name} goes by the size and the metal of the utility's conductors: ask "
                "for them, and enter them at the utility's run.",
                "gec_size",
                asks=size_as_told(answer.run),
            )
            return
        if answer is None or hots is None or answer.material is None:
            self.judge.cannot_tell(
                "electrode_conductor",
                f"The electrode conductor at {self.name} waits for the size of the hot conductors that feed it.",
                "gec_size",
            )
            return
        try:
            full = electrode_conductor.electrode_conductor(
                self.recorder, hots, answer.run.sets, answer.material, "copper"
            )
        except CannotCompute as reason:
            self.judge.cannot_compute("electrode_conductor", reason, "gec_size")
            return
        self._water_bond(hots, answer)
        self.figures["electrode_conductor"] = full
        self.figures["electrode_conductor_rods"] = electrode_conductor.to_rods(self.recorder, full, "copper")
        for electrode in electrodes:
            self._conductor(electrode, hots, answer)

    def _water_bond(self, hots: str, answer: RunAnswer) -> None:
        """The bond of a metal water pipe: as a jumper of the service, or by the feeder's device (250.104(A))."""
        building = self.site.buildings.get(self.enclosure.building_id or "")
        if building is None or building.water_piping not in ("bonded", "not_bonded"):
            return
        if self.service:
            clause = "metal_water_pipe_bond"
            most = self.recorder.parameter("water_bond_most_cu", "Need not be larger than")
            try:
                jumper = bonding_jumper.supply_side_jumper(
                    self.recorder, hots, answer.run.sets, str(answer.material), "copper"
                )
            except CannotCompute:  # above the table, where it need not be larger anyway
                jumper = most
        else:
            device = answer.figure("device")
            if device is None:
                return
            carried = self.recorder.carried("Device of the feeder", device, answer.working)
            jumper = grounding_conductor.grounding_conductor(self.recorder, carried, "copper", hots, hots, 1)
            most = self.recorder.given("Lines of the feeder", hots, "AWG/kcmil", "run")
            clause = "water_bond_of_fed_building"
        size = min(jumper.text, most.text, key=size_index)
        self.figures["water_bond"] = self.recorder.choose(
            "Bond of the water pipe", size, "AWG/kcmil", [jumper, most], clause=clause
        )

    def _on_one_circuit(self) -> bool:
        """Tell whether a building is fed by one branch circuit that brings a grounding conductor (250.32(A))."""
        feeding = self.site.feeding_run(self.enclosure_id)
        if self.service or feeding is None or not self.site.has_conductor(feeding, "ground"):
            return False
        ahead = self.site.protection_ahead.get(feeding.id)
        return ahead is not None and ahead.role == "branch"

    def _needed(self, electrode: Electrode, hots: str, answer: RunAnswer) -> Figure:
        """The conductor to one electrode in its own metal; to rods and concrete it need not be as large (250.66)."""
        metal = electrode.conductor_material or "copper"
        full = self.figures["electrode_conductor"]
        if metal != "copper":
            full = electrode_conductor.electrode_conductor(
                self.recorder, hots, answer.run.sets, str(answer.material), metal
            )
        return electrode_conductor.to_electrode(self.recorder, electrode.kind, full, metal)

    def _aluminum(self, electrode: Electrode) -> None:
        """Aluminum does not end within 18 in of the earth, where rods, plates and rings are (250.64(A))."""
        if electrode.conductor_material != "aluminum" or electrode.kind not in IN_THE_EARTH:
            return
        text = (
            f"The conductor to {thing_name(self.site, electrode.id)} is aluminum: outdoors it may not end within 18 in of "
            "the earth. Use copper."
        )
        mend = Mend("Use copper", proposing("electrodes", electrode, conductor_material="copper"))
        self.judge.must_fix("electrode_metal", text, "aluminum_electrode_conductor", mend=mend)

    def _conductor(self, electrode: Electrode, hots: str, answer: RunAnswer) -> None:
        size = electrode.conductor_size
        if size is None:
            return
        needed, metal = self._needed(electrode, hots, answer), electrode.conductor_material or "copper"
        if size_index(size) < size_index(needed.text):
            self.judge.must_fix(
                "electrode_conductor",
                f"The conductor to {thing_name(self.site, electrode.id)} is {size}; {needed.text} {metal} is needed.",
                "gec_size",
                mend=Mend(f"Use {needed.text}", proposing("electrodes", electrode, conductor_size=needed.text)),
            )

    def _enough(self, electrodes: list[Electrode]) -> None:
        """A single rod or plate needs a second electrode or 25 ohms; a water pipe needs another one beside it."""
        rods = [item for item in electrodes if item.kind == "rod"]
        made = [item for item in electrodes if item.kind in MADE]
        others = [item for item in electrodes if item.kind not in (*MADE, "water_pipe")]
        for rod in rods:
            self._measure(rod, "length_ft", "rod_length_ft", "in the soil", "rod_8ft")
            self._measure(rod, "spacing_ft", "rod_spacing_ft", "from the next rod", "rod_spacing_6ft")
        if self._locally_enough(rods) is False:
            return
        if not made and not others:
            self.judge.must_fix(
                "electrode",
                f"A water pipe is the only electrode at {self.name}: it needs another one beside it.",
                "water_pipe_supplement",
                mend=Mend("Add two rods", tuple(self._new_rods(2, 0))),
            )
        elif len(made) == 1 and not others:
            self._single(made[0])
        else:
            clause = "electrodes_present" if self.service else "building_electrode"
            self.judge.holds("electrode", f"{len(electrodes)} electrodes are connected.", clause)

    def _locally_enough(self, rods: list[Electrode]) -> bool | None:
        """Tell whether there are as many rods as a local amendment asks for; None where none asks."""
        asked = [
            self.recorder.given("Local amendment", item.value or 0, "", item.source_note or "amendment of this job")
            for item in self.rules.amended("electrode_rods", "at_least")
        ]
        if not asked:
            return None
        least = self.recorder.greatest("Rods asked for", *asked, clause="supplemental_rod_25ohm")
        self.figures["rods"] = least
        there = self.recorder.given("Rods", len(rods), "", "electrodes")
        if self.recorder.at_least("Enough rods", there, least, clause="supplemental_rod_25ohm"):
            return True
        most = max(asked, key=lambda figure: figure.number)
        self.judge.must_fix(
            "electrode",
            f"A local amendment ({most.source}) asks for {least.text} rods at {self.name}; there are {len(rods)}.",
            "supplemental_rod_25ohm",
            mend=Mend("Add rods", tuple(self._new_rods(int(least.number) - len(rods), len(rods)))),
        )
        return False

    def _single(self, rod: Electrode) -> None:
        limit = self.rules.parameter("rod_resistance_ohm").number
        if rod.resistance_ohm is not None and exact(rod.resistance_ohm) <= limit:
            self.judge.holds(
                "electrode",
                f"The single {rod.kind} measures {shown(exact(rod.resistance_ohm))} Ω.",
                "supplemental_rod_25ohm",
            )
            return
        measured = "not measured" if rod.resistance_ohm is None else f"measured at {shown(exact(rod.resistance_ohm))} Ω"
        self.judge.must_fix(
            "electrode",
            f"One {rod.kind} at {self.name}, {measured}: it needs a second unless {shown(limit)} Ω or less is shown.",
            "supplemental_rod_25ohm",
            mend=Mend("Add a rod", tuple(self._new_rods(1, 1))),
        )

    def _measure(self, rod: Electrode, field_name: str, parameter: str, what: str, clause: str) -> None:
        value = getattr(rod, field_name)
        least = self.rules.parameter(parameter).number
        if value is not None and exact(value) < least:
            self.judge.must_fix(
                "rod",
                f"{thing_name(self.site, rod.id)}: {shown(exact(value))} ft {what}, at least {shown(least)} ft is needed.",
                clause,
                mend=Mend(f"Make it {shown(least)} ft", proposing("electrodes", rod, **{field_name: float(least)})),
            )

    def _rods_beside(self, electrodes: list[Electrode]) -> int:
        """How many rods it takes beside these electrodes: two beside a water pipe, one beside a single rod or plate."""
        made = [item for item in electrodes if item.kind in MADE]
        others = [item for item in electrodes if item.kind not in (*MADE, "water_pipe")]
        rods = sum(item.kind == "rod" for item in electrodes)
        asked = [int(item.value or 0) - rods for item in self.rules.amended("electrode_rods", "at_least")]
        return max(0, 0 if others else 2 - len(made), *asked)

    def _landing(self) -> str:
        """Where electrode conductors land: on the neutral of a service, else on the ground bar."""
        bars = self.site.bars_in.get(self.enclosure_id, [])
        kinds = ("neutral", "ground") if self.service else ("ground",)
        return next((bar.id for kind in kinds for bar in bars if bar.kind == kind), self.enclosure_id)

    def _new_rods(self, count: int, there: int) -> list[Operation]:
        bar = self._landing()
        return new_rods(self.site, self.enclosure, bar, count, there)


def electrode_answers(
    site: Site, rules: Rules, answers: dict[str, RunAnswer], bonds: dict[str, BondAnswer]
) -> dict[str, Answer]:
    """Return the judgement of the electrode system for each enclosure that needs one."""
    found = {}
    for enclosure_id, bond in bonds.items():
        service = bond.decision == "bond"
        fed_building = bond.decision in ("apart", "existing_three_wire") and site.is_first_of_building(enclosure_id)
        begins_behind = bool(site.transformers_in.get(enclosure_id)) and electrodes_behind(
            site, site.enclosures[enclosure_id]
        )
        if service or (fed_building and not begins_behind):
            found[enclosure_id] = ElectrodeJudge(site, rules, answers, enclosure_id, service).judged()
    return found
