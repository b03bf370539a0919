"""ISO 286: a code and a nominal size to two deviations."""

import re
from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache

from nomisma.core.errors import NotDefined
from nomisma.core.fits.tables import grades, shafts, uneven

SOURCE = "ISO 286-1:2010, Tables 1 to 5"
PREFERRED_FITS = ("H11/c11", "H9/d9", "H8/f7", "H7/g6", "H7/h6", "H7/k6", "H7/n6", "H7/p6", "H7/s6", "H7/u6")
"""Hole-basis preferred fits, loose to tight. Source: ISO 286-1:2010, annex B; ANSI B4.2, Table 4."""

_CODE = re.compile(r"(?P<letters>[A-Za-z]{1,2})(?P<grade>01|\d{1,2})")


@dataclass(frozen=True, slots=True)
class Zone:
    """A tolerance class at one size: both deviations from the nominal in µm, and what they were made of."""

    code: str
    lower_um: Decimal
    upper_um: Decimal
    fundamental_deviation_um: Decimal
    tolerance_um: Decimal

    @property
    def is_hole(self) -> bool:
        """Capitals are holes."""
        return self.code[0].isupper()


@lru_cache(maxsize=4096)
def zone(code: str, nominal_mm: Decimal) -> Zone:
    """The deviations of a class such as "H7", "g6" or "P7" at a nominal size, 0 < size ≤ 500 mm.

    Shafts from the tables; holes from the shafts by the general and the special rule (ISO 286-1:2010, 4.3.2).
    Raises NotDefined or OutOfRange.

    >>> z = zone("g6", Decimal(25)); z.lower_um, z.upper_um
    (Decimal('-20'), Decimal('-7'))
    >>> z = zone("P7", Decimal(25)); z.lower_um, z.upper_um
    (Decimal('-35'), Decimal('-14'))
    """
    match = _CODE.fullmatch(code)
    letters, grade = (match["letters"], f"IT{match['grade']}") if match else ("", "")
    if letters not in _LETTERS:
        raise NotDefined(
            f"{code} is not a code this version knows.",
            f"Shafts: {', '.join(shafts().cells)}, j and js. Holes: the same letters in capitals. Each with its grade, like H7 or g6.",
            field="callout",
            value=code,
        )
    if grade not in grades().cells:
        raise NotDefined(f"{code} has no such grade.", "Grades go from 01 to 18.", field="callout", value=code)
    tolerance = grades().cell(grade, nominal_mm)
    assert tolerance is not None, "the table of grades has no empty cell"
    if nominal_mm < 1 and (letters.lower() in ("a", "b", "za", "zb", "zc") or grade in _COARSE):
        raise NotDefined(f"{code} is not used below 1 mm.", "Choose another class.", field="callout", value=code)
    if letters.lower() == "js":
        return Zone(code, -tolerance / 2, tolerance / 2, -tolerance / 2, tolerance)
    if letters.lower() == "j":
        return _uneven(code, nominal_mm, tolerance)
    return _hole(code, letters, nominal_mm, tolerance) if letters.isupper() else _shaft(code, letters, nominal_mm, tolerance)


_LETTERS = {case for letter in (*shafts().cells, "j", "js") for case in (letter, letter.upper())}
_COARSE = ("IT14", "IT15", "IT16", "IT17", "IT18")


def _not_defined(code: str, nominal_mm: Decimal) -> NotDefined:
    return NotDefined(
        f"{code} is not defined at {nominal_mm:f} mm.", "Choose a neighbouring letter or grade.", field="callout", value=code
    )


def _uneven(code: str, nominal_mm: Decimal, tolerance_um: Decimal) -> Zone:
    """j and J: tabulated class by class."""
    deviation = uneven().cell(code, nominal_mm) if code in uneven().cells else None
    if deviation is None:
        raise _not_defined(code, nominal_mm)
    if code[0] == "j":
        return Zone(code, deviation, deviation + tolerance_um, deviation, tolerance_um)
    return Zone(code, deviation - tolerance_um, deviation, deviation, tolerance_um)


def _shaft(code: str, letter: str, nominal_mm: Decimal, tolerance_um: Decimal) -> Zone:
    deviation = shafts().cell(letter, nominal_mm)
    if deviation is None:
        raise _not_defined(code, nominal_mm)
    if letter == "k" and code not in ("k4", "k5", "k6", "k7"):
        deviation = Decimal(0)
    if letter <= "h":
        return Zone(code, deviation - tolerance_um, deviation, deviation, tolerance_um)
    return Zone(code, deviation, deviation + tolerance_um, deviation, tolerance_um)


def _hole(code: str, letters: str, nominal_mm: Decimal, tolerance_um: Decimal) -> Zone:
    """A to H mirror the shafts (EI = −es); K to ZC have ES = −ei, raised by Δ in the finer grades."""
    letter, number = letters.lower(), code.removeprefix(letters)
    grade = -1 if number == "01" else int(number)
    # The mirror of k is the shifted one (ei of IT4 to IT7), whatever the hole's own grade.
    mirror = _shaft(
        "k7" if letter == "k" else f"{letter}{number}", letter, nominal_mm, tolerance_um
    ).fundamental_deviation_um
    if letters <= "H":
        return Zone(code, -mirror, -mirror + tolerance_um, -mirror, tolerance_um)
    upper = _upper_deviation(code, letters, grade, nominal_mm, mirror)
    return Zone(code, upper - tolerance_um, upper, upper, tolerance_um)


def _upper_deviation(code: str, letters: str, grade: int, nominal_mm: Decimal, mirror_um: Decimal) -> Decimal:
    """ES in µm of a hole K to ZC. Source: ISO 286-1:2010, 4.3.2 and Table 3 with its footnotes."""
    if letters == "K" and grade > 8 and nominal_mm > 3:
        raise _not_defined(code, nominal_mm)
    if nominal_mm <= 3:
        return Decimal(0) if letters == "K" else -mirror_um
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
