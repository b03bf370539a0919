"""How a set-up is held, in words: every way says its figures and what is looked at first."""

from decimal import Decimal
from typing import get_args

import pytest

from nomisma.core.metal.cut import Grip, Support, Way, Workholding
from nomisma.core.order.held_words import BY_HAND_ROUND, ON_A_THREAD, SPARE_END, held_words, why_held
from tests.core.planning.sketched import planned

STOCK = Grip("stock", Decimal(0), Decimal(20), Decimal(40))
FINISHED = Grip("A", Decimal(0), Decimal(12), Decimal("23.974"), protected=True, against="step")


def held(
    way: Way = "three_jaw", grip: Grip | None = STOCK, *, supports: tuple[Support, ...] = (), trued_on: str = ""
) -> Workholding:
    return Workholding("right", way, Decimal(48), grip, supports=supports, trued_on=trued_on)


@pytest.mark.parametrize("way", get_args(Way))
def test_each_way_says_why_and_what_is_looked_at_first(way: Way) -> None:
    words = held_words(held(way), "mm")
    assert len(words) >= 3
    assert words[-1] == BY_HAND_ROUND
    assert why_held(held(way))


def test_what_is_gripped_and_what_stands_out_are_said_with_their_sizes() -> None:
    assert held_words(held(), "mm")[0] == "Grip the stock (⌀40.000 mm) by 20 mm; 48 mm stands out, facing still on."
    assert held_words(held("soft_jaws", FINISHED), "mm")[0].startswith(
        "Soft jaws bored to ⌀23.974 mm for A, 12 mm in them, against their step;"
    )


def test_a_steadys_rollers_are_counted_from_the_end_that_is_worked() -> None:
    steady = Support("steady", "", "B", Decimal(45), Decimal(60))
    words = held_words(held("steady", supports=(steady,)), "mm")
    assert "from 8.000 mm to 23.000 mm from the end" in words[1]
    turned = Workholding(
        "left", "steady", Decimal(48), STOCK, supports=(Support("steady", "", "B", Decimal(-40), Decimal(-30)),)
    )
    assert "from 8.000 mm to 18.000 mm" in held_words(turned, "mm")[1]


def test_a_skin_is_trued_to_what_runs_and_the_spare_end_stays_rough() -> None:
    assert any("skin" in words for words in held_words(held(), "mm", with_skin=True))
    assert SPARE_END in held_words(held(), "mm", spare=True)
    assert SPARE_END not in held_words(held("soft_jaws", FINISHED), "mm", spare=True)


def test_what_must_be_true_is_read_by_the_needle() -> None:
    assert any("Needle on B" in words for words in held_words(held(trued_on="B"), "mm"))


def test_jaws_on_a_thread_are_told_of_its_crests() -> None:
    assert held_words(held("soft_jaws", FINISHED), "mm", on_thread=True)[1] == ON_A_THREAD
    order = planned("od 120 h8 x 60\nbore 80 H7 x 50 deep from the right\nbore 60 thru\nM100x2 6g x 100")
    assert order.is_threaded(order.set_ups[1].set_up.held_on)
