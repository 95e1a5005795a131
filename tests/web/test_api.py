import json
import time
import unittest
import uuid
from unittest import mock

from jsonschema import Draft202012Validator
from sqlalchemy import select
from sqlalchemy.exc import OperationalError
from sqlalchemy.orm import undefer

from nelvor import errors
from nelvor.store.tables import Job, Revision
from nelvor.web import faults
from tests.support.jobs import changed, orchard, thing
from tests.support.server import PASSWORD, Client, WithDatabase


def setting(field, value):
    return {"op": "setting", "field": field, "value": value}


def length_of_the_barn_run(feet):
    return {"op": "put", "list": "runs", "id": "to-barn", "field": "length_ft", "value": feet}


class Api(WithDatabase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.application = cls.app()
        cls.owner = Client(cls.application, "owner@east.invalid")

    def job(self):
        """Begin a job of its own and return its address."""
        made = self.owner.send("POST", "/api/jobs/import", orchard())
        self.assertEqual(made.status_code, 201, made.get_json())
        return f"/api/jobs/{made.get_json()['id']}"

    def save(self, address, *operations, base=1, client=None, **extra):
        body = {"base": base, "save_id": str(uuid.uuid4()), "summary": "Edit", "operations": operations, **extra}
        return (client or self.owner).send("POST", f"{address}/revisions", body)

    def test_check_gives_the_report_of_either_state(self):
        for state, fixes in (("proposed", 7), ("existing", 4)):
            answer = self.owner.send("POST", "/api/check", {"document": orchard(), "state": state})
            self.assertEqual(answer.get_json()["counts"]["must_fix"], fixes)

    def test_the_working_of_a_figure(self):
        report = self.owner.send("POST", "/api/check", {"document": orchard()}).get_json()
        figure = report["runs"]["to-green"]["chosen"]["figures"]["ground"]
        asked = {"document": orchard(), "state": "proposed", "key": figure["key"]}
        answer = self.owner.send("POST", "/api/working", asked)
        self.assertIn("250.122(B)", {step["section"] for step in answer.get_json()["steps"]})
        for key in ("run:to-green/none", "run:none/ground", "nothing:x/y", "no key at all"):
            self.assertEqual(self.owner.send("POST", "/api/working", {**asked, "key": key}).status_code, 404)

    def test_a_check_of_an_edit_is_that_of_the_edited_document(self):
        address = self.job()
        operations = [length_of_the_barn_run(200.0)]
        edited = changed(orchard(), lambda job: thing(job, "runs", "to-barn").update(length_ft=200.0))
        whole = self.owner.send("POST", "/api/check", {"document": edited}).get_json()
        body = {"base": 1, "operations": operations}
        self.assertEqual(self.owner.send("POST", f"{address}/check", body).get_json(), whole)

    def test_an_open_working_comes_with_each_check_and_stays_that_of_its_figure(self):
        """A figure is found by what it is: an edit that shifts every list leaves an open working with its figure."""
        address, key = self.job(), "run:to-green/ground"
        before = self.owner.send("POST", f"{address}/check", {"base": 1, "operations": [], "workings": [key]})
        rod = {"id": "a-first-rod", "kind": "rod", "connects_to": "disc-house-n"}
        more = [{"op": "insert", "list": "electrodes", "thing": rod, "at": 0}, length_of_the_barn_run(181.0)]
        after = self.owner.send("POST", f"{address}/check", {"base": 1, "operations": more, "workings": [key]})
        for answer in (before, after):
            told = answer.get_json()
            figure = told["runs"]["to-green"]["chosen"]["figures"]["ground"]
            self.assertEqual((figure["key"], told["workings"][key]["steps"][-1]["value"]), (key, figure["value"]))
            self.assertIn("Grounding conductor", told["workings"][key]["steps"][-1]["label"])
        asked = {"base": 1, "operations": more, "key": key}
        self.assertEqual(
            self.owner.send("POST", f"{address}/working", asked).get_json(), after.get_json()["workings"][key]
        )

    def test_a_working_goes_through_all_subjects_that_a_figure_comes_from(self):
        asked = {"document": orchard(), "key": "run:to-barn/load"}
        steps = self.owner.send("POST", "/api/working", asked).get_json()["steps"]
        self.assertEqual((steps[-1]["operation"], steps[-1]["inputs"]), ("carried", [len(steps) - 2]))
        self.assertGreater(len(steps), 5)
        for step in steps:
            self.assertTrue(all(number < step["number"] for number in step["inputs"]))

    def test_quick_figures_are_listed_and_worked_out(self):
        figures = self.owner.get("/api/figures").get_json()["figures"]
        for figure in figures:
            answer = self.owner.send("POST", f"/api/figures/{figure['name']}", {"inputs": figure["example"]})
            self.assertEqual(answer.status_code, 200, answer.get_json())
            self.assertTrue(answer.get_json()["value"])
        listed = next(item for item in figures if item["name"] == "ampacity")["input_schema"]["properties"]
        self.assertEqual(list(listed)[:2], ["edition", "size"])

    def test_a_figure_that_cannot_be_answered_is_told_by_field_reason_and_remedy(self):
        def told(name, inputs):
            answer = self.owner.send("POST", f"/api/figures/{name}", {"inputs": inputs})
            return answer.status_code, answer.get_json()

        status, body = told("ampacity", {"edition": "2023", "size": "5/0"})
        self.assertEqual((status, body["issues"][0]["path"]), (422, "size"))
        status, body = told("ampacity", {"edition": "2023", "size": "14", "material": "aluminum"})
        self.assertEqual((status, body["error"]), (422, "cannot_compute"))
        self.assertEqual(told("horoscope", {"edition": "2023"})[0], 404)
        self.assertEqual(told("cover", {"edition": "1999"})[1]["error"], "unknown_edition")

    def listed(self, address):
        lines = self.owner.get("/api/jobs").get_json()["jobs"]
        return next(line for line in lines if address.endswith(line["id"]))

    def test_a_job_too_large_to_be_read_again_is_refused_and_nothing_of_it_is_kept(self):
        """With all that it leaves open a job is written longer than it came."""
        before = len(self.owner.get("/api/jobs").get_json()["jobs"])
        many = [{"id": f"q{number}"} for number in range(19_990)]
        large = {**orchard(), "sources": [*orchard()["sources"], *many]}
        answer = self.owner.send("POST", "/api/jobs/import", large)
        self.assertEqual((answer.status_code, answer.get_json()["issues"][0]["code"]), (422, "too_large"))
        self.assertEqual(len(self.owner.get("/api/jobs").get_json()["jobs"]), before)

    def test_the_list_shows_what_the_newest_document_says(self):
        address = self.job()
        line = self.listed(address)
        self.assertEqual((line["customer"], line["edition"], line["status"]), ("A. Quince", "2023", "design"))
        self.assertEqual((line["author"], line["archived"]), ("east owner", False))
        settings = [{"op": "setting", "field": "status", "value": "submitted"}]
        settings += [{"op": "setting", "field": "owner", "value": "B. Medlar"}]
        self.assertEqual(self.save(address, *settings).status_code, 201)
        line = self.listed(address)
        self.assertEqual((line["customer"], line["status"], line["head"]), ("B. Medlar", "submitted", 2))
        self.owner.send("POST", f"{address}/revisions/1/restore", {})
        self.assertEqual(self.listed(address)["customer"], "A. Quince")

    def test_a_copy_begins_anew_with_the_same_document(self):
        address = self.job()
        copied = self.owner.send("POST", f"{address}/copy", {})
        self.assertEqual(copied.status_code, 201)
        made = copied.get_json()
        self.assertEqual((made["head"], made["document"]["name"]), (1, "Copy of Orchard at Quince Hollow"))
        self.assertEqual(
            {**made["document"], "name": ""}, {**self.owner.get(address).get_json()["document"], "name": ""}
        )

    def test_a_job_is_put_away_and_fetched_back_and_nothing_of_it_is_lost(self):
        address = self.job()
        for archived in (True, False):
            answer = self.owner.send("POST", f"{address}/archive", {"archived": archived})
            self.assertEqual(answer.status_code, 200)
            self.assertEqual(self.listed(address)["archived"], archived)
            self.assertEqual(self.owner.get(address).status_code, 200)

    def test_a_job_is_begun_saved_listed_and_read(self):
        made = self.owner.send("POST", "/api/jobs", {"name": "New barn", "edition": "2020"}).get_json()
        self.assertEqual(made["document"]["settings"]["edition"], "2020")
        address = f"/api/jobs/{made['id']}"
        saved = self.save(address, setting("note", "Second"))
        self.assertEqual((saved.status_code, saved.get_json()), (201, {"number": 2, "document": None, "came": []}))
        self.assertEqual(self.owner.get(address).get_json()["document"]["note"], "Second")
        self.assertIn("New barn", [job["name"] for job in self.owner.get("/api/jobs").get_json()["jobs"]])

    def test_the_log_of_the_site_goes_out_and_comes_back_with_the_job(self):
        address = self.job()
        entry = {"thing_id": "to-barn", "kind": "torque", "value": 250.0, "unit": "lb-in"}
        self.assertEqual(self.owner.send("POST", f"{address}/field-log", {"entries": [entry]}).status_code, 201)
        exported = self.owner.get(f"{address}/export")
        self.assertEqual(exported.get_json()["field_log"][0]["value"], 250)
        again = self.owner.send("POST", "/api/jobs/import", exported.data).get_json()
        log = self.owner.get(f"/api/jobs/{again['id']}/field-log").get_json()["entries"]
        self.assertEqual((len(log), log[0]["thing_id"], log[0]["value"]), (1, "to-barn", 250))

    def test_export_and_import_lose_nothing(self):
        exported = self.owner.get(f"{self.job()}/export")
        again = self.owner.send("POST", "/api/jobs/import", exported.data)
        self.assertEqual(self.owner.get(f"/api/jobs/{again.get_json()['id']}/export").data, exported.data)
        self.assertIn("attachment", exported.headers["Content-Disposition"])

    def test_revisions_are_listed_compared_and_restored(self):
        address = self.job()
        self.save(address, length_of_the_barn_run(200.0))
        lines = self.owner.get(f"{address}/revisions").get_json()
        self.assertEqual((lines["head"], [item["number"] for item in lines["revisions"]]), (2, [2, 1]))
        differences = self.owner.get(f"{address}/revisions/1/differences/2").get_json()["differences"]
        self.assertEqual(
            [(item["field"], item["before"], item["after"]) for item in differences], [("length_ft", 180, 200)]
        )
        self.assertEqual(self.owner.send("POST", f"{address}/revisions/1/restore").get_json()["number"], 3)
        first, third = (self.owner.get(f"{address}/revisions/{number}").get_json()["document"] for number in (1, 3))
        self.assertEqual(first, third)
        beyond = f"{address}/revisions/{2**31}"
        for answer in (
            self.owner.get(beyond),
            self.owner.get(f"{beyond}/differences/1"),
            self.owner.send("POST", f"{beyond}/restore"),
        ):
            self.assertEqual(answer.status_code, 404)

    def test_revisions_are_listed_in_parts(self):
        address = self.job()
        with self.database.sessions.begin() as session:
            job = session.get(Job, uuid.UUID(address.rpartition("/")[2]))
            first = session.scalar(select(Revision).where(Revision.job_id == job.id).options(undefer(Revision.packed)))
            job.head = job.last_number = 250
            facts = {"base": 1, "kind": "main", "summary": "", "edition": "2023", "packed": first.packed, "author": "x"}
            session.add_all(
                Revision(job_id=job.id, number=number, save_id=f"part {number}", **facts) for number in range(2, 251)
            )
        numbers, told = [], self.owner.get(f"{address}/revisions").get_json()
        while True:
            numbers += [item["number"] for item in told["revisions"]]
            self.assertLessEqual(len(told["revisions"]), 100)
            if not told["older"]:
                break
            told = self.owner.get(f"{address}/revisions/before/{numbers[-1]}").get_json()
        self.assertEqual(numbers, list(range(250, 0, -1)))
        self.assertEqual(self.owner.get(f"{address}/revisions/before/1").get_json()["revisions"], [])
        self.assertEqual(self.owner.get(f"{address}/revisions/before/{10**30}").status_code, 200)

    def test_an_address_longer_than_a_file_name_is_the_page(self):
        self.assertEqual(self.owner.get("/" + "a" * 256).status_code, 200)

    def test_the_difference_between_existing_and_proposed(self):
        answer = self.owner.send("POST", "/api/differences", {"document": orchard()}).get_json()["differences"]
        self.assertIn(("disc-barn-main", "rating_a"), {(item["id"], item["field"]) for item in answer})

    def test_saves_that_do_not_collide_are_joined_and_tell_what_came(self):
        address = self.job()
        self.save(address, setting("note", "theirs"))
        answer = self.save(address, length_of_the_barn_run(200.0))
        self.assertEqual(answer.status_code, 201)
        joined = answer.get_json()
        self.assertEqual((joined["number"], joined["document"]["note"]), (3, "theirs"))
        self.assertEqual([(item["field"], item["after"]) for item in joined["came"]], [("note", "theirs")])

    def test_a_collision_names_the_fields_and_loses_neither(self):
        address = self.job()
        self.save(address, setting("note", "theirs"))
        answer = self.save(address, setting("note", "mine"), length_of_the_barn_run(200.0))
        self.assertEqual(answer.status_code, 409)
        conflict = answer.get_json()["conflict"]
        (collision,) = conflict["collisions"]
        self.assertEqual([collision[name] for name in ("field", "mine", "theirs")], ["note", "mine", "theirs"])
        self.assertEqual(conflict["theirs_document"]["note"], "theirs")
        self.assertEqual([item["id"] for item in conflict["joining"]], ["to-barn"])
        kept = self.owner.get(f"{address}/revisions/{conflict['mine']}").get_json()
        self.assertEqual(kept["document"]["note"], "mine")
        self.assertEqual(self.owner.get(address).get_json()["document"]["note"], "theirs")

    def test_bad_documents_are_refused_with_field_and_remedy_and_nothing_is_saved(self):
        address = self.job()
        bad = changed(orchard(), lambda job: thing(job, "runs", "to-barn").update(length_ft=-1))
        for answer in (
            self.save(address, length_of_the_barn_run(-1)),
            self.owner.send("POST", "/api/check", {"document": bad}),
            self.owner.send("POST", "/api/jobs/import", bad),
        ):
            self.assertEqual(answer.status_code, 422)
            issue = answer.get_json()["issues"][0]
            self.assertEqual(
                (issue["path"], bool(issue["reason"]), bool(issue["remedy"])), ("runs.to-barn.length_ft", True, True)
            )
        self.assertEqual(self.owner.get(address).get_json()["head"], 1)

    def test_an_unknown_edition_is_told_by_field(self):
        answer = self.owner.send("POST", "/api/jobs", {"name": "x", "edition": "1999"})
        self.assertEqual((answer.status_code, answer.get_json()["issues"][0]["path"]), (422, "settings.edition"))

    def test_bodies_of_any_kind_get_a_clear_answer(self):
        bodies = (
            b"",
            b"{",
            b"[]",
            b'"x"',
            b"null",
            b'{"document": NaN}',
            b'{"document": {}, "document": {}}',
            b"\xff",
            b"[" * 100_000,
            b'{"document": {}, "extra": 1}',
            b'{"document": {"format": "nelvor-job", "version": 1, "name": "\\u0000"}}',
        )
        for path in ("/api/check", "/api/jobs/import", "/api/jobs", "/api/session", "/api/differences", "/api/working"):
            for body in bodies:
                with self.subTest(path=path, body=body[:30]):
                    answer = self.owner.send("POST", path, body)
                    self.assertEqual(answer.status_code, 422, answer.get_data()[:200])
                    self.assertTrue(answer.get_json()["issues"])

    def test_too_large_a_body(self):
        answer = self.owner.send("POST", "/api/jobs/import", b" " * (11 * 1024 * 1024))
        self.assertEqual(answer.status_code, 413)

    def test_the_published_schema_accepts_what_is_exported(self):
        schema = self.owner.get("/api/schema/job.json").get_json()
        document = json.loads(self.owner.get(f"{self.job()}/export").data)
        Draft202012Validator(schema).validate(document)
        self.assertEqual(self.owner.get("/api/openapi.json").get_json()["openapi"], "3.1.0")

    def test_answers_of_other_rules_are_shown_beside_those_of_now(self):
        address = self.job()
        self.assertIsNone(self.owner.get(address).get_json()["then"])
        self.application.extensions["nelvor_judging"].settle()
        with mock.patch("nelvor.web.job_routes.ENGINE_VERSION", "9.9.9"):
            then = self.owner.get(address).get_json()["then"]
        self.assertEqual(then["counts"]["must_fix"], 7)


class Guards(WithDatabase):
    def test_nothing_but_the_door_is_open_without_signing_in(self):
        app = self.app()
        visitor = Client(app)
        open_to_all = {
            "read_session",
            "sign_in",
            "sign_in_demo",
            "sign_out",
            "read_editions",
            "read_job_schema",
            "read_openapi",
            "health",
            "ready",
            "read_link",
            "use_link",
            "open_link",
        }
        for rule in app.url_map.iter_rules():
            if not rule.endpoint.startswith("api.") or rule.endpoint.removeprefix("api.") in open_to_all:
                continue
            path = self.filled(rule, self.jobs["east"])
            for method in rule.methods - {"HEAD", "OPTIONS"}:
                body = (
                    {"name": "x", "edition": "2023"}
                    if rule.endpoint == "api.create_job"
                    else self.any_body(rule.endpoint)
                )
                with self.subTest(f"{method} {path}"):
                    self.assertEqual(visitor.send(method, path, body).status_code, 401)

    def filled(self, rule, job_id):
        values = {name: (1 if name in ("number", "other") else job_id) for name in rule.arguments}
        return self.app().url_map.bind("localhost").build(rule.endpoint, values)

    def any_body(self, endpoint):
        document = orchard()
        return {
            "api.check_document": {"document": document},
            "api.proposal_differences": {"document": document},
            "api.read_working": {"document": document, "key": "run:to-barn/load"},
            "api.check_edit": {"base": 1, "operations": []},
            "api.read_edit_working": {"base": 1, "operations": [], "key": "run:to-barn/load"},
            "api.append_to_field_log": {"entries": [{"thing_id": "to-barn", "kind": "torque"}]},
            "api.import_job": document,
            "api.share_job": {"days": 1},
            "api.add_remark": {"words": "x"},
            "api.delete_job": {"name": "x"},
            "api.say_of_picture": {"caption": "x"},
            "api.archive_job": {"archived": True},
            "api.save_revision": {
                "base": 1,
                "save_id": "a-save-id",
                "summary": "",
                "operations": [length_of_the_barn_run(200.0)],
            },
        }.get(endpoint)

    def test_every_route_with_a_job_hides_another_shops_job(self):
        app = self.app()
        stranger = Client(app, "owner@west.invalid")
        tried = 0
        for rule in app.url_map.iter_rules():
            if "job_id" not in rule.arguments:
                continue
            path = self.filled(rule, self.jobs["east"])
            for method in rule.methods - {"HEAD", "OPTIONS"}:
                with self.subTest(f"{method} {path}"):
                    answer = stranger.send(method, path, self.any_body(rule.endpoint))
                    self.assertEqual(answer.status_code, 404)
                    self.assertNotIn("Quince", answer.get_data(as_text=True))
                    tried += 1
        self.assertGreaterEqual(tried, 7)
        self.assertEqual(stranger.get("/api/jobs").get_json()["jobs"][0]["id"], self.jobs["west"])

    def test_a_reviewer_gets_403_on_every_change(self):
        reviewer = Client(self.app(), "reviewer@east.invalid")
        self.assertFalse(reviewer.get("/api/session").get_json()["member"]["may_write"])
        job = f"/api/jobs/{self.jobs['east']}"
        self.assertEqual(reviewer.get(job).status_code, 200)
        for path, endpoint in (
            (f"{job}/revisions", "api.save_revision"),
            (f"{job}/revisions/1/restore", ""),
            (f"{job}/field-log", "api.append_to_field_log"),
            ("/api/jobs/import", "api.import_job"),
            (f"{job}/copy", ""),
            (f"{job}/archive", "api.archive_job"),
        ):
            self.assertEqual(reviewer.send("POST", path, self.any_body(endpoint)).status_code, 403)

    def test_changes_need_the_token_of_the_page(self):
        app = self.app()
        owner = Client(app, "owner@east.invalid")
        owner.csrf = "stale"
        for method, path in (
            ("POST", "/api/jobs"),
            ("POST", "/api/check"),
            ("DELETE", "/api/session"),
            ("POST", "/api/session"),
        ):
            answer = owner.send(method, path, {})
            self.assertEqual((answer.status_code, answer.get_json()["error"]), (400, "stale_form"))

    def test_sign_in_is_limited_and_says_how_long_to_wait(self):
        client = Client(self.app())
        for _ in range(5):
            wrong = client.send("POST", "/api/session", {"email": "limited@west.invalid", "password": "x"})
            self.assertEqual(wrong.status_code, 401)
        blocked = client.send("POST", "/api/session", {"email": "limited@west.invalid", "password": PASSWORD})
        self.assertEqual(blocked.status_code, 429)
        self.assertGreater(int(blocked.headers["Retry-After"]), 0)
        with self.database.sessions.begin() as session:
            session.execute(__import__("sqlalchemy").text("delete from sign_in_failures"))

    def test_signing_out_ends_the_session(self):
        owner = Client(self.app(), "owner@east.invalid")
        self.assertIsNone(owner.send("DELETE", "/api/session").get_json()["member"])
        self.assertEqual(owner.get("/api/jobs").status_code, 401)

    def test_one_click_is_open_in_demo_mode_on_loopback_alone(self):
        with self.database.sessions.begin() as session:
            from nelvor.store.demo import add_demo

            add_demo(session)
        tries = [
            (True, {}, {}, 200),
            (False, {}, {}, 404),
            (True, {"X-Forwarded-For": "127.0.0.1"}, {}, 404),
            (True, {"Forwarded": "for=127.0.0.1"}, {}, 404),
            (True, {"Host": "jobs.example.invalid"}, {}, 404),
            (True, {"Host": "127.0.0.1.example.invalid:80"}, {}, 404),
            (True, {}, {"REMOTE_ADDR": "192.0.2.7"}, 404),
        ]
        for demo, headers, environ, status in tries:
            with self.subTest(demo=demo, headers=headers, environ=environ):
                client = self.app(demo=demo).test_client()
                place = {"base_url": f"http://{headers.get('Host', 'localhost')}/", "environ_overrides": environ}
                told = client.get("/api/session", **place).get_json()
                self.assertEqual(told["demo"], status == 200 or "Host" not in headers and demo and not environ)
                sent = {name: value for name, value in headers.items() if name != "Host"}
                answer = client.post("/api/session/demo", headers={"X-CSRFToken": told["csrf"], **sent}, **place)
                self.assertEqual(answer.status_code, status)

    def test_pages_carry_a_strict_policy(self):
        headers = self.app().test_client().get("/api/session").headers
        policy = headers["Content-Security-Policy"]
        for rule in ("default-src 'self'", "script-src 'self'", "frame-ancestors 'none'", "object-src 'none'"):
            self.assertIn(rule, policy)
        self.assertNotIn("unsafe-eval", policy)
        self.assertEqual(headers["X-Frame-Options"], "DENY")
        self.assertEqual(headers["X-Content-Type-Options"], "nosniff")
        cookie = headers["Set-Cookie"]
        self.assertTrue("HttpOnly" in cookie and "SameSite=Lax" in cookie)

    def test_ready_tells_what_it_lacks(self):
        visitor = Client(self.app())
        told = visitor.get("/api/ready")
        self.assertEqual((told.status_code, told.get_json()["ok"]), (200, True))
        with mock.patch("nelvor.web.about_routes.LEAST_FREE_MB", 10**12):
            told = visitor.get("/api/ready")
        self.assertEqual((told.status_code, told.get_json()["disk"], told.get_json()["database"]), (503, False, True))

    def test_a_row_that_another_one_holds_is_told_in_seconds(self):
        from sqlalchemy import text

        owner = Client(self.app(), "owner@east.invalid")
        address = f"/api/jobs/{self.jobs['east']}"
        with self.database.sessions.begin() as session:
            session.execute(text("select * from jobs for update"))
            began = time.monotonic()
            answer = owner.send("POST", f"{address}/archive", {"archived": True})
        self.assertEqual((answer.status_code, answer.get_json()["error"]), (503, "store_unavailable"))
        self.assertLess(time.monotonic() - began, 15)

    def test_unknown_addresses_of_the_api_are_told_in_its_own_form(self):
        answer = self.app().test_client().get("/api/none")
        self.assertEqual((answer.status_code, answer.get_json()["error"]), (404, "not_found"))


class Faults(WithDatabase):
    def every_error(self):
        found = [errors.NelvorError]
        for kind in found:
            found += kind.__subclasses__()
        return set(found[1:])

    def test_every_error_has_its_answer(self):
        abstract = {errors.NelvorError}
        self.assertEqual(self.every_error() - abstract - set(faults.STATUS), set())

    def test_an_unexpected_error_leaks_nothing(self):
        app = self.app()
        owner = Client(app, "owner@east.invalid")
        with (
            mock.patch("nelvor.web.reports.check", side_effect=RuntimeError("secret detail")),
            self.assertLogs("nelvor.web.faults"),
        ):
            answer = owner.send("POST", "/api/check", {"document": {**orchard(), "name": "Not checked before"}})
        self.assertEqual(answer.status_code, 500)
        self.assertNotIn("secret", answer.get_data(as_text=True))

    def test_a_database_that_is_away_is_503_and_says_that_edits_are_kept(self):
        owner = Client(self.app(), "owner@east.invalid")
        with mock.patch("nelvor.web.job_routes.jobs.list_jobs", side_effect=OperationalError("x", {}, Exception())):
            answer = owner.get("/api/jobs")
        self.assertEqual((answer.status_code, answer.get_json()["error"]), (503, "store_unavailable"))


if __name__ == "__main__":
    unittest.main()
