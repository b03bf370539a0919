"""Standard tapers by name: Morse, Jarno, metric 1:20 and 7/24, with their ends where the standard gives them."""

import re
from dataclasses import dataclass
from decimal import Decimal
from typing import Annotated

from nomisma.core.table import MAYBE, Row, loaded, rows_of

_INCH = Decimal("25.4")
_JARNO = range(2, 21)
_METRIC = (4, 6, 80, 100, 120, 160, 200)
_NAMED = re.compile(
    r"(?P<family>morse|mt|jarno|metric|7/24)\s*(?:taper\s*)?(?:no\.?\s*)?(?P<number>[0-9]{1,3})",
    re.IGNORECASE,
)


@dataclass(frozen=True, slots=True)
class StandardTaper:
    """One standard taper: its rate (diameter by length), and in mm what the standard says of its ends; `unsure`:
    recalled without certainty.
    """

    words: str
    rate: Decimal
    large_mm: Decimal | None = None
    small_mm: Decimal | None = None
    length_mm: Decimal | None = None
    source: str = "ANSI/ASME B5.10, ISO 296 (recalled)"
    unsure: bool = False


class TaperRow(Row):
    """A standard taper as its table has it: ends and length in inch, its rate in inch a foot."""

    name: str
    words: str
    large_in: Annotated[Decimal | None, MAYBE]
    small_in: Annotated[Decimal | None, MAYBE]
    length_in: Annotated[Decimal | None, MAYBE]
    per_foot_in: Decimal


@loaded
def standard_tapers() -> dict[str, StandardTaper]:
    """Every standard taper by name, ends in mm. Source: standard_tapers.csv; Jarno and metric 1:20 by their rules.

    >>> standard_tapers()["morse 3"].large_mm, standard_tapers()["jarno 6"].small_mm
    (Decimal('23.8252'), Decimal('15.24'))
    """
    found = {}
    for row in rows_of("part", "standard_tapers.csv", TaperRow):
        large, small, length = (
            _plain(end * _INCH) if end else None for end in (row.large_in, row.small_in, row.length_in)
        )
        source = (
            "ISO 7388-1, ASME B5.50 (recalled)"
            if row.name.startswith("7/24")
            else "ANSI/ASME B5.10, ISO 296 (recalled)"
        )
        found[row.name] = StandardTaper(row.words, row.per_foot_in / 12, large, small, length, source, bool(row.unsure))
    for number in _JARNO:
        large, small, length = (_plain(Decimal(number) * _INCH / share) for share in (8, 10, 2))
        rule = "Jarno's rule: N/8, N/10, N/2 in"
        found[f"jarno {number}"] = StandardTaper(f"Jarno {number}", Decimal("0.05"), large, small, length, rule)
    for number in _METRIC:
        found[f"metric {number}"] = StandardTaper(
            f"metric {number}, 1:20", Decimal("0.05"), Decimal(number), source="ISO 296 (recalled)"
        )
    return found


def _plain(size_mm: Decimal | None) -> Decimal | None:
    return None if size_mm is None else size_mm.normalize()


def standard_taper_named(text: str) -> StandardTaper | None:
    """The standard taper of that name as it is said (Morse 3, MT3, 7/24 no. 40); None where it is no such name.

    Ends in mm. Source: as `standard_tapers`.

    >>> standard_taper_named("MT3").words, standard_taper_named("1:20")
    ('Morse 3', None)
    """
    match = _NAMED.fullmatch(" ".join(text.split()))
    if match is None:
        return None
    family = match["family"].lower()
    word = "morse" if family in ("morse", "mt") else family
    return standard_tapers().get(f"{word} {int(match['number'])}")
