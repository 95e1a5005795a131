"""Transformers: are primary and secondary protected within Table 450.3(B), and does the rating carry the load?

An autotransformer has one device, by 450.4(A).
"""

from __future__ import annotations

from collections.abc import Mapping
from fractions import Fraction
from functools import partial

from nelvor.clauses.calculated_load import LevelLoad
from nelvor.clauses.load_kind import SQUARE_ROOT_OF_3
from nelvor.errors import CannotCompute, MissingInput
from nelvor.judges.answer import Answer, Subject
from nelvor.judges.autotransformer import judge_device, judge_formed_neutral
from nelvor.judges.level_loads import LevelLoads
from nelvor.judges.run import RunAnswer
from nelvor.judges.verdict import Judge, Mend, proposing
from nelvor.model.things import Device, Run, Transformer
from nelvor.model.voltages import LINE_TO_LINE_V, THREE_PHASE
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import thing_name
from nelvor.topology.network import forms_neutral, shares_windings
from nelvor.topology.site import Site
from nelvor.working import Figure, Recorder, exact, shown

NINE_AMPERES = 9
TWO_AMPERES = 2


class TransformerJudge:
    """Judges one transformer. Currents in A, ratings in kVA."""

    def __init__(
        self, site: Site, rules: Rules, levels: LevelLoads, runs: Mapping[str, RunAnswer], transformer: Transformer
    ) -> None:
        self.site = site
        self.rules = rules
        self.levels = levels
        self.runs = runs
        self.transformer = transformer
        self.recorder = Recorder(rules)
        self.judge = Judge(rules, "transformers", transformer.id)
        self.figures: dict[str, Figure] = {}

    def answer(self) -> Answer:
        """Return what is found, with its figures."""
        gaps = {}
        try:
            self._protection()
            self._load()
        except CannotCompute as reason:
            gaps["protection"] = reason.kept()
            shared = shares_windings(self.site, self.transformer)
            self.judge.cannot_compute("transformer", reason, "autotransformer_ocpd" if shared else "transformer_ocpd")
        return Answer(
            subject=Subject("transformer", self.transformer.id),
            figures=self.figures,
            gaps=gaps,
            verdicts=tuple(self.judge.verdicts),
            working=self.recorder,
        )

    def _rated_va(self) -> Figure:
        if self.transformer.kva is None:
            raise MissingInput(self.transformer.id, "kva", "The rating of the transformer")
        return self.recorder.given("Rating", exact(self.transformer.kva) * 1000, "VA", "label")

    def _rated_current(self, system: str | None, side: str) -> Figure:
        volts = LINE_TO_LINE_V.get(system or "")
        if volts is None:
            raise CannotCompute(f"The {side} voltage of the transformer is not known.", "Choose its systems.")
        root = SQUARE_ROOT_OF_3 if system in THREE_PHASE else Fraction(1)
        line = self.recorder.given(f"{side} volts, with the phases", volts * root, "V", "system")
        rated = self.recorder.divide(f"{side} rated current", self._rated_va(), line, "A")
        self.figures[f"{side}_current"] = rated
        return rated

    def _protection(self) -> None:
        """Primary only to 125 %, or primary to 250 % with a secondary device to 125 %; the next size up counts."""
        if forms_neutral(self.site, self.transformer):
            judge_formed_neutral(self.site, self.judge, self.transformer)
        primary = self._rated_current(self.site.system_at(self.transformer.enclosure_id), "primary")
        feeding = self.site.feeding_run(self.transformer.enclosure_id)
        device = self.site.protection_ahead.get(feeding.id) if feeding else None
        ahead = self._rating_of(device, feeding, "Primary device")
        if device is None or ahead is None:
            asks = ((device.id, "rating_a"),) if device is not None else ()
            raise CannotCompute("The device ahead of the transformer is not known.", "Enter its rating.", asks)
        if shares_windings(self.site, self.transformer):
            judge_device(
                self.judge, self.recorder, self.figures, primary, ahead, partial(self._smaller, device, feeding)
            )
            return
        if self._within(primary, ahead, "primary_only", "primary"):
            self.judge.holds("transformer", f"{ahead.text} A protects the primary alone.", "transformer_ocpd")
            return
        alone = self._smaller(device, feeding, self.figures["primary_device_most"].number)
        run, main = self._secondary_device()
        secondary = self._rating_of(main, run, "Secondary device")
        rated = self._rated_current(self.transformer.secondary_system, "secondary")
        both = (
            secondary is not None
            and self._within(primary, ahead, "primary_and_secondary", "primary")
            and self._within(rated, secondary, "primary_and_secondary", "secondary")
        )
        if both and secondary is not None:
            text = f"{ahead.text} A on the primary and {secondary.text} A on the secondary protect it."
            self.judge.holds("transformer", text, "transformer_ocpd")
        else:
            beyond = f"{secondary.text} A on the secondary" if secondary else "no device on the secondary"
            text = (
                f"{ahead.text} A on the primary (rated {shown(primary.number)} A) with {beyond} (rated "
                f"{shown(rated.number)} A) do not protect the transformer."
            )
            self.judge.must_fix(
                "transformer", text, "transformer_ocpd", mend=self._ways(alone, main, run, ahead, rated)
            )

    def _secondary_device(self) -> tuple[Run | None, Device | None]:
        """The run from the secondary side, and the main in which it ends."""
        for run in self.site.runs_from.get(self.transformer.enclosure_id, []):
            main = self.site.main_of(self.site.downstream_of(run))
            if run.from_part == self.transformer.secondary_part and main is not None:
                return run, main
        return None, None

    def _rating_of(self, device: Device | None, run: Run | None, label: str) -> Figure | None:
        """The rating of a device, as entered or as chosen for its run."""
        if device is not None and device.rating_a is not None:
            return self.recorder.given(label, device.rating_a, "A", "design")
        answer = self.runs.get(run.id) if run is not None and device is not None else None
        chosen = answer.figures.get("device") if answer is not None else None
        if answer is None or chosen is None:
            return None
        return self.recorder.carried(f"{label}, as chosen", chosen, answer.working)

    def _ways(
        self, alone: Mend | None, main: Device | None, run: Run | None, ahead: Figure, rated: Figure
    ) -> tuple[Mend, ...]:
        """A primary device that protects it alone, or a main beyond it with which the primary device may stay."""
        ways = [alone]
        row = "primary_and_secondary"
        if self._most(self.figures["primary_current"], row, "primary").number >= ahead.number:
            ways.append(self._smaller(main, run, self._most(rated, row, "secondary").number))
        return tuple(way for way in ways if way is not None)

    def _smaller(self, device: Device | None, run: Run | None, most: Fraction) -> Mend | None:
        """The device at the largest standard rating within a limit, where it serves this run alone and still carries its load."""
        answer = self.runs.get(run.id) if run is not None else None
        design = answer.figures.get("design") if answer is not None else None
        fitting = [rating for rating in self.rules.standard_ratings() if rating <= most]
        if device is None or run is None or design is None or not fitting or fitting[-1] < design.number:
            return None
        if device.rating_a is None or device.id not in (run.from_part, run.to_part) or fitting[-1] >= device.rating_a:
            return None
        change = f"{thing_name(self.site, device.id)}: {device.rating_a:g} A to {fitting[-1]} A"
        return Mend(change, proposing("devices", device, rating_a=float(fitting[-1])))

    def _within(self, rated: Figure, device: Figure, row: str, side: str) -> bool:
        """Tell whether a device is within its percentage."""
        most = self._most(rated, row, side)
        return self.recorder.at_least("The device is within it", most, device, clause="transformer_ocpd")

    def _most(self, rated: Figure, row: str, side: str) -> Figure:
        """The largest device of a side; where 125 % is no standard rating the next one counts."""
        column = f"{side}_9a_plus_pct" if rated.number >= NINE_AMPERES else f"{side}_under9a_pct"
        if side == "primary" and rated.number < TWO_AMPERES:
            column = "primary_under2a_pct"
        percent = self.recorder.table(f"{side}, per cent", "transformer_protection", (row,), column)
        hundred = self.recorder.given("per cent", Fraction(1, 100), "", "per cent")
        most = self.recorder.multiply("Device at most", rated, percent, hundred, unit="A", clause="transformer_ocpd")
        if column.endswith("9a_plus_pct") and (row == "primary_only" or side == "secondary"):
            ratings = self.recorder.rules.standard_ratings()
            most = self.recorder.next_up("or the next standard rating", most, ratings, "transformer_ocpd") or most
        self.figures[f"{side}_device_most"] = most
        return most

    def _load(self) -> None:
        level = self.levels.get(self.transformer.enclosure_id)
        if not isinstance(level, LevelLoad):
            return
        rated = self._rated_va()
        load = self.recorder.carried("Load through it", level.demand_va, level.recorder)
        self.figures["load"] = load
        if self.recorder.at_least("The rating carries the load", rated, load):
            text = f"{level.demand_va.text} VA on {shown(rated.number / 1000)} kVA."
            self.judge.holds("transformer_load", text)
        else:
            text = f"The load of {level.demand_va.text} VA is above its {shown(rated.number / 1000)} kVA."
            self.judge.advise("transformer_load", text)


def transformer_answers(
    site: Site, rules: Rules, levels: LevelLoads, runs: Mapping[str, RunAnswer]
) -> dict[str, Answer]:
    """Return the judgement of every transformer whose box is there in this state, by its id."""
    return {
        transformer.id: TransformerJudge(site, rules, levels, runs, transformer).answer()
        for transformer in site.document.transformers
        if transformer.enclosure_id in site.enclosures
    }
