"""The part with its sizes: every letter is in the drawing or named beside it, in each unit."""

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.part.axial_lengths import axial_lengths
from nomisma.core.part.section import section_of
from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
from nomisma.web.drawings.dimensioned import NARROW, WIDE, Dimension, Dimensioned, dimensioned
from nomisma.web.drawings.section import LetterMark
from nomisma.web.frame.part_section import drawing_of_lines
from tests.core.planning.sketched import PIECES
from tests.core.planning.test_every_letter import PARTS


def drawn(lines: str, *, width: int = WIDE) -> tuple[Dimensioned, list[str]]:
    parts = [lettered(one) for one in feature_lines(FeatureLinesInput(text=lines, unit="mm")).features]
    section = section_of(parts)
    assert section is not None
    says = [
        Dimension(LetterMark(one.letter, None, one.feature.title, ""), f"in {one.letter}", f"mm {one.letter}")
        for one in parts
    ]
    return dimensioned(section, axial_lengths(parts, section), says, width=width), [one.letter for one in parts]


def letters_in(figure: str) -> list[str]:
    return re.findall(r'class="section-letter"[^>]*>([A-Z]+)<', figure)


@pytest.mark.parametrize("width", [WIDE, NARROW])
@pytest.mark.parametrize("name", [name for name, (unit, _) in PARTS.items() if unit == "mm"])
def test_each_letter_stands_in_the_drawing_of_each_unit_or_is_named(name: str, width: int) -> None:
    found, letters = drawn(PARTS[name][1], width=width)
    in_it = letters_in(str(found.figure))
    assert sorted(in_it) == sorted([one for one in letters if one not in found.unplaced] * 2)


def test_a_size_is_said_as_it_is_written_and_a_diameter_with_its_sign() -> None:
    lines = "od 25 k6 x 40 ±0.1\ndrill 8 thru\nM12 6g x 20\nR0.5\nknurl fine on A"
    figure, unplaced = drawing_of_lines(feature_lines(FeatureLinesInput(text=lines, unit="mm")), "mm")
    for says in ("⌀25 k6", "40 ±0.1", "⌀8 drilled", "M12 6g"):
        assert f">{says}<" in figure
    assert unplaced == ["G, rounded edge", "H, knurl"]


def test_what_was_written_in_the_other_unit_is_said_by_its_limits() -> None:
    figure, _ = drawing_of_lines(feature_lines(FeatureLinesInput(text="od 1.000 in x 20", unit="mm")), "mm")
    assert ">⌀25.273/25.527<" in figure


def test_a_boss_on_the_left_stands_off_the_body() -> None:
    """A hub .5 high on the left of a rim 1.25 wide: the part is 1.75 long, the hub first."""
    lines = "od 5 x 1.25\nhub 2 x .5 high on the left"
    parts = [lettered(one) for one in feature_lines(FeatureLinesInput(text=lines, unit="in")).features]
    section = section_of(parts)
    assert section is not None
    assert [(one.letter, float(one.from_mm) / 25.4, float(one.to_mm) / 25.4) for one in section.outside] == [
        ("C", 0.0, 0.5),
        ("A", 0.5, pytest.approx(1.75)),
    ]


def test_nothing_to_draw_names_everything() -> None:
    figure, unplaced = drawing_of_lines(feature_lines(FeatureLinesInput(text="28 ±0.1", unit="mm")), "mm")
    assert (figure, unplaced) == ("", ["A, size"])


@given(st.lists(st.lists(st.sampled_from(PIECES), min_size=1, max_size=7), min_size=1, max_size=4))
def test_whatever_is_typed_is_drawn_or_named(typed: list[list[str]]) -> None:
    lines = "\n".join(["od 60 x 60", *(" ".join(pieces) for pieces in typed)])
    found = feature_lines(FeatureLinesInput(text=lines, unit="mm"))
    figure, unplaced = drawing_of_lines(found, "mm")
    in_it = set(letters_in(str(figure)))
    assert {one.letter for one in found.features} == in_it | {one.split(",")[0] for one in unplaced}
