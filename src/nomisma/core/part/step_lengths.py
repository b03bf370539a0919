"""Which lengths are cut deeper at a shoulder: those of a step from its free end to a larger diameter."""

from collections.abc import Sequence

from nomisma.core.part.lettered import LetteredFeature
from nomisma.core.part.section import section_of

LENGTH, STEP_LENGTH = "length", "step_length"


def step_lengths(features: Sequence[LetteredFeature]) -> set[str]:
    """The letters of lengths that grow as their shoulder is cut deeper: short of its limits such a one has metal to go.

    A step with a larger diameter on one side and no smaller one on the other; of one between a larger and a smaller the
    smaller's shoulder is cut last, which makes it shorter, and what goes from face to face is faced off. Without unit.
    Source: common practice, no source.

    >>> from decimal import Decimal
    >>> from nomisma.core.part.feature import Feature
    >>> def of(letter, kind, size): return LetteredFeature(letter, Feature(kind, Decimal(size), Decimal(size)))
    >>> pin = [of("A", "outside_diameter", 20), of("B", "length", 30), of("C", "outside_diameter", 40),
    ...        of("D", "length", 10)]
    >>> step_lengths(pin)
    {'B'}
    """
    section = section_of(features)
    kinds = {one.letter: one.feature.kind for one in features}
    found: set[str] = set()
    if section is None:
        return found
    for step in section.outside:
        beside = [one for one in section.outside if step.from_mm == one.to_mm or step.to_mm == one.from_mm]
        larger = [one for one in beside if one.diameter_mm > step.diameter_mm]
        if kinds.get(step.along_letter) == LENGTH and larger and len(larger) == len(beside):
            found.add(step.along_letter)
    return found
