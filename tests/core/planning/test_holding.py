"""How else work may be held: only ways that were run on the metal, and never three jaws where they do not hold."""

from decimal import Decimal
from typing import Any

import pytest

from nomisma.core.order.laid_out import StockSaid
from nomisma.core.planning.holding import HeldWork, holdings, other_ways
from tests.core.planning.sketched import FLANGED, planned

BAR = HeldWork(diameter_mm=Decimal(42), stands_out_mm=Decimal(48))


def others(number: int, work: HeldWork = BAR, lines: str = FLANGED, **stock: Any) -> list[str]:
    order = planned(lines, StockSaid(**stock))
    return [one.holding.name for one in other_ways(order.set_ups[number - 1].set_up, order, work)]


def test_a_bar_may_be_held_in_four_jaws_or_many_of_them_in_a_collet() -> None:
    assert others(1) == ["four_jaw"]
    many = HeldWork(diameter_mm=Decimal(42), stands_out_mm=Decimal(48), pieces=12)
    assert others(1, many) == ["collet", "four_jaw"]


def test_a_finished_surface_is_held_by_the_needle_where_it_must_run_with_what_was_cut() -> None:
    finished = HeldWork(diameter_mm=Decimal(24), stands_out_mm=Decimal(11), finished=True, runs_with=True)
    assert others(2, finished) == ["four_jaw"]
    free = HeldWork(diameter_mm=Decimal(24), stands_out_mm=Decimal(11), finished=True)
    assert others(2, free) == ["four_jaw", "three_jaw"]


def test_a_short_grip_on_a_step_is_not_offered_in_jaws_that_want_more() -> None:
    thin = "od 80 ±0.1 x 24\nbore 62 K7 x 18 deep\nbore 50 ±0.2 thru"
    work = HeldWork(diameter_mm=Decimal(80), stands_out_mm=Decimal(4), finished=True)
    assert others(2, work, thin) == []


def test_flat_work_goes_on_a_faceplate_where_its_face_is_not_cut() -> None:
    """A drum that stays but for its bore: nothing is faced, so clamps may stand on its rim."""
    work = HeldWork(diameter_mm=Decimal(260), stands_out_mm=Decimal(4))
    assert "faceplate" in others(1, work, "od 260 as it is x 50\nbore 220 now 218 x 40 deep", kind="repair")


def test_between_centres_nothing_else_is_offered_on_the_same_cuts() -> None:
    assert others(3, BAR, "od 20 h6 x 100") == []


@pytest.mark.parametrize("name", holdings())
def test_each_way_says_what_it_costs_what_it_is_for_and_what_to_mind(name: str) -> None:
    one = holdings()[name]
    assert 0 < one.least_um < one.most_um
    assert one.for_what
    assert one.mind


def test_a_three_jaw_loses_what_the_trade_says() -> None:
    """Trade notes, 10: 0.002 to 0.005 in when the work is turned round."""
    assert holdings()["three_jaw"].most_um == pytest.approx(Decimal("127"), abs=5)
