"""The limits of metric threads by ISO 965-1: tolerance grades and positions of the pitch and the crest diameter."""

from decimal import ROUND_HALF_UP, Decimal
from functools import cache
from itertools import pairwise
from math import sqrt
from typing import Annotated, Literal

from nomisma.core.errors import NotDefined
from nomisma.core.table import MAYBE, Row, loaded, rows_of
from nomisma.core.threads.limits import DiameterLimits, ThreadLimits, basic_minor_diameter_mm, basic_pitch_diameter_mm

SOURCE = "ISO 965-1:2013 (recalled)"
R40 = (
    "1.00 1.06 1.12 1.18 1.25 1.32 1.40 1.50 1.60 1.70 1.80 1.90 2.00 2.12 2.24 2.36 2.50 2.65 2.80 3.00 "
    "3.15 3.35 3.55 3.75 4.00 4.25 4.50 4.75 5.00 5.30 5.60 6.00 6.30 6.70 7.10 7.50 8.00 8.50 9.00 9.50"
)
"""Preferred numbers to which tolerances are rounded. Source: ISO 3 (recalled)."""
_GRADES_OUTSIDE = {3: "0.5", 4: "0.63", 5: "0.8", 6: "1", 7: "1.25", 8: "1.6", 9: "2"}
_GRADES_INSIDE = {4: "0.85", 5: "1.06", 6: "1.32", 7: "1.7", 8: "2.12"}
"""Of the pitch diameter, times the tolerance of grade 6 of the outside thread. Source: ISO 965-1 (recalled)."""
_GRADES_CREST = {4: "0.63", 5: "0.8", 6: "1", 7: "1.25", 8: "1.6"}
_MAJOR_GRADES = (4, 6, 8)
_RANGES_MM = (Decimal("0.99"), *map(Decimal, ("1.4", "2.8", "5.6", "11.2", "22.4", "45", "90", "180", "355")))
_UM = Decimal("0.001")
Position = Literal["e", "f", "g", "h", "G", "H"]


class PitchRow(Row):
    """What holds of a pitch (mm), in µm: tolerance positions from the basic size, and tolerances of the crest diameters
    in grade 6.
    """

    pitch_mm: Decimal
    g_um: Decimal
    e_um: Annotated[Decimal | None, MAYBE]
    f_um: Annotated[Decimal | None, MAYBE]
    minor_6_um: Decimal
    major_6_um: Decimal


class PitchDiameterRow(Row):
    """The tolerances of the pitch diameter in grade 6 (µm) of a range of diameters and a pitch, mm."""

    over_mm: Decimal
    up_to_mm: Decimal
    pitch_mm: Decimal
    outside_6_um: Decimal
    inside_6_um: Decimal


@loaded
def pitch_rows() -> dict[Decimal, PitchRow]:
    """What holds of each pitch (mm). Source: iso965_pitches.csv.

    >>> pitch_rows()[Decimal("1.5")].g_um
    Decimal('32')
    """
    return {row.pitch_mm: row for row in rows_of("threads", "iso965_pitches.csv", PitchRow)}


@loaded
def pitch_diameter_rows() -> dict[tuple[Decimal, Decimal], PitchDiameterRow]:
    """The tolerances of pitch diameters by the upper end of their range and their pitch, mm. Source:
    iso965_pitch_diameters.csv.

    >>> pitch_diameter_rows()[Decimal(45), Decimal(2)].outside_6_um
    Decimal('170')
    """
    rows = rows_of("threads", "iso965_pitch_diameters.csv", PitchDiameterRow)
    return {(row.up_to_mm, row.pitch_mm): row for row in rows}


def preferred(um: Decimal) -> Decimal:
    """A tolerance (µm, above 0) as the nearest preferred number of R40; halfway to the larger. Source: ISO 3, ISO 965-1
    (recalled).

    >>> preferred(Decimal("167.8")), preferred(Decimal("94.4"))
    (Decimal('170'), Decimal('95'))
    """
    tens = Decimal(10) ** um.adjusted()
    among = [Decimal(one) * tens for one in (*R40.split(), "10.0")]
    nearest = min(among, key=lambda one: (abs(one - um), -one))
    return nearest.quantize(Decimal(1), ROUND_HALF_UP) if nearest >= 10 else nearest


@cache
def outside_pitch_formula_um(diameter_mm: Decimal, pitch_mm: Decimal) -> Decimal:
    """The tolerance of an outside thread's pitch diameter in grade 6 by the formula, µm, not rounded; 90·P^0.4·d^0.1
    (mm).

    d is the geometric mean of the range. Raises NotDefined beyond 355 mm. Source: ISO 965-1, Annex (recalled).

    >>> round(outside_pitch_formula_um(Decimal(24), Decimal(2)), 1)
    Decimal('167.8')
    """
    over, up_to = _range_of(diameter_mm)
    mean = sqrt(float(over * up_to))
    return Decimal(repr(90 * float(pitch_mm) ** 0.4 * mean**0.1))


def _range_of(diameter_mm: Decimal) -> tuple[Decimal, Decimal]:
    for over, up_to in pairwise(_RANGES_MM):
        if over < diameter_mm <= up_to:
            return over, up_to
    raise NotDefined(
        f"ISO 965-1 has no tolerances for a diameter of {diameter_mm} mm.",
        "It has them over 0.99 up to 355 mm.",
        field="thread",
    )


def outside_limits(diameter_mm: Decimal, pitch_mm: Decimal, thread_class: str) -> ThreadLimits:
    """Major and pitch diameter of an outside thread of a class (6g; 5g6g: pitch diameter first), mm. Raises NotDefined.

    Source: ISO 965-1 (recalled).

    >>> found = outside_limits(Decimal(24), Decimal(2), "6g")
    >>> found.crest.upper_mm, found.pitch.lower_mm, found.pitch.upper_mm
    (Decimal('23.962'), Decimal('22.493'), Decimal('22.663'))
    """
    row = _pitch_row(pitch_mm)
    (pitch_grade, pitch_position), (crest_grade, crest_position) = _grades(thread_class)
    if (
        pitch_grade not in _GRADES_OUTSIDE
        or crest_grade not in _MAJOR_GRADES
        or "H" in thread_class
        or "G" in thread_class
    ):
        raise _no_class(thread_class, "outside")
    base_um, unsure = _base_um(diameter_mm, pitch_mm)
    tolerance = preferred(base_um * Decimal(_GRADES_OUTSIDE[pitch_grade])) * _UM
    major = preferred(row.major_6_um * Decimal(_GRADES_CREST[crest_grade])) * _UM
    pitch_mm_most = _micron(basic_pitch_diameter_mm(diameter_mm, pitch_mm)) - _away(row, pitch_position)
    major_most = diameter_mm - _away(row, crest_position)
    return ThreadLimits(
        DiameterLimits(major_most - major, major_most),
        DiameterLimits(pitch_mm_most - tolerance, pitch_mm_most),
        SOURCE,
        unsure or bool(row.unsure),
    )


def inside_limits(diameter_mm: Decimal, pitch_mm: Decimal, thread_class: str) -> ThreadLimits:
    """Minor and pitch diameter of an inside thread of a class (6H; 4H5H: pitch diameter first), mm. Raises NotDefined.

    Source: ISO 965-1 (recalled).

    >>> found = inside_limits(Decimal(24), Decimal(2), "6H")
    >>> found.crest.lower_mm, found.crest.upper_mm, found.pitch.upper_mm
    (Decimal('21.835'), Decimal('22.210'), Decimal('22.925'))
    """
    row = _pitch_row(pitch_mm)
    (pitch_grade, pitch_position), (crest_grade, crest_position) = _grades(thread_class)
    if pitch_grade not in _GRADES_INSIDE or crest_grade not in _GRADES_CREST or thread_class.upper() != thread_class:
        raise _no_class(thread_class, "inside")
    base_um, unsure = _base_um(diameter_mm, pitch_mm)
    known = pitch_diameter_rows().get((_range_of(diameter_mm)[1], pitch_mm))
    of_grade = (
        known.inside_6_um if known and pitch_grade == 6 else preferred(base_um * Decimal(_GRADES_INSIDE[pitch_grade]))
    )
    minor = preferred(row.minor_6_um * Decimal(_GRADES_CREST[crest_grade])) * _UM
    pitch_least = _micron(basic_pitch_diameter_mm(diameter_mm, pitch_mm)) + _away(row, pitch_position)
    minor_least = _micron(basic_minor_diameter_mm(diameter_mm, pitch_mm)) + _away(row, crest_position)
    return ThreadLimits(
        DiameterLimits(minor_least, minor_least + minor),
        DiameterLimits(pitch_least, pitch_least + of_grade * _UM),
        SOURCE,
        unsure or bool(row.unsure),
    )


def _base_um(diameter_mm: Decimal, pitch_mm: Decimal) -> tuple[Decimal, bool]:
    """The outside pitch diameter's tolerance of grade 6 (µm), by the table or, where that has none, by the formula;
    whether it is unsure.
    """
    known = pitch_diameter_rows().get((_range_of(diameter_mm)[1], pitch_mm))
    if known:
        return known.outside_6_um, bool(known.unsure)
    return preferred(outside_pitch_formula_um(diameter_mm, pitch_mm)), True


def _pitch_row(pitch_mm: Decimal) -> PitchRow:
    row = pitch_rows().get(pitch_mm.normalize())
    if row is None:
        raise NotDefined(
            f"ISO 965-1 has no tolerances for a pitch of {pitch_mm.normalize():f} mm.",
            "Check the pitch, or write a free one: 30 x 2.2 pitch.",
            field="thread",
        )
    return row


def _away(row: PitchRow, position: str) -> Decimal:
    """How far a tolerance position begins from the basic size, mm, away from the mating thread."""
    if position in ("h", "H"):
        return Decimal(0)
    found = (
        {"g": row.g_um, "e": row.e_um, "f": row.f_um}.get(position.lower())
        if position != "F" and position != "E"
        else None
    )
    if found is None:
        raise NotDefined(
            f"No position {position} of a pitch of {row.pitch_mm} mm is known here.", "Use g or h.", field="thread"
        )
    return found * _UM


def _grades(thread_class: str) -> tuple[tuple[int, str], tuple[int, str]]:
    """Grade and position of the pitch diameter and of the crest; one said once holds of both."""
    pairs = [(int(thread_class[at]), thread_class[at + 1]) for at in range(0, len(thread_class), 2)]
    return pairs[0], pairs[-1]


def _no_class(thread_class: str, side: str) -> NotDefined:
    usual = "4h, 5g6g, 6g, 8g" if side == "outside" else "4H5H, 5H, 6H, 6G, 7H"
    return NotDefined(f"{thread_class} is no class of {side} threads.", f"Use one like {usual}.", field="thread")


def _micron(mm: Decimal) -> Decimal:
    return mm.quantize(_UM, ROUND_HALF_UP)
