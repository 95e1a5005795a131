"""One enclosure whose neutral and ground are judged: what stands there, and where findings and figures go."""

from __future__ import annotations

from collections.abc import Callable

from nelvor.clauses import grounding_conductor
from nelvor.errors import CannotCompute
from nelvor.judges.bonds.mends import Mends
from nelvor.judges.run import RunAnswer
from nelvor.judges.verdict import Judge
from nelvor.judges.zones import Zone
from nelvor.model.things import Run
from nelvor.rulebook.rules import Rules
from nelvor.topology.grounded import ordinary_neutral
from nelvor.topology.joints import Found, Inside, inside
from nelvor.topology.names import name_of
from nelvor.topology.site import Site
from nelvor.working import Figure, Recorder


class Place:
    """An enclosure with its zone and its ordinary neutral."""

    def __init__(self, site: Site, rules: Rules, zone: Zone, answers: dict[str, RunAnswer], enclosure_id: str) -> None:
        self.site = site
        self.rules = rules
        self.zone = zone
        self.answers = answers
        self.enclosure = site.enclosures[enclosure_id]
        self.feeding = site.feeding_run(enclosure_id)
        self.judge = Judge(rules, "enclosures", enclosure_id)
        self.recorder = Recorder(rules)
        self.figures: dict[str, Figure] = {}
        self.gaps: dict[str, CannotCompute] = {}
        self.neutral = ordinary_neutral(site, enclosure_id)
        self.inside: Inside = inside(site, enclosure_id, self.neutral)
        self.mends = Mends(site, self.enclosure, self.neutral)
        self.found: Found = self._as_found()
        self.name = name_of(site, enclosure_id)

    @property
    def may_have_further_neutrals(self) -> bool:
        """Tell whether something in the enclosure may part one neutral of it from another."""
        own = self.enclosure.id
        return any(own in things for things in (self.site.transfers_in, self.site.transformers_in))

    @property
    def joined_by(self) -> str:
        """What joins neutral and metal, in words."""
        return ", ".join(joint.words for joint in self.inside.joining) or "metal itself"

    def try_figure(self, name: str, work: Callable[[], Figure]) -> None:
        """Work a figure out, or keep the reason why it cannot be told."""
        try:
            self.figures[name] = work()
        except CannotCompute as reason:
            self.gaps[name] = reason.kept()
            self.judge.cannot_compute(name, reason)

    def doubtful(self, clause: str) -> None:
        """Ask for the joints on which the decision hangs."""
        what = ", ".join(joint.words for joint in self.inside.doubtful) or "marking of the source"
        self.judge.cannot_tell(
            "bond",
            f"Whether neutral and metal are joined at {self.name} is not known: look at the {what}.",
            clause,
            asks=tuple(ask for joint in self.inside.doubtful for ask in joint.asks),
        )

    def has_ground(self, run: Run) -> bool | None:
        """Tell whether a run brings a grounding path, wire or metal; None where an armor's listing is not known."""
        if self.site.has_conductor(run, "ground"):
            return True
        return grounding_conductor.metal_grounds(run, self.site.stretches_of.get(run.id, []))

    def _as_found(self) -> Found:
        """What stands; within a source whose inner bond nobody drew, what its marking says."""
        sources = [self.site.sources[part] for part in self.neutral if part in self.site.sources]
        ends = {end for bond in self.site.bonds_in.get(self.enclosure.id, []) for end in (bond.part_a, bond.part_b)}
        if self.inside.found != "apart" or not sources or ends & {*self.neutral}:
            return self.inside.found
        marked: dict[str | None, Found] = {"floating_neutral": "apart", "bonded_neutral": "bonded"}
        return marked.get(sources[0].marking, "unknown")
