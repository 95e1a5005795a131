"""What can be added in one act, over the API: the kinds with their schemas, and what one would change."""

from pydantic import TypeAdapter

from nelvor.additions.kinds import ADDITIONS
from nelvor.model.changes.operations import Operation, apply
from nelvor.model.parse import parse_value
from nelvor.report.check import check
from tests.support.jobs import orchard
from tests.support.server import Client, WithDatabase

OPERATIONS = TypeAdapter(list[Operation])


class Additions(WithDatabase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.owner = Client(cls.app(), "owner@east.invalid")

    def weigh(self, status=200, **body):
        answer = self.owner.send("POST", "/api/additions/weigh", {"document": orchard(), **body})
        self.assertEqual(answer.status_code, status, answer.get_json())
        return answer.get_json()

    def test_the_kinds_come_with_what_is_asked(self):
        told = self.owner.get("/api/additions").get_json()["additions"]
        self.assertEqual([item["kind"] for item in told], list(ADDITIONS))
        by_kind = {item["kind"]: item["options_schema"]["properties"] for item in told}
        self.assertIn("rated_kva", by_kind["transfer_gear"])

    def test_what_is_told_can_be_carried_out(self):
        told = self.weigh(kind="transfer_gear", enclosure_id="disc-house", options={"rated_kva": 24, "breaker_a": 100})
        report = check(parse_value(apply(orchard(), OPERATIONS.validate_python(told["operations"]))))
        self.assertEqual(
            {item["name"]: item["after"] for item in told["decisions"]},
            {"Transfer switch": "bond", "House disconnect": "apart", "Standby generator": "floating"},
        )
        self.assertEqual(report.bonds["transfer-switch"].decision, "bond")

    def test_faults_name_their_field_and_places_are_refused_in_words(self):
        issues = self.weigh(422, kind="transfer_gear", enclosure_id="disc-house", options={"breaker_a": 0})["issues"]
        self.assertEqual(issues[0]["path"], "breaker_a")
        told = self.weigh(422, kind="interlock", enclosure_id="meter")
        self.assertIn("ahead of the service disconnect", str(told))


class Ways(WithDatabase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.owner = Client(cls.app(), "owner@east.invalid")

    def find(self, status=200, **body):
        answer = self.owner.send("POST", "/api/ways", {"document": orchard(), **body})
        self.assertEqual(answer.status_code, status, answer.get_json())
        return answer.get_json()

    def test_what_is_asked_is_told_and_each_way_can_be_carried_out(self):
        form = self.owner.get("/api/ways/wanted").get_json()["wanted_schema"]
        self.assertEqual(form["required"], ["output_a"])
        told = self.find(enclosure_id="barn-panel", wanted={"output_a": 32})
        passing = [way for way in told["ways"] if way["outcome"] == "passes"]
        self.assertEqual({way["kind"] for way in passing}, {"power_control", "feeder_tap", "supply_side", "larger_bus"})
        for way in passing:
            report = check(parse_value(apply(orchard(), OPERATIONS.validate_python(way["operations"]))))
            self.assertEqual([item.text for item in report.findings if item.code == "bus_source"], [])

    def test_faults_name_their_field_and_places_are_refused_in_words(self):
        issues = self.find(422, enclosure_id="barn-panel", wanted={"output_a": -1})["issues"]
        self.assertEqual(issues[0]["path"], "output_a")
        self.assertEqual(self.find(422, enclosure_id="barn-panel")["issues"][0]["path"], "output_a")
        self.assertIn("not part of the design", str(self.find(422, enclosure_id="nowhere", wanted={"output_a": 1})))
        self.assertIn("not part of the design", str(self.find(404, source_id="nobody")))
