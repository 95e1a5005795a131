"""What is bought for operations: boxes, devices and wires that come anew, each with what the job holds as its price."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from nelvor.model.base import Thing
from nelvor.model.changes.operations import Insert, Operation, Put
from nelvor.model.things import Device, Enclosure
from nelvor.report.check import Report
from nelvor.report.sent import Wire
from nelvor.report.words import run_tag
from nelvor.topology.names import thing_name
from nelvor.topology.site import Site

EXCHANGED = {
    ("devices", "rating_a"): "{name} at {a:g} A",
    ("enclosures", "meter_class_a"): "{name}: a meter socket of class {a:g}",
    ("devices", "frame_a"): "{name}: a switch, or a frame, of {a:g} A",
    ("transfers", "rating_a"): "{name}: gear of {a:g} A",
    ("buses", "rating_a"): "{name}: a panel with a bus of {a:g} A",
    ("buses", "control_setting_a"): "power control with current sensors, set to {a:g} A",
    ("sources", "name"): "Another set: {a}",
    ("transfers", "switches_neutral"): "{name}: gear with a pole for the neutral",
}


class PartOut(Wire):
    """What is bought for a way, in words; ``price`` is what the job holds for an item of these words, None: nothing."""

    words: str
    price: float | None


def priced(after: Report, operations: Sequence[Operation]) -> Iterator[PartOut]:
    """Yield what is bought for operations, by the report of the document that they lead to."""
    own = {item.item: item.price for item in after.site.document.prices}
    yield from (PartOut(words=words, price=own.get(words)) for words in _parts(after, operations))


def sum_of(parts: Sequence[PartOut]) -> float | None:
    """Return the price of all parts; None where one is not priced, or there is none."""
    prices = [part.price for part in parts]
    known = [price for price in prices if price is not None]
    return round(sum(known), 2) if known and len(known) == len(prices) else None


def _parts(after: Report, operations: Sequence[Operation]) -> Iterator[str]:
    """What is bought: boxes, devices and wires that come anew, and what takes the place of others."""
    site = after.site
    things: dict[str, Thing] = {item.id: item for _, item in site.document.things()}
    for operation in operations:
        if isinstance(operation, Put) and (operation.list, operation.field) in EXCHANGED:
            yield EXCHANGED[operation.list, operation.field].format(
                name=thing_name(site, operation.id), a=operation.value
            )
        thing = things.get(operation.thing["id"]) if isinstance(operation, Insert) else None
        if isinstance(thing, Enclosure):
            yield _box_words(site, thing)
        elif isinstance(thing, Device) and thing.rating_a is not None:
            yield f"{thing.name or 'Device'}: {thing.kind}, {thing.poles} poles, {thing.rating_a:g} A"
        elif isinstance(operation, Insert) and operation.list == "runs" and operation.thing["id"] in after.runs:
            answer = after.runs[operation.thing["id"]]
            length = f"{answer.run.length_ft:g} ft" if answer.run.length_ft is not None else "length not told"
            yield f"{run_tag(answer)}, {length}"


def _box_words(site: Site, box: Enclosure) -> str:
    """A box as it is bought: a panel with its bus and its spaces."""
    name, bus = box.name or box.kind, site.bus_of(box.id)
    if box.kind != "panel" or bus is None or bus.rating_a is None:
        return name
    return f"{name}: panel, {bus.rating_a:g} A bus" + (f", {bus.spaces} spaces" if bus.spaces else "")
