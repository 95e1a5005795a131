"""Routes about where the current flows: the outcome of a situation, and its circuit as a netlist."""

from __future__ import annotations

from nelvor.study.outcome import study, study_available, study_netlist
from nelvor.study.shapes import AvailableOut, StudyOut
from nelvor.web import wire
from nelvor.web.api import api
from nelvor.web.reports import reports


@api.route("POST", "/study", body=wire.StudyBody, answer=StudyOut)
def study_site(body: wire.StudyBody) -> StudyOut:
    """Tell where the current flows in a situation, without saving anything."""
    return study(reports.of(body.document, body.state), body.situation, body.position)


@api.route("POST", "/study/available", body=wire.PositionBody, answer=AvailableOut)
def available_fault_current(body: wire.PositionBody) -> AvailableOut:
    """Tell the fault current that is available at every box, all loads off."""
    return study_available(reports.of(body.document, body.state), body.position)


@api.route("POST", "/study/netlist", body=wire.StudyBody, answer=wire.NetlistOut)
def write_netlist(body: wire.StudyBody) -> wire.NetlistOut:
    """Write the circuit of a situation as a netlist for an independent simulator."""
    return wire.NetlistOut(text=study_netlist(reports.of(body.document, body.state), body.situation, body.position))
