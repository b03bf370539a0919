"""A simulated readout: slides that are moved by a script or by keys, whose scales are a little out and jitter."""

import re
import time
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from decimal import Decimal
from typing import Literal

from nomisma.core.errors import UnreadableLength
from nomisma.core.number import number_from
from nomisma.core.quantity.length import plain, round_to
from nomisma.core.quantity.writing import parse_length
from nomisma.devices.protocol import READOUT_PROTOCOL, Axis
from nomisma.devices.simulated import DECIMALS, SimulatedGauge

_MOVE = re.compile(r"(?P<axis>[xz])\s+(?P<to>\S+(?:\s*(?:mm|in))?)(?:\s+in\s+(?P<seconds>[0-9.]+))?", re.IGNORECASE)
_WAIT = re.compile(r"wait\s+(?P<seconds>[0-9.]+)", re.IGNORECASE)
HOW = "Write it like x 25.0 mm in 5; wait 2; z -10 mm in 3."
KEYS: dict[str, tuple[Axis, int]] = {"w": ("x", -1), "s": ("x", 1), "a": ("z", -1), "d": ("z", 1)}
"""Keys that move a slide by a step: w and s the cross-slide in and out, a and d the carriage to the chuck and away."""


@dataclass(frozen=True)
class Move:
    """One line of a script: a slide to a figure (mm) in so many seconds, or a pause (no axis)."""

    seconds: float
    axis: Axis | Literal[""] = ""
    to_mm: Decimal = Decimal(0)


def script_moves(text: str, unit: Literal["in", "mm"] = "mm") -> list[Move]:
    """The moves of a script, with ; between. Raises UnreadableLength, OutOfRange.

    >>> [(one.axis, str(one.to_mm), one.seconds) for one in script_moves("x 25.0 in 2; wait 1; z -10")]
    [('x', '25.0', 2.0), ('', '0', 1.0), ('z', '-10', 0.0)]
    """
    found = []
    for part in filter(None, (one.strip() for one in text.split(";"))):
        if match := _WAIT.fullmatch(part):
            found.append(Move(float(number_from(match["seconds"], least=0, most=3600))))
        elif match := _MOVE.fullmatch(part):
            seconds = float(number_from(match["seconds"] or "0", least=0, most=3600))
            axis: Axis = "x" if match["axis"].lower() == "x" else "z"
            found.append(Move(seconds, axis, parse_length(match["to"], unit, positive=False).mm))
        else:
            raise UnreadableLength(f"“{part[:40]}” is no move of a slide.", HOW, field="script", value=part[:80])
    return found


@dataclass
class SimulatedReadout(SimulatedGauge):
    """Speaks the readout protocol. `slides_mm`: where the slides truly stand, x as it reads; `scale_error_ppm`: what
    the scales read too much, parts per million; `noise` (one standard deviation) in the unit of the readout;
    `a_second`: how often it sends.
    """

    slides_mm: dict[Axis, Decimal] = field(default_factory=lambda: {"x": Decimal(0), "z": Decimal(0)})
    scale_error_ppm: Decimal = Decimal(0)
    x_reads: Literal["diameter", "radius"] = "diameter"
    a_second: float = 8.0

    def shown(self) -> dict[Axis, str]:
        """What the readout shows now, with its unit."""
        per = Decimal("25.4") if self.unit == "in" else Decimal(1)
        share = 1 + self.scale_error_ppm / 1_000_000
        return {
            axis: f"{plain(round_to(mm * share / per + self._noise(), DECIMALS[self.unit] - 1))} {self.unit}"
            for axis, mm in self.slides_mm.items()
        }

    def tell(self) -> dict[Axis, str]:
        """Send where the slides stand now, and what was sent. Raises ConnectionError, ValueError."""
        self.number += 1
        shown = self.shown()
        self._deliver(
            self.number,
            {"protocol": READOUT_PROTOCOL, "positions": shown, "x_reads": self.x_reads, "zero_set": self.run[:8]},
        )
        return shown

    def play(self, moves: list[Move], *, sleep: Callable[[float], None] = time.sleep) -> Iterator[dict[Axis, str]]:
        """Move the slides by a script, telling at each step where they stand. Raises ConnectionError, ValueError."""
        yield self.tell()
        for move in moves:
            steps = max(round(move.seconds * self.a_second), 1)
            begins = self.slides_mm[move.axis] if move.axis else Decimal(0)
            for step in range(1, steps + 1):
                if move.axis:
                    self.slides_mm[move.axis] = begins + (move.to_mm - begins) * step / steps
                sleep(move.seconds / steps)
                yield self.tell()
