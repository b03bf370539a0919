"""A section laid out from the lines of a sketch: what stands where, and what had to be assumed."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.part.feature import Feature
from nomisma.core.part.lettered import LetteredFeature
from nomisma.core.part.section import Section, section_of
from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered


def drawn(text: str) -> Section:
    read = feature_lines(FeatureLinesInput(text=text, unit="mm"))
    found = section_of(lettered(one) for one in read.features)
    assert found is not None
    return found


def test_steps_stand_one_behind_the_other() -> None:
    found = drawn("od 24 ±0.1 x 18 ±0.1\nboss 20 ±0.1 x 4.5 ±0.1 high")
    assert [(step.letter, step.from_mm, step.to_mm) for step in found.outside] == [
        ("A", 0, 18),
        ("C", 18, Decimal("22.5")),
    ]
    assert (found.length_mm, found.diameter_mm, found.assumed) == (Decimal("22.5"), Decimal(24), ())


def test_a_whole_length_gives_the_step_that_has_none_the_rest() -> None:
    found = drawn("od 24 ±0.1\nboss 20 ±0.1 x 5 ±0.1 high\nlength 30 ±0.1")
    assert [(step.letter, step.to_mm - step.from_mm) for step in found.outside] == [("A", 25), ("B", 5)]


def test_a_bore_without_a_depth_goes_through_and_a_deep_one_ends() -> None:
    found = drawn("od 24 ±0.1 x 18 ±0.1\nhole 12 ±0.1 thru\nbore 16 ±0.1 x 3 ±0.1 deep")
    assert [(step.letter, step.to_mm) for step in found.bores] == [("C", 18), ("D", 3)]
    assert found.assumed == ("that D comes in from the left",)


def test_a_groove_stands_at_its_position_with_its_floor() -> None:
    found = drawn("od 24 ±0.1 x 18 ±0.1\ngroove 2.2 ±0.1 wide to 22 ±0.1 at 2 ±0.1 from the left\ncham 0.5 x 45")
    (groove,) = found.grooves
    assert (groove.at_mm, groove.width_mm, groove.floor_diameter_mm, groove.letters) == (
        2,
        Decimal("2.2"),
        22,
        ("C", "D", "E"),
    )
    assert (found.chamfer_letter, found.chamfer_mm) == ("F", Decimal("0.5"))


def test_what_nobody_said_is_listed() -> None:
    assert drawn("od 24 ±0.1\nbore 8 ±0.1\ngroove 2 ±0.1 wide").assumed == (
        "how long A is",
        "that B goes through",
        "where C is",
        "how deep C is",
    )


@pytest.mark.parametrize(
    ("lines", "letters"),
    [
        ("od 24 ±0.1", ("A",)),
        ("od 24 ±0.1\nod 30 ±0.1 x 10 ±0.1", ("A",)),
        ("od 24 ±0.1\nod 30 ±0.1", ("A", "B")),
        ("od 24 ±0.1\nod 30 ±0.1 x 10 ±0.1\nlength 40 ±0.1", ()),
        ("od 24 ±0.1 x 12 ±0.1", ()),
    ],
)
def test_the_outsides_whose_length_nobody_said_are_named(lines: str, letters: tuple[str, ...]) -> None:
    assert drawn(lines).lengths_not_said == letters


def test_what_lies_elsewhere_is_drawn_there() -> None:
    found = drawn("od 20 ±0.1 from 10 to 30\nod 30 ±0.1 from 0 to 10\nbore 12 ±0.1 x 8 ±0.1 deep from the right")
    assert [(step.letter, step.from_mm, step.to_mm) for step in found.outside] == [("B", 0, 10), ("A", 10, 30)]
    assert [(step.letter, step.from_mm, step.to_mm) for step in found.bores] == [("C", 22, 30)]
    assert found.assumed == ()


def test_a_groove_may_be_counted_from_the_right_or_from_a_shoulder() -> None:
    lines = "od 30 ±0.1 x 12 ±0.1\nod 20 ±0.1 x 18 ±0.1\ngroove 2 ±0.1 wide to 18 ±0.1 at 3 ±0.1 from "
    assert [drawn(lines + face).grooves[0].at_mm for face in ("the right", "the end of A", "the left")] == [25, 15, 3]


def test_a_gap_between_steps_is_filled_and_said() -> None:
    found = drawn("od 30 ±0.1 from 0 to 10\nod 20 ±0.1 from 14 to 30\nlength 35 ±0.1")
    assert [(step.letter, step.to_mm) for step in found.outside] == [("A", 14), ("B", 30)]
    assert found.assumed == ("what is left of B", "what is right of B")


def test_what_has_no_place_in_a_section_stands_beside_it() -> None:
    assert drawn("od 24 ±0.1 x 18 ±0.1\nrunout 0.02\nwidth 6 ±0.1").elsewhere == ("C", "D")


def test_without_an_outside_there_is_no_section() -> None:
    assert section_of([LetteredFeature("A", Feature("plain_size", Decimal(27), Decimal(28)))]) is None


sizes = st.decimals("1", "200", places=2)


@given(st.lists(st.tuples(sizes, sizes), min_size=1, max_size=6))
def test_steps_fill_the_length_without_gap_or_overlap(pairs: list[tuple[Decimal, Decimal]]) -> None:
    features = []
    for index, (diameter, length) in enumerate(pairs):
        features.append(LetteredFeature(f"A{index}", Feature("outside_diameter", diameter, diameter)))
        features.append(LetteredFeature(f"B{index}", Feature("length", length, length)))
    found = section_of(features)
    assert found is not None
    assert found.length_mm == sum(length for _, length in pairs)
    assert all(one.to_mm == other.from_mm for one, other in zip(found.outside, found.outside[1:], strict=False))
    assert found.outside_at(Decimal(0)) == pairs[0][0]
