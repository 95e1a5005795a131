"""Quick figures of grounding conductors, jumpers and electrode conductors."""

from __future__ import annotations

from typing import Literal

from nelvor.clauses import bonding_jumper, electrode_conductor, grounding_conductor
from nelvor.clauses.ampacity import size_index
from nelvor.figures.answer import Remark, Worked
from nelvor.figures.inputs import Inputs, choice, given, impossible, quantity, rating
from nelvor.figures.quick_figure import QuickFigure
from nelvor.model.vocabulary import Material, Size
from nelvor.working import Recorder

GROUP = "Grounding and bonding"


class GroundingConductorInputs(Inputs):
    device_a: float = rating("Device ahead")
    material: Material = choice("Metal of the grounding conductor", "copper")
    hot_size: Size | None = choice("Hot conductors as they are run", None)
    least_hot_size: Size | None = choice("Smallest lawful hot conductors, same metal", None)
    sets: int = quantity("Parallel raceways", "", 1, ge=1, le=12)


def _grounding_conductor(inputs: GroundingConductorInputs, recorder: Recorder) -> Worked:
    device = given(recorder, "Device ahead", inputs.device_a, "A")
    remarks: tuple[Remark, ...] = ()
    if inputs.sets > 1:
        text = f"Each of the {inputs.sets} raceways holds one of this size."
        remarks = (Remark("holds", text, "egc_parallel"),)
    if inputs.hot_size is None:
        return Worked(grounding_conductor.by_device(recorder, device, inputs.material), remarks=remarks)
    least = inputs.least_hot_size or inputs.hot_size
    if size_index(least) > size_index(inputs.hot_size):
        raise impossible(
            "hot_size",
            f"hot conductors of {inputs.hot_size} are smaller than the smallest lawful ones ({least}).",
            "Enter the size that is run, at least the lawful one.",
        )
    found = grounding_conductor.grounding_conductor(
        recorder, device, inputs.material, inputs.hot_size, least, inputs.sets
    )
    return Worked(found, remarks=remarks)


class LargestHotsInputs(Inputs):
    hot_size: Size = choice("Largest hot conductors")
    sets: int = quantity("Parallel sets", "", 1, ge=1, le=12)
    material: Material = choice("Metal of the hot conductors", "copper")


class ElectrodeConductorInputs(LargestHotsInputs):
    own_material: Material = choice("Metal of the electrode conductor", "copper")
    electrode: Literal["rods", "concrete_encased", "other"] = choice("Serves", "other")


def _electrode_conductor(inputs: ElectrodeConductorInputs, recorder: Recorder) -> Worked:
    full = electrode_conductor.electrode_conductor(
        recorder, inputs.hot_size, inputs.sets, inputs.material, inputs.own_material
    )
    if inputs.electrode == "rods":
        return Worked(electrode_conductor.to_rods(recorder, full, inputs.own_material), {"to any electrode": full})
    if inputs.electrode == "concrete_encased":
        if inputs.own_material != "copper":
            raise impossible(
                "own_material", "the conductor to concrete-encased electrodes is copper.", "Choose copper."
            )
        return Worked(electrode_conductor.to_concrete_electrode(recorder, full), {"to any electrode": full})
    return Worked(full)


class BondingJumperInputs(LargestHotsInputs):
    own_material: Material = choice("Metal of the jumper", "copper")
    jumper: Literal["main", "supply_side", "system"] = choice("Jumper", "main")


def _bonding_jumper(inputs: BondingJumperInputs, recorder: Recorder) -> Worked:
    found = bonding_jumper.supply_side_jumper(
        recorder, inputs.hot_size, inputs.sets, inputs.material, inputs.own_material
    )
    clause = {
        "main": "main_bonding_jumper_size",
        "supply_side": "supply_side_bonding_jumper",
        "system": "system_bonding_jumper",
    }[inputs.jumper]
    return Worked(
        recorder.choose(f"{inputs.jumper.replace('_', ' ')} jumper", found.text, found.unit, [found], clause=clause)
    )


FIGURES = [
    QuickFigure(
        "grounding-conductor",
        "Grounding conductor",
        "How large must the equipment grounding conductor be, also where the hots are larger than needed?",
        GROUP,
        GroundingConductorInputs,
        _grounding_conductor,
        {"edition": "2023", "device_a": 60, "material": "aluminum", "hot_size": "2", "least_hot_size": "4"},
    ),
    QuickFigure(
        "electrode-conductor",
        "Electrode conductor",
        "How large must the grounding electrode conductor be?",
        GROUP,
        ElectrodeConductorInputs,
        _electrode_conductor,
        {"edition": "2023", "hot_size": "4/0", "material": "aluminum", "electrode": "rods"},
    ),
    QuickFigure(
        "bonding-jumper",
        "Bonding jumper",
        "How large must a main, supply-side or system bonding jumper be?",
        GROUP,
        BondingJumperInputs,
        _bonding_jumper,
        {"edition": "2023", "hot_size": "4/0", "material": "aluminum"},
    ),
]
