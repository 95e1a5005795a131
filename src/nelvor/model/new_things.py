"""What a new thing comes with: the parts of a new enclosure, where its feed lands and where runs leave it, and its run.

The one definition of defaults; the interface's own is generated from it. A value that begins with ``@`` names a part
made before it, ``@box`` the enclosure itself.
"""

from __future__ import annotations

from dataclasses import asdict, dataclass, field
from typing import Any, Literal

from nelvor.model.changes.ids import FreeIds

NewKind = Literal[
    "meter",
    "disconnect",
    "panel",
    "section",
    "transformer",
    "neutral_former",
    "transfer_switch",
    "service_transfer_switch",
    "circuit_transfer",
    "switch_box",
    "generator",
    "inlet",
    "pass_through_inverter",
    "inverter",
]
BOX = "box"
ALUMINUM_XHHW = {"insulation": "XHHW-2", "material": "aluminum"}
COPPER_THWN = {"insulation": "THWN-2", "material": "copper"}


@dataclass(frozen=True)
class Part:
    """A part of a new enclosure: its list, the word that others name it by, the ending of its id, and its values."""

    list: str
    key: str
    ending: str
    values: dict[str, Any]


@dataclass(frozen=True)
class NewEnclosure:
    """A kind of enclosure as it is added: ``landing`` takes the feed, ``neutral`` and ``ground`` the other conductors.

    ``kind`` is that of the enclosure itself, where it has another name. ``run`` is how it is fed; ``run_within`` how
    where it stands in the building of what feeds it, and that is not how it is fed in any case.
    """

    name: str
    placement: str
    joins_building: bool
    parts: tuple[Part, ...]
    landing: str
    neutral: str
    ground: str
    run: dict[str, Any] = field(default_factory=dict)
    run_within: dict[str, Any] = field(default_factory=dict)
    kind: str = ""


def _bar(kind: str, name: str, insulated: bool) -> Part:
    values = {"enclosure_id": "@box", "name": name, "kind": kind, "insulated": insulated}
    return Part("bars", kind, kind[0], values)


def _transfer_switch(normal: Part) -> NewEnclosure:
    """Transfer gear; ``normal`` is what the utility's conductors land on: lugs, or the main of a service disconnect."""
    return NewEnclosure(
        "Transfer switch",
        "outdoors",
        True,
        (
            _bar("neutral", "Neutral bar", True),
            _bar("ground", "Ground bar", False),
            _bond("screw"),
            normal,
            _lugs("standby", "Generator terminals"),
            _lugs("load", "Load terminals"),
            Part("transfers", "gear", "gear", {"enclosure_id": "@box", "load_part": "@load", "rating_a": None}),
            _throw(normal.key, "Utility"),
            _throw("standby", "Generator"),
        ),
        landing=normal.key,
        neutral="neutral",
        ground="ground",
        run={"placement": "outdoors", "method": "rmc", "burial_location": None, **ALUMINUM_XHHW},
        kind="transfer_switch",
    )


def _throw(key: str, name: str) -> Part:
    values = {"transfer_id": "@gear", "name": name, "part": f"@{key}", "neutral_part": "@neutral"}
    return Part("throws", f"on {key}", f"on-{key}", values)


def _bond(kind: str, made: bool = False) -> Part:
    values = {"enclosure_id": "@box", "kind": kind, "part_a": "@neutral", "part_b": "@box", "made": made}
    return Part("bonds", "bond", "bond", values)


def _lugs(key: str, name: str) -> Part:
    return Part("lugs", key, key, {"enclosure_id": "@box", "name": name})


def _main(name: str) -> Part:
    return Part("devices", "main", "main", {"enclosure_id": "@box", "name": name, "role": "main", "rating_a": None})


CIRCUIT_TRANSFER = {
    "enclosure_id": "@box",
    "load_part": "@load",
    "rating_a": None,
    "switches_neutral": False,
    "break_before_make": True,
    "automatic": False,
    "service_rated": False,
    "lines_only": True,
}

SWITCHES = {**CIRCUIT_TRANSFER, "poles": 2, "switches_protected": True}

NEW_ENCLOSURES: dict[NewKind, NewEnclosure] = {
    "meter": NewEnclosure(
        "Meter",
        "outdoors",
        True,
        (_bar("neutral", "Neutral bar", False), _lugs("line", "Line lugs"), _lugs("load", "Load lugs")),
        landing="line",
        neutral="neutral",
        ground=BOX,
        run={"placement": "outdoors", "method": "rmc", "burial_location": None, **ALUMINUM_XHHW},
    ),
    "disconnect": NewEnclosure(
        "Disconnect",
        "outdoors",
        True,
        (
            _bar("neutral", "Neutral bar", True),
            _bar("ground", "Ground bar", False),
            _bond("screw"),
            _main("Disconnect main"),
        ),
        landing="main",
        neutral="neutral",
        ground="ground",
        run={"placement": "outdoors", "method": "rmc", "burial_location": None, **ALUMINUM_XHHW},
    ),
    "panel": NewEnclosure(
        "Panel",
        "indoors",
        False,
        (
            _bar("neutral", "Neutral bar", True),
            _bar("ground", "Ground bar", False),
            _bond("screw"),
            _main("Panel main"),
            Part(
                "buses", "bus", "bus", {"enclosure_id": "@box", "name": "", "fed_by": "@main", "numbering": "odd_even"}
            ),
        ),
        landing="main",
        neutral="neutral",
        ground="ground",
        run={"placement": "underground", "method": "pvc40", "burial_location": "general", **ALUMINUM_XHHW},
        run_within={"placement": "indoors", "method": "emt", "burial_location": None, **ALUMINUM_XHHW},
    ),
    "section": NewEnclosure(
        "Section",
        "indoors",
        True,
        (
            _bar("neutral", "Neutral bar", True),
            _bar("ground", "Ground bar", False),
            _bond("screw"),
            _lugs("main", "Main lugs"),
            Part(
                "buses", "bus", "bus", {"enclosure_id": "@box", "name": "", "fed_by": "@main", "numbering": "odd_even"}
            ),
        ),
        landing="main",
        neutral="neutral",
        ground="ground",
        run={"placement": "indoors", "method": "emt", "burial_location": None, **COPPER_THWN},
        kind="panel",
    ),
    "transformer": NewEnclosure(
        "Transformer",
        "indoors",
        True,
        (
            _bar("neutral", "Neutral point", True),
            _bar("ground", "Ground bar", False),
            _bond("wire", made=True),  # its secondary is a system of its own
            _lugs("primary", "Primary terminals"),
            _lugs("secondary", "Secondary terminals"),
            Part(
                "transformers",
                "windings",
                "windings",
                {
                    "enclosure_id": "@box",
                    "primary_part": "@primary",
                    "secondary_part": "@secondary",
                    "kva": None,
                    "secondary_system": "split_120_240",
                    "isolating": True,
                },
            ),
        ),
        landing="primary",
        neutral="neutral",
        ground="ground",
        run={"placement": "indoors", "method": "emt", "burial_location": None, **ALUMINUM_XHHW},
    ),
    "neutral_former": NewEnclosure(
        "Autotransformer",
        "indoors",
        True,
        (
            _bar("neutral", "Formed neutral", True),  # no bond: it makes no system of its own
            _bar("ground", "Ground bar", False),
            _lugs("lines", "Line terminals"),
            Part(
                "transformers",
                "windings",
                "windings",
                {
                    "enclosure_id": "@box",
                    "primary_part": "@lines",
                    "secondary_part": "@neutral",
                    "kva": None,
                    "isolating": False,
                },
            ),
        ),
        landing="lines",
        neutral="neutral",
        ground="ground",
        run={"placement": "indoors", "method": "emt", "burial_location": None, **COPPER_THWN},
        kind="transformer",
    ),
    "transfer_switch": _transfer_switch(_lugs("normal", "Utility terminals")),
    "service_transfer_switch": _transfer_switch(_main("Service main")),
    "circuit_transfer": NewEnclosure(
        "Transfer panel",
        "indoors",
        True,
        (
            _bar("neutral", "Neutral bar", True),
            _bar("ground", "Ground bar", False),
            _bond("screw"),
            _lugs("normal", "Utility terminals"),
            _lugs("standby", "Generator terminals"),
            _lugs("load", "Load terminals"),
            Part("transfers", "gear", "gear", CIRCUIT_TRANSFER),
            _throw("normal", "Utility"),
            _throw("standby", "Generator"),
            Part("buses", "bus", "bus", {"enclosure_id": "@box", "fed_by": "@load", "numbering": "odd_even"}),
        ),
        landing="normal",
        neutral="neutral",
        ground="ground",
        run={"placement": "indoors", "method": "emt", "burial_location": None, **COPPER_THWN},
        kind="panel",
    ),
    "switch_box": NewEnclosure(
        "Switch box",
        "indoors",
        True,
        (
            _bar("neutral", "Neutral bar", True),
            _bar("ground", "Ground bar", False),
            _lugs("standby", "Generator terminals"),
            _lugs("load", "Leads to the panel"),
            Part("transfers", "gear", "gear", SWITCHES),
            _throw("standby", "Generator"),
        ),
        landing="standby",
        neutral="neutral",
        ground="ground",
        run={"placement": "indoors", "method": "fmc", "burial_location": None, **COPPER_THWN},
    ),
    "generator": NewEnclosure(
        "Generator",
        "outdoors",
        False,
        (
            _bar("ground", "Ground bar", False),
            Part(
                "sources",
                "set",
                "set",
                {
                    "enclosure_id": "@box",
                    "name": "Generator",
                    "kind": "generator",
                    "output": "with_neutral",
                    "interactive": False,
                    "forms_supply": True,
                },
            ),
            Part(
                "bonds", "bond", "bond", {"enclosure_id": "@box", "kind": "factory", "part_a": "@set", "part_b": "@box"}
            ),
            _main("Generator breaker"),
        ),
        landing="main",
        neutral="set",
        ground="ground",
        run={"placement": "outdoors", "method": "lfmc", "burial_location": None, **COPPER_THWN},
    ),
    "pass_through_inverter": NewEnclosure(
        "Inverter",
        "indoors",
        True,
        (
            _bar("neutral", "Output neutral", True),
            Part(
                "bars",
                "input",
                "n-in",
                {"enclosure_id": "@box", "name": "Input neutral", "kind": "neutral", "insulated": True},
            ),
            _bar("ground", "Ground bar", False),
            _lugs("grid", "Grid terminals"),
            _lugs("output", "Backup terminals"),
            Part(
                "sources",
                "source",
                "source",
                {
                    "enclosure_id": "@box",
                    "name": "Inverter",
                    "kind": "inverter",
                    "output": "with_neutral",
                    "interactive": True,
                    "forms_supply": True,
                },
            ),
        ),
        landing="grid",
        neutral="input",
        ground="ground",
        run={"placement": "indoors", "method": "emt", "burial_location": None, **COPPER_THWN},
        kind="inverter",
    ),
    "inverter": NewEnclosure(
        "Inverter",
        "outdoors",
        True,
        (
            _bar("ground", "Ground bar", False),
            Part(
                "sources",
                "source",
                "source",
                {
                    "enclosure_id": "@box",
                    "name": "Inverter",
                    "kind": "inverter",
                    "output": "line_to_line",
                    "interactive": True,
                },
            ),
        ),
        landing="source",
        neutral="",
        ground="ground",
        run={"placement": "outdoors", "method": "emt", "burial_location": None, **COPPER_THWN},
    ),
    "inlet": NewEnclosure(
        "Inlet",
        "outdoors",
        True,
        (_bar("neutral", "Neutral terminal", True), _bar("ground", "Ground terminal", False), _lugs("pins", "Pins")),
        landing="pins",
        neutral="neutral",
        ground="ground",
        run={"placement": "outdoors", "method": "emt", "burial_location": None, **COPPER_THWN},
    ),
}


def as_data() -> dict[str, Any]:
    """Return the definitions as plain data for the interface."""
    return {kind: asdict(entry) for kind, entry in NEW_ENCLOSURES.items()}


def fitted_out(kind: NewKind, box_id: str, ids: FreeIds) -> list[tuple[str, str, dict[str, Any]]]:
    """Return an enclosure and its parts as (key, list, values), in an order in which they can be added."""
    entry = NEW_ENCLOSURES[kind]
    made = {BOX: box_id}
    found: list[tuple[str, str, dict[str, Any]]] = [
        (
            BOX,
            "enclosures",
            {"id": box_id, "name": entry.name, "kind": entry.kind or kind, "placement": entry.placement},
        )
    ]
    for part in entry.parts:
        made[part.key] = ids.take(f"{box_id}-{part.ending}")
        values = {name: made[value[1:]] if _names_a_part(value) else value for name, value in part.values.items()}
        found.append((part.key, part.list, {"id": made[part.key], **values}))
    return found


def _names_a_part(value: Any) -> bool:
    return isinstance(value, str) and value.startswith("@")
