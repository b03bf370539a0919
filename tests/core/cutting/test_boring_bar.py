"""A boring bar in its hole: what is behind it, what it reaches, and why it does not go."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.cutting.boring_bar import BoringBarResult
from nomisma.core.registry import calculation_named

BAR = {"hole": "20 mm", "depth": "30 mm", "bar_diameter": "12 mm", "across": "15 mm", "overhang": "35 mm", "unit": "mm"}


def bar(**more: object) -> BoringBarResult:
    found = calculation_named("boring_bar").run({**BAR, **more})
    assert isinstance(found, BoringBarResult)
    return found


def test_a_bar_that_goes_says_what_is_behind_it_and_what_it_reaches() -> None:
    found = bar()
    assert found.goes
    assert (str(found.behind), str(found.reach_spare)) == ("5 mm", "3.984 mm")
    assert found.sentence.startswith("It goes in with 5.000 mm behind it")


@pytest.mark.parametrize(
    ("more", "sentence"),
    [
        ({"across": "20.5 mm"}, "It does not go in: 20.500 mm across in a hole of 20.000 mm."),
        ({"across": "19.8 mm"}, "Only 200.0 µm is left behind it"),
        ({"overhang": "30 mm"}, "It is 1.016 mm short: the holder strikes the face before the tip is through."),
        ({"heel": "6 mm"}, "Its heel rubs: 18.4° of relief are needed, it has 8°."),
    ],
)
def test_a_bar_that_does_not_go_says_why(more: dict[str, str], sentence: str) -> None:
    found = bar(**more)
    assert not found.goes
    assert found.sentence.startswith(sentence)


def test_a_blind_hole_needs_no_run_out_and_a_nose_ground_back() -> None:
    found = bar(overhang="30 mm", blind=True, nose="1.5 mm")
    assert not found.goes
    assert "Its end strikes the bottom 1.500 mm before the tip is there: grind it back." in found.problems


def test_a_long_bar_is_warned_of_and_carbide_gives_less() -> None:
    steel, carbide = bar(overhang="60 mm"), bar(overhang="60 mm", bar_material="tungsten_carbide")
    assert any("likely to chatter" in one for one in steel.problems)
    assert not any("likely to chatter" in one for one in carbide.problems)
    assert carbide.on_diameter.mm < steel.on_diameter.mm / 2


@given(st.integers(100, 400), st.integers(20, 80), st.integers(0, 40))
def test_what_is_behind_the_bar_is_never_more_than_the_hole_leaves(hole: int, thick: int, tip: int) -> None:
    across = thick + tip
    found = bar(hole=f"{hole / 10} mm", bar_diameter=f"{thick / 10} mm", across=f"{across / 10} mm")
    assert float(found.behind.mm) == pytest.approx((hole - across) / 10)
    if found.thickest_bar and found.goes:
        assert found.thickest_bar.mm >= found.bar_diameter.mm


@pytest.mark.parametrize(
    ("wrong", "sentence"),
    [
        ({"across": "10 mm"}, "From its back to the tip the bar is less than it is thick."),
        ({"heel": "11 mm"}, "below the hole itself"),
    ],
)
def test_a_bar_that_cannot_be_is_refused(wrong: dict[str, str], sentence: str) -> None:
    with pytest.raises(BadInput, match=sentence):
        bar(**wrong)
