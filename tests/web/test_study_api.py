"""Where the current flows, over the API: the outcome, the netlist, and what is refused in words."""

from tests.support.jobs import bakery, changed, orchard, thing
from tests.support.server import Client, WithDatabase


class Study(WithDatabase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.owner = Client(cls.app(), "owner@east.invalid")

    def ask(self, path="study", status=200, document=None, **body):
        answer = self.owner.send("POST", f"/api/{path}", {"document": document or orchard(), **body})
        self.assertEqual(answer.status_code, status, answer.get_json())
        return answer.get_json()

    def test_the_outcome_of_a_situation(self):
        told = self.ask(situation={"kind": "ground_fault", "place": "green-panel"})
        self.assertIn("Greenhouse panel", told["sentences"][0])
        self.assertLess(told["proof"]["residual_a"], 1e-4)

    def test_bonds_are_played_with_and_nothing_is_saved(self):
        as_it_is = self.ask()
        out = self.ask(situation={"bonds": {"house-bond": False}})
        strap = next(item["id"] for item in orchard()["bonds"] if item["enclosure_id"] == "house-panel")
        played = self.ask(situation={"bonds": {strap: False}})
        self.assertEqual((as_it_is["danger"], out["danger"], played["danger"]), ("wrong", "wrong", "none"))

    def test_the_circuit_as_a_netlist(self):
        text = self.ask("study/netlist")["text"]
        self.assertIn(".ac lin 1 60 60", text)
        named = changed(orchard(), lambda job: thing(job, "enclosures", "meter").update(name="x\n.shell rm"))
        self.assertNotIn("shell", self.ask("study/netlist", document=named)["text"])

    def test_the_available_fault_current_falls_along_the_way(self):
        told = {item["id"]: item["line_to_line"] for item in self.ask("study/available")["boxes"]}
        self.assertGreater(told["meter"], told["disc-barn"])
        self.assertGreater(told["disc-barn"], told["barn-panel"])
        self.assertGreater(told["barn-panel"], told["green-panel"])

    def test_what_cannot_be_told_is_said(self):
        bare = changed(bakery(), lambda job: thing(job, "transformers", "dry").update(impedance_percent=None))
        self.assertIn("impedance", str(self.ask(status=422, document=bare)))
        self.assertIn("not an enclosure", str(self.ask(status=422, situation={"kind": "ground_fault", "place": "x"})))
        self.assertIn("fault_ohms", str(self.ask(status=422, situation={"fault_ohms": 0})))
        self.assertIn("position", str(self.ask(status=422, position="nowhere")))


class Readings(WithDatabase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.owner = Client(cls.app(), "owner@east.invalid")

    def send(self, path, status=200, **body):
        answer = self.owner.send("POST", f"/api/readings/{path}", {"document": orchard(), **body})
        self.assertEqual(answer.status_code, status, answer.get_json())
        return answer.get_json()

    def test_from_what_can_be_read_to_a_cause(self):
        known = {item["id"] for item in self.send("readable")["observables"]}
        self.assertIn("run:to-house:ground", known)
        readings = []
        while (asked := self.send("diagnose", readings=readings)["next"]) is not None and len(readings) < 8:
            readings.append(self.send("practice", number=3, observable=asked["observable"]["id"]))
        found = self.send("diagnose", readings=readings)
        self.assertTrue(found["causes"][0]["fits"])
        self.assertTrue(self.send("hidden", number=3, observable="")["words"])

    def test_lists_are_written_and_read(self):
        reading = {"observable": "run:to-house:ground", "value": 2.5, "unit": "A", "taken_at": "", "instrument": ""}
        text = self.send("write", readings=[reading])["text"]
        self.assertIn("Disconnect to house,ground,2.5,A", text)
        self.assertEqual(self.send("read", text=text)["readings"], [reading])
        issues = self.send("read", 422, text="place,what,value,unit\nto-house,ground,x,A\n")["issues"]
        self.assertEqual(issues[0]["path"], "line 2, value")

    def test_limits(self):
        reading = {"observable": "run:to-house:ground", "value": -1, "unit": "A"}
        self.send("diagnose", 422, readings=[reading])
        self.send("diagnose", 422, readings=[{**reading, "value": 1, "unit": "V"}])
        self.send("practice", 422, number=1, observable="nothing")
