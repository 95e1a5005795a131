"""What is read on a panel: the directory on its door (408.4) and the labels of its breakers (110.3(B))."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence

from nelvor.judges.panelboard.placed import PlacedCircuit
from nelvor.judges.panelboard.standing import name_in
from nelvor.judges.verdict import Judge, Mend, proposing
from nelvor.topology.site import Site

NAMED = frozenset({"branch", "feeder", "source"})
SAYS_NOTHING = frozenset(
    {
        "light",
        "lights",
        "lighting",
        "plug",
        "plugs",
        "outlet",
        "outlets",
        "receptacle",
        "receptacles",
        "misc",
        "general",
    }
    | {"appliance", "equipment", "power", "room", "other", "unknown", "old", "new", "?", "-"}
)
MOST_NAMED = 6


def judge_door(site: Site, judge: Judge, circuits: Sequence[PlacedCircuit]) -> None:
    """Judge the directory and the labels of the breakers of one bus."""
    _directory(site, judge, [item for item in circuits if item.device.role in NAMED and item.device.space is not None])
    _labels(site, judge, [item for item in circuits if item.device.space is not None])


def _directory(site: Site, judge: Judge, circuits: Sequence[PlacedCircuit]) -> None:
    """Each circuit is described so that it is told from all others (408.4(A)); a feeder by where it goes."""
    words = {item.device.id: _words(site, item) for item in circuits}
    often = Counter(words.values())
    silent = [item for item in circuits if not words[item.device.id]]
    vague = [item for item in circuits if words[item.device.id].lower() in SAYS_NOTHING]
    alike = [item for item in circuits if often[words[item.device.id]] > 1 and item not in (*silent, *vague)]
    for code, found, text in (
        ("directory", silent, "The directory says nothing of {}. Find out what each serves and write it down."),
        (
            "directory_words",
            vague,
            "What the directory says of {} does not tell what it serves: name the room or the appliance.",
        ),
        ("directory_alike", alike, "The directory says the same of {}: write what tells them apart."),
    ):
        if found:
            judge.advise(code, text.format(_spaces(found)), "circuit_directory")
    if circuits and not (silent or vague or alike):
        judge.holds("directory", "Each circuit of the directory is told from all others.", "circuit_directory")


def _words(site: Site, circuit: PlacedCircuit) -> str:
    device = circuit.device
    if device.name.strip():
        return " ".join(device.name.split())
    leads = [run for run in site.runs_from.get(device.enclosure_id, []) if run.from_part == device.id]
    return f"to {site.downstream_of(leads[0])}" if leads else ""


def _spaces(circuits: Sequence[PlacedCircuit]) -> str:
    numbers = [str(item.device.space) for item in circuits[:MOST_NAMED]]
    more = f" and {len(circuits) - MOST_NAMED} more" if len(circuits) > MOST_NAMED else ""
    if len(numbers) == 1:
        return f"space {numbers[0]}"
    return f"spaces {', '.join(numbers)}{more}" if more else f"spaces {', '.join(numbers[:-1])} and {numbers[-1]}"


def _labels(site: Site, judge: Judge, circuits: Sequence[PlacedCircuit]) -> None:
    """A breaker fits by its listing, not by its shape: the panel's label names the series that it takes."""
    unread = [item for item in circuits if not item.device.series and item.device.listed_for_panel is None]
    for item in circuits:
        _label(site, judge, item)
    if unread and len(unread) < len(circuits):
        text = f"The series of the breakers in {_spaces(unread)} is not read: look at their labels."
        judge.cannot_tell("breaker_series", text, "listed_use")


def _label(site: Site, judge: Judge, circuit: PlacedCircuit) -> None:
    device = circuit.device
    series = site.enclosures[device.enclosure_id].series
    about, name = judge.about("devices", device.id), name_in(site, device)
    same = bool(series) and device.series.strip().lower() == series.strip().lower()
    marked = f"series {device.series}" if device.series else "its series"
    if device.listed_for_panel or (same and device.listed_for_panel is None):
        about.holds("breaker_series", f"{name}: the panel takes {marked}.", "listed_use")
    elif device.listed_for_panel is False:
        text = f"{name} is not listed for this panel ({marked}): that it fits does not make it safe. Replace it."
        change = {"series": series, "listed_for_panel": True}
        mend = Mend(f"{name}: a breaker that the panel's label names", proposing("devices", device, **change))
        about.must_fix("breaker_series", text, "listed_use", "series", mend)
    elif device.series and series:
        text = (
            f"{name} is of series {device.series}, the panel of series {series}. Read whether its label names that too."
        )
        about.cannot_tell("breaker_series", text, "listed_use", "listed_for_panel")
