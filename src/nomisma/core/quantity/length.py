"""A length: exact in millimetres, with the text, unit and decimals as they were entered."""

from dataclasses import dataclass
from decimal import ROUND_CEILING, ROUND_FLOOR, ROUND_HALF_EVEN, Context, Decimal
from typing import Literal

from nomisma.core.errors import OutOfRange

Unit = Literal["in", "mm"]
UNITS: tuple[Unit, Unit] = ("in", "mm")

MM_PER_INCH = Decimal("25.4")  # exact: international inch, 1959; ISO 31-1
M_PER_FOOT = Decimal("0.3048")  # exact: international foot, 1959
UM_PER_MICROINCH = Decimal("0.0254")  # exact, of the inch
MM_PER: dict[Unit, Decimal] = {"in": MM_PER_INCH, "mm": Decimal(1)}

LARGEST_MM = Decimal(10_000)
MOST_DIGITS = 15
_EXACT = Context(prec=40)
_LONGEST_TAIL = Decimal("1e-9")


@dataclass(frozen=True, slots=True)
class Length:
    """A length in mm, exact; `text`, `unit` and `decimals` as entered (decimals None for a fraction).

    Valid from −10 000 mm to 10 000 mm; shop sizes are above 0, but an offset or an interference may be below.
    """

    mm: Decimal
    unit: Unit = "mm"
    text: str = ""
    decimals: int | None = None

    def __post_init__(self) -> None:
        """Raises OutOfRange for what no working may come to: no number, or a length beyond the stars."""
        if not self.mm.is_finite() or (
            self.mm and self.mm.adjusted() > MOST_DIGITS
        ):  # a zero is one whatever its exponent
            raise OutOfRange("These values lie too far apart to be worked together.", "Check each of them.")

    @classmethod
    def of(cls, value: Decimal | int | str, unit: Unit, *, text: str = "", decimals: int | None = None) -> "Length":
        """A length from a decimal value in `unit` ("in" or "mm").

        >>> Length.of("0.8755", "in").mm
        Decimal('22.23770')
        """
        mm = _EXACT.multiply(Decimal(value), MM_PER[unit])
        if not mm.is_finite() or abs(mm) > LARGEST_MM:
            raise OutOfRange(
                f"{(text or str(value))[:20]} is larger than any work this tool knows.",
                "Sizes go up to 10 000 mm (393.7 in); check the unit and the decimal point.",
                value=text or str(value),
            )
        return cls(mm, unit, text, decimals)

    @classmethod
    def from_mm(cls, value: float, unit: Unit) -> "Length":
        """A computed length in `unit` from a float in mm, to a tenth of a nanometre.

        >>> str(Length.from_mm(0.0123456789, "mm"))
        '0.0123457 mm'
        """
        return cls(as_mm(value), unit)

    def value(self, unit: Unit | None = None) -> Decimal:
        """The number in `unit`; exact where it has an end within nine decimals, else rounded to nine.

        >>> Length.of("0.8752", "in").value("in")
        Decimal('0.8752')
        """
        value = in_unit(self.mm, unit or self.unit)
        return value.quantize(_LONGEST_TAIL).normalize() + 0 if value else Decimal(0)

    def with_mm(self, mm: Decimal) -> "Length":
        """Another length in the same unit; a computed one, so it has no text of its own."""
        return Length(mm, self.unit)

    def __str__(self) -> str:
        return f"{plain(self.value())} {self.unit}"


def in_unit(mm: Decimal, unit: Unit) -> Decimal:
    """Millimetres in `unit`, to forty significant digits.

    Source: arithmetic.

    >>> in_unit(Decimal("25.4"), "in")
    Decimal('1')
    """
    return mm if unit == "mm" else _EXACT.divide(mm, MM_PER_INCH)


def as_mm(value: float) -> Decimal:
    """A float in mm as a decimal, to a tenth of a nanometre.

    Source: arithmetic.

    >>> as_mm(0.0123456789), as_mm(-0.0)
    (Decimal('0.0123457'), Decimal('0'))
    """
    return Decimal(f"{value:.7f}").normalize() + 0


def plain(value: Decimal) -> str:
    """A decimal without an exponent.

    Source: arithmetic.

    >>> plain(Decimal("1E+2"))
    '100'
    """
    return f"{value:f}"


def round_to(value: Decimal, decimals: int, direction: Literal["nearest", "up", "down"] = "nearest") -> Decimal:
    """Round to `decimals`: to nearest (half to even), up (towards +∞) or down (towards −∞).

    Source: arithmetic.

    >>> round_to(Decimal("0.87654"), 4)
    Decimal('0.8765')
    """
    mode = {"nearest": ROUND_HALF_EVEN, "up": ROUND_CEILING, "down": ROUND_FLOOR}[direction]
    return value.quantize(Decimal(1).scaleb(-decimals), rounding=mode)
