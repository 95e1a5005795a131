"""Databases and servers for tests: a database of its own for each test class, a live server for the browser."""

from __future__ import annotations

import os
import threading
import unittest
import uuid
from typing import Any

from argon2 import PasswordHasher
from flask import Flask
from flask.testing import FlaskClient
from sqlalchemy import create_engine, text
from sqlalchemy.engine import make_url
from werkzeug.serving import WSGIRequestHandler, make_server

from nelvor.demo import demo_job
from nelvor.store import members
from nelvor.store.database import connect, migrate
from nelvor.store.jobs import create_job
from nelvor.web.app import create_app

PASSWORD = "correct horse battery"
FAST_HASHER = PasswordHasher(time_cost=1, memory_cost=64, parallelism=1)


def server_url() -> str:
    url = os.environ.get("NELVOR_TEST_SERVER")
    if not url:
        raise RuntimeError("Run the tests with ./test: it starts the database that they need.")
    return url


class Database:
    """A fresh migrated database, dropped at the end."""

    def __init__(self) -> None:
        self.name = f"test_{uuid.uuid4().hex[:12]}"
        self.url = make_url(server_url()).set(database=self.name).render_as_string(hide_password=False)
        self._run(f'create database "{self.name}"')
        migrate(self.url)
        self.sessions = connect(self.url)

    def _run(self, statement: str) -> None:
        engine = create_engine(server_url(), isolation_level="AUTOCOMMIT")
        with engine.connect() as connection:
            connection.execute(text(statement))
        engine.dispose()

    def drop(self) -> None:
        self.sessions.kw["bind"].dispose()
        self._run(f'drop database "{self.name}" with (force)')


class WithDatabase(unittest.TestCase):
    """Two shops, each with an owner, a reviewer and a copy of the demo job."""

    database: Database
    jobs: dict[str, str]

    @classmethod
    def setUpClass(cls) -> None:
        cls._hasher = members.hasher
        members.hasher = FAST_HASHER
        cls.database = Database()
        cls.jobs = {}
        with cls.database.sessions.begin() as session:
            for shop in ("east", "west"):
                owner = members.add_member(session, shop, f"owner@{shop}.invalid", f"{shop} owner", PASSWORD, "owner")
                members.add_member(session, shop, f"reviewer@{shop}.invalid", f"{shop} reviewer", PASSWORD, "reviewer")
                cls.jobs[shop] = str(create_job(session, owner, demo_job(), "Sample job").id)

    @classmethod
    def tearDownClass(cls) -> None:
        cls.database.drop()
        members.hasher = cls._hasher

    @classmethod
    def app(cls, demo: bool = False) -> Flask:
        return create_app(cls.database.url, "test key", demo=demo)


class Client:
    """A signed-in client that carries the CSRF token."""

    def __init__(self, app: Flask, email: str | None = None, password: str = PASSWORD) -> None:
        self.client: FlaskClient = app.test_client()
        self.csrf = self.client.get("/api/session").get_json()["csrf"]
        if email:
            answer = self.send("POST", "/api/session", {"email": email, "password": password})
            assert answer.status_code == 200, answer.get_json()
            self.csrf = answer.get_json()["csrf"]

    def send(self, method: str, path: str, body: Any = None, **options: Any):
        headers = {"X-CSRFToken": self.csrf, **options.pop("headers", {})}
        if isinstance(body, bytes):
            return self.client.open(path, method=method, data=body, headers=headers, **options)
        return self.client.open(path, method=method, json=body, headers=headers, **options)

    def get(self, path: str):
        return self.send("GET", path)


class QuietHandler(WSGIRequestHandler):
    def log_request(self, *_: object) -> None:
        """Requests are no news in a test's output."""


class LiveServer:
    """The application on a free loopback port, in a thread; ``stop`` and ``start`` play an outage."""

    def __init__(self, app: Flask) -> None:
        self.app = app
        self.port = 0
        self.start()

    def start(self) -> None:
        self.server = make_server("127.0.0.1", self.port, self.app, threaded=True, request_handler=QuietHandler)
        self.port = self.server.server_port
        self.thread = threading.Thread(target=self.server.serve_forever, daemon=True)
        self.thread.start()

    def stop(self) -> None:
        self.server.shutdown()
        self.server.server_close()
        self.thread.join(timeout=10)

    @property
    def url(self) -> str:
        return f"http://127.0.0.1:{self.port}"
