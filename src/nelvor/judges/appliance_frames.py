"""Frames of ranges and dryers on the neutral: what an old three-wire circuit may keep, and what may never be (250.140)."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from nelvor.judges.verdict import Judge, Mend, proposing
from nelvor.model.changes.operations import Operation
from nelvor.model.things import Circuit, Load
from nelvor.model.voltages import LINE_TO_LINE_V
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of
from nelvor.topology.site import Site
from nelvor.working import Recorder

CODE, CLAUSE = "appliance_frame", "range_dryer_existing"
WITH_OLD_FRAMES = frozenset({"range", "dryer"})
MOST_VOLTS = 240
AREA = ("conductor_dc", "area_cmil")


def judge_frames(site: Site, rules: Rules, judge: Judge, recorder: Recorder, enclosure_id: str, decision: str) -> None:
    """Judge the frame of every range and dryer on the circuits of a panel; ``decision`` is that on its neutral."""
    for load in site.loads_in.get(enclosure_id, []):
        if load.category in WITH_OLD_FRAMES:
            wires = next(iter(site.circuits_of.get(load.device_id or "", [])), None)
            _Frame(site, rules, judge.about("loads", load.id), recorder, load, wires, decision == "bond").judged()


@dataclass
class _Frame:
    """One appliance with the wires of its circuit, None where they are not entered."""

    site: Site
    rules: Rules
    judge: Judge
    recorder: Recorder
    load: Load
    wires: Circuit | None
    from_service: bool

    def judged(self) -> None:
        """Take down what is found of the frame."""
        if self.load.frame_bonded:
            self._on_the_neutral()
        elif self.load.frame_bonded is False and self._has_ground is False:
            text = (
                f"{self._name} has its frame off the neutral and no grounding conductor: a fault in it trips nothing. Run "
                "a circuit of four wires to it."
            )
            self.judge.must_fix(CODE, text, "effective_fault_path", "", self._four_wires())
        elif self.load.frame_bonded is None and self._hangs_on_it:
            why = (
                "It has no grounding conductor besides."
                if self._has_ground is False
                else f"{self._panel} is not the service equipment, and few of these may stay behind it."
            )
            text = (
                f"Whether the frame of {self._name} is joined to its neutral, as on an old three-wire circuit, is not "
                f"looked at. {why}"
            )
            self.judge.cannot_tell(CODE, text, CLAUSE, "frame_bonded")

    def _on_the_neutral(self) -> None:
        broken = next(self._broken(), None)
        if broken is not None:
            self.judge.must_fix(CODE, f"{broken} Run four wires to it.", CLAUSE, "frame_bonded", self._four_wires())
            return
        untold = self._untold()
        if untold:
            words = (
                "its neutral, how large and how covered it is, and on whether a grounding conductor comes to it besides"
            )
            text = f"Whether the frame of {self._name} may stay on the neutral hangs on {words}."
            asks = tuple((self.wires.id, item) for item in untold) if self.wires is not None else ()
            more = "" if self.wires is not None else " Enter the wires of its circuit."
            self.judge.cannot_tell(CODE, text + more, CLAUSE, "", asks)
            return
        text = f"The frame of {self._name} may stay on the neutral of its old circuit; a new circuit would need four wires."
        self.judge.holds(CODE, text, CLAUSE)

    def _broken(self) -> Iterator[str]:
        """Yield why the frame may not stay on the neutral."""
        if self._has_ground:
            yield (
                f"{self._name} has a grounding conductor, and its frame is joined to the neutral as well: a second bond, "
                "and the metal carries neutral current."
            )
        if self._is_new:
            yield f"The circuit of {self._name} is new: its frame may not be joined to the neutral."
        volts = LINE_TO_LINE_V.get(self.site.system_at(self.load.enclosure_id) or "")
        if volts is not None and volts > MOST_VOLTS:
            yield f"{self._name} is on a system of {volts} V: its frame may not be joined to the neutral."
        if self.wires is None:
            return
        if self._large_enough() is False:
            yield f"The neutral of {self._name} is smaller than 10 AWG copper or 8 AWG aluminum: its frame may not hang on it."
        covering = self.wires.neutral_covering
        covered = covering == "covered_in_box" and self.rules.parameter("range_neutral_covered").value == "1"
        if covering in ("bare", "covered_in_box") and not covered and not self.from_service:
            yield (
                f"The bare neutral of {self._name} begins at {self._panel}, which is not the service equipment: it touches "
                "box and frame, a second bond."
            )

    def _untold(self) -> list[str]:
        """What is asked of the wires before the frame can be judged."""
        if self.wires is None:
            return ["wires"]
        fields: dict[str, str | None] = {"neutral_size": self.wires.neutral_size, "material": self.wires.material}
        if not self.from_service:
            fields["neutral_covering"] = self.wires.neutral_covering
        untold = [name for name, value in fields.items() if value is None]
        return untold if self._has_ground is False else [*untold, "has_ground"]

    def _large_enough(self) -> bool | None:
        """Tell whether the neutral is as large as the frame asks; None where its size or metal is not read."""
        wires = self.wires
        if wires is None or wires.neutral_size is None or wires.material is None:
            return None
        least = self.rules.parameter(f"range_neutral_least_{wires.material}").value
        table, column = AREA
        own = self.recorder.table(f"Neutral of {self._name}", table, (wires.neutral_size,), column)
        floor = self.recorder.table(f"Least neutral, {wires.material}", table, (least,), column)
        return self.recorder.at_least("The neutral is large enough", own, floor, clause=CLAUSE)

    def _four_wires(self) -> Mend:
        steps: list[Operation] = [*proposing("loads", self.load, frame_bonded=False)]
        if self.wires is not None:
            steps += proposing("circuits", self.wires, has_ground=True, neutral_covering="insulated")
        return Mend("Run four wires to it, the link between frame and neutral out", tuple(steps))

    @property
    def _name(self) -> str:
        return self.load.name or self.load.category

    @property
    def _panel(self) -> str:
        return name_of(self.site, self.load.enclosure_id)

    @property
    def _is_new(self) -> bool:
        return "added" in (self.load.standing, self.wires.standing if self.wires is not None else "")

    @property
    def _has_ground(self) -> bool | None:
        """Whether a grounding conductor comes to it; one whose size is read is there."""
        if self.wires is None:
            return None
        return True if self.wires.ground_size is not None else self.wires.has_ground

    @property
    def _hangs_on_it(self) -> bool:
        """Whether something hangs on how the frame is joined, where that is not looked at."""
        may_be_old = not self._is_new and self._has_ground is None
        return self._has_ground is False or (may_be_old and not self.from_service)
