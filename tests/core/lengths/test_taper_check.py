"""A taper over rollers or balls, against one that is drawn and measured here."""

from math import cos, radians, sin, tan
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.lengths.taper_check import TaperCheckResult
from nomisma.core.registry import calculation_named


def check(**given: Any) -> TaperCheckResult:
    found = calculation_named("taper_check").run(given)
    assert isinstance(found, TaperCheckResult)
    return found


def over_rollers(end: float, half_deg: float, roller: float, height: float) -> float:
    """Over two rollers at a height, found by bringing a circle up to the flank until it touches: no formula of the one
    under test.
    """
    a, r = radians(half_deg), roller / 2
    low, high = 0.0, 1000.0
    for _ in range(200):
        x = (low + high) / 2
        distance = (x - end / 2 - (height + r) * tan(a)) * cos(a)
        low, high = (x, high) if distance < r else (low, x)
    return 2 * (low + r)


@given(st.floats(10, 80), st.floats(0.5, 20), st.floats(4, 15), st.floats(10, 60))
def test_a_drawn_plug_gives_back_its_taper_and_its_end(
    end: float, half_deg: float, roller: float, height: float
) -> None:
    low, high = over_rollers(end, half_deg, roller, 0), over_rollers(end, half_deg, roller, height)
    found = check(
        what="plug",
        roller=f"{roller:.9f} mm",
        over_low=f"{low:.9f} mm",
        over_high=f"{high:.9f} mm",
        slips=f"{height:.9f} mm",
    )
    assert found.half_deg == pytest.approx(half_deg, abs=1e-5)
    assert float(found.end.mm) == pytest.approx(end, abs=1e-4)


@given(st.floats(1, 20), st.floats(30, 60))
def test_a_drawn_ring_gives_back_its_taper_and_its_mouth(half_deg: float, mouth: float) -> None:
    a = radians(half_deg)
    balls, depths = (mouth / 5, mouth / 2.6), []
    for ball in balls:
        centre = (mouth / 2 - ball / 2 / cos(a)) / tan(a)
        depths.append(centre - ball / 2)
    found = check(
        what="ring",
        small_ball=f"{balls[0]:.9f} mm",
        small_depth=f"{depths[0]:.9f} mm",
        large_ball=f"{balls[1]:.9f} mm",
        large_depth=f"{depths[1]:.9f} mm",
    )
    assert sin(radians(found.half_deg)) == pytest.approx(sin(a), abs=1e-6)
    assert float(found.end.mm) == pytest.approx(mouth, abs=1e-4)


@pytest.mark.parametrize(
    ("given", "field"),
    [
        ({"what": "plug", "roller": "10 mm"}, "over_low"),
        ({"what": "plug", "roller": "10 mm", "over_low": "40 mm", "over_high": "39 mm", "slips": "20 mm"}, "over_high"),
        ({"what": "plug", "roller": "30 mm", "over_low": "40 mm", "over_high": "41 mm", "slips": "20 mm"}, "over_low"),
        (
            {
                "what": "ring",
                "small_ball": "20 mm",
                "small_depth": "10 mm",
                "large_ball": "10 mm",
                "large_depth": "80 mm",
            },
            "small_depth",
        ),
    ],
)
def test_what_cannot_be_is_told_at_its_field(given: dict[str, str], field: str) -> None:
    with pytest.raises(BadInput) as refused:
        check(**given)
    assert refused.value.errors[0].field == field


@pytest.mark.parametrize("large_depth", [-12.9, 0.0])
def test_a_ball_that_stands_out_of_the_face_or_is_level_with_it_is_measured_by(large_depth: float) -> None:
    half, large, small = radians(15), 36.0, 24.0
    end = 2 * (large / 2 / cos(half) + (large_depth + large / 2) * tan(half))
    small_centre = (end / 2 - small / 2 / cos(half)) / tan(half)
    found = check(
        what="ring",
        large_ball=f"{large} mm",
        large_depth=f"{large_depth} mm",
        small_ball=f"{small} mm",
        small_depth=f"{small_centre - small / 2:.9f} mm",
    )
    assert found.half_deg == pytest.approx(15)
    assert float(found.end.mm) == pytest.approx(end)
