"""The keys of a terminal, that move the slides of a simulated readout."""

import sys
from collections.abc import Iterator
from decimal import Decimal

from nomisma.core.errors import InputError
from nomisma.devices.protocol import Axis
from nomisma.devices.simulated_readout import KEYS, SimulatedReadout


def moved_by_keys(readout: SimulatedReadout, step_mm: Decimal) -> Iterator[dict[Axis, str]]:
    """Each key moves a slide by a step and tells where it stands; q ends. Raises InputError where there is no
    terminal.
    """
    if not sys.stdin.isatty():
        raise InputError(
            "There are no keys to move the slides by.", "Give a script: x 25.0 mm in 5; z -10 mm in 3.", field="script"
        )
    import termios
    import tty

    before = termios.tcgetattr(sys.stdin)
    try:
        tty.setcbreak(sys.stdin)
        yield readout.tell()
        while (key := sys.stdin.read(1)) not in ("q", ""):
            if key in KEYS:
                axis, way = KEYS[key]
                readout.slides_mm[axis] += way * step_mm
                yield readout.tell()
    finally:
        termios.tcsetattr(sys.stdin, termios.TCSADRAIN, before)
