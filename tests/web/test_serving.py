"""The real server: slow clients, requests that never come whole, the log of requests, papers fetched when ready."""

import json
import logging
import os
import signal
import socket
import subprocess
import sys
import tempfile
import time
import unittest
import urllib.request
from contextlib import ExitStack
from pathlib import Path
from unittest import mock

from nelvor.pool.question import Question, Told, Work
from nelvor.web import asking, request_log, serve
from tests.support.server import Client, WithDatabase
from tools.layout import ROOT
from tools.start import listen


class Served(WithDatabase):
    """A server process as the start command starts it."""

    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.folder = Path(tempfile.mkdtemp(prefix="nelvor-test-log-"))
        cls.log = cls.folder / "server.log"
        cls.listening = listen(0)
        cls.port = cls.listening.getsockname()[1]
        cls.begin()

    @classmethod
    def begin(cls):
        env = {
            **os.environ,
            "NELVOR_DATABASE_URL": cls.database.url,
            "NELVOR_SECRET_KEY": "test",
            "NELVOR_LOG": str(cls.log),
            "NELVOR_WORKERS": "1",
            "PYTHONPATH": f"{ROOT / 'src'}{os.pathsep}{ROOT}",
        }
        number = cls.listening.fileno()
        command = [sys.executable, "-m", "nelvor.web.serve", str(number)]
        cls.server = subprocess.Popen(command, env=env, stdin=subprocess.DEVNULL, pass_fds=[number])

    @classmethod
    def tearDownClass(cls):
        cls.server.send_signal(signal.SIGTERM)
        assert cls.server.wait(timeout=20) == 0
        cls.listening.close()
        super().tearDownClass()

    def get(self, path, timeout=30.0, **headers):
        request = urllib.request.Request(f"http://127.0.0.1:{self.port}{path}", headers=headers)
        with urllib.request.urlopen(request, timeout=timeout) as response:
            return response.headers, json.load(response)

    def test_clients_that_never_finish_do_not_stop_the_others(self):
        self.get("/api/health")
        halves = (
            b"GET /api/health HTTP/1.1\r\nHost: x\r\nX-Part",
            b"POST /api/session HTTP/1.1\r\nHost: x\r\nContent-Type: application/json\r\nContent-Length: 900\r\n\r\n{",
        )
        with ExitStack() as opened:
            for number in range(150):
                slow = opened.enter_context(socket.create_connection(("127.0.0.1", self.port), timeout=5))
                slow.sendall(halves[number % 2])
            began = time.monotonic()
            for _ in range(5):
                self.assertTrue(self.get("/api/health")[1]["ok"])
            self.assertLess(time.monotonic() - began, 5)

    def test_requests_wait_at_the_door_while_no_server_runs(self):
        self.get("/api/health")
        self.server.kill()
        self.server.wait()
        with socket.create_connection(("127.0.0.1", self.port), timeout=60) as early:
            early.sendall(b"GET /api/health HTTP/1.0\r\nHost: 127.0.0.1\r\n\r\n")
            self.begin()
            self.assertIn(b"200 OK", early.recv(4000))

    def test_the_log_tells_a_request_and_nothing_of_whom(self):
        headers, _ = self.get("/api/session", **{"X-Request-Id": "given-1", "User-Agent": "somebody"})
        self.assertEqual(headers["X-Request-Id"], "given-1")
        headers, _ = self.get("/api/session?email=somebody@example.invalid", **{"X-Request-Id": "not one\tof ours"})
        self.assertRegex(headers["X-Request-Id"], "^[0-9a-f]{32}$")
        text = self.log.read_text()
        lines = [json.loads(line) for line in text.splitlines()]
        line = next(item for item in lines if item.get("request") == "given-1")
        self.assertEqual((line["method"], line["route"], line["status"]), ("GET", "/api/session", 200))
        self.assertGreaterEqual(line["ms"], 0)
        for secret in ("somebody", "127.0.0.1", "example.invalid"):
            self.assertNotIn(secret, text)

    def test_too_large_a_request_is_refused_before_it_is_read(self):
        with socket.create_connection(("127.0.0.1", self.port), timeout=10) as large:
            large.sendall(b"POST /api/check HTTP/1.1\r\nHost: x\r\nContent-Length: 999999999\r\n\r\n")
            self.assertIn(b"413", large.recv(4000))


class Slow(unittest.TestCase):
    def test_a_request_that_trickles_is_ended_and_one_after_another_is_not(self):
        channel = serve.Channel.__new__(serve.Channel)
        channel.request = object()
        within = serve.WHOLE_REQUEST_WITHIN_S
        self.assertFalse(channel.is_slow(0))
        self.assertFalse(channel.is_slow(within))
        self.assertTrue(channel.is_slow(within + 1))
        channel.request = object()
        self.assertFalse(channel.is_slow(within + 2))
        channel.request = None
        self.assertFalse(channel.is_slow(within + 3))
        channel.request = object()
        self.assertFalse(channel.is_slow(9 * within))


class Log(unittest.TestCase):
    def test_a_fault_is_told_by_kind_and_place(self):
        try:
            raise ValueError("somebody@example.invalid")
        except ValueError:
            record = logging.LogRecord("x", logging.ERROR, "f", 1, "unexpected error", (), sys.exc_info())
        told = json.loads(request_log.JsonLines().format(record))
        self.assertEqual((told["failure"], told["level"]), ("ValueError", "error"))
        self.assertTrue(told["where"][0].startswith("test_serving.py:"))
        self.assertNotIn("somebody", json.dumps(told))


class Papers(WithDatabase):
    def setUp(self):
        self.application = self.app()
        self.owner = Client(self.application, "owner@east.invalid")
        self.address = f"/api/jobs/{self.jobs['east']}"

    def test_a_paper_is_there_at_once_where_it_is_quick(self):
        answer = self.owner.get(f"{self.address}/signs.pdf?soon=1")
        self.assertEqual((answer.status_code, answer.mimetype), (200, "application/pdf"))

    def test_a_paper_that_takes_longer_tells_how_far_it_is(self):
        work = Work(Question("paper", "x", None), "a")
        pool = mock.Mock()
        pool.begin.return_value = work
        pool.line.ahead_of.return_value = 3
        self.application.extensions["nelvor_pool"] = pool
        with mock.patch.object(asking, "SOON_S", 0.01):
            told = [self.owner.get(f"{self.address}/permit.pdf?soon=1")]
            work.begun_at, work.done, work.parts = 1.0, 4, 9
            told.append(self.owner.get(f"{self.address}/permit.pdf?soon=1"))
            work.answer.set_result(Told(b"%PDF", "application/pdf"))
            ready = self.owner.get(f"{self.address}/permit.pdf?soon=1")
        self.assertEqual([item.status_code for item in told], [202, 202])
        self.assertEqual(told[0].get_json(), {"begun": False, "ahead": 3, "done": 0, "parts": 0})
        self.assertEqual(told[1].get_json(), {"begun": True, "ahead": 0, "done": 4, "parts": 9})
        self.assertEqual((ready.status_code, ready.data), (200, b"%PDF"))
        self.assertEqual(pool.begin.call_count, 1, "asking again is no second piece of work")

    def test_a_paper_that_failed_is_begun_again(self):
        pool = self.application.extensions["nelvor_pool"]
        with mock.patch("nelvor.web.paper_routes.sign_sheet", side_effect=[RuntimeError, b"%PDF"]) as made:
            with self.assertLogs("nelvor.web.faults"):
                self.assertEqual(self.owner.get(f"{self.address}/signs.pdf?soon=1").status_code, 500)
            self.assertEqual(self.owner.get(f"{self.address}/signs.pdf?soon=1").status_code, 200)
        self.assertEqual(made.call_count, 2)
        self.assertIs(pool, self.application.extensions["nelvor_pool"])

    def test_progress_of_the_permit_sheet_comes_to_its_end(self):
        seen = []
        under_way = self.application.extensions["nelvor_pool"]
        begin = under_way.begin

        def watched(question, asker):
            work = begin(question, asker)
            seen.append((work.done, work.parts))
            return work

        with mock.patch.object(under_way, "begin", watched):
            self.assertEqual(self.owner.get(f"{self.address}/permit.pdf?soon=1").status_code, 200)
        ((done, parts),) = seen
        self.assertGreater(parts, 10)
        self.assertGreaterEqual(done, parts - 1)


if __name__ == "__main__":
    unittest.main()
