"""A chain of lengths: what is left over at its end, worst case and likely, which link to tighten, and what one datum
would do.
"""

import re
from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from itertools import accumulate

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, OutOfRange, UnreadableLength
from nomisma.core.fits.called_out import called_out
from nomisma.core.fits.iso286 import SOURCE as ISO_286
from nomisma.core.lengths.faces import Faces, dimensions_between, said_twice
from nomisma.core.measuring.combination import combined, rectangular
from nomisma.core.model import Model
from nomisma.core.quantity.callout import FitCode, Limits, parse_callout
from nomisma.core.quantity.display import both, show_exact, show_small
from nomisma.core.quantity.fields import Difference, Number
from nomisma.core.quantity.length import Length, Unit, as_mm
from nomisma.core.quantity.writing import parse_length
from nomisma.core.working import ARITHMETIC, Step
from nomisma.core.worksheet_answer import AnswerTable, Fact, WorksheetAnswer

MOST_LINKS = 40
SIMULATED = 20_000
HOW_FACES = "Write a dimension a line, between two faces: A-B 40 ±0.1, the face further left first."
HOW = "Write a link a line: 25 ±0.1, or − B 10 +0.05/0; a minus before what points back."
_LINE = re.compile(r"(?P<sign>[+\-−])?\s*(?:(?P<name>[A-Za-z][A-Za-z ]{0,24}?):?\s+)?(?P<size>[0-9.].*)")
_FACES = re.compile(r"(?P<first>[A-Za-z][A-Za-z0-9]{0,7})\s*[-–]\s*(?P<last>[A-Za-z][A-Za-z0-9]{0,7})")
_BETWEEN = re.compile(_FACES.pattern + r":?\s+(?P<size>[0-9.].*)")
RANDOM = "drawn evenly between the limits of each link, the same draw each time"


class ChainInput(Model):
    """Links, one a line, in the order they are met; a minus before one that points back. `closing`: limits the end must
    keep.

    A link without limits is exact, as a reading is; `reading_uncertainty` is what such a one is worth, ± (k = 2).
    Or dimensions between faces, from as many datum faces as there are (A-B 40 ±0.1): `between` says which two are asked
    for (B-D).
    """

    links: str = Field(max_length=4000, examples=["A 40 ±0.1\n- B 25 ±0.05\n- C 14.6 +0/-0.1"])
    between: str = Field(default="", max_length=40)
    closing: str = Field(default="", max_length=80)
    reading_uncertainty: Difference | None = None
    unit: Unit = "mm"


class ChainLink(Model):
    """One link as it was understood: its limits, which way it points, its share of what the end may vary, and to what
    it could be tightened.
    """

    name: str
    points_back: bool
    lower: Difference
    upper: Difference
    share_percent: Number
    tightened: Difference | None = None


class ChainResult(WorksheetAnswer):
    """The end of the chain: least and greatest, and within what it lies for nearly all (root sum of squares, and by
    simulation).
    """

    links: list[ChainLink]
    least: Difference
    greatest: Difference
    likely_least: Difference
    likely_greatest: Difference
    simulated_least: Difference
    simulated_greatest: Difference
    closes: bool | None = None
    out_percent: float | None = None


@dataclass(frozen=True, slots=True)
class _Link:
    name: str
    sign: int
    lower_mm: Decimal
    upper_mm: Decimal
    is_reading: bool = False

    @property
    def middle_mm(self) -> Decimal:
        return (self.lower_mm + self.upper_mm) / 2

    @property
    def half_mm(self) -> Decimal:
        return (self.upper_mm - self.lower_mm) / 2


@dataclass(frozen=True, slots=True)
class _Chain:
    links: tuple[_Link, ...]

    @property
    def middle_mm(self) -> Decimal:
        return sum((one.sign * one.middle_mm for one in self.links), Decimal(0))

    @property
    def worst_mm(self) -> Decimal:
        """How far the end may be from its middle, mm."""
        return sum((one.half_mm for one in self.links), Decimal(0))

    @property
    def likely_mm(self) -> Decimal:
        """The root of the sum of the squares of the half tolerances, mm."""
        return combined([one.half_mm for one in self.links]).standard


@calculation(
    name="chain",
    title="A chain of lengths",
    validity=(
        f"From 2 to {MOST_LINKS} links in one direction; for what is likely: links independent of one another and of a"
        " like share."
    ),
    source="arithmetic (worst case); root sum of squares; simulation with evenly spread links",
    example={"links": "A 40 ±0.1\n- B 25 ±0.05\n- C 14.6 +0/-0.1", "closing": "0.2/0.6"},
)
def chain(given: ChainInput) -> ChainResult:
    """The end of a chain, and what to tighten for it to close. Raises InputError for a line that is no link,
    OutOfRange.

    Source: arithmetic; root sum of squares of the half tolerances; simulation (evenly spread, 99.73 % of 20 000 draws).

    >>> found = chain(ChainInput(links="A 40 ±0.1\\n- B 25 ±0.05\\n- C 14.6 ±0.05"))
    >>> str(found.least), str(found.greatest), str(found.likely_greatest)
    ('0.2 mm', '0.6 mm', '0.522474487 mm')
    """
    found = _Chain(tuple(_links(given)))
    if len(found.links) < 2:
        raise InputError("A chain has at least two links.", HOW, field="links")
    closing = _closing(given)
    ends = [found.middle_mm - found.worst_mm, found.middle_mm + found.worst_mm]
    likely = [found.middle_mm - found.likely_mm, found.middle_mm + found.likely_mm]
    drawn, out = _simulated(found, closing)
    unit = given.unit
    closes = None if closing is None else closing[0] <= ends[0] and ends[1] <= closing[1]
    tightened = _tightened(found, closing)
    shares = combined([one.half_mm for one in found.links]).shares_percent
    return ChainResult(
        links=[
            ChainLink(
                name=one.name,
                points_back=one.sign < 0,
                lower=Length(one.lower_mm, unit),
                upper=Length(one.upper_mm, unit),
                share_percent=share.quantize(Decimal("0.1")),
                tightened=Length(half, unit) if half is not None else None,
            )
            for one, share, half in zip(found.links, shares, tightened, strict=True)
        ],
        **{
            name: _rounded(mm, unit)
            for name, mm in zip(
                ("least", "greatest", "likely_least", "likely_greatest", "simulated_least", "simulated_greatest"),
                [*ends, *likely, *drawn],
                strict=True,
            )
        },
        closes=closes,
        out_percent=out,
        headline=f"{show_exact(ends[0], unit)} to {show_exact(ends[1], unit)}",
        headline_length=_rounded(ends[0], unit),
        headline_to=_rounded(ends[1], unit),
        sentence=_sentence(found, closing, closes=closes, out=out, unit=unit),
        facts=_facts(found, ends, likely, drawn, unit),
        table=_table(found, tightened, given),
        notes=[*_notes(found, closing, closes=closes, unit=unit), *_notes_of_faces(given, found.links)],
        working=_working(found, ends, unit),
    )


def _rounded(mm: Decimal, unit: Unit) -> Length:
    return Length(mm.quantize(Decimal("1e-9")).normalize() + 0, unit)


def _lines(given: ChainInput) -> list[str]:
    lines = [line.strip() for line in re.split(r"[\n;]", given.links) if line.strip()]
    if len(lines) > MOST_LINKS:
        raise OutOfRange(f"That is {len(lines)} links.", f"At most {MOST_LINKS}.", field="links")
    return lines


def _links(given: ChainInput) -> list[_Link]:
    lines = _lines(given)
    matches = [_BETWEEN.fullmatch(line) for line in lines]
    if any(matches) or given.between.strip():
        return _links_between(lines, matches, given)
    return [_link(line, chr(ord("A") + index % 26), given) for index, line in enumerate(lines)]


def _link(line: str, letter: str, given: ChainInput) -> _Link:
    match = _LINE.fullmatch(line)
    if match is None:
        raise UnreadableLength(f"“{line[:40]}” is no link.", HOW, field="links", value=line[:80])
    try:
        lower, upper, is_reading = _ends(match["size"], given)
    except InputError as error:
        raise error.at("links") from None
    if lower <= 0:
        raise OutOfRange(
            f"“{line[:40]}” is no length.", "A link that points back has a minus before it.", field="links"
        )
    return _Link((match["name"] or letter).strip(), -1 if match["sign"] in ("-", "−") else 1, lower, upper, is_reading)


def _links_between(lines: list[str], matches: Sequence[re.Match[str] | None], given: ChainInput) -> list[_Link]:
    """The dimensions that lead from one face to the other, as links; those gone against their way point back."""
    wrong = next((line for line, match in zip(lines, matches, strict=True) if match is None), None)
    if wrong is not None:
        raise UnreadableLength(
            f"“{wrong[:40]}” is no dimension between two faces.", HOW_FACES, field="links", value=wrong[:80]
        )
    dimensions = _dimensions(matches)
    first, last = _asked_faces(dimensions, given)
    way = dimensions_between(dimensions, first, last)
    if way is None:
        raise OutOfRange(
            f"No dimensions lead from {first} to {last}.",
            "Add the one that is missing, or check the letters.",
            field="between",
        )
    if len(way) == 1:
        raise InputError(
            f"{first} to {last} is one dimension, no chain.", "Ask for two faces that no line joins.", field="between"
        )
    return [
        _link(f"{'-' if sign < 0 else ''}{match['size']}", f"{left}–{right}", given)
        for index, sign in way
        if (match := matches[index]) is not None
        for left, right in [dimensions[index]]
    ]


def _dimensions(matches: Sequence[re.Match[str] | None]) -> list[Faces]:
    found = [(match["first"].upper(), match["last"].upper()) for match in matches if match is not None]
    alike = next((left for left, right in found if left == right), None)
    if alike is not None:
        raise InputError(f"A dimension from {alike} to itself.", HOW_FACES, field="links")
    return found


def _asked_faces(dimensions: list[Faces], given: ChainInput) -> Faces:
    """The two faces asked for; where none are, the two whose dimensions were typed first and last."""
    match = _FACES.fullmatch(given.between.strip())
    if match is None and given.between.strip():
        raise InputError(f"“{given.between}” is not two faces.", "Write the two letters: B-D.", field="between")
    asked = (match["first"].upper(), match["last"].upper()) if match else (dimensions[0][0], dimensions[-1][1])
    known = {face for pair in dimensions for face in pair}
    for face in asked:
        if face not in known:
            raise OutOfRange(
                f"No dimension goes to a face {face}.", f"There are {', '.join(sorted(known))}.", field="between"
            )
    if asked[0] == asked[1]:
        raise InputError(f"From {asked[0]} to itself is no chain.", "Write two faces: B-D.", field="between")
    return asked


def _notes_of_faces(given: ChainInput, links: Sequence[_Link]) -> list[str]:
    """Which dimensions the chain does not need, and which are said twice over."""
    matches = [_BETWEEN.fullmatch(line) for line in _lines(given)]
    dimensions = _dimensions(matches) if all(matches) else []
    if not dimensions:
        return []
    notes = []
    used = {one.name for one in links}
    spare = [name for left, right in dimensions if (name := f"{left}–{right}") not in used]
    if spare:
        notes.append(f"Not in this chain: {', '.join(spare)}.")
    twice = [f"{dimensions[index][0]}–{dimensions[index][1]}" for index in said_twice(dimensions)]
    if twice:
        notes.append(
            f"{' and '.join(twice)}: the others give that already, with other limits. One of the ring is for reference:"
            " ask which."
        )
    return notes


def _ends(text: str, given: ChainInput) -> tuple[Decimal, Decimal, bool]:
    """The limits of a link, mm, and whether it is a reading, which is as it is."""
    callout = parse_callout(text, given.unit)
    if isinstance(callout, Limits):
        return callout.lower.mm, callout.upper.mm, False
    if isinstance(callout, Length):
        worth = given.reading_uncertainty.mm if given.reading_uncertainty else Decimal(0)
        return callout.mm - worth, callout.mm + worth, True
    if isinstance(callout, FitCode):
        found = called_out("bore" if callout.hole else "shaft", text, unit=given.unit)
        return found.lower_mm, found.upper_mm, False
    raise UnreadableLength(f"“{text[:40]}” is no length.", HOW, value=text[:80])


def _closing(given: ChainInput) -> tuple[Decimal, Decimal] | None:
    text = given.closing.strip()
    if not text:
        return None
    try:
        callout = parse_callout(text, given.unit) if "/" not in text else None
        if isinstance(callout, Limits):
            return callout.lower.mm, callout.upper.mm
        if "/" not in text:
            raise UnreadableLength(f"“{text}” is one size.", "Give two limits: 0.2/0.6, or 5 ±0.2.", value=text)
        first, second = (part.strip() for part in text.split("/", 1))
        other = parse_length(second, given.unit, positive=False)
        ends = sorted((parse_length(first, other.unit, positive=False).mm, other.mm))
    except InputError as error:
        raise error.at("closing") from None
    return ends[0], ends[1]


def _simulated(found: _Chain, closing: tuple[Decimal, Decimal] | None) -> tuple[list[Decimal], float | None]:
    """Where 99.73 % of the drawn ends lie (mm), and how many per cent are out of the closing limits."""
    import numpy as np

    draw = np.random.default_rng(20260101)
    end = np.zeros(SIMULATED)
    for one in found.links:
        end += one.sign * draw.uniform(float(one.lower_mm), float(one.upper_mm), SIMULATED)
    low, high = np.quantile(end, [0.00135, 0.99865])
    out = None
    if closing is not None:
        out = float(np.mean((end < float(closing[0])) | (end > float(closing[1]))) * 100)
    return [as_mm(value) for value in (low, high)], out


def _tightened(found: _Chain, closing: tuple[Decimal, Decimal] | None) -> list[Decimal | None]:
    """Half tolerances (mm) with which the worst case is just as wide as the closing limits, all by the same share.

    None for a reading, and where nothing is to do.
    """
    none: list[Decimal | None] = [None] * len(found.links)
    readings = sum((one.half_mm for one in found.links if one.is_reading), Decimal(0))
    if closing is None or found.worst_mm == readings:
        return none
    room = (closing[1] - closing[0]) / 2 - readings
    share = room / (found.worst_mm - readings)
    if not 0 < share < 1:
        return none
    return [None if one.is_reading else one.half_mm * share for one in found.links]


def _sentence(
    found: _Chain, closing: tuple[Decimal, Decimal] | None, *, closes: bool | None, out: float | None, unit: Unit
) -> str:
    if closing is None:
        return (
            f"The end may vary by ±{show_small(found.worst_mm, unit)} about {show_exact(found.middle_mm, unit)}, at the"
            " worst."
        )
    wanted = f"{show_exact(closing[0], unit)} to {show_exact(closing[1], unit)}"
    if closes:
        return f"It closes: at its worst the end lies within {wanted}."
    return f"At its worst the end leaves {wanted}; drawn at random, {out:.2f} % of pieces do."


def _notes(found: _Chain, closing: tuple[Decimal, Decimal] | None, *, closes: bool | None, unit: Unit) -> list[str]:
    notes = []
    if closing is not None and not closes:
        notes.append(_what_to_tighten(found, closing, unit))
    last = found.links[-1]
    rest = found.worst_mm - last.half_mm
    if rest > 0:
        notes.append(
            f"Chained, the last face may be ±{show_small(found.worst_mm, unit)} from where it belongs. Measured from"
            f" one face it keeps its own ±{show_small(last.half_mm, unit)}; two faces measured so differ by the sum of"
            " their own two alone."
        )
    return notes


def _what_to_tighten(found: _Chain, closing: tuple[Decimal, Decimal], unit: Unit) -> str:
    middle = (closing[0] + closing[1]) / 2
    off = found.middle_mm - middle
    room = (closing[1] - closing[0]) / 2
    widest = max(found.links, key=lambda one: Decimal(0) if one.is_reading else one.half_mm)
    excess = found.worst_mm - room
    if excess <= 0:
        way = "large" if off > 0 else "small"
        return f"The tolerances fit; the middle is {show_small(abs(off), unit)} too {way}: shift one nominal by that."
    shift = f" Its middle is off by {show_small(abs(off), unit)} besides: shift one nominal." if off else ""
    if excess < widest.half_mm:
        left = widest.half_mm - excess
        return (
            f"Tighten {widest.name} from ±{show_small(widest.half_mm, unit)} to ±{show_small(left, unit)}: it has the"
            f" most to give.{shift}"
        )
    return f"No link alone has enough to give: tighten all, as in the last column, or measure from one face.{shift}"


def _facts(
    found: _Chain, ends: Sequence[Decimal], likely: Sequence[Decimal], drawn: Sequence[Decimal], unit: Unit
) -> list[Fact]:
    def span(name: str, pair: Sequence[Decimal]) -> Fact:
        return Fact(name=name, length=_rounded(pair[0], unit), to=_rounded(pair[1], unit))

    return [
        Fact(name="The end, in the middle", length=_rounded(found.middle_mm, unit)),
        span("Worst case", ends),
        span("Root sum of squares", likely),
        span("Simulated, 99.73 %", drawn),
    ]


def _table(found: _Chain, tightened: Sequence[Decimal | None], given: ChainInput) -> AnswerTable:
    """Each link, where its far face is from the datum, and how far that may be off chained and measured from
    the datum.
    """
    unit = given.unit
    sums = accumulate(one.sign * one.middle_mm for one in found.links)
    worst = accumulate(one.half_mm for one in found.links)
    narrower = any(half is not None for half in tightened)

    def within(half: Decimal | None) -> Fact:
        return Fact() if half is None else Fact(before="±", length=_rounded(half, unit), small=True)

    rows = [
        [
            Fact(words=f"{'−' if one.sign < 0 else '+'} {one.name}"),
            Fact(length=_rounded(one.middle_mm, unit)),
            within(one.half_mm),
            Fact(length=_rounded(at, unit)),
            within(off),
            *([within(half)] if narrower else []),
        ]
        for one, at, off, half in zip(found.links, sums, worst, tightened, strict=True)
    ]
    head = [
        "Link",
        "Middle",
        "Its own",
        "Its far face at",
        "Chained, off by",
        *(["To close, all alike"] if narrower else []),
    ]
    return AnswerTable(head=head, rows=rows)


def _working(found: _Chain, ends: Sequence[Decimal], unit: Unit) -> list[Step]:
    signed = " ".join(f"{'−' if one.sign < 0 else '+'} {show_exact(one.middle_mm, unit)}" for one in found.links)
    halves = " + ".join(show_small(one.half_mm, unit) for one in found.links)
    standard = combined([rectangular(one.half_mm) for one in found.links]).standard
    return [
        Step(
            name="Middle of the end",
            formula="sum of the middles, those that point back taken off",
            values=signed.removeprefix("+ "),
            result=both(found.middle_mm, unit),
            source=ARITHMETIC,
        ),
        Step(
            name="Worst case",
            formula="sum of the half tolerances",
            values=halves,
            result=f"±{both(found.worst_mm, unit, decimals=5)}: {both(ends[0], unit)} to {both(ends[1], unit)}",
            source=ARITHMETIC,
        ),
        Step(
            name="Likely",
            formula="√(sum of the squares of the half tolerances)",
            values=halves.replace(" + ", "² + ") + "²",
            result=f"±{both(found.likely_mm, unit, decimals=5)}",
            source="root sum of squares; nearly all where each is held to a third of its limits",
        ),
        Step(
            name="Simulated",
            formula=f"{SIMULATED} ends, {RANDOM}",
            values=f"one standard deviation {both(standard, unit, decimals=5)}",
            result="from the 0.135 % to the 99.865 % of them",
            source="simulation, this tool's own; limit codes: " + ISO_286,
        ),
    ]
