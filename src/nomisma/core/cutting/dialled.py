"""What was dialled, as a hand writes it: lines, turns and lines, or an amount in the machine's unit; several passes
with `then`.
"""

import re
from dataclasses import dataclass
from decimal import Decimal

from nomisma.core.cutting.amount import DialReads, line_on_diameter
from nomisma.core.errors import InputError, OutOfRange, UnreadableLength
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import NUMBER, parse_length

HOW = (
    "Write an amount on diameter (0.028), lines (28 lines), turns and lines (1 turn + 5), or passes (188 then 20 lines,"
    " 8 x 20 then 10 lines)."
)
MOST_LINES = 100_000
MOST_PASSES = 40
_TIMES = re.compile(r"(?P<count>[0-9]{1,4})\s*[x×]\s*(?P<amount>.+)", re.IGNORECASE)
_LINES = re.compile(rf"(?P<lines>{NUMBER})\s*(?:lines?|l)", re.IGNORECASE)
_TURNS = re.compile(
    rf"(?P<turns>[0-9]+)\s*turns?(?:\s*(?:\+|and)?\s*(?P<lines>{NUMBER})\s*(?:lines?|l)?)?", re.IGNORECASE
)
_BARE = re.compile(rf"(?:{NUMBER})")
_SAID = re.compile(r"passes\b[\s:,]*", re.IGNORECASE)
_THEN = re.compile(r"\s+then\s+|\s*;\s*", re.IGNORECASE)
_WORD_BEHIND = re.compile(r"(?P<word>lines?|l|in|mm|thou|tenths?|um|µm|\")$", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class Dialled:
    """What was dialled in all, on diameter as the dial has it; `last_pass` where it was more than one pass."""

    total: Length
    last_pass: Length | None = None


def parse_dialled(
    text: str, *, unit: Unit, line_mm: Decimal, reads: DialReads, lines_a_turn: Decimal | None = None
) -> Dialled:
    """What was dialled; a bare number is an amount in `unit`, the machine's. Raises InputError.

    `line_mm`: one line of the dial, as it reads. Source: common practice (how a dial is spoken of).

    >>> found = parse_dialled("188 then 20 lines", unit="mm", line_mm=Decimal("0.01"), reads="diameter")
    >>> str(found.total), str(found.last_pass)
    ('2.08 mm', '0.2 mm')
    >>> parse_dialled("passes 188 then 20 lines", unit="mm", line_mm=Decimal("0.01"), reads="diameter").total.mm
    Decimal('2.08')
    >>> str(parse_dialled("1 turn + 5", unit="in", line_mm=Decimal("0.0254"), reads="radius",
    ...     lines_a_turn=Decimal(100)).total)
    '0.21 in'
    """
    per_line = line_on_diameter(line_mm, reads)
    texts = [part for part in _THEN.split(_SAID.sub("", text.strip(), count=1)) if part]
    if not texts:
        raise UnreadableLength("Nothing was entered.", HOW, field="dialled", value=text)
    behind = _WORD_BEHIND.search(texts[-1])
    passes: list[Decimal] = []
    for part in texts:
        count, text_of_one = _counted(part)
        whole = f"{text_of_one} {behind['word']}" if behind and _BARE.fullmatch(text_of_one) else text_of_one
        passes += [_one(whole, unit, per_line, lines_a_turn)] * count
    total = sum(passes, Decimal(0))
    if total < 0:
        raise InputError(
            f"{text} is no cut.", "Give what was dialled on diameter; 0 is the same dial again.", field="dialled"
        )
    return Dialled(Length(total, unit, text.strip()), Length(passes[-1], unit) if len(passes) > 1 else None)


def _counted(part: str) -> tuple[int, str]:
    """`8 x 20`: so many passes of one amount."""
    found = _TIMES.fullmatch(part)
    if found is None:
        return 1, part
    if not 1 <= int(found["count"]) <= MOST_PASSES:
        raise OutOfRange(
            f"{found['count']} passes are more than anybody takes between two measurements.", HOW, field="dialled"
        )
    return int(found["count"]), found["amount"]


def _one(text: str, unit: Unit, per_line: Decimal, lines_a_turn: Decimal | None) -> Decimal:
    """One pass, mm on diameter."""
    if lines := _LINES.fullmatch(text):
        return _lines(lines["lines"]) * per_line
    if turns := _TURNS.fullmatch(text):
        if lines_a_turn is None:
            raise InputError(
                "How many lines a turn of this dial has is not known.",
                "Enter it in the Shop, or give lines alone.",
                field="dialled",
            )
        return (int(turns["turns"]) * lines_a_turn + _lines(turns["lines"] or "0")) * per_line
    try:
        return parse_length(text, unit, positive=False).mm
    except UnreadableLength as error:
        raise UnreadableLength(error.problem, HOW, field="dialled", value=text) from None
    except InputError as error:
        raise error.at("dialled") from None


def _lines(text: str) -> Decimal:
    lines = Decimal(text.replace(",", "."))
    if lines > MOST_LINES:
        raise OutOfRange(f"{text} lines cannot be wound in.", "Check the digits.", field="dialled")
    return lines
