"""Routes about one panel of a document: its circuits read and written as a list, and its legs balanced."""

from __future__ import annotations

from fractions import Fraction

from nelvor.errors import NotFound
from nelvor.exchange.circuits_csv import read_circuits, write_circuits
from nelvor.model.parse import parse_value
from nelvor.model.resolve import resolve
from nelvor.report.panel_balance import BalanceOut, panel_balance
from nelvor.report.place_plan import PlacePlanOut, place_plan
from nelvor.report.room_to_grow import RoomOut, room_to_grow
from nelvor.report.switched_circuits import SwitchedOut, weighed_switching
from nelvor.report.take_over import TakeOverOut, weighed_take_over
from nelvor.web import wire
from nelvor.web.api import api
from nelvor.web.reports import reports


@api.route("POST", "/circuits/read", body=wire.CircuitListBody, answer=wire.CircuitListOut, heavy=True)
def read_circuit_list(body: wire.CircuitListBody) -> wire.CircuitListOut:
    """Read the circuits of a panel from a list, typed from its door or as CSV, without saving them."""
    document = resolve(parse_value(body.document), body.state)
    bus = next((item for item in document.buses if item.id == body.bus_id), None)
    if bus is None:
        raise NotFound("This bus is not part of the job any more.")
    found = read_circuits(body.text, document, bus, body.state)
    return wire.CircuitListOut(devices=list(found.devices), circuits=list(found.circuits))


@api.route("POST", "/circuits/write", body=wire.BusBody, answer=wire.CircuitTextOut, heavy=True)
def write_circuit_list(body: wire.BusBody) -> wire.CircuitTextOut:
    """Write the circuits of a panel as CSV."""
    document = resolve(parse_value(body.document), body.state)
    return wire.CircuitTextOut(csv=write_circuits(document, body.bus_id))


@api.route("POST", "/panels/take-over", body=wire.TakeOverBody, answer=TakeOverOut, heavy=True)
def take_circuits_over(body: wire.TakeOverBody) -> TakeOverOut:
    """Tell where circuits of one panel go in another one, and what a supply of its own carries then, with the operations that carry it out."""
    asked = (body.bus_id, body.to_bus_id, body.distance_ft, body.chosen)
    return weighed_take_over(body.document, reports.tried, *asked)


@api.route("POST", "/panels/switches", body=wire.SwitchesBody, answer=SwitchedOut, heavy=True)
def choose_circuits_of_switches(body: wire.SwitchesBody) -> SwitchedOut:
    """Tell by which switches of a box chosen circuits of its panel are moved, and what the set carries then, with the operations."""
    return weighed_switching(body.document, reports.tried, body.transfer_id, body.chosen)


@api.route("POST", "/panels/room", body=wire.BusBody, answer=RoomOut, heavy=True)
def room_in_panel(body: wire.BusBody) -> RoomOut:
    """Tell which planned loads of a panel fit, one after another, and what would have to change first."""
    return room_to_grow(reports.of(body.document, body.state), parse_value(body.document), body.bus_id)


@api.route("POST", "/places/plan", body=wire.EnclosureBody, answer=PlacePlanOut, heavy=True)
def plan_place(body: wire.EnclosureBody) -> PlacePlanOut:
    """Tell the working space that an enclosure needs and has, to be drawn."""
    return place_plan(reports.of(body.document, body.state), body.enclosure_id)


@api.route("POST", "/panels/balance", body=wire.BalanceBody, answer=BalanceOut, heavy=True)
def balance_panel(body: wire.BalanceBody) -> BalanceOut:
    """Tell the fewest moves of breakers that bring the legs of a panel within a figure, before any is taken."""
    return panel_balance(reports.of(body.document, body.state), body.bus_id, Fraction(str(body.within_a)))
