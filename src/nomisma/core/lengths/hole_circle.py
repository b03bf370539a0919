"""Holes on a circle: coordinates, chords, and what is left between them."""

from decimal import Decimal
from math import cos, pi, radians, sin

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show_small
from nomisma.core.quantity.fields import Difference, Number, Size
from nomisma.core.quantity.length import Length, Unit, as_mm
from nomisma.core.working import Step
from nomisma.core.worksheet_answer import AnswerTable, Fact, WorksheetAnswer

GEOMETRY = "geometry of a regular polygon: chord = D·sin(180°/n)"
FASTENERS = "ASME Y14.5, fasteners: H − F = 2·T where they are fixed, T where they float (recalled); T is a diameter"


class HoleCircleInput(Model):
    """A circle of so many holes, evenly spread; the first at `start_deg` from the x axis, the others counter-clockwise.

    `x0`, `y0`: where its centre is; `hole`: the holes' diameter, for what is left between them and the sizes over two;
    `stud`: what goes through them, for how far each may be out of place.
    """

    circle: Size
    count: int = Field(ge=2, le=360)
    start_deg: Number = Field(default=Decimal(0), ge=-360, le=360)
    x0: Difference = Length(Decimal(0))
    y0: Difference = Length(Decimal(0))
    hole: Size | None = None
    stud: Size | None = None
    unit: Unit = "mm"


class HoleCircleResult(WorksheetAnswer):
    """The chord between neighbours, the coordinates of every hole, and the metal left between two holes.

    `may_be_off`: how far the centre of each hole may be from its place, the mate's studs no better placed.
    """

    chord: Size
    holes: list[tuple[Difference, Difference]]
    left_between: Difference | None = None
    may_be_off: Size | None = None


@calculation(
    name="hole_circle",
    title="Holes on a circle",
    validity="2 to 360 holes, evenly spread.",
    source=GEOMETRY,
    example={"circle": "4 in", "count": 6, "start_deg": 0, "hole": "0.332 in", "stud": "0.3125 in", "unit": "in"},
)
def hole_circle(given: HoleCircleInput) -> HoleCircleResult:
    """Coordinates and chord. Raises OutOfRange where the holes would run into one another.

    Source: geometry: x = x0 + D/2·cos(a), y = y0 + D/2·sin(a); chord = D·sin(180°/n).

    >>> found = hole_circle(HoleCircleInput(circle="100 mm", count=4, start_deg=45))
    >>> str(found.chord), [str(one) for one in found.holes[0]]
    ('70.7106781 mm', ['35.3553391 mm', '35.3553391 mm'])
    """
    unit, count = given.unit, given.count
    radius = float(given.circle.mm) / 2
    angles = [float(given.start_deg) + 360 * index / count for index in range(count)]
    x0, y0 = float(given.x0.mm), float(given.y0.mm)
    holes = [
        (Length.from_mm(x0 + radius * cos(radians(a)), unit), Length.from_mm(y0 + radius * sin(radians(a)), unit))
        for a in angles
    ]
    chord = as_mm(2 * radius * sin(pi / count))
    left = chord - given.hole.mm if given.hole else None
    if left is not None and left <= 0:
        raise OutOfRange(
            f"The holes would run into one another by {show_small(-left, unit)}.",
            "Fewer, smaller, or on a larger circle.",
            field="hole",
        )
    facts = [
        Fact(name="Chord between neighbours", length=Length(chord, unit)),
        Fact(name="Angle between them", words=f"{360 / count:.6g}°"),
    ]
    if left is not None and given.hole:
        facts.append(Fact(name="Metal left between two", length=Length(left, unit)))
        facts.append(Fact(name="Over two neighbours, far sides", length=Length(chord + given.hole.mm, unit)))
        if count % 2 == 0:
            facts.append(
                Fact(name="Over two opposite, far sides", length=Length(given.circle.mm + given.hole.mm, unit))
            )
    play = _play(given)
    if play is not None:
        facts += [
            Fact(name="Play over a stud", length=Length(play, unit)),
            Fact(name="Each may be off, studs screwed into the mate", length=Length(play / 4, unit)),
            Fact(name="Each may be off, bolts through both", length=Length(play / 2, unit)),
        ]
    return HoleCircleResult(
        chord=Length(chord, unit),
        holes=holes,
        left_between=Length(left, unit) if left is not None else None,
        may_be_off=Length(play / 4, unit) if play is not None else None,
        headline=f"{count} holes",
        sentence="Step the chord round with dividers first: it must come back to the first mark.",
        facts=facts,
        table=AnswerTable(
            head=["Hole", "Angle", "x", "y"],
            rows=[
                [Fact(words=str(n)), Fact(words=f"{a % 360:.5g}°"), Fact(length=x), Fact(length=y)]
                for n, (a, (x, y)) in enumerate(zip(angles, holes, strict=True), 1)
            ],
        ),
        steps=[
            "Spot all, then drill all, then finish all: one tool at a time.",
            f"Deburr every one of the {count} on both sides, and count them off.",
        ],
        cautions=[
            (
                "Work clamped or held in a vice for every hole, never by hand; the guard down, hair, sleeves and gloves"
                " away from the drill."
            ),
            "Thin or soft metal seizes on a drill as it breaks through: ease the feed there.",
        ],
        working=[
            Step(
                name="Chord",
                formula="D·sin(180°/n)",
                values=f"{both(given.circle.mm, unit)} × sin({180 / count:.6g}°)",
                result=both(chord, unit, decimals=5),
                source=GEOMETRY,
            ),
            Step(
                name="A hole",
                formula="x0 + D/2·cos(a), y0 + D/2·sin(a)",
                values=f"a = {float(given.start_deg):.5g}° + 360°·k/{count}",
                result="as in the table",
                source=GEOMETRY,
            ),
            *(
                [
                    Step(
                        name="How far a hole may be off",
                        formula="(hole − stud)/4, the stud as badly placed; /2 for a bolt through two such holes",
                        values=f"{both(given.hole.mm, unit)} − {both(given.stud.mm, unit)}",
                        result=f"{both(play / 4, unit, decimals=4)}; {both(play / 2, unit, decimals=4)}",
                        source=FASTENERS,
                    )
                ]
                if play is not None and given.hole and given.stud
                else []
            ),
        ],
    )


def _play(given: HoleCircleInput) -> Decimal | None:
    """What a hole is larger than its stud (mm); None where one is not said. Raises InputError, OutOfRange."""
    if given.stud is None:
        return None
    if given.hole is None:
        raise InputError("The holes' size is needed, to know the play over a stud.", "Give it.", field="hole")
    if given.hole.mm <= given.stud.mm:
        raise OutOfRange(
            f"A stud of {given.stud} does not go through a hole of {given.hole}.", "Check the two.", field="stud"
        )
    return given.hole.mm - given.stud.mm
