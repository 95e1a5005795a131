"""Systems of their own: the one bond at their beginning or first disconnect, and sources that float."""

from __future__ import annotations

from nelvor.clauses import bonding_jumper
from nelvor.errors import CannotCompute
from nelvor.judges.bonds.answer import Decision
from nelvor.judges.bonds.derived_electrode import Lines, electrode_of_system
from nelvor.judges.bonds.place import Place
from nelvor.judges.verdict import Mend, proposing
from nelvor.model.changes.operations import Operation
from nelvor.model.things import Run
from nelvor.topology.names import name_of
from nelvor.working import Figure


def bond_of_system(place: Place) -> Decision:
    """Judge the place where a derived system has its one bond (250.30(A)(1))."""
    clause = place.zone.clause
    place.try_figure("system_bonding_jumper", lambda: _system_jumper(place))
    if place.feeding is not None and place.zone.kind == "derived" and clause == "system_bonding_jumper":
        _jumper_to_the_beginning(place, place.feeding)
    if place.found == "bonded":
        place.judge.holds("bond", f"The system has its bond here ({place.joined_by}).", clause)
    elif place.found == "unknown":
        place.doubtful(clause)
    elif place.found == "no_neutral":
        mend = Mend("Fit a neutral bar with a bonding strap", place.mends.new_bar_and_bond())
        text = f"The system that begins at {place.name} has its bond here, but there is no neutral bar to bond."
        place.judge.must_fix("bond", text, clause, mend=mend)
    else:
        mend = Mend("Fit the bond", tuple(place.mends.make_bond()))
        text = (
            f"The neutral of the system that begins at {place.name} is not joined to the metal. A fault would never "
            "trip a breaker. Fit the system bonding jumper."
        )
        place.judge.must_fix("bond", text, clause, mend=mend)
    if clause == "system_bonding_jumper":
        electrode_of_system(place, _lines(place))
    return "bond_in_source" if place.zone.kind == "in_source" else "derived_bond"


def floating(place: Place) -> Decision:
    """Judge the beginning of a system whose bond stands elsewhere: the service's, or at its first disconnect."""
    if place.found == "bonded":
        fixed = any(joint.bond is not None and joint.bond.removable is False for joint in place.inside.joining)
        operations = [*place.mends.take_out(place.inside.joining), *_marked_floating(place)]
        place.judge.must_fix(
            "bond",
            f"The neutral is bonded in {place.name} ({place.joined_by}), and its system has a bond already: neutral "
            "current would flow on grounding conductors. Open this bond as the maker allows and mark it, or use gear "
            "that opens the neutral with the lines, or a set made floating.",
            place.zone.clause,
            mend=Mend("Open the bond in it", tuple(operations)) if operations and not fixed else None,
        )
    elif place.found == "unknown":
        place.doubtful(place.zone.clause)
    elif place.found == "apart":
        place.judge.holds("bond", "Its own bond is out.", place.zone.clause)
    return "apart" if place.site.transformers_in.get(place.enclosure.id) else "floating"


def _marked_floating(place: Place) -> list[Operation]:
    """Whoever opens the bond of a set marks it anew (445.11)."""
    sets = (place.site.sources[part] for part in place.neutral if part in place.site.sources)
    marked = [item for item in sets if item.marking == "bonded_neutral"]
    return [step for item in marked for step in proposing("sources", item, marking="floating_neutral")]


def _system_jumper(place: Place) -> Figure:
    lines = _lines(place)
    if lines is None:
        raise CannotCompute("The size of the lines of this system is not known.", "Complete the run that leaves it.")
    return bonding_jumper.supply_side_jumper(place.recorder, *lines, "copper")


def _lines(place: Place) -> Lines | None:
    """The lines of the derived system: those that leave its beginning, or come to its first disconnect."""
    leaving = [
        run
        for run in place.site.runs_from.get(place.enclosure.id, [])
        if place.zone.kind == "in_source" or run.from_part in place.site.transformer_of_secondary
    ]
    arriving = [place.feeding] if place.feeding is not None and not leaving else []
    for run in (*leaving, *arriving):
        answer = place.answers.get(run.id)
        hots, material = (answer.size("hots"), answer.material) if answer else (None, None)
        if hots is not None and material is not None:
            return hots, run.sets, material
    return None


def _jumper_to_the_beginning(place: Place, feeding: Run) -> None:
    if place.has_ground(feeding) is False:
        name = name_of(place.site, place.site.upstream_of(feeding))
        text = f"No supply-side bonding jumper joins the metal of {name} to the bond at {place.name}."
        mend = Mend("Add the jumper", tuple(place.mends.add_ground(feeding)))
        place.judge.must_fix("jumper_missing", text, "supply_side_bonding_jumper", mend=mend)
