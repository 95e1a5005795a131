"""Links by which others read one job, remarks, a job deleted by its owner; every route for every kind of visitor."""

import unittest
import uuid
from datetime import UTC, datetime, timedelta

from sqlalchemy import select, text
from sqlalchemy.exc import DBAPIError

from nelvor.demo import demo_job
from nelvor.store import jobs, members
from nelvor.store.access import GUEST, ROLES, TABLE
from nelvor.store.tables import HistoryEntry, Job, Member, Remark, Revision, SharedLink
from nelvor.web.api import api
from tests.support.jobs import orchard
from tests.support.server import PASSWORD, Client, WithDatabase

PUT = {"op": "put", "list": "runs", "id": "to-barn", "field": "length_ft", "value": 77.0}


class WithEveryRole(WithDatabase):
    """Clients of every role of one shop, and guests by a link."""

    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.application = cls.app()
        with cls.database.sessions.begin() as session:
            for role in ("designer", "field"):
                members.add_member(session, "east", f"{role}@east.invalid", f"east {role}", PASSWORD, role)
        cls.as_role = {role: Client(cls.application, f"{role}@east.invalid") for role in ROLES}
        cls.owner = cls.as_role["owner"]
        cls.address = f"/api/jobs/{cls.jobs['east']}"

    def shared(self, days=7, address=None):
        made = self.owner.send("POST", f"{address or self.address}/links", {"days": days, "meant_for": "the inspector"})
        self.assertEqual(made.status_code, 201, made.get_json())
        return made.get_json()

    def guest(self, token):
        client = Client(self.application)
        opened = client.send("POST", "/api/shared", {"token": token})
        self.assertEqual(opened.status_code, 200, opened.get_json())
        client.csrf = opened.get_json()["csrf"]
        return client


class Sharing(WithEveryRole):
    def history(self, action):
        with self.database.sessions() as session:
            query = select(HistoryEntry.detail).where(HistoryEntry.action == action).order_by(HistoryEntry.id.desc())
            return session.scalars(query).first()

    def test_a_guest_reads_the_one_job_and_nothing_else(self):
        guest = self.guest(self.shared()["token"])
        told = guest.get("/api/session").get_json()["member"]
        self.assertEqual((told["role"], told["may_write"], told["only_job"]), ("guest", False, self.jobs["east"]))
        job = guest.get(self.address)
        self.assertEqual((job.status_code, job.get_json()["may_write"]), (200, False))
        self.assertEqual(guest.send("POST", f"{self.address}/check", {"base": 1, "operations": []}).status_code, 200)
        self.assertEqual(guest.get(f"{self.address}/permit.pdf").mimetype, "application/pdf")
        other = self.owner.send("POST", "/api/jobs/import", orchard()).get_json()["id"]
        self.assertEqual(guest.get(f"/api/jobs/{other}").status_code, 404)
        self.assertEqual(guest.get(f"/api/jobs/{self.jobs['west']}").status_code, 404)
        for path in ("/api/jobs", "/api/shop/members", "/api/shop/rules", f"{self.address}/revisions"):
            self.assertEqual(guest.get(path).status_code, 403)
        self.assertEqual(self.history("shared"), "for the inspector, 7 days")

    def test_a_revoked_link_and_one_that_has_expired_open_nothing(self):
        made = self.shared()
        guest = self.guest(made["token"])
        left = self.owner.send("DELETE", f"{self.address}/links/{made['link']['id']}").get_json()["links"]
        self.assertTrue(next(link for link in left if link["id"] == made["link"]["id"])["revoked"])
        self.assertEqual(guest.get(self.address).status_code, 401)
        self.assertEqual(
            Client(self.application).send("POST", "/api/shared", {"token": made["token"]}).status_code, 404
        )
        self.assertEqual(self.history("link revoked"), "the inspector")
        late = self.shared()
        guest = self.guest(late["token"])
        with self.database.sessions.begin() as session:
            link = session.get(SharedLink, uuid.UUID(late["link"]["id"]))
            link.expires_at = datetime.now(UTC) - timedelta(seconds=1)
        self.assertEqual(guest.get(self.address).status_code, 401)

    def test_a_link_of_another_job_cannot_be_revoked_here_and_days_are_bounded(self):
        other = self.owner.send("POST", "/api/jobs/import", orchard()).get_json()["id"]
        made = self.shared(address=f"/api/jobs/{other}")
        self.assertEqual(self.owner.send("DELETE", f"{self.address}/links/{made['link']['id']}").status_code, 404)
        for days in (0, 366, 1.5, "7"):
            answer = self.owner.send("POST", f"{self.address}/links", {"days": days})
            self.assertEqual((answer.status_code, answer.get_json()["issues"][0]["path"]), (422, "days"))

    def test_the_token_is_kept_nowhere(self):
        token = self.shared()["token"]
        with self.database.sessions() as session:
            rows = session.execute(text("select cast(s as text) from shared_links s")).scalars()
            self.assertFalse(any(token in row for row in rows))
        self.assertNotIn(token, self.owner.get(f"{self.address}/links").get_data(as_text=True))

    def test_opening_a_link_signs_out_whoever_was_signed_in(self):
        client = Client(self.application, "reviewer@east.invalid")
        opened = client.send("POST", "/api/shared", {"token": self.shared()["token"]})
        client.csrf = opened.get_json()["csrf"]
        self.assertEqual(client.get("/api/session").get_json()["member"]["role"], "guest")
        client.send("DELETE", "/api/session")
        self.assertEqual(client.get(self.address).status_code, 401)

    def test_remarks_are_a_stream_of_their_own(self):
        before = self.owner.send("POST", f"{self.address}/check", {"base": 1, "operations": []}).get_json()["counts"]
        reviewer = self.as_role["reviewer"]
        body = {"words": "Where is the second rod?", "about": "House disconnect"}
        answer = reviewer.send("POST", f"{self.address}/remarks", body)
        self.assertEqual(answer.status_code, 201)
        told = answer.get_json()["remarks"][-1]
        self.assertEqual((told["words"], told["about"]), (body["words"], body["about"]))
        self.assertEqual((told["author"], told["revision"]), ("east reviewer", 1))
        after = self.owner.send("POST", f"{self.address}/check", {"base": 1, "operations": []}).get_json()["counts"]
        self.assertEqual(before, after)
        guest = self.guest(self.shared()["token"])
        self.assertEqual(guest.get(f"{self.address}/remarks").get_json()["remarks"][-1], told)
        self.assertEqual(guest.send("POST", f"{self.address}/remarks", body).status_code, 403)
        with self.assertRaises(DBAPIError), self.database.sessions.begin() as session:
            session.execute(text("update remarks set words = 'x'"))

    def test_the_history_tells_what_was_done_the_newest_first(self):
        self.shared()
        told = self.owner.get("/api/shop/history").get_json()
        first = told["entries"][0]
        self.assertEqual((first["action"], first["detail"]), ("shared", "for the inspector, 7 days"))
        self.assertEqual((first["member"], first["job_id"]), ("owner@east.invalid", self.jobs["east"]))
        older = self.owner.get(f"/api/shop/history/before/{first['number']}").get_json()["entries"]
        self.assertEqual(older[0]["number"], told["entries"][1]["number"])
        west = Client(self.application, "owner@west.invalid").get("/api/shop/history").get_json()["entries"]
        self.assertNotIn("shared", {entry["action"] for entry in west})

    def test_only_the_owner_deletes_a_job_whole_and_it_is_recorded(self):
        made = self.owner.send("POST", "/api/jobs/import", orchard()).get_json()
        address, name = f"/api/jobs/{made['id']}", made["document"]["name"]
        self.shared(address=address)
        self.owner.send("POST", f"{address}/remarks", {"words": "Here"})
        self.application.extensions["nelvor_judging"].settle()
        for role in ("designer", "field", "reviewer"):
            self.assertEqual(self.as_role[role].send("DELETE", address, {"name": name}).status_code, 403)
        wrong = self.owner.send("DELETE", address, {"name": "Another"})
        self.assertEqual((wrong.status_code, wrong.get_json()["issues"][0]["path"]), (422, "name"))
        self.assertEqual(self.owner.send("DELETE", address, {"name": name}).status_code, 200)
        self.assertEqual(self.owner.get(address).status_code, 404)
        self.assertEqual(self.history("deleted"), f"{name}, 1 revisions")
        with self.database.sessions() as session:
            job = uuid.UUID(made["id"])
            self.assertIsNone(session.get(Job, job))
            for table in (Revision, Remark, SharedLink):
                self.assertIsNone(session.scalar(select(table.id).where(table.job_id == job)))
            self.assertIsNotNone(session.scalar(select(Revision.id)), "other jobs are as they were")

    def test_nothing_but_that_function_deletes_what_is_appended(self):
        for statement in (
            "delete from revisions",
            "delete from remarks",
            "select set_config('nelvor.deleting', '', true); delete from judgements",
            "truncate remarks",
        ):
            with self.subTest(statement), self.assertRaises(DBAPIError), self.database.sessions.begin() as session:
                session.execute(text(statement))


# Which roles may come through a route that is not open to all: by action of the table, or by who may read at all.
CHANGES = {
    "create_job": "change",
    "copy_job": "change",
    "archive_job": "change",
    "import_job": "change",
    "save_revision": "change",
    "restore_revision": "change",
    "append_to_field_log": "write_on_site",
    "add_picture": "write_on_site",
    "say_of_picture": "write_on_site",
    "take_picture_away": "write_on_site",
    "import_with_pictures": "change",
    "replace_local_rules": "change",
    "replace_shop_defaults": "change",
    "replace_shop_sources": "change",
    "invite_member": "manage_members",
    "change_role": "manage_members",
    "remove_member": "manage_members",
    "reset_password": "manage_members",
    "share_job": "share",
    "list_links": "share",
    "revoke_link": "share",
    "add_remark": "remark",
    "delete_job": "delete_job",
    "read_history": "read_history",
    "read_older_history": "read_history",
}
OPEN_TO_ALL = {
    "read_session",
    "sign_in",
    "sign_in_demo",
    "sign_out",
    "read_link",
    "use_link",
    "open_link",
    "read_editions",
    "read_job_schema",
    "read_openapi",
    "health",
    "ready",
}
OPEN_TO_GUESTS = {
    "read_job",
    "check_edit",
    "read_edit_working",
    "permit_pdf",
    "labels_pdf",
    "bonds_pdf",
    "signs_pdf",
    "application_pdf",
    "loads_csv",
    "loads_xlsx",
    "export_job",
    "export_with_pictures",
    "list_pictures",
    "read_picture",
    "read_field_log",
    "read_remarks",
    "list_additions",
    "wanted_source_form",
    "list_figures",
}


class EveryRoute(WithEveryRole):
    """Every route × every role × own shop, another shop's, and by a link: enumerated."""

    def bodies(self):
        save = {"base": 1, "save_id": uuid.uuid4().hex, "summary": "x", "operations": [PUT]}
        return {
            "create_job": {"name": "New", "edition": "2023"},
            "archive_job": {"archived": False},
            "import_job": orchard(),
            "save_revision": save,
            "append_to_field_log": {"entries": [{"thing_id": "to-barn", "kind": "torque"}]},
            "replace_local_rules": {"rules": [], "base": 0},
            "replace_shop_sources": {"text": "name,kind\nSet,generator\n", "base": 0},
            "replace_shop_defaults": {"defaults": {"contractor": "Demo Electric Shop"}, "base": 0},
            "invite_member": {"email": f"{uuid.uuid4().hex}@east.invalid", "role": "field"},
            "change_role": {"role": "field"},
            "share_job": {"days": 3},
            "add_remark": {"words": "x"},
            "delete_job": {"name": "not its name"},
            "say_of_picture": {"caption": "x"},
            "ask_the_utility": {"premises": "20411873", "system": "split_120_240", "service_a": 200},
            "check_edit": {"base": 1, "operations": []},
            "read_edit_working": {"base": 1, "operations": [], "key": "run:to-green/ground"},
        }

    def address_of(self, rule, job):
        values = {"job_id": job, "number": 1, "other": 1, "link_id": uuid.uuid4(), "member_id": uuid.uuid4()}
        values |= {"picture_id": uuid.uuid4(), "thing_id": "house-panel"}
        values |= {"name": "ampacity", "token": "x"}
        with self.application.test_request_context():
            from flask import url_for

            return url_for(rule.endpoint, **{name: values[name] for name in rule.arguments})

    def rules(self):
        for rule in self.application.url_map.iter_rules():
            if rule.endpoint.startswith("api."):
                for method in rule.methods - {"HEAD", "OPTIONS"}:
                    yield rule, method, rule.endpoint.removeprefix("api.")

    def asked(self, client, rule, method, name, job):
        body = self.bodies().get(name, {} if method != "GET" else None)
        return client.send(method, self.address_of(rule, job), body)

    def test_every_route_for_every_visitor(self):
        visitors = {**self.as_role, GUEST: self.guest(self.shared(days=1)["token"])}
        nobody = Client(self.application)
        tried = 0
        for rule, method, name in self.rules():
            if name in OPEN_TO_ALL or name in ("sign_out", "change_password"):
                continue
            self.assertEqual(self.asked(nobody, rule, method, name, self.jobs["east"]).status_code, 401, name)
            for role, client in visitors.items():
                with self.subTest(f"{method} {rule.rule} as {role}"):
                    status = self.asked(client, rule, method, name, self.jobs["east"]).status_code
                    if role == GUEST:
                        may = name in OPEN_TO_GUESTS or name in api.works
                    else:
                        may = name not in CHANGES or role in TABLE[CHANGES[name]]
                    self.assertEqual(status != 403, may, status)
                    self.assertLess(status, 500)
                    if "job_id" in rule.arguments:
                        away = self.asked(client, rule, method, name, self.jobs["west"])
                        self.assertIn(away.status_code, {404} if may else {403, 404})
                tried += 1
        self.assertGreater(tried, 250)

    def test_the_lists_above_name_routes_that_are_there(self):
        names = {name for _, _, name in self.rules()}
        self.assertEqual((set(CHANGES) | OPEN_TO_ALL | OPEN_TO_GUESTS) - names, set())


class DeletedJobs(WithDatabase):
    def test_a_save_that_meets_a_deleted_job_is_told_so(self):
        with self.database.sessions.begin() as session:
            owner = session.scalar(select(Member).where(Member.email == "owner@east.invalid"))
            job = jobs.create_job(session, owner, demo_job(), "New")
            job_id, name = str(job.id), job.name
        client = Client(self.app(), "owner@east.invalid")
        self.assertEqual(client.send("DELETE", f"/api/jobs/{job_id}", {"name": name}).status_code, 200)
        save = {"base": 1, "save_id": uuid.uuid4().hex, "summary": "x", "operations": [PUT]}
        self.assertEqual(client.send("POST", f"/api/jobs/{job_id}/revisions", save).status_code, 404)


if __name__ == "__main__":
    unittest.main()
