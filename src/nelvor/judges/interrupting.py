"""Whether each device can break the fault current that is available where it stands (110.9)."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from nelvor.clauses.fault_current import FaultBehind, Wire, fault_behind
from nelvor.judges.run import RunAnswer
from nelvor.judges.verdict import Judge
from nelvor.model.things import Device, Enclosure, Run
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

    def judged(self) -> None:
        """Judge them; what is available here at most is taken down among the figures."""
        source = self.site.source_of(self.enclosure.id)
        if source is None or source.fault_current_a is None or _behind_a_transformer(self.site, self.enclosure.id):
            return
        self._ask_for_the_main(source.fault_current_a)
        devices = [item for item in self.site.devices_in.get(self.enclosure.id, []) if item.kind != "switch"]
        rated = [
            (device, able)
            for device in devices
            if (able := _rating(self.site, self.recorder, self.enclosure, device)) is not None
        ]
        told = self.recorder.given("Fault current at the service", source.fault_current_a, "A", "utility's letter")
        at_service = self.decision in AT_THE_SERVICE
        here = FaultBehind(told, told) if at_service else self._behind(told)
        self.figures["fault_current"] = here.most
        for device, able in rated:
            self._device(device, able, here)

    def _ask_for_the_main(self, available_a: float) -> None:
        main = self.site.main_of(self.enclosure.id)
        asked = self.decision in AT_THE_SERVICE and main is not None and main.kind != "switch"
        if main is None or not asked or main.interrupting_a is not None:
            return
        text = f"{available_a:g} A are available here, and what {main.name or main.id} can break is not entered: read its label."
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
        elif here.least is None:
            text = (
                f"{told}, and {most} A are available here as far as the wires are read. Read their sizes and lengths, or use "
                f"a device rated for that, or a series combination that is marked on the panel."
            )
            about.cannot_tell("interrupting", text, clause, field_name)
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
            about.cannot_tell("interrupting", text, clause, field_name)


def _whole(figure: Figure) -> str:
    return f"{float(figure.number):.0f}"


def _rating(site: Site, recorder: Recorder, enclosure: Enclosure, device: Device) -> Figure | None:
    """The rating as it is marked: that of the device, or for all but the main that of the panel where it is higher."""
    if device is site.main_of(enclosure.id):
        able = device.interrupting_a
    else:
        able = max(device.interrupting_a or 0, enclosure.interrupting_a or 0)
    return recorder.given(f"Interrupting rating of {device.name or device.id}", able, "A", "label") if able else None


def _behind_a_transformer(site: Site, enclosure_id: str) -> bool:
    ends = (
        end for run in site.runs_to_source(enclosure_id) for end in (site.upstream_of(run), site.downstream_of(run))
    )
    return any(place in site.transformer_enclosures for place in (enclosure_id, *ends))
