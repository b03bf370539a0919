"""ISO 286: a code and a nominal size to two deviations."""

import re
from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache

from nomisma.core.errors import NotDefined
from nomisma.core.fits.tables import grades, large_shafts, shafts, uneven

SOURCE = "ISO 286-1:2010, Tables 1 to 5"
PREFERRED_FITS = ("H11/c11", "H9/d9", "H8/f7", "H7/g6", "H7/h6", "H7/k6", "H7/n6", "H7/p6", "H7/s6", "H7/u6")
"""Hole-basis preferred fits, loose to tight. Source: ISO 286-1:2010, annex B; ANSI B4.2, Table 4."""

_CODE = re.compile(r"(?P<letters>[A-Za-z]{1,2})(?P<grade>01|[0-9]{1,2})")


LARGEST_MM = Decimal(3150)
_SMALL_RANGES_MM = Decimal(500)


@dataclass(frozen=True, slots=True)
class Zone:
    """A tolerance class at one size: both deviations from the nominal in µm, and what they were made of.

    `unsure`: a table cell behind it is recalled without certainty, and the working says so.
    """

    code: str
    lower_um: Decimal
    upper_um: Decimal
    fundamental_deviation_um: Decimal
    tolerance_um: Decimal
    unsure: bool = False

    @property
    def is_hole(self) -> bool:
        """Capitals are holes."""
        return self.code[0].isupper()


@lru_cache(maxsize=16384)
def zone(code: str, nominal_mm: Decimal) -> Zone:
    """The deviations of a class such as "H7", "g6" or "P7" at a nominal size, 0 < size ≤ 3150 mm.

    Shafts from the tables; holes from the shafts by the general and the special rule (ISO 286-1:2010, 4.3.2).
    Over 500 mm only d to u and D to U are defined, with js and JS. Raises NotDefined or OutOfRange.

    Source: ISO 286-1:2010, 4 (tables and rules as their steps say).

    >>> z = zone("g6", Decimal(25)); z.lower_um, z.upper_um
    (Decimal('-20'), Decimal('-7'))
    >>> z = zone("P7", Decimal(25)); z.lower_um, z.upper_um
    (Decimal('-35'), Decimal('-14'))
    """
    match = _CODE.fullmatch(code)
    letters, grade = (match["letters"], f"IT{match['grade']}") if match else ("", "")
    if letters not in LETTERS:
        raise NotDefined(
            f"{code} is not a code of ISO 286.",
            f"Shafts: {', '.join(SHAFT_LETTERS)}. Holes: the same letters in capitals. Each with its grade, like H7"
            " or g6.",
            field="callout",
            value=code,
        )
    if grade not in grades().cells:
        raise NotDefined(f"{code} has no such grade.", "Grades go from 01 to 18.", field="callout", value=code)
    tolerance = grades().cell(grade, nominal_mm)
    if tolerance is None:
        raise _refused(code, nominal_mm, "IT01 and IT0 end at 500 mm.")
    _check_smallest(code, letters, grade, nominal_mm)
    if letters.lower() == "js":
        return Zone(code, -tolerance / 2, tolerance / 2, -tolerance / 2, tolerance)
    if letters.lower() == "j":
        return _uneven(code, nominal_mm, tolerance)
    return (
        _hole(code, letters, nominal_mm, tolerance)
        if letters.isupper()
        else _shaft(code, letters, nominal_mm, tolerance)
    )


SHAFT_LETTERS = (
    *(letter for letter in shafts().cells if letter < "k"),
    "j",
    "js",
    *(c for c in shafts().cells if c >= "k"),
)
"""All fundamental deviations of shafts, loose to tight."""
LETTERS = {case for letter in SHAFT_LETTERS for case in (letter, letter.upper())}
_COARSE = ("IT14", "IT15", "IT16", "IT17", "IT18")
_NOT_TO_1_MM = ("a", "b")
_NOT_BELOW_1_MM = ("za", "zb", "zc")


def _check_smallest(code: str, letters: str, grade: str, nominal_mm: Decimal) -> None:
    """What is not used at the smallest sizes. Source: ISO 286-1:2010, footnotes of Tables 1 to 5.

    Up to and including 1 mm: a, b, A, B in any grade, IT14 to IT18, and N coarser than N8.
    """
    if nominal_mm > 1:
        return
    coarse_n = letters == "N" and int(grade.removeprefix("IT")) > 8
    if letters.lower() in _NOT_TO_1_MM or grade in _COARSE or coarse_n:
        raise NotDefined(
            f"{code} is not used up to and including 1 mm.", "Choose another class.", field="callout", value=code
        )
    if nominal_mm < 1 and letters.lower() in _NOT_BELOW_1_MM:
        raise NotDefined(f"{code} is not used below 1 mm.", "Choose another class.", field="callout", value=code)


def _refused(code: str, nominal_mm: Decimal, reason: str) -> NotDefined:
    return NotDefined(
        f"{code} is not defined at {nominal_mm:f} mm.",
        f"{reason} Choose a neighbouring letter or grade." if reason else "Choose a neighbouring letter or grade.",
        field="callout",
        value=code,
    )


def _uneven(code: str, nominal_mm: Decimal, tolerance_um: Decimal) -> Zone:
    """j and J: tabulated class by class."""
    if nominal_mm > _SMALL_RANGES_MM:
        raise _refused(code, nominal_mm, "j and J end at 500 mm; js and JS go on.")
    deviation = uneven().cell(code, nominal_mm) if code in uneven().cells else None
    if deviation is None:
        raise _refused(code, nominal_mm, "")
    if code[0] == "j":
        return Zone(code, deviation, deviation + tolerance_um, deviation, tolerance_um)
    return Zone(code, deviation - tolerance_um, deviation, deviation, tolerance_um)


def _shaft(code: str, letter: str, nominal_mm: Decimal, tolerance_um: Decimal) -> Zone:
    table = shafts() if nominal_mm <= _SMALL_RANGES_MM else large_shafts()
    if letter not in table.cells:
        raise _refused(code, nominal_mm, "Over 500 mm the letters go from d to u.")
    deviation = table.cell(letter, nominal_mm)
    if deviation is None:
        raise _refused(code, nominal_mm, _END_OF.get(letter, ""))
    if letter == "k" and code not in ("k4", "k5", "k6", "k7"):
        deviation = Decimal(0)
    unsure = table.is_unsure(letter, nominal_mm)
    if letter <= "h":
        return Zone(code, deviation - tolerance_um, deviation, deviation, tolerance_um, unsure)
    return Zone(code, deviation, deviation + tolerance_um, deviation, tolerance_um, unsure)


_END_OF = {
    **dict.fromkeys(("cd", "ef", "fg"), "cd, ef and fg are for fine mechanisms and end at 50 mm."),
    "t": "t begins above 24 mm.",
    "v": "v begins above 14 mm.",
    "y": "y begins above 18 mm.",
}


def _hole(code: str, letters: str, nominal_mm: Decimal, tolerance_um: Decimal) -> Zone:
    """A to H mirror the shafts (EI = −es); K to ZC have ES = −ei, raised by Δ in the finer grades."""
    letter, number = letters.lower(), code.removeprefix(letters)
    grade = -1 if number == "01" else int(number)
    # The mirror of k is the shifted one (ei of IT4 to IT7), whatever the hole's own grade.
    try:
        shaft = _shaft("k7" if letter == "k" else f"{letter}{number}", letter, nominal_mm, tolerance_um)
    except NotDefined as error:
        raise NotDefined(
            error.problem.replace(f"{letter}{number}", code), error.remedy, field="callout", value=code
        ) from None
    mirror = shaft.fundamental_deviation_um
    if letters <= "H":
        return Zone(code, -mirror, -mirror + tolerance_um, -mirror, tolerance_um, shaft.unsure)
    upper = _upper_deviation(code, letters, grade, nominal_mm, mirror)
    return Zone(code, upper - tolerance_um, upper, upper, tolerance_um, shaft.unsure)


def _upper_deviation(code: str, letters: str, grade: int, nominal_mm: Decimal, mirror_um: Decimal) -> Decimal:
    """ES in µm of a hole K to ZC. Source: ISO 286-1:2010, 4.3.2 and Table 3 with its footnotes."""
    if letters == "K" and grade > 8 and nominal_mm > 3:
        raise _refused(code, nominal_mm, "")
    if nominal_mm <= 3:
        return Decimal(0) if letters == "K" else -mirror_um
    if nominal_mm > _SMALL_RANGES_MM:
        return -mirror_um  # over 500 mm there is no Δ
    if letters == "N" and grade >= 9:
        return Decimal(0)
    if code == "M6" and 250 < nominal_mm <= 315:
        return Decimal(-9)  # the table's own exception; the rule gives −11
    finest_with_delta, coarsest_with_delta = 3, 8 if letters in ("K", "M", "N") else 7
    if not finest_with_delta <= grade <= coarsest_with_delta:
        return -mirror_um
    own, finer = (grades().cell(f"IT{n}", nominal_mm) for n in (grade, grade - 1))
    assert own is not None
    assert finer is not None
    return -mirror_um + own - finer  # Δ = ITn − IT(n−1)
