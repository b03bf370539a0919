"""Where a feature lies along the axis: from which face, from where to where, as a sketch says it behind its size."""

import re
from collections.abc import Mapping
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from nomisma.core.errors import UnreadableLength
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import parse_length

_FACE = r"(?:the\s+)?(?P<face>left|right|(?P<end>end\s+of\s+)?[A-Za-z]{1,2})(?:\s+(?:face|end))?"
_SIZE = r"[0-9.][0-9./-]*(?:\s+[0-9]+/[0-9]+)?(?:\s?(?:mm|in|thou|\"))?"
_ENDINGS = tuple(
    re.compile(rf"(?P<rest>.+?)(?:\s*[,;])?\s+{said}", re.IGNORECASE)
    for said in (
        rf"from\s+(?P<from>{_SIZE})\s+to\s+(?P<to>{_SIZE})(?:\s+from\s+{_FACE})?",
        rf"at\s+(?P<from>{_SIZE})(?:\s+from\s+{_FACE})?",
        rf"from\s+{_FACE}",
        r"on\s+the\s+(?P<face>left|right)(?:\s+(?:face|end|side))?",
        r"(?:on|(?<=[A-Za-z]\s)in)\s+(?P<on>[A-Z]{1,2})",
    )
)
"""How a line ends to say it. Source: common practice, no source."""
Extent = tuple[Decimal, Decimal]
"""Where a feature begins and ends, mm from the left face."""


@dataclass(frozen=True, slots=True)
class AxialPlace:
    """Where a feature lies: from a face ("left", "right", or a feature's letter) on, from and to how far from it.

    `end`: of a letter, the end away from the left is meant. `on`: it lies on that feature, and no distance is said. A
    part is drawn with its left face at zero; distances go to the right, from the right face to the left.
    """

    face: str = ""
    end: bool = False
    starts: Length | None = None
    ends: Length | None = None
    on: str = ""

    @property
    def is_said(self) -> bool:
        """Whether anybody said where it lies."""
        return bool(self.face or self.starts or self.on)

    @property
    def letter(self) -> str:
        """The feature it is counted from or lies on; empty where it is a face of the part."""
        return self.on or ("" if self.face in ("left", "right") else self.face)

    @property
    def words(self) -> str:
        """As a line says it, with units, so that it can be read again; empty where nothing was said."""
        if self.on:
            return f"on {self.on}"
        face = (
            f"the {self.face}" if self.face in ("left", "right") else f"{'the end of ' if self.end else ''}{self.face}"
        )
        from_face = f"from {face}" if self.face else ""
        if self.starts is None:
            return from_face
        far = f"from {self.starts} to {self.ends}" if self.ends else f"at {self.starts}"
        return f"{far} {from_face or 'from the left'}"

    def extent_mm(self, long_mm: Decimal, whole_mm: Decimal, known: Mapping[str, Extent]) -> Extent | None:
        """From where to where it lies (mm from the left face); None where what it is counted from is not known.

        `long_mm`: how long it is, where no end is said. `whole_mm`: how long the part is.

        >>> AxialPlace("right").extent_mm(Decimal(10), Decimal(50), {})
        (Decimal('40'), Decimal('50'))
        """
        if self.on:
            return known.get(self.on)
        base, way = Decimal(0), 1
        if self.face == "right":
            base, way = whole_mm, -1
        elif self.letter:
            if self.letter not in known:
                return None
            base = known[self.letter][1 if self.end else 0]
        begins = base + way * (self.starts.mm if self.starts else Decimal(0))
        ends = base + way * self.ends.mm if self.ends else begins + way * long_mm
        return (begins, ends) if begins <= ends else (ends, begins)


NOT_SAID = AxialPlace()
"""Nobody said where it lies."""


def place_in_line(line: str, unit: Unit) -> tuple[str, AxialPlace]:
    """A line without what it ends with to say where the feature lies, and that. Raises UnreadableLength.

    Numbers without a unit are in `unit`. Source: common practice, no source.

    >>> place_in_line("bore 12 H7 x 20 deep from the right", "mm")[1].words
    'from the right'
    >>> rest, place = place_in_line("od 30 h9 from 12 to 40", "mm"); rest, place.words
    ('od 30 h9', 'from 12 mm to 40 mm from the left')
    """
    plain = " ".join(line.split())
    for pattern in _ENDINGS:
        if match := pattern.fullmatch(plain):
            said = match.groupdict()
            return match["rest"], _place(
                {name: said.get(name) or "" for name in ("face", "end", "from", "to", "on")}, unit
            )
    return line, NOT_SAID


def place_said(words: str) -> AxialPlace:
    """A place by its own words, as `AxialPlace.words` gives them; empty: nothing was said. Raises UnreadableLength.

    Source: common practice, no source.

    >>> place_said("at 12 mm from the end of A").starts.mm
    Decimal('12')
    """
    return place_in_words(words, "mm")


def place_in_words(words: str, unit: Unit) -> AxialPlace:
    """A place as somebody says it alone; empty: nothing was said. Numbers without a unit are in `unit`. Raises
    UnreadableLength.

    Source: common practice, no source.

    >>> place_in_words("at .5 from the right", "in").words
    'at 0.5 in from the right'
    """
    if not words.strip():
        return NOT_SAID
    rest, place = place_in_line(f"it {words}", unit)
    if rest != "it":
        raise UnreadableLength(
            f"“{words[:60]}” does not say where a feature lies.",
            "Write it like from 12 to 40, at 12 from the right, from the end of A, on A.",
            value=words,
        )
    return place


def from_face(letter_or_side: str) -> AxialPlace:
    """Counted from a face and no more said. Source: common practice, no source.

    >>> from_face("A").words
    'from A'
    """
    return AxialPlace(letter_or_side)


def _place(said: dict[str, str], unit: Unit) -> AxialPlace:
    if said["on"]:
        return AxialPlace(on=said["on"].upper())
    starts, ends = (parse_length(said[name], unit, positive=False) if said[name] else None for name in ("from", "to"))
    if starts and ends and ends.mm <= starts.mm:
        raise UnreadableLength(
            f"It would end at {ends} and begin at {starts}.",
            "Say the smaller distance from the face first.",
            value=said["to"],
        )
    return AxialPlace(*_face(said["face"]), starts, ends)


def _face(text: str) -> tuple[str, bool]:
    words = text.split()
    if not words:
        return "", False
    side: Literal["left", "right"] | None = next((one for one in ("left", "right") if words[-1].lower() == one), None)
    return (side, False) if side else (words[-1].upper(), len(words) > 1)
