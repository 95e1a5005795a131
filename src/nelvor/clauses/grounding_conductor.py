"""The equipment grounding conductor: by its device, raised with the hots, or metal in its place (250.118, 250.122)."""

from __future__ import annotations

from collections.abc import Sequence

from nelvor.clauses.ampacity import COLUMN, circular_mils, size_index
from nelvor.clauses.by_area_of_hots import size_of_area
from nelvor.model.things import Run, Stretch
from nelvor.model.vocabulary import SIZES
from nelvor.rulebook.rules import Rules
from nelvor.working import Figure, Recorder

RACEWAYS_THAT_GROUND = frozenset({"emt", "rmc", "imc", "fmc", "lfmc"})


def metal_grounds(run: Run, stretches: Sequence[Stretch]) -> bool | None:
    """Tell whether the metal around a run is its grounding conductor all along (250.118); None where that is not known.

    Armor of MC cable grounds only where it is listed for it.
    """
    if not run.ground_by_raceway:
        return False
    if run.insulation == "MC":
        return run.armor_listed_ground
    methods = {run.method, *(stretch.method or run.method for stretch in stretches)}
    return methods <= RACEWAYS_THAT_GROUND


def by_device(
    recorder: Recorder, device: Figure, material: str, label: str = "Grounding conductor for the device"
) -> Figure:
    """Return the size of Table 250.122 for a device.

    Raises:
        MissingFigure: a device above the table.
    """
    row = recorder.rules.band("grounding_conductor", device.number)
    return recorder.table_text(label, "grounding_conductor", row[COLUMN[material]], "AWG/kcmil", [device])


def as_large_as(rules: Rules, size: str, material: str, ground_material: str) -> str | None:
    """Return the grounding conductor that is as large as a supply conductor (547.9(B)(3)); None: above the table.

    Of the same metal it has the same size, of another that which Table 250.122 sets beside it.
    """
    if material == ground_material:
        return size
    own, other = COLUMN[material], COLUMN[ground_material]
    rows = rules.table("grounding_conductor").rows
    return next((row[other] for row in rows if size_index(row[own]) >= size_index(size)), None)


def grounding_conductor(
    recorder: Recorder, device: Figure, material: str, hots: str, smallest_hots: str, sets: int = 1
) -> Figure:
    """Return the wire-type grounding conductor, increased with the hots (250.122(A) and (B)).

    ``smallest_hots`` is the smallest lawful size for the same device and load at the job's
    terminations. The comparison is exact; the next standard size up is taken; it never
    needs to be larger than the hots, which in parallel sets are all of them together (250.122(F)).
    """
    base = by_device(recorder, device, material)
    if size_index(hots) <= size_index(smallest_hots):
        return _never_above_hots(recorder, base, hots, sets)
    chosen_area = circular_mils(recorder, hots)
    least_area = circular_mils(recorder, smallest_hots)
    ratio = recorder.divide("Hots are larger than needed by", chosen_area, least_area, "", clause="egc_upsize")
    need = recorder.multiply(
        "Area of the grounding conductor", circular_mils(recorder, base.text), ratio, unit="cmil", clause="egc_upsize"
    )
    size = size_of_area(recorder, need.number)
    smaller = SIZES[size_index(size) - 1]
    raised = recorder.choose(
        "Grounding conductor, raised with the hots",
        size,
        "AWG/kcmil",
        [need],
        clause="egc_upsize",
        refused=f"{smaller} has a smaller area than that",
    )
    return _never_above_hots(recorder, raised, hots, sets)


def _never_above_hots(recorder: Recorder, figure: Figure, hots: str, sets: int) -> Figure:
    if sets > 1 or size_index(figure.text) <= size_index(hots):
        return figure
    return recorder.choose(
        "Grounding conductor, not larger than the hots", hots, "AWG/kcmil", [figure], clause="egc_size"
    )
