"""An angle as a shop writes it: 16.594°, 16°35'40", 4° half; and as it is shown, in both ways."""

import re
from decimal import Decimal

from nomisma.core.errors import UnreadableLength, refused_as
from nomisma.core.number import number_from

HOW = "Write it like 16.5°, or 16°35'40\"."
_ANGLE = re.compile(
    r"(?P<degrees>[0-9.,]+)\s*(?:°|deg(?:rees)?|d)?"
    r"(?:\s*(?P<minutes>[0-9.,]+)\s*(?:'|′|min|m))?(?:\s*(?P<seconds>[0-9.,]+)\s*(?:\"|″|''|sec|s))?",
    re.IGNORECASE,
)


def parse_angle_deg(text: str, *, most_deg: int = 180) -> Decimal:
    """An angle in degrees, above zero and below `most_deg`. Raises UnreadableLength.

    Source: common practice, no source (writing); 60 minutes a degree, 60 seconds a minute.

    >>> parse_angle_deg("8.25°"), parse_angle_deg("16°35'40\\"")
    (Decimal('8.25'), Decimal('16.59444444'))
    """
    plain = " ".join(text.split())
    match = _ANGLE.fullmatch(plain)
    with refused_as(f"“{plain[:40]}” is not an angle.", HOW, field="angle"):
        if match is None:
            raise UnreadableLength(f"“{plain[:40]}” is not an angle.", HOW, value=plain[:80])
        degrees = number_from(match["degrees"], least=0, most=most_deg)
        minutes, seconds = (number_from(match[name] or "0", least=0, most=60) for name in ("minutes", "seconds"))
    found = degrees + minutes / 60 + seconds / 3600
    if not 0 < found < most_deg:
        raise UnreadableLength(
            f"An angle of {plain[:40]} is none here.", f"Above 0 and below {most_deg}°.", value=plain[:80]
        )
    return found.quantize(Decimal("1e-8")).normalize() if minutes or seconds else found


def show_angle(degrees: float) -> str:
    """An angle as it is read off: decimal degrees, and degrees, minutes and seconds. Source: 60 minutes a degree, 60
    seconds a minute.

    >>> show_angle(16.5944444), show_angle(30)
    ('16.594° (16°35′40″)', '30.000° (30°0′0″)')
    """
    total = round(abs(degrees) * 3600)
    whole, rest = divmod(total, 3600)
    sign = "−" if degrees < 0 else ""
    return f"{sign}{abs(degrees):.3f}° ({sign}{whole}°{rest // 60}′{rest % 60}″)"
