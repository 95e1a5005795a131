"""What the document can hold and the rules do not compute yet: named one by one, never passed over."""

from __future__ import annotations

from collections.abc import Iterator

from nelvor.judges.verdict import Verdict
from nelvor.model.base import Thing
from nelvor.model.things import Source, Tap
from nelvor.model.voltages import COMPUTED_SYSTEMS
from nelvor.rulebook.rules import Rules
from nelvor.topology.site import Site

DIRECT_CURRENT = {"inverter": "inverter", "battery": "battery"}
"""Sources with a side that is not computed here."""


def not_computed(site: Site, rules: Rules) -> list[Verdict]:
    """Return a *cannot tell* for each thing that is not computed yet, and for each amendment not understood."""
    return [
        *_sources(site),
        *_things(site),
        *_amendments(rules),
        *(
            _cannot_tell("runs", run, "One end of this run is taken away; feed it from elsewhere or remove it.")
            for run in site.document.runs
            if run.from_part not in site.owners or run.to_part not in site.owners
        ),
    ]


def _sources(site: Site) -> Iterator[Verdict]:
    for source in site.document.sources:
        if source.kind in DIRECT_CURRENT:
            name = source.name or source.id
            text = (
                f"The direct-current side of {name} is not computed: its modules, batteries, conductors and disconnects, "
                "and what shuts it down, have to be looked at by other means."
            )
            yield _cannot_tell("sources", source, text)
        if source.kind != "utility" and not _bond_is_judged(site, source):
            text = (
                f"Whether the neutral of {source.name or source.id} is bonded inside is not told: give it an enclosure, and "
                "enter its bond or its marking there."
            )
            yield _cannot_tell("sources", source, text, "enclosure_id")
    for source in site.document.sources:
        if source.kind == "utility" and source.system not in COMPUTED_SYSTEMS:
            why = "computed yet; 120/240 V one-phase, 208Y/120 V and 480Y/277 V are."
            text = f"The system of {source.name or source.id} is not {'entered.' if source.system is None else why}"
            yield _cannot_tell("sources", source, text, "system")


def _bond_is_judged(site: Site, source: Source) -> bool:
    """The bond inside a source is judged in its enclosure; one that stands in none has nothing to be judged by."""
    beside = bool(source.interactive) and not source.forms_supply
    return source.enclosure_id in site.enclosures or beside or source.output == "line_to_line"


def _things(site: Site) -> Iterator[Verdict]:
    document = site.document
    for path in document.metal_paths:
        yield _cannot_tell(
            "metal_paths",
            path,
            "What this metal path carries stands under Currents; whether it may lie there is for you to look at.",
        )
    for tap in document.taps:
        if not _begins_with_its_feeder(site, tap):
            text = "This tap does not begin at the device of the run that it is taken from, so it is not judged."
            yield _cannot_tell("taps", tap, text)


def _amendments(rules: Rules) -> Iterator[Verdict]:
    for item in rules.amendments_not_understood:
        text = (
            f"The local amendment “{item.key}” ({item.action.replace('_', ' ')}) is not understood; nothing of it is "
            "applied."
        )
        yield Verdict("amendment", "cannot_tell", "amendments", item.id, text)


def _begins_with_its_feeder(site: Site, tap: Tap) -> bool:
    feeder, run = site.runs.get(tap.run_id), site.runs.get(tap.tap_run_id)
    return feeder is not None and run is not None and feeder.from_part == run.from_part


def _cannot_tell(list_name: str, thing: Thing, text: str, field_name: str = "") -> Verdict:
    return Verdict("not_computed", "cannot_tell", list_name, thing.id, text, "", field_name)
