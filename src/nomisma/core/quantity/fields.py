"""Lengths, numbers and temperatures at the door of a calculation: text with a unit in, text with a unit out."""

import re
from collections.abc import Callable
from decimal import Decimal
from typing import Annotated, Any

from pydantic import BeforeValidator, PlainSerializer, PlainValidator, WithJsonSchema

from nomisma.core.calculation import CarriedError
from nomisma.core.errors import InputError, OutOfRange, UnreadableLength, refused_as
from nomisma.core.number import number_from, sane, sane_exponent
from nomisma.core.quantity.length import UM_PER_MICROINCH, Length, Unit, round_to
from nomisma.core.quantity.writing import parse_length


def _read(value: Any, *, positive: bool) -> Length:
    if isinstance(value, Length):
        return value
    if not isinstance(value, str):
        raise CarriedError(
            UnreadableLength("A size here is text with its unit.", 'Write it like "25.021 mm".', value=value)
        )
    try:
        return parse_length(value, positive=positive)
    except InputError as error:
        raise CarriedError(error) from None


def _size(value: Any) -> Length:
    return _read(value, positive=True)


def _difference(value: Any) -> Length:
    return _read(value, positive=False)


_as_text = PlainSerializer(str, return_type=str)

Size = Annotated[
    Length, PlainValidator(_size), _as_text, WithJsonSchema({"type": "string", "examples": ["25.021 mm", "0.8755 in"]})
]
"""A size above zero, as text with its unit: "25.021 mm", "7/8 in", "0.8755 in"."""


def _size_or_zero(value: Any) -> Length:
    found = _read(value, positive=False)
    if found.mm < 0:
        raise CarriedError(
            OutOfRange(f"{found} is below zero.", "Enter it without a sign; 0 where there is none.", value=str(value))
        )
    return found


SizeOrZero = Annotated[
    Length,
    PlainValidator(_size_or_zero),
    _as_text,
    WithJsonSchema({"type": "string", "examples": ["0.010 in", "0 mm"]}),
]
"""A size, or 0 where there is none of it: the leg of an edge that is sharp, the radius of a corner that is."""

Difference = Annotated[
    Length,
    PlainValidator(_difference),
    _as_text,
    WithJsonSchema({"type": "string", "examples": ["0.0005 in", "-12 um"]}),
]
"""A length that may be zero or below: a clearance, an interference (negative clearance), an offset."""


def text_by(reader: Callable[[str], Decimal]) -> BeforeValidator:
    """At a calculation's door text is read by `reader`, and what it refuses goes with its own sentence; numbers pass.
    Source: arithmetic.
    """

    def read(value: Any) -> Any:
        try:
            return reader(value) if isinstance(value, str) else value
        except InputError as error:
            raise CarriedError(error) from None

    return BeforeValidator(read)


def _number_in(value: Any) -> Any:
    """Text as a number, before anything is worked with it: a huge exponent costs minutes once it is made whole."""
    try:
        if isinstance(value, str):
            return number_from(value)
        if isinstance(value, (int, float)) and not isinstance(value, bool):
            return sane(Decimal(repr(value)))
        if isinstance(value, Decimal):
            return sane_exponent(value)
    except InputError as error:
        raise CarriedError(error) from None
    return value


def _number(value: Decimal) -> int | float:
    return int(value) if value == value.to_integral_value() else float(value)


Number = Annotated[
    Decimal, BeforeValidator(_number_in), PlainSerializer(_number, return_type=int | float, when_used="json")
]
"""A decimal that is written to JSON as a plain number; its unit stands at the end of the field's name."""


MOST_C = 10_000


def celsius(text: str) -> Decimal:
    """A temperature as it is written, in °C: 24, 24.5 °C, 75 F. Raises InputError.

    Source: arithmetic: (F − 32) × 5/9.

    >>> celsius("68 F"), celsius("24,5 °C")
    (Decimal('20.00'), Decimal('24.5'))
    """
    number = text.lower().replace("°", "").strip()
    with refused_as(f"“{text[:40]}” is not a temperature of a shop.", "Write it like 24, 24.5 or 75 F.", value=text):
        value = number_from(number.rstrip("cf ").strip(), least=-MOST_C, most=MOST_C)
    return ((value - 32) / Decimal("1.8")).quantize(Decimal("0.01")) if number.endswith("f") else value


Celsius = Annotated[Number, text_by(celsius)]
"""A temperature in °C; as text with F at its end it is in °F: 20, "20.5", "68 F"."""


LARGEST_RA_UM = 100


def roughness_um(text: str, unit: Unit = "mm") -> Decimal:
    """A roughness Ra as it is written, in µm: 1.6, 1.6 µm, 63 µin; a bare number is in µm, or in µin where the unit is
    the inch.

    Raises OutOfRange, for what is no roughness too.

    Source: arithmetic: 1 µin is 0.0254 µm.

    >>> roughness_um("63 µin"), roughness_um("63", "in"), roughness_um("1,6")
    (Decimal('1.6'), Decimal('1.6'), Decimal('1.6'))
    """
    found = re.fullmatch(r"([0-9]+(?:\.[0-9]+)?|\.[0-9]+)\s*([uµμ]m|[uµμ]in)?", text.replace(",", ".").strip())
    inch = found is not None and (found[2] or ("in" if unit == "in" else "m")).endswith("in")
    ra_um = Decimal(found[1]) * (UM_PER_MICROINCH if inch else 1) if found else Decimal(0)
    if not 0 < ra_um <= LARGEST_RA_UM:
        raise OutOfRange(
            f"“{text[:40]}” is no roughness.",
            "Give Ra above 0 and at most 100 µm (4000 µin); 1.6 µm (63 µin) is usual.",
            value=text,
        )
    return round_to(ra_um, 2).normalize()


Roughness = Annotated[Number, text_by(roughness_um)]
"""A roughness Ra in µm; as text it may be in µin: 1.6, "1.6 µm", "63 µin"."""
