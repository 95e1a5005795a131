"""People at work on one server, beside heavy checks: how long checks and saves take over those of one person alone.

Run: ``./test --run benchmarks.load`` (about four minutes), or with ``--people 50 --heavy 0,8 --seconds 20`` for a part.

The server is started as ``./start`` starts it, on loopback. A person edits a demo-sized job every ten seconds: a check of
the edit, then its save. A heavy asker sends whole jobs of two hundred panels, no two alike, one after the other.
"""

from __future__ import annotations

import argparse
import http.client
import json
import math
import os
import random
import threading
import time
import uuid
from collections import defaultdict
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from nelvor.demo import demo_job
from nelvor.store import members
from nelvor.store.jobs import create_job
from tests.support.jobs import chain
from tests.support.server import FAST_HASHER, PASSWORD, Database
from tools.cluster import free_port
from tools.start import listen, serve

EDIT_EVERY_S = 10.0
ALONE_EDITS = 40
HEAVY_PANELS = 200
PER_SHOP = 20
TIMEOUT_S = 90


@dataclass
class Person:
    """A signed-in member with a job of their own."""

    port: int
    email: str
    job: str
    revision: int = 1
    headers: dict[str, str] = field(default_factory=dict)
    connection: http.client.HTTPConnection | None = None

    def sign_in(self) -> None:
        """Sign in as a page does."""
        self.headers = {"Content-Type": "application/json"}
        self.headers["X-CSRFToken"] = self.call("GET", "/api/session")[1]["csrf"]
        told = self.call("POST", "/api/session", {"email": self.email, "password": PASSWORD})[1]
        self.headers["X-CSRFToken"] = told["csrf"]

    def call(self, method: str, path: str, body: Any = None) -> tuple[int, Any]:
        """Return status and answer of a request; a connection that the server ended is opened again."""
        content = None if body is None else json.dumps(body)
        if self.connection is None:
            self.connection = http.client.HTTPConnection("127.0.0.1", self.port, timeout=TIMEOUT_S)
        try:
            self.connection.request(method, path, content, self.headers)
            response = self.connection.getresponse()
        except (http.client.RemoteDisconnected, ConnectionError):
            self.connection.close()
            self.connection.request(method, path, content, self.headers)
            response = self.connection.getresponse()
        cookie = response.getheader("Set-Cookie")
        if cookie:
            self.headers["Cookie"] = cookie.split(";")[0]
        return response.status, json.loads(response.read())

    def edit(self, times: Times) -> None:
        """Check an edit, then save it."""
        put = {"op": "put", "list": "runs", "id": "to-barn", "field": "length_ft", "value": random.uniform(50, 250)}
        with times.of("check") as told:
            told.status, _ = self.call(
                "POST", f"/api/jobs/{self.job}/check", {"base": self.revision, "operations": [put]}
            )
        save = {"base": self.revision, "save_id": str(uuid.uuid4()), "summary": "Edit", "operations": [put]}
        with times.of("save") as told:
            told.status, answer = self.call("POST", f"/api/jobs/{self.job}/revisions", save)
        self.revision = answer.get("number", self.revision)


class Times:
    """What was measured, by kind, and what failed."""

    def __init__(self) -> None:
        self.seconds: dict[str, list[float]] = defaultdict(list)
        self.failed: dict[str, int] = defaultdict(int)
        self._lock = threading.Lock()

    def of(self, kind: str) -> Timed:
        """Time a request of a kind."""
        return Timed(self, kind)

    def add(self, kind: str, seconds: float, status: int) -> None:
        """Take down one request."""
        with self._lock:
            self.seconds[kind].append(seconds)
            if status not in (200, 201):
                self.failed[f"{kind} {status}"] += 1

    def at(self, kind: str, share: float) -> float:
        """Return the time in milliseconds that a share of the requests stays within."""
        ordered = sorted(self.seconds[kind])
        return ordered[max(0, math.ceil(share * len(ordered)) - 1)] * 1000 if ordered else math.nan


class Timed:
    """One request that is timed; ``status`` is told within."""

    def __init__(self, times: Times, kind: str) -> None:
        self._times, self._kind, self.status = times, kind, 0

    def __enter__(self) -> Timed:
        self._began = time.perf_counter()
        return self

    def __exit__(self, *_: object) -> None:
        self._times.add(self._kind, time.perf_counter() - self._began, self.status)


def memory_mb(pid: int) -> float:
    """Return what a process and all below it hold, in megabytes."""
    below: dict[int, list[int]] = defaultdict(list)
    for entry in Path("/proc").iterdir():
        if entry.name.isdigit():
            try:
                below[int((entry / "stat").read_text().rpartition(")")[2].split()[1])].append(int(entry.name))
            except OSError:
                continue
    found, waiting = 0.0, [pid]
    while waiting:
        one = waiting.pop()
        waiting += below[one]
        try:
            pages = int(Path(f"/proc/{one}/statm").read_text().split()[1])
        except OSError:
            continue
        found += pages * os.sysconf("SC_PAGE_SIZE") / 2**20
    return found


def people_of(database: Database, port: int, number: int) -> list[Person]:
    """Return so many people, each with a copy of the demo job, and sign them in."""
    members.hasher = FAST_HASHER
    found = []
    with database.sessions.begin() as session:
        for place in range(number):
            shop, email = f"shop {place // PER_SHOP}", f"person{place}@load.invalid"
            member = members.add_member(session, shop, email, f"Person {place}", PASSWORD, "owner")
            found.append(Person(port, email, str(create_job(session, member, demo_job(), "Sample").id)))
    for person in found:
        person.sign_in()
    return found


def heavy_asker(person: Person, times: Times, over: threading.Event) -> None:
    """Send whole jobs, no two alike, until it is over. Being told to come back in a moment is an answer."""
    while not over.is_set():
        job = {**chain(HEAVY_PANELS), "name": f"Heavy {uuid.uuid4()}"}
        with times.of("heavy check") as told:
            told.status, _ = person.call("POST", "/api/check", {"document": job})
        if told.status == 503:
            time.sleep(1.0)


def editor(person: Person, times: Times, over: threading.Event) -> None:
    """Edit at a person's pace until it is over."""
    if over.wait(random.uniform(0, EDIT_EVERY_S)):
        return
    while True:
        person.edit(times)
        if over.wait(random.uniform(0.5, 1.5) * EDIT_EVERY_S):
            return


def looker(person: Person, times: Times, over: threading.Event) -> None:
    """Ask for the list of jobs and for health twice a second."""
    while not over.wait(0.5):
        with times.of("list") as told:
            told.status, _ = person.call("GET", "/api/jobs")
        with times.of("health") as told:
            told.status, _ = person.call("GET", "/api/health")


def together(people: list[Person], heavy: list[Person], seconds: float) -> Times:
    """Let people edit beside heavy askers for so long."""
    times, over = Times(), threading.Event()
    work = [(editor, person) for person in people[:-1]] + [(heavy_asker, person) for person in heavy]
    work.append((looker, people[-1]))
    threads = [threading.Thread(target=kind, args=(person, times, over)) for kind, person in work]
    for thread in threads:
        thread.start()
    time.sleep(seconds)
    over.set()
    for thread in threads:
        thread.join()
    return times


def saves_beside(person: Person, heavy: list[Person], seconds: float) -> Times:
    """One person edits without a pause beside heavy askers."""
    times, over = Times(), threading.Event()
    threads = [threading.Thread(target=heavy_asker, args=(asker, times, over)) for asker in heavy]
    for thread in threads:
        thread.start()
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        person.edit(times)
        time.sleep(0.1)
    over.set()
    for thread in threads:
        thread.join()
    return times


def told(name: str, times: Times, alone: Times, memory: float) -> str:
    """Return one line of the table."""
    parts = [f"{name:<34}"]
    for kind in ("check", "save"):
        half, most = times.at(kind, 0.5), times.at(kind, 0.95)
        parts.append(f"{kind} {half:6.0f} / {most:6.0f} ms ({most / alone.at(kind, 0.5):5.1f} ×)")
    parts.append(f"list {times.at('list', 0.95):5.0f}  health {times.at('health', 0.95):5.0f}")
    busy = times.failed.pop("heavy check 503", 0)
    parts.append(f"heavy {len(times.seconds['heavy check']) - busy}, sent away {busy}")
    parts.append(f"errors {dict(times.failed) or 0}  {memory:.0f} MB")
    return "  ".join(parts)


def options() -> argparse.Namespace:
    """Return what is asked for."""
    parser = argparse.ArgumentParser(prog="benchmarks.load")
    parser.add_argument("--people", default="50,200")
    parser.add_argument("--heavy", default="0,2,8,20")
    parser.add_argument("--seconds", type=float, default=25.0)
    return parser.parse_args()


def main() -> None:
    """Print the table."""
    asked = options()
    crowds, heavies = ([int(part) for part in text.split(",")] for text in (asked.people, asked.heavy))
    database, port = Database(), free_port()
    env = {
        **os.environ,
        "NELVOR_DATABASE_URL": database.url,
        "NELVOR_SECRET_KEY": "load",
        "NELVOR_LOG": os.devnull,
        "PYTHONPATH": os.pathsep.join(["src", "."]),
    }
    server = serve(env, listen(port))
    try:
        await_answer(port)
        people = people_of(database, port, max(crowds) + max(heavies) + 1)
        askers, first = people[max(crowds) + 1 :], Times()
        for person in people[: max(crowds) + 1]:
            person.edit(first)
        alone = Times()
        for _ in range(ALONE_EDITS):
            people[0].edit(alone)
            time.sleep(0.1)
        print("median / 95th percentile, and the latter over the median of one person alone", flush=True)
        print(told("the first edit of each, in turn", first, alone, memory_mb(server.pid)), flush=True)
        print(told("one person alone", alone, alone, memory_mb(server.pid)), flush=True)
        for number in heavies:
            times = saves_beside(people[0], askers[:number], asked.seconds)
            print(told(f"one person, {number} heavy askers", times, alone, memory_mb(server.pid)), flush=True)
        for crowd in crowds:
            for number in heavies:
                times = together(people[: crowd + 1], askers[:number], asked.seconds)
                name = f"{crowd} people, {number} heavy askers"
                print(told(name, times, alone, memory_mb(server.pid)), flush=True)
    finally:
        server.terminate()
        server.wait(timeout=30)
        database.drop()


def await_answer(port: int) -> None:
    """Wait until the server answers."""
    end = time.monotonic() + 60
    while True:
        try:
            Person(port, "", "").call("GET", "/api/health")
            return
        except OSError:
            if time.monotonic() > end:
                raise
            time.sleep(0.1)


if __name__ == "__main__":
    main()
