"""Conductors on the wrong bar: they join neutral and ground as surely as a strap."""

from __future__ import annotations

from nelvor.judges.bonds.answer import Decision
from nelvor.judges.bonds.place import Place
from nelvor.judges.verdict import Mend, proposing
from nelvor.model.things import Conductor, Electrode
from nelvor.topology.names import thing_name

LANDS_ON_A_BAR = frozenset({"neutral", "ground"})


def wrong_bars(place: Place, decision: Decision) -> None:
    """Conductors of runs on the wrong bar join neutral and ground as surely as a strap."""
    if decision != "apart":
        return
    for meeting, end in ((place.site.runs_into, "to_part"), (place.site.runs_from, "from_part")):
        for run in meeting.get(place.enclosure.id, []):
            for conductor in place.site.conductors_of.get(run.id, []):
                if conductor.role in LANDS_ON_A_BAR:
                    _wrong_bar(place, conductor, end)
    for electrode in place.site.electrodes_at.get(place.enclosure.id, []):
        _electrode_bar(place, electrode)


def _electrode_bar(place: Place, electrode: Electrode) -> None:
    """Behind the service an electrode joins the ground bar: on the neutral's it would ground the neutral again."""
    if not place.mends.on_neutral_bar(electrode):
        return
    right = place.mends.bar("ground")
    target = right.id if right else place.enclosure.id
    place.judge.about("electrodes", electrode.id).must_fix(
        "electrode_bar",
        f"The conductor to {thing_name(place.site, electrode.id)} lands on the neutral bar of {place.name}, which is kept apart from the "
        "ground. It belongs on the ground bar.",
        place.zone.clause,
        mend=Mend("Move it to the ground bar", proposing("electrodes", electrode, connects_to=target)),
    )


def _wrong_bar(place: Place, conductor: Conductor, end: str) -> None:
    bar = place.site.bars.get(getattr(conductor, end))
    if bar is None or bar.kind == conductor.role:
        return
    right = place.mends.bar(conductor.role)
    mend = (
        Mend(f"Move it to the {conductor.role} bar", proposing("conductors", conductor, **{end: right.id}))
        if right
        else None
    )
    place.judge.must_fix(
        "wrong_bar",
        f"The {conductor.role} conductor of {thing_name(place.site, conductor.run_id)} lands on the {bar.kind} bar of {place.name}.",
        "neutral_disconnecting_bar",
        mend=mend,
    )
