"""A feature as a line of a sketch writes it, before anything is worked out; and the marks between what a line says."""

import re
from dataclasses import dataclass

from nomisma.core.quantity.length import Unit

HOW = (
    "Write it like od 1.375 ±.005 x 3.625, bore .800 +.004/-0 x .125 deep, hole 17/32 thru, boss .800 x .125 high,"
    " length 2.125 ±.010, groove .125 wide to .625 at .937 from the left, cham 1/16 x 45, taper 1:20 over 50, 25 h7;"
    " behind it where it lies: from 12 to 30, at 12 from the right, from the end of A, on A; and what it is there for:"
    " only seen, true to A."
)
LONGEST_LINE = 160
"""A line of a sketch is no longer, in characters."""
BY = re.compile(r"\s+x\s+", re.IGNORECASE)
"""Between a size and the one behind it."""
ENDS = re.compile(r"\s*\b(?:deep|long|high|wide|thick)\s*$", re.IGNORECASE)
DEEP = re.compile(r"\bdeep\b", re.IGNORECASE)
THROUGH = re.compile(r"\s*\b(?:thru|through)\s*$", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class WrittenFeature:
    """One feature as a line says it: its kind, the text of its size with limits, and, behind `along`, where it lies.

    `on`: it lies on another feature of its line, by that one's place in it; `on_size`: on the diameter of that size,
    which another line says.
    """

    kind: str
    size: str
    along: str = ""
    through: bool = False
    on: int | None = None
    on_size: str = ""


@dataclass(frozen=True, slots=True)
class WrittenLine:
    """A line without where its feature lies and what it is there for: all of its text, the word it begins with, and the
    rest.

    `unit`: of numbers that name none. `is_on`: it was said to lie on another feature, by its letter.
    """

    text: str
    word: str
    rest: str
    unit: Unit = "mm"
    is_on: bool = False
