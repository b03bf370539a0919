"""A chamfer: its leg and its angle, and which of two it is where only one number stands."""

from decimal import Decimal

import pytest

from nomisma.core.errors import InputError
from nomisma.core.part.section import section_of
from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
from tests.core.part.kinds.reading import read


@pytest.mark.parametrize(
    ("line", "leg", "angle"), [("cham 0.5 x 45", "0.5", 45), ("bevel 2 x 30°", "2", 30), ("break 1", "1", 45)]
)
def test_leg_and_angle(line: str, leg: str, angle: int) -> None:
    (found,) = read(line)
    assert (found.nominal.mm, found.angle_deg) == (Decimal(leg), angle)


@pytest.mark.parametrize("line", ["cham 45", "cham 30°", "cham 1 x 95"])
def test_an_angle_alone_is_asked_about(line: str) -> None:
    with pytest.raises(InputError):
        read(line)


@pytest.mark.parametrize(("line", "drawn"), [("cham 1 x 45", 1), ("cham 1 x 45 on A", 0)])
def test_one_of_no_step_is_drawn_at_both_ends(line: str, drawn: int) -> None:
    found = feature_lines(FeatureLinesInput(text=f"od 40 x 30\n{line}", unit="mm")).features
    assert section_of([lettered(one) for one in found]).chamfer_mm == drawn
