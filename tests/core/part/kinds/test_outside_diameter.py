"""Outside diameters: one behind the other, sharing what the whole leaves, or where they are said to lie."""

import pytest

from nomisma.core.part.section import section_of
from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered


@pytest.mark.parametrize(
    ("lines", "ends", "assumed"),
    [
        ("od 24 x 18\nod 40 x 10", [18, 28], ()), ("od 24 x 18\nod 40\noverall 30", [18, 30], ()),
        ("od 24\nod 40 x 10\noverall 30", [20, 30], ()), ("od 24 x 18\nod 40", [18, 58], ("how long C is",)),
        ("od 40 from 10 to 30\nod 24 from 0 to 10", [10, 30], ()), ("25 h7 x 30", [30], ()),
        ("hub 25 x 12 high", [12], ()),
    ],
)  # fmt: skip
def test_where_the_steps_end(lines: str, ends: list[int], assumed: tuple[str, ...]) -> None:
    read = feature_lines(FeatureLinesInput(text=lines, unit="mm", general_tolerance="none")).features
    section = section_of([lettered(one) for one in read])
    assert section is not None
    assert [step.to_mm for step in section.outside] == ends
    assert section.assumed == assumed
