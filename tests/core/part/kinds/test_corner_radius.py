"""An edge rounded outside, by whichever word."""

import pytest

from tests.core.part.kinds.reading import read


@pytest.mark.parametrize("line", ["R0.8", "0.8 R", "rad 0.8", "round edges 0.8", "radius 0.8 on the outside edges"])
def test_its_radius_is_read(line: str) -> None:
    (edge,) = read(line)
    assert (edge.kind, str(edge.lower), str(edge.upper)) == ("corner_radius", "0.6 mm", "1 mm")
