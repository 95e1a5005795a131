"""Whether each device can break the fault current that is available where it stands (110.9)."""

from __future__ import annotations

from nelvor.judges.verdict import Judge
from nelvor.model.things import Device, Enclosure
from nelvor.topology.site import Site
from nelvor.working import Figure, Recorder

AT_THE_SERVICE = frozenset({"bond", "supply_side"})
"""Decisions of boxes at which all that the utility gives is available, with no wire of the premises ahead."""


def judge_interrupting(site: Site, judge: Judge, recorder: Recorder, enclosure: Enclosure, decision: str) -> None:
    """Judge the devices of an enclosure whose ratings are entered, against what the utility has told of its fault current.

    The rating of a main at the service is asked for; of what is behind it, only what was read is judged.
    Behind the service the wire takes some of it away, never adds to it: what can break all of it holds there too, and
    what cannot is *cannot tell*. Behind a transformer nothing is said, as what the utility gives is no bound there.
    """
    source = site.source_of(enclosure.id)
    if source is None or source.fault_current_a is None or _behind_a_transformer(site, enclosure.id):
        return
    main = site.main_of(enclosure.id)
    if decision in AT_THE_SERVICE and main is not None and main.kind != "switch" and main.interrupting_a is None:
        text = (
            f"{source.fault_current_a:g} A are available here, and what {main.name or main.id} can break is not entered: read "
            "its label."
        )
        judge.about("devices", main.id).cannot_tell("interrupting", text, "interrupting_rating", "interrupting_a")
    devices = [item for item in site.devices_in.get(enclosure.id, []) if item.kind != "switch"]
    rated = [(device, able) for device in devices if (able := _rating(site, recorder, enclosure, device)) is not None]
    if not rated:
        return
    fault = recorder.given("Fault current available", source.fault_current_a, "A", "utility's letter")
    for device, able in rated:
        about = judge.about("devices", device.id)
        name = device.name or device.id
        told = f"{name} can break {able.text} A"
        if recorder.at_least("It can break the fault current", able, fault, clause="interrupting_rating"):
            text = f"{told}; {fault.text} A are available{'' if decision in AT_THE_SERVICE else ' at the service'}."
            about.holds("interrupting", text, "interrupting_rating", "interrupting_a")
        elif decision in AT_THE_SERVICE:
            text = f"{told}, and {fault.text} A are available. Use one rated for it."
            about.must_fix("interrupting", text, "interrupting_rating", "interrupting_a")
        else:
            about.cannot_tell("interrupting", _behind(told, fault), "interrupting_rating", "interrupting_a")


def _behind(told: str, fault: Figure) -> str:
    return (
        f"{told}, and {fault.text} A are available at the service. What the wire leaves of it here stands under Currents; "
        "use a device rated for that, or a series combination that is marked on the panel."
    )


def _rating(site: Site, recorder: Recorder, enclosure: Enclosure, device: Device) -> Figure | None:
    """The rating as it is marked: that of the device, or for all but the main that of the panel where it is higher."""
    if device is site.main_of(enclosure.id):
        able = device.interrupting_a
    else:
        able = max(device.interrupting_a or 0, enclosure.interrupting_a or 0)
    return recorder.given(f"Interrupting rating of {device.name or device.id}", able, "A", "label") if able else None


def _behind_a_transformer(site: Site, enclosure_id: str) -> bool:
    ends = (
        end for run in site.runs_to_source(enclosure_id) for end in (site.upstream_of(run), site.downstream_of(run))
    )
    return any(place in site.transformer_enclosures for place in (enclosure_id, *ends))
