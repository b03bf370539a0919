"""A tool off centre: what the dial says and what comes out."""

from math import hypot
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.lengths.tool_height import ToolHeightResult
from nomisma.core.registry import calculation_named


def tool(**given: Any) -> ToolHeightResult:
    found = calculation_named("tool_height").run(given)
    assert isinstance(found, ToolHeightResult)
    return found


def test_half_the_pip_is_the_height() -> None:
    assert str(tool(pip="0.060 in", at="1 in", to="0.25 in", unit="in").height) == "0.03 in"


@given(st.floats(0.05, 2), st.floats(20, 80), st.floats(0.3, 0.95))
def test_the_tip_lies_on_the_circle_it_cuts(height: float, at: float, share: float) -> None:
    """The tip moves along a straight line `height` off the middle: its distance from the middle is the radius, before
    and after.
    """
    to = at * share
    found = tool(height=f"{height:.9f} mm", at=f"{at:.9f} mm", to=f"{to:.9f} mm")
    start = (at**2 / 4 - height**2) ** 0.5
    assert float(found.comes_out.mm) == pytest.approx(2 * hypot(start - (at - to) / 2, height), abs=1e-5)
    assert found.off.mm >= 0


@pytest.mark.parametrize(
    ("given", "field"),
    [
        ({"at": "20 mm", "to": "10 mm"}, "pip"),
        ({"pip": "2 mm", "at": "20 mm", "to": "1 mm"}, "to"),
        ({"height": "6 mm", "at": "40 mm", "to": "11 mm"}, "to"),
    ],
)
def test_what_it_cannot_reach_is_told(given: dict[str, str], field: str) -> None:
    with pytest.raises(BadInput) as refused:
        tool(**given)
    assert refused.value.errors[0].field == field
