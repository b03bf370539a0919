"""How a number goes wrong: the steps an instrument is misread by, and two digits exchanged."""

import re
from collections.abc import Iterator
from decimal import Decimal

from nomisma.core.quantity.length import MM_PER, Length, Unit
from nomisma.core.table import Row, loaded, rows_of

_ONE_NUMBER = re.compile(r"(?P<number>[0-9]*\.?[0-9]+)\s*(?:[^\W\d]+|\")?")
"""One decimal number with or without its unit."""


class MisreadStep(Row):
    """One step: how far off a reading is by it, in the instrument's own unit and in mm, and what was counted
    wrongly.
    """

    unit: Unit
    step: Decimal
    words: str

    @property
    def mm(self) -> Decimal:
        """The step in mm."""
        return self.step * MM_PER[self.unit]

    @property
    def said(self) -> str:
        """With its amount: one turn of the thimble, 0.5 mm; not twice where the words say it."""
        amount = f"{self.step:f} {self.unit}"
        return (
            self.words if self.words.startswith(("half an inch", "a whole inch", amount)) else f"{self.words}, {amount}"
        )


@loaded
def _every_step() -> list[MisreadStep]:
    return rows_of("quantity", "misread_steps.csv", MisreadStep)


def misread_steps(unit: Unit) -> tuple[MisreadStep, ...]:
    """Every step of an instrument that reads in `unit`, smallest first. Source: misread_steps.csv, where its source
    stands.

    >>> [str(one.step) for one in misread_steps("mm")]
    ['0.5', '1', '10', '25']
    """
    return tuple(row for row in _every_step() if row.unit == unit)


def exchanged_digits(size: Length) -> Iterator[Decimal]:
    """Every size (mm) that two neighbouring digits exchanged would have made of one as it was typed; none of what is no
    one number.

    Source: common practice, no source.

    >>> [str(mm) for mm in exchanged_digits(Length.of("2.14", "mm"))]
    ['2.41']
    """
    text = size.text or f"{size.value():f}"
    number = _ONE_NUMBER.fullmatch(text.strip())
    if number is None:
        return
    text = number["number"]
    for index in range(len(text) - 1):
        first, second = text[index], text[index + 1]
        if first.isdigit() and second.isdigit() and first != second:
            swapped = text[:index] + second + first + text[index + 2 :]
            yield Decimal(swapped) * MM_PER[size.unit]
