"""What a class of fits written behind a size gives the feature that bears it."""

from nomisma.core.fits.called_out import called_out
from nomisma.core.fits.iso286 import SOURCE as ISO_286
from nomisma.core.part.member import MemberKind
from nomisma.core.part.requirement import Requirement
from nomisma.core.quantity.length import Length, Unit


def class_of_fits(member: MemberKind, text: str, unit: Unit) -> Requirement:
    """The limits of a shaft or a bore by its class; bare numbers in `unit`. Raises InputError.

    Source: ISO 286-1:2010; ANSI B4.1-1967.

    >>> found = class_of_fits("shaft", "25 h7", "mm"); str(found.lower), str(found.upper), found.limits_from
    ('24.979 mm', '25 mm', 'code')
    """
    found = called_out(member, text, unit=unit, field="text")
    lower, upper = (Length(mm, found.unit) for mm in (found.lower_mm, found.upper_mm))
    return Requirement(found.nominal, lower, upper, "code", ISO_286, class_on=found.nominal)
