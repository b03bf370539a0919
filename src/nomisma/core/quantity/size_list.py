"""A list of sizes as a shop writes what is in its drawers: 6 8 10 mm; 1/4 1/2 in; 1 to 13 by 0.1 mm."""

import re
from collections.abc import Iterator
from decimal import Decimal

from nomisma.core.errors import InputError, UnreadableLength
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import parse_length

_GROUP = re.compile(r"(?P<sizes>.*?)\s*(?P<unit>mm|in|inch|\")\s*", re.IGNORECASE)
_RANGE = re.compile(r"(?P<first>\S+)\s+to\s+(?P<last>\S+)\s+by\s+(?P<step>\S+)", re.IGNORECASE)
_BETWEEN = re.compile(r"[;\n]")


def groups_of(text: str) -> list[str]:
    """The groups of a list, one behind a semicolon or on a line of its own. Source: none, reading.

    >>> groups_of("6 8 mm; numbers")
    ['6 8 mm', 'numbers']
    """
    return [one.strip() for one in _BETWEEN.split(text) if one.strip()]


def sizes_listed(group: str, field: str, *, most: int) -> list[Length]:
    """The sizes of a group with its unit behind it: one by one, or from a first to a last by a step. Raises
    UnreadableLength where it says no unit or a size is none, InputError for more than `most`, of `field`.

    Source: none, reading.

    >>> [str(one) for one in sizes_listed("6, 12 mm", "reamers", most=9)]
    ['6 mm', '12 mm']
    >>> [str(one) for one in sizes_listed("1/16 to 1/8 by 1/32 in", "drills", most=9)]
    ['0.0625 in', '0.09375 in', '0.125 in']
    """
    match = _GROUP.fullmatch(group)
    if match is None:
        raise UnreadableLength(
            f"“{group[:40]}” does not say its unit.",
            "Write mm or in behind the sizes: 6 8 10 mm; 1/4 1/2 in.",
            field=field,
            value=group,
        )
    unit: Unit = "mm" if match["unit"].lower() == "mm" else "in"
    stepped = _RANGE.fullmatch(match["sizes"].strip())
    if stepped is None:
        found = [_size(one, unit, field) for one in re.split(r"[\s,]+", match["sizes"].strip())]
    else:
        first, last, step = (_size(stepped[name], unit, field) for name in ("first", "last", "step"))
        if (last.mm - first.mm) / step.mm > most:
            raise _too_many(most, field)
        found = [Length(mm, unit) for mm in _steps(first.mm, last.mm, step.mm)]
    if len(found) > most:
        raise _too_many(most, field)
    return found


def _too_many(most: int, field: str) -> InputError:
    return InputError(f"That is more than {most}; a list has at most so many.", "Leave some out.", field=field)


def _steps(first: Decimal, last: Decimal, step: Decimal) -> Iterator[Decimal]:
    at = 0
    while first + at * step <= last:
        yield first + at * step
        at += 1


def _size(text: str, unit: Unit, field: str) -> Length:
    try:
        return parse_length(text, unit, positive=True)
    except InputError as error:
        error.field = field
        raise
