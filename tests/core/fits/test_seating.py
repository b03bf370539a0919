"""Do the faces seat: recess against boss, corner against edge."""

from typing import Any

import pytest

from nomisma.core.registry import calculation_named


def gap(recess: str, boss: str) -> dict[str, Any]:
    return (
        calculation_named("depths")
        .run({"recess_depth": recess, "boss_height": boss, "unit": "mm"})
        .model_dump(mode="json")
    )


@pytest.mark.parametrize(
    ("recess", "boss", "bottoms"),
    [
        ("12.0/12.1", "11.8/11.9", "never"),
        ("12.0/12.1", "12.05/12.15", "sometimes"),
        ("12.0/12.1", "12.2/12.3", "always"),
    ],
)
def test_whether_a_boss_bottoms(recess: str, boss: str, bottoms: str) -> None:
    assert gap(recess, boss)["bottoms"] == bottoms


def test_the_worst_gaps_are_differences_of_opposite_limits() -> None:
    found = gap("12.0/12.1", "11.8/11.9")
    assert (found["gap_min"], found["gap_max"]) == ("0.1 mm", "0.3 mm")


def test_by_root_sum_square_the_gap_spreads_less_about_the_same_middle() -> None:
    found = gap("12.0/12.1", "11.8/11.9")
    low, high = (float(found[name].removesuffix(" mm")) for name in ("gap_rss_min", "gap_rss_max"))
    assert (low + high) / 2 == pytest.approx(0.2)
    assert high - low == pytest.approx((0.1**2 + 0.1**2) ** 0.5)


def test_a_chamfer_as_large_as_the_fillet_seats_and_a_smaller_one_does_not() -> None:
    for size, seats in (("1 mm", True), ("0.5 mm", False)):
        asked = {"fillet_radius": "1 mm", "edge": "chamfer", "edge_size": size, "unit": "mm"}
        assert calculation_named("corner").run(asked).model_dump(mode="json")["seats"] is seats
