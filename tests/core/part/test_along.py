"""Where a feature lies along the axis: as a line says it, and in mm from the left face."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.errors import UnreadableLength
from nomisma.core.part.along import AxialPlace, place_in_line, place_in_words, place_said
from nomisma.core.quantity.length import Length


@pytest.mark.parametrize(
    ("line", "rest", "words"),
    [
        ("od 30 h9 from 12 to 40", "od 30 h9", "from 12 mm to 40 mm from the left"),
        ("od 30 h9 x 20, at 12.50", "od 30 h9 x 20", "at 12.5 mm from the left"),
        ("bore 12 H7 x 20 deep from the right face", "bore 12 H7 x 20 deep", "from the right"),
        ("bore .5 x .75 deep at 1/2 in from the right end", "bore .5 x .75 deep", "at 0.5 in from the right"),
        ("width 6 ±0.1 at 3 from b", "width 6 ±0.1", "at 3 mm from B"),
        ("width 6 ±0.1 at 3 from the end of B", "width 6 ±0.1", "at 3 mm from the end of B"),
        ("cham 1 x 45 on C", "cham 1 x 45", "on C"),
        ("position 23.8 ±.1 from A", "position 23.8 ±.1", "from A"),
        ("taper 1:20 over 50 ±0.02 from 25 ±0.05", "taper 1:20 over 50 ±0.02 from 25 ±0.05", ""),
        ("od 25 g6 on bore of job 104", "od 25 g6 on bore of job 104", ""),
    ],
)
def test_a_line_ends_with_where_its_feature_lies(line: str, rest: str, words: str) -> None:
    found, place = place_in_line(line, "mm")
    assert (found, place.words) == (rest, words)


def test_a_number_without_a_unit_is_in_the_lines_own() -> None:
    assert place_in_words("from .5 to 1-1/4", "in").words == "from 0.5 in to 1.25 in from the left"


def test_what_ends_before_it_begins_is_refused() -> None:
    with pytest.raises(UnreadableLength, match="would end at 12 mm and begin at 40 mm"):
        place_in_line("od 30 h9 from 40 to 12", "mm")


def test_words_that_say_no_place_are_refused() -> None:
    with pytest.raises(UnreadableLength, match="does not say where"):
        place_said("over there")


KNOWN = {"A": (Decimal(5), Decimal(20))}


@pytest.mark.parametrize(
    ("words", "extent"),
    [
        ("from 12 mm to 40 mm", (12, 40)),
        ("at 12 mm", (12, 22)),
        ("from the left", (0, 10)),
        ("from the right", (50, 60)),
        ("at 4 mm from the right", (46, 56)),
        ("from 4 mm to 6 mm from the right", (54, 56)),
        ("at 2 mm from A", (7, 17)),
        ("at 2 mm from the end of A", (22, 32)),
        ("on A", (5, 20)),
        ("at 2 mm from Q", None),
        ("on Q", None),
    ],
)
def test_a_place_is_so_far_from_the_left_face(words: str, extent: tuple[int, int] | None) -> None:
    assert place_said(words).extent_mm(Decimal(10), Decimal(60), KNOWN) == extent


sizes = st.decimals("0.01", "900", places=2)
faces = st.sampled_from([("", False), ("left", False), ("right", False), ("A", False), ("AB", True)])


@given(faces, sizes, st.none() | sizes)
def test_any_place_is_read_again_from_its_words(face: tuple[str, bool], starts: Decimal, more: Decimal | None) -> None:
    place = AxialPlace(*face, Length(starts, "mm"), Length(starts + more, "mm") if more else None)
    again = place_said(place.words)
    assert (again.words, again.letter, again.end) == (place.words, place.letter, place.end)


@given(sizes, sizes)
def test_from_the_right_is_from_the_left_seen_in_a_mirror(starts: Decimal, long_mm: Decimal) -> None:
    whole = Decimal(2000)
    left = AxialPlace("left", False, Length(starts, "mm")).extent_mm(long_mm, whole, {})
    right = AxialPlace("right", False, Length(starts, "mm")).extent_mm(long_mm, whole, {})
    assert left is not None
    assert right is not None
    assert (whole - right[1], whole - right[0]) == left
