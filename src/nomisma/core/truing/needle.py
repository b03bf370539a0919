"""What a needle says, as it is typed: within the indicator's range, or with its likely meaning where it is not."""

from decimal import Decimal

from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.quantity.display import show
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import parse_length
from nomisma.core.truing.four_jaw import LARGEST_SWING_MM


def needle_reading(text: str, unit: Unit, *, range_mm: Decimal | None = None, field: str = "size") -> Length:
    """One reading of an indicator that reads in `unit` and goes `range_mm` far (none: nobody said), mm within.

    Raises InputError, OutOfRange at `field`. Source: shop writing, common practice, no source.

    >>> str(needle_reading("-2 thou", "in"))
    '-0.002 in'
    """
    try:
        found = parse_length(text, unit, positive=False)
    except InputError as error:
        raise error.at(field) from None
    most = range_mm if range_mm is not None else Decimal(LARGEST_SWING_MM)
    if abs(found.mm) <= most:
        return found
    raise OutOfRange(
        f"{found} is past the indicator's range of {show(most, unit)}.",
        "Check the unit and the point; if the needle has gone round, bring the work nearer by the chuck's rings and"
        " read again." + _meant(text, found, unit),
        field=field,
        value=text,
    )


def _meant(text: str, found: Length, unit: Unit) -> str:
    if found.unit != "in" or unit != "in":
        return ""
    if abs(found.value("in")) >= 1:
        return f" Thou are written “{text.strip()} thou”."
    return f" Millimetres are written “{text.strip()} mm”."
