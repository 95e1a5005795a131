"""What can be wrong at a site: each cause as changes of its circuit, a branch more or less, a current that comes from outside."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from nelvor.report.check import Report
from nelvor.study.branches import Branch, Circuit
from nelvor.study.diagnosis.observables import Key
from nelvor.study.impedances import BOND
from nelvor.topology.names import name_of, run_name, thing_name
from nelvor.topology.network import METAL, NEUTRAL, Node

CauseKind = Literal[
    "nothing",
    "bond_too_many",
    "bond_missing",
    "bond_otherwise",
    "neutral_open",
    "neutral_poor",
    "ground_open",
    "neutral_on_ground_bar",
    "ground_on_neutral_bar",
    "shared_neutral",
    "outside_current",
]
POOR_OHMS = (0.3, 1.0, 3.0)
OUTSIDE_A = (1.0, 2.0, 4.0, 8.0, -1.0, -2.0, -4.0, -8.0)
JOINED = frozenset({"bond", "supply_side", "bond_in_source", "existing_three_wire"})
LEAK_S = 1e-5
"""What an open conductor still lets through, in amperes per volt: metal that hangs on it alone keeps volts that can be told."""


@dataclass(frozen=True)
class Change:
    """A branch that comes or goes between two nodes, in amperes per volt; ``key`` is what its current counts to."""

    a: int
    b: int
    admittance: complex
    key: Key


@dataclass(frozen=True)
class Cause:
    """One thing that can be wrong. ``outside_a`` comes in at ``enters`` and leaves at ``leaves``, counted to ``through``.

    ``likely`` is how often it is met, as a weight among causes. Causes of one ``family`` differ in strength alone; the
    ``usual`` one stands for all of them where many are tried.
    """

    kind: CauseKind
    place: str
    words: str
    changes: tuple[Change, ...] = ()
    outside_a: float = 0.0
    enters: int = -1
    leaves: int = -1
    through: Key = ("", "", "")
    likely: float = 1.0
    usual: bool = True

    @property
    def family(self) -> tuple[str, str]:
        """What is wrong where, whatever its strength."""
        return self.kind, self.place


def causes_of(report: Report, circuit: Circuit) -> list[Cause]:
    """Return all single causes of a circuit whose bonds that are not made stand in it as branches that let nothing through."""
    return [
        Cause("nothing", "", "Nothing is wrong: all is as it is drawn", likely=10.0),
        *_bonds(report, circuit),
        *_conductors(report, circuit),
        *_landed_wrong(report, circuit),
        *_from_outside(report, circuit),
    ]


def _bonds(report: Report, circuit: Circuit) -> Iterator[Cause]:
    """A bond too many, one that is missing, and one that stands otherwise than drawn and rightly so."""
    for branch in circuit.branches:
        if branch.role not in ("bond", "no bond"):
            continue
        box = str(getattr(report.site.by_id[branch.id][1], "enclosure_id", ""))
        place, belongs = name_of(report.site, box), _belongs(report, box)
        made = branch.role == "bond"
        admittance = -1 / branch.ohms + LEAK_S if made else 1 / BOND
        changes = (Change(branch.a, branch.b, admittance, ("bonds", branch.id, "bond")),)
        match made, belongs:
            case True, True:
                yield Cause("bond_missing", branch.id, f"The bond of {place} is not made", changes, likely=2.0)
            case True, False:
                words = f"The bond at {place} is not made, though it is drawn so"
                yield Cause("bond_otherwise", branch.id, words, changes, likely=2.0)
            case False, True:
                words = f"The bond of {place} is made, though it is not drawn so"
                yield Cause("bond_otherwise", branch.id, words, changes, likely=2.0)
            case _:
                words = f"A bond stands at {place}, where none belongs"
                yield Cause("bond_too_many", branch.id, words, changes, likely=4.0)


def _belongs(report: Report, box: str) -> bool:
    """Tell whether neutral and metal are to be joined in a box."""
    decided = report.bonds.get(box)
    return decided is not None and decided.decision in JOINED


def _conductors(report: Report, circuit: Circuit) -> Iterator[Cause]:
    found: dict[tuple[str, str], list[Branch]] = defaultdict(list)
    for branch in circuit.branches:
        if branch.list == "runs" and branch.role in ("neutral", "ground"):
            found[branch.id, branch.role].append(branch)
    for (run_id, role), branches in found.items():
        name = run_name(report.site, report.site.runs[run_id])
        key = ("runs", run_id, role)
        opened = tuple(Change(item.a, item.b, -1 / item.ohms + LEAK_S, key) for item in branches)
        if role == "ground":
            yield Cause("ground_open", run_id, f"The grounding conductor of {name} is open or missing", opened)
            continue
        yield Cause("neutral_open", run_id, f"The neutral of {name} is open", opened)
        for ohms in POOR_OHMS:
            poor = tuple(Change(item.a, item.b, 1 / (item.ohms + ohms) - 1 / item.ohms, key) for item in branches)
            yield Cause(
                "neutral_poor",
                run_id,
                f"The neutral of {name} has a bad joint",
                poor,
                likely=0.7,
                usual=ohms == POOR_OHMS[1],
            )


def _landed_wrong(report: Report, circuit: Circuit) -> Iterator[Cause]:
    site = report.site
    of_boxes = {item: _bars(report, circuit, item) for item in site.enclosures}
    for branch in circuit.branches:
        if branch.list == "loads" and branch.id in site.by_id:
            yield from _load_landed_wrong(report, branch, of_boxes)
        if branch.list == "runs" and branch.role == "ground":
            end = site.downstream_of(site.runs[branch.id])
            neutral, _ = of_boxes.get(end, (None, None))
            if neutral is None or neutral in (branch.a, branch.b):
                continue
            key, admittance = ("runs", branch.id, "ground"), 1 / branch.ohms
            changes = (
                Change(branch.a, branch.b, -admittance + LEAK_S, key),
                Change(branch.a, neutral, admittance, key),
            )
            words = f"The grounding conductor of {run_name(site, site.runs[branch.id])} lies on the neutral bar of {name_of(site, end)}"
            yield Cause("ground_on_neutral_bar", branch.id, words, changes)


def _load_landed_wrong(
    report: Report, branch: Branch, of_boxes: dict[str, tuple[int | None, int | None]]
) -> Iterator[Cause]:
    """The neutral of a load on the ground bar of its box, or on the neutral bar of a box beside it."""
    site, load = report.site, report.site.by_id[branch.id][1]
    box = str(getattr(load, "enclosure_id", ""))
    neutral, metal = of_boxes.get(box, (None, None))
    if neutral is None or branch.b != neutral:
        return
    key, admittance, name = ("loads", branch.id, "load"), 1 / branch.ohms, thing_name(site, branch.id)
    away = Change(branch.a, branch.b, -admittance, key)
    if metal is not None:
        words = f"The neutral of {name} lies on the ground bar of {name_of(site, box)}"
        yield Cause("neutral_on_ground_bar", branch.id, words, (away, Change(branch.a, metal, admittance, key)))
    for other in _beside(report, box):
        there, _ = of_boxes.get(other, (None, None))
        if there is not None and there != neutral:
            words = f"The neutral of {name} returns over {name_of(site, other)}"
            place = f"{branch.id} {other}"
            yield Cause("shared_neutral", place, words, (away, Change(branch.a, there, admittance, key)), likely=0.5)


def _beside(report: Report, box: str) -> list[str]:
    """The box ahead, and those fed from here."""
    site = report.site
    feeding = site.feeding_run(box)
    ahead = [site.upstream_of(feeding)] if feeding is not None else []
    beneath = [site.downstream_of(run) for run in site.feeds.supplying_from.get(box, [])]
    return [item for item in (*ahead, *beneath) if item in site.enclosures]


def _bars(report: Report, circuit: Circuit, box: str) -> tuple[int | None, int | None]:
    """The nodes of the neutral bar and of the metal of a box."""
    bars = [bar for bar in report.site.bars_in.get(box, []) if bar.kind == "neutral"]
    neutral = circuit.nodes.get(Node(bars[0].id, NEUTRAL)) if bars else None
    return neutral, circuit.nodes.get(Node(box, METAL))


def _from_outside(report: Report, circuit: Circuit) -> Iterator[Cause]:
    """A neighbor's current that comes in over the water pipe and returns over the service's neutral."""
    supply = next((item.id for item in report.site.document.sources if item.kind == "utility"), None)
    leaves = circuit.nodes.get(Node(supply, NEUTRAL)) if supply is not None else None
    kinds = {item.id: item.kind for item in report.site.document.electrodes}
    for branch in circuit.branches:
        if branch.list != "electrodes" or kinds.get(branch.id) != "water_pipe" or leaves is None:
            continue
        for amperes in OUTSIDE_A:
            words = "A current from outside comes in over the water pipe, as of a neighbor whose neutral is poor"
            yield Cause(
                "outside_current",
                branch.id,
                words,
                outside_a=amperes,
                enters=branch.a,
                leaves=leaves,
                through=(branch.list, branch.id, branch.role),
                likely=0.5,
                usual=abs(amperes) == OUTSIDE_A[1],
            )
