"""What the inputs of quick figures share: strict closed models whose schema carries titles and units."""

from __future__ import annotations

from fractions import Fraction
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from nelvor.clauses import wiring_methods
from nelvor.clauses.ampacity import Circumstances
from nelvor.errors import BadInput, Issue
from nelvor.model.vocabulary import Insulation, Material
from nelvor.rulebook.rules import rulebook
from nelvor.working import Figure, Recorder, exact

ENTERED = "entered"
MOST_AMPERES = 6000
MOST_VA = 10_000_000


def quantity(title: str, unit: str = "", default: Any = ..., **limits: Any) -> Any:
    """Return a numeric field with its title, unit and limits."""
    return Field(default, title=title, json_schema_extra={"unit": unit}, allow_inf_nan=False, **limits)


def amperes(title: str, default: Any = ..., least: float = 0) -> Any:
    """Return a field for a current in A."""
    return quantity(title, "A", default, ge=least, le=MOST_AMPERES)


def rating(title: str, default: Any = ...) -> Any:
    """Return a field for the rating of a device or bus in A."""
    return quantity(title, "A", default, gt=0, le=MOST_AMPERES)


def feet(title: str, default: Any = ...) -> Any:
    """Return a field for a length in ft."""
    return quantity(title, "ft", default, gt=0, le=10_000)


def volts(title: str, default: Any = ...) -> Any:
    """Return a field for a voltage in V."""
    return quantity(title, "V", default, gt=0, le=1000)


def choice(title: str, default: Any = ...) -> Any:
    """Return a field whose values are a closed list, or yes and no."""
    return Field(default, title=title)


Edition = Annotated[str, Field(json_schema_extra={"enum": list(rulebook().editions)})]


class Part(BaseModel):
    """A strict, closed piece of the inputs."""

    model_config = ConfigDict(extra="forbid", strict=True, frozen=True)


class Inputs(Part):
    """Base of the inputs of every quick figure: the edition is named, never assumed."""

    edition: Edition = Field(title="Code edition")


class ConductorInputs(Inputs):
    """What the ampacity of conductors depends on."""

    material: Material = choice("Metal", "copper")
    insulation: Insulation = choice("Insulation or cable type", "THWN-2")
    location: Literal["dry", "wet"] = choice("Place", "dry")
    termination_c: Literal[60, 75, 90] = choice("Terminations marked, °C", 75)
    ambient_c: float = quantity("Ambient temperature", "°C", 30.0, ge=-50, le=85)
    current_carrying: int = quantity("Current-carrying conductors together", "", 3, ge=1, le=100)
    sets: int = quantity("Parallel sets", "", 1, ge=1, le=12)
    nipple: bool = choice("In a nipple of 24 in or less", False)

    def circumstances(self, recorder: Recorder, dwelling_share: bool = False) -> Circumstances:
        """Return them as the conductor rules take them.

        Raises:
            CannotCompute: the type has no rating in this place.
        """
        return Circumstances(
            material=self.material,
            insulation=self.insulation,
            insulation_c=wiring_methods.insulation_temperature(self.insulation, self.location == "wet", recorder.rules),
            termination_c=self.termination_c,
            sets=self.sets,
            ambient_c=exact(self.ambient_c),
            current_carrying=self.current_carrying,
            nipple=self.nipple,
            dwelling_share=dwelling_share,
            cap_c=wiring_methods.cable_cap_c(self.insulation),
        )


def given(recorder: Recorder, label: str, value: float | Fraction, unit: str) -> Figure:
    """Take down an input as it was entered."""
    return recorder.given(label, value, unit, ENTERED)


def given_or_none(recorder: Recorder, label: str, value: float | None, unit: str) -> Figure | None:
    """Take down an input, or None where it was left empty."""
    return None if value is None else given(recorder, label, value, unit)


def impossible(field_name: str, reason: str, remedy: str) -> BadInput:
    """Return the refusal of inputs that do not go together."""
    return BadInput([Issue("impossible_combination", field_name, reason, remedy)])
