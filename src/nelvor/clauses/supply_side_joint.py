"""A source joined ahead of the service disconnect: least conductor, how much may be joined, how far its device stands."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from nelvor.model.vocabulary import LineLimiters
from nelvor.working import Figure, Recorder

Joined = Literal["outdoors", "in_dwelling", "in_other"]
SHORT = {"copper": "cu", "aluminum": "al"}


def least_size(recorder: Recorder, material: str) -> Figure:
    """Return the least size of the conductors to the source's disconnect (705.11(B), from 2020 on)."""
    return recorder.parameter(f"supply_side_least_size_{SHORT[material]}", "Least size to a supply-side disconnect")


@dataclass(frozen=True)
class Ending:
    """How a rule ends: None where it is not told by figures. ``by_limiters`` tells that limiters decide it."""

    passes: bool | None
    why: str
    by_limiters: bool = False


def within_the_service(
    recorder: Recorder, outputs: Figure, devices: Figure | None, service: Figure | None, conductors: Figure | None
) -> Ending:
    """Judge how much is joined: 2017 by devices against the service's rating, later by outputs against its conductors.

    Where the utility's conductors alone carry the sources, ``conductors`` is None: the utility tells whether they may.
    """
    clause = "supply_side_sum"
    if recorder.rules.parameter("supply_side_by_devices").value == "1":
        if devices is None or service is None:
            return Ending(None, "The ratings of the sources' devices, or of the service, are not known.")
        fits = recorder.at_least("Devices of sources within the service", service, devices, clause=clause)
        return Ending(fits, f"Devices of sources: {devices.text} A, service {service.text} A.")
    if conductors is None:
        return Ending(True, f"Only the utility's conductors carry the {outputs.text} A of the sources.")
    fits = recorder.at_least("Outputs within the service conductors", conductors, outputs, clause=clause)
    return Ending(fits, f"Sources give {outputs.text} A; the service conductors carry {conductors.text} A.")


def distance_to_device(
    recorder: Recorder,
    joined: Joined | None,
    device_outdoors: bool | None,
    length: Figure | None,
    limiters: LineLimiters | None = None,
) -> Ending:
    """Judge how far the unprotected conductors run to their device: 705.31 in 2017, 705.11(C) in 2020, none in 2023.

    ``limiters`` tell where each line has one, None where that is not entered; in a dwelling they help in 2017 alone.
    """
    if recorder.rules.parameter("supply_side_distance_asked").value == "0":
        return Ending(True, "This edition sets no length; the device stands as that of a service does.")
    by_place = recorder.rules.parameter("supply_side_distance_by_place").value == "1"
    if by_place and joined == "outdoors":
        return _outdoors(device_outdoors)
    if joined is None or length is None:
        return Ending(None, "Where the conductors are joined, or how long they are, is not entered.")
    clause = "supply_side_distance"
    limit = recorder.parameter(f"supply_side_distance_{joined}_ft", "Longest way to the device")
    if recorder.at_least("Device is near enough", limit, length, clause=clause):
        return Ending(True, f"{length.text} ft to its device, {limit.text} ft allowed.")
    text = f"{length.text} ft to its device; {limit.text} ft are allowed"
    if by_place:
        if joined == "in_dwelling":
            return Ending(False, f"{text}.")
        most = recorder.parameter("supply_side_with_limiters_ft", "Longest with limiters")
        if not recorder.at_least("Near enough with limiters", most, length, clause=clause):
            return Ending(False, f"{text}, {most.text} ft with cable limiters within {limit.text} ft.")
    where = f"within {limit.text} ft of the joint" if by_place else "at the joint"
    if limiters is None:
        why = f"{text}. More is allowed with limiters in each line {where}, which are not entered."
        return Ending(None, why, by_limiters=True)
    if limiters == "at_the_joint" or (by_place and limiters == "within_16_5_ft"):
        return Ending(True, f"{text}, and more with its limiters in each line {where}.", by_limiters=True)
    return Ending(False, f"{text}, and more only with limiters in each line {where}.", by_limiters=True)


def _outdoors(device_outdoors: bool | None) -> Ending:
    """Joined outdoors, the device stands outdoors, or where the conductors first enter (705.11(C), 2020)."""
    if device_outdoors is None:
        return Ending(None, "Where the disconnect of the source stands is not entered.")
    if device_outdoors:
        return Ending(True, "Joined outdoors, and its device stands outdoors.")
    text = (
        "Joined outdoors, and its device stands indoors: it has to be where the conductors enter, at the nearest point."
    )
    return Ending(None, text)
