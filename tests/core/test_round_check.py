"""A round that was not to be expected: what it is taken for, and what is let through."""

from math import cos, radians

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.registry import calculation_named
from nomisma.core.truing.round_check import RoundCheckResult, Suspicion

BEFORE = [12, 6, 0, 2]
EXPECTED = [6, 4, 6, 4]


def checked(
    readings: list[float], expected: list[float] | None = EXPECTED, before: list[float] | None = BEFORE, **more: str
) -> RoundCheckResult:
    """Readings in thou."""
    rounds = {"readings": readings, "expected": expected or [], "before": before or []}
    values = {name: [f"{one / 1000:.6f} in" for one in thou] for name, thou in rounds.items()}
    found = calculation_named("round_check").run({"graduation": "0.0005 in", **values, **more})
    assert isinstance(found, RoundCheckResult)
    return found


@pytest.mark.parametrize(
    ("readings", "suspicion", "words"),
    [
        ([6.2, 4.1, 5.8, 4], Suspicion.NONE, ""),
        ([106, 104, 106, 104], Suspicion.NONE, ""),  # the dial was set to zero again
        (BEFORE, Suspicion.NOTHING_MOVED, "Nothing has moved"),
        ([18, 8, -6, 0], Suspicion.WRONG_WAY, "the other way"),
        ([300, 150, 0, 50], Suspicion.UNIT, "mm typed as inch"),
        ([6000, 4000, 6000, 4000], Suspicion.UNIT, "thou typed as inch"),
    ],
)
def test_a_round_is_taken_for_what_it_is(readings: list[float], suspicion: Suspicion, words: str) -> None:
    found = checked(readings)
    assert found.suspicion is suspicion
    assert words in found.sentence
    assert bool(found.remedy) == bool(suspicion)


def test_a_round_read_backwards_is_noticed() -> None:
    assert checked([4, -4, 4, 12], expected=[4, 12, 4, -4], before=[6, 12, 2, -4]).suspicion is Suspicion.ORDER


def test_a_round_begun_at_the_wrong_jaw_is_noticed() -> None:
    found = checked([12, 4, -4, 4], expected=[4, 12, 4, -4], before=[6, 12, 2, -4])
    assert found.suspicion is Suspicion.START
    assert "begun at place 2" in found.sentence


@pytest.mark.parametrize(
    ("share", "suspicion"), [(0.5, Suspicion.MOVED_LITTLE), (2.0, Suspicion.MOVED_FAR), (1.1, Suspicion.NONE)]
)
def test_how_much_of_the_move_was_made_is_said(share: float, suspicion: Suspicion) -> None:
    before, asked = [40, 20, 0, 20], [20, 0, -20, 0]
    found = checked([b - share * a for b, a in zip(before, asked, strict=True)], [20] * 4, before)
    assert found.suspicion is suspicion
    assert not found.to_confirm


@pytest.mark.parametrize(
    ("grip", "asked"), [("outside", "from inside (a drum, a ring)"), ("inside", "from outside after all")]
)
def test_work_that_moved_the_other_way_is_asked_about_its_grip_first(grip: str, asked: str) -> None:
    found = checked([18, 8, -6, 0], grip=grip)
    assert found.suspicion is Suspicion.WRONG_WAY
    assert found.remedy.startswith(f"Do the jaws hold it {asked}? Then set it up anew as that")


def test_the_explanation_that_leaves_the_least_is_named() -> None:
    """Read backwards fits to the last digit; half a move that happens to look alike does not."""
    before, expected = [20.0, 12.0, 0.0, 8.0], [10.0, 15.0, 10.0, 5.0]
    found = checked([10, 5, 10, 15], expected=expected, before=before, graduation="0.0001 in")
    assert found.suspicion is Suspicion.ORDER


@pytest.mark.parametrize("place", [1, 2, 3, 4])
def test_a_needle_that_went_round_is_noticed_even_in_the_first_round(place: int) -> None:
    readings = [12.0, 6.0, 0.0, 6.0]
    readings[place - 1] += 100
    found = checked(readings, None, None, needle_turn="0.1 in")
    assert found.suspicion is Suspicion.GONE_ROUND
    assert f"Place {place} " in found.sentence
    assert found.to_confirm


def test_work_that_was_bumped_is_not_taken_for_a_slipped_point() -> None:
    trued = [0.0, 0.1, 0.0, -0.1]
    assert checked([3, 0, -3, 0], expected=trued, before=trued, graduation="0.0001 in").suspicion is Suspicion.NONE


def test_what_tightening_moves_is_not_taken_for_another_order() -> None:
    left = [0.1, -0.15, -0.1, 0.15]
    assert (
        checked([0.1, 0.15, -0.1, -0.15], expected=left, before=left, graduation="0.0001 in").suspicion
        is Suspicion.NONE
    )


def test_rounds_of_other_places_cannot_be_compared() -> None:
    with pytest.raises(BadInput, match="not read at the same places"):
        checked([1, 2, 3, 4], expected=[1] * 8, before=[1] * 8)


@given(st.floats(2, 30), st.floats(0, 359), st.floats(0.85, 1.15))
def test_an_honest_round_is_asked_nothing(offset: float, towards: float, share: float) -> None:
    """Any start, a hand off by up to 15 %: the next round is believed."""
    before = [offset * cos(radians(at - towards)) for at in (0, 90, 180, 270)]
    found = checked([(1 - share) * one for one in before], [0.0] * 4, before, needle_turn="0.1 in")
    assert found.suspicion is Suspicion.NONE


@given(st.lists(st.integers(-200, 200), min_size=4, max_size=4), st.integers(-50, 50))
def test_where_the_dial_was_set_to_zero_does_not_matter(readings: list[int], zero: int) -> None:
    assert (
        checked([float(one) for one in readings]).suspicion
        == checked([float(one + zero) for one in readings]).suspicion
    )


def test_the_working_says_what_was_compared() -> None:
    (step,) = checked(BEFORE).working
    assert "expected" in step.values
