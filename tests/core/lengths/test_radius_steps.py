"""A radius by steps: at each, the nose just touches the round it makes."""

from math import hypot
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.lengths.radius_steps import RadiusStepsResult
from nomisma.core.registry import calculation_named


def steps(**given: Any) -> RadiusStepsResult:
    found = calculation_named("radius_steps").run(given)
    assert isinstance(found, RadiusStepsResult)
    return found


@given(st.floats(2, 50), st.floats(0.1, 1.5), st.integers(2, 45), st.sampled_from(["corner", "fillet"]))
def test_the_nose_touches_the_round_at_every_step(radius: float, nose: float, step: int, kind: str) -> None:
    """The nose's centre lies r behind both edges; its distance from the round's centre is R + r outside, R − r in a
    fillet.
    """
    found = steps(radius=f"{radius:.6f} mm", nose=f"{nose:.6f} mm", step_deg=step, kind=kind)
    sign = 1 if kind == "corner" else -1
    for along, inward in zip(found.along, found.inward, strict=True):
        z, x = float(along.mm) - sign * nose, float(inward.mm) - sign * nose
        assert hypot(radius - z, radius - x) == pytest.approx(radius + sign * nose, abs=1e-4)


def test_it_begins_at_the_diameter_and_ends_at_the_face() -> None:
    found = steps(radius="10 mm", nose="1 mm", step_deg=35)
    assert (found.inward[0].mm, found.along[-1].mm) == (0, 0)
    assert len(found.along) == 4


@pytest.mark.parametrize(
    ("given", "field"),
    [({"radius": "1 mm", "nose": "1 mm", "kind": "fillet"}, "nose"),
        ({"radius": "10 mm", "nose": "1 mm", "outside": "15 mm"}, "radius"),
     ({"radius": "10 mm", "nose": "1 mm", "step_deg": 0}, "step_deg")],
)  # fmt: skip
def test_what_cannot_be_is_told_at_its_field(given: dict[str, Any], field: str) -> None:
    with pytest.raises(BadInput) as refused:
        steps(**given)
    assert refused.value.errors[0].field == field
