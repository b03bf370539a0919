"""An axis that leans: half the difference of two circles' readings over their distance."""

from typing import Any

import pytest

from nomisma.core.registry import calculation_named

ASKED: dict[str, Any] = {
    "near": ["0.001 in", "0 in", "0 in", "0.001 in"], "far": ["0.005 in", "0.002 in", "0 in", "0.003 in"],
    "distance": "3 in",
    "length": "2 in", "target": "0.001 in", "graduation": "0.0005 in",
}  # fmt: skip


def leaned(**more: Any) -> dict[str, Any]:
    return calculation_named("tilt").run({**ASKED, **more}).model_dump(mode="json")


def test_the_lean_is_the_difference_of_the_offsets_over_the_distance() -> None:
    found = leaned()
    assert found["lean"] == pytest.approx((0.0025 - 0.0005) / 3)
    assert found["tap_jaw"] == 1
    assert found["total_indicator_reading_over_length"] == "0.002666665 in"


def test_twice_as_far_apart_it_leans_half_as_much() -> None:
    assert leaned(distance="6 in")["lean"] == pytest.approx(leaned()["lean"] / 2)


def test_two_circles_that_read_alike_do_not_lean() -> None:
    assert leaned(far=ASKED["near"])["lean"] == pytest.approx(0)
