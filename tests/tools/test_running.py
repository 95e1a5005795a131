"""The start command as a person uses it, and what stands after everything is killed."""

import http.client
import http.cookiejar
import json
import os
import re
import shutil
import signal
import subprocess
import tempfile
import threading
import time
import unittest
import urllib.error
import urllib.request
import uuid
from pathlib import Path

from nelvor.store.backup import read_backup
from tests.support.jobs import thing
from tools.cluster import Cluster, free_port
from tools.layout import ROOT, STATE

READY_S = 60
ANSWER_S = 30.0
BACK_S = 90.0
"""How long an answer may take, and how long until what was killed answers again, on a machine that does much besides."""


class Visitor:
    """A signed-in demo visitor over plain HTTP."""

    def __init__(self, base: str) -> None:
        self.base = base
        jar = http.cookiejar.CookieJar()
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(jar))
        self.csrf = self.call("GET", "/api/session")["csrf"]
        self.csrf = self.call("POST", "/api/session/demo", {})["csrf"]

    def call(self, method: str, path: str, body=None):
        request = urllib.request.Request(
            self.base + path,
            method=method,
            data=None if body is None else json.dumps(body).encode(),
            headers={"X-CSRFToken": getattr(self, "csrf", ""), "Content-Type": "application/json"},
        )
        with self.opener.open(request, timeout=ANSWER_S) as response:
            return json.load(response)


class Started:
    """A ``./start`` of its own state folder, with the environment of this checkout lent to it."""

    def __init__(self, state: Path, port: int, *options: str, **env: str) -> None:
        self.port = port
        self.log = (state / "start.log").open("a+")
        self.process = subprocess.Popen(
            [ROOT / "start", "--port", str(port), *options],
            cwd="/",
            env={**os.environ, "NELVOR_STATE": str(state), **env},
            stdin=subprocess.DEVNULL,
            stdout=self.log,
            stderr=subprocess.STDOUT,
        )

    def output(self) -> str:
        self.log.seek(0)
        return self.log.read()

    def await_ready(self) -> str:
        deadline = time.monotonic() + READY_S
        base = f"http://127.0.0.1:{self.port}"
        while time.monotonic() < deadline:
            if self.process.poll() is not None:
                raise AssertionError(self.output())
            try:
                urllib.request.urlopen(f"{base}/api/health", timeout=2).close()
                return base
            except (urllib.error.URLError, OSError):
                time.sleep(0.1)
        raise AssertionError("not ready:\n" + self.output())

    def end(self, number: int) -> int:
        self.process.send_signal(number)
        return self.process.wait(timeout=30)


def lent_state(within: Path = Path("/tmp")) -> Path:
    """Return a fresh state folder that borrows environment, Node and stamps from this checkout's own."""
    state = Path(tempfile.mkdtemp(prefix="nelvor-test-state-", dir=within))
    state.chmod(0o755)
    for lent in ("venv", "node"):
        if (STATE / lent).exists():
            (state / lent).symlink_to(STATE / lent)
    shutil.copytree(STATE / "stamps", state / "stamps")
    return state


def answers(port: int) -> bool:
    try:
        urllib.request.urlopen(f"http://127.0.0.1:{port}/api/health", timeout=2).close()
    except (urllib.error.URLError, OSError):
        return False
    return True


def children_of(pid: int, named: str) -> list[int]:
    """The processes that a process started, of a name."""
    found = []
    for entry in Path("/proc").iterdir():
        try:
            parent = int((entry / "stat").read_text().rpartition(")")[2].split()[1])
            words = (entry / "cmdline").read_bytes().decode(errors="replace")
        except (OSError, ValueError, IndexError):
            continue
        if parent == pid and named in words:
            found.append(int(entry.name))
    return found


class StartCommand(unittest.TestCase):
    def setUp(self):
        self.state = lent_state()
        self.cluster = Cluster(self.state / "postgres")
        self.addCleanup(shutil.rmtree, self.state, True)
        self.addCleanup(self.cluster.stop, "immediate")

    def start(self) -> Started:
        started = Started(self.state, free_port())
        self.addCleanup(started.log.close)
        self.addCleanup(lambda: started.process.poll() is None and started.end(signal.SIGTERM))
        return started

    def save(self, visitor: Visitor, job: str, base: int, feet: float, save_id: str | None = None) -> int:
        put = {"op": "put", "list": "runs", "id": "to-barn", "field": "length_ft", "value": feet}
        save_id = save_id or str(uuid.uuid4())
        body = {"base": base, "save_id": save_id, "summary": f"{feet} ft", "operations": [put]}
        return visitor.call("POST", f"/api/jobs/{job}/revisions", body)["number"]

    def test_from_first_start_through_crashes_to_a_clean_stop(self):
        first = self.start()
        base = first.await_ready()
        visitor = Visitor(base)
        jobs = {item["name"].split()[0]: item["id"] for item in visitor.call("GET", "/api/jobs")["jobs"]}
        job = jobs["Orchard"]

        with self.subTest("a second start says where the first one runs"):
            second = self.start()
            self.assertEqual(second.process.wait(timeout=30), 2)
            self.assertIn(f"already runs here: {base}", second.output())

        acknowledged = self.save_until_killed(visitor, job, [first.process.pid, self.cluster.server_pid()])
        self.assertGreaterEqual(len(acknowledged), 3)
        first.process.wait(timeout=10)
        self.assertTrue(
            (self.state / "postgres" / "data" / "postmaster.pid").exists(), "the crash leaves a stale pid file"
        )

        third = self.start()
        visitor = Visitor(third.await_ready())
        kept = {item["number"]: item for item in visitor.call("GET", f"/api/jobs/{job}/revisions")["revisions"]}
        for number, feet in acknowledged.items():
            document = visitor.call("GET", f"/api/jobs/{job}/revisions/{number}")["document"]
            self.assertEqual(thing(document, "runs", "to-barn")["length_ft"], feet)
        self.assertLessEqual(len(kept) - 1 - len(acknowledged), 1, "at most the save in flight is there without a word")

        with self.subTest("only the database killed: it is started again and the saves are there"):
            os.kill(self.cluster.server_pid(), signal.SIGKILL)
            number = self.save_when_back(visitor, job, max(kept))
            self.assertIn(
                number, {item["number"] for item in visitor.call("GET", f"/api/jobs/{job}/revisions")["revisions"]}
            )

        with self.subTest("only the web server killed: it is started again, and nothing is lost"):
            (server,) = children_of(third.process.pid, "nelvor.web.serve")
            os.kill(server, signal.SIGKILL)
            number = self.save_when_back(visitor, job, number)
            self.assertGreater(number, 0)

        with self.subTest("the day has its backup"):
            deadline = time.monotonic() + 90
            while not list((self.state / "backups").glob("*.gz")) and time.monotonic() < deadline:
                time.sleep(0.2)
            (backup,) = (self.state / "backups").glob("*.gz")
            self.assertGreater(read_backup(backup)["revisions"], 3)

        with self.subTest("only the application killed: the running database is adopted"):
            third.end(signal.SIGKILL)
            self.assertTrue(self.cluster.is_running())
            fourth = self.start()
            fourth.await_ready()

        with self.subTest("Ctrl-C stops all"):
            self.assertEqual(fourth.end(signal.SIGINT), 0)
            self.assertIn("Stopped.", fourth.output())
            self.assertFalse(answers(fourth.port))
            self.assertFalse(self.cluster.is_running())

    def save_when_back(self, visitor: Visitor, job: str, base: int) -> int:
        """Send one save again and again, as the interface does, until it is acknowledged."""
        deadline = time.monotonic() + BACK_S
        save_id = str(uuid.uuid4())
        while True:
            try:
                return self.save(visitor, job, base, 333.0, save_id)
            except urllib.error.HTTPError as refused:
                self.assertEqual(refused.code, 503)
            except (OSError, http.client.HTTPException):
                pass  # the web server is away
            self.assertLess(time.monotonic(), deadline, "it does not come back")
            time.sleep(0.2)

    def save_until_killed(self, visitor: Visitor, job: str, pids: list[int]) -> dict[int, float]:
        """Save one revision after another while server and database are killed; return what was acknowledged."""
        acknowledged: dict[int, float] = {}

        def saving() -> None:
            base, feet = 1, 100.0
            try:
                while True:
                    base = self.save(visitor, job, base, feet)
                    acknowledged[base] = feet
                    feet += 1
            except (urllib.error.URLError, OSError, http.client.HTTPException):
                return

        worker = threading.Thread(target=saving)
        worker.start()
        deadline = time.monotonic() + 30
        while len(acknowledged) < 5 and time.monotonic() < deadline:
            time.sleep(0.01)
        time.sleep(0.03)
        for pid in reversed(pids):
            os.kill(pid, signal.SIGKILL)
        worker.join(timeout=30)
        return acknowledged


class DatabaseElsewhere(unittest.TestCase):
    def test_a_server_elsewhere_is_used_and_none_is_started(self):
        from tests.support.server import Database

        database = Database()
        self.addCleanup(database.drop)
        state = lent_state()
        self.addCleanup(shutil.rmtree, state, True)
        started = Started(state, free_port(), "--no-demo", NELVOR_DATABASE_URL=database.url)
        self.addCleanup(started.log.close)
        base = started.await_ready()
        with urllib.request.urlopen(f"{base}/api/session") as response:
            self.assertFalse(json.load(response)["demo"])
        self.assertEqual(started.end(signal.SIGTERM), 0)
        self.assertFalse((state / "postgres").exists())


class ClusterSettings(unittest.TestCase):
    def test_the_persistent_cluster_keeps_fsync_on_and_listens_on_loopback_alone(self):
        home = Path(tempfile.mkdtemp(prefix="nelvor-test-cluster-", dir="/tmp"))
        self.addCleanup(shutil.rmtree, home, True)
        cluster = Cluster(home)
        cluster.create()
        self.addCleanup(cluster.stop, "immediate")
        cluster.start()
        from sqlalchemy import create_engine, text

        with create_engine(cluster.url()).connect() as connection:
            told = {
                name: connection.scalar(text(f"show {name}"))
                for name in ("fsync", "listen_addresses", "unix_socket_directories", "data_checksums")
            }
        wanted = {"fsync": "on", "listen_addresses": "127.0.0.1", "unix_socket_directories": "", "data_checksums": "on"}
        self.assertEqual(told, wanted)
        self.assertNotEqual(cluster.url().rsplit(":", 1)[1].split("/")[0], "5432")
        self.assertEqual((home.stat().st_mode & 0o777, (home / "password").stat().st_mode & 0o777), (0o700, 0o600))
        cluster.start()
        self.assertTrue(cluster.is_running(), "starting twice adopts the running server")
        cluster.stop()
        self.assertEqual(cluster._run("pg_checksums", "--disable", "-D", cluster.data).returncode, 0)
        cluster.start()
        with create_engine(cluster.url()).connect() as connection:
            self.assertEqual(connection.scalar(text("show data_checksums")), "on", "one made without gets them")

    def test_missing_packages_without_rights_are_named(self):
        from unittest import mock

        from tools import packages
        from tools.progress import SetupError

        with (
            mock.patch.object(packages, "POSTGRES_PROGRAMS", "/nonexistent/*"),
            mock.patch.object(packages, "_as_administrator", side_effect=PermissionError),
            self.assertRaises(SetupError) as caught,
        ):
            packages.ensure(for_tests=False)
        self.assertIn("apt-get install postgresql", str(caught.exception))


class Scripts(unittest.TestCase):
    def test_help_is_there(self):
        done = subprocess.run([ROOT / "start", "--help"], capture_output=True, text=True, check=False)
        for option in ("--port", "--no-demo"):
            self.assertIn(option, done.stdout)

    def test_the_shell_scripts_are_sound(self):
        for name in ("start", "test", "nelvor", ".ci/run", "tools/find_python.sh"):
            self.assertEqual(subprocess.run(["bash", "-n", ROOT / name], check=False).returncode, 0, name)
            self.assertIsNone(re.search(r"/root|/work|/home", (ROOT / name).read_text()), name)
