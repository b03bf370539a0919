"""So many calculations of pages side by side, as of programs: the others wait for a slot, and not for long."""

import threading
from collections.abc import Iterator
from contextlib import contextmanager

from nomisma.core.errors import InputError
from nomisma.web.frame.visit import Visit

AT_ONCE = 2
"""Calculations worked side by side by one server process for pages, and as many for programs."""


class Slots:
    """Room for so many at once."""

    def __init__(self, count: int = AT_ONCE) -> None:
        self._free = threading.BoundedSemaphore(count)

    @contextmanager
    def slot(self, seconds: float) -> Iterator[None]:
        """One slot, waited for so many seconds at most. Raises InputError."""
        if not self._free.acquire(timeout=seconds):
            raise InputError("The shop’s computer is busy with other sums.", "What you typed is here: send it again.")
        try:
            yield
        finally:
            self._free.release()


@contextmanager
def calculating(visit: Visit) -> Iterator[None]:
    """A slot for whoever opened a page that calculates. Raises InputError."""
    state = visit.request.app.state
    with state.slots.slot(state.settings.calculation_seconds):
        yield
