"""The pool: a line, and a thread for each worker process that hands it one question after another."""

from __future__ import annotations

import importlib
import os
import socket
import subprocess
import sys
from concurrent.futures import TimeoutError as NotYet
from multiprocessing.connection import Connection
from threading import Lock, Thread
from time import monotonic

from nelvor.errors import Busy, TookTooLong
from nelvor.pool.line import LONGEST_WAIT_S, SLOW_WORKER, Line
from nelvor.pool.question import Done, Outcome, Question, Ready, Told, Work

INTERRUPTED = "The check was interrupted; trying again in a moment."
ROOM_FOR_THE_ANSWER_S = 5.0
READY_WITHIN_S = 60.0
LESS_URGENT, LEAST_URGENT = 5, 15
"""How much more polite workers are than the server and the database: a save goes before a check, that before a slow one."""


def workers_here() -> int:
    """Return how many workers suit this machine: one for each processor, and one that is left for what is quick."""
    return (os.cpu_count() or 1) + 1


class Pool:
    """Worker processes that answer questions with ``answering``, a function named as ``module:function``."""

    def __init__(self, answering: str, workers: int) -> None:
        self._answering = answering
        self.line = Line(workers)
        self._processes: list[Process | None] = [None] * workers
        self._threads = [Thread(target=self._work, args=(number,), daemon=True) for number in range(workers)]
        for thread in self._threads:
            thread.start()

    def begin(self, question: Question, asker: str) -> Work:
        """Take a question into the line.

        Raises:
            Busy: too much waits.
        """
        work = Work(question, asker)
        self.line.join(work)
        return work

    def ask(self, question: Question, asker: str) -> Told:
        """Return the answer to a question, waiting for it.

        Raises:
            Busy: too much waits, or the worker was interrupted.
            TookTooLong: the work did not end within its limit.
            NelvorError: whatever the answer raises.
        """
        return answer_of(self.begin(question, asker), LONGEST_WAIT_S + question.limit_s + ROOM_FOR_THE_ANSWER_S)

    @property
    def ready(self) -> bool:
        """Tell whether at least one worker can take a question now or when it is done with what it does."""
        return any(process is not None and process.lives and process.ready for process in self._processes)

    @property
    def processes(self) -> list[int]:
        """The ids of the workers that live."""
        return [process.id for process in self._processes if process is not None]

    def close(self) -> None:
        """End the workers; what is under way is interrupted."""
        for work in self.line.close():
            work.answer.set_exception(Busy(INTERRUPTED))
        for process in self._processes:
            if process is not None:
                process.end()
        for thread in self._threads:
            thread.join()

    def _work(self, number: int) -> None:
        less_urgent = LEAST_URGENT if number == SLOW_WORKER else LESS_URGENT
        process = self._processes[number] = Process(self._answering, less_urgent)
        process.await_ready()
        while (work := self.line.next(number)) is not None:
            try:
                outcome = process.answer(work)
            except Exception as failure:  # whatever it is, it belongs to whoever waits for this answer
                outcome = Outcome(failure, monotonic() - work.asked_at)
            self.line.ended(work, outcome.seconds)
            if isinstance(outcome.answer, Told):
                work.answer.set_result(outcome.answer)
            else:
                work.answer.set_exception(outcome.answer)
            if not process.lives and not self.line.closed:
                process = self._processes[number] = Process(self._answering, less_urgent)
                process.await_ready()
        process.end()


class Process:
    """One worker process and the socket to it."""

    def __init__(self, answering: str, less_urgent: int) -> None:
        ours, theirs = socket.socketpair()
        with theirs:
            command = [sys.executable, "-m", "nelvor.pool.worker", str(theirs.fileno()), answering, str(less_urgent)]
            self._process = subprocess.Popen(command, stdin=subprocess.DEVNULL, pass_fds=[theirs.fileno()])
        self._pipe = Connection(ours.detach())
        self.id = self._process.pid
        self.lives = True
        self.ready = False
        self._ending = Lock()

    def await_ready(self) -> None:
        """Wait until the worker has read all that it needs; one that cannot ends, and another one is tried later."""
        try:
            self.ready = self._pipe.poll(READY_WITHIN_S) and isinstance(self._pipe.recv(), Ready)
        except (EOFError, OSError):
            self.ready = False

    def answer(self, work: Work) -> Outcome:
        """Return what comes of a question, taking down how far it comes meanwhile.

        Raises:
            TookTooLong: it was ended with its worker.
            Busy: the worker died.
        """
        until = monotonic() + work.question.limit_s
        try:
            self._pipe.send(work.question)
            while self._pipe.poll(max(0.0, until - monotonic())):
                told: Outcome | Done = self._pipe.recv()
                if isinstance(told, Outcome):
                    return told
                work.done, work.parts = told.done, told.parts
        except (EOFError, OSError):
            self.end()
            raise Busy(INTERRUPTED) from None
        except BaseException:  # what was read half leaves the socket of no use
            self.end()
            raise
        self.end()
        raise TookTooLong(work.question.name, work.question.limit_s)

    def end(self) -> None:
        """End the process, whatever it does."""
        with self._ending:
            if self.lives:
                self.lives = False
                self._process.kill()
                self._process.wait()
                self._pipe.close()


class InPlace:
    """Answers where it is asked, one question after another: for tests, and for tools that need no server."""

    _one_at_a_time = Lock()

    def __init__(self, answering: str) -> None:
        module, _, function = answering.partition(":")
        self._answering = getattr(importlib.import_module(module), function)
        self.ready = True
        self.line = Line(1)

    def begin(self, question: Question, asker: str) -> Work:
        """Answer a question; its work has ended."""
        work = Work(question, asker)

        def progress(done: int, parts: int) -> None:
            work.done, work.parts = done, parts

        with InPlace._one_at_a_time:
            try:
                work.answer.set_result(self._answering(question, progress))
            except Exception as failure:  # it belongs to whoever waits for this answer
                work.answer.set_exception(failure)
        return work

    def ask(self, question: Question, asker: str) -> Told:
        """Return the answer to a question."""
        return answer_of(self.begin(question, asker), 0)

    def close(self) -> None:
        """Nothing is open."""


def answer_of(work: Work, within_s: float) -> Told:
    """Return the answer to a piece of work that is under way.

    Raises:
        Busy: it does not come in time.
        NelvorError: whatever the answer raises.
    """
    try:
        return work.answer.result(timeout=within_s)
    except NotYet:
        raise Busy(INTERRUPTED) from None
