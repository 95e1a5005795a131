"""The inlet of a set on a cord: rated for the device of the set that protects it (110.3(B))."""

from __future__ import annotations

from collections.abc import Iterator

from nelvor.judges.verdict import Judge, Mend, Verdict, proposing
from nelvor.model.things import Device, Enclosure
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of
from nelvor.topology.site import Site
from nelvor.working import exact

CLAUSE = "listed_use"


def inlet_verdicts(site: Site, rules: Rules) -> Iterator[Verdict]:
    """Yield what is said of the rating of each inlet that a set is plugged into."""
    for inlet in site.document.enclosures:
        device = device_of_the_set(site, inlet)
        if device is None or device.rating_a is None:
            continue
        judge, name = Judge(rules, "enclosures", inlet.id), name_of(site, inlet.id)
        behind = f"the {device.rating_a:g} A device of its set"
        if inlet.inlet_a is None:
            text = f"The rating of {name} is not entered: it stands behind {behind}."
            judge.cannot_tell("inlet_rating", text, CLAUSE, "inlet_a")
        elif exact(inlet.inlet_a) >= exact(device.rating_a):
            judge.holds("inlet_rating", f"{name}: {inlet.inlet_a:g} A behind {behind}.", CLAUSE)
        else:
            mend = Mend(
                f"Inlet: {inlet.inlet_a:g} A to {device.rating_a:g} A",
                proposing("enclosures", inlet, inlet_a=device.rating_a),
            )
            text = f"{name} is rated {inlet.inlet_a:g} A and stands behind {behind}."
            judge.must_fix("inlet_rating", text, CLAUSE, "inlet_a", mend)
        yield from judge.verdicts


def device_of_the_set(site: Site, inlet: Enclosure) -> Device | None:
    """Return the device at the set's end of the cord that is plugged into an inlet; None where none is drawn."""
    if inlet.kind != "inlet":
        return None
    begins = (site.devices.get(run.from_part) for run in site.runs_into.get(inlet.id, []))
    return next((device for device in begins if device is not None and device.kind != "switch"), None)
