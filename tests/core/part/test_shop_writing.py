"""Lines of a sketch as a shop writes them: each means the features a machinist reads in it, or is asked about."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.errors import InputError
from nomisma.core.part.shop_writing import lines_meant
from nomisma.core.planning.feature_lines import FeatureLinesInput, FeatureLinesResult, feature_lines


def read(lines: str, unit: str = "mm") -> FeatureLinesResult:
    return feature_lines(FeatureLinesInput.model_validate({"text": lines, "unit": unit}))


def said(line: str) -> list[str]:
    """The kinds a line says behind two diameters, A and C."""
    found = read(f"od 40 x 30\nbore 12 thru\n{line}")
    assert not found.not_understood, found.not_understood
    return [one.kind for one in found.features[3:]]


@pytest.mark.parametrize(
    ("line", "kinds"),
    [
        ("c'bore 26.97 x 2.4 deep from the right", ["bore", "depth"]), ("spotface 20 x 1 deep", ["bore", "depth"]),
        ("drill 8.5 thru", ["bore"]), ("ream 10 H7 thru", ["bore"]),
        ("hub 50 x 12 high", ["outside_diameter", "height"]),
        ("cham .8 x 45 both ends", ["chamfer"]), ("break 0.5", ["chamfer"]), ("overall 62 ±0.2", ["overall_length"]),
        ("bore 15 H8 x 10 deep at both ends", ["bore", "depth", "bore", "depth"]),
        ("groove 1.3 H13 to 23.9 at 17", ["groove_width", "groove_floor_diameter", "position"]),
        ("od 25 k6 x 10, true to C within 0.01", ["outside_diameter", "step_length", "runout"]),
        ("parallel 0.01 to A", ["parallelism"]), ("square .02 to C", ["squareness"]),
        ("concentric 0.05 with C", ["concentricity"]),
        ("parallel 0.01 between the faces", ["parallelism"]), ("runout 0.02 to C", ["runout"]),
        ("knurl medium on A", ["knurl"]),
        ("6 holes 9 on 115", ["hole_off_axis", "hole_circle"]),
        ("keyway 8 P9 x 4 +0.2/0 x 32 on A", ["keyseat_width", "keyseat_depth", "keyseat_length"]),
        ("flats 17 -0.1 x 8", ["across_flats", "flat_length"]), ("25 h7 x 30", ["outside_diameter", "step_length"]),
        ("25 H7 thru", ["bore"]),
        ("undercut F 0.6 x 0.3 at 28 and 30", ["undercut", "undercut"]),
        ("3 grooves 1 wide to 20 at 3 pitch 4", ["groove_width", "groove_floor_diameter", "position"] * 3),
        ("2 grooves 1 wide to 20 at 3, 8 from the right", ["groove_width", "groove_floor_diameter", "position"] * 2),
        ("fillet 0.4 max in A", ["fillet"]), ("od 60 as it is", ["outside_diameter"]), ("(28)", ["plain_size"]),
    ],
)  # fmt: skip
def test_a_shops_line_says_its_features(line: str, kinds: list[str]) -> None:
    assert said(line) == kinds


@pytest.mark.parametrize(
    ("line", "unit", "lower", "upper"),
    [
        ("od .9995 -.0005", "in", "0.999 in", "0.9995 in"), ("od 1.0 +.0005", "in", "1 in", "1.0005 in"),
        ("od 25 -0.02", "mm", "24.98 mm", "25 mm"), ("groove 1.3 H13 to 20", "mm", "1.3 mm", "1.44 mm"),
        ("bore .500 +.0005", "in", "0.5 in", "0.5005 in"),
    ],
)  # fmt: skip
def test_a_lone_deviation_leaves_the_other_at_nothing(line: str, unit: str, lower: str, upper: str) -> None:
    """Source: common practice, no source (what is not said is nothing); H13 to 3 mm is 0.14 (ISO 286-2, recalled)."""
    found = read(line, unit).features[0]
    assert [str(end) for end in (found.lower, found.upper)] == [lower, upper]


@pytest.mark.parametrize(
    "line",
    [
        "od 20 both ends",
        "groove 3",
        "6 holes 9",
        "keyway 8 x 4 x 3 x 2",
        "od 20 -8",
        "knurl",
        "overall",
        "od 10-9.8",
        "od 12-1",
        "3 grooves 1 wide to 20 at 3 8",
        "undercut deep",
    ],
)
def test_what_could_mean_two_things_or_says_too_little_is_asked_about(line: str) -> None:
    assert read(line).not_understood


def test_two_bores_at_both_ends_lie_at_the_faces() -> None:
    found = read("overall 640 ±0.5\nod 60 as it is\nbore 52 H8 x 30 deep at both ends").features
    assert [one.along for one in found if one.kind == "bore"] == ["from the left", "from the right"]
    assert [one.kind for one in found if one.letter == "A"] == ["overall_length"]


def test_true_within_is_a_runout_of_the_feature_itself() -> None:
    found = read("od 32 x 20\nod 25 k6 x 10, true to A within 0.01").features[-1]
    assert (found.kind, found.along, found.true_to, found.upper.mm) == ("runout", "on C", "A", Decimal("0.01"))


@given(st.text(max_size=60))
def test_any_line_means_lines_or_is_refused(line: str) -> None:
    try:
        assert lines_meant(line)
    except InputError as error:
        assert error.sentence
