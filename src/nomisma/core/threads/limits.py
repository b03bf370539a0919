"""The limits of a thread, whichever standard gives them: major, pitch and minor diameter."""

from dataclasses import dataclass
from decimal import Decimal

MAJOR_TO_PITCH = Decimal("0.6495190528")
"""From the major to the pitch diameter over the pitch: 3/4·√3/2. Source: ISO 68-1 (recalled)."""
MAJOR_TO_MINOR = Decimal("1.0825317547")
"""From the major to the basic minor diameter over the pitch: 5/8·√3. Source: ISO 68-1 (recalled)."""
MAJOR_TO_ROOT = Decimal("1.2268696551")
"""From the major diameter to the root of an outside thread over the pitch: 17/24·√3. Source: ISO 68-1 (recalled): d3.
"""


@dataclass(frozen=True, slots=True)
class DiameterLimits:
    """The two limits of one diameter, mm."""

    lower_mm: Decimal
    upper_mm: Decimal


@dataclass(frozen=True, slots=True)
class ThreadLimits:
    """What a class gives a thread: its crest (outside: the major, inside: the minor diameter) and its pitch diameter;
    `unsure`: recalled.
    """

    crest: DiameterLimits
    pitch: DiameterLimits
    source: str
    unsure: bool = False


def basic_pitch_diameter_mm(major_mm: Decimal, pitch_mm: Decimal) -> Decimal:
    """The pitch diameter of the basic profile, mm. Source: ISO 68-1 (recalled): d2 = d − 0.6495·P.

    >>> round(basic_pitch_diameter_mm(Decimal(24), Decimal(2)), 3)
    Decimal('22.701')
    """
    return major_mm - MAJOR_TO_PITCH * pitch_mm


def basic_minor_diameter_mm(major_mm: Decimal, pitch_mm: Decimal) -> Decimal:
    """The minor diameter of the basic profile, mm. Source: ISO 68-1 (recalled): D1 = D − 1.0825·P.

    >>> round(basic_minor_diameter_mm(Decimal(24), Decimal(2)), 3)
    Decimal('21.835')
    """
    return major_mm - MAJOR_TO_MINOR * pitch_mm
