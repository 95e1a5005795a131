"""What the motors of a site draw at full load, which tells what they give into a fault and which series combination is out.

A running motor gives about as much into a fault as it draws while it starts. Taken here: four times its full-load
current from each, at once and without any wire between; a judgement, on the safe side of what small motors do.
"""

from __future__ import annotations

from collections.abc import Iterable
from fractions import Fraction

from nelvor.clauses.load_kind import SQUARE_ROOT_OF_3, kind_of
from nelvor.errors import CannotCompute
from nelvor.model.things import Load
from nelvor.model.voltages import COMPUTED_SYSTEMS, LINE_TO_LINE_V, LINE_TO_NEUTRAL_V, THREE_PHASE
from nelvor.rulebook.rules import Rules
from nelvor.topology.site import Site

TIMES_FULL_LOAD = 4


class Motors:
    """The full-load currents of the motors of a site in A; those on one supply are added up once.

    A motor whose size is not told gives nothing.
    """

    def __init__(self, site: Site, rules: Rules) -> None:
        self.site = site
        self.rules = rules
        self._on_supply: dict[tuple[str | None, str | None], Fraction] = {}

    def among(self, loads: Iterable[Load]) -> Fraction:
        """Return the sum over the motors among loads."""
        return sum((_each(self.site, self.rules, load) * load.quantity for load in loads), Fraction(0))

    def on_supply_of(self, enclosure_id: str) -> Fraction:
        """Return the sum over the motors that can give into a fault in a box: the same source, the same voltage."""
        wanted = self._supply_of(enclosure_id)
        if wanted not in self._on_supply:
            loads = self.site.document.loads
            self._on_supply[wanted] = self.among(load for load in loads if self._supply_of(load.enclosure_id) == wanted)
        return self._on_supply[wanted]

    def _supply_of(self, enclosure_id: str) -> tuple[str | None, str | None]:
        return self.site.feeds.root.get(enclosure_id), self.site.system_at(enclosure_id)


def _each(site: Site, rules: Rules, load: Load) -> Fraction:
    system = site.system_at(load.enclosure_id)
    if system not in COMPUTED_SYSTEMS:
        return Fraction(0)
    try:
        kind = kind_of(load, system, rules)
    except CannotCompute:
        return Fraction(0)
    if not kind.is_motor:
        return Fraction(0)
    if kind.connection == "three_phase" and system in THREE_PHASE:
        return kind.each / (LINE_TO_LINE_V[system] * SQUARE_ROOT_OF_3)
    volts = LINE_TO_NEUTRAL_V.get(system) if "N" in kind.connection else LINE_TO_LINE_V.get(system)
    return kind.each / volts if volts else Fraction(0)
