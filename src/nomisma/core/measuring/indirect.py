"""Sizes that follow from what is read: a pile of slips, a chord, rollers, a sine bar; and how much of a reading's error
comes into them.
"""

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from decimal import Decimal
from math import asin, tan

from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.part.feature_kinds import Way
from nomisma.core.quantity.length import Unit, as_mm
from nomisma.core.quantity.writing import parse_length
from nomisma.core.threads.called_out import ThreadCalledOut, thread_called_out
from nomisma.core.threads.designation import Thread
from nomisma.core.threads.over_wires import pitch_diameter_over_mm

WAY_WORDS: dict[Way, str] = {
    "pile": "slips or rods that just go in, as 10 + 1.22 + 1.005",
    "chord": "a chord and its height, as chord 300 height 37.5",
    "plate_rollers": "over two rollers on a plate, as over 120 rollers 20",
    "taper_rollers": "over rollers low and high on slips, for the length the taper is given over, as rollers 44.5 47 "
        "on 50 over 60",
    "sine_bar": "slips under a sine bar, for that length, as sine 40 + 3.58 on 125 over 60",
    "wires": "over three wires (what they are off counts three times), as wires 20.24 on 0.866 for M20x1.5",
    "less": "a size less another that was read, as 124.10 less 9.04",
}  # fmt: skip
_STEP_MM = Decimal("0.001")
_PILE = re.compile(r"[^+a-z]+(?:\s*(?:mm|in)\s*)?(?:\+[^+]+)+", re.IGNORECASE)
_FORMS: tuple[tuple[Way, re.Pattern[str]], ...] = (
    ("chord", re.compile(r"chord\s+(?P<r1>.+?)\s+(?:height|h)\s+(?P<r2>.+)", re.IGNORECASE)),
    ("plate_rollers", re.compile(r"over\s+(?P<r1>.+?)\s+rollers?\s+(?P<g1>.+)", re.IGNORECASE)),
    (
        "taper_rollers",
        re.compile(
            r"rollers?\s+(?P<r1>\S+(?:\s*(?:mm|in))?)\s+(?P<r2>.+?)\s+on\s+(?P<g1>.+?)\s+over\s+(?P<g2>.+)",
            re.IGNORECASE,
        ),
    ),
    ("less", re.compile(r"(?P<r1>[0-9.].*?)\s+less\s+(?P<r2>.+)", re.IGNORECASE)),
    ("wires", re.compile(r"(?:over\s+)?wires?\s+(?P<r1>.+?)\s+on\s+(?P<g1>.+?)\s+for\s+(?P<thread>.+)", re.IGNORECASE)),
    ("sine_bar", re.compile(r"sine\s+(?P<r1>.+?)\s+on\s+(?P<g1>.+?)\s+over\s+(?P<g2>.+)", re.IGNORECASE)),
)


def by_chord(chord_mm: Decimal, height_mm: Decimal) -> Decimal:
    """A diameter (mm) from a chord and its height. Raises OutOfRange for an arc of more than half. Source: geometry, D
    = c²/(4·h) + h.

    >>> by_chord(Decimal(80), Decimal(20))
    Decimal('100')
    """
    if height_mm > chord_mm / 2:
        raise OutOfRange("The arc is more than half round.", "Take the chord on the other side.", field="height")
    return chord_mm**2 / (4 * height_mm) + height_mm


def by_rollers(over_mm: Decimal, roller_mm: Decimal) -> Decimal:
    """A diameter (mm) from the size over two rollers beside it on a plate. Raises OutOfRange. Source: geometry, D = (M
    − d)²/(4·d).

    >>> by_rollers(Decimal(120), Decimal(20))
    Decimal('125')
    """
    if over_mm <= 2 * roller_mm:
        raise OutOfRange("Over two rollers it is more than two rollers.", "Check the two sizes.", field="over")
    return (over_mm - roller_mm) ** 2 / (4 * roller_mm)


def _taper_rollers(read: Sequence[Decimal], given: Sequence[Decimal]) -> Decimal:
    """What the diameter changes by over a length: tan(half) = (high − low)/(2·slips)."""
    (low, high), (slips, over) = read, given
    if high <= low:
        raise OutOfRange(
            "Higher up it is not larger.", "Low first, then high; the small end stands on the plate.", field="size"
        )
    return (high - low) / slips * over


def _sine_bar(read: Sequence[Decimal], given: Sequence[Decimal]) -> Decimal:
    """What the diameter changes by over a length, where a plug's upper side lies level on a bar raised by the pile."""
    pile, (bar, over) = sum(read, Decimal(0)), given
    if pile >= bar:
        raise OutOfRange("The pile is as high as the bar is long.", "Check the two sizes.", field="size")
    return as_mm(2 * tan(asin(float(pile / bar)) / 2) * float(over))


def _less(read: Sequence[Decimal], _: Sequence[Decimal]) -> Decimal:
    """One size less another: over two holes less a hole, a diameter less what is left beside a keyseat."""
    if read[1] >= read[0]:
        raise OutOfRange("Nothing would be left.", "The larger size first.", field="size")
    return read[0] - read[1]


def _wires(read: Sequence[Decimal], given: Sequence[Decimal]) -> Decimal:
    """The pitch diameter of what is so much over three wires; given are wire, diameter, pitch, starts and angle."""
    wire, diameter, pitch, starts, angle = given
    said = ThreadCalledOut(Thread("the thread", "mm", diameter, pitch), starts=int(starts), angle_deg=angle)
    return pitch_diameter_over_mm(said, read[0], wire)


_SIZE: dict[Way, Callable[[Sequence[Decimal], Sequence[Decimal]], Decimal]] = {
    "pile": lambda read, _: sum(read, Decimal(0)),
    "chord": lambda read, _: by_chord(*read),
    "plate_rollers": lambda read, given: by_rollers(read[0], given[0]),
    "taper_rollers": _taper_rollers,
    "sine_bar": _sine_bar,
    "wires": _wires,
    "less": _less,
}


@dataclass(frozen=True, slots=True)
class IndirectReading:
    """What was read (mm) each with the instrument's own error, what was given as known (mm), and the way from them to
    the size.
    """

    way: Way
    read_mm: tuple[Decimal, ...]
    given_mm: tuple[Decimal, ...] = ()

    def size_mm(self, zero_error_mm: Decimal = Decimal(0)) -> Decimal:
        """The size, mm, the zero error (mm) taken off each reading. Raises OutOfRange for what cannot be.

        Source: geometry, as the way's own function says.

        >>> IndirectReading("pile", (Decimal(10), Decimal("1.22"))).size_mm()
        Decimal('11.22')
        """
        found = _SIZE[self.way]([one - zero_error_mm for one in self.read_mm], self.given_mm)
        return found.quantize(Decimal("1e-6")).normalize() + 0

    @property
    def sensitivity(self) -> Decimal:
        """By how much a reading's standard uncertainty comes out larger (or smaller) in the size.

        Source: JCGM 100:2008, 5.1.3 note 2 (each reading moved by a small step), 5.1.2 (the readings independent).

        >>> IndirectReading("pile", (Decimal(3),) * 4).sensitivity
        Decimal('2.0000')
        """
        formula, here = _SIZE[self.way], self.read_mm
        at = formula(here, self.given_mm)
        moved = [
            (formula([one + _STEP_MM * (n == index) for n, one in enumerate(here)], self.given_mm) - at) / _STEP_MM
            for index in range(len(here))
        ]
        return sum((one**2 for one in moved), Decimal(0)).sqrt().quantize(Decimal("1e-4"))


def indirect_reading(text: str, unit: Unit) -> IndirectReading | None:
    """What a line of readings says that makes a size by one of the ways; None where it is none of them. Raises
    InputError for a wrong number.

    A number without a unit is in `unit`. Source: shop writing, common practice, no source.

    >>> indirect_reading("chord 80 height 20", "mm").size_mm(), indirect_reading("24.98", "mm")
    (Decimal('100'), None)
    """
    plain = " ".join(text.split())
    if _PILE.fullmatch(plain):
        return _found("pile", plain.split("+"), (), unit)
    for way, form in _FORMS:
        if match := form.fullmatch(plain):
            parts = match.groupdict()
            read = [one for name in ("r1", "r2") if parts.get(name) for one in parts[name].split("+")]
            known = _of_thread(parts["thread"], unit) if parts.get("thread") else ()
            return _found(way, read, [parts[name] for name in ("g1", "g2") if parts.get(name)], unit, known)
    return None


def follows_from_readings(text: str, unit: Unit) -> bool:
    """Whether a reading's text says readings of something else, from which its size follows. Source: shop writing,
    common practice.

    >>> follows_from_readings("10 + 1.22", "mm"), follows_from_readings("24.98", "mm")
    (True, False)
    """
    try:
        return indirect_reading(text, unit) is not None
    except InputError:
        return False


def _of_thread(text: str, unit: Unit) -> tuple[Decimal, ...]:
    """What of a thread counts over wires: diameter and pitch (mm), starts and angle (degrees)."""
    try:
        diameter, pitch, starts, angle = thread_called_out(text, unit).form
    except InputError as error:
        error.field = "size"
        raise
    return diameter, pitch, Decimal(starts), angle


def _found(
    way: Way, read: Sequence[str], given: Sequence[str], unit: Unit, known: tuple[Decimal, ...] = ()
) -> IndirectReading:
    try:
        first = parse_length(read[0].strip(), unit)
        sizes = [first.mm, *(parse_length(one.strip(), unit).mm for one in read[1:])]
        sized = tuple(parse_length(one.strip(), unit).mm for one in given)
        found = IndirectReading(way, tuple(sizes), (*sized, *known))
        found.size_mm()
    except InputError as error:
        error.field = "size"
        raise
    return found
