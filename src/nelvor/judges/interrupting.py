"""Whether each device can break the fault current that is available where it stands (110.9)."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from nelvor.clauses.fault_current import FaultBehind, Wire, fault_behind, from_a_transformer
from nelvor.judges.motor_share import TIMES_FULL_LOAD, Motors
from nelvor.judges.run import RunAnswer
from nelvor.judges.verdict import Judge
from nelvor.model.things import Device, Enclosure, Run, Source
from nelvor.model.voltages import LINE_TO_LINE_V, LINE_TO_NEUTRAL_V
from nelvor.topology.site import Site
from nelvor.working import Figure, Recorder, exact

ACROSS_A_FAULT = {
    "split_120_240": (LINE_TO_LINE_V["split_120_240"], 2),
    "wye_208_120": (LINE_TO_NEUTRAL_V["wye_208_120"], 1),
    "wye_480_277": (LINE_TO_NEUTRAL_V["wye_480_277"], 1),
}
"""By system the volts across the worst fault, and how many conductors its current passes: between lines, or three-phase."""

AT_THE_SERVICE = frozenset({"bond", "supply_side"})
"""Decisions of boxes at which all that the utility gives is available, with no wire of the premises ahead."""


@dataclass
class Interrupting:
    """The devices of an enclosure whose ratings are entered, against what the utility has told of its fault current.

    The rating of a main at the service is asked for; of what is behind it, only what was read is judged. Behind the
    service the wires take some of it away: between the bounds of what they leave it is *cannot tell*. A wire that is not
    read takes nothing away. Behind a transformer nothing is said, as what the utility gives is no bound there.
    """

    site: Site
    answers: Mapping[str, RunAnswer]
    judge: Judge
    recorder: Recorder
    enclosure: Enclosure
    decision: str
    figures: dict[str, Figure]
    motors: Motors

    def judged(self) -> None:
        """Judge them; what is available here at most is taken down among the figures."""
        source = self.site.source_of(self.enclosure.id)
        if source is None or not _tells_its_fault(source) or _behind_a_transformer(self.site, self.enclosure.id):
            return
        told = self._told(source)
        if told is None:
            return
        self._ask_for_the_main(_whole(told))
        devices = [item for item in self.site.devices_in.get(self.enclosure.id, []) if item.kind != "switch"]
        rated = [
            (device, able)
            for device in devices
            if (able := _rating(self.site, self.recorder, self.enclosure, device)) is not None
        ]
        at_service = self.decision in AT_THE_SERVICE
        here = FaultBehind(told, told) if at_service else self._behind(told)
        if source.fault_current_a is None:  # of a plate only the most is known: what is ahead of it takes some away
            here = FaultBehind(here.most, None)
        self.figures["fault_current"] = here.most
        here = self._with_motors(here)
        for device, able in rated:
            self._device(device, able, here)

    def _told(self, source: Source) -> Figure | None:
        """What the utility has told, or what its transformer gives at most by its plate."""
        if source.fault_current_a is not None:
            told = source.fault_current_a
            return self.recorder.given("Fault current at the service", told, "A", "utility's letter")
        system = self.site.system_at(self.enclosure.id) or ""
        if system not in ACROSS_A_FAULT or source.transformer_kva is None or source.impedance_percent is None:
            return None
        plate = "plate of the utility's transformer"
        kva = self.recorder.given("Utility's transformer", source.transformer_kva, "kVA", plate)
        impedance = self.recorder.given("Its impedance", source.impedance_percent, "%", plate)
        return from_a_transformer(self.recorder, kva, impedance, system)

    def _with_motors(self, here: FaultBehind) -> FaultBehind:
        """What motors give at most comes on top of what the utility gives at most; at least, they give nothing."""
        amperes = self.motors.on_supply_of(self.enclosure.id)
        if not amperes:
            return here
        drawn = self.recorder.given("Full-load current of all motors", amperes, "A", "loads")
        times = self.recorder.given("Given into a fault, times full load", TIMES_FULL_LOAD, "", "taken, a judgement")
        share = self.recorder.multiply("Motors' share at most", drawn, times, unit="A")
        self.figures["motors_share"] = share
        most = self.recorder.add("Fault current with the motors' share", here.most, share, clause="interrupting_rating")
        return FaultBehind(most, here.least)

    def _ask_for_the_main(self, available_a: str) -> None:
        main = self.site.main_of(self.enclosure.id)
        asked = self.decision in AT_THE_SERVICE and main is not None and main.kind != "switch"
        if main is None or not asked or main.interrupting_a is not None:
            return
        text = f"{available_a} A are available here, and what {main.name or main.id} can break is not entered: read its label."
        self.judge.about("devices", main.id).cannot_tell("interrupting", text, "interrupting_rating", "interrupting_a")

    def _behind(self, told: Figure) -> FaultBehind:
        """What the wires leave of it, up to the service point; one that is not read takes nothing away for certain."""
        system = self.site.system_at(self.enclosure.id) or ""
        ways = [run for run in self.site.runs_to_source(self.enclosure.id) if self._is_of_the_premises(run)]
        wires = [wire for run in ways if (wire := self._wire(run)) is not None]
        if not wires or system not in ACROSS_A_FAULT:
            return FaultBehind(told, None)
        across, there_and_back = ACROSS_A_FAULT[system]
        volts = self.recorder.given("Volts across the fault", across, "V", "system")
        found = fault_behind(self.recorder, told, volts, there_and_back, wires)
        return found if len(wires) == len(ways) else FaultBehind(found.most, None)

    def _is_of_the_premises(self, run: Run) -> bool:
        answer = self.answers.get(run.id)
        return answer is None or answer.kind != "utility"

    def _wire(self, run: Run) -> Wire | None:
        """The lines of a run as far as they are read."""
        answer = self.answers.get(run.id)
        size = answer.size("hots") if answer is not None else None
        if answer is None or size is None or answer.is_unread("hots"):
            return None
        if not run.length_ft or run.material is None or run.method is None:
            return None
        return Wire(size, run.material, run.method, run.sets, exact(run.length_ft))

    def _device(self, device: Device, able: Figure, here: FaultBehind) -> None:
        clause, field_name = "interrupting_rating", "interrupting_a"
        about = self.judge.about("devices", device.id)
        told = f"{device.name or device.id} can break {able.text} A"
        most = _whole(here.most)
        if self.recorder.at_least("It can break the fault current", able, here.most, clause=clause):
            about.holds("interrupting", f"{told}; no more than {most} A are available here.", clause, field_name)
        elif device.series_interrupting_a is not None:
            self._in_series(device, device.series_interrupting_a, able, here)
        elif here.least is None:
            text = (
                f"{told}, and {most} A are available here {self._as_far_as_known()}, or use a device rated for that, or a "
                "series combination that is marked on the panel."
            )
            about.cannot_tell("interrupting", text, clause, field_name, ((device.id, "series_interrupting_a"),))
        elif not self.recorder.at_least("It can break the least that is left", able, here.least, clause=clause):
            text = (
                f"{told}, and at least {_whole(here.least)} A are available here. Use one rated for it, or a series "
                "combination that is marked on the panel."
            )
            about.must_fix("interrupting", text, clause, field_name)
        else:
            text = (
                f"{told}, and between {_whole(here.least)} and {most} A are available here. Use a device rated for that, or "
                "a series combination that is marked on the panel."
            )
            about.cannot_tell("interrupting", text, clause, field_name, ((device.id, "series_interrupting_a"),))

    def _as_far_as_known(self) -> str:
        source = self.site.source_of(self.enclosure.id)
        if source is not None and source.fault_current_a is None:
            return "at most by the plate of the utility's transformer. Ask the utility for its figure"
        return "as far as the wires are read. Read their sizes and lengths"

    def _in_series(self, device: Device, marked_a: float, able: Figure, here: FaultBehind) -> None:
        """A combination marked on the panel: it breaks all of it, its upper device does alone, and few motors lie between."""
        field, name, most = "series_interrupting_a", device.name or device.id, _whole(here.most)
        about = self.judge.about("devices", device.id)
        marked = self.recorder.given(f"Marked for {name} with the device ahead", marked_a, "A", "label")
        upper = self._device_ahead(device)
        if not self.recorder.at_least("Together they can break it", marked, here.most, clause="series_rating"):
            text = f"{name} with the device ahead can break {marked.text} A, and {most} A are available here."
            about.must_fix("interrupting", text, "series_rating", field)
            return
        if upper is None or upper.interrupting_a is None:
            told = upper.name or upper.id if upper is not None else f"the device ahead of {name}"
            text = f"{name} is marked for {marked.text} A in series. What {told} can break is not entered."
            at = ((upper.id, "interrupting_a"),) if upper is not None else ()
            about.cannot_tell("interrupting", text, "series_rating", field, at)
            return
        above = self.recorder.given(
            f"Interrupting rating of {upper.name or upper.id}", upper.interrupting_a, "A", "label"
        )
        if not self.recorder.at_least("The upper device can break it", above, here.most, clause="interrupting_rating"):
            text = f"{upper.name or upper.id} ahead of {name} can break {above.text} A, and {most} A are available."
            about.must_fix("interrupting", text, "series_rating", field)
        elif self._motors_between(device, able):
            text = f"Motors that draw more than 1 % of what {name} can break alone lie between the devices of its series combination."
            about.must_fix("interrupting", text, "series_rating_motors", field)
        else:
            text = f"{name} with {upper.name or upper.id} ahead can break {marked.text} A, as marked; {most} A are available at most."
            about.holds("interrupting", text, "series_rating", field)

    motors_text = "Motors that draw more than 1 % of what {name} can break alone lie between the devices of its series combination."

    def _motors_between(self, device: Device, able: Figure) -> bool:
        """More than 1 % of the lower device's own rating in motors rules a series combination out (240.86(C)).

        Those of this box and of all that it feeds lie between the devices, but for what the lower device itself feeds.
        """
        loads = [load for load in self.site.loads_beneath(self.enclosure.id) if load.device_id != device.id]
        amperes = self.motors.among(loads)
        if not amperes:
            return False
        drawn = self.recorder.given("Motors between the devices", amperes, "A", "loads")
        factor = self.recorder.parameter("series_motor_factor", "Of the interrupting rating")
        limit = self.recorder.multiply("Motors at most", able, factor, unit="A", clause="series_rating_motors")
        return not self.recorder.at_least("Few enough motors", limit, drawn, clause="series_rating_motors")

    def _device_ahead(self, device: Device) -> Device | None:
        """The device next ahead: the main of the box, or what protects the run that feeds it."""
        main = self.site.main_of(self.enclosure.id)
        if main is not None and main is not device and main.kind != "switch":
            return main
        run = self.site.feeding_run(self.enclosure.id)
        return self.site.protection_ahead.get(run.id) if run is not None else None


def _whole(figure: Figure) -> str:
    return f"{float(figure.number):.0f}"


def _rating(site: Site, recorder: Recorder, enclosure: Enclosure, device: Device) -> Figure | None:
    """The rating as it is marked: that of the device, or for all but the main that of the panel where it is higher."""
    if device is site.main_of(enclosure.id):
        able = device.interrupting_a
    else:
        able = max(device.interrupting_a or 0, enclosure.interrupting_a or 0)
    return recorder.given(f"Interrupting rating of {device.name or device.id}", able, "A", "label") if able else None


def _tells_its_fault(source: Source) -> bool:
    """Tell whether the utility's letter, or the whole plate of its transformer, is entered."""
    by_plate = source.transformer_kva is not None and source.impedance_percent is not None
    return source.fault_current_a is not None or (by_plate and source.kind == "utility")


def _behind_a_transformer(site: Site, enclosure_id: str) -> bool:
    ends = (
        end for run in site.runs_to_source(enclosure_id) for end in (site.upstream_of(run), site.downstream_of(run))
    )
    return any(place in site.transformer_enclosures for place in (enclosure_id, *ends))
