"""A taper as it is written, and how much its diameter changes over a length of it."""

import math
import re
from decimal import Decimal

from nomisma.core.errors import InputError, UnreadableLength, refused_as
from nomisma.core.number import number_from
from nomisma.core.part.standard_tapers import standard_taper_named
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import parse_length

HOW = "Write it like 1:20, .600 per foot, .05 per inch, 5 % 8° (the included angle), 4° per side, or Morse 3."
_RATIO = re.compile(r"1\s*(?::|in)\s*(?P<n>[0-9.,]+)", re.IGNORECASE)
_PER = re.compile(r"(?P<rise>.+?)\s*(?:per|/)\s*(?P<run>foot|ft|inch|in|mm)\.?", re.IGNORECASE)
_PERCENT = re.compile(r"(?P<rate>[0-9.,]+)\s*%")
_ANGLE = re.compile(
    r"(?P<angle>[0-9.,]+)\s*(?:°|deg(?:rees)?)(?:\s*(?:included|(?P<half>(?:per|a)\s+side|half(?:\s+angle)?)))?",
    re.IGNORECASE,
)
_RUNS: dict[str, Decimal] = {
    "foot": Decimal("304.8"), "ft": Decimal("304.8"), "inch": Decimal("25.4"), "in": Decimal("25.4"), "mm": Decimal(1),
}  # fmt: skip
STEEPEST = 4
"""The steepest taper taken, diameter over length: about 127° included. Steeper is a face with a chamfer. Source: this
tool's own choice.
"""
_FINEST: dict[Unit, Decimal] = {"mm": Decimal("0.0001"), "in": Decimal("0.00001")}
"""To what a change of diameter is rounded: far below what is measured. Source: this tool's own choice."""


def taper_rate(text: str) -> Decimal:
    """How much the diameter changes by length, without unit: 1:20 is 0.05. Raises UnreadableLength.

    Source: ISO 3040:2016, 3 (rate of taper C = (D − d) / L = 2 tan(α/2), α the included angle; clause recalled).

    >>> taper_rate("1:20"), taper_rate(".600 per foot")
    (Decimal('0.05'), Decimal('0.050'))
    >>> round(taper_rate("8°"), 6)
    Decimal('0.139854')
    """
    plain = " ".join(text.split())
    with refused_as(f"“{plain[:40]}” is not understood as a taper.", HOW, field="text"):
        rate = _rate(plain)
    if rate is None or not 0 < rate <= STEEPEST:
        raise UnreadableLength(f"“{plain[:40]}” is not understood as a taper.", HOW, value=plain[:80])
    return rate


def _rate(text: str) -> Decimal | None:
    if named := standard_taper_named(text):
        return named.rate
    if match := _RATIO.fullmatch(text):
        return 1 / number_from(match["n"], least=Decimal("0.01"))
    if match := _PERCENT.fullmatch(text):
        return number_from(match["rate"]) / 100
    if match := _ANGLE.fullmatch(text):
        half = bool(match["half"])
        included = float(number_from(match["angle"], least=0, most=89 if half else 179)) * (2 if half else 1)
        return Decimal(2 * math.tan(math.radians(included) / 2)).quantize(Decimal("1e-12"))
    if match := _PER.fullmatch(text):
        run = match["run"].lower()
        return parse_length(match["rise"], "mm" if run == "mm" else "in").mm / _RUNS[run]
    return None


def taper_between(one: Length, other: Length, over: Length) -> Decimal:
    """The rate of a taper that goes from one diameter to another over a length. Raises UnreadableLength where that is
    none.

    Source: as `taper_rate`.

    >>> taper_between(parse_length("30 mm"), parse_length("25 mm"), parse_length("50 mm"))
    Decimal('0.1')
    """
    rate = abs(one.mm - other.mm) / over.mm
    if not 0 < rate <= STEEPEST:
        raise UnreadableLength(f"From {one} to {other} over {over} is no taper.", HOW)
    return rate


def taper_over(rate: Decimal, length: Length) -> Length:
    """How much the diameter changes over a length, in the length's unit. Raises InputError where that is nothing.

    Source: as `taper_rate`.

    >>> str(taper_over(taper_rate(".60235 per foot"), parse_length("2 in")))
    '0.10039 in'
    """
    change = (length.value() * rate).quantize(_FINEST[length.unit]).normalize()
    if change <= 0:
        raise InputError(f"Over {length} that is no taper.", "Give a longer length.", field="text")
    return Length.of(f"{change:f}", length.unit)
