"""Of a run: its hot conductors, chosen or checked, by the rule that fits: table, whole dwelling unit, tap, secondary."""

from __future__ import annotations

from typing import Literal

from nelvor.clauses import hot_conductors
from nelvor.clauses.ampacity import Circumstances, final_ampacity, size_index
from nelvor.clauses.hot_conductors import Demand
from nelvor.clauses.load_kind import OTHER
from nelvor.clauses.supply_side_joint import least_size
from nelvor.clauses.tap_conditions import RuleAnswer
from nelvor.clauses.taps import judge_tap
from nelvor.clauses.transformer_secondary import judge_secondary
from nelvor.judges.run.case import Ahead, RunCase
from nelvor.judges.run.circumstances import circumstances_of, terminations_unknown
from nelvor.judges.run.load_and_device import several_receptacles, solve_device, solve_load
from nelvor.judges.run.motor_run import ask_for_overload, guarded
from nelvor.judges.run.pushed_back import device_ahead_with_sources
from nelvor.judges.run.source_run import raised_by
from nelvor.judges.run.tap_case import rules_asked_for, secondary_case, secondary_of_tap, size_by_rules, tap_case
from nelvor.judges.verdict import Mend, proposing
from nelvor.model.things import Tap, Transformer
from nelvor.model.voltages import LEGS
from nelvor.working import Figure, Recorder

CONDUCTOR_CLAUSES = {
    "branch": "continuous_125_branch_conductor",
    "service": "service_conductor_125",
}


def solve_hots(case: RunCase) -> None:
    """Choose the hot conductors, or check the locked ones."""
    tap = case.site.tap_of_run.get(case.run.id)
    if tap is not None:
        _tap_hots(case, tap)
        return
    transformer = case.site.transformer_of_secondary.get(case.run.from_part)
    if transformer is not None:
        _secondary_hots(case, transformer)
        return
    circumstances = circumstances_of(case)
    case.whole_dwelling = circumstances.dwelling_share
    mark, demand = case.recorder.mark(), _demand(case)
    free = None
    if case.by_table is None or case.run.hot_size is None:
        free = hot_conductors.smallest_hots(case.recorder, circumstances, demand)
        case.by_table = free.size
    needed = case.smallest_hots = _not_below_supply_side(case, case.by_table, circumstances.material)
    _check_material(case, circumstances.material)
    _check_terminations(case, circumstances, needed)
    _check_receptacles(case, circumstances, needed)
    asked = ask_for_overload(case, circumstances, demand, needed)
    if _as_what_carries_the_whole(case, circumstances, needed):
        return
    if free is not None and case.run.hot_size is None and needed != free.size:
        case.figures["ampacity"] = final_ampacity(case.recorder, needed, circumstances)[1]
        case.figures["hots"] = case.recorder.choose(
            "Hot conductors to a supply-side disconnect",
            needed,
            "AWG/kcmil",
            [free.figure],
            clause="supply_side_conductor_size",
        )
        return
    if free is not None and case.run.hot_size is None:
        case.figures["hots"], case.figures["ampacity"] = free.figure, free.ampacity
        return
    if case.run.hot_size != needed:
        case.recorder.forget(mark)
    _check_locked_hots(case, circumstances, needed, asked)


def _not_below_supply_side(case: RunCase, size: str, material: str) -> str:
    """Conductors to the disconnect of a source ahead of the service disconnect have a least size (705.11(B))."""
    if case.kind != "service" or not case.site.gathers_sources_alone(case.fed):
        return size
    return max(size, least_size(case.recorder, material).text, key=size_index)


def _as_what_carries_the_whole(case: RunCase, circumstances: Circumstances, needed: str) -> bool:
    """A feeder within one dwelling unit need not be larger than the run that carries the whole of it (310.12)."""
    whole = case.ahead.whole
    if whole is None or whole.material != circumstances.material or case.need("device").number > whole.device_a:
        return False
    largest = whole.size
    chosen = case.run.hot_size or largest
    if case.hot_count != len(LEGS) - 1 or not _within_one_unit(case):
        return False
    if size_index(needed) <= size_index(largest) or size_index(chosen) < size_index(largest):
        return False
    ampacity = final_ampacity(case.recorder, chosen, circumstances)[1]
    case.figures["ampacity"] = ampacity
    case.figures["hots"] = case.recorder.choose(
        "Hot conductors, as those that carry the whole dwelling unit",
        chosen,
        "AWG/kcmil",
        [ampacity],
        clause="dwelling_83pct",
        refused=f"{needed} by the table is more than a feeder of the unit has to be",
    )
    case.smallest_hots = largest
    case.judge.holds("hots_size", f"{chosen} is as large as what carries the whole unit.", "dwelling_83pct", "hot_size")
    return True


def _within_one_unit(case: RunCase) -> bool:
    units = {unit for unit, _ in case.known_level().tally}
    return len(units) == 1 and OTHER not in units


def _tap_hots(case: RunCase, tap: Tap) -> None:
    """A tap is not protected by the device ahead: its size goes by the tap rules (240.21(B))."""
    circumstances = circumstances_of(case)._replace(dwelling_share=False)
    device, design = case.need("device"), case.need("design")
    beyond = _ampacity_of_secondary(case)
    sources = device_ahead_with_sources(case, tap, device)
    tapped = tap_case(case.site, tap, case.run, case.recorder, device, design, circumstances, beyond, sources)
    case.tap_rules = judge_tap(case.recorder, tapped)
    _by_rules(case, rules_asked_for(case.tap_rules, tap), "tap", circumstances)


def _ampacity_of_secondary(case: RunCase) -> Figure | None:
    """The ampacity of the locked secondary conductors behind a tapped transformer, under their own circumstances."""
    run = secondary_of_tap(case.site, case.run)
    if run is None or run.hot_size is None:
        return None
    beyond = RunCase(case.site, case.rules, case.levels, run, Ahead())
    solve_load(beyond)
    solve_device(beyond)
    return final_ampacity(case.recorder, run.hot_size, circumstances_of(beyond))[1]


def _secondary_hots(case: RunCase, transformer: Transformer) -> None:
    """Secondary conductors go by 240.21(C): no device stands at their beginning."""
    circumstances = circumstances_of(case)._replace(dwelling_share=False)
    device, design = case.need("device"), case.need("design")
    secondary = secondary_case(case.site, transformer, case.run, case.recorder, device, design, circumstances)
    case.tap_rules = judge_secondary(case.recorder, secondary)
    _by_rules(case, case.tap_rules, "secondary", circumstances)


def _by_rules(case: RunCase, rules: list[RuleAnswer], kind: Literal["tap", "secondary"], at: Circumstances) -> None:
    _check_material(case, at.material)
    figure = size_by_rules(case.judge, case.recorder, rules, case.run, kind)
    case.figures["hots"], case.smallest_hots = figure, figure.text
    case.figures["ampacity"] = final_ampacity(case.recorder, figure.text, at)[1]


def _check_locked_hots(case: RunCase, circumstances: Circumstances, smallest: str, overload_asked: bool) -> None:
    size = str(case.run.hot_size)
    why, ampacity, tests = hot_conductors.refusal(case.recorder, size, circumstances, _demand(case))
    case.figures["ampacity"] = ampacity
    case.figures["hots"] = case.recorder.choose(
        "Hot conductors, locked", size, "AWG/kcmil", [*tests, ampacity], clause="ampacity_table"
    )
    if why and overload_asked:
        with_it = _demand(case)._replace(guarded_by_overload=True)
        if not hot_conductors.refusal(Recorder(case.rules), size, circumstances, with_it)[0]:
            return  # right or wrong hangs on what was asked
    if not why and size_index(size) < size_index(smallest):
        text = (
            f"The lines {size} to the disconnect of a source ahead of the service disconnect are at least {smallest}."
        )
        mend = Mend(f"Lines: {size} to {smallest}", proposing("runs", case.run, hot_size=smallest))
        case.judge.must_fix("hots_size", text, "supply_side_conductor_size", "hot_size", mend)
    if why:
        case.judge.must_fix(
            "hots_size",
            f"Hot conductors are too small. {why}.",
            "ampacity_table",
            "hot_size",
            Mend(f"Lines: {size} to {smallest}", proposing("runs", case.run, hot_size=smallest)),
        )
    else:
        case.judge.holds("hots_size", f"{size} carries the load and suits the device.", "ampacity_table", "hot_size")


def _check_material(case: RunCase, material: str) -> None:
    for amendment in case.rules.amended("material_aluminum", "forbid"):
        if material == "aluminum":
            note = f" ({amendment.source_note})" if amendment.source_note else ""
            case.judge.must_fix(
                "material",
                f"A local amendment forbids aluminum conductors{note}.",
                "",
                "material",
                Mend(
                    "Use copper",
                    proposing(
                        "runs",
                        case.run,
                        material="copper",
                        hot_size=None,
                        neutral_size=None,
                        ground_size=None,
                        raceway_size=None,
                    ),
                ),
            )


def _check_terminations(case: RunCase, circumstances: Circumstances, size: str) -> None:
    unknown = terminations_unknown(case) if circumstances.termination_c != 75 else []
    if not unknown:
        return
    scratch = Recorder(case.rules)
    warmer = circumstances._replace(termination_c=75)
    other = hot_conductors.smallest_hots(scratch, warmer, _demand(case)).size
    if other != size:
        case.judge.cannot_tell(
            "terminations",
            f"The temperature marking at {' and '.join(item.name or item.id for item in unknown)} is not known. Sized for "
            f"60 °C: {size}; with both ends marked 75 °C it would be {other}. Enter the marking.",
            "termination_temperature",
            asks=tuple((item.id, "termination_c") for item in unknown),
        )


def _conductor_clause(case: RunCase) -> str:
    if case.kind in ("output", "alone"):
        return raised_by(case)[2]
    return CONDUCTOR_CLAUSES.get(case.kind, "continuous_125_feeder_conductor")


def _demand(case: RunCase) -> Demand:
    branch = case.kind == "branch"
    return Demand(
        case.to_carry or case.need("load"),
        case.need("design"),
        case.need("device"),
        several_receptacles=branch and several_receptacles(case) is not False,
        continuous_clause=_conductor_clause(case),
        guarded_by_overload=guarded(case),
    )


def _check_receptacles(case: RunCase, circumstances: Circumstances, size: str) -> None:
    """Where it is not known whether a branch circuit has several receptacles, tell it if the size hangs on it."""
    if case.kind != "branch" or several_receptacles(case) is not None:
        return
    demand = _demand(case)._replace(several_receptacles=False)
    other = hot_conductors.smallest_hots(Recorder(case.rules), circumstances, demand).size
    if other != size:
        case.judge.cannot_tell(
            "several_receptacles",
            "It is not known whether this circuit supplies several receptacles for portable loads. If it does, its "
            f"hots are {size}; if not, {other} is enough. Enter it.",
            "several_receptacles",
            "several_receptacles",
        )
