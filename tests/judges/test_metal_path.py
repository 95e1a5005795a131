"""Metal that nothing joins to the metal ahead is always found, and metal that is joined never is."""

import unittest

from tests.support.jobs import JobBuilder, finding, report_of, thing


def panel_job(**run) -> JobBuilder:
    builder = JobBuilder()
    builder.service()
    builder.box("panel", "service", run=run or {"method": "pvc40"})
    return builder


def end(builder: JobBuilder, name: str) -> dict:
    return next(item for item in builder.job["conductors"] if item["run_id"] == "to-panel" and item["role"] == name)


class MetalPath(unittest.TestCase):
    def told(self, builder: JobBuilder):
        return finding(report_of(builder.job), "metal_path", "panel")

    def test_a_grounding_conductor_on_the_ground_bars_is_a_path(self):
        self.assertIsNone(self.told(panel_job()))

    def test_one_that_lands_on_an_insulated_bar_ahead_is_none(self):
        builder = panel_job()
        builder.box("beyond", "panel", run={"method": "pvc40"})
        builder.add("bars", "floating", enclosure_id="panel", kind="ground", insulated=True)
        ground = next(i for i in builder.job["conductors"] if i["run_id"] == "to-beyond" and i["role"] == "ground")
        ground["from_part"] = "floating"
        told = finding(report_of(builder.job), "metal_path", "beyond")
        self.assertEqual(told.outcome, "must_fix")
        self.assertIn("Nothing joins the metal of beyond to that of panel", told.text)

    def test_one_on_the_neutral_bar_of_the_service_is_a_path_and_of_a_panel_is_none(self):
        builder = panel_job()
        end(builder, "ground")["from_part"] = "service-n"
        self.assertIsNone(self.told(builder))
        builder = panel_job()
        end(builder, "ground")["to_part"] = "panel-n"
        self.assertEqual(self.told(builder).outcome, "must_fix")

    def test_a_metal_raceway_is_a_path_beside_a_conductor_that_is_none(self):
        builder = panel_job(method="emt", placement="indoors")
        end(builder, "ground")["to_part"] = "panel-n"
        self.assertIsNone(self.told(builder))

    def test_a_bar_that_may_stand_off_is_asked_for(self):
        builder = panel_job()
        builder.add("bars", "second", enclosure_id="panel", kind="ground", insulated=True)
        builder.add("bonds", "strap", enclosure_id="panel", kind="strap", part_a="second", part_b="panel", made=None)
        end(builder, "ground")["to_part"] = "second"
        self.assertEqual(self.told(builder).outcome, "cannot_tell")
        thing(builder.job, "bonds", "strap")["made"] = True
        self.assertIsNone(self.told(builder))


if __name__ == "__main__":
    unittest.main()
