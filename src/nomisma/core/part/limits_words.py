"""Limits as a machinist says them, whether there are two, one or none."""

from nomisma.core.part.feature import Feature
from nomisma.core.quantity.display import show_exact
from nomisma.core.quantity.length import Unit


def limits_words(feature: Feature, unit: Unit) -> str:
    """The limits in the unit asked for. Source: common practice, no source.

    >>> from decimal import Decimal
    >>> limits_words(Feature("depth", Decimal("3.00"), Decimal("3.25")), "mm")
    '3.000 mm to 3.250 mm'
    >>> limits_words(Feature("runout", upper_mm=Decimal("0.02")), "mm"), limits_words(Feature("length"), "mm")
    ('at most 0.020 mm', 'for reference: not judged')
    """
    lower, upper = (show_exact(mm, unit) if mm is not None else "" for mm in (feature.lower_mm, feature.upper_mm))
    if lower and upper:
        return f"{lower} to {upper}"
    if upper:
        return f"at most {upper}"
    return f"at least {lower}" if lower else "for reference: not judged"
