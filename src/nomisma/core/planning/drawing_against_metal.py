"""The drawing against the metal, before the saw: a size said twice without seeing the first, and the stock as
measured.
"""

from collections.abc import Iterator
from decimal import Decimal

from nomisma.core.calculation import calculation
from nomisma.core.model import Model
from nomisma.core.quantity.display import show_exact, show_sawn
from nomisma.core.quantity.fields import Size
from nomisma.core.quantity.length import MM_PER_INCH, Length, Unit, in_unit, round_to
from nomisma.core.quantity.misread_steps import exchanged_digits
from nomisma.core.working import COMMON_PRACTICE, Step
from nomisma.core.worksheet_answer import Fact, WorksheetAnswer

SAW_CAUTION = (
    "Clamp the stock in the saw; support the end that falls; no hand near the blade; stop it before you measure."
)
SAME_MM = Decimal("0.01")
"""How far two sayings of one size may differ: what rounding to a thou or a hundredth makes. Source: common practice, no
source.
"""
_STEPS: tuple[tuple[Decimal, str], ...] = (
    (MM_PER_INCH, "exactly one inch"), (10 * MM_PER_INCH, "exactly ten inches"), (Decimal(10), "exactly 10 mm"),
    (Decimal(25), "exactly 25 mm"),
    (Decimal(100), "exactly 100 mm"),
)  # fmt: skip
_FACTORS: tuple[tuple[Decimal, str], ...] = (
    (MM_PER_INCH, "inch taken for mm"), (Decimal(10), "a decimal point one place off"), (Decimal(2),
    "a radius taken for a diameter, or one of two"),
)  # fmt: skip


class DrawingAgainstMetalInput(Model):
    """Overall length and greatest diameter as they are planned with, and as typed again from the drawing; the stock as
    measured.

    `may_differ`: what two sayings may lie apart, for one may be a nominal and the other the middle of its limits.
    `blank`: how long it is to be sawn; `across`: the least the stock must be across (of a round its diameter).
    """

    length: Size
    length_again: Size
    diameter: Size | None = None
    diameter_again: Size | None = None
    blank: Size
    across: Size | None = None
    stock_length: Size | None = None
    stock_across: Size | None = None
    may_differ: Size = Length(SAME_MM)
    unit: Unit = "mm"


class DrawingAgainstMetalResult(WorksheetAnswer):
    """Whether the saw may start, and each thing that is against it."""

    may_saw: bool
    against: list[str]
    length: Size
    blank: Size


@calculation(
    name="drawing_against_metal",
    title="The drawing against the metal",
    validity="One part from one piece of stock; the second saying made without the first in sight.",
    source="common practice, no source",
    example={"length": "1.980 in", "length_again": "1.980 in", "diameter": "1.375 in", "diameter_again": "1.375 in",
        "blank": "2.41 in",
             "across": "1.40 in", "stock_length": "2.75 in", "stock_across": "1.5 in", "unit": "in"},
)  # fmt: skip
def drawing_against_metal(given: DrawingAgainstMetalInput) -> DrawingAgainstMetalResult:
    """Saw, or stop and why. Raises nothing but what its fields do.

    Source: common practice, no source; the named differences are those of scales, units and a hand that types.

    >>> found = drawing_against_metal(DrawingAgainstMetalInput(length="24.6 mm", length_again="50 mm", blank="53 mm"))
    >>> found.may_saw, found.against[0]
    (False, 'Length: 24.600 mm before, 50.000 mm now: out by exactly one inch.')
    """
    unit = given.unit
    against = [*_said_twice("Length", given.length, given.length_again, given)]
    if given.diameter and given.diameter_again:
        against += _said_twice("Diameter", given.diameter, given.diameter_again, given)
    against += _stock(given)
    blank = _to_saw(given.blank.mm, unit)
    may = not against
    return DrawingAgainstMetalResult(
        may_saw=may,
        against=against,
        length=given.length,
        blank=given.blank,
        headline=f"Saw at {blank}" if may else "Stop",
        sentence=(
            f"The drawing was said twice alike; the part in it is {show_exact(given.length.mm, unit)} long."
            if may
            else "Do not saw. Look at the drawing, and measure the stock again."
        ),
        facts=_facts(given),
        notes=against,
        cautions=[SAW_CAUTION] if may else [],
        working=[
            Step(
                name="Said twice",
                formula=f"alike within {show_exact(given.may_differ.mm, unit)}",
                values=f"{show_exact(given.length.mm, unit)}, {show_exact(given.length_again.mm, unit)}",
                result="alike" if not list(_said_twice("", given.length, given.length_again, given)) else "not alike",
                source=COMMON_PRACTICE,
            ),
            Step(
                name="Stock",
                formula="at least the blank, and at least as far across",
                result="enough" if not list(_stock(given)) else "not enough",
                source=COMMON_PRACTICE,
            ),
        ],
    )


def _said_twice(name: str, first: Length, again: Length, given: DrawingAgainstMetalInput) -> Iterator[str]:
    unit = given.unit
    if abs(first.mm - again.mm) > given.may_differ.mm:
        why = named_difference(first, again)
        yield (
            f"{name}: {show_exact(first.mm, unit)} before, {show_exact(again.mm, unit)} now"
            f"{f': {why}' if why else f', {show_exact(abs(first.mm - again.mm), unit)} apart'}."
        )


def named_difference(first: Length, again: Length) -> str:
    """By what a hand or a scale makes one size of another; empty where it is nothing known. Lengths in mm within.

    Source: common practice, no source.

    >>> named_difference(Length.of("2.41", "in"), Length.of("2.14", "in")), named_difference(Length.of("20", "mm"),
    ...     Length.of("23", "mm"))
    ('two digits exchanged', '')
    """
    if any(abs(mm - again.mm) <= SAME_MM for mm in exchanged_digits(first)):
        return "two digits exchanged"
    apart = abs(first.mm - again.mm)
    for step, words in _STEPS:
        if abs(apart - step) <= SAME_MM:
            return f"out by {words}"
    small, large = sorted((first.mm, again.mm))
    return next((words for factor, words in _FACTORS if abs(small * factor - large) <= SAME_MM * factor), "")


def _stock(given: DrawingAgainstMetalInput) -> Iterator[str]:
    unit = given.unit
    if given.stock_length and given.stock_length.mm < given.blank.mm:
        short = show_sawn(given.blank.mm - given.stock_length.mm, unit)
        yield (
            f"The stock is {show_sawn(given.stock_length.mm, unit)} long and the blank"
            f" {show_sawn(given.blank.mm, unit)}: {short} short."
        )
    if given.stock_across and given.across and given.stock_across.mm < given.across.mm:
        short = show_sawn(given.across.mm - given.stock_across.mm, unit)
        yield (
            f"The stock is {show_sawn(given.stock_across.mm, unit)} across and must be"
            f" {show_sawn(given.across.mm, unit)}: {short} short."
        )
    if given.blank.mm < given.length.mm:
        yield f"The blank is shorter than the part, {show_exact(given.length.mm, unit)}."


def _to_saw(blank_mm: Decimal, unit: Unit) -> str:
    """Where to saw, rounded up to what a rule and an eye make of it: a hundredth of an inch, a tenth of a
    millimetre.
    """
    return f"{round_to(in_unit(blank_mm, unit), 2 if unit == 'in' else 1, 'up'):f} {unit}"


def _facts(given: DrawingAgainstMetalInput) -> list[Fact]:
    facts = [Fact(name="The part, long", length=given.length), Fact(name="The blank", length=given.blank, sawn=True)]
    if given.stock_length:
        facts.append(
            Fact(name="Left of the stock", length=Length(given.stock_length.mm - given.blank.mm, given.unit), sawn=True)
        )
    return facts
