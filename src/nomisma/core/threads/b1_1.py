"""The limits of unified inch threads by ASME B1.1: the standard's own formulas."""

from collections.abc import Callable
from decimal import ROUND_HALF_EVEN, ROUND_HALF_UP, Decimal
from typing import Literal

from nomisma.core.errors import NotDefined
from nomisma.core.threads.limits import DiameterLimits, ThreadLimits, basic_minor_diameter_mm, basic_pitch_diameter_mm

SOURCE = "ASME B1.1-2003 (formulas recalled)"
IN = Decimal("25.4")
InchClass = Literal["1A", "2A", "3A", "1B", "2B", "3B"]
_OF_2A: dict[str, str] = {"1A": "1.5", "2A": "1", "3A": "0.75", "1B": "1.95", "2B": "1.3", "3B": "0.975"}
"""The tolerance of the pitch diameter over that of class 2A. Source: ASME B1.1 (recalled)."""
_SIX, _FOUR, _THREE = Decimal("0.000001"), Decimal("0.0001"), Decimal("0.001")
"""To which figures are rounded on the way, and at the end. Source: ASME B1.1 (recalled).

The allowance is three tenths of the tolerance as it is rounded, a half to the even figure: so the tables' 5/8-11 comes
out (.0016).
"""


def pitch_tolerance_2a_in(diameter_in: Decimal, pitch_in: Decimal, engaged_in: Decimal) -> Decimal:
    """The tolerance of the pitch diameter of class 2A, inches: 0.0015·∛D + 0.0015·√LE + 0.015·∛P². Source: ASME B1.1
    (recalled).

    >>> round(pitch_tolerance_2a_in(Decimal("0.5"), 1 / Decimal(13), Decimal("0.5")), 5)
    Decimal('0.00496')
    """
    third, two_thirds = Decimal(1) / 3, Decimal(2) / 3
    return (
        Decimal("0.0015") * diameter_in**third
        + Decimal("0.0015") * engaged_in.sqrt()
        + Decimal("0.015") * pitch_in**two_thirds
    )


def inch_limits(
    diameter_mm: Decimal, pitch_mm: Decimal, thread_class: str, *, engaged_as_long_as_wide: bool
) -> ThreadLimits:
    """Crest and pitch diameter of a class, mm: A outside, B inside. Raises NotDefined.

    `engaged_as_long_as_wide`: UNC and UNF are reckoned with an engagement of one diameter, the others of nine pitches.
    Source: ASME B1.1 (formulas recalled); rounded as its tables are.

    >>> found = inch_limits(Decimal("12.7"), Decimal("25.4") / 13, "2A", engaged_as_long_as_wide=True)
    >>> [one / Decimal("25.4") for one in (found.crest.lower_mm, found.crest.upper_mm, found.pitch.lower_mm,
    ...     found.pitch.upper_mm)]
    [Decimal('0.4876'), Decimal('0.4985'), Decimal('0.4435'), Decimal('0.4485')]
    """
    if thread_class not in _OF_2A:
        raise NotDefined(
            f"{thread_class} is no class of inch threads.", f"Use one of {', '.join(_OF_2A)}.", field="thread"
        )
    wide, pitch = diameter_mm / IN, pitch_mm / IN
    basic = pitch_tolerance_2a_in(wide, pitch, wide if engaged_as_long_as_wide else 9 * pitch).quantize(_SIX)
    tolerance = (basic * Decimal(_OF_2A[thread_class])).quantize(_FOUR, ROUND_HALF_UP)
    pitch_in = basic_pitch_diameter_mm(diameter_mm, pitch_mm) / IN
    if thread_class.endswith("A"):
        allowance = (
            Decimal(0)
            if thread_class == "3A"
            else (basic.quantize(_FOUR, ROUND_HALF_UP) * Decimal("0.3")).quantize(_FOUR, ROUND_HALF_EVEN)
        )
        share = Decimal("0.09") if thread_class == "1A" else Decimal("0.06")
        major = (share * pitch ** (Decimal(2) / 3)).quantize(_FOUR, ROUND_HALF_UP)
        most, most_pitch = _four(wide) - allowance, _four(pitch_in) - allowance
        return ThreadLimits(_between(most - major, most), _between(most_pitch - tolerance, most_pitch), SOURCE)
    to = _four if thread_class == "3B" else _three
    minor = basic_minor_diameter_mm(diameter_mm, pitch_mm) / IN
    least_pitch = _four(pitch_in)
    return ThreadLimits(
        _between(to(minor), to(minor + _minor_tolerance_in(wide, pitch, thread_class))),
        _between(least_pitch, least_pitch + tolerance),
        SOURCE,
    )


def _minor_tolerance_in(wide: Decimal, pitch: Decimal, thread_class: str) -> Decimal:
    """The tolerance of an inside thread's minor diameter, inches."""
    most = Decimal("0.394") * pitch
    by_formula = Decimal("0.05") * pitch ** (Decimal(2) / 3) + Decimal("0.03") * pitch / wide - Decimal("0.002")
    if thread_class == "3B":
        fine = pitch <= Decimal(1) / 13
        least = Decimal("0.23") * pitch - Decimal("1.5") * pitch**2 if fine else Decimal("0.12") * pitch
        return min(max(by_formula, least), most)
    plain = Decimal("0.25") * pitch - Decimal("0.4") * pitch**2
    if wide >= Decimal("0.25"):
        return plain if pitch <= Decimal("0.25") else Decimal("0.15") * pitch
    return min(max(by_formula, plain), most)


def _rounded(step: Decimal) -> Callable[[Decimal], Decimal]:
    return lambda size: size.quantize(step, ROUND_HALF_UP)


_four, _three = _rounded(_FOUR), _rounded(_THREE)


def _between(lower_in: Decimal, upper_in: Decimal) -> DiameterLimits:
    return DiameterLimits(lower_in * IN, upper_in * IN)
