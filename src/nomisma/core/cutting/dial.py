"""Where to wind the dial: by method, in whole turns and lines, always in the direction of the cut."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import ROUND_FLOOR, Decimal
from itertools import accumulate, groupby
from typing import Literal

from nomisma.core.cutting.amount import DialReads, line_on_diameter
from nomisma.core.part.feature import cut_direction
from nomisma.core.part.feature_kinds import KindName
from nomisma.core.quantity.display import show
from nomisma.core.quantity.length import Unit

DiallingMethod = Literal["zero_at_size", "count_in", "readout", "indicator"]
DIALLING_METHODS: dict[DiallingMethod, str] = {
    "count_in": "zero where the last cut was, and count in",
    "zero_at_size": "zero is the finished size, wind in to zero",
    "readout": "the measured size goes into the readout",
    "indicator": "an indicator against the slide, for a worn screw",
}
MOST_TURNS = 50
MOST_NAMED = 4
"""Passes that are named one by one."""


@dataclass(frozen=True, slots=True)
class DialSetting:
    """The dial before and after: lines on its face, whole turns between, and what is done, in words.

    `ring`: what the dial's ring is turned by first, so that its 0 is the size again; empty where it stands right.
    """

    from_line: Decimal
    to_line: Decimal
    turns: int
    lines: Decimal
    lines_a_turn: Decimal | None
    words: str
    ring: str = ""


def wind(
    *,
    dialled_mm: Decimal,
    size_mm: Decimal,
    to_aim_mm: Decimal,
    kind: KindName,
    line_mm: Decimal,
    turn_mm: Decimal | None,
    reads: DialReads,
    method: DiallingMethod,
    unit: Unit,
    stands_mm: Decimal | None = None,
    passes_mm: Sequence[Decimal] = (),
    touch_on: bool = False,
) -> DialSetting:
    """The dial for a cut of so much on diameter (mm). `turn_mm`: what one turn shows, as the dial reads. Source:
    arithmetic.

    `stands_mm`: with 0 at the finished size, how far before 0 the dial stands now (what the last cut left it at);
    `passes_mm`: the depths of each pass, where it takes several. `touch_on`: the first cut of a piece, whose dial stood
    nowhere yet.

    >>> wind(dialled_mm=Decimal("1.40"), size_mm=Decimal("29.43"), to_aim_mm=Decimal("1.43"), kind="shaft",
    ...     line_mm=Decimal("0.05"),
    ...     turn_mm=Decimal(3), reads="diameter", method="count_in", unit="mm").words
    'Set the dial to 0 where it stood for the last cut, backlash taken up; wind in 28 lines.'
    """
    per_line = line_on_diameter(line_mm, reads)
    lines = dialled_mm / per_line
    around = turn_mm / line_mm if turn_mm else None
    ring = _ring(to_aim_mm, stands_mm, per_line, around) if method == "zero_at_size" else ""
    if not dialled_mm:
        stands = _on_face(-to_aim_mm / per_line if method == "zero_at_size" else Decimal(0), around)
        return DialSetting(
            stands, stands, 0, Decimal(0), around, "Leave the dial where it stands, and take the cut again."
        )
    parts = [one / per_line for one in passes_mm]
    first = parts[0] if parts else lines  # what the handwheel shows: the first pass
    turns, rest = _turned(first, around)
    if method == "zero_at_size":
        start = to_aim_mm / per_line
        before, goes = turns_and_lines(start, around), _to_zero(start, lines, parts, around)
        words = f"With 0 at the finished size the dial stands {before} before it; {goes}."
        face = _on_face(-start, around), _on_face(first - start, around)
        return DialSetting(*face, turns, rest, around, words, ring)
    if method == "readout":
        words = _readout(dialled_mm, size_mm, kind, unit, passes_mm)
    elif method == "indicator":
        words = (
            "Indicator to 0 against the slide at the last cut; wind in until it has moved"
            f" {show(dialled_mm / 2, unit)}, the radius"
        )
        words += _stops([show(one / 2, unit) for one in accumulate(passes_mm)]) + "."
    else:
        words = _count(lines, parts, around, touch_on=touch_on)
    return DialSetting(Decimal(0), _on_face(first, around), turns, rest, around, words)


def _turned(lines: Decimal, around: Decimal | None) -> tuple[int, Decimal]:
    """Whole turns, and the lines beyond."""
    turns = int((lines / around).to_integral_value(ROUND_FLOOR)) if around else 0
    return turns, lines - turns * around if around else lines


def _ring(to_aim_mm: Decimal, stands_mm: Decimal | None, per_line: Decimal, around: Decimal | None) -> str:
    """What the ring is turned by, where the last cut did not take what was dialled."""
    if stands_mm is None:
        return ""
    stands, start = stands_mm / per_line, to_aim_mm / per_line
    off = (start - stands).quantize(Decimal("0.1"))
    if not off:
        return ""
    where = f"{turns_and_lines(abs(stands), around)} {'before' if stands >= 0 else 'past'} 0"
    to_go, by = turns_and_lines(start, around), _lines(abs(off))
    return f"The dial stands {where}, and {to_go} are to go: turn its ring by {by}, so that 0 is the size again."


def _to_zero(start: Decimal, lines: Decimal, parts: list[Decimal], around: Decimal | None) -> str:
    """Where each pass stops, before 0 or past it."""
    stops = [start - done for done in accumulate(parts)] if parts else [start - lines]
    named = [f"{turns_and_lines(abs(stop), around)} {'before' if stop >= 0 else 'past'} 0" for stop in stops]
    if len(named) > MOST_NAMED:
        return f"wind in to {named[-1]} in {len(named)} passes, the last to {_lines(parts[-1])} of it"
    return f"wind in to {named[0]}" + "".join(f", cut, then on to {one}" for one in named[1:])


def _readout(dialled_mm: Decimal, size_mm: Decimal, kind: KindName, unit: Unit, passes_mm: Sequence[Decimal]) -> str:
    sign = -cut_direction(kind)
    stops = [show(size_mm + sign * done, unit) for done in accumulate(passes_mm or [dialled_mm])]
    if len(stops) > MOST_NAMED:
        return (
            f"Enter {show(size_mm, unit)} in the readout at the last cut; wind in until it reads {stops[-1]}, in"
            f" {len(stops)} passes."
        )
    then = "".join(f", cut, then {one}" for one in stops[1:])
    return f"Enter {show(size_mm, unit)} in the readout at the last cut; wind in until it reads {stops[0]}{then}."


def _stops(stops: list[str]) -> str:
    return f", stopping to cut at {' and '.join(stops[:-1])}" if len(stops) > 1 else ""


def _on_face(lines: Decimal, around: Decimal | None) -> Decimal:
    return lines % around + (around if lines % around < 0 else 0) if around else lines


def _count(lines: Decimal, parts: list[Decimal], around: Decimal | None, *, touch_on: bool) -> str:
    stood = "where it stood for the last cut" if not touch_on else "with the tool just touching the work"
    first = f"Set the dial to 0 {stood}, backlash taken up; wind in"
    if len(parts) < 2:
        return f"{first} {turns_and_lines(lines, around)}{_in_all(lines, around)}."
    said = [
        f"{turns_and_lines(one, around)} and cut{f', {times} times' if times > 1 else ''}"
        for one, times in alike(parts)
    ]
    return f"{first} {'; then '.join(said)}. Then measure."


def alike(parts: Sequence[Decimal]) -> list[tuple[Decimal, int]]:
    """Equal passes in a row, counted.

    Source: arithmetic.

    >>> alike([Decimal(20), Decimal(20), Decimal(8)])
    [(Decimal('20'), 2), (Decimal('8'), 1)]
    """
    return [(one, len(list(same))) for one, same in groupby(parts)]


def _in_all(lines: Decimal, around: Decimal | None) -> str:
    return f" ({_lines(lines)} in all)" if _turned(lines, around)[0] else ""


def turns_and_lines(lines: Decimal, around: Decimal | None) -> str:
    """As many turns as the handwheel has (`around` lines each), and lines: quarters as they are set, others to a tenth.
    Source: arithmetic.

    >>> turns_and_lines(Decimal(189), Decimal(100)), turns_and_lines(Decimal("12.34"), None)
    ('1 turn + 89 lines', '12.3 lines')
    >>> turns_and_lines(Decimal("499.98"), Decimal(100))
    '5 turns + 0 lines'
    >>> turns_and_lines(Decimal("3.25"), Decimal(100))
    '3.25 lines'
    """
    turns, rest = _turned(_as_set(lines), around)
    return f"{turns} turn{'s' if turns != 1 else ''} + {_lines(rest)}" if turns else _lines(lines)


def _as_set(lines: Decimal) -> Decimal:
    """Quarters of a line can be set; what lies between them is no more than read, to a tenth."""
    return lines if lines % Decimal("0.25") == 0 else lines.quantize(Decimal("0.1"))


def _lines(lines: Decimal) -> str:
    shown = f"{_as_set(lines).normalize():f}"
    return f"{shown} line{'s' if shown != '1' else ''}"
