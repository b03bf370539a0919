"""Which drill is that, and which are next to it: numbers, letters, fractions and millimetres in one row."""

from bisect import bisect_left
from decimal import Decimal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import OutOfRange
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show_small
from nomisma.core.quantity.drills import SAME_DRILL_MM, drill_table, drills_of_size
from nomisma.core.quantity.fields import Difference, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import Step


class DrillSizesInput(Model):
    """A size, as measured or as wanted; `around`: how many drills on each side."""

    size: Size
    around: int = Field(default=5, ge=1, le=20)
    unit: Unit = "in"


class DrillNear(Model):
    """A drill of the tables and how far it is from the size asked for."""

    name: str
    size: Size
    over: Difference


class DrillSizesResult(Model):
    """The nearest drill, and the row it stands in, smallest first."""

    nearest: DrillNear
    row: list[DrillNear]
    sentence: str
    working: list[Step]


@calculation(
    name="drill_sizes",
    title="Which drill is that?",
    validity="Number, letter, fractional (64ths to 2 in) and metric (tenths to 25 mm, halves to 50 mm) twist drills.",
    source="ASME B94.11M for number and letter sizes, recalled; fractions and tenths by definition",
    example={"size": "0.2031 in"},
)
def drill_sizes(given: DrillSizesInput) -> DrillSizesResult:
    """The drills about a size, in order. Raises OutOfRange.

    Source: ASME B94.11M for number and letter sizes, recalled; fractions of an inch and tenths of a millimetre by
    definition.

    >>> drill_sizes(DrillSizesInput(size="0.2031 in")).nearest.name
    '13/64 in'
    """
    table = drill_table()
    wanted, unit = given.size.mm, given.unit
    if not table[0][1] / 2 <= wanted <= table[-1][1] * Decimal("1.05"):
        raise OutOfRange(
            f"No drill of the tables is near {given.size}.", "They go from #80 (0.0135 in) to 2 in.", field="size"
        )
    at = bisect_left([size for _, size in table], wanted)
    near = [DrillNear(name=name, size=Length(size, unit), over=Length(size - wanted, unit)) for name, size in table]
    nearest = min(near, key=lambda one: abs(one.over.mm))
    row = near[max(at - given.around, 0) : at + given.around]
    return DrillSizesResult(
        nearest=nearest,
        row=row,
        sentence=_sentence(given, nearest),
        working=[
            Step(
                name="Nearest",
                formula="the least difference over all tables",
                values=both(wanted, unit),
                result=f"{nearest.name}, {both(nearest.size.mm, unit)}",
                source="ASME B94.11M, recalled; fractions and tenths by definition",
            )
        ],
    )


def _sentence(given: DrillSizesInput, nearest: DrillNear) -> str:
    if abs(nearest.over.mm) <= SAME_DRILL_MM:
        names = " and ".join(drills_of_size(given.size.mm))
        return f"{given.size} is {names}. Measure the drill all the same: a shank is worn, a point is ground."
    amount = show_small(abs(nearest.over.mm), given.unit)
    return f"The nearest is {nearest.name}, {amount} {'over' if nearest.over.mm > 0 else 'under'}."
