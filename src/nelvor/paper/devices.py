"""The schedule of devices: what each protects, its poles and ratings, and whether it stands or is new."""

from __future__ import annotations

from reportlab.platypus import Table

from nelvor.judges.run import RunAnswer
from nelvor.model.things import Device
from nelvor.paper.schedule import schedule
from nelvor.report.check import Report
from nelvor.topology.names import name_of

HEAD = ("Enclosure", "Device", "Kind", "Poles", "Rating", "Marked to break", "Available, at most", "Standing")
SHARES = (22, 32, 10, 8, 18, 16, 16, 10)
KINDS = {"breaker": "breaker", "fuses": "fuses", "switch": "switch"}
STANDING = {"existing": "existing", "added": "new", "removed": "to go"}
NOT_ENTERED = "not entered"


def devices_schedule(report: Report, width: float) -> Table:
    """Return the devices of a design, box by box from the source outward, mains first."""
    site = report.site
    rows = []
    for enclosure_id in site.walking_order:
        listed = [item for item in site.devices_in.get(enclosure_id, []) if not _on_a_schedule(item)]
        devices = sorted(listed, key=lambda item: item.role != "main")
        rows += [_row(report, name_of(site, enclosure_id), device) for device in devices]
    return schedule(HEAD, rows, SHARES, width)


def _on_a_schedule(device: Device) -> bool:
    """Circuits in their spaces stand on the schedule of their panel."""
    return device.role in ("branch", "spare") and device.space is not None


def _row(report: Report, enclosure: str, device: Device) -> list[str]:
    return [
        enclosure,
        _words(report, device),
        KINDS.get(device.kind, device.kind),
        str(device.poles),
        _rating(report, device),
        f"{device.interrupting_a / 1000:g} kA" if device.interrupting_a is not None else NOT_ENTERED,
        _available(report, device),
        STANDING[device.standing],
    ]


def _available(report: Report, device: Device) -> str:
    """The fault current at its box, no more than; nothing where the utility has not told."""
    answer = report.panels.get(device.enclosure_id)
    figure = answer.figures.get("fault_current") if answer is not None else None
    return f"{float(figure.number) / 1000:.1f} kA" if figure is not None else "not told"


def _words(report: Report, device: Device) -> str:
    """The name of a device, and where what it feeds goes."""
    name = device.name or ("Main" if device.role == "main" else device.role.capitalize())
    site = report.site
    ends = [name_of(site, site.downstream_of(run)) for run in site.drawn_runs if run.from_part == device.id]
    return f"{name}, to {' and '.join(ends)}" if ends else name


def _rating(report: Report, device: Device) -> str:
    """The rating as entered; where it is left to be chosen, that of the run that it protects."""
    if device.rating_a is not None:
        return f"{device.rating_a:g} A"
    answer = next((item for item in report.runs.values() if _protects(report, device, item)), None)
    chosen = answer.figures.get("device") if answer else None
    if chosen is None:
        return NOT_ENTERED
    return f"not read ({chosen.text} A would do)" if device.is_unread("rating_a") else f"{chosen.text} A, chosen"


def _protects(report: Report, device: Device, answer: RunAnswer) -> bool:
    ahead = report.site.protection_ahead.get(answer.run.id)
    own_main = answer.kind == "service" and answer.run.to_part == device.id
    return own_main or (ahead is not None and ahead.id == device.id)
