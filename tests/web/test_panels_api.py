"""The questions about one panel over the API: lists of circuits, balance, room, taking over."""

from pydantic import TypeAdapter

from nelvor.model.changes.operations import Operation, apply
from nelvor.model.parse import parse_value
from tests.support.boxes import with_switch_box
from tests.support.jobs import changed, orchard, thing
from tests.support.server import Client, WithDatabase

OPERATIONS = TypeAdapter(list[Operation])


class Panels(WithDatabase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.owner = Client(cls.app(), "owner@east.invalid")

    def ask(self, path, body, status=200):
        answer = self.owner.send("POST", f"/api/{path}", {"document": orchard(), **body})
        self.assertEqual(answer.status_code, status, answer.get_json())
        return answer.get_json()

    def test_a_list_read_into_a_panel_makes_a_sound_document(self):
        found = self.ask("circuits/read", {"bus_id": "barn-panel-bus", "text": "13-15 Kiln 2p 40\n17 Fan 20\n"})
        self.assertEqual([item["standing"] for item in found["devices"]], ["added", "added"])
        job = orchard()
        job["devices"] += found["devices"]
        document = parse_value(job)
        self.assertEqual(sum(item.bus_id == "barn-panel-bus" for item in document.devices), 9)

    def test_faults_of_a_list_come_line_by_line(self):
        issues = self.ask("circuits/read", {"bus_id": "barn-panel-bus", "text": "1 Kiln 40\nx\n"}, 422)["issues"]
        self.assertEqual([issue["path"] for issue in issues], ["line 1, space", "line 2"])
        self.ask("circuits/read", {"bus_id": "no-bus", "text": "1 Kiln 40"}, 404)

    def test_a_panel_is_written_as_csv(self):
        text = self.ask("circuits/write", {"bus_id": "house-panel-bus", "state": "existing"})["csv"]
        self.assertIn("13,,Dishwasher,1,20,branch", text)

    def test_balance_is_told_with_its_moves(self):
        found = self.ask("panels/balance", {"bus_id": "house-panel-bus", "within_a": 5.0})
        self.assertEqual((len(found["moves"]), found["reached"], found["proven"]), (2, True, True))
        self.ask("panels/balance", {"bus_id": "house-panel-bus", "within_a": -1.0}, 422)
        self.ask("panels/balance", {"bus_id": "no-bus"}, 404)
        twice = changed(orchard(), lambda job: thing(job, "devices", "h15").update(space=13))
        self.assertEqual(
            self.ask("panels/balance", {"bus_id": "house-panel-bus", "document": twice}, 422)["error"], "cannot_compute"
        )

    def test_room_for_what_may_come(self):
        job = orchard()
        job["planned_loads"] = [
            {"id": "bench", "enclosure_id": "barn-panel", "name": "Bench", "amount": 1500.0, "volts": 120.0}
        ]
        (plan,) = self.ask("panels/room", {"bus_id": "barn-panel-bus", "document": job})["plans"]
        self.assertEqual((plan["fits"], plan["space"]), (True, 12))

    def test_choosing_the_circuits_of_a_box_gives_operations_that_fit_the_document(self):
        job = with_switch_box(fridge="c").job
        found = self.ask("panels/switches", {"document": job, "transfer_id": "box-gear", "chosen": ["well"]})
        parse_value(apply(job, OPERATIONS.validate_python(found["operations"])))
        moved = {item["device_id"]: item["switches"] for item in found["circuits"] if item["switches"]}
        self.assertEqual((moved, found["free"]), ({"well": ["A", "B"]}, ["C", "D"]))
        self.ask("panels/switches", {"document": job, "transfer_id": "no-gear"}, 404)

    def test_taking_over_gives_operations_that_fit_the_document(self):
        body = {"bus_id": "house-panel-bus", "to_bus_id": "barn-panel-bus", "distance_ft": 12.0}
        found = self.ask("panels/take-over", body)
        operations = OPERATIONS.validate_python(found["operations"])
        parse_value(apply(orchard(), operations))
        self.assertEqual(sum(item["to_space"] is not None for item in found["circuits"]), 8)
        self.ask("panels/take-over", {**body, "to_bus_id": "house-panel-bus"}, 422)
