"""Kills the application, a worker, the database or the start command at random, and counts what was acknowledged and lost.

Run for long: ``./test --run tests.tools.killing 600 [SEED]``, with how many seconds it goes on. A few rounds are among the
tests.
"""

from __future__ import annotations

import json
import os
import random
import shutil
import signal
import statistics
import sys
import threading
import time
import urllib.error
from collections import defaultdict
from http.client import HTTPException

from tests.support.jobs import thing
from tests.tools.test_running import Started, Visitor, children_of, lent_state
from tools.cluster import Cluster, free_port

RECOVERS_WITHIN_S = 60.0
PAUSE_S = 1.5
READY = "Nelvor is ready"
AWAY = (urllib.error.URLError, OSError, HTTPException, json.JSONDecodeError)


class Saver(threading.Thread):
    """Saves one length after another, each once more until it is acknowledged; knows what was."""

    def __init__(self, base: str) -> None:
        super().__init__(daemon=True)
        self.base = base
        self.acknowledged: dict[str, float] = {}
        self.over = threading.Event()
        self.last_at = time.monotonic()
        self.told = ""

    def run(self) -> None:
        """Save until it is over."""
        visitor, job, head, number = None, "", 1, 0
        while not self.over.is_set():
            try:
                if visitor is None:
                    visitor = Visitor(self.base)
                    found = visitor.call("GET", "/api/jobs")["jobs"]
                    job = next(item["id"] for item in found if item["name"].startswith("Orchard"))
                    head = visitor.call("GET", f"/api/jobs/{job}")["head"]
                number += 1
                feet = 50.0 + number / 8
                put = {"op": "put", "list": "runs", "id": "to-barn", "field": "length_ft", "value": feet}
                save = {"base": head, "save_id": f"killing-{number:08}", "summary": "Edit", "operations": [put]}
                head = visitor.call("POST", f"/api/jobs/{job}/revisions", save)["number"]
                self.acknowledged[save["save_id"]] = feet
                self.kept_head, self.job = head, job
                self.last_at = time.monotonic()
            except AWAY as failure:
                self.told = repr(failure)
                visitor = None
                time.sleep(0.05)


class Killing:
    """A started application of its own state folder, killed piece by piece."""

    def __init__(self, seed: int) -> None:
        self.chance = random.Random(seed)
        self.state = lent_state()
        self.port = free_port()
        self.cluster = Cluster(self.state / "postgres")
        self.started = Started(self.state, self.port)
        self.saver = Saver(self.started.await_ready())
        self.took: dict[str, list[float]] = defaultdict(list)

    def victims(self) -> dict[str, list[int]]:
        """Return what can be killed, by what it is."""
        server = children_of(self.started.process.pid, "nelvor.web.serve")
        workers = [pid for parent in server for pid in children_of(parent, "nelvor.pool.worker")]
        return {
            "application": server,
            "worker": workers,
            "database": [self.cluster.server_pid()] if self.cluster.is_running() else [],
            "start command": [self.started.process.pid],
        }

    def kill_one(self, kind: str) -> float:
        """Kill one of a kind; return how long it took until a save was acknowledged again."""
        pids = self.victims()[kind]
        if not pids:
            return 0.0
        os.kill(self.chance.choice(pids), signal.SIGKILL)
        began = time.monotonic()
        if kind == "start command":
            self.start_again()
        while self.saver.last_at < began:
            if self.started.process.poll() is not None:
                self.start_again()
            if time.monotonic() - began > RECOVERS_WITHIN_S:
                raise AssertionError(
                    f"no save after the {kind} was killed, {self.saver.told}, {self.saver.is_alive()}: {self.started.output()[:600]} … {self.started.output()[-1500:]}"
                )
            time.sleep(0.02)
        self.took[kind].append(self.saver.last_at - began)
        return self.took[kind][-1]

    def start_again(self) -> None:
        """Do what a service unit does when the start command ended; it is ready again when this returns."""
        self.started.process.wait()
        self.started.log.close()
        self.started = Started(self.state, self.port)
        deadline = time.monotonic() + RECOVERS_WITHIN_S
        already = self.started.output().count(READY)
        while self.started.output().count(READY) <= already and self.started.process.poll() is None:
            if time.monotonic() > deadline:
                raise AssertionError(self.started.output()[-2000:])
            time.sleep(0.05)
        self.saver.last_at = 0.0

    def run(self, seconds: float, kinds: tuple[str, ...]) -> None:
        """Kill for so many seconds, and each kind at least once."""
        self.saver.start()
        end, waiting = time.monotonic() + seconds, list(kinds)
        while time.monotonic() < end or waiting:
            time.sleep(self.chance.uniform(0.2, PAUSE_S))
            self.kill_one(waiting.pop() if waiting else self.chance.choice(kinds))
        self.saver.over.set()
        self.saver.join(timeout=30)

    def lost(self) -> list[str]:
        """Return the acknowledged saves that are not among the revisions, or stand with another content."""
        visitor = Visitor(self.started.await_ready())
        job, found, before = self.saver.job, {}, None
        while True:
            path = f"/api/jobs/{job}/revisions" + (f"/before/{before}" if before else "")
            page = visitor.call("GET", path)
            for line in page["revisions"]:
                document = visitor.call("GET", f"/api/jobs/{job}/revisions/{line['number']}")["document"]
                found[thing(document, "runs", "to-barn")["length_ft"]] = line["number"]
            if not page["older"]:
                return [key for key, feet in self.saver.acknowledged.items() if feet not in found]
            before = page["revisions"][-1]["number"]

    def close(self) -> None:
        """End everything and take its state away."""
        self.saver.over.set()
        self.started.end(signal.SIGTERM)
        self.started.log.close()
        self.cluster.stop("immediate")
        shutil.rmtree(self.state, ignore_errors=True)


KINDS = ("application", "worker", "database", "start command")


def main() -> None:
    """Kill for as long as is asked for, and print what was lost."""
    seconds = float(sys.argv[1]) if len(sys.argv) > 1 else 600.0
    seed = int(sys.argv[2]) if len(sys.argv) > 2 else int(time.time())
    print(f"seed {seed}", flush=True)
    killing = Killing(seed)
    try:
        killing.run(seconds, KINDS)
        lost = killing.lost()
        for kind, times in sorted(killing.took.items()):
            print(
                f"{kind}: killed {len(times)} times; saves again after {statistics.median(times):.1f} s, {max(times):.1f} s at most"
            )
        print(f"{len(killing.saver.acknowledged)} saves acknowledged, {len(lost)} lost")
    finally:
        killing.close()
    sys.exit(bool(lost))


if __name__ == "__main__":
    main()
