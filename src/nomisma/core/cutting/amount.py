"""How much to take: from a measured size to a wanted one, on diameter, on radius and in lines of the dial."""

from decimal import ROUND_FLOOR, Decimal
from typing import Literal

from nomisma.core.calculation import calculation
from nomisma.core.errors import AmbiguousLength, OutOfRange
from nomisma.core.model import Model
from nomisma.core.quantity.display import both
from nomisma.core.quantity.fields import Difference, Number, Size
from nomisma.core.quantity.length import Length
from nomisma.core.working import ARITHMETIC, COMMON_PRACTICE, Step

DialReads = Literal["diameter", "radius"]


class AmountInput(Model):
    """Measured and wanted diameter; the dial's line if it is known (0.001 in, 0.05 mm) and what a line means."""

    measured: Size
    wanted: Size
    dial_line: Size | None = None
    dial_reads: DialReads = "diameter"


class AmountResult(Model):
    """Metal to take. `dial_lines` is exact, `whole_lines` never goes past the size; `left_after` is what then
    remains.
    """

    kind: Literal["shaft", "bore"]
    on_diameter: Difference
    on_radius: Difference
    dial_lines: Number | None = None
    whole_lines: int | None = None
    left_after: Difference | None = None
    working: list[Step]


@calculation(
    name="amount_to_take",
    title="How much to take, measured to wanted",
    validity="Diameters; larger to smaller is a shaft being turned, smaller to larger a bore being opened.",
    source="arithmetic; whole lines never past the size: common practice, no source",
    example={"measured": "29.43 mm", "wanted": "28.00 mm", "dial_line": "0.05 mm"},
)
def amount_to_take(given: AmountInput) -> AmountResult:
    """Metal to take on diameter and radius, and lines on the dial. Raises AmbiguousLength or OutOfRange.

    Source: arithmetic; whole lines rounded towards metal left: common practice.

    >>> str(amount_to_take(AmountInput(measured="1.229 in", wanted="1.125 in")).on_diameter)
    '0.104 in'
    """
    if given.measured.mm == given.wanted.mm:
        raise OutOfRange(
            "Both sizes are the same, so there is nothing to take.", "Check the two sizes.", field="wanted"
        )
    larger, smaller = sorted((given.measured, given.wanted), key=lambda size: size.mm, reverse=True)
    if larger.mm > smaller.mm * 3 and larger.unit != smaller.unit:
        raise AmbiguousLength(
            f"{given.measured} to {given.wanted} mixes units and takes most of the work away.",
            "Check the unit of each size.",
            field="wanted",
        )
    unit = given.measured.unit
    amount = larger.mm - smaller.mm
    working = [
        Step(
            name="To take, on diameter",
            formula="larger − smaller",
            values=f"{larger} − {smaller}",
            result=both(amount, unit),
            source=ARITHMETIC,
        ),
        Step(
            name="To take, on radius",
            formula="half of that",
            result=both(amount / 2, unit, decimals=5 if unit == "in" else 4),
            source=ARITHMETIC,
        ),
    ]
    lines = whole = left = None
    if given.dial_line:
        lines = dial_lines(amount, given.dial_line.mm, given.dial_reads)
        whole = int(lines.to_integral_value(ROUND_FLOOR))
        left = amount - whole * line_on_diameter(given.dial_line.mm, given.dial_reads)
        working.append(_dial_step(given, amount, lines, whole, left))
    return AmountResult(
        kind="shaft" if given.measured.mm > given.wanted.mm else "bore",
        on_diameter=Length(amount, unit),
        on_radius=Length(amount / 2, unit),
        dial_lines=lines,
        whole_lines=whole,
        left_after=None if left is None else Length(left, unit),
        working=working,
    )


def line_on_diameter(dial_line_mm: Decimal, reads: DialReads) -> Decimal:
    """What one line of the dial takes off the diameter, mm: a radius dial takes twice its line. Source: arithmetic.

    >>> line_on_diameter(Decimal("0.05"), "radius"), line_on_diameter(Decimal("0.05"), "diameter")
    (Decimal('0.10'), Decimal('0.05'))
    """
    return dial_line_mm if reads == "diameter" else dial_line_mm * 2


def dial_lines(amount_mm: Decimal, dial_line_mm: Decimal, reads: DialReads) -> Decimal:
    """Lines of the dial for an amount on diameter (mm). Source: arithmetic.

    >>> dial_lines(Decimal("1.43"), Decimal("0.05"), "diameter")
    Decimal('28.6')
    """
    return amount_mm / line_on_diameter(dial_line_mm, reads)


def _dial_step(given: AmountInput, amount: Decimal, lines: Decimal, whole: int, left: Decimal) -> Step:
    unit = given.measured.unit
    return Step(
        name="On the dial",
        formula=f"amount / one line on diameter; the dial reads {given.dial_reads}; whole lines, never past the size",
        values=(
            f"{both(amount, unit)} / {both(line_on_diameter(given.dial_line.mm, given.dial_reads), unit)}"
            if given.dial_line
            else ""
        ),
        result=f"{lines:.1f} lines: take {whole}, {both(left, unit)} is left",
        source=COMMON_PRACTICE,
    )
