"""The lines of a load calculation: connected volt-amperes of a kind and the demand taken for them."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property

from nelvor.clauses.load_kind import LoadKind, amperes_per_va
from nelvor.working import Figure, Recorder, product, quotient, total

Kinds = dict[LoadKind, int]
"""How many pieces of each kind there are."""
NONE, ALL = Fraction(0), Fraction(1)


@dataclass(frozen=True)
class DemandLine:
    """One line of a load sheet: a name, what is connected, the demand taken, and how it lies on the legs.

    ``kinds`` weights the legs; ``continuous_share`` is the part of the demand that is continuous;
    ``neutral_factor`` is the part of the demand that the neutral carries.
    """

    label: str
    connected_va: Figure
    demand_va: Figure
    kinds: tuple[tuple[LoadKind, Fraction], ...]
    motor: bool = False

    @cached_property
    def _whole(self) -> Fraction:
        return total(va for _, va in self.kinds)

    @property
    def continuous_share(self) -> Fraction:
        """The part of the demand that is continuous: ``NONE`` or ``ALL`` itself where that is so."""
        steady = [va for kind, va in self.kinds if kind.continuous and va]
        if not steady:
            return NONE
        if len(steady) == len(self.kinds):
            return ALL
        share = total(steady) / self._whole
        return ALL if share == ALL else share or NONE

    @cached_property
    def _joined(self) -> tuple[tuple[LoadKind, Fraction], ...]:
        """One kind for all that are joined alike to legs and neutral, with the volt-amperes of them together."""
        alike: dict[tuple[str, bool], tuple[LoadKind, Fraction]] = {}
        for kind, va in self.kinds:
            key = kind.connection, kind.uses_neutral
            alike[key] = (kind, total((alike[key][1], va)) if key in alike else va)
        return tuple(alike.values())

    def amperes_per_demand_va(
        self, system: str, takes_part: Callable[[LoadKind], bool] | None = None
    ) -> Mapping[str, Fraction]:
        """Return the amperes on each leg for one VA of this line's demand, of the kinds that take part: by how they are joined
        to legs and neutral."""
        legs: dict[str, Fraction] = {}
        joined = self.kinds if len(self.kinds) == 1 else self._joined
        if len(joined) == 1:
            kind, va = joined[0]
            takes = va and (takes_part is None or takes_part(kind))
            return amperes_per_va(kind.connection, system) if takes else legs
        if not self._whole:
            return legs
        for kind, va in joined:
            if takes_part is None or takes_part(kind):
                share = quotient(va, self._whole)
                for leg, amperes in amperes_per_va(kind.connection, system).items():
                    part = product((amperes, share))
                    legs[leg] = total((legs[leg], part)) if leg in legs else part
        return legs


def of_category(kinds: Kinds, *categories: str) -> list[tuple[LoadKind, int]]:
    """Return the kinds of these categories with their counts, in a steady order."""
    chosen = [(kind, count) for kind, count in kinds.items() if kind.category in categories]
    if len(chosen) < 2:
        return chosen
    return sorted(
        chosen,
        key=lambda pair: (
            pair[0].category,
            -pair[0].each,
            pair[0].connection,
            pair[0].space_kind,
            pair[0].continuous,
            pair[0].uses_neutral,
            pair[0].locked_out,
            pair[0].managed,
            pair[0].apart,
            pair[0].building,
            pair[0].without_diversity,
            pair[0].motor_driven,
        ),
    )


def weights(chosen: list[tuple[LoadKind, int]]) -> tuple[tuple[LoadKind, Fraction], ...]:
    """Return each kind with its connected VA, to weight the legs."""
    return tuple([(kind, product((kind.each, count))) for kind, count in chosen])


UNIT_SOURCE = "loads here and beneath"


def sum_of(recorder: Recorder, label: str, chosen: list[tuple[LoadKind, int]]) -> Figure:
    """Return the connected volt-amperes of kinds with their counts."""
    parts = []
    for kind, count in chosen:
        name = CATEGORY_LABELS[kind.category]
        each = recorder.given(f"{name}, each", kind.each, "VA", UNIT_SOURCE)
        if count == 1:
            parts.append(each)
        else:
            pieces = recorder.given("pieces", count, "", UNIT_SOURCE)
            parts.append(recorder.multiply(f"{count} × {name.lower()}", each, pieces, unit="VA"))
    return parts[0] if len(parts) == 1 else recorder.add(label, *parts)


CATEGORY_LABELS = {
    "lighting_area": "Lighting by area",
    "small_appliance": "Small-appliance circuits",
    "laundry": "Laundry circuits",
    "range": "Ranges",
    "dryer": "Dryers",
    "water_heater": "Water heaters",
    "fastened_appliance": "Fastened appliances",
    "motor": "Motors",
    "heating": "Heating",
    "heat_pump": "Heat pumps",
    "supplementary_heat": "Supplementary heat",
    "thermal_storage": "Thermal storage",
    "cooling": "Cooling",
    "vehicle_charging": "Vehicle charging",
    "kitchen": "Kitchen equipment",
    "lighting": "Lighting",
    "receptacles": "Receptacles",
    "sign": "Signs",
    "show_window": "Show windows",
    "track_lighting": "Track lighting",
    "other": "Other loads",
}
