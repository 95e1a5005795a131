"""The disconnect of sources that are joined ahead of the service disconnect (705.11; 705.12(A) in 2017)."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction

from nelvor.clauses.supply_side_joint import Ending, Joined, distance_to_device, within_the_service
from nelvor.errors import CannotCompute
from nelvor.judges.run import RunAnswer
from nelvor.judges.source_currents import output_through
from nelvor.judges.verdict import Asks, Judge, Mend, proposing
from nelvor.model.things import Device, Enclosure, Source
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of, run_name
from nelvor.topology.site import Site
from nelvor.working import Figure, Recorder, exact

SWITCHES = frozenset({"switch", "fuses"})


@dataclass
class SupplySide:
    """One disconnect that serves nothing but sources, with the answers of the service runs that lead to it."""

    site: Site
    rules: Rules
    answers: Mapping[str, RunAnswer]
    enclosure: Enclosure
    judge: Judge
    recorder: Recorder
    figures: dict[str, Figure]

    def judged(self, others: list[Fraction] | None) -> None:
        """Judge it; ``others`` are the ratings of the service disconnects beside it, None where one is not known."""
        self._floor()
        outputs = self._outputs()
        if outputs is not None:
            self._sum(outputs, others)
        self._distance()

    @property
    def name(self) -> str:
        return name_of(self.site, self.enclosure.id)

    @property
    def _sources(self) -> list[Source]:
        """All sources on the supply side of the same service, for they meet in its conductors."""
        root = self.site.source_of(self.enclosure.id)
        found: dict[str, Source] = dict(self.site.sources_beneath[self.enclosure.id])
        for enclosure_id in self.site.walking_order:
            if self.site.source_of(enclosure_id) is root and self._joins_ahead(enclosure_id):
                found |= self.site.sources_beneath.get(enclosure_id, {})
        return list(found.values())

    def _joins_ahead(self, enclosure_id: str) -> bool:
        feeding = self.site.feeding_run(enclosure_id)
        ahead = self.site.protection_ahead.get(feeding.id) if feeding else None
        return feeding is not None and ahead is None and self.site.gathers_sources_alone(enclosure_id)

    # -- its own rating --------------------------------------------------------------------------

    def _floor(self) -> None:
        clause = "supply_side_disconnect_floor"
        main = self.site.main_of(self.enclosure.id)
        rating = self._rated(main) if main is not None else None
        least = self.recorder.parameter("service_other_disconnect_a", "Least disconnect")
        if main is None or rating is None:
            text = f"The rating of the disconnect {self.name} is not entered."
            self.judge.cannot_tell("disconnect_floor", text, clause)
            return
        have = self.recorder.given("Rating of the disconnect", rating, "A", "design")
        self.figures["disconnect_floor"] = least
        if self.recorder.at_least("The disconnect reaches its floor", have, least, clause=clause):
            text = f"Disconnect of {have.text} A, at least {least.text} A asked."
            self.judge.holds("disconnect_floor", text, clause)
            return
        text = (
            f"{self.name} is rated {have.text} A. As a disconnect of a service it is at least {least.text} A, whatever fuses "
            "it holds."
        )
        change = f"{main.name or f'Disconnect {self.name}'}: fuses of {have.text} A in a switch of {least.text} A"
        kept = {"rating_a": float(rating)} if main.kind not in SWITCHES else {}
        mend = Mend(change, proposing("devices", main, kind="fuses", frame_a=float(least.number), **kept))
        if self.rules.parameter("supply_side_floor_told").value == "1":
            self.judge.must_fix("disconnect_floor", text, clause, mend=mend)
        else:
            text = f"{text} Offices read this edition in both ways."
            self.judge.advise("disconnect_floor", text, clause, mend=mend)

    def _rated(self, device: Device) -> Fraction | None:
        """The rating of the switch itself; fuses may be smaller."""
        own = device.frame_a if device.kind in SWITCHES else device.rating_a
        if own is not None:
            return exact(own)
        feeding = self.site.feeding_run(self.enclosure.id)
        chosen = self.answers[feeding.id].figures.get("device") if feeding and feeding.id in self.answers else None
        return chosen.number if chosen is not None and device.kind == "breaker" else None

    # -- how much ----------------------------------------------------------------

    def _outputs(self) -> Figure | None:
        found = []
        system = self.site.system_at(self.enclosure.id)
        for source in self._sources:
            output = output_through(self.site, source, system, len(self.site.legs_at.get(self.enclosure.id, ())))
            if output is None:
                name = name_of(self.site, source.id)
                text = f"The rated output of {name} is not known, nor so what the service conductors carry."
                self.judge.about("sources", source.id).cannot_tell(
                    "supply_side", text, "supply_side_sum", "rated_output_a"
                )
                return None
            given = self.recorder.given(
                f"Output of {name_of(self.site, source.id)}", output, "A", "plate of the source"
            )
            found.append(given)
        return found[0] if len(found) == 1 else self.recorder.add("Outputs of all sources ahead", *found)

    def _sum(self, outputs: Figure, others: list[Fraction] | None) -> None:
        devices = [self._fuse_of(item) for item in self.site.walking_order if self._joins_ahead(item)]
        known = [item for item in devices if item is not None]
        together = (
            self.recorder.given("Devices of sources ahead", sum(known, Fraction(0)), "A", "design")
            if known and len(known) == len(devices)
            else None
        )
        service = self.recorder.given("Service", sum(others, Fraction(0)), "A", "design") if others else None
        try:
            carrying = self._carrying()
        except CannotCompute as reason:
            self.judge.cannot_compute("supply_side", reason, "supply_side_sum")
            return
        limit = service if self.rules.parameter("supply_side_by_devices").value == "1" else carrying
        if limit is not None:
            self.figures["supply_side_limit"] = limit
        ending = within_the_service(self.recorder, outputs, together, service, carrying)
        self._tell("supply_side", ending, "supply_side_sum")

    def _fuse_of(self, enclosure_id: str) -> Fraction | None:
        main = self.site.main_of(enclosure_id)
        return exact(main.rating_a) if main is not None and main.rating_a is not None else None

    def _carrying(self) -> Figure | None:
        """The least ampacity of the service conductors that lead to where it is joined; None where all are the utility's.

        Raises:
            CannotCompute: the size of one, or how it lies, is not known.
        """
        ways = self.site.runs_to_source(self.enclosure.id)[1:]
        of_service = [answer for run in ways if (answer := self.answers.get(run.id)) and answer.kind == "service"]
        return min((self._ampacity(item) for item in of_service), key=lambda item: item.number, default=None)

    def _ampacity(self, answer: RunAnswer) -> Figure:
        if "ampacity" not in answer.figures or answer.is_unread("hots"):
            name = run_name(self.site, answer.run)
            raise CannotCompute(
                f"What {name} carries, over which the sources come too, is not known.", "Enter its size."
            )
        return answer.figures["ampacity"]

    # -- how far --------------------------------------------------------------------------------

    def _distance(self) -> None:
        run = self.site.feeding_run(self.enclosure.id)
        start = self.site.enclosures.get(self.site.upstream_of(run)) if run is not None else None
        length = None
        if run is not None and run.length_ft is not None:
            length = self.recorder.given("Length to its device", exact(run.length_ft), "ft", "run")
        outdoors = None if self.enclosure.placement is None else self.enclosure.placement == "outdoors"
        limiters = run.limiters if run is not None else None
        ending = distance_to_device(self.recorder, self._joined(start), outdoors, length, limiters)
        asks = ((run.id, "limiters"),) if run is not None and ending.by_limiters else ()
        self._tell("supply_side_distance", ending, "supply_side_distance", asks)

    def _joined(self, start: Enclosure | None) -> Joined | None:
        if start is None or start.placement is None:
            return None
        if start.placement == "outdoors":
            return "outdoors"
        one_family = self.site.is_one_family(start.id)
        return None if one_family is None else "in_dwelling" if one_family else "in_other"

    def _tell(self, code: str, ending: Ending, clause: str, asks: Asks = ()) -> None:
        if ending.passes is None:
            self.judge.cannot_tell(code, ending.why, clause, "", asks)
        elif ending.passes:
            self.judge.holds(code, ending.why, clause)
        else:
            self.judge.must_fix(code, ending.why, clause)
