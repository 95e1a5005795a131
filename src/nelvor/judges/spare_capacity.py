"""What is left at each level: its rating less its load, and what the meter recorded there (220.87)."""

from __future__ import annotations

from collections.abc import Hashable, Sequence
from fractions import Fraction

from nelvor.clauses.calculated_load import LevelLoad, calculate
from nelvor.clauses.load_kind import SQUARE_ROOT_OF_3, tally_of
from nelvor.clauses.measured_demand import Recording, measured_demand
from nelvor.errors import CannotCompute, MissingInput
from nelvor.judges.answer import Answer, Subject
from nelvor.judges.level_loads import LevelLoads, computed_system
from nelvor.judges.memory import Memory
from nelvor.judges.run import RunAnswer
from nelvor.judges.verdict import Judge
from nelvor.model.things import Measurement
from nelvor.model.voltages import LINE_TO_LINE_V, THREE_PHASE
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of
from nelvor.topology.site import Site
from nelvor.working import Figure, Recorder, exact


class CapacityJudge:
    """Works out one level."""

    def __init__(
        self, site: Site, rules: Rules, levels: LevelLoads, answers: dict[str, RunAnswer], enclosure_id: str
    ) -> None:
        self.site = site
        self.rules = rules
        self.level = levels.get(enclosure_id)
        self.enclosure = site.enclosures[enclosure_id]
        self.recorder = Recorder(rules)
        self.judge = Judge(rules, "measurements", "")
        self.figures: dict[str, Figure] = {}
        feeding = site.feeding_run(enclosure_id)
        self.feeding = answers.get(feeding.id) if feeding else None

    def rests_on(self) -> tuple[Sequence[object], Hashable]:
        """Return the things and the values that a level without a record of its demand is worked out from."""
        main = self.site.main_of(self.enclosure.id)
        return (self.rules, self.enclosure, self.level, self.feeding, main), self.site.rating_a(self.enclosure.id)

    def answer(self) -> Answer:
        """Return the answer."""
        rating = self._rating()
        if rating is not None:
            self.figures["rating"] = rating
            if isinstance(self.level, LevelLoad):
                worst = self.level.worst
                load = self.recorder.carried(f"Design load on {worst.leg}", worst.design, self.level.recorder)
                self.figures["spare"] = self.recorder.subtract("Spare on the worst leg", rating, load)
        for measurement in self.site.measurements_at.get(self.enclosure.id, []):
            self._measured(measurement, rating)
        return Answer(
            subject=Subject("capacity", self.enclosure.id),
            figures=self.figures,
            verdicts=tuple(self.judge.verdicts),
            working=self.recorder,
        )

    def _rating(self) -> Figure | None:
        """The least of the device ahead, the main, the bus and the conductors that feed this level."""
        found = []
        answer = self.feeding
        if answer is not None and "device" in answer.figures:
            found.append(("Device of the feeding run", answer.figures["device"].number))
            if "ampacity" in answer.figures and not answer.whole_dwelling:
                found.append(("Ampacity of its conductors", answer.figures["ampacity"].number))
        main = self.site.main_of(self.enclosure.id)
        if main is not None and main.kind != "switch" and main.rating_a is not None:
            found.append((main.name or "Main", exact(main.rating_a)))
        label = self.site.rating_a(self.enclosure.id)
        if label is not None:
            found.append(("Rating of the enclosure", exact(label)))
        if not found:
            return None
        figures = [self.recorder.given(label, value, "A", "design") for label, value in found]
        return figures[0] if len(figures) == 1 else self.recorder.least("Rating of this level", *figures)

    def _measured(self, measurement: Measurement, rating: Figure | None) -> None:
        self.judge.thing_id = measurement.id
        try:
            found = measured_demand(self.recorder, self._recording(measurement), self._new_load(), self._volts())
        except CannotCompute as reason:
            self.judge.cannot_compute("measured", reason, "measured_demand")
            return
        self.figures["measured"] = found.total_va
        self.figures["measured_amperes"] = found.amperes
        name = name_of(self.site, self.enclosure.id)
        missing = measurement.missing_percent or 0
        if missing >= 1:
            text = f"{missing:g} % of the record at {name} is missing; a peak may lie in a gap."
            self.judge.advise("measured_gaps", text, "measured_demand", "missing_percent")
        if rating is None:
            text = f"By the record {name} would carry {found.amperes.text} A; its rating is not known."
            self.judge.cannot_tell("measured", text, "measured_demand")
        elif self.recorder.at_least("The rating carries it", rating, found.amperes, clause="measured_demand"):
            text = f"By the record {name} carries {found.amperes.text} A of {rating.text} A."
            self.judge.holds("measured", text, "measured_demand")
        else:
            text = (
                f"By the record {name} would carry {found.amperes.text} A with the new load, of {rating.text} A. "
                "Lower the new load, manage it, or raise the rating."
            )
            self.judge.must_fix("measured", text, "measured_demand")

    def _new_load(self) -> Figure:
        """The loads that come with the proposal beneath this level: connected, or the least that a rule asks of them."""
        added = [load for load in self.site.loads_beneath(self.enclosure.id) if load.standing == "added"]
        system = self.site.system_at(self.enclosure.id)
        if not added or system is None:
            return self.recorder.given("New load", 0, "VA", "no load is added beneath")
        system = computed_system(self.site, self.enclosure.id)
        found = calculate(self.enclosure.id, tally_of(added, system, self.rules), system, self.rules)
        value = max(found.connected_va.number, found.demand_va.number)
        return self.recorder.given("New load", value, "VA", "loads added beneath, at their nameplates")

    def _volts(self) -> Figure:
        system = self.site.system_at(self.enclosure.id)
        if system not in LINE_TO_LINE_V:
            raise CannotCompute("The voltage system is not known.", "Choose the system on the source.")
        root = SQUARE_ROOT_OF_3 if system in THREE_PHASE else Fraction(1)
        value = LINE_TO_LINE_V[system] * root
        return self.recorder.given("Volts between lines, with the phases", value, "V", "system")

    def _recording(self, measurement: Measurement) -> Recording:
        for field_name, what in (
            ("peak_kw", "The recorded peak"),
            ("days", "How many days were recorded"),
            ("interval_minutes", "The interval of the record"),
        ):
            if getattr(measurement, field_name) is None:
                raise MissingInput(measurement.id, field_name, what)
        assert (
            measurement.peak_kw is not None
            and measurement.days is not None
            and measurement.interval_minutes is not None
        )
        return Recording(
            peak_kw=exact(measurement.peak_kw),
            power_factor=None if measurement.power_factor is None else exact(measurement.power_factor),
            days=exact(measurement.days),
            interval_minutes=exact(measurement.interval_minutes),
            net_metered=measurement.net_metered,
            highest_phase_recorded=measurement.highest_phase_recorded,
            seasonal_load_allowed_for=measurement.seasonal_load_allowed_for,
            overcurrent_protected=self._overcurrent_protected(),
        )

    def _overcurrent_protected(self) -> bool:
        """Tell whether a device with overcurrent protection stands ahead of this level or is its main."""
        feeding = self.site.feeding_run(self.enclosure.id)
        ahead = self.site.protection_ahead.get(feeding.id) if feeding else None
        main = self.site.main_of(self.enclosure.id)
        return any(device is not None and device.kind != "switch" for device in (ahead, main))


def capacity_answers(
    site: Site, rules: Rules, levels: LevelLoads, answers: dict[str, RunAnswer], memory: Memory
) -> dict[str, Answer]:
    """Return what is left at every enclosure; a level that rests on the very same things is not worked out again."""
    found = {}
    for enclosure_id in site.walking_order:
        judge = CapacityJudge(site, rules, levels, answers, enclosure_id)
        measured = bool(site.measurements_at.get(enclosure_id))
        found[enclosure_id] = judge.answer() if measured else memory.recall("capacity", judge.rests_on, judge.answer)
    return found
