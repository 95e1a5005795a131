"""Of a run: its raceway, bends, cover, and what else has to be fitted along it."""

from __future__ import annotations

from nelvor.errors import MissingInput
from nelvor.model.operations import Operation
from nelvor.model.things import Conductor
from nelvor.rules import burial, fittings, raceway, wiring
from nelvor.rules.fit_out import fit_out
from nelvor.rules.run.case import RunCase
from nelvor.rules.run.circumstances import INCHES_PER_FOOT
from nelvor.rules.site import LINE_TO_NEUTRAL_V
from nelvor.rules.verdict import Mend, adding, proposing
from nelvor.working import exact, shown


def solve_raceway(case: RunCase) -> None:
    """Choose the trade size or check the locked one, with bends, damage, jamming and grounding through it."""
    if case.run.method not in raceway.RACEWAY_ROWS:
        return
    length = case.recorder.given(
        "Length",
        case.length_ft() * INCHES_PER_FOOT,
        "in",
        "run",
    )
    sizes = [case.need("hots").text] * case.hot_count()
    sizes += [case.need(part).text for part in ("neutral", "ground") if part in case.figures or part in case.gaps]
    area = raceway.conductors_area(case.recorder, str(case.run.insulation), sizes)
    allowed = raceway.allowed_fill(case.recorder, len(sizes), length)
    if case.run.raceway_size is None:
        fill = raceway.smallest_raceway(case.recorder, case.run.method, area, allowed)
    else:
        fill = raceway.fill_of(case.recorder, case.run.method, case.run.raceway_size, area, allowed)
    case.figures["raceway"] = fill.figure
    told = f"{fill.trade_size} in is filled to {float(fill.filled_percent):.1f} % of {float(fill.allowed_percent):g} % allowed."
    if fill.fits:
        case.judge.holds("raceway_fill", told, "fill_ch9", "raceway_size")
    else:
        case.judge.must_fix(
            "raceway_fill",
            f"The raceway is too small: {told}",
            "fill_ch9",
            "raceway_size",
            Mend("Choose it anew", proposing("runs", case.run, raceway_size=None)),
        )

    _bends(case)
    _damage(case)
    _jamming(case, fill.trade_size)
    _flexible_ground(case, fill.trade_size)


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


def _jamming(case: RunCase, trade_size: str) -> None:
    """Three equal conductors of a size may jam in a bend: advice (Chapter 9, note to Table 1)."""
    if not case.run.bends_deg or case.hot_count() != 3 or "neutral" in case.figures:
        return
    ratio, may_jam = raceway.jam_ratio(
        case.recorder, str(case.run.method), trade_size, str(case.run.insulation), case.need("hots").text
    )
    if may_jam:
        case.judge.advise(
            "jamming",
            f"Three conductors at {shown(ratio.number, 3)} times their diameter may jam in a bend; the next trade "
            "size pulls easier.",
            "fill_ch9",
            "raceway_size",
        )


def _flexible_ground(case: RunCase, trade_size: str) -> None:
    """A flexible metal raceway grounds only short and behind small devices (250.118)."""
    if not case.run.ground_by_raceway:
        return
    limit = wiring.flexible_ground_limit_a(str(case.run.method), trade_size, case.rules)
    if limit is None:
        return
    longest = exact(case.rules.parameter("flexible_ground_length_ft").value)
    length = case.length_ft()
    if case.need("device").number > limit or length > longest:
        case.judge.must_fix(
            "flexible_ground",
            f"Flexible metal raceway may ground up to {limit} A and {longest} ft; here a wire is needed.",
            "metal_raceway_as_ground",
            "ground_by_raceway",
            Mend("Run a wire", (*proposing("runs", case.run, ground_by_raceway=False), *_ground_wire(case))),
        )


def _ground_wire(case: RunCase) -> tuple[Operation, ...]:
    if case.site.has_conductor(case.run, "ground"):
        return ()
    start, end = (case.ground_bar(owner) for owner in (case.site.upstream_of(case.run), case.downstream()))
    wire = Conductor(id=f"{case.run.id}-g"[:40], run_id=case.run.id, role="ground", from_part=start, to_part=end)
    return (adding("conductors", wire),)


def solve_fit_out(case: RunCase) -> None:
    """List what else has to be fitted."""
    volts = LINE_TO_NEUTRAL_V[case.system()]
    case.to_fit = fit_out(case.recorder, case.run, case.need("hots").text, case.kind, volts)


def solve_cover(case: RunCase) -> None:
    """Check the cover of an underground run, or give the one to lay it at."""
    if case.run.placement != "underground":
        return
    method = case.filled("method", "The wiring method")
    location = case.filled("burial_location", "What lies above the run")
    needed = burial.cover_needed(case.recorder, method, location)
    case.figures["cover"] = needed
    if case.run.cover_in is None:
        if case.run.standing == "added":
            return
        raise MissingInput(case.run.id, "cover_in", "The cover as found")
    entered = case.recorder.given("Cover entered", case.run.cover_in, "in", "run")
    if case.recorder.at_least("Cover is deep enough", entered, needed, clause="burial_depth"):
        case.judge.holds("cover", f"Cover {entered.text} in, {needed.text} in needed.", "burial_depth", "cover_in")
    else:
        case.judge.must_fix(
            "cover",
            f"Cover of {entered.text} in is less than the {needed.text} in needed here.",
            "burial_depth",
            "cover_in",
            Mend(f"Lay it {needed.text} in deep", proposing("runs", case.run, cover_in=float(needed.number))),
        )
