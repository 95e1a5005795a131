"""Watches whether the database answers: where it does not, requests are told so at once, also those that wait already."""

from __future__ import annotations

import os
import socket
from contextlib import suppress
from threading import Event, Lock, Thread
from typing import Any

from sqlalchemy import Engine, create_engine, event, text
from sqlalchemy.engine import URL
from sqlalchemy.exc import DBAPIError
from sqlalchemy.pool import NullPool

from nelvor.errors import StoreUnavailable

LOOK_EVERY_S = 2.0
ANSWERS_WITHIN_S = 3
TRIES = 2
"""A machine that is merely busy may let one try pass; two in a row are told."""

GONE = "The database does not answer. Your edits are kept in this browser and saved when it is back."


class DatabaseWatch:
    """Asks a database again and again over connections of its own, and knows which ones of an engine are open."""

    def __init__(self, engine: Engine, url: URL, every_s: float = LOOK_EVERY_S) -> None:
        self._probe = create_engine(
            url,
            poolclass=NullPool,
            connect_args={"connect_timeout": ANSWERS_WITHIN_S, "options": "-c statement_timeout=3s"},
        )
        self._every_s = every_s
        self._open: dict[int, Any] = {}
        self._lock = Lock()
        self._ending = Event()
        self.answers = True
        event.listen(engine, "connect", self._opened)
        event.listen(engine, "close", self._closed)
        self._thread = Thread(target=self._watch, name="database watch", daemon=True)
        self._thread.start()

    def require(self) -> None:
        """Let a request pass while the database answers.

        Raises:
            StoreUnavailable: it does not.
        """
        if not self.answers:
            raise StoreUnavailable(GONE)

    def close(self) -> None:
        """Watch no longer."""
        self._ending.set()
        self._thread.join()
        self._probe.dispose()

    def _opened(self, connection: Any, record: Any) -> None:
        with self._lock:
            self._open[id(connection)] = connection

    def _closed(self, connection: Any, record: Any) -> None:
        with self._lock:
            self._open.pop(id(connection), None)

    def _watch(self) -> None:
        while not self._ending.wait(self._every_s):
            self.answers = any(self._asked() for _ in range(TRIES))
            if not self.answers:
                self._break_off()

    def _asked(self) -> bool:
        try:
            with self._probe.connect() as connection:
                return bool(connection.scalar(text("select 1")))
        except DBAPIError:
            return False

    def _break_off(self) -> None:
        """End the open connections: whoever waits at one then learns that the database is away."""
        with self._lock:
            connections = list(self._open.values())
        for connection in connections:
            with suppress(Exception), socket.socket(fileno=os.dup(connection.fileno())) as open_one:
                open_one.shutdown(socket.SHUT_RDWR)
