"""From older versions of the job document to the present one, a step at a time."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from nelvor.model.changes.ids import FreeIds
from nelvor.model.document import VERSION

Json = dict[str, Any]
OLDER_SPELLINGS = {"aluminium": "aluminum", "material_aluminium": "material_aluminum"}
SWITCHES = frozenset({"switch", "fuses"})
BOXES_WITH_A_BUS = frozenset({"panel"})


def _only_more(value: Json) -> Json:
    """Versions 2 and 3 add lists and properties that may be left out, and change none."""
    return {**value, "version": value["version"] + 1}


def _to_4(value: Json) -> Json:
    """Version 4: buses, throws and bonds of sources as things, the field log apart, American spelling."""
    value = _spelled(value)
    lists = {name: [dict(thing) for thing in things] for name, things in value.items() if _is_list_of_things(things)}
    result = {**value, **lists, "version": 4}
    ids = FreeIds(frozenset(str(thing.get("id")) for things in lists.values() for thing in things))
    _buses(result, ids)
    _throws(result, ids)
    _inner_bonds(result, ids)
    records = result.pop("field_records", [])
    if records:
        result["field_log"] = [_without(record, "id", "standing", "proposed") for record in records]
    return result


def _is_list_of_things(value: Any) -> bool:
    return isinstance(value, list) and all(isinstance(item, dict) for item in value)


def _without(thing: Json, *names: str) -> Json:
    return {name: value for name, value in thing.items() if name not in names}


def _spelled(value: Any) -> Any:
    """Return a JSON value in the American spelling of fields and closed words; free texts are left alone."""
    if isinstance(value, list):
        return [_spelled(item) for item in value]
    if isinstance(value, dict):
        return {
            "armor_listed_ground" if name == "armour_listed_ground" else name: OLDER_SPELLINGS.get(inner, inner)
            if isinstance(inner, str) and name in ("material", "ground_material", "conductor_material", "key")
            else _spelled(inner)
            for name, inner in value.items()
        }
    return value


def _buses(job: Json, ids: FreeIds) -> None:
    """What ``rating_a`` of an enclosure meant: a meter's class, a switch's or frame's rating, or a bus."""
    transfers = {item.get("enclosure_id"): item for item in job.get("transfers", [])}
    mains: dict[Any, list[Json]] = {}
    for device in job.get("devices", []):
        if device.get("role") == "main":
            mains.setdefault(device.get("enclosure_id"), []).append(device)
    on_a_bus = _on_a_bus(job)
    for enclosure in job.get("enclosures", []):
        moved = _taken(enclosure, "rating_a", "spaces", "half_size_spaces")
        kind, own_mains = enclosure.get("kind", "panel"), mains.get(enclosure.get("id"), [])
        with_bus = kind in BOXES_WITH_A_BUS or "spaces" in moved or "half_size_spaces" in moved
        if kind == "meter" and not with_bus:
            _give(enclosure, moved, "meter_class_a")
        elif len(own_mains) == 1 and not with_bus:
            _give(own_mains[0], moved, "frame_a")
        elif enclosure.get("id") in transfers and not with_bus:
            _give(transfers[enclosure["id"]], moved, "rating_a")
        elif moved or with_bus:
            if len(own_mains) == 1 and own_mains[0].get("kind") in SWITCHES:
                _give(own_mains[0], moved, "frame_a")
            job.setdefault("buses", []).append(_bus(enclosure, moved, own_mains, on_a_bus, ids))


def _on_a_bus(job: Json) -> dict[str, list[Json]]:
    """Devices and lugs by their enclosure, but mains, which feed its bus."""
    found: dict[str, list[Json]] = {}
    for part in [*job.get("devices", []), *job.get("lugs", [])]:
        if part.get("role") != "main":
            found.setdefault(str(part.get("enclosure_id")), []).append(part)
    return found


def _taken(thing: Json, *names: str) -> dict[str, dict[str, Any]]:
    """Take properties out of a thing: existing and proposed values of each that is not empty."""
    found: dict[str, dict[str, Any]] = {}
    for side, values in (("existing", thing), ("proposed", dict(thing.get("proposed") or {}))):
        for name in names:
            if name in values:
                taken = values.pop(name)
                if side == "proposed" or taken is not None:
                    found.setdefault(name, {})[side] = taken
        if side == "proposed" and thing.get("proposed"):
            thing["proposed"] = values
    return found


def _give(thing: Json, moved: dict[str, dict[str, Any]], name: str) -> None:
    rating = moved.get("rating_a", {})
    if "existing" in rating:
        thing[name] = rating["existing"]
    if "proposed" in rating:
        thing["proposed"] = {**thing.get("proposed", {}), name: rating["proposed"]}


def _bus(
    enclosure: Json, moved: dict[str, dict[str, Any]], mains: list[Json], on_a_bus: dict[str, list[Json]], ids: FreeIds
) -> Json:
    bus: Json = {"id": ids.take(f"{enclosure.get('id')}-bus"), "enclosure_id": enclosure.get("id")}
    if "standing" in enclosure:
        bus["standing"] = enclosure["standing"]
    for name, sides in moved.items():
        if "existing" in sides:
            bus[name] = sides["existing"]
        if "proposed" in sides:
            bus.setdefault("proposed", {})[name] = sides["proposed"]
    if len(mains) == 1:
        bus["fed_by"] = mains[0].get("id")
    for part in on_a_bus.get(str(enclosure.get("id")), []):
        part["bus_id"] = bus["id"]
    return bus


def _throws(job: Json, ids: FreeIds) -> None:
    """The two throws of transfer gear; its present position belongs to a scenario and is dropped."""
    for transfer in job.get("transfers", []):
        proposed = dict(transfer.get("proposed") or {})
        transfer.pop("standby_position", None)
        proposed.pop("standby_position", None)
        for name, words in (("normal", "Normal"), ("standby", "Standby")):
            field = f"{name}_part"
            throw = {
                "id": ids.take(f"{transfer.get('id')}-{name}"),
                "transfer_id": transfer.get("id"),
                "name": words,
                "part": transfer.pop(field, None),
            }
            if "standing" in transfer:
                throw["standing"] = transfer["standing"]
            if field in proposed:
                throw["proposed"] = {"part": proposed.pop(field)}
            job.setdefault("throws", []).append(throw)
        if transfer.get("proposed"):
            transfer["proposed"] = proposed


def _inner_bonds(job: Json, ids: FreeIds) -> None:
    """A bond within a source is a bond like any other; it needs the box that the source stands in."""
    for source in job.get("sources", []):
        moved = _taken(source, "neutral_bonded_inside").get("neutral_bonded_inside")
        if not moved:
            continue
        kind = source.get("kind") if source.get("kind") in ("generator", "inverter") else "junction_box"
        box: Json = {"id": ids.take(f"{source.get('id')}-box"), "name": source.get("name", ""), "kind": kind}
        bond: Json = {
            "id": ids.take(f"{source.get('id')}-bond"),
            "enclosure_id": box["id"],
            "kind": "factory",
            "part_a": source.get("id"),
            "part_b": box["id"],
            "made": moved.get("existing"),
        }
        if "proposed" in moved:
            bond["proposed"] = {"made": moved["proposed"]}
        for thing in (box, bond):
            if "standing" in source:
                thing["standing"] = source["standing"]
        job.setdefault("enclosures", []).append(box)
        job.setdefault("bonds", []).append(bond)
        source["enclosure_id"] = box["id"]


STEPS: dict[int, Callable[[Json], Json]] = {1: _only_more, 2: _only_more, 3: _to_4}


def known_version(version: Any) -> bool:
    """Tell whether a document of this version can be read."""
    return isinstance(version, int) and not isinstance(version, bool) and (version == VERSION or version in STEPS)


def migrated(value: Json) -> Json:
    """Return the document in the present version. The version must be known."""
    while value["version"] != VERSION:
        value = STEPS[value["version"]](value)
    return value
