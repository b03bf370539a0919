"""A sine bar: its height, its pile, and the angle that comes of it."""

from math import asin, degrees
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.lengths.sine_bar import SineBarResult
from nomisma.core.registry import calculation_named


def bar(**given: Any) -> SineBarResult:
    found = calculation_named("sine_bar").run({"rollers_apart": "100 mm", "set": "m88", **given})
    assert isinstance(found, SineBarResult)
    return found


@given(st.floats(2, 74))
def test_the_angle_made_is_that_of_the_pile_and_near_the_one_wanted(angle: float) -> None:
    found = bar(angle=f"{angle:.5f}°")
    assert found.made_deg == pytest.approx(degrees(asin(float(found.pile.height.mm) / 100)))
    assert found.made_deg == pytest.approx(float(f"{angle:.5f}"), abs=0.0025 / (1 - (angle / 90) ** 2))


def test_sine_centres_are_set_by_half_the_taper() -> None:
    whole, half = bar(angle="1:20"), bar(angle="1:20", sets="half")
    assert half.angle_deg == pytest.approx(whole.angle_deg / 2)


def test_slips_that_are_missing_are_missing_here_too() -> None:
    assert bar(angle="30°", missing="50").pile.height.mm == 50
    assert "50" not in bar(angle="30°", missing="50").headline.split(" + ")


@pytest.mark.parametrize(
    ("given", "field", "sentence"),
    [({"angle": "90°"}, "angle", "not set on a sine bar"), ({"angle": "flat"}, "angle", "not an angle"),
     ({"angle": "0.0000001°"}, "angle", "no height"),
     ({"angle": "80"}, "angle", "complement, 10°"), ({"angle": "0.2°"}, "angle", "too thin to pile")],
)  # fmt: skip
def test_what_cannot_be_set_has_its_sentence(given: dict[str, str], field: str, sentence: str) -> None:
    with pytest.raises(BadInput) as refused:
        bar(**given)
    assert refused.value.errors[0].field == field
    assert sentence in refused.value.errors[0].sentence


def test_the_nearest_pile_is_the_nearest_there_is() -> None:
    """16.5° on 100 mm is 28.4015 high, and the half micrometre is on the shelf (1.0005)."""
    found = bar(angle="16.5°")
    assert str(found.pile.height) == "28.4015 mm"
    assert abs(float(found.off_arc_seconds)) < 0.2
