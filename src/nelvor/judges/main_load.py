"""The main of an enclosure against the load behind it (215.3, 230.90): the device of the run that feeds it is judged with the run.

A bare switch carries the load as it is; a breaker or fuses the continuous part at 125 %.
"""

from __future__ import annotations

from collections.abc import Mapping

from nelvor.clauses.calculated_load import LevelLoad
from nelvor.judges.bus_large_enough import raising
from nelvor.judges.run import RunAnswer
from nelvor.judges.run.case import ENDS_IN_ITS_DEVICE
from nelvor.judges.run.load_and_device import DEVICE_CLAUSES
from nelvor.judges.verdict import Judge, Mend
from nelvor.model.things import Device
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of
from nelvor.topology.site import Site
from nelvor.working import Figure, Recorder

FEEDER = "continuous_125_feeder_ocpd"


def judge_main(
    site: Site,
    rules: Rules,
    answers: Mapping[str, RunAnswer],
    judge: Judge,
    recorder: Recorder,
    enclosure_id: str,
    level: object,
    *,
    service: bool,
) -> None:
    """Judge the main of one enclosure; what is not told of it or of its load is asked for elsewhere."""
    main, feeding = site.main_of(enclosure_id), site.feeding_run(enclosure_id)
    answer = answers.get(feeding.id) if feeding is not None else None
    with_the_run = feeding is None or (answer is not None and answer.kind in ENDS_IN_ITS_DEVICE)
    if main is None or main.enclosure_id != enclosure_id or with_the_run or not isinstance(level, LevelLoad):
        return
    rating = main.frame_a if main.kind == "switch" and main.frame_a is not None else main.rating_a
    if rating is None:
        return
    clause = DEVICE_CLAUSES.get("service", FEEDER) if service else FEEDER
    worst = level.worst.actual if main.kind == "switch" else level.worst.design
    load = recorder.carried("Load behind the main", worst, level.recorder)
    have = recorder.given(f"Main of {name_of(site, enclosure_id)}", rating, "A", "design")
    if recorder.at_least("The main carries the load", have, load, clause=clause):
        judge.holds("main_load", f"Its main of {have.text} A carries {load.text} A.", clause)
        return
    text = f"The main of {name_of(site, enclosure_id)} is {have.text} A, and the load behind it is {load.text} A."
    judge.about("devices", main.id).must_fix(
        "main_load", text, clause, "rating_a", _larger(site, rules, main, have, load)
    )


def _larger(site: Site, rules: Rules, main: Device, have: Figure, load: Figure) -> Mend | None:
    """The smallest standard rating that carries the load."""
    larger = rules.standard_ratings().reaching(load.number)
    if larger is None or main.kind == "switch":
        return None
    name = main.name or f"Main of {name_of(site, main.enclosure_id)}"
    return raising(site, rules, main, larger, f"{name}: {have.text} A to {larger} A")
