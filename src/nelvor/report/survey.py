"""What is read on site, box by box: the properties of the standing things, with what is still to be read."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

from pydantic import BaseModel, ConfigDict

from nelvor.clauses.wiring_methods import RACEWAYS
from nelvor.judges.appliance_frames import WITH_OLD_FRAMES
from nelvor.judges.run.applies import fields_of_run
from nelvor.model.base import Thing
from nelvor.model.things import Device, Run
from nelvor.topology.names import thing_name
from nelvor.topology.site import Site

Kind = Literal["number", "length", "choice", "yes-no", "text"]


class SurveyItem(BaseModel):
    """One property to read: where it stands in the document, what it is called, and whether it is read."""

    model_config = ConfigDict(frozen=True)

    list: str
    id: str
    field: str
    label: str
    kind: Kind
    unit: str = ""
    read: bool


class SurveyBox(BaseModel):
    """A standing enclosure with what is read at it: on its label, inside it, and of the run that feeds it."""

    model_config = ConfigDict(frozen=True)

    id: str
    items: tuple[SurveyItem, ...]


Asked = tuple[str, str, Kind, str]

AT_ANY: tuple[Asked, ...] = (("placement", "Placed", "choice", ""), ("termination_c", "Lugs marked", "choice", ""))
OF_RUN: tuple[Asked, ...] = (
    ("method", "Wiring method", "choice", ""),
    ("placement", "Where it lies", "choice", ""),
    ("insulation", "Type", "choice", ""),
    ("material", "Metal", "choice", ""),
    ("length_ft", "Length", "length", ""),
    ("cover_in", "Cover", "number", "in"),
    ("complied_when_installed", "Lawful when installed", "yes-no", ""),
)


def survey(site: Site) -> list[SurveyBox]:
    """Return the checklist of the standing enclosures in walking order."""
    order = [*site.walking_order, *(item for item in site.enclosures if item not in site.feeds.root)]
    return [
        SurveyBox(id=enclosure_id, items=tuple(_items(site, enclosure_id)))
        for enclosure_id in order
        if site.enclosures[enclosure_id].standing == "existing"
    ]


def _items(site: Site, enclosure_id: str) -> Iterator[SurveyItem]:
    feeding = site.feeding_run(enclosure_id)
    if feeding is not None and feeding.standing == "existing" and site.upstream_of(feeding) not in site.sources:
        yield from _of_run(site, feeding)
    yield from _of_label(site, enclosure_id)
    yield from _of_inside(site, enclosure_id)


def _of_run(site: Site, run: Run) -> Iterator[SurveyItem]:
    applies = {*fields_of_run(run), "length_ft"}
    old_three_wire = not site.has_conductor(run, "ground") and site.protection_ahead.get(run.id) is not None
    for field, label, kind, unit in OF_RUN:
        if field in applies and (field != "complied_when_installed" or old_three_wire):
            yield _item("runs", run, field, label, kind, unit)
    yield _item("runs", run, "hot_size", "Size of the lines", "choice")
    if run.method in RACEWAYS:
        for role, field in (("neutral", "neutral_size"), ("ground", "ground_size")):
            if site.has_conductor(run, role):
                yield _item("runs", run, field, f"Size of the {role}", "choice")
        yield _item("runs", run, "raceway_size", "Raceway", "choice", "in")


def _of_label(site: Site, enclosure_id: str) -> Iterator[SurveyItem]:
    enclosure = site.enclosures[enclosure_id]
    if enclosure.kind == "meter":
        yield _item("enclosures", enclosure, "meter_class_a", "Class of the meter", "number", "A")
    else:
        yield _item("enclosures", enclosure, "service_marking", "Marked", "choice")
    for field, label, kind, unit in AT_ANY:
        yield _item("enclosures", enclosure, field, label, kind, unit)
    for bus in site.buses_in.get(enclosure_id, []):
        yield _item("buses", bus, "rating_a", "Bus rating", "number", "A")
    if enclosure.kind == "panel":
        yield _item("enclosures", enclosure, "openings_closed", "Unused openings closed", "yes-no")
    for device in site.devices_in.get(enclosure_id, []):
        name = device.name or ("Main" if device.role == "main" else thing_name(site, device.id))
        if device.standing == "existing" and not _read_from_the_door(device):
            yield _item("devices", device, "rating_a", name, "number", "A")


def _read_from_the_door(device: Device) -> bool:
    """A circuit in its space is entered with its panel; it is asked for here only where its rating is missing."""
    return device.role in ("branch", "spare") and device.space is not None and device.rating_a is not None


def _of_inside(site: Site, enclosure_id: str) -> Iterator[SurveyItem]:
    for bar in site.bars_in.get(enclosure_id, []):
        if bar.kind == "neutral" and bar.standing == "existing":
            yield _item("bars", bar, "insulated", f"{bar.name or 'Neutral bar'} insulated", "yes-no")
    for bond in site.bonds_in.get(enclosure_id, []):
        if bond.standing == "existing":
            yield _item("bonds", bond, "made", f"{bond.kind.replace('_', ' ').capitalize()} joins", "yes-no")
    for electrode in site.electrodes_at.get(enclosure_id, []):
        if electrode.standing == "existing":
            name = thing_name(site, electrode.id)
            yield _item("electrodes", electrode, "conductor_size", f"Wire to {name}", "choice")
    for load in site.loads_in.get(enclosure_id, []):
        if load.standing == "existing" and load.category in WITH_OLD_FRAMES:
            name = load.name or load.category
            yield _item("loads", load, "frame_bonded", f"Frame of {name} on its neutral", "yes-no")


def _item(list_name: str, thing: Thing, field: str, label: str, kind: Kind, unit: str = "") -> SurveyItem:
    read = getattr(thing, field) is not None
    return SurveyItem(list=list_name, id=thing.id, field=field, label=label, kind=kind, unit=unit, read=read)
