"""The database frozen, gone or out of room, the application's role, a taken port, a clock set back, TLS in front."""

import contextlib
import http.client
import json
import os
import re
import secrets
import shutil
import signal
import socket
import ssl
import subprocess
import tempfile
import threading
import time
import unittest
import uuid
from datetime import UTC, datetime, timedelta
from pathlib import Path

from sqlalchemy import create_engine, text
from sqlalchemy.exc import DBAPIError

from nelvor.demo import demo_job
from nelvor.store import members
from nelvor.store.database import connect, migrate_and_grant
from nelvor.store.jobs import create_job
from nelvor.store.members import sign_in
from nelvor.store.prepare import create_database, create_role
from nelvor.store.roles import APP_ROLE
from nelvor.store.tables import SignInFailure
from nelvor.web.app import close, create_app
from tests.support.jobs import orchard
from tests.support.server import FAST_HASHER, PASSWORD, Client, LiveServer, WithDatabase
from tests.tools import full_disk
from tests.tools.test_running import Started, lent_state
from tools.cluster import temporary_cluster

PUT = {"op": "put", "list": "runs", "id": "to-barn", "field": "length_ft", "value": 77.0}


class OwnCluster(unittest.TestCase):
    """A cluster that may be frozen and stopped, with the application working by its own role."""

    @classmethod
    def setUpClass(cls):
        cls.cluster = temporary_cluster()
        cls.cluster.create()
        cls.cluster.start()
        cls.addClassCleanup(shutil.rmtree, cls.cluster.home, True)
        cls.addClassCleanup(cls.cluster.stop, "immediate")
        owner = cls.cluster.url("nelvor")
        create_database(owner, "nelvor")
        create_role(owner, cls.cluster.app_password())
        migrate_and_grant(owner)
        hasher, members.hasher = members.hasher, FAST_HASHER
        cls.addClassCleanup(setattr, members, "hasher", hasher)
        cls.url = cls.cluster.url("nelvor", APP_ROLE)
        with connect(cls.url).begin() as session:
            member = members.add_member(session, "east", "owner@east.invalid", "Owner", PASSWORD, "owner")
            cls.job = str(create_job(session, member, demo_job(), "New").id)
        cls.application = create_app(cls.url, "test key", watched=True)
        cls.addClassCleanup(close, cls.application)
        cls.owner = Client(cls.application, "owner@east.invalid")

    def save(self, base=1):
        body = {"base": base, "save_id": uuid.uuid4().hex, "summary": "x", "operations": [PUT]}
        return self.owner.send("POST", f"/api/jobs/{self.job}/revisions", body)

    def freeze(self, number):
        for pid in self.cluster._processes():
            os.kill(pid, number)

    def answered_again(self, within_s=30.0):
        end = time.monotonic() + within_s
        while time.monotonic() < end:
            if self.owner.get("/api/jobs").status_code == 200:
                return
            time.sleep(0.1)
        self.fail("the application does not come back")

    def test_a_frozen_database_is_told_in_seconds_also_to_those_who_wait(self):
        self.assertEqual(self.owner.get("/api/jobs").status_code, 200)
        self.freeze(signal.SIGSTOP)
        try:
            began = time.monotonic()
            first = self.owner.get("/api/jobs")
            self.assertEqual((first.status_code, first.get_json()["error"]), (503, "store_unavailable"))
            self.assertIn("Your edits are kept", first.get_json()["message"])
            self.assertLess(time.monotonic() - began, 14)
            began = time.monotonic()
            for _ in range(5):
                self.assertEqual(self.owner.get("/api/health").status_code, 503)
            self.assertLess(time.monotonic() - began, 1)
        finally:
            self.freeze(signal.SIGCONT)
        self.answered_again()

    def test_a_database_that_is_gone_is_told_at_once_and_it_goes_on_when_it_is_back(self):
        self.cluster.stop("immediate")
        try:
            began = time.monotonic()
            self.assertEqual(self.save().status_code, 503)
            self.assertLess(time.monotonic() - began, 5)
        finally:
            self.cluster.start()
        self.answered_again()

    def test_a_full_disk_is_told_as_such(self):
        engine = create_engine(self.cluster.url("nelvor"))
        self.addCleanup(engine.dispose)
        with engine.begin() as connection:  # a save fails as it does where no page can be added
            full = "begin raise exception 'no space' using errcode = '53100'; end"
            connection.execute(text(f"create function full_disk() returns trigger language plpgsql as $$ {full} $$"))
            connection.execute(text("create trigger t before insert on revisions execute function full_disk()"))
        try:
            answer = self.save()
        finally:
            with engine.begin() as connection:
                connection.execute(text("drop function full_disk cascade"))
        self.assertEqual((answer.status_code, answer.get_json()["error"]), (503, "store_unavailable"))
        self.assertIn("disk is full", answer.get_json()["message"])

    @unittest.skipUnless(full_disk.can_mount(), "no file system can be mounted here")
    def test_a_disk_that_is_really_full_loses_nothing_that_was_acknowledged(self):
        done = full_disk.run_apart()
        self.assertEqual(done.returncode, 0, done.stdout)
        self.assertIn("acknowledged saves are there", done.stdout)

    def test_the_role_of_the_application_may_do_what_it_needs_and_no_more(self):
        saved = self.save(base=1)
        self.assertIn(saved.status_code, (201, 409))
        made = self.owner.send("POST", "/api/jobs/import", orchard()).get_json()
        gone = self.owner.send("DELETE", f"/api/jobs/{made['id']}", {"name": made["document"]["name"]})
        self.assertEqual(gone.status_code, 200, gone.get_json())
        with connect(self.url)() as session:
            facts = "select rolsuper, rolcreatedb, rolcreaterole from pg_roles where rolname = current_user"
            self.assertEqual(tuple(session.execute(text(facts)).one()), (False, False, False))
        for statement in (
            "delete from revisions",
            "update revisions set summary = 'x'",
            "truncate revisions",
            "delete from history",
            "delete from jobs",
            "update history set detail = ''",
            "drop table remarks",
            "alter table revisions disable trigger all",
            "update alembic_version set version_num = 'x'",
            "create table more (id int)",
            "set session_replication_role = 'replica'",
            "select set_config('nelvor.deleting', 'yes', false); delete from revisions",
        ):
            with self.subTest(statement), self.assertRaises(DBAPIError), connect(self.url).begin() as session:
                session.execute(text(statement))

    def test_even_the_owner_of_the_tables_is_refused_without_the_function(self):
        engine = create_engine(self.cluster.url("nelvor"))
        self.addCleanup(engine.dispose)
        for statement in ("delete from revisions", "truncate history", "update field_log set author = 'x'"):
            with self.subTest(statement), self.assertRaises(DBAPIError), engine.begin() as connection:
                connection.execute(text(statement))


class TakenPort(unittest.TestCase):
    def test_a_port_that_another_program_has_is_told_and_nothing_says_ready(self):
        state = lent_state()
        self.addCleanup(shutil.rmtree, state, True)
        with socket.socket() as other:
            other.bind(("127.0.0.1", 0))
            other.listen()
            started = Started(state, other.getsockname()[1])
            self.addCleanup(started.log.close)
            self.assertEqual(started.process.wait(timeout=60), 2)
        self.assertIn("Another program has port", started.output())
        self.assertNotIn("ready", started.output())
        self.assertFalse((state / "postgres").exists(), "nothing was set up for it")


class ClockSetBack(WithDatabase):
    def test_failures_that_lie_ahead_of_the_clock_lock_nobody_out(self):
        with self.database.sessions.begin() as session:
            ahead = datetime.now(UTC) + timedelta(days=1)
            keys = ("pair:owner@east.invalid 127.0.0.1", "email:owner@east.invalid", "peer:127.0.0.1")
            session.add_all(SignInFailure(key=key, at=ahead) for key in keys for _ in range(200))
        with self.database.sessions.begin() as session:
            self.assertEqual(sign_in(session, "owner@east.invalid", PASSWORD, "127.0.0.1").name, "east owner")

    def test_revisions_keep_their_order_by_number(self):
        owner = Client(self.app(), "owner@east.invalid")
        address = f"/api/jobs/{self.jobs['east']}"
        with self.database.sessions.begin() as session:
            session.execute(text("alter table revisions alter created_at set default now() - interval '3 days'"))
        body = {"base": 1, "save_id": uuid.uuid4().hex, "summary": "later", "operations": [PUT]}
        self.assertEqual(owner.send("POST", f"{address}/revisions", body).status_code, 201)
        lines = owner.get(f"{address}/revisions").get_json()["revisions"]
        self.assertEqual([line["number"] for line in lines], [2, 1])
        self.assertLess(lines[0]["created_at"], lines[1]["created_at"])
        self.assertEqual(owner.get(address).get_json()["head"], 2)


class TlsProxy:
    """A small proxy that ends TLS and tells the peer, as a real one in front of the application does."""

    def __init__(self, folder: Path, port: int) -> None:
        self.port = port
        certificate, key = folder / "cert.pem", folder / "key.pem"
        subprocess.run(
            ["openssl", "req", "-x509", "-newkey", "rsa:2048", "-nodes", "-days", "2", "-subj", "/CN=jobs.invalid"]
            + ["-addext", "subjectAltName=DNS:jobs.invalid", "-keyout", str(key), "-out", str(certificate)],
            check=True,
            capture_output=True,
        )
        self.certificate = certificate
        context = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
        context.load_cert_chain(certificate, key)
        self.listening = context.wrap_socket(socket.create_server(("127.0.0.1", 0)), server_side=True)
        threading.Thread(target=self._serve, daemon=True).start()

    def _serve(self) -> None:
        while True:
            try:
                client, _ = self.listening.accept()
            except ssl.SSLError:
                continue
            except OSError:
                return
            threading.Thread(target=self._pass_on, args=(client,), daemon=True).start()

    def _pass_on(self, client: ssl.SSLSocket) -> None:
        with contextlib.suppress(OSError), client, socket.create_connection(("127.0.0.1", self.port)) as server:
            head = b""
            while b"\r\n\r\n" not in head:
                head += client.recv(65536)
            length = re.search(rb"\r\nContent-Length: (\d+)", head)
            whole = head.index(b"\r\n\r\n") + 4 + (int(length[1]) if length else 0)
            while len(head) < whole:
                head += client.recv(65536)
            first, rest = head.split(b"\r\n", 1)
            told = b"X-Forwarded-For: 192.0.2.44\r\nX-Forwarded-Proto: https\r\nX-Forwarded-Host: jobs.invalid\r\n"
            server.sendall(first + b"\r\n" + told + b"Connection: close\r\n" + rest)
            while piece := server.recv(65536):
                client.sendall(piece)


class BehindTls(WithDatabase):
    def test_sign_in_and_save_through_a_proxy_that_ends_tls(self):
        folder = Path(tempfile.mkdtemp(prefix="nelvor-test-tls-"))
        self.addCleanup(shutil.rmtree, folder, True)
        app = create_app(self.database.url, secrets.token_hex(), demo=True, secure_cookie=True, proxies=1)
        server = LiveServer(app)
        self.addCleanup(server.stop)
        proxy = TlsProxy(folder, server.port)
        self.addCleanup(proxy.listening.close)
        context = ssl.create_default_context(cafile=str(proxy.certificate))
        cookie, csrf = "", ""

        def call(method, path, body=None):
            nonlocal cookie
            raw = socket.create_connection(("127.0.0.1", proxy.listening.getsockname()[1]), timeout=20)
            connection = http.client.HTTPConnection("jobs.invalid")
            connection.sock = context.wrap_socket(raw, server_hostname="jobs.invalid")
            headers = {"Content-Type": "application/json", "X-CSRFToken": csrf, "Referer": "https://jobs.invalid/"}
            content = None if body is None else json.dumps(body)
            connection.request(method, path, content, {**headers, **({"Cookie": cookie} if cookie else {})})
            response = connection.getresponse()
            told = response.getheader("Set-Cookie")
            if told:
                self.assertIn("Secure", told)
                cookie = told.split(";")[0]
            return response.status, json.loads(response.read())

        session = call("GET", "/api/session")[1]
        self.assertFalse(session["demo"], "one click stays shut behind a proxy")
        csrf = session["csrf"]
        status, session = call("POST", "/api/session", {"email": "owner@east.invalid", "password": PASSWORD})
        self.assertEqual(status, 200, session)
        csrf = session["csrf"]
        body = {"base": 1, "save_id": uuid.uuid4().hex, "summary": "x", "operations": [PUT]}
        self.assertEqual(call("POST", f"/api/jobs/{self.jobs['east']}/revisions", body)[0], 201)
        call("POST", "/api/session", {"email": "nobody@east.invalid", "password": "wrong"})
        with self.database.sessions() as store:
            keys = set(store.scalars(text("select key from sign_in_failures")))
        self.assertIn("peer:192.0.2.44", keys, "failures are counted by the peer that the proxy tells")


if __name__ == "__main__":
    unittest.main()
