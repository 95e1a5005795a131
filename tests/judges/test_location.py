"""Where equipment stands: rooms, handles, working space; new work must be right, what stands is advised."""

import unittest

from tests.support.jobs import JobBuilder, finding, thing

WHOLE = {
    "room": "utility",
    "handle_height_in": 66.0,
    "working_depth_in": 36.0,
    "working_width_in": 30.0,
    "working_height_in": 78.0,
    "dedicated_space": True,
}


class Places(unittest.TestCase):
    def outcome(self, code="place", *, standing="added", edition="2023", system="split_120_240", use=None, **values):
        builder = JobBuilder(edition, system)
        builder.service()
        builder.add("buildings", "house", use=use or "dwelling", name="House")
        builder.box("panel", "service", building="house", standing=standing, **{**WHOLE, **values})
        self.report = builder.report()
        found = finding(self.report, code, "panel")
        return None if found is None else (found.outcome, found.section)

    def test_a_place_told_whole_holds_at_its_limits(self):
        self.assertIsNone(self.outcome())
        held = [item for item in self.report.held if (item.code, item.id) == ("place", "panel")]
        self.assertEqual(len(held), 1)

    def test_each_measure_just_below(self):
        for field, value, section in (
            ("handle_height_in", 79.5, "240.24(A)"),
            ("working_depth_in", 35.5, "110.26(A)(1)"),
            ("working_width_in", 29.5, "110.26(A)(2)"),
            ("working_height_in", 77.5, "110.26(A)(3)"),
        ):
            self.assertEqual(self.outcome(**{field: value}), ("must_fix", section), field)
        self.assertIsNone(self.outcome(handle_height_in=79.0))

    def test_rooms_where_none_may_be(self):
        self.assertEqual(self.outcome(room="clothes_closet"), ("must_fix", "240.24(D) and (E)"))
        self.assertEqual(self.outcome(room="stairway"), ("must_fix", "240.24(F)"))
        self.assertEqual(self.outcome(room="bathroom"), ("must_fix", "240.24(D) and (E)"))
        self.assertIsNone(self.outcome(room="kitchen"))
        self.assertIsNone(self.outcome(room="bathroom", placement="outdoors"))

    def test_bathrooms_of_other_buildings_by_edition(self):
        self.assertIsNone(self.outcome(room="bathroom", use="commercial", edition="2020"))
        self.assertEqual(self.outcome(room="bathroom", use="commercial")[0], "must_fix")

    def test_what_stands_is_advised(self):
        self.assertEqual(self.outcome(standing="existing", room="bathroom")[0], "advice")
        self.assertIsNone(self.outcome("place_unknown", standing="existing", room=None))

    def test_what_is_not_told_of_new_work_is_asked_for(self):
        self.assertEqual(self.outcome("place_unknown", working_width_in=None)[0], "cannot_tell")
        told = finding(self.report, "place_unknown", "panel")
        self.assertEqual(told.field, "working_width_in")
        self.assertIsNone(self.outcome("place_unknown"))

    def test_one_answer_for_all_of_it(self):
        nothing = dict.fromkeys(WHOLE)
        self.assertEqual(self.outcome("place_unknown", **nothing)[0], "cannot_tell")
        self.assertEqual(finding(self.report, "place_unknown", "panel").field, "place_as_required")
        self.assertIsNone(self.outcome("place_unknown", **nothing, place_as_required=True))
        self.assertEqual(self.outcome(place_as_required=True, room="stairway")[0], "must_fix")

    def test_several_faults_are_told_one_by_one(self):
        self.outcome(room="stairway", handle_height_in=90.0, dedicated_space=False)
        codes = {item.code for item in self.report.findings if item.id == "panel" and item.code.startswith("place")}
        self.assertEqual(codes, {"place", "place_handle_height_in", "place_dedicated_space"})

    def test_more_volts_ask_what_lies_across(self):
        # 277 V to ground: 3, 3 1/2 and 4 ft
        system = "wye_480_277"
        self.assertIsNone(self.outcome(system=system, working_depth_in=42.0, facing="grounded"))
        self.assertEqual(self.outcome(system=system, working_depth_in=41.5, facing="grounded")[1], "110.26(A)(1)")
        self.assertEqual(self.outcome(system=system, working_depth_in=47.5, facing="live")[1], "110.26(A)(1)")

    def test_the_service_disconnect(self):
        builder = JobBuilder()
        builder.service(standing="added", handle_height_in=60.0, working_depth_in=36.0, working_width_in=30.0)
        asked = finding(builder.report(), "place_unknown", "service")
        self.assertEqual(asked.field, "marked_as_disconnect")
        box = thing(builder.job, "enclosures", "service")
        box["marked_as_disconnect"] = False
        self.assertEqual(finding(builder.report(), "place", "service").section, "230.70(B)")
        box.update(marked_as_disconnect=True, placement="indoors", near_entrance=False)
        self.assertEqual(finding(builder.report(), "place", "service").section, "230.70(A)(1)")
        box.update(near_entrance=True, room="bathroom")
        self.assertEqual(finding(builder.report(), "place", "service").section, "230.70(A)(2)")
