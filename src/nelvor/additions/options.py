"""What is asked before something is added: the fewest facts without which it would be drawn wrong."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from nelvor.model.base import Length, Rating
from nelvor.model.limits import Amount, Positive
from nelvor.model.vocabulary import NeutralPath, RelayKind, SourceMarking, System

ShortWay = Annotated[Length, Field(title="Length of the new wire", json_schema_extra={"unit": "ft"})]


class Options(BaseModel):
    """Base of what is asked: closed, so that nothing typed is lost without a word."""

    model_config = ConfigDict(extra="forbid")


class OnTheWay(Options):
    """Something on the way to an enclosure: near what feeds it, or near the enclosure itself; None is where it fits."""

    near: Annotated[
        Literal["supply", "panel"] | None, Field(title="Stands near", json_schema_extra={"empty": "the same building"})
    ] = None
    distance_ft: ShortWay = 3.0


class DisconnectAheadOptions(OnTheWay):
    """A disconnect on the way to an enclosure."""

    rating_a: Annotated[
        Rating | None, Field(title="Breaker", json_schema_extra={"unit": "A", "empty": "as ahead now"})
    ] = None


class MeterMainOptions(Options):
    """A meter with a main in place of the meter."""

    rating_a: Annotated[
        Rating | None, Field(title="Its main", json_schema_extra={"unit": "A", "empty": "as behind it now"})
    ] = None


class SecondPanelOptions(Options):
    """A panel beside one, fed from a breaker of it."""

    feeder_a: Annotated[
        Rating | None, Field(title="Its breaker and main", json_schema_extra={"unit": "A", "empty": "chosen"})
    ] = None
    bus_a: Annotated[Rating | None, Field(title="Its bus", json_schema_extra={"unit": "A", "empty": "not read"})] = None
    spaces: Annotated[int, Field(ge=2, le=84, title="Spaces")] = 20
    distance_ft: ShortWay = 3.0


class TransformerOptions(OnTheWay):
    """A transformer on the way to an enclosure."""

    secondary_system: Annotated[System, Field(title="Its secondary")] = "split_120_240"
    kva: Annotated[Positive | None, Field(title="Rating", json_schema_extra={"unit": "kVA", "empty": "not read"})] = (
        None
    )


class SetOptions(Options):
    """A generator: what its plate says, and what is known of its neutral."""

    rated_kva: Annotated[
        Positive | None, Field(title="Rated output", json_schema_extra={"unit": "kVA", "empty": "not read"})
    ] = None
    breaker_a: Annotated[
        Rating | None, Field(title="Its breaker", json_schema_extra={"unit": "A", "empty": "not read"})
    ] = None
    generator_ft: Annotated[Length, Field(title="Length of its wire", json_schema_extra={"unit": "ft"})] = 20.0
    marking: Annotated[
        SourceMarking | None, Field(title="Its neutral, as marked", json_schema_extra={"empty": "as the gear needs it"})
    ] = None


class TransferOptions(SetOptions, OnTheWay):
    """Transfer gear on the way to an enclosure, and the generator on its other side."""

    neutral: Annotated[Literal["stays", "switched"], Field(title="Neutral of the gear")] = "stays"
    automatic: Annotated[bool, Field(title="Transfers by itself")] = True
    portable: Annotated[bool, Field(title="Generator on a cord")] = False
    gear_a: Annotated[
        Rating | None, Field(title="Rating of the gear", json_schema_extra={"unit": "A", "empty": "as ahead"})
    ] = None


class BackupOptions(Options):
    """An inverter that the utility passes through, as its plate and its manual tell it."""

    rated_kva: Annotated[
        Positive | None, Field(title="Rated output", json_schema_extra={"unit": "kVA", "empty": "not read"})
    ] = None
    charging_a: Annotated[
        Amount | None, Field(title="Taken to charge", json_schema_extra={"unit": "A", "empty": "not read"})
    ] = None
    breaker_a: Annotated[
        Rating | None, Field(title="Its breaker in the panel", json_schema_extra={"unit": "A", "empty": "chosen"})
    ] = None
    neutral_path: Annotated[
        NeutralPath | None, Field(title="Its neutral", json_schema_extra={"empty": "not read in its manual"})
    ] = None
    relay: Annotated[
        RelayKind | None, Field(title="Its bonding relay", json_schema_extra={"empty": "not read in its manual"})
    ] = None
    distance_ft: ShortWay = 6.0


class InletOptions(SetOptions):
    """An inlet for a generator on a cord, whose breaker in the panel the interlock holds against the main."""


class CircuitTransferOptions(SetOptions):
    """Manual gear that moves the lines of chosen circuits, and the set on its other side."""

    portable: Annotated[bool, Field(title="Generator on a cord")] = True
    feeder_a: Annotated[
        Rating | None, Field(title="Its breaker in the panel", json_schema_extra={"unit": "A", "empty": "chosen"})
    ] = None
    gear_a: Annotated[
        Rating | None, Field(title="Rating of the gear", json_schema_extra={"unit": "A", "empty": "not read"})
    ] = None
    spaces: Annotated[int, Field(ge=2, le=42, title="Spaces for circuits")] = 10
    distance_ft: ShortWay = 3.0


class SwitchBoxOptions(SetOptions):
    """A box with a switch for each of some circuits, whose breakers stay in the panel, and the set that it takes them to."""

    portable: Annotated[bool, Field(title="Generator on a cord")] = True
    switches: Annotated[int, Field(ge=1, le=20, title="Switches, one for each pole")] = 6
    gear_a: Annotated[
        Rating | None, Field(title="Rating of the box", json_schema_extra={"unit": "A", "empty": "not read"})
    ] = None
    distance_ft: ShortWay = 2.0


class InverterOptions(Options):
    """A source that runs beside the utility and gives over its lines alone, as its plate tells it; amperes are of each line."""

    output_a: Annotated[
        Rating | None, Field(title="Rated output", json_schema_extra={"unit": "A", "empty": "not read"})
    ] = None
    lines: Annotated[Literal["two", "three"], Field(title="Lines it gives over")] = "two"
    device_a: Annotated[
        Rating | None, Field(title="Its breaker", json_schema_extra={"unit": "A", "empty": "chosen"})
    ] = None
    largest_device_a: Annotated[
        Rating | None, Field(title="Largest device", json_schema_extra={"unit": "A", "empty": "not read"})
    ] = None
    distance_ft: ShortWay = 20.0


class BesideOptions(InverterOptions):
    """A source that feeds in, as it is added in one act: one of the sun or a battery, alone or several of a kind on one branch."""

    of: Annotated[Literal["sun", "storage"], Field(title="What it gives")] = "sun"
    charging_a: Annotated[
        Amount | None, Field(title="Taken to charge", json_schema_extra={"unit": "A", "empty": "storage: not read"})
    ] = None
    units: Annotated[int, Field(ge=1, le=60, title="Of them on this branch")] = 1
