"""A plan on its stock: where the stock lies, and that it is held as a hand would have it."""

from decimal import Decimal

import pytest

from nomisma.core.order.laid_out import STOCK_KIND_WORDS, StockKind, StockSaid, ends_of, lay_out
from tests.core.planning.sketched import piece, set_ups

PIN = "od 20 h7 x 30"


@pytest.mark.parametrize(
    ("said", "long"),
    [
        (StockSaid(across_mm=Decimal(22)), "48.6"),  # 30 + 2 × 0.8 faced + a blade of 3 + 3 clear + a grip of 11
        (StockSaid(across_mm=Decimal(22), blade_mm=Decimal(5)), "52.6"),  # a blade of 5, and as much clear
        (StockSaid(across_mm=Decimal(22), long_mm=Decimal(100)), "100"),
    ],
)
def test_a_bar_is_as_long_as_its_facing_its_blade_its_room_and_its_grip(said: StockSaid, long: str) -> None:
    found = set_ups(PIN, said)
    assert found.stock
    assert found.stock.to_mm - found.stock.from_mm == Decimal(long)
    assert Decimal("0.8") in (-found.stock.from_mm, found.stock.to_mm - 30)


def test_a_blank_has_its_facing_on_both_ends() -> None:
    found = set_ups("od 60 x 20\nbore 20 H7 thru", StockSaid("blank", long_mm=Decimal(24)))
    assert found.stock
    assert sorted((-found.stock.from_mm, found.stock.to_mm - 20)) == [Decimal("0.8"), Decimal("3.2")]


def test_the_same_names_in_another_order_are_laid_out_in_the_same_chuckings() -> None:
    own = piece("od 24 h9 x 30\nod 40 x 10\nbore 12 H7 thru")
    found = set_ups("od 24 h9 x 30\nod 40 x 10\nbore 12 H7 thru")
    again = lay_out(found.named, own, StockSaid(), hold=found.workholdings)
    assert again.complaints == ()
    assert [one.grip for one in again.workholdings] == [one.grip for one in found.workholdings]


@pytest.mark.parametrize("kind", STOCK_KIND_WORDS)
def test_only_a_bar_is_parted_from(kind: StockKind) -> None:
    assert StockSaid(kind).may_be_parted == (kind == "bar")


def test_between_centres_and_on_a_mandrel_both_ends_edges_can_be_broken() -> None:
    assert ends_of("mandrel") == ends_of("centres") == ("right", "left")
    assert ends_of("left") == ("left",)
