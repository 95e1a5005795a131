"""Joining two people's changes over their common base: nothing of either is lost, and what collides is named."""

import copy
import json
import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from nelvor.demo import demo_job
from nelvor.model.changes.merge import join, operations_between, taking_mine
from nelvor.model.changes.operations import apply
from nelvor.model.changes.remove import removal
from nelvor.model.document import LISTS
from nelvor.model.parse import parse_value
from tests.support.jobs import changed, orchard, thing
from tests.support.sites import sites


def whole(job):
    return json.loads(parse_value(job).model_dump_json())


BASE = whole(orchard())


def put(list_name, thing_id, **values):
    return lambda job: thing(job, list_name, thing_id).update(values)


def propose(list_name, thing_id, **values):
    return lambda job: thing(job, list_name, thing_id)["proposed"].update(values)


def take_out(list_name, thing_id, state="existing"):
    def change(job):
        found = apply(job, list(removal(job, state, list_name, thing_id).operations))
        job.update(found)

    return change


def joined(theirs, mine):
    return join(BASE, changed(BASE, theirs), changed(BASE, mine))


class Joining(unittest.TestCase):
    def test_two_fields_of_one_run_do_not_exclude_each_other(self):
        found = joined(put("runs", "to-barn", length_ft=200.0), put("runs", "to-barn", method="rmc"))
        run = thing(found.document, "runs", "to-barn")
        self.assertEqual((run["length_ft"], run["method"], found.collisions), (200, "rmc", ()))

    def test_two_proposed_fields_do_not_exclude_each_other(self):
        found = joined(propose("runs", "to-house", hot_size="4/0"), propose("runs", "to-house", cover_in=30.0))
        self.assertEqual(thing(found.document, "runs", "to-house")["proposed"], {"hot_size": "4/0", "cover_in": 30.0})
        self.assertEqual(found.collisions, ())

    def test_the_same_field_collides_and_theirs_stands_until_mine_is_taken(self):
        mine = changed(BASE, put("runs", "to-barn", length_ft=150.0))
        found = join(BASE, changed(BASE, put("runs", "to-barn", length_ft=200.0)), mine)
        (collision,) = found.collisions
        self.assertEqual(
            (collision.field, collision.base, collision.mine, collision.theirs), ("length_ft", 180, 150, 200)
        )
        self.assertEqual(thing(found.document, "runs", "to-barn")["length_ft"], 200)
        taken = apply(found.document, list(taking_mine(found.document, mine, collision)))
        self.assertEqual(thing(taken, "runs", "to-barn")["length_ft"], 150)

    def test_the_same_change_on_both_sides_is_no_collision(self):
        found = joined(put("runs", "to-barn", length_ft=200.0), put("runs", "to-barn", length_ft=200.0))
        self.assertEqual(found.collisions, ())

    def test_what_i_take_away_and_they_change_collides_and_stays(self):
        mine = changed(BASE, take_out("loads", "h-dish"))
        found = join(BASE, changed(BASE, put("loads", "h-dish", amount=1500.0)), mine)
        (collision,) = found.collisions
        self.assertEqual((collision.id, collision.field, collision.mine), ("h-dish", "", None))
        self.assertEqual(thing(found.document, "loads", "h-dish")["amount"], 1500)
        taken = apply(found.document, list(taking_mine(found.document, mine, collision)))
        self.assertNotIn("h-dish", [item["id"] for item in taken["loads"]])

    def test_what_they_take_away_and_i_change_collides_and_can_be_brought_back(self):
        mine = changed(BASE, put("loads", "h-dish", amount=1500.0))
        found = join(BASE, changed(BASE, take_out("loads", "h-dish")), mine)
        (collision,) = found.collisions
        self.assertNotIn("h-dish", [item["id"] for item in found.document["loads"]])
        taken = apply(found.document, list(taking_mine(found.document, mine, collision)))
        self.assertEqual(thing(taken, "loads", "h-dish")["amount"], 1500)

    def test_a_panel_that_i_take_away_and_they_load_stays_and_can_go(self):
        def load(job):
            job["loads"].append({**thing(job, "loads", "g-fans"), "id": "new-load"})

        mine = changed(BASE, take_out("enclosures", "green-panel"))
        found = join(BASE, changed(BASE, load), mine)
        self.assertIn("green-panel", [item.id for item in found.collisions])
        parse_value(found.document)
        document = found.document
        for collision in found.collisions:
            document = apply(document, list(taking_mine(document, mine, collision)))
        parse_value(document)
        self.assertNotIn("new-load", [item["id"] for item in document["loads"]])

    def test_a_load_of_mine_on_a_panel_that_they_took_away_can_be_brought_back_with_it(self):
        def load(job):
            job["loads"].append({**thing(job, "loads", "g-fans"), "id": "new-load"})

        mine = changed(BASE, load)
        found = join(BASE, changed(BASE, take_out("enclosures", "green-panel")), mine)
        parse_value(found.document)
        (collision,) = [item for item in found.collisions if item.id == "green-panel"]
        taken = apply(found.document, list(taking_mine(found.document, mine, collision)))
        parse_value(taken)
        self.assertIn("new-load", [item["id"] for item in taken["loads"]])

    def test_a_run_of_mine_whose_panel_they_took_away_comes_back_with_the_panel(self):
        mine = changed(BASE, put("runs", "to-green", length_ft=95.0))
        found = join(BASE, changed(BASE, take_out("enclosures", "green-panel")), mine)
        (collision,) = found.collisions
        taken = apply(found.document, list(taking_mine(found.document, mine, collision)))
        parse_value(taken)
        self.assertEqual(sorted_lists(taken), sorted_lists(mine))

    def test_settings_and_name_are_joined_too(self):
        found = joined(
            lambda job: job.update(name="Theirs"), lambda job: job["settings"].update(authority="Mine", ambient_c=40.0)
        )
        self.assertEqual((found.document["name"], found.document["settings"]["authority"]), ("Theirs", "Mine"))
        found = joined(lambda job: job.update(name="Theirs"), lambda job: job.update(name="Mine"))
        self.assertEqual([item.field for item in found.collisions], ["name"])


def some_changes(data, job):
    """Return the job with a few properties changed, things added and things taken out."""
    result = copy.deepcopy(job)
    for _ in range(data.draw(st.integers(0, 3))):
        kind = data.draw(st.sampled_from(["put", "propose", "remove", "add"]))
        name = data.draw(st.sampled_from(["runs", "loads", "devices", "enclosures"]))
        if not result.get(name):
            continue
        chosen = data.draw(st.sampled_from([item["id"] for item in result[name]]))
        word = data.draw(st.sampled_from("abc"))
        if kind == "put":
            thing(result, name, chosen)["name"] = word
        elif kind == "propose":
            thing(result, name, chosen)["proposed"]["name"] = word
        elif kind == "remove":
            state = data.draw(st.sampled_from(["existing", "proposed"]))
            result = apply(result, list(removal(result, state, name, chosen).operations))
        else:
            home = data.draw(st.sampled_from([item["id"] for item in result["enclosures"]]))
            if f"new-{word}" not in {item["id"] for item in result["loads"]}:
                result["loads"].append({"id": f"new-{word}", "enclosure_id": home, "name": word, "proposed": {}})
    return whole(result)


class Laws(unittest.TestCase):
    @settings(deadline=None, max_examples=150)
    @given(sites(), st.data())
    def test_whatever_two_do_the_joined_document_is_valid_and_each_choice_of_mine_too(self, job, data):
        base = whole(job)
        theirs, mine = some_changes(data, base), some_changes(data, base)
        found = join(base, theirs, mine)
        parse_value(found.document)
        document = found.document
        for collision in found.collisions:
            document = apply(document, list(taking_mine(document, mine, collision)))
            parse_value(document)

    @settings(deadline=None, max_examples=60)
    @given(sites(), st.data())
    def test_what_only_one_changed_is_taken_whole(self, job, data):
        base = whole(job)
        mine = some_changes(data, base)
        for found in (join(base, base, mine), join(base, mine, base), join(base, mine, mine)):
            self.assertEqual(found.collisions, ())
            self.assertEqual(sorted_lists(found.document), sorted_lists(mine))

    @settings(deadline=None, max_examples=60)
    @given(sites(), st.data())
    def test_operations_between_two_documents_lead_from_one_to_the_other(self, job, data):
        base = whole(job)
        other = some_changes(data, base)
        self.assertEqual(sorted_lists(apply(base, list(operations_between(base, other)))), sorted_lists(other))

    @settings(deadline=None, max_examples=80)
    @given(sites(), st.sampled_from(["existing", "proposed"]), st.data())
    def test_after_any_removal_the_document_is_valid(self, job, state, data):
        base = whole(job)
        list_name, chosen = data.draw(st.sampled_from([(name, item["id"]) for name in LISTS for item in base[name]]))
        found = removal(base, state, list_name, chosen)
        self.assertEqual(found.gone[0], (list_name, chosen))
        after = parse_value(apply(base, list(found.operations)))
        there = {item.id for _, item in after.things() if item.standing != "removed"}
        self.assertNotIn(chosen, there)


class TakingOut(unittest.TestCase):
    def test_the_box_of_a_source_takes_the_source_and_its_wires_along(self):
        job = whole(demo_job("orchard-sources").model_dump(mode="json"))
        standing = [item for item in job["sources"] if item["kind"] != "utility" and item["standing"] != "removed"]
        for source in standing:
            found = removal(job, "proposed", "enclosures", source["enclosure_id"])
            self.assertIn(("sources", source["id"]), found.gone)
            after = parse_value(apply(job, list(found.operations)))
            left = {item.id for _, item in after.things() if item.standing != "removed"}
            self.assertFalse({item[1] for item in found.gone} & left)
        self.assertEqual({item["kind"] for item in standing}, {"generator", "inverter"})


def sorted_lists(job):
    return {**job, **{name: sorted(job[name], key=lambda item: item["id"]) for name in LISTS}}
