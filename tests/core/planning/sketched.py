"""Parts as their lines say them, for the tests of planning."""

from nomisma.core.part.section import section_of
from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
from nomisma.core.planning.surfaces import Surface, surfaces_of

FLANGED = "od 24 h9 x 30 ±0.1\nod 40 x 10 ±0.1\nbore 12 H7 thru\nlength 40 ±0.1"


def surfaces(lines: str) -> list[Surface]:
    """The surfaces of a part, sizes in mm."""
    read = feature_lines(FeatureLinesInput(text=lines, unit="mm"))
    assert not read.not_understood
    known = [lettered(one) for one in read.features]
    section = section_of(known)
    assert section is not None
    return surfaces_of(known, section)
