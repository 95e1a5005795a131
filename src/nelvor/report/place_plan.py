"""The room before an enclosure as it is drawn: what must be clear, and what was found."""

from __future__ import annotations

from nelvor.errors import NotFound
from nelvor.judges.location import least_room
from nelvor.report.check import Report
from nelvor.report.sent import Wire
from nelvor.working import Recorder


class MeasureOut(Wire):
    """One measure in inches: what is needed (None where it cannot be told), what is there, and by which section."""

    needed_in: float | None
    there_in: float | None
    section: str


class PlacePlanOut(Wire):
    """The working space of an enclosure. ``headroom`` and the space above it are asked for indoors alone."""

    depth: MeasureOut
    width: MeasureOut
    headroom: MeasureOut | None
    handle: MeasureOut
    dedicated: bool | None
    indoors: bool


def place_plan(report: Report, enclosure_id: str) -> PlacePlanOut:
    """Return what is drawn of the place of an enclosure.

    Raises:
        NotFound: it is not part of the job any more.
    """
    enclosure = report.site.enclosures.get(enclosure_id)
    if enclosure is None:
        raise NotFound("This enclosure is not part of the job any more.")
    recorder = Recorder(report.rules)
    found = {
        field: MeasureOut(
            needed_in=None if figure is None else float(figure.number),
            there_in=getattr(enclosure, field),
            section=report.rules.section(clause),
        )
        for field, _, figure, clause in least_room(report.site, recorder, enclosure)
    }
    handle = MeasureOut(
        needed_in=float(recorder.parameter("handle_highest_in", "Highest handle").number),
        there_in=enclosure.handle_height_in,
        section=report.rules.section("max_handle_height"),
    )
    return PlacePlanOut(
        depth=found["working_depth_in"],
        width=found["working_width_in"],
        headroom=found.get("working_height_in"),
        handle=handle,
        dedicated=enclosure.dedicated_space,
        indoors=enclosure.placement != "outdoors",
    )
