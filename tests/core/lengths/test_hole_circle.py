"""Holes on a circle: all as far from the middle, all as far from the next."""

from math import hypot

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.lengths.hole_circle import HoleCircleResult
from nomisma.core.registry import calculation_named


def holes(**given: object) -> HoleCircleResult:
    found = calculation_named("hole_circle").run({"circle": "100 mm", **given})
    assert isinstance(found, HoleCircleResult)
    return found


@given(st.integers(2, 60), st.integers(0, 359))
def test_every_hole_is_a_chord_from_the_next_and_a_radius_from_the_middle(count: int, start: int) -> None:
    found = holes(count=count, start_deg=start)
    points = [(float(x.mm), float(y.mm)) for x, y in found.holes]
    for (x, y), (u, v) in zip(points, [*points[1:], points[0]], strict=True):
        assert hypot(x, y) == pytest.approx(50, abs=1e-5)
        assert hypot(x - u, y - v) == pytest.approx(float(found.chord.mm), abs=1e-5)


def test_the_middle_may_lie_elsewhere() -> None:
    x, y = holes(count=4, x0="10 mm", y0="-5 mm").holes[1]
    assert (str(x), str(y)) == ("10 mm", "45 mm")


@pytest.mark.parametrize(
    ("given", "field"), [({"count": 1}, "count"), ({"count": 6, "hole": "60 mm"}, "hole"), ({"count": 400}, "count")]
)
def test_what_cannot_be_is_told_at_its_field(given: dict[str, object], field: str) -> None:
    with pytest.raises(BadInput) as refused:
        holes(**given)
    assert refused.value.errors[0].field == field
