"""Signs at equipment that sources come with: their disconnects, storage, power control, transfer gear; and where supplies come from."""

from __future__ import annotations

from collections.abc import Iterator

from nelvor.judges.standby import standby_runs_into
from nelvor.model.things import Building, Enclosure, Source
from nelvor.model.voltages import LINE_TO_LINE_V, LINE_TO_NEUTRAL_V
from nelvor.report.check import Report
from nelvor.report.sign import BLANK, Sign
from nelvor.topology.names import name_of, thing_name


def signs_at_equipment(report: Report) -> Iterator[Sign]:
    """Yield the signs of 225.37, 408.4(B), 690.13(B), 690.54, 702.5(C), 705.13 or 750.30(C), and 706.15(C)."""
    for source in report.site.document.sources:
        if source.kind == "battery":
            yield from _of_storage(report, source)
        elif source.kind == "inverter" and source.interactive:
            yield from _of_an_output(report, source)
    yield from _of_power_controls(report)
    yield from _of_gear(report)
    yield from _of_panels(report)
    for building in report.site.document.buildings:
        yield from _of_a_building(report, building)


def _of_an_output(report: Report, source: Source) -> Iterator[Sign]:
    device = report.site.connecting_device(source)
    if device is None:
        return
    name, section = thing_name(report.site, source.id).upper(), report.rules.section
    where = f"at {thing_name(report.site, device.id)}"
    amperes = f"{source.rated_output_a:g}" if source.rated_output_a is not None else BLANK
    volts = LINE_TO_LINE_V.get(source.system or "") or LINE_TO_NEUTRAL_V.get(source.system or "")
    given = source.rated_output_v or volts
    words = f"CONNECTION OF A SOURCE: {name}. RATED OUTPUT {amperes} A AT {f'{float(given):g}' if given else BLANK} V."
    yield Sign(device.enclosure_id, words, section("label_source_output"), where)
    if source.neutral_path is None:
        words = f"SOLAR DISCONNECT OF {name}. WARNING: SHOCK HAZARD. BOTH SIDES MAY BE LIVE WHEN IT IS OPEN."
        yield Sign(device.enclosure_id, words, section("label_pv_disconnect"), where)


def _of_storage(report: Report, source: Source) -> Iterator[Sign]:
    if source.enclosure_id is None:
        return
    words = f"STORAGE DISCONNECT: {thing_name(report.site, source.id).upper()}. NOMINAL {BLANK} V."
    if report.site.is_one_family(source.enclosure_id) is False:
        words = f"{words} FAULT CURRENT FROM IT {BLANK} A, WORKED OUT ON {BLANK}. ARC-FLASH DATA: {BLANK}."
    yield Sign(source.enclosure_id, words, report.rules.section("label_ess"), "at the disconnect of the storage")


def _of_power_controls(report: Report) -> Iterator[Sign]:
    clause = "label_control_setting"
    for bus in report.site.document.buses:
        if (
            bus.control_setting_a is None
            or not report.rules.has_section(clause)
            or bus.enclosure_id not in report.site.enclosures
        ):
            continue
        held = [thing_name(report.site, item) for item in report.site.sources_beneath.get(bus.enclosure_id, {})]
        words = (
            f"POWER CONTROL: {', '.join(held).upper() or 'SOURCES'} HELD TO {bus.control_setting_a:g} A ON THIS BUS. "
            f"SET ON {BLANK}. SETTINGS ARE FOR QUALIFIED PERSONS ONLY."
        )
        yield Sign(bus.enclosure_id, words, report.rules.section(clause), "on the panel that is controlled")


def _of_gear(report: Report) -> Iterator[Sign]:
    """Outside dwellings, the fault rating of transfer gear with the device that it rests on."""
    site, clause = report.site, "label_transfer_fault_rating"
    if not report.rules.has_section(clause):
        return
    for gear in site.document.transfers:
        enclosure = site.enclosures.get(gear.enclosure_id)
        if enclosure is None or site.is_one_family(enclosure.id) is not False:
            continue
        feeding = site.feeding_run(enclosure.id)
        ahead = site.main_of(enclosure.id) or (site.protection_ahead.get(feeding.id) if feeding else None)
        behind = f" BEHIND {thing_name(site, ahead.id).upper()}" if ahead is not None else f" BEHIND {BLANK}"
        rated = f"{enclosure.interrupting_a:g}" if enclosure.interrupting_a is not None else BLANK
        yield Sign(
            enclosure.id,
            f"FAULT RATING OF THIS TRANSFER GEAR {rated} A{behind}.",
            report.rules.section(clause),
            "on the gear",
        )


def _of_panels(report: Report) -> Iterator[Sign]:
    """Outside dwellings, each panel tells the device or equipment where its supply starts."""
    site = report.site
    for enclosure in site.document.enclosures:
        feeding = site.feeding_run(enclosure.id) if enclosure.kind == "panel" else None
        if feeding is None or site.is_one_family(enclosure.id) is not False:
            continue
        start = site.devices.get(feeding.from_part)
        words = name_of(site, site.upstream_of(feeding))
        if start is not None and start.name and start.role != "main":
            words = f"{start.name}, {words}"
        yield Sign(
            enclosure.id, f"FED FROM {words.upper()}.", report.rules.section("label_source_of_supply"), "on the panel"
        )


def _of_a_building(report: Report, building: Building) -> Iterator[Sign]:
    """At each disconnect by which a supply comes to a building, the others that it has."""
    site = report.site
    inside = [item for item in site.document.enclosures if item.building_id == building.id]
    entries = [item for item in inside if _enters(report, item)]
    own = [
        source
        for item in inside
        for source in site.sources_in.get(item.id, [])
        if source.kind != "utility" and (source.interactive or source.forms_supply)
    ]
    supplies = {item.id: f"{_comes_from(report, item)}, AT {name_of(site, item.id)}" for item in entries}
    supplies |= {item.id: f"{thing_name(site, item.id)}, IN THE BUILDING" for item in own}
    if len(supplies) < 2:
        return
    for entry in entries:
        others = "; ".join(words for key, words in supplies.items() if key != entry.id)
        words = f"THIS BUILDING HAS OTHER SUPPLIES, TOO: {others.upper()}."
        yield Sign(entry.id, words, report.rules.section("label_building_supplies"), "at the disconnect of this supply")


def _enters(report: Report, enclosure: Enclosure) -> bool:
    site = report.site
    runs = [*([run] if (run := site.feeding_run(enclosure.id)) else []), *standby_runs_into(site, enclosure.id)]
    for run in runs:
        upstream = site.enclosures.get(site.upstream_of(run))
        if upstream is None or upstream.building_id != enclosure.building_id:
            return True
    return False


def _comes_from(report: Report, enclosure: Enclosure) -> str:
    feeding = report.site.feeding_run(enclosure.id)
    standby = standby_runs_into(report.site, enclosure.id)
    run = next(iter(standby), feeding)
    return name_of(report.site, report.site.upstream_of(run)) if run is not None else BLANK
