"""One run solved in the order device, hots, neutral, grounding conductor, raceway, cover, drop.

A locked field is checked, a free one is solved. Each part that cannot be computed is a gap with
its reason; the parts that do not rest on it are still answered.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from fractions import Fraction

from nelvor.errors import CannotCompute, MissingInput
from nelvor.model.operations import Operation
from nelvor.model.things import Conductor, Device, Run, Tap, Transformer
from nelvor.model.vocabulary import SIZES
from nelvor.rulebook.rules import Rules
from nelvor.rules import burial, conductor, drop, fittings, grounding, neutral, raceway, wiring
from nelvor.rules.conductor import Circumstances, Demand, size_index
from nelvor.rules.device import smallest_device
from nelvor.rules.fit_out import FitOut, fit_out
from nelvor.rules.load_kind import OTHER, Tally
from nelvor.rules.loads import LevelLoad, LevelLoads, LoadUnknown, calculate, carries_entire_unit, methods_of
from nelvor.rules.secondary import judge_secondary
from nelvor.rules.site import COMPUTED_SYSTEMS, LINE_TO_LINE_V, LINE_TO_NEUTRAL_V, THREE_PHASE, Site
from nelvor.rules.tap_conditions import RuleAnswer
from nelvor.rules.tap_run import rules_asked_for, secondary_case, size_by_rules, tap_case
from nelvor.rules.taps import judge_tap, tap_grounding_conductor
from nelvor.rules.verdict import Judge, Mend, Verdict, adding, proposing
from nelvor.working import Figure, Recorder, exact, shown

METHOD_WORDS = {
    "pvc40": "PVC schedule 40",
    "pvc80": "PVC schedule 80",
    "emt": "EMT",
    "rmc": "RMC",
    "imc": "IMC",
    "fmc": "flexible metal conduit",
    "lfmc": "liquid-tight flexible metal conduit",
    "lfnc_b": "liquid-tight flexible nonmetallic conduit",
    "ent": "ENT",
    "earth": "laid in earth",
    "cable": "cable",
    "free_air": "free air",
}
INCHES_PER_FOOT = 12
LEGS = ("L1", "L2", "L3")
ENDS_IN_ITS_DEVICE = frozenset({"service", "secondary"})


@dataclass(frozen=True)
class RunAnswer:
    """Everything worked out for one run. ``gaps`` holds the parts that could not be, with the reason."""

    run: Run
    kind: str
    figures: dict[str, Figure]
    gaps: dict[str, CannotCompute]
    verdicts: tuple[Verdict, ...]
    recorder: Recorder
    material: str | None = None
    locked: frozenset[str] = field(default_factory=frozenset)
    whole_dwelling: bool = False
    hots_count: int = 2
    tap_rules: tuple[RuleAnswer, ...] = ()
    to_fit: tuple[FitOut, ...] = ()

    def size(self, part: str) -> str | None:
        """Return the size of hots, neutral, ground or raceway as text, or None when it is not known."""
        figure = self.figures.get(part)
        return figure.text if figure else None


@dataclass(frozen=True)
class WholeUnit:
    """The run that carries the whole of a dwelling unit: its metal, its size and its device in A."""

    material: str
    size: str
    device_a: Fraction


class RunSolver:
    """Solves one run of a site.

    ``drop_ahead`` is the drop accumulated from the service point, None when unknown; ``whole_ahead`` the
    run ahead that carries the whole of a dwelling unit.
    """

    def __init__(
        self,
        site: Site,
        rules: Rules,
        levels: LevelLoads,
        run: Run,
        drop_ahead: Fraction | None,
        whole_ahead: WholeUnit | None = None,
    ) -> None:
        self.site = site
        self.rules = rules
        self.run = run
        self.level = levels.get(site.downstream_of(run))
        self.levels = levels
        self.drop_ahead = drop_ahead
        self.whole_ahead = whole_ahead
        self.recorder = Recorder(rules)
        self.judge = Judge(rules, "runs", run.id)
        self.figures: dict[str, Figure] = {}
        self.gaps: dict[str, CannotCompute] = {}
        self.kind = self._kind()
        self.smallest_hots: str | None = None
        self.whole_dwelling = False
        self.tap_rules: list[RuleAnswer] = []
        self.to_fit: list[FitOut] = []

    def _kind(self) -> str:
        if self.site.upstream_of(self.run) in self.site.sources:
            return "utility"
        if self.run.from_part in self.site.transformer_of_secondary:
            return "secondary"
        return "service" if self.site.protection_ahead.get(self.run.id) is None else "feeder"

    def solve(self) -> RunAnswer:
        """Return the answer for this run."""
        if self.kind != "utility":
            self._try("load", self._load)
            self._try("device", self._device)
            self._try("hots", self._hots)
            self._try("neutral", self._neutral)
            self._try("ground", self._ground)
            self._try("raceway", self._raceway)
            self._try("fit_out", self._fit_out)
            self._try("cover", self._cover)
            self._try("drop", self._drop)
        locked = frozenset(
            part
            for part, value in (
                ("hots", self.run.hot_size),
                ("neutral", self.run.neutral_size),
                ("ground", self.run.ground_size),
                ("raceway", self.run.raceway_size),
            )
            if value
        )
        return RunAnswer(
            self.run,
            self.kind,
            self.figures,
            self.gaps,
            tuple(self.judge.verdicts),
            self.recorder,
            self.run.material,
            locked,
            self.whole_dwelling,
            sum(item.role in LEGS for item in self.site.conductors_of.get(self.run.id, [])) or len(LEGS) - 1,
            tuple(self.tap_rules),
            tuple(self.to_fit),
        )

    def _try(self, part: str, work: Callable[[], None]) -> None:
        try:
            work()
        except CannotCompute as reason:
            self.gaps[part] = reason
            same = any(verdict.text.startswith(reason.reason) for verdict in self.judge.verdicts)
            if not same:
                self.judge.cannot_compute(f"run_{part}", reason)

    def _need(self, part: str) -> Figure:
        if part in self.figures:
            return self.figures[part]
        raise self.gaps[part]

    # -- what the run is -----------------------------------------------------------------------

    def _filled(self, field_name: str, what: str) -> object:
        value = getattr(self.run, field_name)
        if value is None:
            raise MissingInput(self.run.id, field_name, what)
        return value

    def _known_level(self) -> LevelLoad:
        """The load at the end of the run, with what its taps carry, since both flow up to the last tap."""
        if isinstance(self.level, LevelLoad):
            return self._with_taps(self.level) if self.run.id in self.site.taps_on_run else self.level
        raise self.level.reason if self.level else CannotCompute("Nothing is fed by this run.", "Choose what it feeds.")

    def _with_taps(self, level: LevelLoad) -> LevelLoad:
        tally: Tally = Counter(level.tally)
        for tap in self.site.taps_on_run[self.run.id]:
            beyond = self.levels.get(self.site.downstream_of(self.site.runs[tap.tap_run_id]))
            if isinstance(beyond, LoadUnknown):
                raise beyond.reason
            if beyond is not None:
                tally.update(beyond.tally)
        return calculate(level.enclosure_id, tally, level.system, self.rules, methods_of(self.site))

    def _system(self) -> str:
        system = self.site.system_at(self.site.downstream_of(self.run))
        if system not in COMPUTED_SYSTEMS:
            raise CannotCompute(
                "The voltage system is not known or not computed yet.",
                "Choose 120/240 V one-phase or 208Y/120 V on the source.",
            )
        return str(system)

    def protecting_device(self) -> Device:
        """Return the device whose rating this run's conductors must suit: ahead, or for a service run at its end."""
        if self.kind in ENDS_IN_ITS_DEVICE:
            main = self.site.main_of(self.site.downstream_of(self.run))
            if main is None:
                raise CannotCompute(
                    f"The {self.kind} run ends in no main device.",
                    "Give the enclosure at its end a main breaker or fuses.",
                )
            return main
        device = self.site.protection_ahead[self.run.id]
        assert device is not None  # a feeder is a run with protection ahead
        return device

    def _circumstances(self, insulation: str | None = None) -> Circumstances:
        run = self.run
        insulation = insulation or str(self._filled("insulation", "The insulation or cable type"))
        material = str(self._filled("material", "The conductor material"))
        method = str(self._filled("method", "The wiring method"))
        placement = str(self._filled("placement", "Where the run lies"))
        self._check_wiring(insulation, method, placement)
        wet = placement in wiring.WET_PLACEMENTS
        length_in = exact(run.length_ft) * INCHES_PER_FOOT if run.length_ft is not None else None
        nipple_in = Fraction(self.rules.parameter("nipple_longest_in").value)
        return Circumstances(
            material=material,
            insulation=insulation,
            insulation_c=wiring.insulation_temperature(insulation, wet, self.rules),
            termination_c=self._termination_c(),
            sets=run.sets,
            ambient_c=self._ambient(insulation, placement),
            current_carrying=self._current_carrying(),
            nipple=length_in is not None and length_in <= nipple_in,
            dwelling_share=self._dwelling_share(),
            cap_c=wiring.cable_cap_c(insulation),
            small_cap=insulation == "SER" and run.in_thermal_insulation is True,
        )

    def _ambient(self, insulation: str, placement: str) -> Fraction:
        value = conductor.exact_ambient(self.run.ambient_c, self.site.document.settings.ambient_c)
        if placement != "rooftop":
            return value
        clearance = None if self.run.roof_clearance_in is None else exact(self.run.roof_clearance_in)
        ambient = self.recorder.given("Ambient temperature", value, "°C", "run or job settings")
        return wiring.ambient_on_roof(self.recorder, self.run.id, ambient, insulation, clearance).number

    def _check_wiring(self, insulation: str, method: str, placement: str) -> None:
        for fault in wiring.faults(insulation, method, placement, self.run.jacket_marked_sunlight):
            label = " in ".join(METHOD_WORDS.get(word, word) for word in fault.instead.values())
            mend = Mend(f"Use {label}", proposing("runs", self.run, **fault.instead))
            self.judge.must_fix("run_wiring", fault.text, fault.clause, fault.field, mend)
        if insulation == "SER" and placement == "indoors" and self.run.in_thermal_insulation is None:
            self._small_ser()
        wiring.require_computed(insulation, method, placement)

    def _small_ser(self) -> None:
        small = self.rules.parameter("ser_small_60c_size").value
        if self.run.hot_size is not None and size_index(self.run.hot_size) <= size_index(small):
            self.judge.cannot_tell(
                "run_wiring",
                "SE cable of 10 AWG and smaller in thermal insulation goes by 60 °C. Enter whether it lies in insulation.",
                "ser_insulation_60c",
                "in_thermal_insulation",
            )

    def _termination_c(self) -> int:
        limit = Fraction(self.rules.parameter("small_termination_limit_a").value)
        if self._need("device").number > limit:
            return 75
        ends = (self.site.upstream_of(self.run), self.site.downstream_of(self.run))
        marked = [self.site.enclosures[end].termination_c for end in ends if end in self.site.enclosures]
        if marked and all(mark is not None and mark >= 75 for mark in marked):
            return 75
        return 60

    def _terminations_unknown(self) -> list[str]:
        ends = (self.site.upstream_of(self.run), self.site.downstream_of(self.run))
        return [
            self.site.enclosures[end].name or end
            for end in ends
            if end in self.site.enclosures and self.site.enclosures[end].termination_c is None
        ]

    def _current_carrying(self) -> int:
        hots = self._hot_count()
        has_neutral = self.site.has_conductor(self.run, "neutral")
        two_legs_of_a_wye = self._system() in THREE_PHASE and hots == len(LEGS) - 1
        counts = has_neutral and (self.run.harmonic_neutral or two_legs_of_a_wye)
        return hots + (1 if counts else 0) + self.run.other_current_carrying

    def _hot_count(self) -> int:
        roles = {item.role for item in self.site.conductors_of.get(self.run.id, [])}
        hots = len(roles & {"L1", "L2", "L3"})
        return hots or (3 if self._system() in THREE_PHASE else 2)

    def _dwelling_share(self) -> bool:
        """The 83 % rule: a feeder or service that carries the entire load of one dwelling unit, 100 to 400 A."""
        rating = self._need("device").number
        least = Fraction(self.rules.parameter("dwelling_share_least_a").value)
        most = Fraction(self.rules.parameter("dwelling_share_most_a").value)
        if not least <= rating <= most or self._hot_count() != 2:
            return False
        return carries_entire_unit(self.site, self.levels, self.site.downstream_of(self.run))

    # -- the parts, in order -------------------------------------------------------------------

    def _load(self) -> None:
        level = self._known_level()
        worst = level.worst
        self.figures["load"] = self.recorder.given(
            f"Load on the worst leg ({worst.leg})", worst.actual.number, "A", "load calculation of what this run feeds"
        )
        self.figures["design"] = self.recorder.given(
            "the same with continuous load at 125 % and the motor adder",
            worst.design.number,
            "A",
            "load calculation of what this run feeds",
        )

    def _load_on(self, device: Device) -> Figure:
        """Return the design load of all that a device to be chosen protects, which may be more than this run.

        Raises:
            CannotCompute: no load is entered there.
        """
        main = self.site.main_of(device.enclosure_id)
        if main is not None and main.id == device.id:
            fed = [device.enclosure_id]
        else:
            leaving = self.site.runs_from.get(device.enclosure_id, [])
            fed = [self.site.downstream_of(run) for run in leaving if run.from_part == device.id]
        design = Fraction(0)
        for enclosure_id in fed:
            level = self.levels.get(enclosure_id)
            design += level.worst.design.number if isinstance(level, LevelLoad) else self._need("design").number
        if design == 0:
            raise CannotCompute(
                "No load is entered beneath this run, so its device cannot be chosen.",
                "Enter the loads, or the rating of the device.",
            )
        name = device.name or "the device"
        return self.recorder.given(f"Load on {name}", design, "A", "load calculation of all that the device feeds")

    def _device(self) -> None:
        device = self.protecting_device()
        if device.rating_a is None:
            self.figures["device"] = smallest_device(self.recorder, self._load_on(device))
            return
        rating = self.recorder.given(f"Rating of {device.name or 'the device'}", device.rating_a, "A", "design")
        self.figures["device"] = rating
        if "design" not in self.figures:
            return
        if rating.number not in self.rules.standard_ratings():
            self.judge.must_fix(
                "device_standard",
                f"{rating.text} A is not a standard rating.",
                "standard_ocpd",
                "",
                Mend("Choose the rating anew", proposing("devices", device, rating_a=None)),
            )
        design = self._need("design")
        if self.recorder.at_least("Device carries the load", rating, design, clause="continuous_125_feeder_ocpd"):
            self.judge.holds("device_load", f"{rating.text} A carries {design.text} A.", "continuous_125_feeder_ocpd")
            return
        needed = smallest_device(self.recorder, design)
        self.judge.must_fix(
            "device_load",
            f"The {rating.text} A device is below the load of {design.text} A (continuous part at 125 %).",
            "continuous_125_feeder_ocpd",
            "",
            Mend(f"Make it {needed.text} A", proposing("devices", device, rating_a=float(needed.number))),
        )

    def _demand(self) -> Demand:
        return Demand(self._need("load"), self._need("design"), self._need("device"))

    def _hots(self) -> None:
        tap = self.site.tap_of_run.get(self.run.id)
        if tap is not None:
            self._tap_hots(tap)
            return
        circumstances = self._circumstances()
        transformer = self.site.transformer_of_secondary.get(self.run.from_part)
        if transformer is not None:
            self._secondary_hots(transformer, circumstances)
            return
        self.whole_dwelling = circumstances.dwelling_share
        mark = self.recorder.mark()
        free = conductor.smallest_hots(self.recorder, circumstances, self._demand())
        self.smallest_hots = free.size
        self._check_material(circumstances.material)
        self._check_terminations(circumstances, free.size)
        if self._as_what_carries_the_whole(circumstances, free.size):
            return
        if self.run.hot_size is None:
            self.figures["hots"], self.figures["ampacity"] = free.figure, free.ampacity
            return
        if self.run.hot_size != free.size:
            self.recorder.forget(mark)
        self._check_locked_hots(circumstances, free.size)

    def _as_what_carries_the_whole(self, circumstances: Circumstances, needed: str) -> bool:
        """A feeder within one dwelling unit need not be larger than the run that carries the whole of it (310.12)."""
        whole = self.whole_ahead
        if whole is None or whole.material != circumstances.material or self._need("device").number > whole.device_a:
            return False
        largest = whole.size
        chosen = self.run.hot_size or largest
        if self._hot_count() != len(LEGS) - 1 or not self._within_one_unit():
            return False
        if size_index(needed) <= size_index(largest) or size_index(chosen) < size_index(largest):
            return False
        ampacity = conductor.final_ampacity(self.recorder, chosen, circumstances)[1]
        self.figures["ampacity"] = ampacity
        self.figures["hots"] = self.recorder.choose(
            "Hot conductors, as those that carry the whole dwelling unit",
            chosen,
            "AWG/kcmil",
            [ampacity],
            clause="dwelling_83pct",
            refused=f"{needed} by the table is more than a feeder of the unit has to be",
        )
        self.smallest_hots = largest
        self.judge.holds(
            "hots_size", f"{chosen} is as large as what carries the whole unit.", "dwelling_83pct", "hot_size"
        )
        return True

    def _within_one_unit(self) -> bool:
        units = {unit for unit, _ in self._known_level().tally}
        return len(units) == 1 and OTHER not in units

    def _tap_hots(self, tap: Tap) -> None:
        """A tap is not protected by the device ahead: its size goes by the tap rules (240.21(B))."""
        circumstances = replace(self._circumstances(), dwelling_share=False)
        self._check_material(circumstances.material)
        case = tap_case(
            self.site, tap, self.run, self.recorder, self._need("device"), self._need("design"), circumstances
        )
        self.tap_rules = judge_tap(self.recorder, case)
        asked = rules_asked_for(self.tap_rules, tap)
        self.figures["hots"] = size_by_rules(self.judge, self.recorder, asked, self.run, "tap")
        size = self.figures["hots"].text
        self.figures["ampacity"] = conductor.final_ampacity(self.recorder, size, circumstances)[1]
        self.smallest_hots = size

    def _secondary_hots(self, transformer: Transformer, circumstances: Circumstances) -> None:
        """Secondary conductors go by 240.21(C): no device stands at their beginning."""
        circumstances = replace(circumstances, dwelling_share=False)
        self._check_material(circumstances.material)
        case = secondary_case(
            self.site, transformer, self.run, self.recorder, self._need("device"), self._need("design"), circumstances
        )
        self.tap_rules = judge_secondary(self.recorder, case)
        self.figures["hots"] = size_by_rules(self.judge, self.recorder, self.tap_rules, self.run, "secondary")
        size = self.figures["hots"].text
        self.figures["ampacity"] = conductor.final_ampacity(self.recorder, size, circumstances)[1]
        self.smallest_hots = size

    def _check_locked_hots(self, circumstances: Circumstances, smallest: str) -> None:
        size = str(self.run.hot_size)
        why, ampacity, tests = conductor.refusal(self.recorder, size, circumstances, self._demand())
        self.figures["ampacity"] = ampacity
        self.figures["hots"] = self.recorder.choose(
            "Hot conductors, locked", size, "AWG/kcmil", [*tests, ampacity], clause="ampacity_table"
        )
        if why:
            self.judge.must_fix(
                "hots_size",
                f"Hot conductors are too small. {why}.",
                "ampacity_table",
                "hot_size",
                Mend(f"Use {smallest}", proposing("runs", self.run, hot_size=smallest)),
            )
        else:
            self.judge.holds(
                "hots_size", f"{size} carries the load and suits the device.", "ampacity_table", "hot_size"
            )

    def _check_material(self, material: str) -> None:
        for amendment in self.rules.amended("material_aluminium", "forbid"):
            if material == "aluminium":
                note = f" ({amendment.source_note})" if amendment.source_note else ""
                self.judge.must_fix(
                    "material",
                    f"A local amendment forbids aluminium conductors{note}.",
                    "",
                    "material",
                    Mend(
                        "Use copper",
                        proposing(
                            "runs",
                            self.run,
                            material="copper",
                            hot_size=None,
                            neutral_size=None,
                            ground_size=None,
                            raceway_size=None,
                        ),
                    ),
                )

    def _check_terminations(self, circumstances: Circumstances, size: str) -> None:
        unknown = self._terminations_unknown()
        if circumstances.termination_c == 75 or not unknown:
            return
        scratch = Recorder(self.rules)
        warmer = Circumstances(**{**circumstances.__dict__, "termination_c": 75})
        other = conductor.smallest_hots(scratch, warmer, self._demand()).size
        if other != size:
            self.judge.cannot_tell(
                "terminations",
                f"The temperature marking at {' and '.join(unknown)} is not known. Sized for 60 °C: {size}; "
                f"with both ends marked 75 °C it would be {other}. Enter the marking.",
                "termination_temperature",
            )

    def _neutral(self) -> None:
        if not self.site.has_conductor(self.run, "neutral"):
            self._check_no_neutral()
            return
        hots = self._need("hots").text
        circumstances = self._circumstances()
        load = self.recorder.given(
            "Neutral load", self._known_level().neutral.number, "A", "load calculation of what this run feeds"
        )
        device, service = self._need("device"), self.kind in ENDS_IN_ITS_DEVICE
        if self.run.neutral_size is None:
            self.figures["neutral"] = neutral.neutral(
                self.recorder,
                circumstances,
                hots,
                load,
                device,
                service=service,
                as_calculated=self.run.neutral_as_calculated,
            )
            return
        least = neutral.least_neutral(self.recorder, circumstances, hots, load, device, service)
        size = self.run.neutral_size
        self.figures["neutral"] = self.recorder.choose("Neutral, locked", size, "AWG/kcmil", [least])
        clause = "neutral_brought_to_service" if service else "egc_neutral_min_grounded"
        if size_index(size) < size_index(least.text):
            self.judge.must_fix(
                "neutral_size",
                f"The neutral {size} is smaller than {least.text}.",
                clause,
                "neutral_size",
                Mend("Choose the neutral anew", proposing("runs", self.run, neutral_size=None)),
            )
        else:
            self.judge.holds("neutral_size", f"Neutral {size} is at least {least.text}.", clause, "neutral_size")

    def _check_no_neutral(self) -> None:
        """A service always brings its neutral; a feeder needs one where a load beneath uses it, and only there."""
        service = self.kind == "service"
        if not service and not self._known_level().has_line_to_neutral:
            self.judge.holds("neutral_missing", "No load beneath uses a neutral, so none is needed.", "neutral_load")
            return
        start, end = (self._neutral_bar(owner) for owner in (self.site.upstream_of(self.run), self._downstream()))
        conductor_ = Conductor(
            id=f"{self.run.id}-n"[:40], run_id=self.run.id, role="neutral", from_part=start, to_part=end
        )
        why = "A service brings its neutral to every disconnect" if service else "Loads beneath use a neutral"
        self.judge.must_fix(
            "neutral_missing",
            f"{why}, and this run has none.",
            "neutral_brought_to_service" if service else "neutral_load",
            mend=Mend("Add the neutral", (adding("conductors", conductor_),)),
        )

    def _downstream(self) -> str:
        return self.site.downstream_of(self.run)

    def _neutral_bar(self, owner: str) -> str:
        return next((bar.id for bar in self.site.bars_in.get(owner, []) if bar.kind == "neutral"), owner)

    def ground_material(self) -> str:
        return self.run.ground_material or self.run.material or "copper"

    def _ground(self) -> None:
        if self.kind == "service" or not self.site.has_conductor(self.run, "ground"):
            return
        hots, device = self._need("hots").text, self._need("device")
        assert self.smallest_hots is not None  # known where the hots are
        if self.kind == "secondary":
            metal = str(self.run.material)
            needed = grounding.supply_side_jumper(self.recorder, hots, self.run.sets, metal, self.ground_material())
        elif self.run.id in self.site.tap_of_run:
            needed = tap_grounding_conductor(self.recorder, device, self.ground_material(), hots)
        else:
            needed = grounding.grounding_conductor(
                self.recorder, device, self.ground_material(), hots, self.smallest_hots
            )
        if self.run.ground_size is None:
            self.figures["ground"] = needed
            return
        size = self.run.ground_size
        self.figures["ground"] = self.recorder.choose("Grounding conductor, locked", size, "AWG/kcmil", [needed])
        if size_index(size) < size_index(needed.text):
            raised = size_index(hots) > size_index(self.smallest_hots)
            why = "raised with the hots, which are larger than needed" if raised else f"for a {device.text} A device"
            self.judge.must_fix(
                "ground_size",
                f"The grounding conductor {size} is smaller than {needed.text}, {why}.",
                "egc_upsize" if raised else "egc_size",
                "ground_size",
                Mend("Choose it anew", proposing("runs", self.run, ground_size=None)),
            )
        else:
            self.judge.holds(
                "ground_size", f"Grounding conductor {size} is at least {needed.text}.", "egc_size", "ground_size"
            )

    def _raceway(self) -> None:
        if self.run.method not in raceway.RACEWAY_ROWS:
            return
        length = self.recorder.given(
            "Length",
            exact(float(str(self._filled("length_ft", "The length of the run")))) * INCHES_PER_FOOT,
            "in",
            "run",
        )
        sizes = [self._need("hots").text] * self._hot_count()
        sizes += [self._need(part).text for part in ("neutral", "ground") if part in self.figures or part in self.gaps]
        area = raceway.conductors_area(self.recorder, str(self.run.insulation), sizes)
        allowed = raceway.allowed_fill(self.recorder, len(sizes), length)
        if self.run.raceway_size is None:
            fill = raceway.smallest_raceway(self.recorder, self.run.method, area, allowed)
        else:
            fill = raceway.fill_of(self.recorder, self.run.method, self.run.raceway_size, area, allowed)
        self.figures["raceway"] = fill.figure
        told = f"{fill.trade_size} in is filled to {float(fill.filled_percent):.1f} % of {float(fill.allowed_percent):g} % allowed."
        if fill.fits:
            self.judge.holds("raceway_fill", told, "fill_ch9", "raceway_size")
        else:
            self.judge.must_fix(
                "raceway_fill",
                f"The raceway is too small: {told}",
                "fill_ch9",
                "raceway_size",
                Mend("Choose it anew", proposing("runs", self.run, raceway_size=None)),
            )

        self._bends()
        self._damage()
        self._jamming(fill.trade_size)
        self._flexible_ground(fill.trade_size)

    def _bends(self) -> None:
        if self.run.bends_deg is None:
            return
        bends = self.recorder.given("Bends between pull points", self.run.bends_deg, "deg", "run")
        if fittings.bends_hold(self.recorder, bends):
            self.judge.holds("bends", f"{bends.text}° of bends between pull points.", "bends_360", "bends_deg")
        else:
            self.judge.must_fix(
                "bends",
                f"{bends.text}° of bends between pull points; 360° are the most. Set a pull box or conduit body between.",
                "bends_360",
                "bends_deg",
            )

    def _damage(self) -> None:
        if self.run.exposed_to_damage and self.run.method in ("pvc40", "ent"):
            self.judge.must_fix(
                "damage",
                "Where it can be hit the raceway must be schedule 80 or metal.",
                "raceway_protection_sch80",
                "method",
                Mend("Use PVC schedule 80", proposing("runs", self.run, method="pvc80", raceway_size=None)),
            )

    def _jamming(self, trade_size: str) -> None:
        """Three equal conductors of a size may jam in a bend: advice (Chapter 9, note to Table 1)."""
        if not self.run.bends_deg or self._hot_count() != 3 or "neutral" in self.figures:
            return
        ratio, may_jam = raceway.jam_ratio(
            self.recorder, str(self.run.method), trade_size, str(self.run.insulation), self._need("hots").text
        )
        if may_jam:
            self.judge.advise(
                "jamming",
                f"Three conductors at {shown(ratio.number, 3)} times their diameter may jam in a bend; the next trade "
                "size pulls easier.",
                "fill_ch9",
                "raceway_size",
            )

    def _flexible_ground(self, trade_size: str) -> None:
        """A flexible metal raceway grounds only short and behind small devices (250.118)."""
        if not self.run.ground_by_raceway:
            return
        limit = wiring.flexible_ground_limit_a(str(self.run.method), trade_size, self.rules)
        if limit is None:
            return
        longest = exact(self.rules.parameter("flexible_ground_length_ft").value)
        length = exact(float(str(self.run.length_ft)))
        if self._need("device").number > limit or length > longest:
            self.judge.must_fix(
                "flexible_ground",
                f"Flexible metal raceway may ground up to {limit} A and {longest} ft; here a wire is needed.",
                "metal_raceway_as_ground",
                "ground_by_raceway",
                Mend("Run a wire", (*proposing("runs", self.run, ground_by_raceway=False), *self._ground_wire())),
            )

    def _ground_wire(self) -> tuple[Operation, ...]:
        if self.site.has_conductor(self.run, "ground"):
            return ()
        start, end = (self._ground_bar(owner) for owner in (self.site.upstream_of(self.run), self._downstream()))
        wire = Conductor(id=f"{self.run.id}-g"[:40], run_id=self.run.id, role="ground", from_part=start, to_part=end)
        return (adding("conductors", wire),)

    def _ground_bar(self, owner: str) -> str:
        return next((bar.id for bar in self.site.bars_in.get(owner, []) if bar.kind == "ground"), owner)

    def _fit_out(self) -> None:
        volts = LINE_TO_NEUTRAL_V[self._system()]
        self.to_fit = fit_out(self.recorder, self.run, self._need("hots").text, self.kind, volts)

    def _cover(self) -> None:
        if self.run.placement != "underground":
            return
        method = str(self._filled("method", "The wiring method"))
        location = str(self._filled("burial_location", "What lies above the run"))
        needed = burial.cover_needed(self.recorder, method, location)
        self.figures["cover"] = needed
        if self.run.cover_in is None:
            if self.run.standing == "added":
                return
            raise MissingInput(self.run.id, "cover_in", "The cover as found")
        entered = self.recorder.given("Cover entered", self.run.cover_in, "in", "run")
        if self.recorder.at_least("Cover is deep enough", entered, needed, clause="burial_depth"):
            self.judge.holds("cover", f"Cover {entered.text} in, {needed.text} in needed.", "burial_depth", "cover_in")
        else:
            self.judge.must_fix(
                "cover",
                f"Cover of {entered.text} in is less than the {needed.text} in needed here.",
                "burial_depth",
                "cover_in",
                Mend(f"Lay it {needed.text} in deep", proposing("runs", self.run, cover_in=float(needed.number))),
            )

    def _drop_case(self, hot_size: str) -> drop.DropCase:
        level, settings = self._known_level(), self.site.document.settings
        length = exact(float(str(self._filled("length_ft", "The length of the run"))))
        return drop.DropCase(
            method=str(self.run.method),
            material=str(self.run.material),
            sets=self.run.sets,
            length_ft=length,
            load=self._need("load"),
            imbalance_a=level.imbalance_a,
            hot_size=hot_size,
            neutral_size=self.figures["neutral"].text if "neutral" in self.figures else None,
            base_volts=self._base_volts(level),
            power_factor=exact(settings.power_factor),
            by_resistance=settings.drop_method == "direct_current",
        )

    def _base_volts(self, level: LevelLoad) -> Fraction:
        """Volts to neutral, or half the volts between lines where one-phase loads lie between two lines of a wye."""
        system = self._system()
        to_neutral = Fraction(LINE_TO_NEUTRAL_V[system])
        return min(to_neutral, Fraction(LINE_TO_LINE_V[system], 2)) if level.has_line_to_line else to_neutral

    def _drop(self) -> None:
        here = drop.run_drop_percent(self.recorder, self._drop_case(self._need("hots").text))
        self.figures["drop"] = here
        if self.drop_ahead is None:
            raise CannotCompute("The drop ahead of this run is not known.", "Complete the runs ahead.")
        ahead = self.recorder.given(
            "Drop ahead of this run", self.drop_ahead, "%", "runs ahead, from the service point"
        )
        total = self.recorder.add("Drop from the service point", ahead, here, clause="feeder_vd_note")
        self.figures["total_drop"] = total
        limit_percent = self.site.document.settings.feeder_drop_limit_percent
        limit = self.recorder.given("Limit set for this job", limit_percent, "%", "job settings")
        if self.recorder.at_least("Drop is within the limit", limit, total, clause="feeder_vd_note"):
            self.judge.holds("drop", f"Drop {shown(total.number, 3)} % of {limit.text} %.", "feeder_vd_note")
            return
        larger = self._size_within(limit.number)
        mend = Mend(f"Use {larger}", proposing("runs", self.run, hot_size=larger)) if larger else None
        self.judge.advise(
            "drop",
            f"Voltage drop reaches {float(total.number):.1f} %, the job's limit is {limit.text} %. It is advice, "
            "not a violation.",
            "feeder_vd_note",
            "hot_size",
            mend,
        )

    def _size_within(self, limit: Fraction) -> str | None:
        """Return the smallest size of hots that keeps the accumulated drop within the limit."""
        if self.drop_ahead is not None and self.drop_ahead >= limit:
            return None
        for size in SIZES[size_index(self._need("hots").text) :]:
            scratch = Recorder(self.rules)
            try:
                total = drop.run_drop_percent(scratch, self._drop_case(size)).number + (self.drop_ahead or 0)
            except CannotCompute:
                continue
            if total <= limit:
                return size
        return None


def solve_runs(site: Site, rules: Rules, levels: LevelLoads) -> dict[str, RunAnswer]:
    """Return the answer of every run, walking outward so that the drop accumulates from the service point."""
    answers: dict[str, RunAnswer] = {}
    whole: dict[str, WholeUnit | None] = {}
    accumulated: dict[str, Fraction | None] = {source_id: Fraction(0) for source_id in site.sources}
    for owner in [*site.sources, *site.walking_order]:
        ahead = accumulated.get(owner)
        leaving = site.runs_from.get(owner, [])
        for run in sorted(leaving, key=lambda item: item.id in site.tap_of_run):
            before = _drop_before(site, run, ahead, answers)
            answer = RunSolver(site, rules, levels, run, before, whole.get(owner)).solve()
            whole[site.downstream_of(run)] = _whole_of(answer) or whole.get(owner)
            answers[run.id] = answer
            total = answer.figures.get("total_drop")
            beyond = Fraction(0) if answer.kind == "utility" else (total.number if total else None)
            accumulated.setdefault(site.downstream_of(run), beyond)
    return answers


def _whole_of(answer: RunAnswer) -> WholeUnit | None:
    size, device = answer.size("hots"), answer.figures.get("device")
    if not answer.whole_dwelling or size is None or device is None or answer.material is None or answer.run.sets > 1:
        return None
    return WholeUnit(answer.material, size, device.number)


def _drop_before(site: Site, run: Run, ahead: Fraction | None, answers: dict[str, RunAnswer]) -> Fraction | None:
    """The drop where a run begins: that of its enclosure, and for a tap that of the run ahead of the joint as well."""
    tap = site.tap_of_run.get(run.id)
    if tap is None or ahead is None:
        return ahead
    feeder = site.runs.get(tap.run_id)
    drop_there = answers[feeder.id].figures.get("drop") if feeder is not None and feeder.id in answers else None
    if feeder is None or drop_there is None or tap.at_ft is None or not feeder.length_ft:
        return None
    return ahead + drop_there.number * min(exact(tap.at_ft) / exact(feeder.length_ft), Fraction(1))


def in_other_material(
    site: Site, rules: Rules, levels: LevelLoads, answer: RunAnswer, drop_ahead: Fraction | None
) -> RunAnswer:
    """Return the same run in the other metal with every size free and all upstream unchanged."""
    other = "copper" if answer.material == "aluminium" else "aluminium"
    run = answer.run.model_copy(
        update={
            "material": other,
            "hot_size": None,
            "neutral_size": None,
            "ground_size": None,
            "ground_material": None,
            "raceway_size": None,
        }
    )
    return RunSolver(site, rules, levels, run, drop_ahead).solve()
