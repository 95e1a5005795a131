"""A circuit whose neutral lands in another panel than its breaker: its current returns apart from its lines, or over metal.

This is what becomes of a circuit that is moved behind gear that opens the neutral, while its neutral is left behind (300.3(B)).
"""

from __future__ import annotations

from collections.abc import Iterator

from nelvor.judges.panelboard.standing import name_in
from nelvor.judges.verdict import Judge, Mend, Verdict, proposing
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of
from nelvor.topology.site import Site

CLAUSE = "conductors_grouped"


def stray_neutral_verdicts(site: Site, rules: Rules) -> Iterator[Verdict]:
    """Yield a finding for each circuit whose neutral is left in another panel, but behind gear that moves lines alone."""
    for wires in site.document.circuits:
        device, bar = site.devices.get(wires.device_id), site.bars.get(wires.neutral_bar or "")
        if device is None or bar is None or bar.enclosure_id == device.enclosure_id:
            continue
        judge = Judge(rules, "circuits", wires.id)
        here, there = name_of(site, device.enclosure_id), name_of(site, bar.enclosure_id)
        if any(gear.lines_only for gear in site.transfers_in.get(device.enclosure_id, [])):
            text = f"The gear of {here} moves lines alone: the neutral of {name_in(site, device)} stays in {there}."
            judge.holds("stray_neutral", text, CLAUSE)
        else:
            text = (
                f"{name_in(site, device)} stands in {here}, and its neutral was left in {there}: its current returns apart from its "
                "lines, or over metal where that neutral is opened. Move the neutral to where the breaker is."
            )
            mend = Mend(f"Land the neutral in {here}", proposing("circuits", wires, neutral_bar=None))
            judge.must_fix("stray_neutral", text, CLAUSE, "neutral_bar", mend)
        yield from judge.verdicts
