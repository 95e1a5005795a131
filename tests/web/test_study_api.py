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
