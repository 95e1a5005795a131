"""How a source that runs beside the utility is joined: by a device of its own (705.30(A)), and over a transformer that is then
protected from both sides (705.30(F)).
"""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction

from nelvor.judges.pieces_of_equipment import in_kva, output_va
from nelvor.judges.verdict import Judge, Verdict
from nelvor.model.things import Device, Source, Transformer
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of, thing_name
from nelvor.topology.network import shares_windings
from nelvor.topology.pushed_in import own_run
from nelvor.topology.site import Site
from nelvor.working import exact


def source_connection_verdicts(site: Site, rules: Rules) -> list[Verdict]:
    """Return what is said of the connection of each source that runs beside the utility, and of transformers before it."""
    beside = [source for source in site.document.sources if source.interactive and source.kind != "utility"]
    if not beside or not any(source.kind == "utility" for source in site.document.sources):
        return []
    found: list[Verdict] = []
    for source in beside:
        if own_run(site, source) is not None:
            found += _own_device(site, rules, source)
    for transformer in site.document.transformers:
        if transformer.enclosure_id in site.enclosures and not shares_windings(site, transformer):
            found += _both_sides(site, rules, transformer)
    return found


def _own_device(site: Site, rules: Rules, source: Source) -> list[Verdict]:
    clause = "dedicated_device"
    device, name = site.connecting_device(source), name_of(site, source.id)
    judge = Judge(rules, "sources", source.id)
    if device is None:
        text = f"{name} is joined without a breaker or fused disconnect of its own. Give it one where it is joined."
        judge.must_fix(clause, text, clause)
    elif _serves_loads(site, device):
        text = f"{thing_name(site, device.id)} serves loads beside {name}. A source is joined by a device of its own."
        judge.about("devices", device.id).must_fix(clause, text, clause)
    else:
        judge.holds(clause, f"{name} is joined by {thing_name(site, device.id)} alone.", clause)
    return judge.verdicts


def _serves_loads(site: Site, device: Device) -> bool:
    return device.role != "main" and bool(site.loads_on.get(device.id) or site.circuits_of.get(device.id))


def _both_sides(site: Site, rules: Rules, transformer: Transformer) -> Iterator[Verdict]:
    """The side away from the utility needs a device of its own, unless it is rated for all that comes from there."""
    clause = "transformer_two_sources"
    pushing = [item for item in site.sources_beneath.get(transformer.enclosure_id, {}).values() if item.interactive]
    if not pushing:
        return
    judge = Judge(rules, "transformers", transformer.id)
    name, names = thing_name(site, transformer.id), " and ".join(name_of(site, item.id) for item in pushing)
    outputs = [output_va(site, item) for item in pushing]
    if any(_ends_in_a_device(site, run.to_part) for run in site.runs_from_part.get(transformer.secondary_part, [])):
        judge.holds(clause, f"{name} is protected on the side from which {names} pushes, too.", clause)
    elif transformer.kva is None or None in outputs:
        at, field = (
            (transformer.id, "kva") if transformer.kva is None else (pushing[outputs.index(None)].id, "rated_kva")
        )
        text = f"No device stands on the side of {name} from which {names} pushes. Whether it may do without is not told by the plates."
        judge.about(site.by_id[at][0], at).cannot_tell(clause, text, clause, field)
    else:
        pushed = sum((item for item in outputs if item is not None), Fraction(0))
        rated = exact(transformer.kva) * 1000
        numbers = f"{in_kva(pushed)} from {names} on its {in_kva(rated)}"
        if pushed <= rated:
            judge.holds(clause, f"{name} needs no device on that side: {numbers}.", clause)
        else:
            text = f"{name} is not protected on the side from which {names} pushes: {numbers}. Fit a device there."
            judge.must_fix(clause, text, clause)
    yield from judge.verdicts


def _ends_in_a_device(site: Site, part: str) -> bool:
    device = site.devices.get(part)
    return device is not None and device.kind != "switch"
