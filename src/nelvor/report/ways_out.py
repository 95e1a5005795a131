"""The lawful ways out of a bond in a set whose neutral is that of the house, side by side: each with what it costs and changes.

The check itself opens the bond; here come another set, and gear that opens the neutral. No way out is an outlet without an
interrupter, a cut ground pin, or the bond of the house taken out (250.30, 445.11, 702.5).
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping

from nelvor.additions.draft import Draft
from nelvor.additions.neutral_opening import in_place_of_interlock, opened_neutral
from nelvor.additions.receiver import Receiver
from nelvor.errors import CannotCompute
from nelvor.judges.bonds import BondAnswer
from nelvor.judges.verdict import Mend, Verdict, proposing
from nelvor.model.things import Source
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of
from nelvor.topology.site import Site


def with_ways_out(
    site: Site, rules: Rules, bonds: Mapping[str, BondAnswer], verdicts: Iterable[Verdict]
) -> Iterator[Verdict]:
    """Yield the verdicts, those of a second bond in a set with every lawful way out."""
    boxes = {item.enclosure_id for item in site.document.sources if item.kind == "generator"}
    for verdict in verdicts:
        second = verdict.id in boxes and verdict.code == "bond" and verdict.outcome == "must_fix"
        if second and bonds[verdict.id].decision == "floating":
            sets = [item for item in site.sources_in[verdict.id] if item.kind == "generator"]
            ways = (*verdict.mends, *_another_set(site, sets[0], verdict), *_gear(site, rules, sets[0]))
            yield verdict._replace(mends=ways)
        else:
            yield verdict


def _another_set(site: Site, source: Source, verdict: Verdict) -> Iterator[Mend]:
    """A set that is made floating in place of this one; where its own bond can be opened the same holds for it."""
    bonds = [
        item for item in site.bonds_in.get(verdict.id, []) if item.made and source.id in (item.part_a, item.part_b)
    ]
    operations = [step for bond in bonds for step in proposing("bonds", bond, made=False)]
    plate = {"name": f"{name_of(site, source.id)}, made floating", "marking": "floating_neutral"}
    yield Mend("Another set, made floating", (*operations, *proposing("sources", source, **plate)))


def _gear(site: Site, rules: Rules, source: Source) -> Iterator[Mend]:
    """Gear that opens the neutral, where the set comes in over an interlock or over gear that leaves it."""
    reached = _reached(site, source)
    for interlock in site.document.interlocks:
        ends = (site.devices.get(interlock.device_a), site.devices.get(interlock.device_b))
        for device in ends:
            if device is not None and any(run.id in reached for run in site.runs_to_part.get(device.id, [])):
                try:
                    draft = in_place_of_interlock(Receiver(site, rules, device.enclosure_id), interlock, device, source)
                except CannotCompute:
                    continue
                yield _mend("Gear that opens the neutral, in place of the interlock", draft)
    for gear in site.document.transfers:
        parts = [throw.part for throw in site.throws_of.get(gear.id, [])]
        comes_in = any(run.id in reached for part in parts for run in site.runs_to_part.get(part, []))
        if comes_in and not gear.switches_neutral and not gear.lines_only and not gear.meter_mounted:
            yield _mend("Gear that opens the neutral", opened_neutral(site, gear, source))


def _mend(label: str, draft: Draft) -> Mend:
    return Mend(label, tuple(draft.operations))


def _reached(site: Site, source: Source) -> set[str]:
    """The runs that lead on from a set, over its inlet."""
    found: set[str] = set()
    stack = [str(source.enclosure_id)]
    while stack:
        for run in site.runs_from.get(stack.pop(), []):
            beneath = site.downstream_of(run)
            found.add(run.id)
            box = site.enclosures.get(beneath)
            if box is not None and box.kind in ("inlet", "disconnect") and beneath not in site.transfer_enclosures:
                stack.append(beneath)
    return found
