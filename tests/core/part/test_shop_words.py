"""Lines as shops write them, in the words they are read in: each spelling of a feature is that feature."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.part.said_lines import said_lines
from nomisma.core.part.shop_words import one_after_another, plainly
from nomisma.core.planning.feature_lines import FeatureLinesInput, FeatureRead, feature_lines
from tests.core.part.test_said_lines import as_said

SPELLINGS = {
    "od 25 h7 x 40": ["Ø25 h7 x 40", "⌀ 25 h7 x 40 long", "25 dia h7 x 40", "dia 25 h7 × 40",
        "shank 25 h7 x 40", "OD 25 h7 x 40"],
    "od 24.98/25.00": ["od 24.98 - 25.00", "od 24.98 to 25.00", "od 25.00/24.98", "24.98/25.00 dia", "Ø24.98…25.00"],
    "bore 25 H7 thru": ["25 H7 thru", "bore 25 H7 through", "thru bore 25 H7", "hole 25 H7 thru"],
    "bore 18 x 10 deep": ["c'bore 18 x 10 deep", "counterbore Ø18 ↧10", "⌴⌀18 ↧ 10", "blind hole 18 x 10 deep",
        "recess 18 x 10"],
    "drill 12 thru": ["drill Ø12 thru", "drill 12 through"],
    "cham 1 x 45": ["1 x 45°", "1 x 45° chamfer", "chamfer 1 x 45 deg", "bevel 1 x 45", "cham 1 x 45 both ends"],
    "rad 0.8": ["R0.8", "R 0.8", "0.8 R", "radius 0.8", "round edges 0.8"],
    "fillet 1.6 max": ["fillet R1.6 max", "R 1.6 max in the corners", "fillet 1.6 max"],
    "length 40 ±0.1": ["40 ±0.1 long", "length 40 ±0.1", "40 ±0.1 lg", "40 ±0.1 thick"],
    "overall 40 ±0.1": ["overall length 40 ±0.1", "40 ±0.1 overall", "oal 40 ±0.1", "length 40 ±0.1 overall"],
    "4 holes 9 on 115": ["4x Ø9 on 115 PCD", "4 x 9 on 115", "4 off 9 thru on 115 pcd",
        "4 holes 9 equi-spaced on a 115 circle"],
    "flats 22 x 10": ["22 af x 10", "flats 22 across x 10", "22 across flats x 10", "22 A/F x 10"],
    "runout 0.02, true to A": ["runout 0.02 tir to A", "tir 0.02 to A", "runout to A within 0.02",
        "runout within 0.02 to A"],
    "parallel 0.01, true to B": ["parallel to B within 0.01", "parallel to B 0.01", "parallelism 0.01 with B"],
    "Ra 1.6": ["finish 1.6", "Ra 1.6 all over", "1.6 finish", "surface finish 1.6", "1.6 all over"],
    "groove 3 wide x 2 deep at 20": ["groove 3 wide 2 deep at 20", "groove 3 x 2 deep at 20"],
    "groove 4 wide to 20 at 10": ["groove to 20 from 10 to 14", "groove 4 wide to 20 between 10 and 14",
        "groove 4 x 20 at 10"],
    "taper 30 to 25 over 50": ["taper 30 to 25 over 50"],
    "taper 8° over 20": ["taper 8° included over 20", "8° taper over 20"],
    "thread M20x1.5 x 20": ["M20x1.5 x 20 long", "external thread M20x1.5 x 20", "M20x1.5 6g x 20"],
    "bore 50 x 1 deep from the left": ["face recess 50 x 1 deep on the back", "recess 50 x 1 deep from the left"],
    "od 25 h7 now 25.4 x 10": ["od 25 h7 x 10, now 25.4", "od 25 h7, worn to 25.4 x 10", "od 25 h7 x 10 worn 25.4"],
    "bore 20 H7 now 19 from 4 to 9": ["bore 20 H7 from 4 to 9, now 19"],
    "tap M8 thru": ["M8 thru", "tapped hole M8 thru", "internal thread M8 thru", "M8 x 1.25 thru"],
    "burr-free all over": ["break sharp edges", "deburr", "no burrs", "file edges"],
    "od 30 from 18 to 35 from the right": ["18 to 35 from the right od 30", "od 30 18 to 35 from the right"],
}  # fmt: skip
"""Each line as it is read, and others that say the same. Source: common practice, no source."""


def features(line: str) -> list[FeatureRead]:
    found = feature_lines(FeatureLinesInput(text=f"od 60 x 60\n{line}", unit="mm"))
    assert not found.not_understood, found.not_understood
    return found.features[2:]


def meaning(line: str) -> list[tuple[object, ...]]:
    """What a line comes to: kinds, limits, places, and what each is true to."""
    return [
        (
            one.kind,
            one.nominal and one.nominal.mm,
            *(end and end.mm for end in (one.lower, one.upper)),
            *(one.angle_deg, one.roughness_ra_um, one.along, one.through, one.true_to),
        )
        for one in features(line)
    ]


@pytest.mark.parametrize(
    ("line", "spelling"), [(line, other) for line, others in SPELLINGS.items() for other in others]
)
def test_every_spelling_of_a_feature_is_that_feature(line: str, spelling: str) -> None:
    assert [one[0] for one in meaning(spelling)] == [one[0] for one in meaning(line)]
    ours, theirs = meaning(line), meaning(spelling)
    # Two limits have no nominal; one may be written with a size and one without.
    assert [one[2:] for one in theirs] == [one[2:] for one in ours]


WORDS = st.sampled_from([spelling for line, others in SPELLINGS.items() for spelling in (line, *others)])


@given(WORDS, st.sampled_from(["", " ", "  "]))
def test_what_is_read_already_stays_as_it_is(line: str, space: str) -> None:
    once = plainly(f"{space}{line}{space}")
    assert plainly(once) == once


@given(WORDS)
def test_what_is_said_again_is_the_same_feature(line: str) -> None:
    """Read, written, and read again: nothing of it is lost."""
    again = said_lines([as_said(one) for one in features(line)])
    found = feature_lines(FeatureLinesInput(text="\n".join(["od 60 x 60", *again]), unit="mm")).features[2:]
    assert [(one.kind, one.text) for one in found] == [(one.kind, one.text) for one in features(line)]


def test_a_hole_and_what_is_sunk_into_it_are_two_lines() -> None:
    assert one_after_another("drill 9 thru, c'bore 15 x 8 deep") == ["drill 9 thru", "c'bore 15 x 8 deep"]
    assert one_after_another("od 25 ±0.1, only seen") == ["od 25 ±0.1, only seen"]


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ("1 x 45", "could be a chamfer at that angle, or a diameter and a length"),
        ("M20 x 30", "could be a thread outside or inside"),
        ("25 H7 (+0.012/0)", "and the figures in brackets"),
        ("groove 5 wide between 10 and 14", "Between 10 mm and 14 mm a groove is 4 mm wide"),
        ("shanck 25", "No feature is called “shanck” here."), ("grove 3 wide", "The nearest that does is groove."),
        ("od 20 now cheese x 10", "“cheese” is not understood as a size"),
        ("od as it is", "says no size, and the part is drawn and held by it"),
        ("slip fit on A", "No feature is called “slip” here."),
    ],
)  # fmt: skip
def test_what_may_be_two_things_is_asked_and_what_is_none_is_named(line: str, says: str) -> None:
    (refused,) = feature_lines(FeatureLinesInput(text=f"od 60 x 60\n{line}", unit="mm")).not_understood
    assert says in refused.sentence


@pytest.mark.parametrize("long", ["0" * 19_000, "Ø" * 9_000, "1/1 " * 4_000])
def test_what_is_far_too_long_for_a_line_is_left_to_the_reader(long: str) -> None:
    assert one_after_another(long) == [long]
    (refused,) = feature_lines(FeatureLinesInput(text=f"od 60 x 60\n{long}", unit="mm")).not_understood
    assert "characters; a line here is at most 160" in refused.sentence
