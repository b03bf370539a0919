"""Holes on a circle: all as far from the middle, all as far from the next."""

import cmath
import math
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
    ("given", "field"),
    [
        ({"count": 1}, "count"),
        ({"count": 6, "hole": "60 mm"}, "hole"),
        ({"count": 400}, "count"),
        ({"count": 6, "stud": "8 mm"}, "hole"),
        ({"count": 6, "hole": "8 mm", "stud": "8 mm"}, "stud"),
    ],
)
def test_what_cannot_be_is_told_at_its_field(given: dict[str, object], field: str) -> None:
    with pytest.raises(BadInput) as refused:
        holes(**given)
    assert refused.value.errors[0].field == field


def test_a_hole_may_be_off_by_a_quarter_of_its_play_over_a_fixed_stud() -> None:
    """By hand, ASME Y14.5 (recalled): 9 over 8 leaves H − F = 1 = 2·T; T = 0.5 is a diameter, so 0.25 off any way."""
    found = holes(count=6, circle="115 mm", hole="9 mm", stud="8 mm")
    assert str(found.may_be_off) == "0.25 mm"
    facts = {one.name: str(one.length) for one in found.facts if one.length}
    assert facts["Each may be off, bolts through both"] == "0.5 mm"
    assert facts["Over two opposite, far sides"] == "124 mm"
    assert facts["Over two neighbours, far sides"] == "66.5 mm"  # 115·sin 30° + 9


@given(st.integers(2, 40), st.integers(0, 359))
def test_coordinates_are_the_roots_of_unity_turned_and_scaled(count: int, start: int) -> None:
    """A second way: the k-th hole is r·e^(i·(start + 2π·k/n)) in the complex plane."""
    found = holes(count=count, start_deg=start)
    for k, (x, y) in enumerate(found.holes):
        point = 50 * cmath.exp(1j * (math.radians(start) + 2 * math.pi * k / count))
        assert (float(x.mm), float(y.mm)) == (pytest.approx(point.real, abs=1e-6), pytest.approx(point.imag, abs=1e-6))
