"""What the cuts taken so far show: a dial of the other kind, a misread, backlash, a warm part, a dull tool."""

from typing import Any

import pytest

from nomisma.core.cutting.findings import findings
from nomisma.core.cutting.learned import CutSeen


def noticed(cuts: list[CutSeen], **more: Any) -> list[str]:
    values = {"size_mm": 25.0, "unit": "mm", "reading_mm": 0.0015, "least_mm": 0.02, **more}
    return [one.name for one in findings(cuts, **values)]


def run(*removed: float, dialled: float = 0.4) -> list[CutSeen]:
    return [CutSeen(dialled, one, index == 0) for index, one in enumerate(removed)]


@pytest.mark.parametrize(
    ("cuts", "name"),
    [
        (run(0.8), "radius_dial"),
        (run(0.2), "diameter_dial"),
        (run(0.4, 0.4, 0.9), "misread"),
        (run(0.4, 0.4, 0.4, 0.25), "moved"),
        (run(0.4, 0.4, 0.4, 0.395), None),
    ],
)
def test_what_a_cut_shows_is_said(cuts: list[CutSeen], name: str | None) -> None:
    assert noticed(cuts) == ([name] if name else [])


def test_backlash_that_was_not_taken_up_is_named() -> None:
    assert noticed(run(0.4, 0.4, 0.4, 0.3), backlash_mm=0.1) == ["backlash"]


def test_a_cut_too_thin_to_cut_is_named() -> None:
    thin = [*run(0.4, 0.4, 0.4), CutSeen(0.01, 0.012)]
    assert "too_thin" in noticed(thin)


def test_a_part_that_measures_larger_than_it_should_may_be_warm() -> None:
    assert noticed([*run(0.4, 0.4, 0.4, 0.4), CutSeen(0.4, 0.34)], size_mm=200.0) == ["hot"]


def test_a_warm_bore_measures_larger_too() -> None:
    cuts = [*run(0.4, 0.4, 0.4, 0.4, 0.4), CutSeen(0.4, 0.46)]
    assert noticed(cuts, size_mm=200.0, kind="bore") == ["hot"]
    assert noticed(cuts, size_mm=200.0) == ["moved"]


def test_a_spring_pass_is_no_cut_too_thin() -> None:
    assert noticed([*run(0.4, 0.4, 0.4), CutSeen(0.0, 0.012)]) == []


def test_growing_push_off_is_a_dull_tool() -> None:
    assert "push_off" in noticed(run(0.4, 0.4, 0.4, 0.4, 0.395, 0.388, 0.379, 0.368))
