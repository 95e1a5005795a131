"""What goes before and after all work: sources off and proved dead, what is looked for and measured, and switching on."""

from __future__ import annotations

from collections.abc import Collection, Iterator
from dataclasses import dataclass

from nelvor.report.check import Report
from nelvor.report.work_steps import WorkStepOut, ends_of
from nelvor.topology.joints import inside
from nelvor.topology.names import name_of
from nelvor.topology.site import Site


@dataclass(frozen=True)
class AroundTheWork:
    """The two states, the boxes that are touched, those whose joints are made anew, and the runs that are put in place."""

    existing: Report
    proposed: Report
    touched: Collection[str]
    joined_anew: Collection[str]
    placed_runs: Collection[str]

    @property
    def before(self) -> Site:
        """The site as it stands."""
        return self.existing.site

    @property
    def after(self) -> Site:
        """The site as it is proposed."""
        return self.proposed.site

    def _ahead_of_service(self, enclosure_id: str) -> bool:
        return any(
            report.bonds[enclosure_id].decision == "supply_side"
            for report in (self.existing, self.proposed)
            if enclosure_id in report.bonds
        )

    def looked_for(self) -> Iterator[WorkStepOut]:
        """Yield bonds that may be in a box where neutral and metal belong apart: whether they are is seen on site."""
        for enclosure_id in self.joined_anew:
            bond = self.proposed.bonds.get(enclosure_id)
            if bond is not None and bond.decision == "apart" and bond.found == "unknown":
                name = name_of(self.after, enclosure_id)
                words = " and the ".join(joint.words for joint in inside(self.after, enclosure_id).doubtful)
                text = f"{name}: look at the {words}, and part there what joins neutral and metal."
                yield WorkStepOut(text=text, id=enclosure_id)

    def off(self) -> Iterator[WorkStepOut]:
        """Yield what is switched off, locked and proved dead."""
        sources = [item for item in self.before.document.sources]
        for source in sources:
            how = (
                "at the service disconnect" if source.kind == "utility" else "and every way that it can start by itself"
            )
            yield WorkStepOut(text=f"Switch {source.name or 'the source'} off {how}; lock and tag it.", id=source.id)
        supply = [name_of(self.after, item) for item in self.touched if self._ahead_of_service(item)]
        if supply:
            text = f"Have the utility disconnect and seal: there is work ahead of the service disconnect ({', '.join(supply)})."
            yield WorkStepOut(text=text, id="")
        yield WorkStepOut(
            text="Prove every place of the work dead, with a meter tried on a live source before and after.", id=""
        )
        yield WorkStepOut(
            text="Line-side lugs of the service disconnect stay live with its main off: cover them, keep clear.", id=""
        )

    def measured(self) -> Iterator[WorkStepOut]:
        """Yield what is measured when all is landed."""
        for enclosure_id in self.joined_anew:
            bond = self.proposed.bonds.get(enclosure_id)
            name = name_of(self.after, enclosure_id)
            if bond is not None and bond.decision == "apart":
                text = f"{name}: lift the feeder's neutral and measure neutral bar to metal: open. Land it again, torque it."
                yield WorkStepOut(text=text, id=enclosure_id)
            elif bond is not None and bond.decision == "bond":
                yield WorkStepOut(text=f"{name}: measure neutral bar to metal: joined.", id=enclosure_id)
        for run_id in self.placed_runs:
            run = self.after.runs[run_id]
            ends = " to ".join(name_of(self.after, end) for end in ends_of(self.after, run))
            yield WorkStepOut(
                text=f"Metal of {ends}: continuous; hots to each other, neutral and metal: open.", id=run_id
            )
        yield WorkStepOut(
            text="Count what was lifted: every conductor is landed and torqued again before power comes.", id=""
        )

    def on(self) -> Iterator[WorkStepOut]:
        """Yield how power comes back."""
        yield WorkStepOut(text="Covers on, spaces closed, labels and directory written, people clear.", id="")
        order = [item for item in self.after.walking_order if item in self.touched and item in self.after.enclosures]
        names = ", then ".join(name_of(self.after, item) for item in order)
        yield WorkStepOut(text=f"Switch on from the source outward{': ' + names if names else ''}.", id="")
        yield WorkStepOut(text="Measure volts between lines and to neutral at each panel touched.", id="")
        yield WorkStepOut(text="Under load, clamp the grounding and electrode conductors: no steady current.", id="")
