"""Where a reading was taken: an end or a depth, and a direction round the axis."""

import re
from dataclasses import dataclass
from decimal import Decimal
from functools import cache

from nomisma.core.errors import UnreadableLength
from nomisma.core.part.feature_kinds import feature_kinds
from nomisma.core.quantity.length import Unit
from nomisma.core.quantity.writing import parse_length

NAMED: dict[str, Decimal] = {
    "mouth": Decimal(0), "near end": Decimal(0), "middle": Decimal("0.5"), "deep": Decimal(1), "far end": Decimal(1),
}  # fmt: skip
"""Named places as a share of the feature's length. Source: common practice, no source."""
_DIRECTION = re.compile(r"^(?P<where>.*?)[\s,@]*(?P<degrees>[0-9]{1,3})\s*(?:°|deg)$", re.IGNORECASE)
_ONE_OF_SEVERAL = re.compile(r"(?:hole|pair|flat)\s[1-9][0-9]?", re.IGNORECASE)
"""One of what a part has several of. Source: common practice, no source."""
_LONGEST = 40


@dataclass(frozen=True, slots=True)
class Place:
    """A named place or a depth from the mouth (mm), and a direction in degrees; `text` as it is kept and shown."""

    text: str
    share: Decimal | None
    depth_mm: Decimal | None
    direction_deg: int | None

    def along(self, length_mm: Decimal) -> Decimal | None:
        """How far from the mouth or the near end (mm), on a feature of that length; None where it is not said."""
        if self.depth_mm is not None:
            return self.depth_mm
        return None if self.share is None else self.share * length_mm


def parse_place(text: str, unit: Unit, *, field: str = "place") -> Place:
    """A place as it is said at the bench: `mouth 0°`, `deep 90°`, `12.5 mm 45°`, `1/2 in`, `hole 1`. Raises
    UnreadableLength.

    Source: common practice, no source.

    >>> parse_place("12.5 mm 45 deg", "mm").text, parse_place("mouth", "in").share
    ('12.5 mm 45°', Decimal('0'))
    """
    words = " ".join(text.split())
    if not words or len(words) > _LONGEST:
        raise UnreadableLength(
            "The place is not said.", "Choose one, or write a depth and a direction: 12.5 mm 90°.", field=field
        )
    found = _DIRECTION.match(words)
    where, degrees = (found["where"].strip(" ,@"), int(found["degrees"])) if found else (words, None)
    if degrees is not None and degrees >= 360:
        raise UnreadableLength(
            f"{degrees}° is past a full turn.", "Directions go from 0° to 359°.", field=field, value=text
        )
    ending = "" if degrees is None else f" {degrees}°"
    if where.lower() in NAMED:
        return Place(f"{where.lower()}{ending}", NAMED[where.lower()], None, degrees)
    if not where:
        return Place(ending.strip(), None, None, degrees)
    try:
        depth = parse_length(where, unit, positive=False)
    except UnreadableLength:
        if words.lower() in _named_by_kinds() or _ONE_OF_SEVERAL.fullmatch(words):
            return Place(words.lower(), None, None, None)
        raise _unreadable(words, field) from None
    if depth.mm < 0:
        raise UnreadableLength(
            "A depth is counted from the mouth inwards.", "Leave out the sign.", field=field, value=text
        )
    kept = where if where[-1].isalpha() or where[-1] == '"' else f"{where} {unit}"
    return Place(f"{kept}{ending}", None, depth.mm, degrees)


@cache
def _named_by_kinds() -> frozenset[str]:
    """Places of kinds of feature that are neither an end nor a depth: hole 1, pair 2, all round."""
    return frozenset(place for kind in feature_kinds().values() for place in kind.places)


def _unreadable(words: str, field: str) -> UnreadableLength:
    return UnreadableLength(
        f"“{words[:30]}” is not understood as a place.",
        "Write mouth, middle, deep, near end or far end, or a depth, and a direction: mouth 90°, 12.5 mm 45°.",
        field=field,
        value=words,
    )
