"""The steps an instrument is misread by: one table for readings and for what a cut seems to have taken."""

from dataclasses import dataclass
from decimal import Decimal
from functools import cache

from nomisma.core.quantity.length import MM_PER, Unit
from nomisma.core.table import table


@dataclass(frozen=True, slots=True)
class MisreadStep:
    """One step: how far off a reading is by it, in the instrument's own unit and in mm, and what was counted wrongly."""

    step: Decimal
    unit: Unit
    words: str

    @property
    def mm(self) -> Decimal:
        """The step in mm."""
        return self.step * MM_PER[self.unit]

    @property
    def said(self) -> str:
        """With its amount: one turn of the thimble, 0.5 mm; not twice where the words say it."""
        amount = f"{self.step:f} {self.unit}"
        return self.words if self.words.startswith(("half an inch", "a whole inch", amount)) else f"{self.words}, {amount}"


@cache
def misread_steps(unit: Unit) -> tuple[MisreadStep, ...]:
    """Every step of an instrument that reads in `unit`, smallest first. Source: misread_steps.csv, where its source stands.

    >>> [str(one.step) for one in misread_steps("mm")]
    ['0.5', '1', '10', '25']
    """
    rows = table("quantity", "misread_steps.csv")
    return tuple(MisreadStep(Decimal(row["step"]), unit, row["words"]) for row in rows if row["unit"] == unit)
