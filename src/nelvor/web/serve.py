"""The web server of the application: one process that reads requests whole before it spends a thread on them.

Run by the start command: ``python -m nelvor.web.serve FD``, with the number of a socket that listens already. Requests
that come while no server runs wait at that socket. What is heavy is done by the processes of the pool.
"""

from __future__ import annotations

import gc
import signal
import socket
import sys
from types import FrameType
from typing import cast

from waitress.adjustments import Adjustments
from waitress.channel import HTTPChannel
from waitress.server import TcpWSGIServer
from waitress.task import ThreadedTaskDispatcher

from nelvor.exchange.job_archive import LARGEST_ARCHIVE_BYTES
from nelvor.pool.line import MOST_WAITING
from nelvor.web.app import ROOM_AROUND_DOCUMENT_BYTES, close, from_environment
from nelvor.web.request_log import configure

THREADS = MOST_WAITING + 28
"""Threads that wait for the pool cost little; so many are left for all else when the line is full."""

MOST_CONNECTIONS = 1000
LARGEST_HEAD_BYTES = 64 * 1024
QUIET_S = 75
WHOLE_REQUEST_WITHIN_S = 30.0
LOOK_EVERY_S = 5


LOOK_FOR_RINGS = (20_000, 50, 1_000_000)
LOOK_FOR_OLD_RINGS_S = 900
"""Looking for garbage that holds itself among all that is old stops every thread: it is done a few times an hour."""


class Channel(HTTPChannel):
    """A connection that remembers since when it reads the request that it reads."""

    reading: tuple[object, float] | None = None

    def is_slow(self, now: float) -> bool:
        """Tell whether its request has not come whole within its time, however busily the other side sends."""
        if self.request is None:
            self.reading = None
        elif self.reading is None or self.reading[0] is not self.request:
            self.reading = self.request, now
        return self.reading is not None and now - self.reading[1] > WHOLE_REQUEST_WITHIN_S


class Server(TcpWSGIServer):
    """Ends connections that are quiet for too long, and those whose request does not come."""

    channel_class = Channel
    _looked_for_rings = 0

    def maintenance(self, now: int) -> None:
        """Look at all connections; called every few seconds."""
        super().maintenance(now)
        if now - self._looked_for_rings > LOOK_FOR_OLD_RINGS_S:
            self._looked_for_rings = now
            gc.collect()
        channels = cast(dict[int, Channel], self.active_channels)
        for channel in list(channels.values()):
            if channel.is_slow(now):
                channel.will_close = True


def _stop(number: int, frame: FrameType | None) -> None:
    raise SystemExit(0)


def main() -> None:
    """Serve on a socket that listens already, until the process is told to end."""
    configure()
    signal.signal(signal.SIGTERM, _stop)
    listening = socket.socket(fileno=int(sys.argv[1]))
    application = from_environment()
    gc.set_threshold(*LOOK_FOR_RINGS)
    limits = Adjustments(
        sockets=[listening],
        threads=THREADS,
        connection_limit=MOST_CONNECTIONS,
        channel_timeout=QUIET_S,
        cleanup_interval=LOOK_EVERY_S,
        max_request_header_size=LARGEST_HEAD_BYTES,
        max_request_body_size=LARGEST_ARCHIVE_BYTES + ROOM_AROUND_DOCUMENT_BYTES,
        asyncore_use_poll=True,
        ident=None,
    )
    threads = ThreadedTaskDispatcher()
    threads.set_thread_count(THREADS)
    where = (listening.family, listening.type, listening.proto, listening.getsockname())
    server = Server(application, {}, True, listening, threads, limits, bind_socket=False, sockinfo=where)
    server.run()
    close(application)


if __name__ == "__main__":
    main()
