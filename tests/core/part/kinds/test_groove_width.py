"""A groove: its width, floor and place in one line; as wide and deep as it is said, where it is said."""

from decimal import Decimal

import pytest

from nomisma.core.part.section import section_of
from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
from tests.core.part.kinds.reading import again


@pytest.mark.parametrize(
    ("line", "at", "floor", "assumed"),
    [
        ("groove 2 wide to 36 at 10 from the left", "10", "36", ()),
        ("groove 2 wide to 36 at 10 from the right", "18", "36", ()),
        ("groove 2 wide", "14", "36.0", ("where C is", "how deep C is")),
    ],
)  # fmt: skip
def test_it_lies_where_it_is_said(line: str, at: str, floor: str, assumed: tuple[str, ...]) -> None:
    read = feature_lines(FeatureLinesInput(text=f"od 40 x 30\n{line}", unit="mm", general_tolerance="none")).features
    section = section_of([lettered(one) for one in read])
    assert section is not None
    (groove,) = section.grooves
    assert (groove.at_mm, groove.width_mm, groove.floor_diameter_mm) == (Decimal(at), 2, Decimal(floor))
    assert section.assumed == assumed


def test_width_floor_and_place_are_said_again_in_one_line() -> None:
    assert again("groove 2 +0.1/0 wide to 36 ±0.1 at 10 from the left") == [
        "groove 2 +0.1/0 wide to 36 ±0.1 at 10 from the left"
    ]
