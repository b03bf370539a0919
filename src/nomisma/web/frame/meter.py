"""How often somebody may ask: a count by key over some seconds, in one server process."""

import time
from threading import Lock

MOST_KEYS = 10_000


class Meter:
    """Lets a key pass `most` times in any stretch of `seconds`; what is longest ago is forgotten first.

    >>> meter = Meter(2, seconds=60)
    >>> [meter.lets("a", now=second) for second in (0.0, 1.0, 2.0, 61.0)], meter.lets("b", now=2.0)
    ([True, True, False, True], True)
    """

    def __init__(self, most: int, *, seconds: float) -> None:
        self.most, self.seconds = most, seconds
        self._passed: dict[str, list[float]] = {}
        self._lock = Lock()

    def lets(self, key: str, *, now: float | None = None) -> bool:
        """Whether it may pass now, which is then counted."""
        now = time.monotonic() if now is None else now
        with self._lock:
            recent = [at for at in self._passed.pop(key, ()) if at > now - self.seconds]
            if len(self._passed) >= MOST_KEYS:
                del self._passed[next(iter(self._passed))]
            passes = len(recent) < self.most
            self._passed[key] = [*recent, now] if passes else recent
            return passes
