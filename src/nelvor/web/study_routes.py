"""Routes about where the current flows: the outcome of a situation, its circuit as a netlist, and readings diagnosed."""

from __future__ import annotations

from nelvor.exchange.readings_csv import read_readings, write_readings
from nelvor.study.diagnosis.answer import Bench
from nelvor.study.diagnosis.readings import DiagnosisOut, Reading
from nelvor.study.outcome import study, study_available, study_netlist
from nelvor.study.shapes import AvailableOut, StudyOut
from nelvor.web import wire
from nelvor.web.api import api
from nelvor.web.reports import reports


@api.route("POST", "/study", body=wire.StudyBody, answer=StudyOut, heavy=True)
def study_site(body: wire.StudyBody) -> StudyOut:
    """Tell where the current flows in a situation, without saving anything."""
    return study(reports.of(body.document, body.state), body.situation, body.position)


@api.route("POST", "/study/available", body=wire.PositionBody, answer=AvailableOut, heavy=True)
def available_fault_current(body: wire.PositionBody) -> AvailableOut:
    """Tell the fault current that is available at every box, all loads off."""
    return study_available(reports.of(body.document, body.state), body.position)


@api.route("POST", "/study/netlist", body=wire.StudyBody, answer=wire.TextOut, heavy=True)
def write_netlist(body: wire.StudyBody) -> wire.TextOut:
    """Write the circuit of a situation as a netlist for an independent simulator."""
    return wire.TextOut(text=study_netlist(reports.of(body.document, body.state), body.situation, body.position))


def _bench(body: wire.StudyBody) -> Bench:
    return Bench(reports.of(body.document, body.state), body.situation, body.position)


@api.route("POST", "/readings/readable", body=wire.StudyBody, answer=wire.ReadableList, heavy=True)
def what_can_be_read(body: wire.StudyBody) -> wire.ReadableList:
    """Tell everything that can be read at a site, and how."""
    return wire.ReadableList(observables=_bench(body).readable())


@api.route("POST", "/readings/diagnose", body=wire.ReadingsBody, answer=DiagnosisOut, heavy=True)
def diagnose_readings(body: wire.ReadingsBody) -> DiagnosisOut:
    """Tell which causes give these readings, and what to read next."""
    return _bench(body).diagnosed(body.readings, body.meter)


@api.route("POST", "/readings/practice", body=wire.PracticeBody, answer=Reading, heavy=True)
def read_in_practice(body: wire.PracticeBody) -> Reading:
    """Read something with the simulated meter, at the site with the fault that a number hides."""
    return _bench(body).simulated(body.number, body.observable, body.meter)


@api.route("POST", "/readings/hidden", body=wire.PracticeBody, answer=wire.HiddenOut, heavy=True)
def show_what_is_hidden(body: wire.PracticeBody) -> wire.HiddenOut:
    """Tell the fault that a number hides."""
    return wire.HiddenOut(words=_bench(body).hidden(body.number).words)


@api.route("POST", "/readings/read", body=wire.ReadingsTextBody, answer=wire.ReadingList, heavy=True)
def read_reading_list(body: wire.ReadingsTextBody) -> wire.ReadingList:
    """Read readings from CSV, without saving them."""
    return wire.ReadingList(readings=read_readings(body.text, _bench(body).responses.seen))


@api.route("POST", "/readings/write", body=wire.ReadingsBody, answer=wire.TextOut, heavy=True)
def write_reading_list(body: wire.ReadingsBody) -> wire.TextOut:
    """Write readings as CSV."""
    return wire.TextOut(text=write_readings(body.readings, _bench(body).responses.seen))
