"""The signs that sources and their bonds ask for: where each hangs, its words, and the section that asks for it."""

from __future__ import annotations

from collections.abc import Iterator

from nelvor.judges.islands import islands, sources_of
from nelvor.judges.single_120_supply import fed_at_120
from nelvor.model.things import Enclosure, Source
from nelvor.report.check import Report
from nelvor.report.sign import BLANK, Sign
from nelvor.report.signs_at_equipment import signs_at_equipment
from nelvor.topology.names import name_of, thing_name

EMERGENCY_WORDS = {
    "service_disconnect": "EMERGENCY DISCONNECT, SERVICE DISCONNECT",
    "meter_disconnect": "EMERGENCY DISCONNECT, METER DISCONNECT, NOT SERVICE EQUIPMENT",
    "not_service_equipment": "EMERGENCY DISCONNECT, NOT SERVICE EQUIPMENT",
}
NEUTRAL_OF_THE_SET = {
    "floating": "FOR A SET WITH FLOATING NEUTRAL ONLY",
    "bond_in_source": "FOR A SET WITH BONDED NEUTRAL ONLY (SEPARATELY DERIVED)",
}
SERVICE, STANDBY = "bond", ("generator", "inverter", "battery", "other")


def signs_due(report: Report) -> list[Sign]:
    """Return the signs of a site, box by box in walking order.

    Of 110.24, 225.41, 702.7, 705.10, 705.12, 710.10, 710.15(C) and 230.85 for the edition in force. What the design does not tell yet, as
    the bond of a set, has no sign: the finding about it stands among the open ones.
    """
    hung = [
        *_of_buses(report),
        *_of_the_services(report),
        *_of_inlets(report),
        *_of_emergency_disconnects(report),
        *_of_fault_currents(report),
        *signs_at_equipment(report),
    ]
    order = {enclosure_id: at for at, enclosure_id in enumerate(report.site.walking_order)}
    return sorted(hung, key=lambda sign: order.get(sign.enclosure_id, len(order)))


def _of_buses(report: Report) -> Iterator[Sign]:
    """What the rule asks for by which a source may push into a bus; and of every such panel, all its sources."""
    section = report.rules.section
    for held in report.held:
        if held.code != "bus_source":
            continue
        box = held.id if held.list == "enclosures" else report.site.owners[held.id]
        if held.section == section("bus_120"):
            words = "SOURCE CONNECTION. DO NOT MOVE THIS BREAKER TO ANOTHER SPACE."
            yield Sign(box, words, held.section, "beside the breaker of the source, at the end of the bus")
        if held.section == section("bus_breaker_sum"):
            words = "FED BY SEVERAL SOURCES. ALL BREAKERS BUT THE MAIN TOGETHER MUST NOT EXCEED THE RATING OF THE BUS."
            yield Sign(box, words, held.section, "on the panel")
        names = [thing_name(report.site, item) for item in report.site.sources_beneath.get(box, {})]
        words = f"THIS PANEL IS FED FROM: {', '.join(['ITS MAIN', *(name.upper() for name in names)])}."
        yield Sign(box, words, section("label_all_sources"), "on the panel")


def _of_the_services(report: Report) -> Iterator[Sign]:
    """At each service disconnect what other sources there are; without a utility, at the first box behind the source."""
    site, section = report.site, report.rules.section
    utility = any(source.kind == "utility" for source in site.document.sources)
    own = [source for source in site.document.sources if source.kind in STANDBY]
    if not own:
        return
    listed = "; ".join(_placed(report, item) for item in own)
    if not utility:
        first = own[0].enclosure_id
        if first is not None:
            words = f"STAND-ALONE SUPPLY, NO UTILITY. SOURCES AND THEIR DISCONNECTS: {listed}."
            yield Sign(first, words, section("label_stand_alone"), "outdoors at the building, or where it is approved")
        yield from _of_single_120(report)
        return
    ahead = _ahead_of_gear(report)
    for enclosure in _services(report):
        if any(item.interactive for item in own):
            words = f"SEVERAL SOURCES SUPPLY THIS BUILDING. BESIDES THE UTILITY: {listed}."
            yield Sign(enclosure.id, words, section("source_directory"), "at the service equipment")
        shut = [thing_name(site, item.id).upper() for item in own if item.rapid_shutdown == "provided"]
        if shut:
            words = (
                f"SOLAR WITH RAPID SHUTDOWN: {', '.join(shut)}. ITS SWITCH: {BLANK}. OFF SHUTS THE SOLAR CIRCUITS DOWN."
            )
            yield Sign(
                enclosure.id, words, section("label_rapid_shutdown"), "at the service equipment, and at the switch"
            )
        for source in own:
            if source.forms_supply or source.kind == "generator":
                words = f"STANDBY SOURCE: {_placed(report, source)}."
                yield Sign(enclosure.id, words, section("label_standby_source"), "at the service equipment")
            if _decision(report, source) == "floating" and enclosure.id in ahead:
                words = (
                    "WARNING: SHOCK HAZARD. THE BOND AND THE ELECTRODE CONDUCTOR IN HERE SERVE "
                    f"{thing_name(site, source.id).upper()} TOO. DO NOT TAKE THEM OUT WHILE IT MAY RUN."
                )
                yield Sign(enclosure.id, words, section("label_standby_bond"), "where the bond is")


def _of_single_120(report: Report) -> Iterator[Sign]:
    """At each panel of both legs that a supply of 120 V feeds."""
    site = report.site
    for root, boxes in islands(site).items():
        if fed_at_120(site, sources_of(site, root, boxes), boxes):
            for box in boxes:
                if site.enclosures[box].kind == "panel":
                    words = "WARNING: SINGLE 120-VOLT SUPPLY. DO NOT CONNECT MULTIWIRE BRANCH CIRCUITS."
                    yield Sign(box, words, report.rules.section("label_single_120"), "on the panel")


def _of_inlets(report: Report) -> Iterator[Sign]:
    for enclosure in report.site.document.enclosures:
        run = report.site.feeding_run(enclosure.id) if enclosure.kind == "inlet" else None
        sets = [item for item in report.site.document.sources if run and _feeds(report, item, run.from_part)]
        words = {NEUTRAL_OF_THE_SET.get(_decision(report, item) or "") for item in sets}
        if len(words) == 1 and (text := words.pop()) is not None:
            yield Sign(enclosure.id, text, report.rules.section("label_inlet"), "at the inlet")


def _of_emergency_disconnects(report: Report) -> Iterator[Sign]:
    required = report.rules.parameter("emergency_disconnect_required").value == "1"
    for enclosure in report.site.document.enclosures:
        ahead = report.bonds[enclosure.id].decision in ("bond", "supply_side")
        marked = enclosure.emergency_marking
        words = EMERGENCY_WORDS.get(marked if ahead or marked == "none" else "not_service_equipment")
        clause = "emergency_marking" if ahead else "building_emergency_disconnect"
        if required and words and report.rules.has_section(clause):
            yield Sign(enclosure.id, words, report.rules.section(clause), "on the outside of the disconnect")


def _of_fault_currents(report: Report) -> Iterator[Sign]:
    """At the service of what is no dwelling, what the utility has told, with room for the date it is worked out on."""
    for enclosure in _services(report):
        figure = report.panels[enclosure.id].figures.get("fault_current")
        if figure is None or report.site.is_one_family(enclosure.id) is not False:
            continue
        words = f"MAXIMUM AVAILABLE FAULT CURRENT {figure.text} A, WORKED OUT ON {BLANK}."
        yield Sign(enclosure.id, words, report.rules.section("fault_current_label"), "on the service equipment")


def _services(report: Report) -> list[Enclosure]:
    site = report.site
    found = []
    for enclosure_id, bond in report.bonds.items():
        source = site.source_of(enclosure_id)
        if bond.decision == SERVICE and source is not None and source.kind == "utility":
            found.append(site.enclosures[enclosure_id])
    return found


def _feeds(report: Report, source: Source, part: str) -> bool:
    return part == source.id or report.site.owners.get(part) == source.enclosure_id


def _decision(report: Report, source: Source) -> str | None:
    """What is decided for the bond of a source: that of the enclosure it stands in."""
    bond = report.bonds.get(source.enclosure_id or "")
    return bond.decision if bond else None


def _ahead_of_gear(report: Report) -> set[str]:
    """The boxes at which a standby supply comes in, and all that is ahead of them."""
    site = report.site
    gear = report.of("standby")
    return {*gear, *(site.upstream_of(run) for box in gear for run in site.runs_to_source(box))}


def _placed(report: Report, source: Source) -> str:
    """The name of a source and where it stands; a blank to be written in where the design does not tell."""
    site, name = report.site, thing_name(report.site, source.id)
    enclosure = site.enclosures.get(source.enclosure_id or "")
    building = site.buildings.get(enclosure.building_id or "") if enclosure else None
    box = name_of(site, enclosure.id) if enclosure else ""
    at = [part for part in (box if box != name else "", building.name or building.id if building else "") if part]
    return f"{name.upper()}, AT {', '.join(at).upper() or BLANK}"
