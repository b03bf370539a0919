"""Find the fit: from a window of clearance to every standard pair, ISO and inch, that guarantees it."""

from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache
from typing import Literal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import NotDefined, OutOfRange
from nomisma.core.fits.b41 import FAMILIES, THOU_MM, inch_fit, inch_tables
from nomisma.core.fits.fit import MICROMETRE, FitKind, kind_of
from nomisma.core.fits.iso286 import LARGEST_MM, PREFERRED_FITS, SHAFT_LETTERS, Zone, zone
from nomisma.core.fits.suit import window_of
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show_small
from nomisma.core.quantity.fields import Difference, Size
from nomisma.core.quantity.length import MM_PER_INCH, Length, Unit
from nomisma.core.working import ARITHMETIC, Step

GRADES = range(4, 14)
"""The grades searched; finer are gauges, coarser are no fits. Source: ISO 286-1:2010, annex B (use of the grades)."""
WIDEST_STEP = 2
"""Hole and shaft at most two grades apart. Source: common practice, no source."""
SHOWN, MISSES_SHOWN = 40, 6
LARGEST_INCH_MM = Decimal("19.69") * MM_PER_INCH
"""Source: ANSI B4.1-1967 (R1999), the last range of its tables."""
PREFERRED_MIRRORS = ("C11/h11", "D9/h9", "F8/h7", "G7/h6", "H7/h6", "K7/h6", "N7/h6", "P7/h6", "S7/h6", "U7/h6")
"""Shaft-basis preferred fits, loose to tight. Source: ANSI B4.2-1978 (R1999), Table 5."""


class FindInput(Model):
    """A nominal and the window wanted: least and greatest clearance, below zero for interference."""

    nominal: Size
    clearance_min: Difference
    clearance_max: Difference
    fit_system: Literal["both", "iso", "inch"] = "both"
    unit: Unit | None = Field(default=None, description="unit of the sentences; the nominal's where left out")


class FoundFit(Model):
    """A standard pair: limits of both members, its clearance, and how far it misses the window (0 where it
    keeps it).
    """

    name: str
    fit_system: Literal["iso", "inch"]
    preferred: bool
    basis: Literal["hole", "shaft"]
    kind: FitKind
    hole_lower: Size
    hole_upper: Size
    shaft_lower: Size
    shaft_upper: Size
    clearance_min: Difference
    clearance_max: Difference
    tolerance: Difference
    missed_by: Difference
    unsure: bool = False


class FindResult(Model):
    """How many pairs keep the window, the best of them ranked, and the nearest misses."""

    nominal: Size
    clearance_min: Difference
    clearance_max: Difference
    count: int
    fits: list[FoundFit]
    misses: list[FoundFit]
    sentence: str
    working: list[Step]


@dataclass(frozen=True, slots=True)
class _Pair:
    """A pair in mm; deviations from the nominal."""

    name: str
    fit_system: Literal["iso", "inch"]
    hole: tuple[Decimal, Decimal]
    shaft: tuple[Decimal, Decimal]
    preferred: bool
    basis: Literal["hole", "shaft"]
    unsure: bool

    @property
    def least(self) -> Decimal:
        return self.hole[0] - self.shaft[1]

    @property
    def greatest(self) -> Decimal:
        return self.hole[1] - self.shaft[0]

    @property
    def tolerance(self) -> Decimal:
        return self.greatest - self.least


@calculation(
    name="find_fit",
    title="Every standard pair that keeps a window of clearance",
    validity="ISO: grades 4 to 13, at most two apart, hole or shaft basis, to 3150 mm; inch classes to 19.69 in.",
    source="ISO 286-1:2010; ANSI B4.1-1967 (R1999); ranking: common practice, no source",
    example={"nominal": "25 mm", "clearance_min": "5 um", "clearance_max": "45 um"},
)
def find_fit(given: FindInput) -> FindResult:
    """Pairs whose worst cases both lie inside the window: preferred first, then values known for certain, then
    coarsest, hole basis first.

    Raises InputError for a window out of order, OutOfRange for a nominal no standard covers.
    Source: ISO 286-1:2010 and ANSI B4.1-1967 for the limits; the ranking is common practice.

    >>> found = find_fit(FindInput(nominal="25 mm", clearance_min="5 um", clearance_max="45 um"))
    >>> found.fits[0].name
    'H7/g6'
    """
    window = window_of(given.clearance_min, given.clearance_max)
    least, greatest = window.least_mm, window.greatest_mm
    if given.nominal.mm > LARGEST_MM:
        raise OutOfRange(
            f"{given.nominal} is larger than any standard fit.",
            "ISO 286 ends at 3150 mm; use make to suit.",
            field="nominal",
            value=str(given.nominal),
        )
    if given.fit_system == "inch" and given.nominal.mm > LARGEST_INCH_MM:
        raise OutOfRange(
            f"{given.nominal} is larger than the inch classes go.",
            "ANSI B4.1 ends at 19.69 in; search ISO 286, or use make to suit.",
            field="nominal",
            value=str(given.nominal),
        )
    unit = given.unit or given.nominal.unit
    pairs = [pair for pair in _pairs(given.nominal.mm) if given.fit_system in ("both", pair.fit_system)]
    kept = sorted((pair for pair in pairs if least <= pair.least and pair.greatest <= greatest), key=_rank)
    missed = sorted(pairs if not kept else (), key=lambda pair: _miss(pair, least, greatest))
    return FindResult(
        nominal=given.nominal,
        clearance_min=given.clearance_min,
        clearance_max=given.clearance_max,
        count=len(kept),
        fits=[_found(pair, given.nominal, unit, Decimal(0)) for pair in kept[:SHOWN]],
        misses=[_found(pair, given.nominal, unit, _excess(pair, least, greatest)) for pair in missed[:MISSES_SHOWN]],
        sentence=_sentence(kept, missed, least, greatest, unit),
        working=_working(given, kept, len(pairs), unit),
    )


@lru_cache(maxsize=256)
def _pairs(nominal_mm: Decimal) -> tuple[_Pair, ...]:
    """Every pair searched at a size (mm): hole basis, shaft basis, inch."""
    return (*_iso_pairs(nominal_mm), *_inch_pairs(nominal_mm))


def _iso_pairs(nominal_mm: Decimal) -> Iterator[_Pair]:
    holes = {
        f"{letter.upper()}{grade}": _zone(f"{letter.upper()}{grade}", nominal_mm)
        for letter in SHAFT_LETTERS
        for grade in GRADES
    }
    shafts = {f"{letter}{grade}": _zone(f"{letter}{grade}", nominal_mm) for letter in SHAFT_LETTERS for grade in GRADES}
    for grade in GRADES:
        for other in range(max(GRADES[0], grade - WIDEST_STEP), min(GRADES[-1], grade + WIDEST_STEP) + 1):
            for letter in SHAFT_LETTERS:
                pair = _iso_pair(f"H{grade}/{letter}{other}", holes[f"H{grade}"], shafts[f"{letter}{other}"], "hole")
                mirror = _iso_pair(
                    f"{letter.upper()}{grade}/h{other}", holes[f"{letter.upper()}{grade}"], shafts[f"h{other}"], "shaft"
                )
                yield from (found for found in (pair, mirror if letter != "h" else None) if found)


def _zone(code: str, nominal_mm: Decimal) -> Zone | None:
    try:
        return zone(code, nominal_mm)
    except (NotDefined, OutOfRange):
        return None


def _iso_pair(name: str, hole: Zone | None, shaft: Zone | None, basis: Literal["hole", "shaft"]) -> _Pair | None:
    if hole is None or shaft is None:
        return None
    ends = [(z.lower_um * MICROMETRE, z.upper_um * MICROMETRE) for z in (hole, shaft)]
    preferred = name in PREFERRED_FITS or name in PREFERRED_MIRRORS
    return _Pair(name, "iso", ends[0], ends[1], preferred, basis, hole.unsure or shaft.unsure)


def _inch_pairs(nominal_mm: Decimal) -> Iterator[_Pair]:
    for name in inch_tables():
        try:
            found = inch_fit(name, nominal_mm)
        except (NotDefined, OutOfRange):
            continue
        hole = Decimal(0), found.hole_upper_thou * THOU_MM
        yield _Pair(
            name,
            "inch",
            hole,
            (found.shaft_lower_thou * THOU_MM, found.shaft_upper_thou * THOU_MM),
            True,
            "hole",
            found.unsure,
        )


def _rank(pair: _Pair) -> tuple[bool, bool, Decimal, bool, str]:
    return not pair.preferred, pair.unsure, -pair.tolerance, pair.basis != "hole", pair.name


def _excess(pair: _Pair, least: Decimal, greatest: Decimal) -> Decimal:
    """How far (mm) a pair reaches out of the window, both ends together."""
    return max(least - pair.least, Decimal(0)) + max(pair.greatest - greatest, Decimal(0))


def _miss(pair: _Pair, least: Decimal, greatest: Decimal) -> tuple[Decimal, bool, Decimal]:
    return _excess(pair, least, greatest), not pair.preferred, -pair.tolerance


def _found(pair: _Pair, nominal: Length, unit: Unit, missed_by: Decimal) -> FoundFit:
    limits = [Length(nominal.mm + end, nominal.unit) for end in (*pair.hole, *pair.shaft)]
    return FoundFit(
        name=pair.name,
        fit_system=pair.fit_system,
        preferred=pair.preferred,
        basis=pair.basis,
        kind=kind_of(pair.least, pair.greatest),
        hole_lower=limits[0],
        hole_upper=limits[1],
        shaft_lower=limits[2],
        shaft_upper=limits[3],
        clearance_min=Length(pair.least, unit),
        clearance_max=Length(pair.greatest, unit),
        tolerance=Length(pair.tolerance, unit),
        missed_by=Length(missed_by, unit),
        unsure=pair.unsure,
    )


def _sentence(kept: list[_Pair], missed: list[_Pair], least: Decimal, greatest: Decimal, unit: Unit) -> str:
    if kept:
        first = kept[0]
        family = f", {FAMILIES[first.name[:2]]}" if first.fit_system == "inch" else ""
        pairs = "One standard pair keeps" if len(kept) == 1 else f"{len(kept)} standard pairs keep"
        return f"{pairs} this window; try {first.name}{family} first."
    nearest = (
        f"; the nearest, {missed[0].name}, misses it by {show_small(_excess(missed[0], least, greatest), unit)}"
        if missed
        else ""
    )
    wide = show_small(greatest - least, unit)
    return f"No standard pair keeps a window {wide} wide there{nearest}. Make to suit keeps it by measuring one member."


def _working(given: FindInput, kept: list[_Pair], searched: int, unit: Unit) -> list[Step]:
    decimals = 5 if unit == "in" else 4
    return [
        Step(
            name="Pairs searched",
            formula="every hole with h, every shaft with H, grades 4 to 13, at most two grades apart; every inch class",
            values=f"at {given.nominal}",
            result=f"{searched} pairs, {len(kept)} inside",
            source="ISO 286-1:2010; ANSI B4.1-1967 (R1999)",
        ),
        Step(
            name="Inside the window",
            formula="smallest hole − largest shaft ≥ least; largest hole − smallest shaft ≤ greatest",
            values=(
                f"{both(given.clearance_min.mm, unit, decimals=decimals)} to"
                f" {both(given.clearance_max.mm, unit, decimals=decimals)}"
            ),
            result="worst case both ways",
            source=ARITHMETIC,
        ),
        Step(
            name="Ranked",
            formula="preferred first, values known for certain, then the coarsest tolerances, then hole basis",
            result=kept[0].name if kept else "none",
            source="ease of making: common practice, no source",
        ),
    ]
