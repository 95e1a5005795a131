"""The bus of a panel against what protects it and what it carries (408.30, 408.36)."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property

from nelvor.clauses.bus_sources import BusRule
from nelvor.clauses.calculated_load import LevelLoad
from nelvor.judges.bus_mends import BusMends
from nelvor.judges.interconnection import BusSources
from nelvor.judges.level_loads import LoadUnknown
from nelvor.judges.run import RunAnswer
from nelvor.judges.run.case import ENDS_IN_ITS_DEVICE
from nelvor.judges.source_breakers import judge_source_breakers
from nelvor.judges.verdict import Asks, Judge, Mend
from nelvor.model.things import Bus, Device, Enclosure
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of
from nelvor.topology.site import Site
from nelvor.working import Figure, Recorder, exact, shown


@dataclass
class BusOfPanel:
    """The bus of one panel with the load on it and the answers of the runs that feed it."""

    site: Site
    rules: Rules
    level: LevelLoad | LoadUnknown | None
    answers: Mapping[str, RunAnswer]
    enclosure: Enclosure
    judge: Judge
    recorder: Recorder
    figures: dict[str, Figure]
    rules_judged: list[BusRule]

    @property
    def name(self) -> str:
        return name_of(self.site, self.enclosure.id)

    def judged(self) -> None:
        """Judge the bus; what its label does not tell is asked for."""
        thing = self.site.bus_of(self.enclosure.id)
        if thing is not None:
            judge_source_breakers(self.site, self.rules, self.judge, self.recorder, thing, self._smallest)
        if thing is None or thing.rating_a is None:
            judge = self.judge if thing is None else self.judge.about("buses", thing.id)
            text = f"The bus rating of {self.name} is not known: read its label. It is not the size of its breaker."
            judge.cannot_tell("bus", text, "panel_ocpd", "rating_a")
            self._sources_wait("its rating is not read", ((thing.id, "rating_a"),) if thing is not None else ())
            return
        bus = self.recorder.given("Bus rating", thing.rating_a, "A", "label of the panel")
        self.figures["bus"] = bus
        self._protected(thing, bus)
        self._loaded(bus)
        self._sum_of_breakers()
        self._both_may_trip()

    def _sources_wait(self, why: str, asks: Asks = ()) -> None:
        """Take down of each source that pushes into the bus that no rule could be tried for it."""
        for source in self.site.sources_beneath.get(self.enclosure.id, {}).values():
            if source.interactive is not False:
                text = f"{source.name or source.id} feeds the bus of {self.name} besides its supply, and {why}."
                about = self.judge.about("sources", source.id)
                about.cannot_tell("bus_source", text, "load_side_interconnect", "", asks)

    @cached_property
    def _protections(self) -> list[tuple[Fraction, Device]]:
        """The panel's own main and the device ahead, as far as their ratings are known."""
        devices = []
        main = self.site.main_of(self.enclosure.id)
        feeding = self.site.feeding_run(self.enclosure.id)
        ahead = self.site.protection_ahead.get(feeding.id) if feeding else None
        answer = self.answers.get(feeding.id) if feeding else None
        own = feeding if answer is not None and answer.kind in ENDS_IN_ITS_DEVICE else None
        for device, answer_run in ((main, own), (ahead, feeding)):
            if device is None or device.kind == "switch":
                continue
            rating = device.rating_a
            if rating is None and answer_run is not None and answer_run.id in self.answers:
                solved = self.answers[answer_run.id].figures.get("device")
                rating = float(solved.number) if solved else None
            if rating is not None:
                devices.append((exact(rating), device))
        return devices

    @cached_property
    def _smallest(self) -> tuple[Fraction, Device] | None:
        return min(self._protections, key=lambda pair: pair[0], default=None)

    def protection(self) -> tuple[Figure, Device] | None:
        """Return the smaller of the panel's own main and the device ahead."""
        if self._smallest is None:
            return None
        rating_a, device = self._smallest
        return self.recorder.given(f"Protection: {device.name or device.id}", rating_a, "A", "design"), device

    def _protected(self, thing: Bus, bus: Figure) -> None:
        protection = self.protection()
        if protection is None:
            self._without_protection()
            return
        figure, device = protection
        self.figures["protection"] = figure
        if self.recorder.at_least("Bus is protected", bus, figure, clause="panel_ocpd"):
            if not self._sources_judged(thing, bus, figure, device):
                self.judge.holds("bus", f"{bus.text} A bus behind {figure.text} A.", "panel_ocpd")
            return
        text = f"The {bus.text} A bus of {self.name} is protected by {figure.text} A only."
        self.judge.must_fix("bus", text, "panel_ocpd", "rating_a", self._ways(thing, bus, figure, device))
        self._sources_wait("its supply alone is more than it may carry")

    def _without_protection(self) -> None:
        feeding = self.site.feeding_run(self.enclosure.id)
        if feeding is not None and feeding.from_part in self.site.transformer_of_secondary:
            text = f"Nothing protects the bus of {self.name} on the secondary side of its transformer. Fit a main."
            self.judge.must_fix("bus", text, "panel_secondary_protection")
            self._sources_wait("nothing protects it from its supply")
        else:
            self.judge.cannot_tell("bus", f"What protects the bus of {self.name} is not known.", "panel_ocpd")
            self._sources_wait("what protects it from its supply is not known")

    def _sources_judged(self, thing: Bus, bus: Figure, figure: Figure, device: Device) -> bool:
        """Judge what pushes into the bus besides its supply; tell whether anything does."""
        return BusSources(
            self.site,
            self.rules,
            self.level,
            thing,
            bus,
            figure,
            device,
            self.judge,
            self.recorder,
            self.figures,
            self.rules_judged,
        ).judged()

    def _ways(self, thing: Bus, bus: Figure, figure: Figure, device: Device) -> tuple[Mend, ...]:
        feeding = self.site.feeding_run(self.enclosure.id)
        feed = self.answers.get(feeding.id) if feeding is not None else None
        return BusMends(self.site, self.rules, self.level, feed, thing, bus, figure, device).all()

    def _loaded(self, bus: Figure) -> None:
        if not isinstance(self.level, LevelLoad):
            return
        label = "Load on the worst leg, continuous part at 125 %"
        load = self.recorder.carried(label, self.level.worst.design, self.level.recorder)
        self.figures["bus_load"] = load
        if not self.recorder.at_least("Bus carries the load", bus, load, clause="panel_rating"):
            self.judge.must_fix(
                "bus_load",
                f"The load of {load.text} A is above the {bus.text} A bus of {self.name}.",
                "panel_rating",
                "rating_a",
            )

    def _sum_of_breakers(self) -> None:
        """Breakers may add up to more than the feeder: the load counts, not their sum. Said, because it is asked."""
        feeders = [item.rating_a for item in self.site.devices_in.get(self.enclosure.id, []) if item.role != "main"]
        total = sum(rating for rating in feeders if rating is not None)
        smallest = self._smallest
        if smallest is not None and exact(total) > smallest[0]:
            self.judge.holds(
                "breaker_sum",
                f"Breakers of {total:g} A stand behind {shown(smallest[0])} A: allowed, since the calculated load "
                "counts and the device ahead protects the bus.",
                "panel_ocpd",
            )

    def _both_may_trip(self) -> None:
        """A main of the same rating as the device ahead is lawful; which of the two opens is not certain."""
        ratings = [rating for rating, _ in self._protections]
        if len(ratings) > 1 and len(set(ratings)) == 1:
            text = (
                f"Its main of {ratings[0]} A and the device ahead are alike: lawful, and on a fault either may trip "
                "first, or both."
            )
            self.judge.holds("both_may_trip", text, "panel_ocpd")
