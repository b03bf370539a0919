"""How a shaft will feel in a bore: wring, push, slide, run, shake, by clearance and diameter."""

from decimal import Decimal
from typing import Annotated

from nomisma.core.quantity.length import MM_PER_INCH
from nomisma.core.table import MAYBE, Row, loaded, rows_of

SOURCE = "common practice, no source; the bounds between the feels are this tool's own"


class Feel(Row):
    """One feel and the clearance it reaches up to: base (thou) + growth (thou per inch of diameter); the last has no
    end.
    """

    name: str
    title: str
    base_thou: Annotated[Decimal | None, MAYBE]
    growth_thou_per_in: Annotated[Decimal | None, MAYBE]

    def up_to_mm(self, diameter_mm: Decimal) -> Decimal | None:
        """The clearance (mm) where the next feel begins; None for the last."""
        if self.base_thou is None:
            return None
        return self.base_thou * MM_PER_INCH / 1000 + (self.growth_thou_per_in or Decimal(0)) / 1000 * diameter_mm


@loaded
def feels() -> tuple[Feel, ...]:
    """Every feel, tightest first. Source: feel.csv.

    >>> [one.name for one in feels()][:2]
    ['press', 'wring']
    """
    return tuple(rows_of("joints", "feel.csv", Feel))


def feel_of(clearance_mm: Decimal, diameter_mm: Decimal) -> Feel:
    """How a clearance (mm, below zero is interference) feels at a diameter (mm). Source: common practice, no source.

    >>> feel_of(Decimal("0.020"), Decimal("22.2")).name, feel_of(Decimal("0"), Decimal("22.2")).name
    ('slide', 'wring')
    """
    *others, last = feels()
    ends = ((feel, feel.up_to_mm(diameter_mm)) for feel in others)
    return next((feel for feel, end in ends if end is not None and clearance_mm <= end), last)
