"""Features whose places along the axis cannot be; what is only assumed is not held against anybody."""

import pytest

from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines


@pytest.mark.parametrize(
    ("lines", "letters"),
    [
        ("od 30 ±0.1 from 0 to 20\nod 20 ±0.1 from 15 to 40", [("A", "B")]),
        ("od 30 ±0.1 from 0 to 20\nod 20 ±0.1 from 20 to 40", []),
        ("od 30 ±0.1 from 0 to 20\nod 20 ±0.1 x 25 ±0.1 from the right\nlength 40 ±0.1", [("A", "B")]),
        ("od 30 ±0.1 from 0 to 20\nod 20 ±0.1 from 20 to 41\nlength 40 ±0.1", [("B", "C")]),
        ("od 30 ±0.1 x 20 ±0.1 at 15 from Q", [("A",)]),
        ("od 30 ±0.1 x 20 ±0.1 at 15 from the end of A", [("A",)]),
        ("od 30 ±0.1 x 19.5 ±0.1 from 0.5 to 20", []),
        ("od 30 ±0.1 from 0.5 to 20\nod 10 ±0.1 from 20 to 40\nbore 12 ±0.1 x 15 ±0.1 deep from the right",
            [("C", "B")]),
        ("od 30 ±0.1 from 0.5 to 20\nod 10 ±0.1 from 20 to 40\nbore 12 ±0.1 x 15 ±0.1 deep from the left", []),
        ("od 30 ±0.1 x 20 ±0.1\nbore 12 ±0.1 x 8 ±0.1 deep from the left\ngroove 2 ±0.1 wide to 11 ±0.1 at 4 ±0.1",
            [("C", "F")]),
        ("od 30 ±0.1 x 20 ±0.1\nbore 12 ±0.1 x 8 ±0.1 deep from the left\ngroove 2 ±0.1 wide to 11 ±0.1 at 14 ±0.1",
            []),
        ("od 30 ±0.1 x 20 ±0.1\nbore 12 ±0.1 x 8 ±0.1 deep from the left\ngroove 2 ±0.1 wide to 11 ±0.1 at 14 ±0.1 "
            "from the right",
         [("C", "F")]),
        ("od 30 ±0.1 x 2 ±0.1\nod 20 ±0.1 x 10 ±0.1\ncham 3 x 45 on A", [("E", "A")]),
        ("od 30 ±0.1 x 2 ±0.1\nod 20 ±0.1 x 10 ±0.1\ncham 3 x 45 on C", []),
    ],
)  # fmt: skip
def test_only_a_place_that_was_said_is_held_against_another(lines: str, letters: list[tuple[str, ...]]) -> None:
    found = feature_lines(FeatureLinesInput(text=lines, unit="mm"))
    assert not found.not_understood
    assert [one.letters for one in found.contradictions] == letters


def test_the_sentence_says_where() -> None:
    found = feature_lines(
        FeatureLinesInput(text="od 30 ±0.1 from 0.5 to 20\nod 10 ±0.1 from 20 to 41\nlength 40 ±0.1", unit="mm")
    )
    assert (
        found.contradictions[0].sentence
        == "The outside diameter B lies from 20 mm to 41 mm from the left: that reaches beyond the right face of the"
        " part."
    )
