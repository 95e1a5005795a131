"""The leads of a box of switches, in words: what is spliced at the breaker of each circuit, and what stays where it lands."""

from __future__ import annotations

from nelvor.model.things import CircuitSwitch, Run
from nelvor.topology.names import name_of, thing_name
from nelvor.topology.site import Site


def bring_leads(site: Site, run: Run) -> str:
    """Return the step by which the leads come into their panel, with the neutral and the grounding conductor of the box."""
    box, panel = (name_of(site, end) for end in (site.upstream_of(run), site.downstream_of(run)))
    return f"Bring the leads of {box} into {panel}; land and torque its neutral and its grounding conductor on the bars there."


def switch_words(site: Site, switch: CircuitSwitch, comes: bool) -> str:
    """Return the step of a switch that comes, or of one that goes while its box stays."""
    name = thing_name(site, switch.id)
    if not comes:
        return f"Take {name} out."
    place = _breaker(site, switch)
    if not place:
        return f"{name}: it is free; cap both its leads."
    return (
        f"{name}: take the wire of {place} off its breaker, land one lead there and splice the other to the wire; neutral and ground "
        "stay where they land."
    )


def back_on_breaker(site: Site, switch: CircuitSwitch) -> str:
    """Return the step of a circuit that a switch moved and moves no more; "" where its breaker is gone, or it had none."""
    place = _breaker(site, switch)
    return f"Land the wire of {place} on its breaker again, without the lead." if place else ""


def _breaker(site: Site, switch: CircuitSwitch) -> str:
    device = site.devices.get(switch.device_id or "")
    if device is None:
        return ""
    space = f" space {device.space}" if device.space is not None else ""
    return f"{thing_name(site, device.id)} ({name_of(site, device.enclosure_id)}{space})"
