"""A simulated gauge: a true size, or several in turn as an indicator goes round; noise, lost answers, repeats.

It sends every reading until it is acknowledged.
"""

import json
import random
import socket
import time
from collections.abc import Iterator
from contextlib import suppress
from dataclasses import dataclass, field
from decimal import Decimal
from uuid import uuid4

from nomisma.core.quantity.length import Unit, plain, round_to
from nomisma.devices.protocol import PROTOCOL

DECIMALS: dict[Unit, int] = {"in": 5, "mm": 4}


@dataclass
class SimulatedGauge:
    """Speaks the gauge protocol by its `token`. `size` and `noise` (one standard deviation) are in `unit`; `dropouts`
    and `duplicates` are the share of readings whose connection breaks before the answer, or that are sent twice.
    `around`: sizes taken in turn instead.
    """

    name: str
    size: Decimal
    unit: Unit = "in"
    noise: Decimal = Decimal(0)
    dropouts: float = 0.0
    duplicates: float = 0.0
    token: str = ""
    job: int | None = None
    host: str = "127.0.0.1"
    port: int = 8471
    seed: int | None = None
    run: str = field(default_factory=lambda: uuid4().hex)
    patience_seconds: float = 60.0
    around: tuple[Decimal, ...] = ()
    number: int = 0

    def __post_init__(self) -> None:
        self._chance = random.Random(self.seed)
        self._socket: socket.socket | None = None

    def __enter__(self) -> "SimulatedGauge":
        return self

    def __exit__(self, *_: object) -> None:
        self.close()

    def readings(self, count: int) -> Iterator[tuple[int, str]]:
        """Number and size of each reading, once it has been acknowledged. Raises ConnectionError when patience ends."""
        for _ in range(count):
            self.number += 1
            true = self.around[(self.number - 1) % len(self.around)] if self.around else self.size
            size = f"{plain(round_to(true + self._noise(), DECIMALS[self.unit]))} {self.unit}"
            self.send(self.number, size)
            yield self.number, size

    def _noise(self) -> Decimal:
        return Decimal(repr(self._chance.gauss(0.0, 1.0))) * self.noise

    def send(self, number: int, size: str) -> None:
        """Send one reading until it is acknowledged. Raises ConnectionError, ValueError where it is refused
        for good.
        """
        self._deliver(number, {"protocol": PROTOCOL, "size": size})

    def _deliver(self, number: int, what: dict[str, object]) -> None:
        message = {"gauge": self.name, "token": self.token, "run": self.run, "number": number, **what}
        if self.job is not None:
            message["job"] = self.job
        line = (json.dumps(message) + "\n").encode()
        end = time.monotonic() + self.patience_seconds
        twice = self._chance.random() < self.duplicates
        drops = self._chance.random() < self.dropouts
        while True:
            answer = self._try(line, drop=drops)
            drops = False
            if answer is not None and answer.get("ok"):
                break
            if answer is not None and not answer.get("again"):
                raise ValueError(str(answer.get("error", "refused")))
            if time.monotonic() > end:
                raise ConnectionError(f"reading {number} was not acknowledged for {self.patience_seconds:.0f} s")
            time.sleep(0.05)
        if twice:
            self._try(line, drop=False)

    def _try(self, line: bytes, *, drop: bool) -> dict[str, object] | None:
        """One try; none where the line broke. Where it is to drop, the answer is never read."""
        try:
            connection = self._connected()
            connection.sendall(line)
            if drop:
                self.close()
                return None
            found: dict[str, object] = json.loads(self._answer(connection))
            return found
        except (OSError, ValueError):
            self.close()
            return None

    def _connected(self) -> socket.socket:
        if self._socket is None:
            self._socket = socket.create_connection((self.host, self.port), timeout=5)
        return self._socket

    def _answer(self, connection: socket.socket) -> bytes:
        found = b""
        while not found.endswith(b"\n"):
            part = connection.recv(4096)
            if not part:
                raise ConnectionResetError("the listener went away")
            found += part
        return found

    def close(self) -> None:
        """Hang up."""
        if self._socket is not None:
            with suppress(OSError):
                self._socket.close()
            self._socket = None
