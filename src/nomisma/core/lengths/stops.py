"""A turret of carriage stops: which stop for which step, in an order on the turret that the stops' own thickness allows."""

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from itertools import pairwise, permutations

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, OutOfRange, UnreadableLength
from nomisma.core.model import Model
from nomisma.core.number import number_from
from nomisma.core.quantity.display import both, show_exact, show_small
from nomisma.core.quantity.fields import Difference, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import parse_length
from nomisma.core.working import COMMON_PRACTICE, Step
from nomisma.core.worksheet_answer import AnswerTable, Fact, WorksheetAnswer

MOST_STATIONS = 8
HOW = "Write a step a line: turn head, tool 2, at 12.5, dial 20.00, 600 rpm; short behind one that stops before its mark."
_TOOL = re.compile(r"tool\s+(?P<tool>.{1,12})", re.IGNORECASE)
_AT = re.compile(r"at\s+(?P<at>.+)", re.IGNORECASE)
_DIAL = re.compile(r"dial\s+(?P<dial>.+)", re.IGNORECASE)
_RPM = re.compile(r"(?P<rpm>[0-9.,]+)\s*rpm", re.IGNORECASE)
SAME_MM = Decimal("0.0005")


class StopsInput(Model):
    """Steps of the work, one a line, each with where its carriage stops; the turret's stations and how thick a stop is.

    `apart`: two stops nearer than this along the axis cannot be neighbours on the turret. `short`: what roughing stops before its mark.
    """

    steps: str = Field(
        max_length=4000, examples=["stock out, at 45\nface, tool 1, at 0\nturn head, tool 2, at 12.5, dial 20.00, 600 rpm"]
    )
    stations: int = Field(default=6, ge=2, le=MOST_STATIONS)
    apart: Size = Length.of("0.375", "in")
    short: Difference = Length.of("0.003", "in")
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


class StopsResult(WorksheetAnswer):
    """The steps in the order of the work, each with its stop; the stops in the order they stand on the turret."""

    in_order: list[StopStep]
    turret: list[Difference]


@dataclass(frozen=True, slots=True)
class _Line:
    name: str
    at_mm: Decimal
    tool: str = ""
    dial: str = ""
    rpm: str = ""
    is_short: bool = False


@calculation(
    name="stops",
    title="A turret of carriage stops",
    validity=f"2 to {MOST_STATIONS} stations in a ring; positions of the carriage from one zero; steps at one place share a stop.",
    source="every order of the ring is tried (exact); common practice, no source (short by 0.002 to 0.005 in until the last pass)",
    example={"steps": "stock out, at 1.900\nface, tool 1, at 0, 400 rpm\nturn head, tool 2, at 0.750, dial .800, 600 rpm\n"
                      "turn stem, tool 2, at 1.250, dial .500, 600 rpm, short\ngroove, tool 3, at 0.812, dial .400, 200 rpm\n"
                      "part, tool 4, at 1.500, 150 rpm",
             "stations": 6, "unit": "in"},
)  # fmt: skip
def stops(given: StopsInput) -> StopsResult:
    """An order on the turret in which no two neighbours clash. Raises InputError for a line that is no step, OutOfRange where there is none.

    Source: every order of the ring is tried (exact).

    >>> found = stops(StopsInput(steps="a, at 0\\nb, at 5\\nc, at 20\\nd, at 25", stations=4, apart="10 mm"))
    >>> [str(one) for one in found.turret]
    ['0 mm', '20 mm', '5 mm', '25 mm']
    """
    lines = _lines(given)
    places = _places(lines)
    if len(places) > given.stations:
        raise OutOfRange(
            f"That is {len(places)} different stops, and the turret has {given.stations}.", "Let steps share one, or set one with slips.",
            field="stations",
        )  # fmt: skip
    ring = _ring(places, given)
    unit = given.unit
    number = {at: index + 1 for index, at in enumerate(ring)}
    short = given.short.mm
    in_order = [
        StopStep(
            number=n, name=one.name, stop=number[one.at_mm], stands=Length(one.at_mm, unit), tool=one.tool, dial=one.dial, rpm=one.rpm,
            is_short=one.is_short,
        )
        for n, one in enumerate(lines, 1)
    ]  # fmt: skip
    return StopsResult(
        in_order=in_order, turret=[Length(at, unit) for at in ring],
        headline=f"{len(ring)} stops", sentence=_sentence(ring, given),
        facts=[Fact(name=f"Stop {index}", length=Length(at, unit)) for index, at in enumerate(ring, 1)],
        table=_table(in_order, short, unit),
        notes=_notes(lines, places),
        steps=[
            "Set each stop with slips between it and the saddle, the longest first; lock it and look again with the needle.",
            "Same force against a stop each time, feed out before it: a stop is not for stopping the feed.",
            "After the first piece measure every length; a stop that is off is moved, not dialled round.",
        ],
        cautions=["No power feed into a fixed stop."],
        working=[
            Step(name="Which may be neighbours", formula=f"at least {show_small(given.apart.mm, unit)} apart along the axis",
                 values=", ".join(show_exact(at, unit) for at in places), result=" – ".join(show_exact(at, unit) for at in (*ring, ring[0])),
                 source="every order of the ring is tried"),
            Step(name="Short", formula="until the last pass", result=both(short, unit), source=COMMON_PRACTICE),
        ],
    )  # fmt: skip


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
            found = replace(found, rpm=f"{number_from(match['rpm'], least=1, most=100_000, field='steps').normalize():f}")
        elif part.lower() == "short":
            found = replace(found, is_short=True)
        else:
            raise UnreadableLength(f"“{part[:30]}” in “{name[:30]}” is not understood.", HOW, field="steps", value=text[:80])
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


def _ring(places: list[Decimal], given: StopsInput) -> list[Decimal]:
    """An order round the turret, the first place first; empty stations keep neighbours apart as well as any stop."""
    apart, empty = given.apart.mm, given.stations - len(places)
    first, *rest = places
    near = {frozenset(pair) for pair in _pairs(places) if abs(pair[0] - pair[1]) < apart}
    best: list[Decimal] | None = None
    fewest = empty + 1
    for order in permutations(rest):
        ring = [first, *order]
        clashes = (
            sum(frozenset(pair) in near for pair in pairwise([*ring, first]))
            if len(ring) > 2
            else int(frozenset(places) in near)
        )
        if clashes < fewest:
            best, fewest = ring, clashes
            if not clashes:
                break
    if best is None or fewest > empty:
        said = "; ".join(
            " and ".join(show_exact(at, given.unit) for at in sorted(pair)) for pair in sorted(near, key=sorted)
        )
        raise OutOfRange(
            f"No order keeps these apart on {given.stations} stations: {said}.", "Share a stop and set the other with slips, or thinner stops.",
            field="apart",
        )  # fmt: skip
    return best


def _pairs(places: Sequence[Decimal]) -> list[tuple[Decimal, Decimal]]:
    return [(one, other) for index, one in enumerate(places) for other in places[index + 1 :]]


def _sentence(ring: Sequence[Decimal], given: StopsInput) -> str:
    clashing = [pair for pair in pairwise([*ring, ring[0]]) if len(ring) > 2 and abs(pair[0] - pair[1]) < given.apart.mm]
    if not clashing:
        return "In this order round the turret no two neighbours clash."
    gaps = "; ".join(f"between {show_exact(one, given.unit)} and {show_exact(other, given.unit)}" for one, other in clashing)
    return f"In this order, with an empty station {gaps}."


def _table(in_order: Sequence[StopStep], short: Decimal, unit: Unit) -> AnswerTable:
    rows = [
        [
            Fact(words=f"{one.number}. {one.name}"), Fact(words=str(one.stop)), Fact(length=one.stands), Fact(words=one.tool),
            Fact(words=one.dial),
            Fact(words=one.rpm), Fact(words=f"{show_small(short, unit)} short until the last" if one.is_short else "to the stop"),
        ]
        for one in in_order
    ]  # fmt: skip
    return AnswerTable(head=["Step", "Stop", "Carriage at", "Tool", "Cross-slide", "rpm", "How far"], rows=rows, ticked=True)


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
