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
        self.assertIn("rated_kva", told[1]["options_schema"]["properties"])

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
