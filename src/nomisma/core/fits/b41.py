"""ANSI B4.1: an inch fit class and a basic size to the limits of hole and shaft."""

from bisect import bisect_left
from dataclasses import dataclass
from decimal import Decimal

from nomisma.core.errors import NotDefined, OutOfRange
from nomisma.core.quantity.length import MM_PER_INCH, in_unit
from nomisma.core.table import UNSURE, loaded, table_lines

SOURCE = "ANSI B4.1-1967 (R1999), Tables 2 to 6"
THOU_MM = MM_PER_INCH / 1000

FAMILIES = {
    "RC": "running and sliding",
    "LC": "locational clearance",
    "LT": "locational transition",
    "LN": "locational interference",
    "FN": "force and shrink",
}
"""The five families of classes. Source: ANSI B4.1-1967, 3."""


@dataclass(frozen=True, slots=True)
class InchFit:
    """One class at one size: deviations from the basic size in thou; the hole's lower is 0 (hole basis).

    `clearance_min_thou` and `clearance_max_thou` are the published ones, below zero for interference. `unsure`: a value
    of this cell is recalled without certainty, and the working says so.
    """

    fit_class: str
    hole_upper_thou: Decimal
    shaft_lower_thou: Decimal
    shaft_upper_thou: Decimal
    clearance_min_thou: Decimal
    clearance_max_thou: Decimal
    unsure: bool


@dataclass(frozen=True)
class ClassTable:
    """One class by ranges of basic size: over one limit, up to and including the next (inch)."""

    up_to_in: tuple[Decimal, ...]
    cells: tuple[InchFit | None, ...]


@loaded
def inch_tables() -> dict[str, ClassTable]:
    """Every class RC1 to FN5, loose to tight within its family. Source: ANSI B4.1-1967 (R1999), Tables 2 to 6.

    >>> list(inch_tables())[:3]
    ['RC1', 'RC2', 'RC3']
    """
    ends: dict[str, list[Decimal]] = {}
    cells: dict[str, list[InchFit | None]] = {}
    head: list[str] = []
    for line in table_lines("fits", "b41_limits.csv"):
        row = line.split(";")
        if row[0] == "over_in":
            head = row[2:]
            continue
        for fit_class, cell in zip(head, row[2:], strict=True):
            before = ends.setdefault(fit_class, [])
            if Decimal(row[0]) != (before[-1] if before else 0):
                raise ValueError(f"b41_limits.csv: the ranges of {fit_class} do not join at {row[0]}")
            before.append(Decimal(row[1]))
            cells.setdefault(fit_class, []).append(_cell(fit_class, cell))
    return {fit_class: ClassTable(tuple(ends[fit_class]), tuple(cells[fit_class])) for fit_class in ends}


def _cell(fit_class: str, text: str) -> InchFit | None:
    if text == "-":
        return None
    clearance, hole, shaft = (part.split() for part in text.removesuffix(UNSURE).split("|"))
    least, greatest = map(Decimal, clearance)
    upper, lower = map(Decimal, shaft)
    return InchFit(fit_class, Decimal(hole[0]), lower, upper, least, greatest, text.endswith(UNSURE))


def inch_fit(fit_class: str, nominal_mm: Decimal) -> InchFit:
    """The limits of a class such as "RC4" at a basic size (mm), above 0 up to 19.69 in. Raises NotDefined or
    OutOfRange.

    Source: ANSI B4.1-1967 (R1999), Tables 2 to 6.

    >>> found = inch_fit("RC4", Decimal("25.4")); found.hole_upper_thou, found.shaft_lower_thou, found.shaft_upper_thou
    (Decimal('1.2'), Decimal('-1.6'), Decimal('-0.8'))
    """
    name = fit_class.upper()
    table = inch_tables().get(name)
    if table is None:
        raise NotDefined(
            f"{name} is not a class of ANSI B4.1.",
            "There are RC1 to RC9, LC1 to LC11, LT1 to LT6, LN1 to LN3 and FN1 to FN5.",
            field="callout",
            value=fit_class,
        )
    nominal_in = in_unit(nominal_mm, "in")
    if not 0 < nominal_in <= table.up_to_in[-1]:
        raise OutOfRange(
            f"{nominal_in.normalize():f} in is outside the ranges of ANSI B4.1 carried here.",
            f"They go from above 0 up to {table.up_to_in[-1]} in.",
            field="callout",
            value=f"{nominal_in:f} in",
        )
    found = table.cells[bisect_left(table.up_to_in, nominal_in)]
    if found is None:
        begins = next(end for end, cell in zip(("0", *table.up_to_in), table.cells, strict=False) if cell)
        raise NotDefined(
            f"{name} is not defined at {nominal_in.normalize():f} in.",
            f"It begins above {begins} in; choose a neighbouring class.",
            field="callout",
            value=fit_class,
        )
    return found
