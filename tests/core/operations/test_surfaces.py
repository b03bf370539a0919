"""From which end a surface is reached: past nothing larger outside, through nothing smaller inside."""

import pytest

from tests.core.planning.sketched import FLANGED, surfaces


@pytest.mark.parametrize(
    ("lines", "letter", "ends"),
    [
        (FLANGED, "A", {"left"}),
        (FLANGED, "C", {"left", "right"}),
        (FLANGED, "E", {"left", "right"}),
        ("od 40 x 30\nbore 12 x 10 deep", "C", {"left"}),
        ("od 40 x 30\nbore 12 thru\nbore 20 x 8 deep from the right", "D", {"right"}),
        ("od 40 x 30\nbore 12 x 20 deep from the right\nbore 20 x 8 deep from the right", "C", {"right"}),
        ("od 30 x 20\nod 40 x 10\nod 30 x 20", "A", {"left"}),
        ("od 30 x 20\nod 40 x 10\nod 30 x 20", "E", {"right"}),
        ("od 24 x 30\nod 40 x 10\ngroove 2 wide to 22 at 10 from the left", "E", {"left"}),
        ("od 24 x 30\ncham 1 x 45", "C", {"left", "right"}),
        ("od 40 x 10\nod 24 x 30\ntaper 1:20 over 20 on C", "E", {"right"}),
    ],
)
def test_each_surface_is_reached_from_the_ends_that_are_open_to_it(lines: str, letter: str, ends: set[str]) -> None:
    found = {one.letter: set(one.ends) for one in surfaces(lines)}
    assert found[letter] == ends


def test_an_outside_between_larger_ones_is_a_groove_and_no_step() -> None:
    """Neither end reaches it past its neighbours: it is cut as a groove, in the larger of them."""
    found = {one.letter: one for one in surfaces("od 40 x 10\nod 30 x 20\nod 42 x 10")}
    assert [found[letter].kind for letter in "ACE"] == ["outside", "groove", "outside"]
    assert (found["C"].lies_in, found["C"].from_mm, found["C"].to_mm) == ("E", 10, 30)


def test_a_surface_answers_for_its_length_and_knows_what_it_must_be_true_to() -> None:
    found = {one.letter: one for one in surfaces("od 40 x 30\nod 30 x 10\nbore 12 H7 thru true to A")}
    assert (found["A"].letters, found["E"].true_to) == (("A", "B"), "A")


def test_the_length_from_face_to_face_is_made_by_facing_and_by_no_surface() -> None:
    assert [one.letters for one in surfaces("od 40 x 30")] == [("A",)]
