"""ISO 286: a code and a nominal size to two deviations."""

import re
from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache

from nomisma.core.errors import NotDefined
from nomisma.core.fits.tables import grades, shafts

SOURCE = "ISO 286-1:2010, Tables 1, 4 and 5"
PREFERRED_FITS = ("H11/c11", "H9/d9", "H8/f7", "H7/g6", "H7/h6", "H7/k6", "H7/n6", "H7/p6", "H7/s6", "H7/u6")
"""Hole-basis preferred fits, loose to tight. Source: ISO 286-1:2010, annex B; ANSI B4.2, Table 4."""

_CODE = re.compile(r"(?P<letters>[A-Za-z]{1,2})(?P<grade>01|\d{1,2})")
_HOLES_CARRIED = "A, B, C, D, E, F, G, H and JS"


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
    """The deviations of a class such as "H7" or "g6" at a nominal size, 0 < size ≤ 500 mm.

    Holes A to H mirror the shafts (EI = −es, ISO 286-1:2010, 4.3.2). Raises NotDefined or OutOfRange.

    >>> z = zone("g6", Decimal(25)); z.lower_um, z.upper_um
    (Decimal('-20'), Decimal('-7'))
    """
    match = _CODE.fullmatch(code)
    letters, grade = (match["letters"], f"IT{match['grade']}") if match else ("", "")
    if not match or letters.lower() not in (*shafts().cells, "js"):
        raise NotDefined(
            f"{code} is not a code this version knows.",
            f"Holes: {_HOLES_CARRIED}. Shafts: {', '.join(shafts().cells)} and js. Each with its grade, like H7 or g6.",
            field="callout",
            value=code,
        )
    if grade not in grades().cells:
        raise NotDefined(f"{code} has no such grade.", "Grades go from 01 to 18.", field="callout", value=code)
    tolerance = grades().cell(grade, nominal_mm)
    if tolerance is None:
        raise NotDefined(f"{grade} is not defined at this size.", "Choose another grade.", field="callout", value=code)
    if letters.lower() == "js":
        return Zone(code, -tolerance / 2, tolerance / 2, -tolerance / 2, tolerance)
    if (nominal_mm < 1 and letters.lower() in ("a", "b", "za", "zb", "zc")) or (
        nominal_mm < 1 and grade in ("IT14", "IT15", "IT16", "IT17", "IT18")
    ):
        raise NotDefined(f"{code} is not used below 1 mm.", "Choose another class.", field="callout", value=code)
    return _hole(code, letters, nominal_mm, tolerance) if letters.isupper() else _shaft(code, letters, nominal_mm, tolerance)


def _shaft(code: str, letter: str, nominal_mm: Decimal, tolerance_um: Decimal) -> Zone:
    deviation = shafts().cell(letter, nominal_mm)
    if deviation is None:
        raise NotDefined(
            f"{code} is not defined at {nominal_mm:f} mm.", "Choose a neighbouring letter.", field="callout", value=code
        )
    if letter == "k" and code not in ("k4", "k5", "k6", "k7"):
        deviation = Decimal(0)
    if letter <= "h":
        return Zone(code, deviation - tolerance_um, deviation, deviation, tolerance_um)
    return Zone(code, deviation, deviation + tolerance_um, deviation, tolerance_um)


def _hole(code: str, letter: str, nominal_mm: Decimal, tolerance_um: Decimal) -> Zone:
    if letter > "H":
        raise NotDefined(
            f"Hole {code} is not carried by this version.", f"Holes here: {_HOLES_CARRIED}.", field="callout", value=code
        )
    deviation = -_shaft(code, letter.lower(), nominal_mm, tolerance_um).fundamental_deviation_um
    return Zone(code, deviation, deviation + tolerance_um, deviation, tolerance_um)
