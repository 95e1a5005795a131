"""The torque of terminals: what is marked on them, else what the annex gives for their screw; and openings left open."""

import unittest

from nelvor.demo import demo_job
from nelvor.judges.memory import Memory
from nelvor.model.changes.operations import Put
from nelvor.model.edited import KnownJob
from nelvor.report.check import check
from nelvor.report.order_of_work import order_of_work
from nelvor.report.panel_schedule import torque_at


def puts(*changes):
    return [Put(list=name, id=item, field=field, value=value, proposed=False) for name, item, field, value in changes]


class Torques(unittest.TestCase):
    def setUp(self):
        self.known = KnownJob.of(demo_job("orchard"))

    def lines(self, *changes, memory=None):
        report = check(self.known.edited(puts(*changes)).document, memory=memory or Memory())
        found = [item for item in report.runs["to-barn"].to_fit if item.clause == "torque_terminals"]
        return {item.name: (item.figure.text if item.figure else None, item.text) for item in found}

    def test_nothing_is_told_of_terminals_of_which_nothing_is_entered(self):
        self.assertEqual(self.lines(), {})

    def test_a_marked_torque_governs_and_the_annex_tells_the_others_by_screw_and_size(self):
        lines = self.lines(
            ("lugs", "barn-lugs", "torque_lb_in", 275.0),
            ("lugs", "barn-lugs", "screw", "hex"),
            ("bars", "barn-panel-n", "screw", "slotted"),
            ("bars", "barn-panel-g", "screw", "slotted"),
            ("devices", "disc-barn-main", "screw", "socket_5_16"),
        )
        told = {name: figure for name, (figure, _) in lines.items()}
        self.assertEqual(
            told,
            {
                "torque disc-barn-main hots": "275",
                "torque barn-lugs hots": "275",
                "torque barn-panel-n neutral": "50",
                "torque barn-panel-g ground": "45",
            },
        )
        self.assertIn("marked on it", lines["torque barn-lugs hots"][1])
        self.assertIn("a marked figure governs", lines["torque barn-panel-n neutral"][1])

    def test_a_screw_too_small_for_the_conductor_has_no_figure(self):
        (told,) = self.lines(("lugs", "barn-lugs", "screw", "slotted_narrow")).values()
        self.assertIsNone(told[0])
        self.assertIn("has no figure", told[1])

    def test_an_unchanged_run_is_judged_anew_when_the_mark_of_its_terminal_changes(self):
        memory = Memory()
        first = self.lines(("lugs", "barn-lugs", "torque_lb_in", 250.0), memory=memory)
        second = self.lines(("lugs", "barn-lugs", "torque_lb_in", 300.0), memory=memory)
        figures = [lines["torque barn-lugs hots"][0] for lines in (first, second)]
        self.assertEqual(figures, ["250", "300"])

    def test_the_order_of_work_tells_it_where_the_run_is_landed(self):
        document = self.known.edited(puts(("lugs", "barn-lugs", "torque_lb_in", 250.0))).document
        work = order_of_work(check(document, "existing"), check(document))
        steps = [step.text for stage in work.stages for step in stage.steps]
        (landed,) = [text for text in steps if text.startswith("Run 1/0")]
        self.assertIn("250 lb-in", landed)


class OfABreaker(unittest.TestCase):
    def test_the_torque_of_a_breaker_stands_with_its_circuit(self):
        known = KnownJob.of(demo_job("orchard"))
        wires = next(item for item in known.document.circuits if item.wire_size)
        for changes, told in (
            ([("devices", wires.device_id, "torque_lb_in", 30.0)], "30 lb-in, marked on it."),
            ([("devices", wires.device_id, "screw", "slotted")], "35 lb-in, by its screw; a marked figure governs."),
            ([], ""),
        ):
            report = check(known.edited(puts(*changes, ("circuits", wires.id, "wire_size", "12"))).document)
            self.assertEqual(torque_at(report, report.site.devices[wires.device_id]), told)


class Openings(unittest.TestCase):
    def outcomes(self, value):
        known = KnownJob.of(demo_job("orchard"))
        changes = puts(("enclosures", "house-panel", "openings_closed", value)) if value is not None else []
        report = check(known.edited(changes).document)
        verdicts = [item for answer in report.of("schedule").values() for item in answer.verdicts]
        return [(item.outcome, item.section) for item in verdicts if item.code == "openings"]

    def test_open_ones_must_be_closed_closed_ones_hold_and_nothing_is_said_unseen(self):
        self.assertEqual(self.outcomes(False), [("must_fix", "110.12(A)")])
        self.assertEqual(self.outcomes(True), [("holds", "110.12(A)")])
        self.assertEqual(self.outcomes(None), [])


if __name__ == "__main__":
    unittest.main()
