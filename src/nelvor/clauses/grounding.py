"""The equipment grounding conductor of a run, and the jumpers and electrode conductors sized from the hots."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction

from nelvor.clauses.hot_conductors import COLUMN, circular_mils, size_index
from nelvor.errors import CannotCompute, MissingFigure
from nelvor.model.things import Run, Stretch
from nelvor.model.vocabulary import SIZES
from nelvor.rulebook.rules import Rules
from nelvor.working import Figure, Recorder

SMALLEST_KCMIL = 250
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


def grounding_conductor(recorder: Recorder, device: Figure, material: str, hots: str, smallest_hots: str) -> Figure:
    """Return the wire-type grounding conductor, increased with the hots (250.122(A) and (B)).

    ``smallest_hots`` is the smallest lawful size for the same device and load at the job's
    terminations. The comparison is exact; the next standard size up is taken; it never
    needs to be larger than the hots.
    """
    base = by_device(recorder, device, material)
    if size_index(hots) <= size_index(smallest_hots):
        return _never_above_hots(recorder, base, hots)
    chosen_area = circular_mils(recorder, hots)
    least_area = circular_mils(recorder, smallest_hots)
    ratio = recorder.divide("Hots are larger than needed by", chosen_area, least_area, "", clause="egc_upsize")
    need = recorder.multiply(
        "Area of the grounding conductor", circular_mils(recorder, base.text), ratio, unit="cmil", clause="egc_upsize"
    )
    size = _size_of_area(recorder, need.number)
    smaller = SIZES[size_index(size) - 1]
    raised = recorder.choose(
        "Grounding conductor, raised with the hots",
        size,
        "AWG/kcmil",
        [need],
        clause="egc_upsize",
        refused=f"{smaller} has a smaller area than that",
    )
    return _never_above_hots(recorder, raised, hots)


def _size_of_area(recorder: Recorder, need: Fraction) -> str:
    for size in SIZES:
        if recorder.rules.cell("conductor_dc", (size,), "area_cmil") >= need:
            return size
    raise MissingFigure("Chapter 9 Table 8", f"{float(need):.0f} cmil", recorder.rules.edition, "up to 2000 kcmil")


def _never_above_hots(recorder: Recorder, figure: Figure, hots: str) -> Figure:
    if size_index(figure.text) <= size_index(hots):
        return figure
    return recorder.choose(
        "Grounding conductor, not larger than the hots", hots, "AWG/kcmil", [figure], clause="egc_size"
    )


def supply_side_jumper(recorder: Recorder, hots: str, sets: int, material: str, jumper_material: str) -> Figure:
    """Return the size of Table 250.102(C)(1): main and supply-side jumpers, and the least service neutral.

    Raises:
        CannotCompute: aluminum and copper mixed above the table.
    """
    return _by_hots(recorder, "bonding_jumper", hots, sets, material, jumper_material, "Bonding jumper")


def electrode_conductor(recorder: Recorder, hots: str, sets: int, material: str, conductor_material: str) -> Figure:
    """Return the size of Table 250.66 for the largest ungrounded conductors."""
    return _by_hots(recorder, "electrode_conductor", hots, sets, material, conductor_material, "Electrode conductor")


def _by_hots(
    recorder: Recorder, table_name: str, hots: str, sets: int, material: str, own_material: str, label: str
) -> Figure:
    table = recorder.rules.table(table_name)
    limit_column = f"{COLUMN[material]}_service_max"
    value_column = COLUMN[own_material] if table_name == "bonding_jumper" else f"gec_{COLUMN[own_material]}"
    area = circular_mils(recorder, hots)
    if sets > 1:
        number = recorder.given("Parallel sets", sets, "", "run")
        area = recorder.multiply("Area of all sets", area, number, unit="cmil")
    for row in table.rows:
        limit = row[limit_column]
        if limit == "" or area.number <= _area_of_limit(recorder.rules, limit):
            if row[value_column].endswith("%"):
                return _share_of_area(recorder, area, material, own_material, label)
            return recorder.table_text(label, table_name, row[value_column], "AWG/kcmil", [area])
    raise MissingFigure(recorder.rules.table_title(table_name), hots, recorder.rules.edition, "all sizes")


def _area_of_limit(rules: Rules, limit: str) -> Fraction:
    """Return a table limit in circular mils; limits such as 1100 kcmil lie between the listed sizes."""
    if "/" not in limit and int(limit) >= SMALLEST_KCMIL:
        return Fraction(limit) * 1000
    return rules.cell("conductor_dc", (limit,), "area_cmil")


def _share_of_area(recorder: Recorder, area: Figure, material: str, own_material: str, label: str) -> Figure:
    if material != own_material:
        raise CannotCompute(
            f"{label} of {own_material} for {material} conductors above the table needs their equal in {own_material}.",
            "Choose the same metal, or have it sized by hand.",
        )
    share = recorder.parameter("jumper_above_table_share", "Share above the table")
    need = recorder.multiply(f"{label}, area", area, share, unit="cmil", clause="supply_side_bonding_jumper")
    return recorder.choose(
        label, _size_of_area(recorder, need.number), "AWG/kcmil", [need], clause="supply_side_bonding_jumper"
    )


def to_rods(recorder: Recorder, full: Figure, material: str) -> Figure:
    """Return the conductor that serves rods alone: it need not be larger than 6 AWG copper (250.66(A))."""
    limit = recorder.parameter(f"rod_conductor_{COLUMN[material]}", "Enough for rods alone")
    return _smaller(recorder, "Electrode conductor to rods", full, limit, "rod_conductor_not_larger")


def to_concrete_electrode(recorder: Recorder, full: Figure) -> Figure:
    """Return the copper conductor to a concrete-encased electrode: not larger than 4 AWG (250.66(B))."""
    limit = recorder.parameter("concrete_electrode_conductor_cu", "Enough for a concrete-encased electrode alone")
    return _smaller(
        recorder, "Electrode conductor to the concrete-encased electrode", full, limit, "concrete_electrode_conductor"
    )


def _smaller(recorder: Recorder, label: str, full: Figure, limit: Figure, clause: str) -> Figure:
    size = min(full.text, limit.text, key=size_index)
    return recorder.choose(label, size, "AWG/kcmil", [full, limit], clause=clause)
