"""What a finding asks for: empty fields of the document, each of which can be answered where it is asked."""

import unittest

from nelvor.demo import DEMO_JOBS, demo_job
from nelvor.model.changes.operations import Put
from nelvor.model.document import LISTS
from nelvor.model.edited import KnownJob
from nelvor.report.check import check
from nelvor.report.wire import report_out
from nelvor.starters.starters import STARTERS, started


def findings(document, state="proposed"):
    return report_out(check(document, state)).findings


class Asks(unittest.TestCase):
    def test_each_is_an_empty_field_of_a_thing_of_the_job(self):
        documents = [started(key, "First job", "2023") for key in STARTERS] + [demo_job(name) for name in DEMO_JOBS]
        asked = 0
        for document in documents:
            things = {(name, thing.id): thing for name, thing in document.things()}
            for ask in (ask for finding in findings(document) for ask in finding.asks):
                thing = things[ask.list, ask.id]
                self.assertIn(ask.field, LISTS[ask.list].model_fields)
                self.assertIsNone(getattr(thing, ask.field), ask)
                asked += 1
        self.assertGreater(asked, 40)

    def test_what_the_utility_would_tell_is_asked_at_its_run(self):
        document = started("house_meter_main", "First job", "2023")
        (jumper,) = [item for item in findings(document) if item.code == "main_bonding_jumper"]
        asked = [(ask.list, ask.id, ask.field, ask.label) for ask in jumper.asks]
        self.assertEqual(asked, [("runs", "to-meter-main", "hot_size", "Utility → Meter-main: Hots")])
        told = KnownJob.of(document).edited(
            [Put(list="runs", id="to-meter-main", field="hot_size", value="4/0", proposed=False)]
        )
        self.assertNotIn("main_bonding_jumper", {item.code for item in findings(told.document)})

    def test_a_place_that_is_denied_to_be_right_asks_for_each_measure(self):
        document = started("house_meter_main", "First job", "2023")
        no = [Put(list="enclosures", id="panel", field="place_as_required", value=False, proposed=False)]
        (place,) = [
            item
            for item in findings(KnownJob.of(document).edited(no).document)
            if item.code == "place_unknown" and item.id == "panel"
        ]
        self.assertEqual([ask.field for ask in place.asks][:2], ["room", "handle_height_in"])
        self.assertIn("Clear depth", [ask.label for ask in place.asks])

    def test_what_is_found_wrong_asks_for_nothing(self):
        for finding in findings(demo_job("orchard")):
            if finding.outcome != "cannot_tell":
                self.assertEqual(finding.asks, ())


if __name__ == "__main__":
    unittest.main()
