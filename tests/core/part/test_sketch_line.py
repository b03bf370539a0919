"""One line of a sketch: the features it says, what they go with, and what is none."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.errors import InputError, UnreadableLength
from nomisma.core.part.sketch_line import begins_a_feature, features_in_line, partner_in_line


@pytest.mark.parametrize(
    ("line", "kinds"),
    [
        ("od 1.375 ±.005 x 3.625", ["outside_diameter", "length"]), ("bore .800 x .125 deep", ["bore", "depth"]),
        ("boss .800 x .125 high", ["outside_diameter", "height"]), ("hole 17/32 thru", ["bore"]), ("25 H7", ["bore"]),
        ("25 h7", ["outside_diameter"]),
        ("28 ±0.1", ["plain_size"]), ("groove .125 wide to .625 at .937 from A",
            ["groove_width", "groove_floor_diameter", "position"]),
        ("tir .002", ["runout"]), ("fillet 0.4", ["fillet"]), ("thick 6", ["width"]),
    ],
)  # fmt: skip
def test_a_line_says_its_features_in_order(line: str, kinds: list[str]) -> None:
    assert [one.kind for one in features_in_line(line)] == kinds


@pytest.mark.parametrize("line", ["od", "od 1 x 2 x 3", "hole 17/32 x 2 thru", "groove .125", "cham", "x" * 161])
def test_a_line_that_says_too_little_or_too_much_is_refused(line: str) -> None:
    with pytest.raises(UnreadableLength):
        features_in_line(line)


@pytest.mark.parametrize(
    ("line", "plain", "partner"),
    [
        ("od 25 g6 on bore of job 104", "od 25 g6", ("bore", 104, "")),
        ("OD 25 g6 in the hole C of Job 7", "OD 25 g6", ("bore", 7, "C")),
        ("bore 12 H7 on shaft b of job 103", "bore 12 H7", ("shaft", 103, "B")),
        ("od 25 g6 on bore of job", "od 25 g6 on bore of job", None),
    ],
)  # fmt: skip
def test_what_a_feature_goes_with_is_told_from_its_size(
    line: str, plain: str, partner: tuple[str, int, str] | None
) -> None:
    found, said = partner_in_line(line)
    assert (found, said and (said.kind, said.job, said.letter)) == (plain, partner)


@given(st.text(max_size=200))
def test_any_line_is_read_or_refused_with_a_sentence(line: str) -> None:
    begins_a_feature(line)
    plain, _ = partner_in_line(line)
    try:
        assert features_in_line(plain)
    except InputError as error:
        assert error.sentence
