"""Lines of a sketch: what each says, what is refused with a sentence, and that no line is lost."""

import json
from decimal import Decimal
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.part.feature_kinds import feature_kinds
from nomisma.core.part.general_tolerance import GeneralTolerance, general_tolerance
from nomisma.core.planning.feature_lines import FeatureLinesInput, FeatureLinesResult, feature_lines
from nomisma.core.quantity.length import Length
from nomisma.core.registry import calculation_named
from tests.core.planning.sketched import PIECES
from tests.hostile import SENDABLE


def read(text: str, unit: str = "in", **more: Any) -> FeatureLinesResult:
    found = calculation_named("feature_lines").run({"text": text, "unit": unit, **more})
    assert isinstance(found, FeatureLinesResult)
    return found


def said(text: str, unit: str = "in", **more: Any) -> list[tuple[str, str, str]]:
    found = read(text, unit, **more)
    assert found.not_understood == []
    rows = json.loads(found.model_dump_json())["features"]
    return [(row["kind"], row["lower"] or "", row["upper"] or "") for row in rows]


def test_the_contract_of_the_shell() -> None:
    row = json.loads(read("od 1.375 ±.005 x 3.625").model_dump_json())
    assert row["not_understood"] == []
    assert [one["kind"] for one in row["features"]] == ["outside_diameter", "length"]
    assert (row["features"][0]["lower"], row["features"][0]["upper"]) == ("1.370 in", "1.380 in")
    assert row["features"][0]["material_side"] == "external"


@pytest.mark.parametrize(
    ("line", "wanted"),
    [
        (
            "bore .800 +.004/-0 x .125 +.010/-0 deep",
            [("bore", "0.800 in", "0.804 in"), ("depth", "0.125 in", "0.135 in")],
        ),
        (
            "boss .800 +0/-.004 x .125 +0/-.010 high",
            [("outside_diameter", "0.796 in", "0.800 in"), ("height", "0.115 in", "0.125 in")],
        ),
        ("length 2.125 ±.010", [("length", "2.115 in", "2.135 in")]),
        ("28 ±0.1 mm", [("plain_size", "27.9 mm", "28.1 mm")]),
        ("bore go .125 no-go .127", [("bore", "0.125 in", "0.127 in")]),
        ("25 h7", [("outside_diameter", "24.979 mm", "25.000 mm")]),
        ("25 H7", [("bore", "25.000 mm", "25.021 mm")]),
        ("od 25 g6 x 40 mm", [("outside_diameter", "24.980 mm", "24.993 mm"), ("length", "39.7 mm", "40.3 mm")]),
        ("wall .1 min", [("wall", "0.1 in", "")]),
        ("runout .001", [("runout", "", "0.001 in")]),
        ("width .5 max", [("width", "", "0.5 in")]),
        ("ID 1/2 +.001/-0 thru", [("bore", "0.500 in", "0.501 in")]),
    ],
)
def test_a_line_is_read_as_it_is_said(line: str, wanted: list[tuple[str, str, str]]) -> None:
    assert said(line) == wanted


def test_a_groove_is_its_width_its_floor_and_its_place() -> None:
    found = read("groove .125 +.002/-0 wide to .625 at .937 from A")
    assert [(one.kind, one.along) for one in found.features] == [
        ("groove_width", ""),
        ("groove_floor_diameter", ""),
        ("position", "from A"),
    ]


def test_a_chamfers_leg_lies_along_the_axis_and_its_angle_is_45_where_none_is_said() -> None:
    angled, bare = read("cham 1/16 x 30").features[0], read("chamfer 1/16").features[0]
    assert (str(angled.nominal), angled.angle_deg, bare.angle_deg) == ("0.0625 in", 30, 45)


def test_letters_go_on_over_all_lines_and_lines_keep_their_numbers() -> None:
    found = read("od 1.375 x 3.625\n\n\tbore .800 thru\nlength 2")
    assert [(one.letter, one.line) for one in found.features] == [("A", 1), ("B", 1), ("C", 3), ("D", 4)]
    assert found.features[2].through


def test_a_size_without_limits_is_held_by_the_general_tolerance_or_is_for_reference() -> None:
    assert said("length 40", "mm") == [("length", "39.7 mm", "40.3 mm")]
    assert said("length 40", "mm", general_tolerance="iso_2768_f") == [("length", "39.85 mm", "40.15 mm")]
    assert said("rad 2", "mm", general_tolerance="iso_2768_c") == [("corner_radius", "1.6 mm", "2.4 mm")]
    (free,) = read("length 40", "mm", general_tolerance="none").features
    assert (free.lower, free.upper, free.limits_from) == (None, None, "reference")
    assert said("length 2.25") == [("length", "2.24 in", "2.26 in")]
    assert said("length 2.250") == [("length", "2.245 in", "2.255 in")]


@pytest.mark.parametrize(
    ("line", "sentence"),
    [
        ("外径 25", "No feature is called “外径” here"),
        ("od", "names a feature and no size"),
        ("od wide", "“od wide” names a feature and no size"),
        ("bore thru", "“bore thru” names a feature and no size"),
        ("od 20 x long", "names a feature and no size"),
        ("od 1 x 2 x 3", "says more sizes than one outside diameter has"),
        ("length 25 h7", "A length has no class of fits"),
        ("length 1.0 ±2", "comes out at zero or below"),
        ("cham 45", "could be an angle of 45° or a leg of 45 in. Write the leg and the angle, 1/32 x 45"),
        ("cham 30°", "is an angle, and no leg is said"),
        ("runout .002 min", "A runout has no least: the smaller the better. Write it as .002 max"),
        ("bore go .127 no-go .125", "The pin that goes, 0.127 in, is larger than the one that does not"),
        ("length 0.3 mm", "gives no general tolerance"),
        ("bore 0.804/0.804", "Both limits are the same"),
        ("cham 1/16 x 95", "A chamfer of 95° is not one"),
        ("groove .125", "is not understood as a groove"),
        ("od 1,125", "comma"),
        ("x" * 400, "characters; a line here is at most 160"),
    ],
)
def test_a_line_that_is_none_has_its_sentence_and_the_others_stand(line: str, sentence: str) -> None:
    rule = "iso_2768_m" if "mm" in line else "inch_decimals"
    found = read(f"length 2.125 ±.010\n{line}\n25 h7", general_tolerance=rule)
    assert len(found.features) == 2
    (refused,) = found.not_understood
    assert refused.line == 2
    assert sentence in refused.sentence


@pytest.mark.parametrize(
    ("text", "sentence"), [("", "Nothing was entered"), ("\n \n", "Nothing"), ("25 h7\n" * 501, "501 lines")]
)
def test_no_line_and_too_many_are_refused_whole(text: str, sentence: str) -> None:
    with pytest.raises(BadInput, match=sentence):
        read(text)


@given(
    st.lists(
        st.one_of(st.sampled_from([*SENDABLE, "od 1.375 x 2", "25 H7"]), st.text(max_size=60)), min_size=1, max_size=6
    )
)
def test_no_line_is_lost_and_limits_are_in_order(lines: list[str]) -> None:
    text = "\n".join(lines)
    if not text.strip():
        return
    try:
        found = read(text)
    except BadInput:
        return
    told = {one.line for one in found.features} | {one.line for one in found.not_understood}
    assert told == {number for number, line in enumerate(text.splitlines(), 1) if line.strip()}
    for one in found.features:
        assert one.kind in feature_kinds()
        assert not (one.lower and one.upper) or one.lower.mm < one.upper.mm


def test_a_feature_may_go_with_one_of_another_job() -> None:
    (found,) = read("od 25 g6 on bore C of job 104", unit="mm").features
    assert (found.goes_with, found.goes_with_job, found.goes_with_letter) == ("bore", 104, "C")
    assert (
        found.sentence
        == "A: outside diameter from 24.980 mm to 24.993 mm, goes with the bore of job 104; limits by its tolerance"
        " class on 25 mm."
    )


@pytest.mark.parametrize("line", ["length 40 on bore of job 104", "od 25 g6 on shaft of job 104"])
def test_only_an_outside_and_a_bore_go_together(line: str) -> None:
    (refused,) = read(line, unit="mm").not_understood
    assert "does not go with" in refused.sentence


@pytest.mark.parametrize(
    ("line", "unit", "kinds", "limits"),
    [
        ("taper 1:20 over 50 ±0.02 from 25 ±0.05", "mm", ["taper", "outside_diameter"], ("2.48", "2.52")),
        ("taper bore 1:10 over 20 ±0.01 from 30 H7", "mm", ["taper", "bore"], ("1.99", "2.01")),
        ("taper .600 per foot over 2 ±.0005", "in", ["taper"], ("2.5273", "2.5527")),
        ("od sample 24.96 plus 0.04 ±0.01", "mm", ["outside_diameter"], ("24.99", "25.01")),
        ("bore like the sample 25.06 less 0.06 H7", "mm", ["bore"], ("25", "25.021")),
        ("od sample 1.372 add .003 +0/-.002", "in", ["outside_diameter"], ("34.8742", "34.925")),
        ("length off a sample 40 ±0.2", "mm", ["length"], ("39.8", "40.2")),
    ],
)
def test_tapers_and_sizes_off_a_sample(line: str, unit: str, kinds: list[str], limits: tuple[str, str]) -> None:
    found = read(line, unit)
    assert not found.not_understood
    assert [one.kind for one in found.features] == kinds
    first = found.features[0]
    assert (first.lower and first.lower.mm, first.upper and first.upper.mm) == tuple(map(Decimal, limits))
    assert first.limits_from == ("sample" if "sample" in line else "line")


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ("taper 1:20", "not over what length"),
        ("taper 1:20 over 50 0.02", "not understood as a size"),
        ("taper 200:1 over 50", "not understood as a taper"),
        ("od sample 25 less 30", "leaves nothing of the sample"),
        ("od sample", "not understood"),
    ],
)
def test_tapers_and_samples_that_are_none(line: str, says: str) -> None:
    (refused,) = read(line, "mm").not_understood
    assert says in refused.sentence


def test_what_matters_belongs_to_the_first_feature_of_the_line() -> None:
    found = read("od 25 h6 x 40, carries the load\nrunout 0.02 true to A", "mm")
    assert [(one.duty, one.true_to) for one in found.features] == [("carries_load", ""), ("", ""), ("true_to", "A")]
    assert found.features[0].sentence.endswith("; carries the load.")
    assert not found.contradictions


def test_true_to_what_is_not_there_contradicts_the_part() -> None:
    found = read("od 25 h6\nrunout 0.02 true to F", "mm")
    assert [one.sentence for one in found.contradictions] == [
        "The runout B must be true to F, which is no feature of the part."
    ]


@pytest.mark.parametrize(
    ("lines", "sentence"),
    [
        ("od 24 h9\nlength 30 ±0.1\nrunout 0.02 true to B", "B is a length: true to is said of a diameter or a bore."),
        (
            "od 24 h9\ngroove 2 ±0.1 wide to 20 ±0.1 at 5 ±0.1 from A",
            "A is an outside diameter, and a distance is counted from a face",
        ),
    ],
)
def test_a_letter_that_cannot_be_what_is_meant_is_refused(lines: str, sentence: str) -> None:
    found = feature_lines(FeatureLinesInput(text=lines, unit="mm"))
    assert len(found.not_understood) == 1
    assert found.not_understood[0].sentence.startswith(sentence)


@pytest.mark.parametrize(
    ("line", "lower", "upper"),
    [
        ("length 1-3/8", "1.359375", "1.390625"),
        ("cham 1/32", "0.015625", "0.046875"),
        ("radius .01", "0.005", "0.015"),
        ("length .01", "0.005", "0.015"),
    ],
)
def test_what_has_no_limits_of_its_own_is_never_cut_to_nothing(line: str, lower: str, upper: str) -> None:
    read = feature_lines(FeatureLinesInput(text=line, unit="in")).features[0]
    assert read.lower is not None
    assert read.upper is not None
    assert (read.lower.value("in"), read.upper.value("in")) == (Decimal(lower), Decimal(upper))
    assert "the title block" in read.sentence


@given(st.integers(1, 63), st.sampled_from(["iso_2768_c", "inch_decimals", "iso_2768_f"]))
def test_a_general_tolerance_leaves_half_of_a_size_at_least(sixty_fourths: int, rule: GeneralTolerance) -> None:
    size = Length.of(Decimal(sixty_fourths) / 64, "in")
    amount, _ = general_tolerance(size, rule) if size.mm >= Decimal("0.5") else (Decimal(0), "")
    assert amount <= size.mm / 2


def test_the_shop_says_what_a_fraction_is_held_to() -> None:
    read = feature_lines(FeatureLinesInput(text="length 3/4", unit="in", fraction_tolerance="0.010 in")).features[0]
    assert (str(read.lower), str(read.upper)) == ("0.74 in", "0.76 in")


@settings(max_examples=600)
@given(st.lists(st.sampled_from(PIECES), min_size=1, max_size=9), st.sampled_from(["mm", "in"]))
def test_whatever_is_written_is_read_or_answered_with_a_sentence(pieces: list[str], unit: str) -> None:
    found = read(f"od 60 x 60\n{' '.join(pieces)}", unit)
    assert all(one.sentence.strip() for one in found.not_understood)


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ("1 hole 9 at 1.2.3 radius", "is not understood as holes"), ("gear 24T 1.2.3DP", "is not understood as a gear"),
        ("6 holes 9 on 115, c'bore 15 x 8 deep", "c'bore"),
        ("od 20 x 10 deep", "deep is said of what goes into the metal"),
        ("holes 1 x 9 at 1.2.3°", "not understood"),
    ],
)  # fmt: skip
def test_what_would_be_read_as_something_else_is_refused(line: str, says: str) -> None:
    """Holes sunk off the axis are not sunk into it; an outside is not deep; a number is a number."""
    (refused,) = read(line, "mm").not_understood
    assert says in refused.sentence


def test_a_bare_length_that_may_be_either_is_asked_with_both() -> None:
    found = feature_lines(FeatureLinesInput(text="od 20 x 10\nod 30\nlength 50", unit="mm"))
    (asked,) = found.not_understood
    assert asked.line == 3
    assert "the length of C only, or of the whole part" in asked.sentence
    assert [one.letter for one in found.features] == ["A", "B", "C"]


@pytest.mark.parametrize(
    "text", ["od 30\nlength 50", "od 20 x 10\nod 30 x 20\nlength 50", "od 20 x 10\nod 30\noverall 50"]
)
def test_a_length_that_can_only_be_one_thing_is_not_asked(text: str) -> None:
    assert not feature_lines(FeatureLinesInput(text=text, unit="mm")).not_understood


@pytest.mark.parametrize(
    ("line", "size"), [("stock 40", "40 mm"), ("bar dia 40", "40 mm"), ("od 40 as it is", "40 mm")]
)
def test_the_stocks_own_outside_may_be_the_parts(line: str, size: str) -> None:
    (one,) = feature_lines(FeatureLinesInput(text=line, unit="mm")).features
    assert one.sentence == f"A: outside diameter {size}; for reference: not judged."
