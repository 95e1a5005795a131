"""What sources push into a bus besides its supply, judged by every rule of 705.12, with the ways out."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from fractions import Fraction

from nelvor.clauses.bus_sources import BusCase, BusRule, Control, bus_rules
from nelvor.clauses.calculated_load import LevelLoad
from nelvor.judges.level_loads import LoadUnknown
from nelvor.judges.panelboard.placed import on_bus
from nelvor.judges.panelboard.standing import name_in
from nelvor.judges.source_currents import PushedIn, device_on_feed_through, output_at, outputs_told, places_on
from nelvor.judges.verdict import Judge, Mend, proposing
from nelvor.model.things import Bus, Device
from nelvor.rulebook.rules import Rules
from nelvor.spaces.bus_spaces import End, Spot, end_of_spots, free_spots, hung_row, rows_of, spots_from, spots_of
from nelvor.topology.names import name_of
from nelvor.topology.pushed_in import source_device
from nelvor.topology.site import Site
from nelvor.working import Figure, Recorder

ASKED_FOR = {"bus_120": "main_end", "bus_center_fed": "main_end", "bus_breaker_sum": "no_other_circuits"}
"""What is asked for where a rule hangs on something that is not told; of a power control, what it lacks."""

NOT_RULED = "this edition has no rule for conductors on feed-through lugs: ask the office"
NEED_A_DEVICE = frozenset({"bus_120", "bus_center_fed", "bus_breaker_sum"})
"""The rules that a bus beside conductors on feed-through lugs may go by only where a device stands at an end of them."""


@dataclass
class BusSources:
    """The sources of one bus, beside the device that protects it from its supply."""

    site: Site
    rules: Rules
    level: LevelLoad | LoadUnknown | None
    thing: Bus
    bus: Figure
    primary: Figure
    primary_device: Device
    judge: Judge
    recorder: Recorder
    figures: dict[str, Figure]
    rules_judged: list[BusRule]
    """Taken down here: how each rule ends."""
    doubts: list[tuple[str, str, str, str]] = field(default_factory=list)
    """What is not known: list, id, field and words."""
    in_place: Mapping[str, Fraction] = field(default_factory=dict)
    """Ratings of devices by their id that are tried in place of those drawn."""

    @property
    def name(self) -> str:
        return name_of(self.site, self.thing.enclosure_id)

    def judged(self) -> bool:
        """Judge the bus; tell whether anything pushes into it, so that its supply alone does not decide."""
        places = places_on(self.site, self.thing)
        if not places:
            return False
        outputs = []
        for place in places:
            self._doubted(place)
            outputs += outputs_told(self.site, self.thing, place, self.recorder)
        if self.doubts:
            self._not_known(places)
            return True
        if outputs:
            self._by_the_rules(places, outputs)
        return bool(outputs)

    # -- what they push ------------------------------------------------------------------------

    def _doubted(self, place: PushedIn) -> None:
        """Take down what is not known of the sources at a place that may run beside the supply."""
        device = place.device
        if device is not None and not place.sources:
            words = f"what feeds {name_in(self.site, device)} is not drawn"
            self.doubts.append(("devices", device.id, "role", words))
        for source in place.sources:
            name = source.name or source.id
            if source.interactive is False:
                if device is None or not self._interlocked(device):
                    self.doubts.append(
                        ("sources", source.id, "", f"whether {name} can meet the supply is not told by gear")
                    )
            elif source.interactive is None:
                self.doubts.append(("sources", source.id, "interactive", f"whether {name} runs beside the utility"))
            elif output_at(self.site, self.thing, source, device.poles if device is not None else None) is None:
                self.doubts.append(("sources", source.id, "rated_output_a", f"the rated output of {name}"))

    def _interlocked(self, device: Device) -> bool:
        """Tell whether an interlock keeps the source's device from being on together with the supply."""
        pairs = [{item.device_a, item.device_b} for item in self.site.document.interlocks]
        supplies = (self.primary_device.id, self.thing.fed_by)
        return any({device.id, supply} == pair for pair in pairs for supply in supplies)

    def _not_known(self, places: Sequence[PushedIn]) -> None:
        list_name, thing_id, field_name, _ = self.doubts[0]
        words = "; ".join(dict.fromkeys(words for *_, words in self.doubts))
        text = (
            f"{self._names(places)} feeds the {self.bus.text} A bus of {self.name} besides its supply of "
            f"{self.primary.text} A. Not known: {words}. Do not go by the main alone."
        )
        at = self.judge if list_name == "devices" else self.judge.about(list_name, thing_id)
        at.cannot_tell("bus_source", text, "load_side_interconnect", "" if list_name == "devices" else field_name)

    def _names(self, places: Sequence[PushedIn]) -> str:
        names = [
            name_in(self.site, place.device) if place.device else name_of(self.site, place.sources[0].id)
            for place in places
        ]
        return " and ".join(names)

    # -- the rules -----------------------------------------------------------------------------

    def _by_the_rules(self, places: Sequence[PushedIn], outputs: list[Figure]) -> None:
        ends = [_end_of(self.thing, place) for place in places]
        case = BusCase(
            bus=self.bus,
            primary=self.primary,
            outputs=outputs,
            devices=[self._rating(item) for item in on_bus(self.site, self.thing)],
            opposite=None if None in ends else all(end == "far" for end in ends),
            center_fed=None if self.thing.main_end is None else self.thing.main_end == "middle",
            one_end=self._one_end(places),
            dwelling=self.site.is_one_family(self.thing.enclosure_id),
            all_drawn=self._all_drawn(),
            control=self._control(places),
            breakers=self._counted_breakers(places),
        )
        rules = self._beside_feed_through(places, bus_rules(self.recorder, case))
        self.rules_judged += rules
        for rule in rules:
            if rule.largest is not None:
                self.figures[f"{rule.key} largest"] = rule.largest
            if rule.total is not None:
                self.figures[f"{rule.key} total"] = rule.total
        self._verdict(places, rules, outputs)

    def _beside_feed_through(self, places: Sequence[PushedIn], rules: list[BusRule]) -> list[BusRule]:
        """Where sources come over conductors on feed-through lugs, from the next section or into this one: without a device
        at an end of them that counts in the edition, the bus holds all of it or the rule is not met.

        By the sum of its breakers no bus is judged that loads leave over lugs.
        """
        ruled = self.rules.parameter("feed_through_rule").value == "1"
        runs = [place.onward for place in places if place.onward is not None]
        bare = self._is_bare(places)
        found = []
        for rule in rules:
            if rule.passes is False or rule.key not in NEED_A_DEVICE:
                found.append(rule)
            elif runs and rule.key == "bus_breaker_sum":
                found.append(replace(rule, passes=False, why="loads leave the bus over lugs, which no breaker counts"))
            elif bare and ruled:
                section = self.rules.section("bus_feed_through")
                why = f"{rule.why}; no device stands at an end of the conductors on feed-through lugs ({section})"
                found.append(replace(rule, passes=False, why=why))
            elif bare:
                found.append(replace(rule, passes=None, why=f"{rule.why}; {NOT_RULED}"))
            else:
                found.append(rule)
        return found

    def _is_bare(self, places: Sequence[PushedIn]) -> bool:
        """Tell whether conductors on feed-through lugs bring sources to this bus, or supply it, without a device that counts."""
        between = [place.onward for place in places if place.onward is not None]
        feeding = self.site.feeding_run(self.thing.enclosure_id)
        if feeding is not None and self.site.is_on_feed_through(feeding):
            between.append(feeding)
        return any(device_on_feed_through(self.site, self.rules, run) is None for run in between)

    def _counted_breakers(self, places: Sequence[PushedIn]) -> list[Figure]:
        """What each source counts for where the job counts breakers: that, and never less than 125 % of its output."""
        if not self.site.document.settings.count_source_breakers:
            return []
        factor = self.recorder.parameter("source_output_factor", "Output of a source at")
        behind: dict[str, list[Figure]] = {}
        devices: dict[str, Device | None] = {}
        for place in places:
            poles = place.device.poles if place.device is not None else None
            for source in place.sources:
                output = output_at(self.site, self.thing, source, poles) if source.interactive else None
                if output is None:
                    continue
                device = source_device(self.site, source)
                key = device.id if device is not None else source.id
                given = self.recorder.given(f"Output of {source.name or source.id}", output, "A", "plate of the source")
                raised = self.recorder.multiply("Output at 125 %", given, factor, unit="A", clause="source_125pct_bus")
                behind.setdefault(key, []).append(raised)
                devices[key] = device
        counted = []
        for key, outputs in behind.items():
            together = outputs[0] if len(outputs) == 1 else self.recorder.add("Behind one breaker", *outputs)
            device = devices[key]
            rating = self._rating(device) if device is not None else None
            counted.append(self.recorder.greatest("What counts", rating, together) if rating is not None else together)
        return counted

    def _control(self, places: Sequence[PushedIn]) -> Control | None:
        if self.thing.control_setting_a is None:
            return None
        return Control(
            setting=self.recorder.given("Setting of the power control", self.thing.control_setting_a, "A", "design"),
            listed=self.thing.control_listed,
            watches_supply=self.thing.control_watches_supply,
            source_devices=[self._rating(place.device) if place.device else None for place in places],
        )

    def _control_field(self) -> str:
        return "control_watches_supply" if self.thing.control_watches_supply is None else "control_listed"

    def _all_drawn(self) -> bool:
        """Undrawn breakers are not absent ones: told to be all, or standing in every space."""
        if self.site.enclosures[self.thing.enclosure_id].no_other_circuits:
            return True
        taken = [spot for device in on_bus(self.site, self.thing) for spot in spots_of(self.thing, device)]
        return bool(self.thing.spaces) and not free_spots(self.thing, taken, half=False)

    def _rating(self, device: Device) -> Figure | None:
        rating = self.in_place.get(device.id, device.rating_a)
        if rating is None:
            return None
        return self.recorder.given(f"Breaker: {name_in(self.site, device)}", rating, "A", "panel")

    def _verdict(self, places: Sequence[PushedIn], rules: list[BusRule], outputs: list[Figure]) -> None:
        start = f"{self._names(places)} feeds the {self.bus.text} A bus of {self.name} besides {self.primary.text} A"
        passed = next((rule for rule in rules if rule.passes), None)
        if passed is not None:
            self.judge.holds(
                "bus_source", f"{start}. {passed.title}: {passed.why}.{self._beside(passed, rules)}", passed.key
            )
            return
        if self._joined_otherwise(start):
            return
        told = "; ".join(f"{rule.title}: {rule.why}" for rule in rules)
        open_rule = next((rule for rule in rules if rule.passes is None), None)
        if open_rule is not None:
            field_name = "" if NOT_RULED in open_rule.why else ASKED_FOR.get(open_rule.key) or self._control_field()
            at = self.judge if field_name == "no_other_circuits" else self.judge.about("buses", self.thing.id)
            at.cannot_tell("bus_source", f"{start}. {told}.", open_rule.key, field_name)
            return
        ways = (*self._to_the_end(places, rules), *self._smaller_main(rules, outputs), *self._larger_bus(rules))
        self.judge.must_fix("bus_source", f"{start}, which no rule allows. {told}.", "load_side_interconnect", "", ways)

    def _joined_otherwise(self, start: str) -> bool:
        """What no rule allows by figures may be allowed by a listing that tells how sources join, or by an engineer's study."""
        clause = {"listed": "bus_listed", "engineered": "bus_engineered"}.get(self.thing.combining or "")
        if clause is None or not self.rules.has_section(clause):
            return False
        by = (
            "the instructions of its listing"
            if clause == "bus_listed"
            else "an engineer's study of its bus and fault currents"
        )
        self.judge.holds("bus_source", f"{start}, by {by}, as entered; that is not computed here.", clause)
        return True

    def _beside(self, passed: BusRule, rules: list[BusRule]) -> str:
        """What has to be said beside a rule that passes."""
        if passed.key == "bus_120":
            return " Label its breaker: it must not be moved."
        if passed.key == "power_control_system":
            total = next(rule.total for rule in rules if rule.key == "bus_100_sum")
            assert total is not None  # the plain sum always has one
            return f" It has to hold that also when a sensor fails: without it the bus could carry {total.text} A."
        return ""

    # -- places on the bus ---------------------------------------------------------------------

    def _one_end(self, places: Sequence[PushedIn]) -> bool | None:
        rows = rows_of(self.thing)
        spaces = [place.device.space if place.device else None for place in places]
        if rows is None or None in spaces:
            return None
        edges = set()
        for place in places:
            assert place.device is not None
            hung = {hung_row(self.thing, spot.space, rows) for spot in spots_of(self.thing, place.device)}
            edges.add("top" if 0 in hung else "bottom" if rows - 1 in hung else "between")
        return edges in ({"top"}, {"bottom"})

    # -- ways out ------------------------------------------------------------------------------

    def _to_the_end(self, places: Sequence[PushedIn], rules: list[BusRule]) -> Iterator[Mend]:
        """The one source breaker to the far end, where the sum fits by 120 %; a breaker of its size changes places with it."""
        by_120 = next(rule for rule in rules if rule.key == "bus_120")
        device = places[0].device
        rows = rows_of(self.thing)
        if len(places) > 1 or device is None or rows is None or by_120.total is None or self._is_bare(places):
            return
        if by_120.total.number > by_120.limit.number or self.thing.main_end not in ("top", "bottom"):
            return
        others = [(item, spots_of(self.thing, item)) for item in on_bus(self.site, self.thing) if item.id != device.id]
        for start in range(self.thing.spaces or 0, 0, -1):
            spots = spots_from(self.thing, device.poles, Spot(start, device.half))
            if len(spots) < device.poles or end_of_spots(self.thing, spots) != "far":
                continue
            there = [item for item, taken in others if any(a.overlaps(b) for a in taken for b in spots)]
            change = f"{name_in(self.site, device)} to space {start}, the end away from the main"
            operations = proposing("devices", device, space=start)
            if there:
                other = there[0]
                alike = len(there) == 1 and (other.poles, other.half, other.space) == (device.poles, device.half, start)
                if not alike or device.space is None:
                    continue
                change = f"{change}, in place of {name_in(self.site, other)}"
                operations = (*operations, *proposing("devices", other, space=device.space))
            yield Mend(change, operations)
            return

    def _smaller_main(self, rules: list[BusRule], outputs: list[Figure]) -> Iterator[Mend]:
        """A smaller main, where it still carries the load and, as the disconnect of a building, is not below its floor."""
        own = self.primary_device.enclosure_id == self.thing.enclosure_id
        feeding = self.site.feeding_run(self.thing.enclosure_id)
        first = feeding is None or self.site.is_first_of_building(self.thing.enclosure_id)
        if not own or not isinstance(self.level, LevelLoad):
            return
        by_120 = next(rule for rule in rules if rule.key == "bus_120")
        limit = by_120.limit.number if self._all_far() else self.bus.number
        factor = self.rules.parameter("source_output_factor").number
        most = limit - factor * sum((output.number for output in outputs), Fraction(0))
        floor = self.rules.parameter("one_family_disconnect_a").number if first else Fraction(0)
        need = max(self.level.worst.design.number, floor)
        fitting = [rating for rating in self.rules.standard_ratings() if need <= rating <= most]
        if fitting and fitting[-1] < self.primary.number:
            name = self.primary_device.name or f"Main of {self.name}"
            change = f"{name}: {self.primary.text} A to {fitting[-1]} A"
            yield Mend(change, proposing("devices", self.primary_device, rating_a=float(fitting[-1])))

    def _all_far(self) -> bool:
        """Tell whether the 120 % rule helps: all sources come in at the far end, and nothing keeps the bus from that rule."""
        places = places_on(self.site, self.thing)
        return not self._is_bare(places) and all(_end_of(self.thing, place) == "far" for place in places)

    def _larger_bus(self, rules: list[BusRule]) -> Iterator[Mend]:
        by_sum = next(rule for rule in rules if rule.key == "bus_100_sum")
        assert by_sum.total is not None
        need = by_sum.total.number
        if self._all_far():
            need = need / self.rules.parameter("bus_120_factor").number
        larger = self.rules.standard_ratings().reaching(need)
        if larger is not None and larger > self.bus.number:
            change = f"Bus of {self.name}: {self.bus.text} A to {larger} A, another panel"
            yield Mend(change, proposing("buses", self.thing, rating_a=float(larger)))


def _end_of(bus: Bus, place: PushedIn) -> End | None:
    """Where sources come in, seen from the supply; None where that is not told. Feed-through lugs are at the end away from it."""
    if place.onward is not None:
        return "far" if bus.main_end in ("top", "bottom") else None
    return end_of_spots(bus, spots_of(bus, place.device) if place.device is not None else ())
