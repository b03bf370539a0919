"""The lengths of a part along its axis, each between the two places it joins on the section."""

from collections.abc import Iterable
from dataclasses import dataclass
from decimal import Decimal

from nomisma.core.part.lettered import LetteredFeature, whole_length
from nomisma.core.part.section import Section


@dataclass(frozen=True, slots=True)
class AxialLength:
    """A length, a height, a depth, a position or a groove's width by its letter, from where to where it lies, mm from
    the left face.
    """

    letter: str
    kind: str
    from_mm: Decimal
    to_mm: Decimal


def axial_lengths(features: Iterable[LetteredFeature], section: Section) -> list[AxialLength]:
    """The lengths whose two ends are known on the section, in the order of their letters. Source: geometry.

    >>> from nomisma.core.part.feature import Feature
    >>> from nomisma.core.part.section import section_of
    >>> plain = [LetteredFeature("A", Feature("outside_diameter", Decimal(20), Decimal(20))),
    ...          LetteredFeature("B", Feature("length", Decimal(30), Decimal(30)))]
    >>> [(one.letter, one.from_mm, one.to_mm) for one in axial_lengths(plain, section_of(plain))]
    [('B', Decimal('0'), Decimal('30'))]
    """
    known = list(features)
    whole = whole_length(known)
    lies = {letter: (begins, ends) for letter, begins, ends in section.lies}
    found = []
    for one in known:
        extent = (Decimal(0), section.length_mm) if one is whole else lies.get(one.letter)
        if one.feature.kind == "position":
            extent = _from_datum(one, extent, section.length_mm)
        elif not one.feature.of_kind.is_along:
            extent = None
        if extent is not None and extent[0] < extent[1]:
            found.append(AxialLength(one.letter, one.feature.kind, *extent))
    return found


def _from_datum(
    one: LetteredFeature, groove: tuple[Decimal, Decimal] | None, whole_mm: Decimal
) -> tuple[Decimal, Decimal] | None:
    """From the face a position is counted from to the near side of its groove; None where it is counted from another
    feature.
    """
    if groove is None or one.along.letter:
        return None
    return (groove[1], whole_mm) if one.along.face == "right" else (Decimal(0), groove[0])
