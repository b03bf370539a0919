"""A turret of carriage stops: which stop for which step, in an order on the turret that the stops' own thickness
allows.
"""

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from itertools import combinations, pairwise, permutations

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, OutOfRange, UnreadableLength
from nomisma.core.lengths.second_piece import Comparison, compared, said_of
from nomisma.core.model import Model
from nomisma.core.number import number_from
from nomisma.core.quantity.display import both, show_exact, show_small
from nomisma.core.quantity.fields import Difference, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import parse_length, split_sizes
from nomisma.core.working import COMMON_PRACTICE, Step
from nomisma.core.worksheet_answer import AnswerTable, Fact, WorksheetAnswer

MOST_STATIONS = 8
HOW = (
    "Write a step a line: turn head, tool 2, at 12.5, dial 20.00, 600 rpm; short behind one that stops before its mark,"
    " needle behind one read by a needle at its stop."
)
_TOOL = re.compile(r"tool\s+(?P<tool>.{1,12})", re.IGNORECASE)
_AT = re.compile(r"at\s+(?P<at>.+)", re.IGNORECASE)
_DIAL = re.compile(r"dial\s+(?P<dial>.+)", re.IGNORECASE)
_RPM = re.compile(r"(?P<rpm>[0-9.,]+)\s*rpm", re.IGNORECASE)
SAME_MM = Decimal("0.0005")
Clashing = set[frozenset[Decimal]]
"""Pairs of places (mm) that cannot be neighbours on the turret."""


class StopsInput(Model):
    """Steps of the work, one a line, each with where its carriage stops; the turret's stations and how thick a stop is.

    `apart`: two stops nearer than this along the axis cannot be neighbours on the turret. `short`: what roughing stops
    before its mark. `needle_room`: what a step with a needle at its stop keeps free of neighbours. `first_piece`,
    `second_piece`: what was measured, a length a step in their order, - where none was; `repeats`: within what a stop
    comes back.
    """

    steps: str = Field(
        max_length=4000,
        examples=["stock out, at 45\nface, tool 1, at 0\nturn head, tool 2, at 12.5, dial 20.00, 600 rpm"],
    )
    stations: int = Field(default=6, ge=2, le=MOST_STATIONS)
    apart: Size = Length.of("0.375", "in")
    short: Difference = Length.of("0.003", "in")
    needle_room: Size = Length.of("1.5", "in")
    first_piece: str = Field(default="", max_length=600)
    second_piece: str = Field(default="", max_length=600)
    repeats: Size = Length.of("0.0005", "in")
    unit: Unit = "mm"


class StopStep(Model):
    """One step as it is done: the stop it runs against, where that stands, and what its line says besides."""

    number: int
    name: str
    stop: int
    stands: Difference
    tool: str = ""
    dial: str = ""
    rpm: str = ""
    is_short: bool = False
    by_needle: bool = False
    second_longer: Difference | None = None


class StopsResult(WorksheetAnswer):
    """The steps in the order of the work, each with its stop; the stops in the order they stand on the turret.

    `stations`: the turret station by station from 1 on, as far as it is filled; an empty one keeps two stops apart.
    Stops are numbered by it.
    """

    in_order: list[StopStep]
    turret: list[Difference]
    stations: tuple[Difference | None, ...] = ()  # answers kept before it was there have none


@dataclass(frozen=True, slots=True)
class _Line:
    name: str
    at_mm: Decimal
    tool: str = ""
    dial: str = ""
    rpm: str = ""
    is_short: bool = False
    by_needle: bool = False


@calculation(
    name="stops",
    title="A turret of carriage stops",
    validity=f"2 to {MOST_STATIONS} stations in a ring; positions of the carriage from one zero; steps at one place "
        "share a stop.",
    source="every order of the ring is tried (exact); common practice, no source (short by 0.002 to 0.005 in until the "
        "last pass)",
    example={"steps": "stock out, at 1.900\nface, tool 1, at 0, 400 rpm\nturn head, tool 2, at 0.750, dial .800, 600 "
        "rpm\n"
                      "turn stem, tool 2, at 1.250, dial .500, 600 rpm, short\ngroove, tool 3, at 0.812, dial .400, "
                      "200 rpm\n"
                      "part, tool 4, at 1.500, 150 rpm",
             "stations": 6, "unit": "in"},
)  # fmt: skip
def stops(given: StopsInput) -> StopsResult:
    """An order on the turret in which no two neighbours clash. Raises InputError for a line that is no step, OutOfRange
    where there is none.

    Source: every order of the ring is tried (exact).

    >>> found = stops(StopsInput(steps="a, at 0\\nb, at 5\\nc, at 20\\nd, at 25", stations=4, apart="10 mm"))
    >>> [str(one) for one in found.turret]
    ['0 mm', '20 mm', '5 mm', '25 mm']
    """
    lines = _lines(given)
    places = _places(lines)
    if len(places) > given.stations:
        raise OutOfRange(
            f"That is {len(places)} different stops, and the turret has {given.stations}.",
            "Let steps share one, or set one with slips.",
            field="stations",
        )
    near = _clashing(lines, given)
    ring = _ring(places, near, given)
    stations = _stations(ring, near)
    found = _second_piece(lines, given)
    unit = given.unit
    number = {at: index for index, at in enumerate(stations, 1) if at is not None}
    short = given.short.mm
    in_order = [
        StopStep(
            number=n,
            name=one.name,
            stop=number[one.at_mm],
            stands=Length(one.at_mm, unit),
            tool=one.tool,
            dial=one.dial,
            rpm=one.rpm,
            is_short=one.is_short,
            by_needle=one.by_needle,
            second_longer=Length(longer, unit) if longer is not None else None,
        )
        for n, (one, longer) in enumerate(zip(lines, found.longer_mm, strict=True), 1)
    ]
    return StopsResult(
        in_order=in_order,
        turret=[Length(at, unit) for at in ring],
        stations=tuple(Length(at, unit) if at is not None else None for at in stations),
        headline=f"{len(ring)} stops",
        sentence=_sentence(ring, near, unit),
        facts=[
            (
                Fact(name=f"Stop {index}", length=Length(at, unit))
                if at is not None
                else Fact(name=f"Station {index}", words="stays empty")
            )
            for index, at in enumerate(stations, 1)
        ],
        table=_table(in_order, short, unit),
        notes=[*_notes(lines, places), *_notes_of_second(in_order, found, unit)],
        steps=[
            (
                "Set each stop with slips between it and the saddle, the longest first; lock it and look again with the"
                " needle."
            ),
            "Same force against a stop each time, feed out before it: a stop is not for stopping the feed.",
            "After the first piece measure every length; a stop that is off is moved, not dialled round.",
        ],
        cautions=["No power feed into a fixed stop."],
        working=[
            Step(
                name="Which may be neighbours",
                formula=_neighbours(lines, given),
                values=", ".join(show_exact(at, unit) for at in places),
                result=" – ".join(show_exact(at, unit) for at in (*ring, ring[0])),
                source="every order of the ring is tried",
            ),
            *_working_of_second(found, given),
            Step(name="Short", formula="until the last pass", result=both(short, unit), source=COMMON_PRACTICE),
        ],
    )


def _lines(given: StopsInput) -> list[_Line]:
    texts = [line.strip() for line in given.steps.splitlines() if line.strip()]
    if not texts:
        raise UnreadableLength("Nothing was entered.", HOW, field="steps")
    if len(texts) > 40:
        raise OutOfRange(f"That is {len(texts)} steps.", "At most 40.", field="steps")
    return [_line(text, given.unit) for text in texts]


def _line(text: str, unit: Unit) -> _Line:
    name, *rest = (part.strip() for part in text.split(","))
    found, at = _Line(name, Decimal(0)), None
    for part in rest:
        if match := _AT.fullmatch(part):
            at = _size(match["at"], unit)
        elif match := _TOOL.fullmatch(part):
            found = replace(found, tool=match["tool"])
        elif match := _DIAL.fullmatch(part):
            found = replace(found, dial=str(Length(_size(match["dial"], unit), unit)))
        elif match := _RPM.fullmatch(part):
            found = replace(
                found, rpm=f"{number_from(match['rpm'], least=1, most=100_000, field='steps').normalize():f}"
            )
        elif part.lower() == "short":
            found = replace(found, is_short=True)
        elif part.lower() == "needle":
            found = replace(found, by_needle=True)
        else:
            raise UnreadableLength(
                f"“{part[:30]}” in “{name[:30]}” is not understood.", HOW, field="steps", value=text[:80]
            )
    if at is None:
        raise InputError(f"Where “{name[:30]}” stops is not said.", HOW, field="steps", value=text[:80])
    return replace(found, at_mm=at)


def _size(text: str, unit: Unit) -> Decimal:
    try:
        return parse_length(text, unit, positive=False).mm
    except InputError as error:
        raise error.at("steps") from None


def _places(lines: Sequence[_Line]) -> list[Decimal]:
    """The different places, in their order along the axis."""
    return sorted({one.at_mm for one in lines})


def _clashing(lines: Sequence[_Line], given: StopsInput) -> Clashing:
    """The places that cannot be neighbours: nearer than a stop is thick, or than a needle at one of the two needs."""
    needles = {one.at_mm for one in lines if one.by_needle}

    def room(*pair: Decimal) -> Decimal:
        return max(given.apart.mm, given.needle_room.mm) if needles & set(pair) else given.apart.mm

    return {frozenset(pair) for pair in combinations(_places(lines), 2) if abs(pair[0] - pair[1]) < room(*pair)}


def _neighbours(lines: Sequence[_Line], given: StopsInput) -> str:
    needle = (
        f"; beside a needle at least {show_exact(given.needle_room.mm, given.unit)}"
        if any(one.by_needle for one in lines)
        else ""
    )
    return f"at least {show_exact(given.apart.mm, given.unit)} apart along the axis{needle}"


def _ring(places: list[Decimal], near: Clashing, given: StopsInput) -> list[Decimal]:
    """An order round the turret, the first place first; empty stations keep neighbours apart as well as any stop."""
    empty = given.stations - len(places)
    if len(places) == 1:
        return places
    first, *rest = places
    best: list[Decimal] | None = None
    fewest = empty + 1
    for order in permutations(rest):
        ring = [first, *order]
        clashes = len(_gaps(ring, near))
        if clashes < fewest:
            best, fewest = ring, clashes
            if not clashes:
                break
    if best is None or fewest > empty:
        said = "; ".join(
            " and ".join(show_exact(at, given.unit) for at in sorted(pair)) for pair in sorted(near, key=sorted)
        )
        raise OutOfRange(
            f"No order keeps these apart on {given.stations} stations: {said}.",
            "Share a stop and set the other with slips, or thinner stops.",
            field="apart",
        )
    return best


def _gaps(ring: Sequence[Decimal], near: Clashing) -> list[tuple[Decimal, Decimal]]:
    """The neighbours that a station must stay empty between; of two stops alone, they are neighbours either
    way round.
    """
    return [pair for pair in pairwise([*ring, ring[0]]) if frozenset(pair) in near]


def _stations(ring: Sequence[Decimal], near: Clashing) -> list[Decimal | None]:
    """The turret from station 1 on, as far as it is filled."""
    found: list[Decimal | None] = []
    for at, after in pairwise([*ring, ring[0]]):
        found += [at, None] if frozenset((at, after)) in near else [at]
    return found


def _sentence(ring: Sequence[Decimal], near: Clashing, unit: Unit) -> str:
    clashing = _gaps(ring, near)
    if not clashing:
        return "In this order round the turret no two neighbours clash."
    if len(ring) == 2:
        return "These two clash and are neighbours either way round: with an empty station on both sides between them."
    gaps = "; ".join(f"between {show_exact(one, unit)} and {show_exact(other, unit)}" for one, other in clashing)
    return f"In this order, with an empty station {gaps}."


def _second_piece(lines: Sequence[_Line], given: StopsInput) -> Comparison:
    first, second = (
        _measured(name, getattr(given, name), len(lines), given.unit) for name in ("first_piece", "second_piece")
    )
    return compared(first, second, given.repeats.mm)


def _measured(field: str, text: str, count: int, unit: Unit) -> list[Decimal | None]:
    """The lengths of a piece by step, mm; None where none was measured. Raises InputError."""
    parts = split_sizes(text) if text.strip() else []
    if len(parts) > count:
        raise InputError(
            f"That is {len(parts)} lengths, and there are {count} steps.",
            "One a step, in their order; - for none.",
            field=field,
        )
    try:
        found = [None if part in ("-", "–", "−") else _at(parse_length(part, unit, positive=False)) for part in parts]
    except InputError as error:
        raise error.at(field) from None
    return [*found, *[None] * (count - len(found))]


def _at(length: Length) -> Decimal:
    """Where a step ends, mm; the face itself is at 0. Raises OutOfRange below it."""
    if length.mm < 0:
        raise OutOfRange(f"{length} lies before the face.", "Count from the face: it is 0.", value=length.text)
    return length.mm


def _notes_of_second(in_order: Sequence[StopStep], found: Comparison, unit: Unit) -> list[str]:
    return said_of(found, [one.name for one in in_order], [f"stop {one.stop} is tight" for one in in_order], unit)


def _working_of_second(found: Comparison, given: StopsInput) -> list[Step]:
    if all(one is None for one in found.longer_mm):
        return []
    values = ", ".join("–" if one is None else show_small(one, given.unit, signed=True) for one in found.longer_mm)
    return [
        Step(
            name="Second piece less first",
            formula=(
                f"moved where it differs from what most share by more than {show_small(given.repeats.mm, given.unit)}"
            ),
            values=values,
            result=f"shared {show_small(found.shared_mm, given.unit, signed=True)}; moved {len(found.moved)}",
            source=COMMON_PRACTICE,
        ),
    ]


def _table(in_order: Sequence[StopStep], short: Decimal, unit: Unit) -> AnswerTable:
    second = any(one.second_longer is not None for one in in_order)
    rows = [
        [
            Fact(words=f"{one.number}. {one.name}"),
            Fact(words=str(one.stop)),
            Fact(length=one.stands),
            Fact(words=one.tool),
            Fact(words=one.dial),
            Fact(words=one.rpm),
            Fact(words=_how_far(one, short, unit)),
            *([Fact(length=one.second_longer, small=True)] if second else []),
        ]
        for one in in_order
    ]
    head = [
        "Step",
        "Stop",
        "Carriage at",
        "Tool",
        "Cross-slide",
        "rpm",
        "How far",
        *(["Second piece"] if second else []),
    ]
    return AnswerTable(head=head, rows=rows, ticked=True)


def _how_far(one: StopStep, short: Decimal, unit: Unit) -> str:
    far = f"{show_small(short, unit)} short until the last" if one.is_short else "to the stop"
    return f"{far}, by the needle" if one.by_needle else far


def _notes(lines: Sequence[_Line], places: Sequence[Decimal]) -> list[str]:
    shared = [at for at in places if sum(one.at_mm == at for one in lines) > 1]
    found = []
    for at in shared:
        names = ", ".join(one.name for one in lines if one.at_mm == at)
        found.append(f"{names} stop at the same place and share a stop.")
    close = [pair for pair in pairwise(places) if pair[1] - pair[0] < SAME_MM]
    if close:
        found.append("Two places differ by less than half a micron: one stop does for both.")
    return found
