"""How a shaft will feel in a bore: wring, push, slide, run, shake, by clearance and diameter."""

from dataclasses import dataclass
from decimal import Decimal
from functools import cache

from nomisma.core.quantity.length import MM_PER_INCH
from nomisma.core.table import table

SOURCE = "common practice, no source; the bounds between the feels are this tool's own"


@dataclass(frozen=True, slots=True)
class Feel:
    """One feel and the clearance it reaches up to: base (mm) + growth (mm per mm of diameter); the last has no end."""

    name: str
    title: str
    base_mm: Decimal | None
    growth: Decimal

    def up_to_mm(self, diameter_mm: Decimal) -> Decimal | None:
        """The clearance (mm) where the next feel begins; None for the last."""
        return None if self.base_mm is None else self.base_mm + self.growth * diameter_mm


@cache
def feels() -> tuple[Feel, ...]:
    """Every feel, tightest first. Source: feel.csv.

    >>> [one.name for one in feels()][:2]
    ['press', 'wring']
    """
    return tuple(
        Feel(
            row["name"],
            row["title"],
            Decimal(row["base_thou"]) * MM_PER_INCH / 1000 if row["base_thou"] else None,
            Decimal(row["growth_thou_per_in"] or 0) / 1000,
        )
        for row in table("joints", "feel.csv")
    )


def feel_of(clearance_mm: Decimal, diameter_mm: Decimal) -> Feel:
    """How a clearance (mm, below zero is interference) feels at a diameter (mm). Source: common practice, no source.

    >>> feel_of(Decimal("0.020"), Decimal("22.2")).name, feel_of(Decimal("0"), Decimal("22.2")).name
    ('slide', 'wring')
    """
    *others, last = feels()
    ends = ((feel, feel.up_to_mm(diameter_mm)) for feel in others)
    return next((feel for feel, end in ends if end is not None and clearance_mm <= end), last)
