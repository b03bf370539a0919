"""What is offered of a part: what cannot be cut is left out and said, and stock that does not give it makes no plan."""

from decimal import Decimal

import pytest

from nomisma.core.order.laid_out import StockSaid
from nomisma.core.order.order import order_of_work
from tests.core.planning.sketched import FLANGED, features, planned


def test_what_stands_in_the_way_of_a_plan_is_left_out_and_said() -> None:
    """A groove deeper than the bore's wall leaves nothing of it: the rest is planned."""
    found = planned("od 40 x 30\ngroove 2 wide to 41 at 10")
    assert [one.letter for one in found.left_out] == ["C", "D", "E"]
    assert "nothing left to cut" in found.left_out[0].why
    assert [one.operation.kind for one in found.operations].count("groove") == 0


@pytest.mark.parametrize(
    ("stock", "about"),
    [
        (StockSaid(across_mm=Decimal(39)), "C is 40.000 mm, the stock is sound to 39.000 mm"),
        (
            StockSaid("blank", across_mm=Decimal(42), long_mm=Decimal(39)),
            "the part is 40.000 mm long, the stock 39.000 mm",
        ),
        (StockSaid("tube", across_mm=Decimal(42), bore_mm=Decimal(14)), "E is 12.009 mm, the tube's bore 14.000 mm"),
    ],
)
def test_stock_that_does_not_give_the_part_makes_no_plan(stock: StockSaid, about: str) -> None:
    found = order_of_work(features(FLANGED), stock=stock)
    assert found is not None
    assert found.set_ups == ()
    assert [(one.rule, one.about) for one in found.complaints] == [("stock_small", about)]


def test_stock_of_the_finished_size_stays_as_it_came() -> None:
    found = order_of_work(features("od 40 ±0.2 x 30\nbore 12 H7 thru"), stock=StockSaid(across_mm=Decimal(40)))
    assert found is not None
    assert [one.kind for one in (each.operation for each in found.operations) if "turn" in one.kind] == []
    (left,) = found.left_out
    assert (left.letter, left.why) == ("A", "the stock has that size, and it stays as it came")


def test_a_tube_is_bored_and_not_drilled() -> None:
    found = order_of_work(features(FLANGED), stock=StockSaid("tube", bore_mm=Decimal(10)))
    assert found is not None
    kinds = [one.operation.kind for one in found.operations]
    assert "drill" not in kinds
    assert "bore" in kinds
