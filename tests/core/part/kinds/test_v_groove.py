"""V-grooves: angle, depth, how many at which pitch; where they lie, and how wide they are at the top."""

from decimal import Decimal
from math import radians, tan

import pytest

from nomisma.core.errors import InputError
from nomisma.core.order.order import order_of_work
from nomisma.core.part.feature_kinds import feature_kind
from nomisma.core.part.section import section_of
from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
from tests.core.part.kinds.reading import again, read


def test_its_depth_is_judged_and_its_angle_stands_with_it() -> None:
    (groove,) = read("v 40° 12 ±0.1 deep pitch 16 x 3 land 2")
    assert (groove.kind, groove.angle_deg, str(groove.lower)) == ("v_groove", 40, "11.9 mm")
    assert "3 of them" in groove.sentence


@pytest.mark.parametrize(
    ("line", "first", "wide", "count"),
    [
        ("v 40° 4 deep pitch 8 x 2 at 6", 6, 8 * tan(radians(20)), 2),
        ("v 40° 4 deep at 6 from the right", 30 - 6 - 8 * tan(radians(20)), 8 * tan(radians(20)), 1),
        ("v 40° 4 deep pitch 8 x 2 land 2", (30 - 14) / 2, 6, 2),
    ],
)
def test_they_lie_at_their_pitch_from_where_it_is_said(line: str, first: float, wide: float, count: int) -> None:
    """By hand: sharp, 4 deep at 40° is 2·4·tan 20° = 2.912 wide; with a land of 2 at a pitch of 8 it is 6."""
    found = feature_lines(FeatureLinesInput(text=f"od 60 x 30\n{line}", unit="mm", general_tolerance="none")).features
    section = section_of([lettered(one) for one in found])
    assert section is not None
    assert len(section.grooves) == count
    assert float(section.grooves[0].at_mm) == pytest.approx(first, abs=1e-3)
    assert float(section.grooves[0].width_mm) == pytest.approx(wide, abs=1e-3)
    assert section.grooves[0].floor_diameter_mm == Decimal(52)


@pytest.mark.parametrize("line", ["v 40°", "v 12 deep", "v 40° 12 deep x 2", "v 2° 12 deep", "v 170° 12 deep"])
def test_what_is_no_v_is_refused(line: str) -> None:
    with pytest.raises(InputError):
        read(line)


def test_it_is_said_again_with_the_unit_of_its_pitch() -> None:
    assert again("v 38° 8 deep pitch 16 x 2") == ["v 2 x 38° 8 deep pitch 16 mm"]


def test_a_row_that_is_longer_than_its_part_is_told() -> None:
    found = feature_lines(FeatureLinesInput(text="od 60 x 30\nv 40° 4 deep pitch 8 x 9", unit="mm"))
    assert [one.sentence for one in found.contradictions] == [
        "The V-groove C takes more room along the axis than the part has."
    ]


def test_it_is_cut_as_a_v_after_the_diameter_it_lies_in_and_once_for_all() -> None:
    found = feature_lines(FeatureLinesInput(text="od 60 x 30\nv 40° 4 deep pitch 8 x 2", unit="mm")).features
    order = order_of_work([lettered(one) for one in found], stock="bar")
    assert order is not None
    kinds = [one.operation.kind for one in order.operations]
    assert kinds.count("v_groove") == 1
    assert kinds.index("turn") < kinds.index("v_groove") < kinds.index("part_off")
    groove = next(one.operation for one in order.operations if one.operation.kind == "v_groove")
    assert "compound at half the angle" in groove.row.caution


def test_a_single_one_is_drawn_without_its_count() -> None:
    (groove,) = read("v 40° 4 deep")
    assert feature_kind("v_groove").dimension(groove.text) == "40° 4 deep"
