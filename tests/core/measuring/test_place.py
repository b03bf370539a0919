"""Places: named or measured from the mouth, with a direction; what is read back is what was said."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.errors import UnreadableLength
from nomisma.core.measuring.place import parse_place
from nomisma.core.part.feature_kinds import feature_kinds


def test_every_usual_place_of_every_kind_is_understood_as_itself() -> None:
    for kind in feature_kinds().values():
        assert [parse_place(place, "mm").text for place in kind.places] == list(kind.places)


@given(st.integers(0, 359), st.sampled_from(["mouth", "deep", "middle", "near end", "far end", "12.5 mm", ""]))
def test_a_place_read_back_is_the_same_place(degrees: int, where: str) -> None:
    first = parse_place(f"{where} {degrees}°", "in")
    assert parse_place(first.text, "mm") == first
    assert first.direction_deg == degrees


@pytest.mark.parametrize("text", ["", "behind 90°", "mouth 360°", "-3 mm", "x" * 41])
def test_what_is_no_place_is_refused(text: str) -> None:
    with pytest.raises(UnreadableLength):
        parse_place(text, "mm")


def test_a_named_place_lies_along_the_feature() -> None:
    assert parse_place("middle 90°", "mm").along(Decimal(20)) == 10
    assert parse_place("90°", "mm").along(Decimal(20)) is None
