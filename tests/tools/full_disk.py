"""Fills the disk on which a started application keeps its database, then gives it room again: nothing acknowledged is lost.

``./test --run tests.tools.full_disk`` (as root: it mounts a small file system that is seen by this process alone). It
is among the tests wherever a file system can be mounted; each step is printed with its time.
"""

from __future__ import annotations

import http.client
import json
import os
import shutil
import signal
import subprocess
import sys
import tempfile
import time
import urllib.error
import uuid
from collections import Counter
from contextlib import ExitStack
from dataclasses import dataclass, field
from pathlib import Path

from tests.support.jobs import thing
from tests.tools.test_running import Started, Visitor, lent_state
from tools.cluster import Cluster, free_port

SIZE_MB = 160
SAVES_BEFORE = 20
MOST_SAVES, REFUSALS = 600, 12
DEAD_FOR_S, BACK_WITHIN_S = 8.0, 120.0
INSIDE = "--inside"


def can_mount() -> bool:
    """Tell whether a file system of one's own can be mounted here."""
    tried = ["unshare", "--mount", "sh", "-c", "mount -t tmpfs -o size=1m none /mnt"]
    return bool(shutil.which("unshare")) and subprocess.run(tried, capture_output=True, check=False).returncode == 0


def run_apart() -> subprocess.CompletedProcess[str]:
    """Run this module in a process that sees a mounted file system of its own; return what it printed."""
    command = ["unshare", "--mount", sys.executable, "-m", __spec__.name, INSIDE]
    return subprocess.run(command, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True, check=False)


def tell(text: str) -> None:
    """Print a step with the time of the day."""
    print(f"{time.strftime('%H:%M:%S')} {text}", flush=True)


@dataclass
class Saves:
    """One length of a job saved after another, each again until it is acknowledged, as the interface does."""

    visitor: Visitor
    job: str
    head: int
    acknowledged: dict[int, float] = field(default_factory=dict)
    save_id: str = ""

    def save(self) -> str:
        """Save the next length; return "" where it was acknowledged, else what was told."""
        self.save_id = self.save_id or str(uuid.uuid4())
        feet = 50.0 + len(self.acknowledged) / 8
        put = {"op": "put", "list": "runs", "id": "to-barn", "field": "length_ft", "value": feet}
        summary = "A length as it was measured on site. " * 4
        body = {"base": self.head, "save_id": self.save_id, "summary": summary, "operations": [put]}
        try:
            self.head = self.visitor.call("POST", f"/api/jobs/{self.job}/revisions", body)["number"]
        except urllib.error.HTTPError as refused:
            return f"{refused.code} {json.load(refused)['message']}"
        except (OSError, http.client.HTTPException) as failure:
            return repr(failure)
        self.acknowledged[self.head], self.save_id = feet, ""
        return ""

    def missing(self) -> list[int]:
        """Return the acknowledged revisions that do not hold what was saved."""
        return [number for number, feet in self.acknowledged.items() if self._kept(number) != feet]

    def _kept(self, number: int) -> float:
        document = self.visitor.call("GET", f"/api/jobs/{self.job}/revisions/{number}")["document"]
        return float(thing(document, "runs", "to-barn")["length_ft"])


def fill(ballast: Path) -> None:
    """Write a file until nothing more goes in."""
    piece = bytes(1 << 16)
    with ballast.open("wb", buffering=0) as file:
        try:
            while True:
                file.write(piece)
        except OSError:
            tell(f"ballast of {file.tell() / 1e6:.0f} MB: the disk is full")


def refused(saves: Saves) -> Counter[str]:
    """Save on a full disk until it is told some times; return what was told instead of an acknowledgement."""
    told: Counter[str] = Counter()
    for _ in range(MOST_SAVES):
        if fault := saves.save():
            told[fault] += 1
            if told.total() == REFUSALS:
                break
    return told


def inside() -> None:
    """Mount, start, fill, look, make room, look again.

    Raises:
        AssertionError: something acknowledged is lost, a refusal was not clear, or it does not come back.
    """
    with ExitStack() as last:
        home = Path(tempfile.mkdtemp(prefix="nelvor-test-disk-", dir="/tmp"))
        last.callback(shutil.rmtree, home, True)
        subprocess.run(["mount", "-t", "tmpfs", "-o", f"size={SIZE_MB}m,mode=755", "none", str(home)], check=True)
        last.callback(subprocess.run, ["umount", "-l", str(home)], check=False)
        state = lent_state(home)
        cluster = Cluster(state / "postgres")
        last.callback(cluster.stop, "immediate")
        started = Started(state, free_port())
        last.callback(lambda: started.process.poll() is None and started.end(signal.SIGTERM))
        visitor = Visitor(started.await_ready())
        found = next(item for item in visitor.call("GET", "/api/jobs")["jobs"] if item["name"].startswith("Orchard"))
        saves = Saves(visitor, found["id"], visitor.call("GET", f"/api/jobs/{found['id']}")["head"])
        for _ in range(SAVES_BEFORE):
            assert not saves.save()
        tell(f"{len(saves.acknowledged)} saves acknowledged")
        fill(home / "ballast")
        while_full(saves, started, cluster)
        (home / "ballast").unlink()
        with_room_again(saves, started)
        print(started.output()[-3000:])


def while_full(saves: Saves, started: Started, cluster: Cluster) -> None:
    """Save, read, and lose the database on a full disk: each refusal is clear, and the start command goes on."""
    told = refused(saves)
    tell(f"{len(saves.acknowledged)} saves acknowledged in all; then: {dict(told)}")
    assert told, "the disk was never full"
    assert all(text.startswith("503 ") for text in told), told
    read = saves.visitor.call("GET", f"/api/jobs/{saves.job}/revisions/{saves.head}")
    tell(f"read while it is full: revision {read['number']}")
    os.kill(cluster.server_pid(), signal.SIGKILL)
    tell(f"the database killed while it is full: {saves.save()}")
    time.sleep(DEAD_FOR_S)
    assert started.process.poll() is None, started.output()[-2000:]


def with_room_again(saves: Saves, started: Started) -> None:
    """Save again as soon as there is room; all that was acknowledged is there."""
    began = time.monotonic()
    while fault := saves.save():
        assert time.monotonic() - began < BACK_WITHIN_S, f"{fault}: {started.output()[-2000:]}"
        time.sleep(0.2)
    tell(f"room again: saved after {time.monotonic() - began:.1f} s")
    assert not saves.missing(), saves.missing()
    tell(f"all {len(saves.acknowledged)} acknowledged saves are there")


def main() -> None:
    """Print each step; the status tells whether all was as it should be."""
    if INSIDE in sys.argv:
        inside()
        return
    if not can_mount():
        sys.exit("No file system can be mounted here: run it as root.")
    done = run_apart()
    print(done.stdout)
    sys.exit(done.returncode)


if __name__ == "__main__":
    main()
