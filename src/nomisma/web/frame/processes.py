"""Processes of a server's own for work that must stand in no reading's way, and may have to be ended."""

import multiprocessing
import os
import threading
import time
from collections.abc import Callable
from concurrent.futures import Future, ProcessPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from dataclasses import dataclass
from multiprocessing.process import BaseProcess
from queue import Empty, SimpleQueue
from typing import ParamSpec, TypeVar

from nomisma.core.errors import NomismaError

Result = TypeVar("Result")
Given = ParamSpec("Given")


class TookTooLong(NomismaError):
    """The work was given up, and its process ended."""


class NobodyWaits(NomismaError):
    """Whoever asked is gone: the work was ended, or not begun."""


LOOK_SECONDS = 0.25


@dataclass(frozen=True, slots=True)
class Patience:
    """How long an answer is worked at: so many seconds, and while whoever asked is not `gone`."""

    seconds: float
    gone: Callable[[], bool] = lambda: False


def _ends_with_its_server() -> None:
    """A process whose server was killed ends as well."""
    parent = multiprocessing.parent_process()

    def wait() -> None:
        if parent is not None:
            parent.join()
            os._exit(0)

    threading.Thread(target=wait, daemon=True).start()


class OwnProcesses:
    """So many processes, begun when they are first needed; each does one thing at a time, and the others wait their
    turn.

    `prepare` is run in each before its first work, which then has its whole time.
    """

    def __init__(self, count: int, prepare: Callable[[], object]) -> None:
        self._prepare = prepare
        self._free: SimpleQueue[ProcessPoolExecutor | None] = SimpleQueue()
        for _ in range(count):
            self._free.put(None)

    def run(
        self, patience: Patience, function: Callable[Given, Result], *args: Given.args, **more: Given.kwargs
    ) -> Result:
        """What a function answers. Raises TookTooLong after so many seconds of work, NobodyWaits; what it raises itself
        is raised here.
        """
        own = self._turn(patience)
        try:
            own = own or self._begun()
            return self._answer(patience, own.submit(function, *args, **more))
        except (TookTooLong, NobodyWaits, BrokenProcessPool) as error:
            self._end(own)
            own = None
            raise (
                TookTooLong("That took longer than it may.") if isinstance(error, BrokenProcessPool) else error
            ) from None
        finally:
            self._free.put(own)

    def _turn(self, patience: Patience) -> ProcessPoolExecutor | None:
        """The next process that is free, or room for one. Raises NobodyWaits."""
        while True:
            try:
                return self._free.get(timeout=LOOK_SECONDS)
            except Empty:
                if patience.gone():
                    raise NobodyWaits("Whoever asked is gone.") from None

    @staticmethod
    def _answer(patience: Patience, work: Future[Result]) -> Result:
        end = time.monotonic() + patience.seconds
        while True:
            try:
                return work.result(max(min(LOOK_SECONDS, end - time.monotonic()), 0))
            except TimeoutError:
                if work.done():  # what it raised itself
                    raise
                if time.monotonic() >= end:
                    raise TookTooLong("That took longer than it may.") from None
                if patience.gone():
                    raise NobodyWaits("Whoever asked is gone.") from None

    def _begun(self) -> ProcessPoolExecutor:
        own = ProcessPoolExecutor(1, mp_context=multiprocessing.get_context("spawn"), initializer=_ends_with_its_server)
        own.submit(self._prepare).result()
        return own

    @staticmethod
    def _end(own: ProcessPoolExecutor | None) -> None:
        """Kill its process: work that is given up holds no place."""
        processes: dict[int, BaseProcess] = (
            getattr(own, "_processes", None) or {}
        )  # Python has no other way before 3.14
        for process in list(processes.values()):
            process.kill()
        if own is not None:
            own.shutdown(wait=False, cancel_futures=True)
