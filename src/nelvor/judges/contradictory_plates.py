"""What a plate says that cannot all be true: amperes and kVA that differ, a source that gives nothing, a neutral it does not have.

It is told beside what is worked out with it, so that the plate is read again.
"""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction

from nelvor.clauses.load_kind import SQUARE_ROOT_OF_3
from nelvor.judges.verdict import Judge, Verdict
from nelvor.model.things import Source
from nelvor.model.voltages import LEGS, LINE_TO_LINE_V, LINE_TO_NEUTRAL_V
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of
from nelvor.topology.pushed_in import lines_of_source
from nelvor.topology.site import Site
from nelvor.working import exact, shown

CLAUSE = "listed_use"
TOLERANCE = Fraction(1, 10)
"""Plates round; a power factor beside a rating in kW makes more of a difference than that."""


def plate_verdicts(site: Site, rules: Rules) -> Iterator[Verdict]:
    """Yield a *cannot tell* for each source of the premises whose plate contradicts itself."""
    for source in site.document.sources:
        if source.kind == "utility":
            continue
        judge = Judge(rules, "sources", source.id)
        for field, words in _contradictions(site, source):
            text = f"The plate of {name_of(site, source.id)} is entered so that it cannot all be true: {words}. Read it again."
            judge.cannot_tell("plate", text, CLAUSE, field)
        yield from judge.verdicts


def _contradictions(site: Site, source: Source) -> Iterator[tuple[str, str]]:
    kva = _kva_of_the_amperes(site, source)
    if kva is not None and source.rated_kva is not None:
        told = exact(source.rated_kva) * exact(source.power_factor or 1)
        apart = min(abs(kva - told), abs(kva - exact(source.rated_kva)))
        if apart > TOLERANCE * kva:
            yield (
                "rated_kva",
                f"{source.rated_output_a:g} A are {shown(kva)} kVA there, and its rating is {source.rated_kva:g} kVA",
            )
    if source.kind in ("inverter", "battery") and source.interactive is False and source.forms_supply is False:
        yield "forms_supply", "it neither runs beside the utility nor makes a supply of its own"
    if source.output == "line_to_line" and source.neutral_path in ("passes", "opens"):
        yield "output", "it gives its lines alone, and a neutral is said to lead through it"
    if source.marking == "floating_neutral" and source.relay == "always_closed":
        yield "relay", "it is marked as floating, and its relay joins the neutral to the metal all the time"
    output, most = source.rated_output_a, source.largest_device_a
    if output is not None and most is not None and exact(most) < exact(output):
        yield "largest_device_a", f"it gives {output:g} A, and its largest device is {most:g} A"


def _kva_of_the_amperes(site: Site, source: Source) -> Fraction | None:
    system, lines = source.system or "", lines_of_source(site, source)
    if source.rated_output_a is None or (system not in LINE_TO_LINE_V and system not in LINE_TO_NEUTRAL_V):
        return None
    if lines == 1 or source.output == "two_wire_120" or system not in LINE_TO_LINE_V:
        volts = Fraction(LINE_TO_NEUTRAL_V[system])
    else:
        volts = LINE_TO_LINE_V[system] * (SQUARE_ROOT_OF_3 if lines == len(LEGS) else Fraction(1))
    return exact(source.rated_output_a) * volts / 1000
