"""What is done to neutral and ground in one enclosure: make the bond, take it out, part a three-wire feed."""

from __future__ import annotations

from dataclasses import dataclass

from nelvor.judges.verdict import adding, proposing, removing
from nelvor.model.changes.ids import FreeIds
from nelvor.model.changes.operations import Operation
from nelvor.model.things import Bar, Bond, Conductor, Electrode, Enclosure, Run
from nelvor.topology.joints import Joint
from nelvor.topology.site import Site

MADE_BY_HAND = ("screw", "strap", "wire", "factory")
TAKEN_AWAY = ("branch_neutral", "branch_ground", "tied_bars", "wire")


@dataclass(frozen=True)
class Mends:
    """The operations on one enclosure and on one neutral of it."""

    site: Site
    enclosure: Enclosure
    neutral: tuple[str, ...]

    def bar(self, kind: str) -> Bar | None:
        """Return the bar of a kind; of several neutral bars the first of this neutral."""
        bars = self.site.bars_in.get(self.enclosure.id, [])
        if kind == "neutral":
            own = [part for part in self.neutral if part in self.site.bars]
            return self.site.bars[own[0]] if own else None
        return next((bar for bar in bars if bar.kind == kind), None)

    def make_bond(self) -> list[Operation]:
        """Make the bond that lies ready, or bring a new one."""
        bonds = self.site.bonds_in.get(self.enclosure.id, [])
        ready = [bond for bond in bonds if bond.kind in MADE_BY_HAND and {bond.part_a, bond.part_b} & {*self.neutral}]
        if ready:
            return list(proposing("bonds", ready[0], made=True))
        neutral = self.bar("neutral")
        part = neutral.id if neutral else self.neutral[0]  # an enclosure without any neutral is treated apart
        return [adding("bonds", self._new_bond(part, self.site.free_ids()))]

    def new_bar_and_bond(self) -> tuple[Operation, ...]:
        """Fit a neutral bar and bond it."""
        ids = self.site.free_ids()
        new_id = ids.take(f"{self.enclosure.id}-nbar")
        bar = Bar(id=new_id, enclosure_id=self.enclosure.id, kind="neutral", insulated=True)
        return adding("bars", bar), adding("bonds", self._new_bond(bar.id, ids))

    def new_ground_bar(self, ids: FreeIds) -> Bar:
        new_id = ids.take(f"{self.enclosure.id}-gbar")
        return Bar(id=new_id, enclosure_id=self.enclosure.id, kind="ground", insulated=False)

    def take_out(self, joining: tuple[Joint, ...]) -> list[Operation]:
        """Take out all that joins this neutral to the metal."""
        operations: list[Operation] = []
        for joint in joining:
            if joint.bar is not None:
                operations += proposing("bars", joint.bar, insulated=True)
            elif joint.bond is not None and joint.bond.kind in TAKEN_AWAY:
                operations.append(removing("bonds", joint.bond))
            elif joint.bond is not None:
                operations += proposing("bonds", joint.bond, made=False)
        return operations

    def convert(self, run: Run, joining: tuple[Joint, ...]) -> list[Operation]:
        """Add the grounding conductor first and part neutral and ground after it, never the other way round."""
        ids, ground_bar = self.site.free_ids(), self.bar("ground")
        operations: list[Operation] = []
        target = ground_bar.id if ground_bar else self.enclosure.id
        if ground_bar is None and self.enclosure.kind == "panel":
            new_bar = self.new_ground_bar(ids)
            operations.append(adding("bars", new_bar))
            target = new_bar.id
        operations += self._grounding_conductor(run, target, ids)
        for electrode in self.site.electrodes_at.get(self.enclosure.id, []):
            if self.on_neutral_bar(electrode):
                operations += proposing("electrodes", electrode, connects_to=target)
        return [*operations, *self.take_out(joining)]

    def add_ground(self, run: Run) -> list[Operation]:
        """Add a grounding conductor (ahead of the first device a supply-side bonding jumper) along a run."""
        ground_bar = self.bar("ground")
        target = ground_bar.id if ground_bar else self.enclosure.id
        return self._grounding_conductor(run, target, self.site.free_ids())

    def add_neutral(self, run: Run, target: str) -> list[Operation]:
        """Add a neutral conductor along a run."""
        upstream = self.site.upstream_of(run)
        bars = self.site.bars_in.get(upstream, [])
        start = next((bar.id for bar in bars if bar.kind == "neutral"), upstream)
        new_id = self.site.free_ids().take(f"{run.id}-n")
        conductor = Conductor(id=new_id, run_id=run.id, role="neutral", from_part=start, to_part=target)
        return [adding("conductors", conductor)]

    def _grounding_conductor(self, run: Run, target: str, ids: FreeIds) -> list[Operation]:
        upstream = self.site.upstream_of(run)
        bars = self.site.bars_in.get(upstream, [])
        kinds = ("ground",) if self.site.transformers_in.get(upstream) else ("ground", "neutral")
        start = next((bar.id for kind in kinds for bar in bars if bar.kind == kind), upstream)
        new_id = ids.take(f"{run.id}-g")
        conductor = Conductor(id=new_id, run_id=run.id, role="ground", from_part=start, to_part=target)
        free = proposing("runs", run, ground_size=None) if run.ground_size is not None else ()
        return [adding("conductors", conductor), *free]

    def on_neutral_bar(self, electrode: Electrode) -> bool:
        """Tell whether the conductor of an electrode lands on a neutral bar."""
        bar = self.site.bars.get(electrode.connects_to or "")
        return bar is not None and bar.kind == "neutral"

    def _new_bond(self, neutral_part: str, ids: FreeIds) -> Bond:
        return Bond(
            id=ids.take(f"{self.enclosure.id}-bond"),
            enclosure_id=self.enclosure.id,
            kind="strap",
            part_a=neutral_part,
            part_b=self.enclosure.id,
            made=True,
        )
