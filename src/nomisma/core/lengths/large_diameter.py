"""A diameter too large for the micrometer: by a chord and its height, or over two rollers on a plate."""

from decimal import Decimal
from typing import Literal

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError
from nomisma.core.measuring.indirect import by_chord, by_rollers
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show_exact, show_small
from nomisma.core.quantity.fields import Difference, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import Step
from nomisma.core.worksheet_answer import Fact, WorksheetAnswer

GEOMETRY = "geometry of a circle: chord² = 4·h·(D − h); over rollers on a plate (M − d)² = 4·D·d"


class LargeDiameterInput(Model):
    """`chord` and `height` of the arc over it; or over two rollers (`over`) of one diameter (`roller`) beside the round
    on a plate.

    `reading_uncertainty`: of the height, or of the size over the rollers.
    """

    by: Literal["chord", "rollers"] = "chord"
    chord: Size | None = None
    height: Size | None = None
    over: Size | None = None
    roller: Size | None = None
    reading_uncertainty: Difference | None = None
    unit: Unit = "mm"


class LargeDiameterResult(WorksheetAnswer):
    """The diameter, and how far a reading's uncertainty moves it."""

    diameter: Size
    uncertainty: Size | None = None


@calculation(
    name="large_diameter",
    title="A large diameter",
    validity="Rounds that are round; a chord of a good part of the diameter, or the reading's error is blown up.",
    source=GEOMETRY,
    example={"by": "chord", "chord": "12 in", "height": "1.500 in", "reading_uncertainty": "0.001 in", "unit": "in"},
)
def large_diameter(given: LargeDiameterInput) -> LargeDiameterResult:
    """The diameter and what it is worth. Raises InputError for what is missing, OutOfRange for a height above half the
    chord.

    Source: geometry: D = c²/(4·h) + h; D = (M − d)²/(4·d).

    >>> str(large_diameter(LargeDiameterInput(chord="80 mm", height="20 mm")).diameter)
    '100 mm'
    >>> str(large_diameter(LargeDiameterInput(by="rollers", over="120 mm", roller="20 mm")).diameter)
    '125 mm'
    """
    unit = given.unit
    if given.by == "chord":
        chord, height = _both(given.chord, given.height, "chord", "height")
        diameter, share = by_chord(chord, height), abs(1 - chord**2 / (4 * height**2))
        formula, values = (
            "chord²/(4·height) + height",
            f"{both(chord, unit)}²/(4 × {both(height, unit)}) + {both(height, unit)}",
        )
    else:
        over, roller = _both(given.over, given.roller, "over", "roller")
        diameter, share = by_rollers(over, roller), (over - roller) / (2 * roller)
        formula, values = (
            "(over − roller)²/(4·roller)",
            f"({both(over, unit)} − {both(roller, unit)})²/(4 × {both(roller, unit)})",
        )
    worth = given.reading_uncertainty.mm * share if given.reading_uncertainty else None
    diameter = diameter.quantize(Decimal("1e-6")).normalize() + 0
    facts = [Fact(name="A thou or a µm of the reading counts", words=f"{share:.2f} times")]
    if worth is not None:
        facts.append(Fact(name="So the diameter is worth ±", length=Length(worth.quantize(Decimal("1e-6")), unit)))
    return LargeDiameterResult(
        diameter=Length(diameter, unit),
        uncertainty=Length(worth, unit) if worth else None,
        headline=show_exact(diameter, unit),
        headline_length=Length(diameter, unit),
        sentence=(
            f"The diameter is worth ±{show_small(worth, unit)}."
            if worth
            else "Say what a reading is worth, to know what this is worth."
        ),
        facts=facts,
        notes=["A larger chord, or larger rollers, blow the reading’s error up less."] if share > 5 else [],
        working=[
            Step(name="Diameter", formula=formula, values=values, result=both(diameter, unit), source=GEOMETRY),
            Step(
                name="What a reading’s error becomes",
                formula="derivative of the same",
                result=f"× {share:.3f}",
                source=GEOMETRY,
            ),
        ],
    )


def _both(first: Length | None, second: Length | None, *names: str) -> tuple[Decimal, Decimal]:
    for size, name in zip((first, second), names, strict=True):
        if size is None:
            raise InputError("This is needed.", "Give it a value.", field=name)
    assert first is not None
    assert second is not None
    return first.mm, second.mm
