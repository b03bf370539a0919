"""A plain number as it is typed: ASCII digits, finite, of a magnitude some shop knows."""

import re
from decimal import Decimal

from nomisma.core.errors import AmbiguousLength, InputError, OutOfRange

LARGEST_NUMBER = Decimal(10) ** 9
SMALLEST_NUMBER = Decimal(10) ** -18
"""Beyond these (either sign; nought is in) no number of this trade lies. Source: this tool's own choice."""
LONGEST_NUMBER = 40
MOST_DIGITS = 60
_NUMBER = re.compile(r"[+-]?(?:[0-9]+(?:[.,][0-9]*)?|[.,][0-9]+)(?:[eE][+-]?[0-9]{1,3})?")
_THOUSANDS = re.compile(r"[+-]?0*[1-9][0-9]*,[0-9]{3}")
_WHOLE = re.compile(r"[0-9]{1,12}")


def may_be_thousands(text: str) -> bool:
    """Whether the comma of a number may be either mark: 1,125 is 1.125 or 1125; 0,125 and 12,5 are not.

    Source: arithmetic.

    >>> may_be_thousands("1,125"), may_be_thousands("0,125"), may_be_thousands("12,5")
    (True, False, False)
    """
    return _THOUSANDS.fullmatch(text) is not None


def sane(value: Decimal, text: str = "") -> Decimal:
    """The value itself. Raises OutOfRange where it is not finite, or larger or smaller than any number of a shop.

    Source: arithmetic.

    >>> sane(Decimal("12.5"))
    Decimal('12.5')
    """
    if value.is_finite() and (not value or SMALLEST_NUMBER <= abs(value) <= LARGEST_NUMBER):
        return value
    raise OutOfRange(
        f"“{(text or str(value))[:40]}” is no number of a shop.", "Check it.", value=text or str(value)[:40]
    )


def sane_exponent(value: Decimal) -> Decimal:
    """The value itself, worked out or not. Raises OutOfRange where its digits alone would fill a page.

    Source: arithmetic.

    >>> sane_exponent(Decimal("1e-30"))
    Decimal('1E-30')
    """
    return value if value.is_finite() and abs(value.adjusted()) <= MOST_DIGITS else sane(value)


def number_from(
    text: str, *, least: Decimal | int | None = None, most: Decimal | int | None = None, field: str = ""
) -> Decimal:
    """A number as typed, with a point or a comma, within `least` and `most`. Raises InputError, OutOfRange;
    AmbiguousLength for 1,125.

    Source: arithmetic.

    >>> number_from(" 12,5 "), number_from("1e-3")
    (Decimal('12.5'), Decimal('0.001'))
    """
    plain = text.replace("−", "-").strip()
    if may_be_thousands(plain):
        whole, _, tail = plain.partition(",")
        raise AmbiguousLength(
            f"“{plain}” could be {whole}.{tail} or {whole}{tail}.",
            f"Write {whole}.{tail} or {whole}{tail}.",
            field=field,
            value=plain,
        )
    if len(plain) > LONGEST_NUMBER or not _NUMBER.fullmatch(plain):
        raise InputError(f"“{text[:40]}” is not a number.", "Write it like 60 or 2.5.", field=field, value=text[:80])
    try:
        value = sane(Decimal(plain.replace(",", ".")), text)
    except OutOfRange as error:
        raise error.at(field) from None
    if (least is not None and value < least) or (most is not None and value > most):
        raise OutOfRange(
            f"{text.strip()} cannot be used here.", f"Give {_ends(least, most)}.", field=field, value=text[:80]
        )
    return value


def whole_from(text: str, *, least: int = 0, most: int = 999_999_999, field: str = "") -> int:
    """A whole number in ASCII digits, within `least` and `most`. Raises InputError, OutOfRange.

    Source: arithmetic.

    >>> whole_from("12")
    12
    """
    if not is_whole(text):
        raise InputError(f"“{text[:20]}” is not a whole number.", "Write it like 3.", field=field, value=text[:80])
    value = int(text)
    if not least <= value <= most:
        raise OutOfRange(f"{value} cannot be used here.", f"Give {_ends(least, most)}.", field=field, value=text[:80])
    return value


def is_whole(text: str) -> bool:
    """Whether a text is a whole number of at most twelve ASCII digits.

    Source: arithmetic.

    >>> is_whole("12"), is_whole("²"), is_whole("١٢")
    (True, False, False)
    """
    return bool(_WHOLE.fullmatch(text))


def _ends(least: Decimal | int | None, most: Decimal | int | None) -> str:
    if least is None:
        return f"at most {most}"
    return f"at least {least}" if most is None else f"{least} to {most}"
