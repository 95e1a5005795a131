"""Which properties of a run, or of a part of it, mean anything for the way it is made: the others are not asked for."""

from __future__ import annotations

from collections.abc import Callable

from nelvor.clauses.wiring_methods import RACEWAYS
from nelvor.judges.run.lays import Lay
from nelvor.model.things import Run

PLASTIC = frozenset({"pvc40", "pvc80"})
ALWAYS = (
    "insulation",
    "material",
    "placement",
    "method",
    "sets",
    "hot_size",
    "neutral_size",
    "ground_size",
    "ground_material",
    "neutral_as_calculated",
    "ground_by_raceway",
    "ambient_c",
    "other_current_carrying",
)


def _in_raceway(lay: Lay) -> bool:
    return lay.value("method") in RACEWAYS


def _underground(lay: Lay) -> bool:
    return bool(lay.value("placement") == "underground")


SOMETIMES: dict[str, Callable[[Lay], bool]] = {
    "burial_location": _underground,
    "cover_in": _underground,
    "roof_clearance_in": lambda lay: lay.value("placement") == "rooftop",
    "temperature_span_f": lambda lay: lay.value("method") in PLASTIC and not _underground(lay),
    "bends_deg": _in_raceway,
    "exposed_to_damage": _in_raceway,
    "raceway_size": _in_raceway,
    "ground_bare": _in_raceway,
    "in_thermal_insulation": lambda lay: lay.run.insulation == "SER" and lay.value("placement") == "indoors",
    "jacket_marked_sunlight": lambda lay: lay.run.insulation == "UF-B" and not _underground(lay),
    "armor_listed_ground": lambda lay: lay.run.insulation == "MC",
    "complied_when_installed": lambda lay: lay.run.standing == "existing",
}


def fields_of_run(run: Run) -> list[str]:
    """Return the properties that apply to a run as it lies for most of its length."""
    return [*ALWAYS, *fields_of_lay(Lay(run, run, None))]


def fields_of_lay(lay: Lay) -> list[str]:
    """Return the properties that apply to one part of a run by how it lies, of those that do not always."""
    return [name for name, applies in SOMETIMES.items() if applies(lay)]
