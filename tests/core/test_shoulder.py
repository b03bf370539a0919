"""A shoulder to its length: passes, corner, compound."""

from typing import Any

import pytest

from nomisma.core.calculation import BadInput
from nomisma.core.registry import calculation_named


def shoulder(**given: Any) -> Any:
    return calculation_named("shoulder").run(
        {"length": "0.75 in", "from_diameter": "1.5 in", "to_diameter": "1 in", **given}
    )


def test_passes_stop_short_and_the_last_goes_to_the_mark() -> None:
    found = shoulder(set_by="slips")
    assert found.passes == 5
    assert str(found.stops_at) == "0.747 in"
    assert "4 passes 0.0500 in deep, each stopped at 0.7470 in." in found.steps
    assert "face out in one sweep" in found.steps[2]
    assert "Slips of 0.7500 in" in found.steps[0]


@pytest.mark.parametrize(
    ("chamfer", "clearance", "held_off_thou"),
    [("0.010 in", "0 in", 6.0), ("0.016 in", "0 in", 0), ("0.012 in", "0.004 in", 0), ("0.002 in", "0.001 in", 8.432)],
)
def test_a_shoulder_and_the_corner_worksheet_say_the_same(chamfer: str, clearance: str, held_off_thou: float) -> None:
    found = shoulder(tool_radius="0.016 in", partner_chamfer=chamfer, radial_clearance=clearance)
    worksheet: Any = calculation_named("corner").run(
        {"fillet_radius": "0.016 in", "edge": "chamfer", "edge_size": chamfer, "radial_clearance": clearance}
    )
    assert found.held_off.mm == worksheet.stand_off.mm
    assert float(found.held_off.value("in")) * 1000 == pytest.approx(held_off_thou, abs=1e-3)
    assert found.seats is worksheet.seats is (held_off_thou == 0)
    assert ("never seat" in " ".join(found.steps)) is not found.seats


def test_nothing_is_said_about_a_corner_nobody_described() -> None:
    found = shoulder(tool_radius="0.016 in")
    assert found.seats is None
    assert "corner" not in found.sentence


def test_a_chamfer_is_measured_along_the_axis() -> None:
    assert str(shoulder(chamfer="1/16 in").chamfer_on_diameter) == "0.125 in"
    assert float(shoulder(chamfer="1/16 in", chamfer_deg=30).chamfer_on_diameter.value("in")) == pytest.approx(
        0.0722, abs=1e-4
    )


def test_the_compound_moves_more_than_the_tool_goes_along() -> None:
    assert float(shoulder(compound_deg=60).compound_move.value("in")) == pytest.approx(0.006)


@pytest.mark.parametrize(
    ("wrong", "sentence"),
    [({"to_diameter": "2 in"}, "from the larger diameter"), ({"stop_short": "1 in"}, "more than the shoulder is long")],
)
def test_a_shoulder_that_is_none_has_its_sentence(wrong: dict[str, str], sentence: str) -> None:
    with pytest.raises(BadInput, match=sentence):
        shoulder(**wrong)
