"""The levels of practice in a four-jaw, from round bar to a cast rim."""

from decimal import Decimal
from typing import Annotated

from pydantic import BeforeValidator, Field

from nomisma.core.errors import NotDefined
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.table import Row, loaded, rows_of
from nomisma.core.truing.surface import Grip, TruedSurface

FromMicrometres = Annotated[float, BeforeValidator(lambda cell: float(cell) / 1000)]
"""A cell in µm, as mm."""


def _waves(cell: str) -> tuple[tuple[str, float], ...]:
    return tuple((number, float(swing_um) / 1000) for number, swing_um in (one.split(":") for one in cell.split()))


class Level(Row):
    """One piece of work to practise on. `waves`: how many go round the turn, and their swing (mm), of the work's own
    shape.
    """

    name: str
    title: str
    words: str
    surface: TruedSurface
    grip: Grip
    places: int
    unit: Unit
    offset_mm: FromMicrometres = Field(alias="offset")
    waves: Annotated[tuple[tuple[int, float], ...], BeforeValidator(_waves)]
    rough_mm: FromMicrometres = Field(alias="rough")
    lean_mm: FromMicrometres = Field(alias="lean")
    backlash_mm: FromMicrometres = Field(alias="backlash")
    drift_mm: FromMicrometres = Field(alias="drift")
    hysteresis_mm: FromMicrometres = Field(alias="hysteresis")
    noise_mm: FromMicrometres = Field(alias="noise")
    graduation_um: Decimal = Field(alias="graduation")
    range_um: Decimal = Field(alias="range")
    lead_um: Decimal = Field(alias="lead")
    target_um: Decimal = Field(alias="target")

    @property
    def graduation(self) -> Length:
        """One line of the indicator, in the level's unit."""
        return Length(self.graduation_um / 1000, self.unit)

    @property
    def range(self) -> Length:
        """How far the indicator reads, in the level's unit."""
        return Length(self.range_um / 1000, self.unit)

    @property
    def lead(self) -> Length:
        """How far one turn of a jaw's screw moves it, in the level's unit."""
        return Length(self.lead_um / 1000, self.unit)

    @property
    def target(self) -> Length:
        """The swing that is good enough, in the level's unit."""
        return Length(self.target_um / 1000, self.unit)

    @property
    def leans(self) -> bool:
        """Whether a far circle is worth reading."""
        return self.lean_mm > 0


FAR_MM = 50.0
"""How far apart the near and the far circle are in practice, mm."""
TURN_LINES = 100
"""Graduations in one turn of the practice indicator's needle."""


@loaded
def levels() -> dict[str, Level]:
    """Every level by name, easiest first. Source: levels.csv.

    >>> list(levels())[0]
    'round_bar'
    """
    return {row.name: row for row in rows_of("practice", "levels.csv", Level)}


def level_named(name: str) -> Level:
    """A level. Raises NotDefined. Source: simulation, this tool's own.

    >>> level_named(next(iter(levels()))).name
    'round_bar'
    """
    if name not in levels():
        raise NotDefined(f"There is no level “{name}”.", f"Choose {', '.join(levels())}.", field="level", value=name)
    return levels()[name]
