"""``./start``: set everything up, then run database and server until Ctrl-C."""

from __future__ import annotations

import argparse
import ctypes
import fcntl
import json
import os
import secrets
import signal
import socket
import subprocess
import sys
import time
import urllib.error
import urllib.request
from collections import deque
from dataclasses import dataclass, field
from pathlib import Path
from types import FrameType
from typing import TextIO

from tools import environment, packages
from tools.cluster import APP_ROLE, Cluster, persistent_cluster
from tools.layout import ROOT, STATE, venv_python
from tools.progress import SetupError, main_guard, run, say, side_by_side, step

DEFAULT_PORT = 8765
WAITING_CONNECTIONS = 512
PORT_FREED_WITHIN_S = 10.0
HEALTH_TIMEOUT_S = 40
WATCH_EVERY_S = 1.0
DEATHS_WITHIN_S, MOST_DEATHS = 60.0, 5
BACKUP_EVERY_S, BACKUP_PAUSE_S = 3600.0, 5.0
"""How often it is looked whether the backup of this day is there, and how soon again where it could not be written."""

DATABASE_PAUSE_S, LONGEST_DATABASE_PAUSE_S = 1.0, 30.0
"""How soon a database that does not start is tried again, and how long at most (its disk may be full)."""

DIE_WITH_PARENT = 1  # PR_SET_PDEATHSIG of prctl(2)
DATABASE = "nelvor"


def _options() -> argparse.Namespace:
    parser = argparse.ArgumentParser(prog="./start", description="Start Nelvor on this machine.")
    parser.add_argument("--port", type=int, help=f"port on loopback (default {DEFAULT_PORT}, or a free one)")
    parser.add_argument("--no-demo", action="store_true", help="no demo data and no one-click sign-in")
    parser.add_argument(
        "--show-database", action="store_true", help="print the database's address for ./nelvor user add"
    )
    return parser.parse_args()


def _secret_key() -> str:
    path = STATE / "secret"
    if not path.exists():
        path.touch(mode=0o600)
        path.write_text(secrets.token_urlsafe(32))
    return path.read_text()


def _set_up() -> None:
    say("Setting up")
    side_by_side(lambda: packages.ensure(for_tests=False), _python_and_interface)


def _python_and_interface() -> None:
    environment.ensure_python("app")
    environment.ensure_interface()


def _only_one() -> TextIO:
    """Hold the lock of a running instance.

    Raises:
        SetupError: another ``./start`` of this checkout runs; the message tells where.
    """
    STATE.mkdir(parents=True, exist_ok=True)
    lock = (STATE / "start.lock").open("a+")
    try:
        fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        lock.seek(0)
        raise SetupError(f"Nelvor already runs here: {lock.read() or 'it is still starting'}") from None
    return lock


def _tell_where(lock: TextIO, text: str) -> None:
    lock.seek(0)
    lock.truncate()
    lock.write(text)
    lock.flush()


def _environment(url: str, demo: bool) -> dict[str, str]:
    return {
        **os.environ,
        "NELVOR_DATABASE_URL": url,
        "NELVOR_SECRET_KEY": _secret_key(),
        "NELVOR_DEMO": "1" if demo else "0",
        "PYTHONPATH": str(ROOT / "src"),
        "PYTHONDONTWRITEBYTECODE": "1",
        "NELVOR_LOG": os.environ.get("NELVOR_LOG", str(STATE / "server.log")),
    }


def _prepare_database(env: dict[str, str], cluster: Cluster | None) -> None:
    command: list[str | Path] = [venv_python(), "-m", "nelvor.store.prepare"]
    if cluster is not None:  # its owner makes the database and the role that the server works by
        command += ["--create", DATABASE]
        env = {
            **env,
            "NELVOR_OWNER_DATABASE_URL": cluster.url(DATABASE),
            "NELVOR_APP_PASSWORD": cluster.app_password(),
        }
    with step("Database migrated"):
        run(command, cwd=ROOT, env=env)


def _die_with_parent() -> None:
    ctypes.CDLL(None).prctl(DIE_WITH_PARENT, signal.SIGTERM)
    os.setpgrp()  # Ctrl-C reaches this process first, which then stops the server in order


def listen(port: int, patient: bool = False) -> socket.socket:
    """Return a socket that listens on a loopback port: requests wait there also while no server runs.

    A ``patient`` one waits a little for a server of before that is still ending.

    Raises:
        SetupError: another program has the port.
    """
    listening = socket.socket()
    listening.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    deadline = time.monotonic() + (PORT_FREED_WITHIN_S if patient else 0)
    while True:
        try:
            listening.bind(("127.0.0.1", port))
            listening.listen(WAITING_CONNECTIONS)
            return listening
        except OSError:
            if time.monotonic() > deadline:
                listening.close()
                raise SetupError(f"Another program has port {port}. Try --port with another number.") from None
            time.sleep(0.1)


def serve(env: dict[str, str], listening: socket.socket) -> subprocess.Popen[bytes]:
    """Start the web server on a socket that listens already."""
    command = [
        str(venv_python()),
        "-m",
        "nelvor.web.serve",
        str(listening.fileno()),
    ]
    return subprocess.Popen(
        command,
        cwd=ROOT,
        env=env,
        stdin=subprocess.DEVNULL,
        pass_fds=[listening.fileno()],
        preexec_fn=_die_with_parent,
    )


def _await_health(server: subprocess.Popen[bytes], port: int) -> None:
    deadline = time.monotonic() + HEALTH_TIMEOUT_S
    while time.monotonic() < deadline:
        if server.poll() is not None:
            raise SetupError(f"The server did not start on port {port}.")
        try:
            with urllib.request.urlopen(f"http://127.0.0.1:{port}/api/health", timeout=2) as response:
                if json.load(response)["ok"]:
                    return
        except (urllib.error.URLError, OSError):
            time.sleep(0.1)
    raise SetupError("The server did not answer in time.")


def _stop(number: int, frame: FrameType | None) -> None:
    raise KeyboardInterrupt


def _listen(wanted: int | None) -> socket.socket:
    if wanted is not None:
        return listen(wanted, patient=True)
    try:
        return listen(DEFAULT_PORT)
    except SetupError:
        return listen(0)


def main() -> int:
    """Set up, serve, and stop everything in order on Ctrl-C or a termination signal."""
    options = _options()
    lock = _only_one()
    for number in (signal.SIGTERM, signal.SIGINT):
        signal.signal(number, _stop)
    cluster: Cluster | None = None
    server: subprocess.Popen[bytes] | None = None
    try:
        listening = _listen(options.port)
        _set_up()
        url = os.environ.get("NELVOR_DATABASE_URL")
        if not url:
            cluster = persistent_cluster()
            with step("Database running"):
                cluster.create()
                cluster.start()
            url = cluster.url(DATABASE, APP_ROLE)
        _prepare_database(_environment(url, not options.no_demo), cluster)
        port = listening.getsockname()[1]
        with step("Server running"):
            env = _environment(url, not options.no_demo)
            server = serve(env, listening)
            _await_health(server, port)
        address = f"http://127.0.0.1:{port}/"
        _tell_where(lock, address)
        if options.show_database:
            say(f"\nNELVOR_DATABASE_URL={url}")
            if cluster is not None:
                say(f"NELVOR_OWNER_DATABASE_URL={cluster.url(DATABASE)}")
        say(f"\nNelvor is ready: {address}\nCtrl-C stops it.")
        watch = Watch(env, listening, server, cluster)
        try:
            return watch.until_stopped()
        finally:
            server = watch.server
    except KeyboardInterrupt:
        say("\nStopping")
        return 0
    finally:
        signal.signal(signal.SIGINT, signal.SIG_IGN)
        _finish(server, cluster)


@dataclass
class Watch:
    """Keeps a started server going: what of ours dies is started again, and each day has its backup."""

    env: dict[str, str]
    listening: socket.socket
    server: subprocess.Popen[bytes]
    cluster: Cluster | None
    backup: subprocess.Popen[bytes] | None = None
    next_backup: float = 0.0
    backup_pause: float = BACKUP_PAUSE_S
    next_database: float = 0.0
    database_pause: float = DATABASE_PAUSE_S
    deaths: deque[float] = field(default_factory=deque)

    def until_stopped(self) -> int:
        """Watch until Ctrl-C; return the status of a server that dies again and again."""
        while True:
            self._database()
            self._back_up()
            try:
                status = self.server.wait(timeout=WATCH_EVERY_S)
            except subprocess.TimeoutExpired:
                continue
            if not self._server_died():
                return status or 1

    def _database(self) -> None:
        """Start the database again where it stopped; one that does not start is tried again, with growing pauses."""
        if self.cluster is None or time.monotonic() < self.next_database or self.cluster.is_running():
            return
        say("The database stopped; starting it again.")
        try:
            self.cluster.start()
            self.database_pause = DATABASE_PAUSE_S
        except (SetupError, OSError) as failure:
            say(f"It is tried again in {self.database_pause:.0f} s: {failure}")
            self.next_database = time.monotonic() + self.database_pause
            self.database_pause = min(2 * self.database_pause, LONGEST_DATABASE_PAUSE_S)

    def _server_died(self) -> bool:
        """Start the server again; tell whether that is still worth it."""
        now = time.monotonic()
        self.deaths.append(now)
        while self.deaths and self.deaths[0] < now - DEATHS_WITHIN_S:
            self.deaths.popleft()
        if len(self.deaths) > MOST_DEATHS:
            say(f"The server died {len(self.deaths)} times within a minute; giving up.")
            return False
        say("The server stopped; starting it again.")
        self.server = serve(self.env, self.listening)
        return True

    def _back_up(self) -> None:
        """Write the backup of the day, beside everything else, where there is none yet."""
        if self.backup is not None:
            status = self.backup.poll()
            if status is None:
                return
            if status != 0:
                say("The backup of today was not written; it is tried again.")
                self.next_backup = time.monotonic() + self.backup_pause
                self.backup_pause = min(2 * self.backup_pause, BACKUP_EVERY_S)
            self.backup = None
        if time.monotonic() >= self.next_backup:
            self.next_backup = time.monotonic() + BACKUP_EVERY_S
            command = [str(venv_python()), "-m", "nelvor.store.backup", "--nightly", str(STATE / "backups")]
            self.backup = subprocess.Popen(
                command, cwd=ROOT, env=self.env, stdin=subprocess.DEVNULL, preexec_fn=_die_with_parent
            )


def _finish(server: subprocess.Popen[bytes] | None, cluster: Cluster | None) -> None:
    if server is not None and server.poll() is None:
        server.terminate()
        server.wait(timeout=15)
    if cluster is not None:
        cluster.stop()
    say("Stopped.")


if __name__ == "__main__":
    sys.path.insert(0, str(Path(__file__).parents[1]))
    main_guard(main)
