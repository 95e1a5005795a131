"""The desk of a utility that tells what it gives into a fault at a service, and a small stand-in for it.

A real desk is anything that answers as ``UtilityDesk`` does, by whatever way its utility takes questions. The stand-in
ships with the program, needs no network, and makes its figures up from the number of the premises: none is of any use
but to try the way.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from datetime import date, timedelta
from fractions import Fraction
from typing import Protocol

from nelvor.errors import BadInput, CannotCompute, Issue
from nelvor.model.voltages import COMPUTED_SYSTEMS, LINE_TO_LINE_V, THREE_PHASE

PREMISES = re.compile(r"[0-9]{8}")
UNANSWERED = "0"
"""A number that ends so has not been looked at: desks take days."""

TRANSFORMERS_KVA = (
    *(Fraction(kva) for kva in ("10", "15", "25", "37.5", "50", "75", "100", "167", "250", "333", "500")),
    *(Fraction(kva) for kva in ("750", "1000", "1500", "2000", "2500")),
)
LOADED_TO = Fraction(2, 5)
"""A transformer of a desk carries so much of the rating of the service, as not all is drawn at once."""

PER_CENT = tuple(Fraction(tenths, 10) for tenths in range(16, 26))
LOST_AHEAD = Fraction(92, 100)
"""What the wires ahead of the transformer leave of what its plate would let through."""

ROOT_OF_3 = Fraction(1732, 1000)
GOOD_FOR = timedelta(days=365)


@dataclass(frozen=True)
class Enquiry:
    """What is asked: the utility's number of the premises, the system and the rating of the service in A."""

    premises: str
    system: str
    service_a: float


@dataclass(frozen=True)
class Letter:
    """What a desk answers: the fault current of all lines in A, its transformer's rating in kVA and impedance in per cent.

    ``simulated`` tells that it is made up.
    """

    fault_current_a: int
    transformer_kva: float
    impedance_percent: float
    worked_out_on: date
    good_until: date
    reference: str
    simulated: bool


class UtilityDesk(Protocol):
    """Whoever tells the fault current at a service."""

    def fault_current(self, enquiry: Enquiry, today: date) -> Letter:
        """Return the answer of the utility.

        Raises:
            BadInput: the enquiry names no premises, or no system that is served.
            CannotCompute: the utility has not answered yet.
        """


class SimulatedDesk:
    """The stand-in: the same number of premises gets the same answer every time."""

    def fault_current(self, enquiry: Enquiry, today: date) -> Letter:
        """Return an answer that is made up; raises as ``UtilityDesk`` does."""
        _refuse_unknown(enquiry)
        if enquiry.premises.endswith(UNANSWERED):
            raise CannotCompute(
                f"The desk has not looked at {enquiry.premises} yet.",
                "Ask again in five working days; until then enter nothing, or the plate of the transformer.",
            )
        root = ROOT_OF_3 if enquiry.system in THREE_PHASE else Fraction(1)
        volts = LINE_TO_LINE_V[enquiry.system]
        wanted = Fraction(enquiry.service_a) * volts * root * LOADED_TO / 1000
        kva = next((item for item in TRANSFORMERS_KVA if item >= wanted), TRANSFORMERS_KVA[-1])
        percent = PER_CENT[int(enquiry.premises) % len(PER_CENT)]
        amperes = kva * 1000 / (volts * root) / (percent / 100) * LOST_AHEAD
        return Letter(
            fault_current_a=int(amperes / 10) * 10,
            transformer_kva=float(kva),
            impedance_percent=float(percent),
            worked_out_on=today,
            good_until=today + GOOD_FOR,
            reference=f"S-{enquiry.premises}",
            simulated=True,
        )


def _refuse_unknown(enquiry: Enquiry) -> None:
    if not PREMISES.fullmatch(enquiry.premises):
        raise BadInput(
            [
                Issue(
                    "premises",
                    "premises",
                    "a number of premises has eight digits.",
                    "Enter it as it stands on the bill.",
                )
            ]
        )
    if enquiry.system not in COMPUTED_SYSTEMS:
        raise BadInput(
            [Issue("system", "system", "no service of this system is known.", "Choose the system of the utility.")]
        )
