"""The parts of the invented shop: every line of them is read, and nothing in them contradicts itself."""

import pytest

from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines
from nomisma.demo.parts import LATER_PARTS, PARTS, DemoPart


@pytest.mark.parametrize("part", [*PARTS, *LATER_PARTS], ids=lambda part: part.title)
def test_a_part_is_read_whole_and_can_be(part: DemoPart) -> None:
    found = feature_lines(FeatureLinesInput(text=part.lines, unit=part.unit))
    assert found.not_understood == []
    assert found.contradictions == []
