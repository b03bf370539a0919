"""A thread by its designation, from the table of the usual ones or by the rules of its series."""

import re
from dataclasses import dataclass
from decimal import Decimal
from typing import Annotated, Self

from pydantic import model_validator

from nomisma.core.errors import NotDefined
from nomisma.core.quantity.length import MM_PER, MM_PER_INCH, Unit
from nomisma.core.quantity.writing import parse_length
from nomisma.core.table import MAYBE, Row, loaded, rows_of

_METRIC = re.compile(r"M\s*(?P<size>[0-9.]+)(?:\s*[x×]\s*(?P<pitch>[0-9.]+))?", re.IGNORECASE)
_INCH = re.compile(r"(?P<size>#?[0-9/ .-]+?)\s*-\s*(?P<per_inch>[0-9]+)(?:\s*(?:UNC|UNF|UNEF|UNS|UN))?", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class Thread:
    """A thread: outside diameter and pitch in mm; close and free clearance, as the table has them (empty: it
    has none).
    """

    name: str
    unit: Unit
    diameter_mm: Decimal
    pitch_mm: Decimal
    close: str = ""
    free: str = ""
    tap_drill_mm: Decimal | None = None


class ThreadRow(Row):
    """A thread as its table has it: metric by pitch (mm), inch by turns an inch; the rest in its unit, or the name of a
    drill.
    """

    name: str
    unit: Unit
    diameter: Decimal
    pitch_mm: Annotated[Decimal | None, MAYBE]
    per_inch: Annotated[Decimal | None, MAYBE]
    close: str
    free: str
    tap_drill: Annotated[Decimal | None, MAYBE]

    @model_validator(mode="after")
    def _has_one_pitch(self) -> Self:
        if (self.pitch_mm is None) == (self.per_inch is None):
            raise ValueError("either pitch_mm or per_inch must stand")
        return self

    @property
    def true_pitch_mm(self) -> Decimal:
        """From one thread to the next, mm."""
        return self.pitch_mm or MM_PER_INCH / (self.per_inch or 1)


@loaded
def threads() -> dict[str, Thread]:
    """Every thread of the table by name, sizes in mm. Source: threads.csv.

    >>> threads()["M8"].pitch_mm, round(threads()["1/4-20"].pitch_mm, 2)
    (Decimal('1.25'), Decimal('1.27'))
    """
    return {
        row.name: Thread(
            row.name, row.unit, row.diameter * MM_PER[row.unit], row.true_pitch_mm, row.close, row.free, row.tap_drill
        )
        for row in rows_of("threads", "threads.csv", ThreadRow)
    }


def thread_named(text: str) -> Thread:
    """A thread as it is written: M8, M8x1, 1/4-20, #10-32, 12-28, 3/8-24 UNF. Raises NotDefined, UnreadableLength.

    Sizes in mm. Source: ISO 261 (coarse pitch where none is said), ASME B1.1; recalled.

    >>> thread_named("M8x1").pitch_mm, thread_named("3/8-24 unf").name
    (Decimal('1'), '3/8-24')
    """
    plain = " ".join(text.split())
    if match := _METRIC.fullmatch(plain):
        known = threads().get(f"M{match['size']}")
        diameter = known.diameter_mm if known else parse_length(match["size"], "mm").mm
        if match["pitch"] and known and parse_length(match["pitch"], "mm").mm == known.pitch_mm:
            return known
        if match["pitch"]:
            close, free = (known.close, known.free) if known else ("", "")
            return Thread(
                f"M{match['size']}x{match['pitch']}", "mm", diameter, parse_length(match["pitch"], "mm").mm, close, free
            )
        if known:
            return known
    elif match := _INCH.fullmatch(plain):
        name = f"{match['size'].strip().removeprefix('#')}-{match['per_inch']}"
        if known := threads().get(name):
            return known
        per_inch, size = int(match["per_inch"]), match["size"].strip()
        if per_inch and ("#" not in size or size.removeprefix("#") in NUMBERED):
            return _other_inch(name, size, per_inch)
    raise NotDefined(
        f"“{plain[:30]}” is no thread this knows.",
        "Write it like M8, M8x1, 1/4-20, #10-32.",
        field="thread",
        value=plain[:60],
    )


NUMBERED = {str(number) for number in range(13)}
"""The sizes of screws that are numbers. Source: ASME B1.1 (recalled): 0 to 12."""
FEWEST_OF_A_NUMBER = 24
"""No numbered screw has fewer threads an inch: a whole number before fewer is in inches. Source: ASME B1.1 (recalled).
"""


def _other_inch(name: str, size: str, per_inch: int) -> Thread:
    """An inch thread that is not in the table: of a numbered screw by the rule of its diameters, else of a size in
    inches.
    """
    number = size.removeprefix("#")
    if number in NUMBERED and (size != number or per_inch >= FEWEST_OF_A_NUMBER):
        diameter = (Decimal("0.060") + Decimal("0.013") * int(number)) * MM_PER["in"]
    else:
        diameter = parse_length(size, "in").mm
    return Thread(name, "in", diameter, Decimal("25.4") / per_inch)
