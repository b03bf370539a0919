"""A keyseat's depths, which add up to what is measured."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.lengths.keyseat import KeyseatResult
from nomisma.core.registry import calculation_named


def seat(**given: object) -> KeyseatResult:
    found = calculation_named("keyseat").run(given)
    assert isinstance(found, KeyseatResult)
    return found


@given(st.floats(10, 100), st.floats(0.15, 0.3))
def test_the_corner_of_the_seat_lies_on_the_round(shaft: float, share: float) -> None:
    width = shaft * share
    found = seat(shaft=f"{shaft:.6f} mm", width=f"{width:.6f} mm", height=f"{width:.6f} mm")
    drop = float(found.from_top.mm - found.at_side.mm)
    assert (width / 2) ** 2 + (shaft / 2 - drop) ** 2 == pytest.approx((shaft / 2) ** 2, rel=1e-6)


@pytest.mark.parametrize(
    ("given", "field"),
    [({"shaft": "10 mm", "width": "10 mm", "height": "3 mm"}, "width"),
        ({"shaft": "10 mm", "width": "6 mm", "height": "9 mm"}, "height"),
     ({"shaft": "25 mm", "width": "7 mm", "height": "7 mm", "in_shaft": "7 mm"}, "in_shaft")],
)  # fmt: skip
def test_what_cannot_be_is_told_at_its_field(given: dict[str, str], field: str) -> None:
    with pytest.raises(BadInput) as refused:
        seat(**given)
    assert refused.value.errors[0].field == field
