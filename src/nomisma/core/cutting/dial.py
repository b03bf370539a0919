"""Where to wind the dial: by school, in whole turns and lines, always in the direction of the cut."""

from dataclasses import dataclass
from decimal import ROUND_FLOOR, Decimal
from typing import Literal

from nomisma.core.cutting.amount import DialReads, line_on_diameter
from nomisma.core.quantity.display import show
from nomisma.core.quantity.length import Unit, plain

DialSchool = Literal["zero_at_size", "count_in", "readout", "indicator"]
DIAL_SCHOOLS: dict[DialSchool, str] = {
    "count_in": "zero where the last cut was, and count in",
    "zero_at_size": "zero is the finished size, wind in to zero",
    "readout": "the measured size goes into the readout",
    "indicator": "an indicator against the slide, for a worn screw",
}
MOST_TURNS = 50


@dataclass(frozen=True, slots=True)
class Wound:
    """The dial before and after: lines on its face, whole turns between, and what is done, in words."""

    from_line: Decimal
    to_line: Decimal
    turns: int
    lines: Decimal
    lines_a_turn: Decimal | None
    words: str


def wind(
    *, dialled_mm: Decimal, size_mm: Decimal, to_aim_mm: Decimal, kind: str, line_mm: Decimal, turn_mm: Decimal | None,
    reads: DialReads, school: DialSchool, unit: Unit,
) -> Wound:  # fmt: skip
    """The dial for a cut of so much on diameter (mm). `turn_mm`: what one turn shows, as the dial reads. Source: arithmetic.

    >>> wind(dialled_mm=Decimal("1.40"), size_mm=Decimal("29.43"), to_aim_mm=Decimal("1.43"), kind="shaft", line_mm=Decimal("0.05"),
    ...     turn_mm=Decimal(3), reads="diameter", school="count_in", unit="mm").words
    'Set the dial to 0 where it stood for the last cut, backlash taken up; wind in 28 lines.'
    """
    per_line = line_on_diameter(line_mm, reads)
    lines = dialled_mm / per_line
    around = turn_mm / line_mm if turn_mm else None
    if not dialled_mm:
        stands = _on_face(-to_aim_mm / per_line if school == "zero_at_size" else Decimal(0), around)
        return Wound(stands, stands, 0, Decimal(0), around, "Leave the dial where it stands, and take the cut again.")
    turns = int((lines / around).to_integral_value(ROUND_FLOOR)) if around else 0
    rest = lines - turns * around if around else lines
    if school == "zero_at_size":
        start = to_aim_mm / per_line
        words = (
            f"With 0 at the finished size the dial stands {_lines(start)} before it; wind in to {_lines(start - lines)} before 0"
            + (f", {_turns(turns)} and {_lines(rest)}." if turns else ".")
        )
        face = _on_face(-start, around), _on_face(lines - start, around)
        return Wound(*face, turns, rest, around, words)
    where = {"count_in": _count(turns, lines, rest), "readout": "", "indicator": ""}[school]
    if school == "readout":
        after = size_mm - dialled_mm if kind == "shaft" else size_mm + dialled_mm
        where = f"Enter {show(size_mm, unit)} in the readout at the last cut; wind in until it reads {show(after, unit)}."
    elif school == "indicator":
        where = f"Indicator to 0 against the slide at the last cut; wind in until it has moved {show(dialled_mm / 2, unit)}, the radius."
    return Wound(Decimal(0), _on_face(lines, around), turns, rest, around, where)


def _on_face(lines: Decimal, around: Decimal | None) -> Decimal:
    return lines % around + (around if lines % around < 0 else 0) if around else lines


def _count(turns: int, lines: Decimal, rest: Decimal) -> str:
    amount = f"{_turns(turns)} and {_lines(rest)} ({_lines(lines)} in all)" if turns else _lines(lines)
    return f"Set the dial to 0 where it stood for the last cut, backlash taken up; wind in {amount}."


def _turns(turns: int) -> str:
    return f"{turns} turn{'s' if turns != 1 else ''}"


def _lines(lines: Decimal) -> str:
    shown = plain(lines.quantize(Decimal("0.1")))
    shown = shown.removesuffix(".0")
    return f"{shown} line{'s' if shown != '1' else ''}"
