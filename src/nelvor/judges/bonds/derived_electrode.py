"""The electrode conductor of a derived system: from its bond, by its lines, alone or as a tap to one of several (250.30(A))."""

from __future__ import annotations

from nelvor.clauses.ampacity import size_index
from nelvor.clauses.electrode_conductor import electrode_conductor, to_electrode
from nelvor.errors import CannotCompute
from nelvor.judges.bonds.place import Place
from nelvor.judges.bonds.rods import electrodes_behind, landed_at, landing_words, new_rods
from nelvor.judges.verdict import Mend, proposing
from nelvor.model.things import Electrode
from nelvor.topology.names import thing_name

COMMON = "derived_electrode_common"
Lines = tuple[str, int, str]
"""The size of the lines of a system, their parallel sets, and their metal."""


def electrode_of_system(place: Place, lines: Lines | None) -> None:
    """Judge where the electrode conductor of a derived system begins, and how large it is (250.30(A)(5) and (6), (C))."""
    outdoors = place.enclosure.placement == "outdoors"
    clause = "outdoor_derived_system" if outdoors else "derived_electrode_conductor"
    electrodes = place.site.electrodes_at.get(place.enclosure.id, [])
    if not electrodes:
        text = (
            f"{place.name} is a system of its own: its electrode conductor begins at this bond and goes to "
            f"{'an electrode at the source' if outdoors else 'the electrodes of the building'}. None is entered."
        )
        strayed = electrodes_behind(place.site, place.enclosure)
        if strayed:
            place.judge.must_fix(
                "derived_electrode",
                f"{text} {landing_words(place.site, strayed)}",
                clause,
                mend=_landed(place, strayed),
            )
        elif outdoors:
            mend = Mend("Drive two rods at it", tuple(new_rods(place.site, place.enclosure, _landing(place), 2, 0)))
            place.judge.must_fix("derived_electrode", text, clause, mend=mend)
        else:
            place.judge.cannot_tell("derived_electrode", text, clause)
        return
    place.judge.holds("derived_electrode", "Its electrode conductor begins at the bond.", clause)
    if lines is not None:
        place.try_figure("electrode_conductor", lambda: electrode_conductor(place.recorder, *lines, "copper"))
    for electrode in electrodes:
        if lines is not None and electrode.conductor_size is not None:
            _own_conductor(place, electrode, electrode.conductor_size, lines)
        if electrode.common_size is not None:
            _common_conductor(place, electrode, electrode.common_size)


def _landing(place: Place) -> str:
    bar = place.mends.bar("ground") or place.mends.bar("neutral")
    return bar.id if bar is not None else place.enclosure.id


def _landed(place: Place, strayed: list[Electrode]) -> Mend:
    return Mend("Land the electrode conductor at the bond", tuple(landed_at(strayed, _landing(place))))


def _own_conductor(place: Place, electrode: Electrode, size: str, lines: Lines) -> None:
    metal = electrode.conductor_material or "copper"
    try:
        needed = electrode_conductor(place.recorder, *lines, metal)
    except CannotCompute as reason:
        place.judge.cannot_compute("electrode_conductor", reason, "gec_size")
        return
    if electrode.common_size is None:
        needed = to_electrode(place.recorder, electrode.kind, needed, metal)
    if size_index(size) < size_index(needed.text):
        what = "tap to the common electrode conductor" if electrode.common_size else "conductor"
        text = f"The {what} to {thing_name(place.site, electrode.id)} is {size}; {needed.text} {metal} is needed."
        mend = Mend(f"Use {needed.text}", proposing("electrodes", electrode, conductor_size=needed.text))
        place.judge.must_fix("electrode_conductor", text, "gec_size", mend=mend)


def _common_conductor(place: Place, electrode: Electrode, size: str) -> None:
    """One that serves several derived systems has a size of its own, whatever their lines are."""
    metal = electrode.common_material
    about = place.judge.about("electrodes", electrode.id)
    if metal is None:
        text = "The metal of the common electrode conductor is not told."
        about.cannot_tell("common_electrode", text, COMMON, "common_material")
        return
    least = place.rules.parameter(f"common_electrode_least_{metal}").value
    if size_index(size) >= size_index(least):
        about.holds("common_electrode", f"{size} {metal} may serve several derived systems.", COMMON)
        return
    text = f"The common electrode conductor is {size} {metal}; several derived systems ask for {least}."
    mend = Mend(f"Use {least}", proposing("electrodes", electrode, common_size=least))
    about.must_fix("common_electrode", text, COMMON, "common_size", mend)
