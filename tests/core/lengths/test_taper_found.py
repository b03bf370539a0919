"""A taper that was found, and what brings it right."""

from decimal import Decimal
from typing import Any, get_args

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.lengths.taper_found import By, TaperFoundResult
from nomisma.core.registry import calculation_named


def found_by(**given: Any) -> TaperFoundResult:
    found = calculation_named("taper_found").run({"apart": "150 mm", "between_centres": "200 mm", **given})
    assert isinstance(found, TaperFoundResult)
    return found


@given(st.integers(-400, 400), st.integers(20, 300), st.integers(0, 200), st.sampled_from(["", "1:50", "1:20"]))
def test_after_the_move_it_is_as_wanted(off_um: int, apart: int, beyond: int, wanted: str) -> None:
    """The tailstock moved by m makes the diameter smaller by 2·m·x/L at x from the headstock centre (simulated here
    from its definition).
    """
    near, far = Decimal(30), Decimal(30) - Decimal(off_um) / 1000
    between = apart + beyond
    given = {
        "near": f"{near} mm",
        "far": f"{far} mm",
        "apart": f"{apart} mm",
        "between_centres": f"{between} mm",
        "wanted": wanted,
    }
    found = calculation_named("taper_found").run(given)
    assert isinstance(found, TaperFoundResult)
    away = 1 if found.headline.endswith("away from the tool") else -1
    moved = away * found.move.mm if found.move else Decimal(0)
    after = (
        far + 2 * moved * apart / between
    )  # both marks move, the near one by what lies before it; their difference is what counts
    wanted_change = Decimal(apart) / int(wanted[2:]) if wanted else Decimal(0)
    assert abs((near - after) - wanted_change) < Decimal("1e-6")


@pytest.mark.parametrize(
    ("near", "far", "headline"),
    [
        ("25.04 mm", "25.00 mm", "Tailstock away from the tool"),
        ("25.00 mm", "25.04 mm", "Tailstock towards the tool"),
        ("25 mm", "25 mm", "Leave it"),
    ],
)
def test_which_way_it_goes(near: str, far: str, headline: str) -> None:
    assert found_by(near=near, far=far).headline == headline


def test_what_two_readings_cannot_tell_is_left() -> None:
    found = found_by(near="25.003 mm", far="25 mm", reading_uncertainty="0.004 mm")
    assert found.within_the_readings
    assert "read again" in found.sentence


def test_a_compound_is_turned_by_the_difference_of_the_half_angles() -> None:
    """By hand: found 1.6 over 30 = 0.053333, wanted 0.05: atan(0.026667) − atan(0.025) = 0.0954°; at 100 mm
    0.1665 mm.
    """
    found = found_by(near="25 mm", far="23.4 mm", apart="30 mm", wanted="1:20", by="compound", arm="100 mm")
    assert found.headline == "Compound to a little less"
    assert found.angle_change_deg == pytest.approx(-0.0954, abs=1e-4)
    assert found.move
    assert float(found.move.mm) == pytest.approx(0.1665, abs=2e-4)


def test_blue_says_which_way() -> None:
    found = found_by(near="25 mm", far="23.5 mm", apart="30 mm", wanted="1:20", by="compound", blue="large_end")
    assert any("a little less" in line for line in found.notes)


def test_what_the_tailstock_needs_is_asked_for() -> None:
    with pytest.raises(BadInput) as refused:
        found_by(near="25 mm", far="24 mm", between_centres=None)
    assert refused.value.errors[0].field == "between_centres"


@pytest.mark.parametrize("by", get_args(By))
def test_nothing_is_moved_under_a_turning_spindle(by: str) -> None:
    assert "Spindle stopped" in found_by(near="25 mm", far="24.9 mm", by=by).cautions[0]
