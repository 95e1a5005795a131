import unittest

from nelvor.model.changes.operations import apply
from nelvor.model.local_rules import bringing_in, copies_for, missing_from
from nelvor.model.parse import parse_value
from nelvor.model.things import Amendment
from nelvor.report.check import check
from tests.support.jobs import orchard

DEEPER = Amendment(
    id="shop-1", key="burial_cover_in", action="at_least", value=30.0, unit="in", source_note="County rule"
)
NO_ALUMINIUM = Amendment(id="shop-2", key="material_aluminum", action="forbid", source_note="Owner's standard")


class FromTheShop(unittest.TestCase):
    def setUp(self):
        self.job = orchard()
        self.job["amendments"] = []

    def missing(self, *rules):
        return missing_from(parse_value(self.job).amendments, rules)

    def test_all_that_a_job_lacks_comes_with_ids_of_its_own(self):
        self.job["buildings"].append({"id": "burial_cover_in", "name": "taken"})
        document = parse_value(self.job)
        copies = copies_for(document, [DEEPER, NO_ALUMINIUM])
        self.assertEqual(
            [(rule.key, rule.source_note) for rule in copies],
            [
                ("burial_cover_in", "County rule"),
                ("material_aluminum", "Owner's standard"),
            ],
        )
        taken = {item.id for _, item in document.things()}
        self.assertEqual(len({rule.id for rule in copies} - taken), 2)

    def test_a_rule_that_stands_in_the_job_is_not_brought_twice(self):
        self.job["amendments"] = [{**DEEPER.model_dump(), "id": "own", "source_note": "told on the phone"}]
        self.assertEqual(self.missing(DEEPER), [])
        self.job["amendments"][0]["value"] = 24.0
        self.assertEqual(len(self.missing(DEEPER)), 1)

    def test_a_removed_one_and_one_that_stands_twice_in_the_shop(self):
        self.job["amendments"] = [{**DEEPER.model_dump(), "id": "own", "standing": "removed"}]
        self.assertEqual(len(self.missing(DEEPER, DEEPER.model_copy(update={"id": "shop-3"}))), 1)

    def test_brought_in_it_is_applied_and_named_in_the_working(self):
        operations = bringing_in(parse_value(self.job), [DEEPER])
        document = parse_value(apply(self.job, operations))
        report = check(document)
        self.assertEqual(report.runs["to-barn"].figures["cover"].number, 30)
        self.assertIn("County rule", {step.source for step in report.runs["to-barn"].working.steps})
