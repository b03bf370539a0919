"""General tolerances: what a size without its own limits is held to, by ISO 2768-1 or by the decimals of a
title block.
"""

from decimal import Decimal
from typing import Annotated, Literal

from nomisma.core.errors import NotDefined
from nomisma.core.quantity.length import MM_PER_INCH, Length
from nomisma.core.table import MAYBE, Row, loaded, rows_of

GeneralTolerance = Literal["iso_2768_f", "iso_2768_m", "iso_2768_c", "iso_2768_v", "inch_decimals", "none"]
Toleranced = Literal["linear", "edge"]
SOURCE = "ISO 2768-1:1989, Tables 1 and 2"
INCH_BY_DECIMALS: dict[int, Decimal] = {
    1: Decimal("0.030"),
    2: Decimal("0.010"),
    3: Decimal("0.005"),
    4: Decimal("0.0005"),
}
"""± in inches by the decimals of a size. Source: common practice, no source; the title block comes first."""
BY_FRACTION = Length.of("0.015625", "in")
"""± of a size written as a fraction: 1/64 in. Source: common practice, no source; a choice of the shop's."""
MOST_SHARE = Decimal("0.5")
"""A size without limits of its own keeps at least this share of itself: no edge is broken to nothing. Source: this
tool's own choice.
"""
SMALLEST_MM = Decimal("0.5")


class GeneralRange(Row):
    """The ± (mm) of each class for sizes over one limit up to and including the next (mm); none where the standard has
    none.
    """

    what: Toleranced
    over_mm: Decimal
    up_to_mm: Decimal
    f: Annotated[Decimal | None, MAYBE]
    m: Annotated[Decimal | None, MAYBE]
    c: Annotated[Decimal | None, MAYBE]
    v: Annotated[Decimal | None, MAYBE]

    def of_class(self, tolerance_class: str) -> Decimal | None:
        """The ± (mm) of a class by its letter."""
        return {"f": self.f, "m": self.m, "c": self.c, "v": self.v}[tolerance_class]


@loaded
def general_ranges() -> list[GeneralRange]:
    """Every range of ISO 2768-1, linear and of edges, mm. Source: ISO 2768-1:1989, Tables 1 and 2.

    >>> general_ranges()[0].m
    Decimal('0.1')
    """
    return rows_of("part", "general_tolerances.csv", GeneralRange)


def iso_2768_mm(size_mm: Decimal, tolerance_class: str, what: Toleranced = "linear") -> Decimal:
    """The ± (mm) of a size (mm, from 0.5 to 4000) in class f, m, c or v. Raises NotDefined where the standard has none.

    Source: ISO 2768-1:1989, Table 1 (linear) and Table 2 (edge: radii and chamfer heights).

    >>> iso_2768_mm(Decimal(28), "m"), iso_2768_mm(Decimal(30), "f"), iso_2768_mm(Decimal(2), "c", "edge")
    (Decimal('0.2'), Decimal('0.1'), Decimal('0.4'))
    """
    for row in general_ranges():
        from_smallest = row.over_mm == SMALLEST_MM == size_mm
        holds = (row.over_mm < size_mm or from_smallest) and size_mm <= row.up_to_mm
        if row.what == what and holds and (amount := row.of_class(tolerance_class)):
            return amount
    raise NotDefined(
        f"ISO 2768 gives no general tolerance {tolerance_class} for {size_mm} mm.",
        "Write its limits beside the size.",
        field="text",
    )


def general_tolerance(
    size: Length, rule: GeneralTolerance, what: Toleranced = "linear", by_fraction: Length = BY_FRACTION
) -> tuple[Decimal, str]:
    """The ± (mm) that a size without its own limits is held to, and where it comes from. Raises NotDefined.

    `by_fraction`: that of a size written as a fraction. At most half of the size itself. Source: ISO 2768-1:1989,
    Tables 1 and 2; inch by decimals: common practice, no source.

    >>> general_tolerance(Length.of("3.625", "in", decimals=3), "inch_decimals")[0]
    Decimal('0.1270')
    >>> general_tolerance(Length.of("0.03125", "in"), "inch_decimals")
    (Decimal('0.3968750'), 'fractions ±0.015625 in: the title block, common practice, no source; half the size at most')
    """
    amount, source = _by_rule(size, rule, what, by_fraction)
    most = size.mm * MOST_SHARE
    return (most, f"{source}; half the size at most") if amount >= most else (amount, source)


def _by_rule(size: Length, rule: GeneralTolerance, what: Toleranced, by_fraction: Length) -> tuple[Decimal, str]:
    if rule != "inch_decimals":
        tolerance_class = rule.removeprefix("iso_2768_")
        return iso_2768_mm(size.mm, tolerance_class, what), f"{SOURCE}, class {tolerance_class}"
    if size.decimals is None:
        return by_fraction.mm, f"fractions ±{by_fraction}: the title block, common practice, no source"
    decimals = min(max(size.decimals, 1), max(INCH_BY_DECIMALS))
    amount = INCH_BY_DECIMALS[decimals]
    return (
        amount * MM_PER_INCH,
        f"{decimals} decimal{'s' if decimals > 1 else ''} ±{amount} in: the title block, common practice, no source",
    )
