"""What a utility's application asks of sources that run beside it, filled in as far as the design tells.

What stands on a plate, a bill or in a data sheet and not in the design is left open, with where it is read.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from nelvor.clauses.calculated_load import LevelLoad
from nelvor.model.things import Enclosure, Run, Source, Transfer
from nelvor.report.check import Report
from nelvor.report.words import SYSTEM_WORDS
from nelvor.topology.names import name_of
from nelvor.topology.pushed_in import lines_of_source, own_run, source_device

KINDS = {"generator": "Generator", "inverter": "Inverter", "battery": "Storage", "other": "Other source"}
YES_NO = {True: "yes", False: "no"}
PLATE, BILL, SHEET = "its plate", "the utility's bill", "its data sheet"
JOINED_AHEAD = "ahead of the service disconnect"


@dataclass(frozen=True)
class Entry:
    """One line of the sheet: what is asked, what the design tells, and where the rest is read ("" where nothing is open)."""

    asked: str
    told: str
    read_at: str = ""


@dataclass(frozen=True)
class Part:
    """A part of the sheet with its lines."""

    title: str
    entries: tuple[Entry, ...]


def utility_application(report: Report) -> list[Part]:
    """Return the parts of the sheet: the site, its service, each source, and what goes with it; none without a source."""
    sources = [source for source in report.site.document.sources if source.kind != "utility"]
    if not sources:
        return []
    return [
        Part("Site", tuple(_site(report))),
        Part("Service", tuple(_service(report))),
        *(Part(f"Source: {name_of(report.site, source.id)}", tuple(_source(report, source))) for source in sources),
        Part("Goes with it", tuple(_papers())),
    ]


def _site(report: Report) -> Iterator[Entry]:
    document, settings = report.site.document, report.site.document.settings
    yield Entry("Job", document.name)
    yield Entry("Address", settings.address, "" if settings.address else "the job")
    yield Entry("Owner", settings.owner, "" if settings.owner else "the job")
    who = ", ".join(item for item in (settings.contractor, settings.license and f"license {settings.license}") if item)
    yield Entry("Installer", who, "" if who else "the job")
    yield Entry("Office and permit", ", ".join(item for item in (settings.authority, settings.permit_number) if item))
    yield Entry("Account", "", BILL)
    yield Entry("Meter number", "", "the meter")


def _service(report: Report) -> Iterator[Entry]:
    site = report.site
    utility = next((source for source in site.document.sources if source.kind == "utility"), None)
    system = utility.system if utility else None
    yield Entry("Supply", SYSTEM_WORDS.get(system or "", ""), "" if system else "the meter")
    for enclosure in _services(report):
        main = site.main_of(enclosure.id)
        rating = f"main {main.rating_a:g} A" if main is not None and main.rating_a is not None else ""
        level = report.levels.get(enclosure.id)
        load = ""
        if isinstance(level, LevelLoad):
            load = f"calculated load {max(level.legs, key=lambda leg: leg.actual.number).actual.text} A"
        told = "; ".join(item for item in (rating, load) if item)
        yield Entry(f"Service disconnect: {name_of(site, enclosure.id)}", told, "" if told else "its label")
    fault = utility.fault_current_a if utility else None
    yield Entry("Available fault current", f"{fault:g} A" if fault else "", "" if fault else "the utility")


def _services(report: Report) -> list[Enclosure]:
    found = [item for item in report.site.document.enclosures if report.bonds[item.id].decision == "bond"]
    return sorted(found, key=lambda item: report.site.walking_order.index(item.id))


def _source(report: Report, source: Source) -> Iterator[Entry]:
    site = report.site
    yield Entry("Kind", KINDS.get(source.kind, source.kind))
    yield Entry("Maker and model", "", PLATE)
    yield Entry("Rated output", _output(source), "" if _output(source) else PLATE)
    lines = lines_of_source(site, source)
    yield Entry("Lines", f"{lines}" if lines else "", "" if lines else "its run, not drawn")
    yield Entry("Runs beside the utility", *_told(source.interactive, PLATE))
    yield Entry("Can feed alone", *_told(source.forms_supply, PLATE))
    if source.interactive:
        yield Entry("Listed for running beside a utility", "", PLATE)
        yield Entry("Settings of its protection", "", SHEET)
    gives = f"{source.fault_contribution_a:g} A" if source.fault_contribution_a else ""
    yield Entry("Its share of a fault current", gives, "" if gives else SHEET)
    device = source_device(site, source)
    rated = f"{device.rating_a:g} A" if device is not None and device.rating_a is not None else ""
    yield Entry("Its first device", rated, "" if rated else "its run, not drawn")
    yield from _joined(report, source)
    if source.interactive:
        yield Entry("Disconnect in reach", *_told(source.disconnect_in_reach, "the design"))
        yield Entry("Where its disconnect stands, for the utility's crew", "", "the site")


def _joined(report: Report, source: Source) -> Iterator[Entry]:
    """How it is joined: to which box, under which rule with its sum, or over which gear."""
    site = report.site
    run = own_run(site, source)
    box = _other_end(report, source, run) if run is not None else None
    if box is None:
        yield Entry("Joined at", "", "the design")
        return
    gear = next((item for item in site.document.transfers if item.enclosure_id == box), None)
    yield Entry("Joined at", f"{name_of(site, box)}{f', over transfer gear {_gear(gear)}' if gear else ''}")
    if not source.interactive:
        return
    place = {box, *(bus.id for bus in site.buses_in.get(box, []))}
    rules = [item for item in (*report.held, *report.findings) if item.code == "bus_source" and item.id in place]
    for item in rules:
        yield Entry(
            f"Rule, {item.section}", f"{item.text} {'' if item.outcome == 'holds' else '(not settled)'}".strip()
        )
    if not rules and source.utility_agrees is not None:
        yield Entry("Agreed to be joined " + JOINED_AHEAD, YES_NO[source.utility_agrees])


def _other_end(report: Report, source: Source, run: Run) -> str | None:
    site, own = report.site, {source.id, source.enclosure_id}
    ends = [site.upstream_of(run), site.downstream_of(run)]
    return next((end for end in ends if end in site.enclosures and end not in own), None)


def _gear(gear: Transfer) -> str:
    facts = (
        (gear.automatic, "automatic", "by hand"),
        (gear.switches_neutral, "switches the neutral", "leaves the neutral"),
        (gear.break_before_make, "opens before it closes", "closes before it opens"),
    )
    told = [words if value else other for value, words, other in facts if value is not None]
    return f"({', '.join(told)})" if told else ""


def _output(source: Source) -> str:
    facts = (
        (source.rated_kva, "kVA"),
        (source.rated_output_a, "A"),
        (source.rated_output_v, "V"),
    )
    return ", ".join(f"{value:g} {unit}" for value, unit in facts if value is not None)


def _told(value: bool | None, read_at: str) -> tuple[str, str]:
    return ("", read_at) if value is None else (YES_NO[value], "")


def _papers() -> Iterator[Entry]:
    yield Entry("One-line", "sheet 1 of the permit sheet")
    yield Entry("Signs", "listed on the permit sheet, words in signs.pdf")
    yield Entry("Plan of the site with meter, disconnects and sources", "", "drawn by hand")
    yield Entry("Data sheets", "", "the makers")
    yield Entry("Owner: name, signature, date", "", "the owner")
    yield Entry("Installer: name, signature, date", "", "the installer")
