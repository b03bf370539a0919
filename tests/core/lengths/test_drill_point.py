"""A drill's point counts."""

import pytest

from nomisma.core.calculation import BadInput
from nomisma.core.lengths.drill_point import DrillPointResult
from nomisma.core.registry import calculation_named


def point(**given: object) -> DrillPointResult:
    found = calculation_named("drill_point").run({"drill": "10 mm", **given})
    assert isinstance(found, DrillPointResult)
    return found


@pytest.mark.parametrize(("angle", "share"), [(118, 0.3004), (135, 0.2071), (90, 0.5), (140, 0.182)])
def test_the_point_is_so_much_of_the_drill(angle: int, share: float) -> None:
    """0.3 of the diameter for 118° is in every handbook (recalled); the others from a drawn triangle."""
    assert float(point(point_deg=angle).point.mm) == pytest.approx(10 * share, abs=0.002)


def test_a_tip_through_the_back_is_told() -> None:
    assert "comes through the back" in point(full_depth="20 mm", part="22 mm").notes[0]


def test_a_skin_to_be_opened_from_the_back_stops_the_tip_before_it() -> None:
    assert str(point(part="30 mm", skin="1 mm").stop_short) == "29 mm"
    with pytest.raises(BadInput):
        point(part="30 mm", skin="30 mm")
