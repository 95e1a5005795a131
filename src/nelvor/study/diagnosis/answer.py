"""A diagnosis of a site as it is sent: what can be read, the causes in words, the next reading, and the simulated meter."""

from __future__ import annotations

import random
from collections.abc import Sequence

import numpy as np

from nelvor.errors import CannotCompute
from nelvor.report.check import Report
from nelvor.study.diagnosis.causes import Cause, causes_of
from nelvor.study.diagnosis.diagnose import FITS_WITHIN, Diagnosis, Weighed
from nelvor.study.diagnosis.meanings import MEANINGS
from nelvor.study.diagnosis.meter import SimulatedMeter
from nelvor.study.diagnosis.observables import Observable, observables
from nelvor.study.diagnosis.readings import (
    CauseOut,
    DiagnosisOut,
    Meter,
    MismatchOut,
    NextReadingOut,
    ObservableOut,
    Reading,
)
from nelvor.study.diagnosis.responses import Responses, circuit_with_bonds
from nelvor.study.outcome import scenario_of
from nelvor.study.situation import Situation

MOST_CAUSES = 6
MOST_SHOWN = 3
SURE, POSSIBLE = 0.9, 0.01
TELLS = 4.0
"""A reading is named as what a cause would show where it differs from a sound site by so many widths of its error."""

CAUTIONS = [
    "Readings behind a panel cover are the work of qualified persons, with the clothing and tools that live work asks for.",
    "Never lift a neutral, a grounding conductor, an electrode conductor or a water bond while anything is energized.",
    "A diagnosis rests on what is drawn and on which loads were on. It is no license: look, and prove dead.",
]


class Bench:
    """A site with its circuit, what can be read of it and what can be wrong with it, in a position of its gear.

    Raises:
        MissingInput, CannotCompute, MissingFigure: the circuit rests on something that is not known.
    """

    def __init__(self, report: Report, situation: Situation, position: str = "") -> None:
        if situation.kind != "all_well":
            raise CannotCompute("Readings are taken at a site as it is, without a fault played.", "Choose all well.")
        circuit = circuit_with_bonds(report, scenario_of(report, position), situation)
        self.responses = Responses(circuit, observables(report, circuit))
        self.causes = [cause for cause in causes_of(report, circuit) if self.responses.can_tell(cause)]

    def readable(self) -> list[ObservableOut]:
        """Return what can be read."""
        return [_observable(item) for item in self.responses.seen]

    def hidden(self, number: int) -> Cause:
        """Return the fault that a number hides, the same one every time."""
        real = [cause for cause in self.causes if cause.kind != "nothing" and self._shows(cause)]
        if not real:
            raise CannotCompute("Nothing that could be wrong here shows in a reading.", "Draw more of the site.")
        return random.Random(number).choice(real)

    def _shows(self, cause: Cause) -> bool:
        """Tell whether some reading differs from a sound site."""
        sound, with_it = np.abs(self.responses.base), np.abs(self.responses.of(cause))
        return bool(np.any(np.abs(sound - with_it) > np.maximum(0.5, 0.1 * sound)))

    def simulated(self, number: int, observable_id: str, meter: Meter) -> Reading:
        """Read something at the site with the fault that a number hides."""
        observable = next((item for item in self.responses.seen if item.id == observable_id), None)
        if observable is None:
            raise CannotCompute(f"{observable_id!r} cannot be read at this site.", "Choose what can be.")
        return SimulatedMeter(self.responses, [self.hidden(number)], meter, number).read(observable)

    def diagnosed(self, readings: Sequence[Reading], meter: Meter) -> DiagnosisOut:
        """Return what readings tell."""
        found = Diagnosis(self.responses, self.causes, readings, meter)
        shown = _shown(found)
        asked = found.next_reading()
        return DiagnosisOut(
            told=_told(found, shown, bool(readings), asked is not None),
            causes=[self._cause(found, item) for item in shown] if readings else [],
            next=_next(found, asked, shown) if asked is not None else None,
            contradicting=[self.responses.seen[found.at[at]].words for at in found.contradicting()],
            readings=len(readings),
            cautions=CAUTIONS,
        )

    def _cause(self, found: Diagnosis, item: Weighed) -> CauseOut:
        meanings = [MEANINGS[cause.kind] for cause in item.causes]
        dangers = [meaning.danger for meaning in meanings]
        return CauseOut(
            kinds=[cause.kind for cause in item.causes],
            words="; and ".join(cause.words for cause in item.causes),
            share=round(_with_more_beside(found, item), 4),
            fits=item.fits,
            worst=_worst(found, item),
            would_show=list(self._would_show(found, item)),
            danger="lethal" if "lethal" in dangers else "wrong" if "wrong" in dangers else "none",
            sentences=[sentence for meaning in meanings for sentence in meaning.sentences],
            mend=list(dict.fromkeys(step for meaning in meanings for step in meaning.mend)),
            bonds={
                cause.place: cause.changes[0].admittance.real > 0
                for cause in item.causes
                if cause.kind in ("bond_too_many", "bond_missing", "bond_otherwise")
            },
        )

    def _would_show(self, found: Diagnosis, item: Weighed) -> list[str]:
        """What else a cause would show that a sound site does not, the plainest first, as far as it is not read yet."""
        sound = np.abs(self.responses.base)
        apart = np.abs(item.expected - sound) / found.error_of(np.maximum(item.expected, sound), found.amperes)
        told: list[str] = []
        for at in np.argsort(-apart):
            if apart[at] < TELLS or len(told) == MOST_SHOWN:
                break
            if int(at) not in found.at:
                seen = self.responses.seen[at]
                told.append(f"{seen.words}: {item.expected[at]:.1f} {seen.unit} instead of {sound[at]:.1f} {seen.unit}")
        return told


def _shown(found: Diagnosis) -> list[Weighed]:
    """The causes to tell, the likeliest first; what only adds a second one to a cause that gives all readings is left out."""
    shown: list[Weighed] = []
    for item in found.ranked:
        if len(shown) == MOST_CAUSES or (shown and _with_more_beside(found, item) < POSSIBLE):
            break
        if not any(other.fits and other.families < item.families for other in shown):
            shown.append(item)
    return shown


def _with_more_beside(found: Diagnosis, item: Weighed) -> float:
    """How much speaks for a cause, alone or with a second one beside it."""
    return sum(other.share for other in found.ranked if item.families <= other.families)


def _observable(item: Observable) -> ObservableOut:
    return ObservableOut(id=item.id, place=item.place, what=item.what, unit=item.unit, care=item.care)


def _worst(found: Diagnosis, item: Weighed) -> MismatchOut | None:
    """The reading that a cause gives least well."""
    if not found.at:
        return None
    at = int(np.argmax(np.abs(item.sigmas)))
    seen = found.responses.seen[found.at[at]]
    return MismatchOut(
        observable=seen.id,
        words=seen.words,
        read=float(found.read[at]),
        expected=round(float(item.expected[found.at[at]]), 2),
        unit=seen.unit,
        sigmas=round(float(abs(item.sigmas[at])), 1),
    )


def _next(found: Diagnosis, asked: tuple[Observable, float], shown: Sequence[Weighed]) -> NextReadingOut:
    at = found.places[asked[0].id]
    expected = []
    for item in shown[:MOST_SHOWN]:
        words = "; and ".join(cause.words for cause in item.causes)
        expected.append(f"{item.expected[at]:.1f} {asked[0].unit}: {words[0].lower()}{words[1:]}")
    return NextReadingOut(observable=_observable(asked[0]), bits=round(asked[1], 2), expected=expected)


def _told(found: Diagnosis, shown: Sequence[Weighed], any_read: bool, more: bool) -> str:
    if not any_read:
        return "No reading yet. Begin with the one below; each tells which comes next."
    best = found.ranked[0]
    if not best.fits:
        off = float(np.max(np.abs(best.sigmas)))
        return (
            f"No fault known here, nor two together, gives all readings: the nearest is off by {off:.1f} widths of the "
            f"error, where {FITS_WITHIN:g} are allowed. Read again, and look at which loads were on."
        )
    if _with_more_beside(found, best) >= SURE:
        sure = "One more reading makes sure." if more else "Nothing else that can be read would tell more."
        return f"One cause gives these readings, and little speaks for any other. {sure}"
    number = sum(item.fits for item in shown)
    if not more:
        return f"{number} causes give these readings, and nothing that can be read tells them apart: look at each."
    return f"{number} causes give these readings. The next reading tells them apart best."
