"""A chucking: how true it must run, and what a swing on it says."""

from decimal import Decimal

import pytest

from nomisma.core.order.set_ups import SetUp
from nomisma.core.planning.chucking import RunoutAllowed, RunoutVerdict, judge_runout, runout_allowed, seldom_so_true
from nomisma.core.planning.holding import Holding, holdings
from tests.core.planning.sketched import set_ups

STEPPED = "od 24 x 30\nod 40 x 10\nod 20 x 12\nbore 12 H7 thru"


def set_up(number: int, lines: str = STEPPED) -> SetUp:
    return set_ups(lines).set_ups[number - 1]


def test_stock_may_swing_by_what_it_is_larger_than_the_largest_diameter_that_is_cut() -> None:
    cut = max(one.diameter_mm for one in set_up(1).surfaces if one.kind == "outside")
    found = runout_allowed(set_up(1), true_to={}, part_runouts_mm={}, stock_mm=Decimal(70))
    assert found.most_mm == Decimal(70) - cut


def test_stock_nobody_measured_is_held_against_nothing() -> None:
    found = runout_allowed(set_up(1), true_to={}, part_runouts_mm={})
    assert (found.most_mm, found.why) == (
        None,
        "what the stock measures across nobody entered: whether it cleans up is not known",
    )


def test_stock_that_is_too_small_is_not_said_to_be_allowed_a_swing() -> None:
    found = runout_allowed(set_up(1), true_to={}, part_runouts_mm={}, stock_mm=Decimal(40))
    assert found.most_mm is None
    assert "leaves nothing to come off" in found.why


def on_finished() -> tuple[SetUp, str, str]:
    """The second set-up of a stepped shaft, a letter that is cut in it, and one that is cut in the first."""
    first, second = set_up(1), set_up(2)
    assert second.held_on
    return second, next(one.letter for one in second.surfaces if one.kind == "outside"), first.surfaces[0].letter


def test_what_must_be_true_to_an_earlier_cut_asks_for_half_a_thou() -> None:
    second, later, earlier = on_finished()
    found = runout_allowed(second, true_to={later: earlier}, part_runouts_mm={})
    assert found.most_mm == Decimal("0.0127")
    assert found.why.startswith(f"{later} must be true to {earlier}")


def test_the_parts_own_runout_comes_before_what_is_usual() -> None:
    second, later, earlier = on_finished()
    found = runout_allowed(second, true_to={later: earlier, "H": earlier}, part_runouts_mm={"H": Decimal("0.05")})
    assert found.most_mm == Decimal("0.05")


def test_a_set_up_that_only_faces_has_no_runout() -> None:
    faced = SetUp("left", "C", (), ())
    assert runout_allowed(faced, true_to={"H": "C"}, part_runouts_mm={"H": Decimal("0.05")}).most_mm is None


def test_a_second_chucking_nothing_depends_on_asks_for_nothing() -> None:
    found = runout_allowed(set_up(2), true_to={}, part_runouts_mm={"H": Decimal("0.05")})
    assert found.most_mm is None


@pytest.mark.parametrize(
    ("read", "most", "verdict"),
    [
        ("0.01", "0.0127", RunoutVerdict.GOOD),
        ("0.0127", "0.0127", RunoutVerdict.GOOD),
        ("0.02", "0.0127", RunoutVerdict.TOO_MUCH),
    ],
)
def test_a_runout_is_good_up_to_what_is_allowed(read: str, most: str, verdict: RunoutVerdict) -> None:
    found = judge_runout(Decimal(read), RunoutAllowed(Decimal(most), ""), holdings()["four_jaw"], "mm")
    assert found.state is verdict


def test_what_nothing_asks_for_says_how_far_the_cuts_will_stand_off() -> None:
    found = judge_runout(Decimal("0.1"), RunoutAllowed(None, ""), holdings()["three_jaw"], "mm")
    assert found.state is RunoutVerdict.NOTHING_ASKS
    assert found.steps == ("What is cut now stands off what was cut before by half of it, 50.0 µm.",)


def test_on_stock_nobody_measured_it_says_what_is_not_known_and_no_more() -> None:
    wanted = runout_allowed(set_up(1), true_to={}, part_runouts_mm={})
    found = judge_runout(Decimal("0.05"), wanted, holdings()["three_jaw"], "mm")
    assert (
        found.headline
        == "It swings 50.0 µm; what the stock measures across nobody entered: whether it cleans up is not known"
    )
    assert found.steps == ()


@pytest.mark.parametrize("way", holdings().values(), ids=lambda way: way.name)
def test_every_way_of_holding_says_what_is_done_where_it_runs_out(way: Holding) -> None:
    found = judge_runout(Decimal(1), RunoutAllowed(Decimal("0.01"), ""), way, "mm")
    assert len(found.steps) >= 1
    assert all(step[0].isupper() and step.endswith(".") for step in found.steps)
    assert "More than is usual" in found.more_than_usual


def test_a_way_that_seldom_holds_so_true_is_named_before_a_needle_is_on_it() -> None:
    half_a_thou = RunoutAllowed(Decimal("0.0127"), "")
    assert seldom_so_true(half_a_thou, holdings()["three_jaw"], "in").startswith("It seldom holds truer than")
    assert seldom_so_true(half_a_thou, holdings()["mandrel"], "in") == ""
    assert seldom_so_true(RunoutAllowed(None, ""), holdings()["three_jaw"], "in") == ""


@pytest.mark.parametrize(
    ("reads", "state", "words"),
    [
        ("9.4996", "good", "good"),  # .374 in
        ("9.2456", "good", "good"),  # twice .182: the limit is good
        ("9.0", "too_much", "further out by 0.00983 in"),  # by hand: 9.4996 less 9, halved, is 0.2498
        ("9.8", "too_much", "back by 0.00591 in"),
    ],
)
def test_set_over_it_must_swing_twice_the_throw(reads: str, state: str, words: str) -> None:
    """A throw of .182 to .192: the needle swings .364 to .384; the work moves by half of what is missing."""
    throw = (Decimal("4.6228"), Decimal("4.8768"))
    allowed = runout_allowed(SetUp("right", "A", (), ()), true_to={}, part_runouts_mm={}, throw_mm=throw)
    assert (allowed.least_mm, allowed.most_mm) == (Decimal("9.2456"), Decimal("9.7536"))
    judged = judge_runout(Decimal(reads), allowed, holdings()["off_centre"], "in")
    assert judged.state.value == state
    assert words in judged.headline
    assert judged.more_than_usual == ""
