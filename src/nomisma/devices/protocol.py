"""The gauge protocol: JSON Lines over TCP on loopback, one object a reading, acknowledged after commit; and positions
of a readout.

docs/GAUGES.md says it in full.
"""

import json
import re
from typing import Literal
from uuid import UUID, uuid5

from pydantic import Field, ValidationError

from nomisma.core.errors import InputError
from nomisma.core.model import Model
from nomisma.core.quantity.length import Length
from nomisma.core.quantity.writing import parse_length

PROTOCOL = "nomisma-gauge/1"
READOUT_PROTOCOL = "nomisma-readout/1"
LONGEST_LINE = 4096
NAME = r"^[\w .:-]+$"
NAME_WORDS = "Use letters, digits, space and . : - _"
"""What a gauge, a run and a token are written with."""
_NAMESPACE = UUID("0d9c6f7e-52a4-4be1-8d3e-3b1f0a6f7c55")


class GaugeMessage(Model):
    """One reading from a gauge.

    `gauge` is its name in the shop, `token` what the shop made for it, `run` one stretch of its work (a restart makes
    another), `number` counts within the run from 1.
    `size` is as it shows it, with its unit ("0.8741 in", "22.202 mm"). `job` is left out where the shop says it.
    """

    protocol: str = PROTOCOL
    gauge: str = Field(min_length=1, max_length=60, pattern=NAME)
    token: str = Field(min_length=1, max_length=100, pattern=NAME, repr=False)
    run: str = Field(min_length=1, max_length=60, pattern=NAME)
    number: int = Field(ge=1, le=2**53)
    size: str = Field(min_length=1, max_length=40)
    job: int | None = Field(default=None, ge=1, le=2**31 - 1)

    @property
    def id(self) -> UUID:
        """The same for every repeat of this message, and for no other."""
        return uuid5(_NAMESPACE, f"{self.gauge}\n{self.run}\n{self.number}")

    def length(self) -> Length:
        """Its size, exact; an indicator's may be zero or below. Raises InputError."""
        return parse_length(self.size, positive=False)


Axis = Literal["x", "z"]


class ReadoutMessage(Model):
    """Where the slides stand now: the cross-slide x, the carriage z. It is shown as it comes and not kept.

    `x_reads`: whether x is a diameter or a radius. `zero_set`: another word whenever somebody set an axis to another
    figure. The rest as of a gauge.
    """

    protocol: Literal["nomisma-readout/1"]
    gauge: str = Field(min_length=1, max_length=60, pattern=NAME)
    token: str = Field(min_length=1, max_length=100, pattern=NAME, repr=False)
    run: str = Field(min_length=1, max_length=60, pattern=NAME)
    number: int = Field(ge=1, le=2**53)
    positions: dict[Axis, str] = Field(min_length=1, max_length=2)
    x_reads: Literal["diameter", "radius"] = "diameter"
    zero_set: str = Field(default="", max_length=20)
    job: int | None = Field(default=None, ge=1, le=2**31 - 1)

    def lengths(self) -> dict[Axis, Length]:
        """Its positions, exact; zero or below as they may be. Raises InputError."""
        return {axis: parse_length(text[:40], positive=False) for axis, text in self.positions.items()}


def is_name(text: str) -> bool:
    """Whether a gauge may be called so.

    >>> is_name("bench-gauge"), is_name("<b>")
    (True, False)
    """
    return re.fullmatch(NAME, text) is not None


class NotThisProtocol(InputError):
    """A line that no gauge sends: whoever talks here is something else, and is not listened to further."""


class GaugeAnswer(Model):
    """What comes back: `ok` only after the reading is committed; `again` says that sending it again may help."""

    ok: bool
    number: int = 0
    again: bool = False
    error: str = ""

    def line(self) -> bytes:
        """As it goes over the wire."""
        return (self.model_dump_json(exclude_defaults=True) + "\n").encode()


def read_line(line: bytes) -> GaugeMessage | ReadoutMessage:
    """One line as a message: a reading, or the positions of a readout. Raises InputError with a sentence for whoever
    builds the gauge.

    >>> read_line(b'{"gauge": "g", "token": "t", "run": "a", "number": 1, "size": "0.8741 in"}').length().mm
    Decimal('22.20214')
    """
    if len(line) > LONGEST_LINE:
        raise NotThisProtocol(f"A line is at most {LONGEST_LINE} bytes.", "Send one object a line.", field="line")
    try:
        values = json.loads(line)
    except (ValueError, RecursionError):
        values = None
    if not isinstance(values, dict):
        raise NotThisProtocol("This line is not a JSON object.", "Send one object a line.", field="line")
    try:
        if values.get("protocol") == READOUT_PROTOCOL:
            readout = ReadoutMessage.model_validate(values)
            readout.lengths()
            return readout
        message = GaugeMessage.model_validate(values)
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(str(part) for part in first["loc"]) or "line"
        raise InputError(f"{where}: {first['msg']}.", "docs/GAUGES.md has the fields.", field=where) from None
    if message.protocol != PROTOCOL:
        raise InputError(
            f"This speaks {PROTOCOL}.", "Change the gauge's protocol.", field="protocol", value=message.protocol
        )
    message.length()
    return message
