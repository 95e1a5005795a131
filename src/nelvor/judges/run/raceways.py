"""Of a run: its raceway, bends, cover, and what else has to be fitted along it."""

from __future__ import annotations

from fractions import Fraction
from typing import NamedTuple

from nelvor.clauses import cover, fittings, raceway_fill, wiring_methods
from nelvor.clauses.load_kind import OTHER
from nelvor.errors import MissingInput
from nelvor.judges.run.case import RunCase
from nelvor.judges.run.circumstances import INCHES_PER_FOOT
from nelvor.judges.run.fit_out import fit_out
from nelvor.judges.run.lays import Lay
from nelvor.judges.run.torques import torques
from nelvor.judges.verdict import Mend, adding, proposing
from nelvor.model.changes.operations import Operation
from nelvor.model.things import Conductor
from nelvor.model.voltages import LINE_TO_NEUTRAL_V
from nelvor.working import Recorder, exact, product, shown


def solve_raceway(case: RunCase) -> None:
    """Choose the trade sizes or check the locked ones, with bends, damage, jamming and grounding through metal."""
    case.for_each_lay("raceway", _lay_raceway)
    if case.run.method in raceway_fill.RACEWAY_ROWS:
        _bends(case)
        _damage(case)
    _flexible_ground(case)


def _lay_raceway(case: RunCase, lay: Lay) -> None:
    method, judge = lay.value("method"), case.judge_of(lay)
    if method not in raceway_fill.RACEWAY_ROWS:
        return
    length = case.recorder.given("Length", product((case.length_ft(), INCHES_PER_FOOT)), "in", "run")
    wires = _wires(case)
    area = raceway_fill.conductors_area(case.recorder, str(case.run.insulation), wires.insulated, wires.bare)
    alike = raceway_fill.alike_area(case.recorder, str(case.run.insulation), wires.insulated, wires.bare)
    allowed = raceway_fill.allowed_fill(case.recorder, wires.number, length)
    locked = lay.value("raceway_size")
    if locked is None:
        fill = raceway_fill.smallest_raceway(case.recorder, method, area, allowed, alike)
    else:
        fill = raceway_fill.fill_of(case.recorder, method, locked, area, allowed, alike)
    case.figures[f"raceway{lay.key}"] = fill.figure
    if fill.fits:
        judge.holds("raceway_fill", f"{fill.words} allowed.", "fill_ch9", "raceway_size")
    else:
        anew = Mend(f"Raceway: {locked} in to the smallest that fits", lay.changing(raceway_size=None))
        judge.must_fix(
            "raceway_fill", f"The raceway is too small: {fill.words} allowed.", "fill_ch9", "raceway_size", anew
        )
    _jamming(case, lay, fill.trade_size)


class _Wires(NamedTuple):
    """The conductors of one set in a raceway: the sizes of the insulated ones, and of a bare grounding conductor."""

    insulated: tuple[str, ...]
    bare: str | None

    @property
    def number(self) -> int:
        return len(self.insulated) + (self.bare is not None)


def _wires(case: RunCase) -> _Wires:
    sizes = [case.need("hots").text] * case.hot_count
    if "neutral" in case.figures or "neutral" in case.gaps:
        sizes.append(case.need("neutral").text)
    ground = case.need("ground").text if "ground" in case.figures or "ground" in case.gaps else None
    if ground is not None and not case.run.ground_bare:
        sizes.append(ground)
    return _Wires(tuple(sizes), ground if case.run.ground_bare else None)


def _bends(case: RunCase) -> None:
    if case.run.bends_deg is None:
        return
    bends = case.recorder.given("Bends between pull points", case.run.bends_deg, "deg", "run")
    if fittings.bends_hold(case.recorder, bends):
        case.judge.holds("bends", f"{bends.text}° of bends between pull points.", "bends_360", "bends_deg")
    else:
        case.judge.must_fix(
            "bends",
            f"{bends.text}° of bends between pull points; 360° are the most. Set a pull box or conduit body between.",
            "bends_360",
            "bends_deg",
        )


def _damage(case: RunCase) -> None:
    if case.run.exposed_to_damage and case.run.method in ("pvc40", "ent"):
        case.judge.must_fix(
            "damage",
            "Where it can be hit the raceway must be schedule 80 or metal.",
            "raceway_protection_sch80",
            "method",
            Mend("Use PVC schedule 80", proposing("runs", case.run, method="pvc80", raceway_size=None)),
        )


def _jamming(case: RunCase, lay: Lay, trade_size: str) -> None:
    """Three equal conductors of a size may jam in a bend: advice (Chapter 9, note to Table 1)."""
    if not case.run.bends_deg or case.hot_count != 3 or "neutral" in case.figures:
        return
    hots, insulation = case.need("hots").text, str(case.run.insulation)
    ratio, may_jam = raceway_fill.jam_ratio(case.recorder, lay.value("method"), trade_size, insulation, hots)
    if may_jam:
        text = f"Three conductors at {shown(ratio.number, 3)} times their diameter may jam in a bend; the next trade size pulls easier."
        case.judge_of(lay).advise("jamming", text, "fill_ch9", "raceway_size")


def _flexible_ground(case: RunCase) -> None:
    """A flexible metal raceway grounds only short, all its parts together, and behind small devices (250.118)."""
    if not case.run.ground_by_raceway:
        return
    length, limits = Fraction(0), []
    for lay in case.lays:
        trade_size = case.figures.get(f"raceway{lay.key}")
        size = trade_size.text if trade_size else ""
        limit = wiring_methods.flexible_ground_limit_a(lay.value("method") or "", size, case.rules)
        if limit is not None:
            limits.append(limit)
            length += lay.length_ft if lay.length_ft is not None else case.length_ft()
    longest = case.rules.parameter("flexible_ground_length_ft").number
    if limits and (case.need("device").number > min(limits) or length > longest):
        case.judge.must_fix(
            "flexible_ground",
            f"Flexible metal raceway may ground up to {min(limits)} A and {longest} ft; here a wire is needed.",
            "metal_raceway_as_ground",
            "ground_by_raceway",
            Mend("Run a wire", (*proposing("runs", case.run, ground_by_raceway=False), *_ground_wire(case))),
        )


def _ground_wire(case: RunCase) -> tuple[Operation, ...]:
    if case.site.has_conductor(case.run, "ground"):
        return ()
    start, end = (case.ground_bar(owner) for owner in (case.site.upstream_of(case.run), case.fed))
    new_id = case.site.free_ids().take(f"{case.run.id}-g")
    wire = Conductor(id=new_id, run_id=case.run.id, role="ground", from_part=start, to_part=end)
    return (adding("conductors", wire),)


def solve_fit_out(case: RunCase) -> None:
    """List what else has to be fitted."""
    volts = LINE_TO_NEUTRAL_V[case.system()]
    case.to_fit = fit_out(case.recorder, case.lays, case.need("hots").text, case.kind, volts)
    case.to_fit += torques(case)


def solve_cover(case: RunCase) -> None:
    """Check the cover of what lies underground, or give the one to lay it at."""
    case.for_each_lay("cover", _lay_cover)


def _lay_cover(case: RunCase, lay: Lay) -> None:
    if lay.value("placement") != "underground":
        return
    method = lay.filled("method", "The wiring method")
    location = lay.filled("burial_location", "What lies above the run")
    shallow = _residential_branch(case)
    needed = cover.cover_needed(case.recorder, method, location, shallow is True)
    case.figures[f"cover{lay.key}"] = needed
    depth = lay.value("cover_in")
    if depth is None:
        if lay.thing.standing == "added":
            return
        raise MissingInput(lay.thing.id, "cover_in", "The cover as found")
    entered, judge = case.recorder.given("Cover entered", depth, "in", "run"), case.judge_of(lay)
    if case.recorder.at_least("Cover is deep enough", entered, needed, clause="burial_depth"):
        judge.holds("cover", f"Cover {entered.text} in, {needed.text} in needed.", "burial_depth", "cover_in")
    else:
        if shallow is None and exact(depth) >= _cover_if_protected(case, method, location):
            judge.cannot_tell(
                "cover",
                f"Cover of {entered.text} in is enough only for a branch circuit with ground-fault protection. Enter "
                f"whether its device has it; without, {needed.text} in are needed.",
                "burial_depth",
                "cover_in",
            )
            return
        judge.must_fix(
            "cover",
            f"Cover of {entered.text} in is less than the {needed.text} in needed here.",
            "burial_depth",
            "cover_in",
            Mend(f"Cover: {entered.text} in to {needed.text} in", lay.changing(cover_in=float(needed.number))),
        )


def _residential_branch(case: RunCase) -> bool | None:
    """Tell whether this is a 120 V, 20 A, ground-fault protected branch circuit of a dwelling (Table 300.5(A)).

    None where all but the ground-fault protection holds, and that is not known.
    """
    if case.kind != "branch" or case.hot_count != 1 or "device" not in case.figures:
        return False
    system, units = case.system(), {unit for unit, _ in case.known_level().tally}
    small = case.need("device").number <= cover.RESIDENTIAL_BRANCH_MOST_A
    if LINE_TO_NEUTRAL_V[system] != cover.RESIDENTIAL_BRANCH_VOLTS or not small or OTHER in units:
        return False
    return case.protecting_device().ground_fault_protection


def _cover_if_protected(case: RunCase, method: str, location: str) -> Fraction:
    return cover.cover_needed(Recorder(case.rules), method, location, residential_branch=True).number
