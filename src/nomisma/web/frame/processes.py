"""Processes of a server's own for work that must stand in no reading's way, and may have to be ended."""

import multiprocessing
import os
import threading
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from multiprocessing.process import BaseProcess
from queue import SimpleQueue
from typing import ParamSpec, TypeVar

from nomisma.core.errors import NomismaError

Result = TypeVar("Result")
Given = ParamSpec("Given")


class TookTooLong(NomismaError):
    """The work was given up, and its process ended."""


def _ends_with_its_server() -> None:
    """A process whose server was killed ends as well."""
    parent = multiprocessing.parent_process()

    def wait() -> None:
        if parent is not None:
            parent.join()
            os._exit(0)

    threading.Thread(target=wait, daemon=True).start()


class OwnProcesses:
    """So many processes, begun when they are first needed; each does one thing at a time, and the others wait their turn.

    `prepare` is run in each before its first work, which then has its whole time.
    """

    def __init__(self, count: int, prepare: Callable[[], object]) -> None:
        self._prepare = prepare
        self._free: SimpleQueue[ProcessPoolExecutor | None] = SimpleQueue()
        for _ in range(count):
            self._free.put(None)

    def run(self, seconds: float, function: Callable[Given, Result], *args: Given.args, **more: Given.kwargs) -> Result:
        """What a function answers. Raises TookTooLong after so many seconds of work; what it raises itself is raised here."""
        own = self._free.get()
        try:
            own = own or self._begun()
            return own.submit(function, *args, **more).result(seconds)
        except (TimeoutError, BrokenProcessPool):
            self._end(own)
            own = None
            raise TookTooLong("That took longer than it may.") from None
        finally:
            self._free.put(own)

    def _begun(self) -> ProcessPoolExecutor:
        own = ProcessPoolExecutor(1, mp_context=multiprocessing.get_context("spawn"), initializer=_ends_with_its_server)
        own.submit(self._prepare).result()
        return own

    @staticmethod
    def _end(own: ProcessPoolExecutor | None) -> None:
        """Kill its process: work that is given up holds no place."""
        processes: dict[int, BaseProcess] = getattr(own, "_processes", None) or {}  # Python has no other way before 3.14
        for process in list(processes.values()):
            process.kill()
        if own is not None:
            own.shutdown(wait=False, cancel_futures=True)
