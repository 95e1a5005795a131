"""One enclosure as a box: its bus, its devices, its disconnects, and what its place asks for."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import partial

from nelvor.clauses.bus_sources import BusRule
from nelvor.clauses.calculated_load import LevelLoad
from nelvor.judges.answer import Answer, Subject
from nelvor.judges.appliance_frames import judge_frames
from nelvor.judges.bonds import Decision
from nelvor.judges.bus import BusOfPanel
from nelvor.judges.disconnects import Disconnects
from nelvor.judges.interrupting import Interrupting
from nelvor.judges.lengths_aside import LengthsAside
from nelvor.judges.level_loads import LevelLoads
from nelvor.judges.location import judge_location
from nelvor.judges.main_load import judge_main
from nelvor.judges.motor_share import Motors
from nelvor.judges.run import RunAnswer
from nelvor.judges.slash_rating import judge_slash_ratings
from nelvor.judges.verdict import Judge
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of
from nelvor.topology.site import Site
from nelvor.working import Figure, Recorder


@dataclass(frozen=True, kw_only=True)
class PanelAnswer(Answer):
    """Everything worked out for one enclosure as a box; ``bus_rules`` is how each rule ends for what feeds into its bus."""

    bus_rules: tuple[BusRule, ...] = ()


class PanelJudge:
    """Judges one enclosure."""

    def __init__(
        self,
        site: Site,
        rules: Rules,
        levels: LevelLoads,
        answers: dict[str, RunAnswer],
        decisions: Mapping[str, Decision],
        motors: Motors,
        enclosure_id: str,
    ) -> None:
        self.site = site
        self.rules = rules
        self.level = levels.get(enclosure_id)
        self.answers = answers
        self.decisions = decisions
        self.motors = motors
        self.decision = decisions[enclosure_id]
        self.enclosure = site.enclosures[enclosure_id]
        self.name = name_of(site, enclosure_id)
        self.judge = Judge(rules, "enclosures", enclosure_id)
        self.recorder = Recorder(rules)
        self.figures: dict[str, Figure] = {}
        self.rules_judged: list[BusRule] = []

    def judged(self) -> PanelAnswer:
        """Return the answer."""
        self._load_known()
        bus = BusOfPanel(
            self.site,
            self.rules,
            self.level,
            self.answers,
            self.enclosure,
            self.judge,
            self.recorder,
            self.figures,
            self.rules_judged,
        )
        if self.enclosure.kind == "panel":
            bus.judged()
        self._main()
        self._optional_method(bus)
        judge_slash_ratings(self.site, self.judge, self.enclosure.id)
        Interrupting(
            self.site,
            self.answers,
            self.judge,
            self.recorder,
            self.enclosure,
            self.decision,
            self.figures,
            self.motors,
        ).judged()
        Disconnects(
            self.site, self.rules, self.decisions, self.answers, self.enclosure, self.judge, self.recorder, self.figures
        ).judged()
        self._surroundings()
        return PanelAnswer(
            subject=Subject("panel", self.enclosure.id),
            figures=self.figures,
            verdicts=tuple(self.judge.verdicts),
            working=self.recorder,
            bus_rules=tuple(self.rules_judged),
        )

    def _main(self) -> None:
        service = self.decision == "bond"
        judge_main(
            self.site,
            self.rules,
            self.answers,
            self.judge,
            self.recorder,
            self.enclosure.id,
            self.level,
            service=service,
        )

    def _surroundings(self) -> None:
        """Where the box stands, and the appliances on its circuits."""
        judge_location(self.site, self.rules, self.judge, self.recorder, self.enclosure, self.decision)
        judge_frames(self.site, self.rules, self.judge, self.recorder, self.enclosure.id, self.decision)

    def _load_known(self) -> None:
        if not isinstance(self.level, LevelLoad) and self.level is not None:
            own = {load.id for load in self.site.loads_in.get(self.enclosure.id, [])}
            thing_id = getattr(self.level.reason, "thing_id", None)
            if thing_id in own or (thing_id is None and own):
                self.judge.cannot_compute("load", self.level.reason)

    def _optional_method(self, bus: BusOfPanel) -> None:
        """220.82 is for a supply of 100 A and more."""
        if not isinstance(self.level, LevelLoad) or all(group.method != "optional" for group in self.level.groups):
            return
        protection = bus.protection()
        least = self.recorder.parameter("optional_least_supply_a", "Least supply of the optional method")
        if protection is not None and protection[0].number < least.number:
            self.judge.must_fix(
                "optional_method",
                f"The optional method is for a supply of {least.text} A and more; {self.name} is behind "
                f"{protection[0].text} A. Use the standard method.",
                "optional_dwelling",
            )


def panel_answers(
    site: Site,
    rules: Rules,
    levels: LevelLoads,
    answers: dict[str, RunAnswer],
    decisions: Mapping[str, Decision],
    aside: LengthsAside,
) -> dict[str, PanelAnswer]:
    """Return the judgement of every enclosure as a box, of whose bonds the decisions alone matter here."""
    motors, all_decisions = Motors(site, rules), aside.as_one("decisions", tuple(decisions.items()))

    def judged(enclosure_id: str) -> PanelAnswer:
        return PanelJudge(site, rules, levels, answers, decisions, motors, enclosure_id).judged()

    return {
        enclosure_id: aside.of_box(
            "panel", enclosure_id, partial(judged, enclosure_id), levels.get(enclosure_id), all_decisions
        )
        for enclosure_id in decisions
    }
