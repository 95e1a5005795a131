"""Pull boxes and conduit bodies along the runs of a site: are they large enough for what passes through?"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass

from nelvor.clauses import pull_box
from nelvor.clauses.ampacity import size_index
from nelvor.clauses.box_fill import BoxContents, box_volume
from nelvor.clauses.pull_box import trade_inches
from nelvor.errors import CannotCompute, MissingInput
from nelvor.judges.answer import Answer, Subject
from nelvor.judges.run import RunAnswer
from nelvor.judges.verdict import Judge
from nelvor.model.things import Box, Pull
from nelvor.rulebook.rules import Rules
from nelvor.topology.site import Site
from nelvor.working import Figure, Recorder, exact, shown


@dataclass(frozen=True, kw_only=True)
class BoxAnswer(Answer):
    """What one box must measure. ``runs`` pass through it."""

    box: Box
    runs: tuple[str, ...]


@dataclass(frozen=True)
class _Passage:
    """A run through a box: its conductors there, and the largest raceway that it comes in, by method and trade size."""

    pull: Pull
    answer: RunAnswer
    method: str
    trade_size: str

    @property
    def conductors(self) -> list[str]:
        """The sizes of the insulated conductors of one set, grounding conductor apart."""
        sizes = [self.answer.size("hots")] * self.answer.hots_count + [self.answer.size("neutral")]
        return [size for size in sizes if size is not None]

    @property
    def largest(self) -> str:
        return max(self.conductors, key=size_index)


class BoxJudge:
    """Judges one box by its walls (4 AWG and larger) or by its volume (smaller conductors)."""

    def __init__(
        self, site: Site, rules: Rules, answers: dict[str, RunAnswer], box: Box, pulls: Sequence[Pull]
    ) -> None:
        self.site = site
        self.box = box
        self.pulls = [pull for pull in pulls if pull.run_id in answers]
        self.answers = answers
        self.recorder = Recorder(rules)
        self.judge = Judge(rules, "boxes", box.id)
        self.figures: dict[str, Figure] = {}
        self.least = rules.parameter("pull_least_size").value

    def answer(self) -> BoxAnswer:
        """Return what the box must measure and whether it does."""
        gap = None
        try:
            self._solve()
        except CannotCompute as reason:
            gap = reason.kept()
            judge = self.judge
            if isinstance(reason, MissingInput) and reason.thing_id != self.box.id:
                judge = judge.about("pulls", reason.thing_id)
            judge.cannot_compute("box", reason)
        runs = tuple(pull.run_id for pull in self.pulls)
        return BoxAnswer(
            subject=Subject("box", self.box.id),
            figures=self.figures,
            gaps={"box": gap} if gap else {},
            verdicts=tuple(self.judge.verdicts),
            working=self.recorder,
            box=self.box,
            runs=runs,
        )

    def _solve(self) -> None:
        passages = [self._passage(pull) for pull in self.pulls]
        if not passages:
            raise CannotCompute("No run passes through this box.", "Take a run through it, or remove it.")
        if self.box.kind == "conduit_body":
            self._conduit_body(passages)
        elif all(self._is_small(passage) for passage in passages):
            self._volume(passages)
        else:
            self._walls(passages)

    def _passage(self, pull: Pull) -> _Passage:
        answer = self.answers[pull.run_id]
        length = answer.run.length_ft
        if pull.at_ft is not None and length is not None and pull.at_ft > length:
            raise CannotCompute(
                f"The box stands at {shown(exact(pull.at_ft))} ft of a run of {shown(exact(length))} ft.",
                "Correct the place of the box or the length of the run.",
            )
        if answer.size("hots") is None:
            raise CannotCompute("The conductors that pass through are not known.", "Complete the run.")
        sizes = {lay.key: answer.size(f"raceway{lay.key}") for lay in answer.case.lays}
        raceways = [(lay.value("method"), size) for lay in answer.case.lays if (size := sizes[lay.key])]
        if not raceways:
            raise CannotCompute("The run does not come in a raceway.", "Boxes are judged for raceways alone.")
        method, trade_size = max(raceways, key=lambda raceway: trade_inches(raceway[1]))
        return _Passage(pull, answer, method, trade_size)

    def _is_small(self, passage: _Passage) -> bool:
        return size_index(passage.largest) < size_index(self.least)

    def _walls_of(self, passage: _Passage) -> pull_box.Pull:
        pull = passage.pull
        if pull.enters is None or pull.leaves is None:
            raise MissingInput(
                pull.id, "enters" if pull.enters is None else "leaves", "The walls that the run passes by"
            )
        size, small = passage.trade_size, self._is_small(passage)
        return pull_box.Pull(pull.enters, pull.leaves, size, size, pull.row, small)

    def _walls(self, passages: list[_Passage]) -> None:
        pulls = [self._walls_of(passage) for passage in passages for _ in range(passage.answer.run.sets)]
        largest = max((passage.largest for passage in passages), key=size_index)
        found = pull_box.pull_box(self.recorder, largest, pulls)
        for name, figure, own, field_name in (
            ("width", found.width, self.box.width_in, "width_in"),
            ("height", found.height, self.box.height_in, "height_in"),
        ):
            if figure is not None:
                self._compare(name, figure, own, field_name, "in", "pull_box_sizing")
        if found.spacings:
            self.figures["apart"] = max(found.spacings, key=lambda figure: figure.number)

    def _volume(self, passages: list[_Passage]) -> None:
        conductors: list[str] = []
        grounds: list[str] = []
        for passage in passages:
            spliced = passage.pull.spliced
            if spliced is None:
                raise MissingInput(passage.pull.id, "spliced", "Whether the conductors are spliced there")
            ends = (2 if spliced else 1) * passage.answer.run.sets
            conductors += passage.conductors * ends
            ground = passage.answer.size("ground")
            grounds += [ground] * ends if ground else []
        clamps = self.box.internal_clamps
        if clamps is None:
            raise MissingInput(self.box.id, "internal_clamps", "Whether the box has clamps inside")
        contents = BoxContents(conductors, grounds, internal_clamps=clamps)
        self._compare(
            "volume", box_volume(self.recorder, contents), self.box.volume_in3, "volume_in3", "in³", "box_fill"
        )

    def _conduit_body(self, passages: list[_Passage]) -> None:
        """What the hardest of the runs asks of the body; a marking must cover the conductors of all."""
        count = sum(len(passage.conductors) + (passage.answer.size("ground") is not None) for passage in passages)
        marked = self.box.marked_size, self.box.marked_count
        lengths: list[Figure] = []
        areas: list[Figure] = []
        for passage in passages:
            found = pull_box.conduit_body(
                self.recorder,
                "tee" if len(passages) > 1 else "straight" if self._walls_of(passage).straight else "angle",
                passage.method,
                passage.trade_size,
                passage.largest,
                count,
                (marked[0], marked[1]) if marked[0] and marked[1] else None,
            )
            if found.marking_serves:
                self.judge.holds("conduit_body", found.text, "conduit_body_marking")
            elif found.length is not None:
                lengths.append(found.length)
            if found.area is not None:
                areas.append(found.area)
        if lengths:
            need = self.recorder.greatest("Length of the body", *lengths, clause="pull_box_sizing")
            self._compare("length", need, self.box.length_in, "length_in", "in", "pull_box_sizing")
        if areas:
            need = self.recorder.greatest("Area across the body", *areas, clause="conduit_body_sizing")
            own = self.box.cross_area_in2
            self._compare("area", need, own, "cross_area_in2", "in²", "conduit_body_sizing")

    def _compare(self, name: str, need: Figure, own: float | None, field_name: str, unit: str, clause: str) -> None:
        """Compare one measure with what is needed; of a box still to be bought the need is the answer."""
        self.figures[name] = need
        if own is None:
            if self.box.standing != "added":
                text = f"Its {name} must be at least {need.text} {unit}. Enter the {name} as measured."
                self.judge.cannot_tell("box", text, clause, field_name)
            return
        measured = self.recorder.given(f"The {name} of the box", own, unit, "box")
        if self.recorder.at_least(f"Enough {name}", measured, need, clause=clause):
            self.judge.holds("box", f"{measured.text} {unit}, {need.text} {unit} needed.", clause, field_name)
        else:
            text = (
                f"Its {name} of {measured.text} {unit} is below the {need.text} {unit} needed for what passes through."
            )
            self.judge.must_fix("box", text, clause, field_name)


def box_answers(site: Site, rules: Rules, answers: dict[str, RunAnswer]) -> dict[str, BoxAnswer]:
    """Return the answer of every box of a site, by its id."""
    pulls: dict[str, list[Pull]] = defaultdict(list)
    for pull in site.document.pulls:
        pulls[pull.box_id].append(pull)
    return {box.id: BoxJudge(site, rules, answers, box, pulls.get(box.id, [])).answer() for box in site.document.boxes}
