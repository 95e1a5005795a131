"""Behind the bond of a system: neutral and metal apart, and a grounding path back to the bond."""

from __future__ import annotations

from nelvor.clauses import grounding_conductor
from nelvor.clauses.ampacity import size_index
from nelvor.errors import CannotCompute
from nelvor.judges.bonds.answer import Decision
from nelvor.judges.bonds.place import Place
from nelvor.judges.bonds.service_bond import ONLY_AS_SERVICE
from nelvor.judges.verdict import Mend, adding, proposing
from nelvor.model.things import Bar, Run


def behind_bond(place: Place) -> Decision:
    """Judge an enclosure behind the bond of its system."""
    assert place.feeding is not None  # the zone of an enclosure without a feed is unknown
    _marking_on_load_side(place)
    grounded = place.has_ground(place.feeding)
    if grounded is None:
        place.judge.cannot_tell(
            "ground_missing",
            f"The run to {place.name} has the armor of its MC cable as the only grounding path. Enter whether the "
            "armor is listed as a grounding conductor, or run a wire.",
            "mc_armor_ground",
            "armor_listed_ground",
        )
        return "unknown"
    if not grounded:
        return _without_ground(place, place.feeding)
    _ground_bar(place)
    clause = place.zone.clause
    if place.found == "bonded" and _meter_beside_the_service(place):
        text = f"The metal of {place.name} may be bonded to the neutral: it stands immediately beside the service disconnect."
        place.judge.holds("bond", text, "neutral_bond_load_side_limits")
    elif place.found == "bonded":
        place.judge.must_fix(
            "bond",
            f"Neutral is bonded again at {place.name} ({place.joined_by}). {_where_it_belongs(place)}; here neutral "
            "current would flow on grounding conductors and metal.",
            clause,
            mend=Mend("Take the bond out", tuple(place.mends.take_out(place.inside.joining))),
        )
    elif place.found == "unknown":
        place.doubtful(clause)
    else:
        place.judge.holds("bond", "Neutral is kept apart from the metal.", clause)
    return "apart"


def _meter_beside_the_service(place: Place) -> bool:
    """Tell whether a meter may keep its bond: beside the disconnect, without ground-fault protection ahead (250.142(B) Ex 2)."""
    ahead = place.site.protection_ahead.get(place.feeding.id) if place.feeding is not None else None
    protected = ahead is not None and ahead.ground_fault_protection is True
    is_meter = place.enclosure.kind == "meter" or bool(place.enclosure.meter_class_a)
    return is_meter and place.enclosure.beside_service is True and not protected


def _where_it_belongs(place: Place) -> str:
    of_service = place.zone.clause in ("building_neutral_apart", "load_side_neutral_ground")
    return "The bond belongs at the service disconnect alone" if of_service else "The bond belongs elsewhere"


def _marking_on_load_side(place: Place) -> None:
    if place.enclosure.service_marking == ONLY_AS_SERVICE:
        place.judge.must_fix(
            "marking",
            f"{place.name} is suitable only as service equipment: its neutral is bonded for good, so it cannot be a "
            "sub-panel. Use one whose bond can be taken out.",
            "service_equipment_marking",
            "service_marking",
            Mend("Use one marked suitable", proposing("enclosures", place.enclosure, service_marking="suitable")),
        )


def _without_ground(place: Place, run: Run) -> Decision:
    first_of_building = place.site.is_first_of_building(place.enclosure.id)
    conditions = (
        _old_three_wire_conditions(place, run) if first_of_building and run.standing == "existing" else {"": False}
    )
    if place.zone.clause in ("derived_neutral_apart", "not_separately_derived"):
        return _without_path_to_source(place, run)
    if any(value is False for value in conditions.values()):
        failing = next(name for name, value in conditions.items() if value is False)
        because = f" The old three-wire feed cannot stay: {failing}." if failing else ""
        place.judge.must_fix(
            "ground_missing",
            f"The run to {place.name} has no grounding conductor.{because} Connect one first, then take the "
            "neutral bond out here.",
            "building_egc" if first_of_building else "egc_required_in_feeder",
            mend=Mend(
                "Add the grounding conductor, then part neutral and ground",
                tuple(place.mends.convert(run, place.inside.joining)),
            ),
        )
        return "apart"
    unknown = [name for name, value in conditions.items() if value is None]
    return _not_all_entered(place, unknown) if unknown else _old_feed_stays(place)


def _not_all_entered(place: Place, unknown: list[str]) -> Decision:
    if place.found == "apart":
        place.judge.must_fix(
            "bond",
            f"The run to {place.name} has no grounding conductor, and the bond is lifted: a fault to its metal finds no way back. "
            "Restore it until a grounding conductor is connected.",
            "building_existing_3wire",
            mend=Mend("Restore the bond", tuple(place.mends.make_bond())),
        )
    place.judge.cannot_tell(
        "ground_missing",
        f"The old three-wire run to {place.name} may stay only under conditions that are not "
        f"all entered: {'; '.join(unknown)}.",
        "building_existing_3wire",
        "complied_when_installed",
    )
    return "unknown"


def _old_feed_stays(place: Place) -> Decision:
    if place.found == "apart":
        place.judge.must_fix(
            "bond",
            f"The old three-wire run to {place.name} has the neutral as its only fault path, and the bond is "
            "lifted. Restore it, or add a grounding conductor.",
            "building_existing_3wire",
            mend=Mend("Restore the bond", tuple(place.mends.make_bond())),
        )
    elif place.found == "unknown":
        place.doubtful("building_existing_3wire")
    else:
        place.judge.advise(
            "ground_missing",
            f"The old three-wire run to {place.name} may stay with its bond. Do not lift that bond "
            "before a grounding conductor is connected.",
            "building_existing_3wire",
        )
    return "existing_three_wire"


def _without_path_to_source(place: Place, run: Run) -> Decision:
    """Behind the bond of a derived system: the path back is a grounding conductor, ahead of a device a jumper."""
    unprotected = place.site.protection_ahead.get(run.id) is None
    what = "supply-side bonding jumper" if unprotected else "grounding conductor"
    operations = (*place.mends.add_ground(run), *place.mends.take_out(place.inside.joining))
    place.judge.must_fix(
        "jumper_missing" if unprotected else "ground_missing",
        f"The run to {place.name} has no {what}: a fault to its metal would find no way back to the source.",
        "supply_side_bonding_jumper" if unprotected else "egc_required_in_feeder",
        mend=Mend(f"Add the {what}", operations),
    )
    return "apart"


def _old_three_wire_conditions(place: Place, run: Run) -> dict[str, bool | None]:
    building = place.site.buildings.get(place.enclosure.building_id or "")
    path = True if _metal_is_drawn(place) else building.metal_path_to_supply if building else None
    device = place.site.protection_ahead.get(run.id)
    fault_protection = device.ground_fault_protection if device else None
    return {
        "it complied when it was installed": run.complied_when_installed,
        "no continuous metal path joins the buildings": None if path is None else not path,
        "no ground-fault protection stands ahead": None if fault_protection is None else not fault_protection,
        "its neutral is no smaller than a grounding conductor": _neutral_is_large_enough(place, run),
    }


def _metal_is_drawn(place: Place) -> bool:
    """Tell whether a continuous metal path is drawn between the boxes of the building and those of another."""
    site = place.site

    def at_building(end: str | None) -> bool:
        box, building = site.enclosures.get(end or ""), place.enclosure.building_id
        return end == building or (box is not None and box.building_id == building)

    ends = [
        (item.end_a, item.end_b) for item in site.document.metal_paths if item.continuous and item.end_a and item.end_b
    ]
    return any(at_building(one) != at_building(other) for one, other in ends)


def _neutral_is_large_enough(place: Place, run: Run) -> bool:
    """The neutral of an old feed, as it is read, against Table 250.122; one that is still to be chosen is chosen large enough."""
    answer, device = place.answers.get(run.id), place.site.protection_ahead.get(run.id)
    hots = run.hot_size or (answer.size("hots") if answer is not None else None)
    material = run.material or (answer.material if answer is not None else None)
    if run.neutral_size is None or hots is None or material is None or device is None or device.rating_a is None:
        return True
    rating = place.recorder.given("Device ahead", device.rating_a, "A", "design")
    try:
        needed = grounding_conductor.grounding_conductor(place.recorder, rating, material, hots, hots, run.sets)
    except CannotCompute:
        return True
    return size_index(run.neutral_size) >= size_index(needed.text)


def _ground_bar(place: Place) -> None:
    standing = place.mends.bar("ground")
    if standing is not None and standing.insulated and not _joined_to_metal(place, standing):
        place.judge.must_fix(
            "ground_bar",
            f"The ground bar of {place.name} stands off from the metal of the enclosure: nothing joins the metal to "
            "the grounding conductor, and a fault to it would stay live. Fasten the bar to the metal.",
            "grounding_terminal_bar",
            mend=Mend("Fasten the bar to the metal", proposing("bars", standing, insulated=False)),
        )
    if place.enclosure.kind != "panel" or standing is not None:
        return
    bar = place.mends.new_ground_bar(place.site.free_ids())
    place.judge.must_fix(
        "ground_bar",
        f"{place.name} has no ground bar; grounding conductors may not land on its neutral bar.",
        "ground_neutral_separate_bar",
        mend=Mend("Fit a listed ground bar", (adding("bars", bar),)),
    )


def _joined_to_metal(place: Place, bar: Bar) -> bool:
    """Tell whether a bond joins a bar to the enclosure's metal, or may."""
    ends = {bar.id, place.enclosure.id}
    bonds = place.site.bonds_in.get(place.enclosure.id, [])
    return any({bond.part_a, bond.part_b} == ends and bond.made is not False for bond in bonds)
