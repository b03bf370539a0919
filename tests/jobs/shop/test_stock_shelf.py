"""The shelf of stock: sawn from, a bar is what is left; a stub is gone; nothing written is changed."""

from typing import Any
from uuid import UUID, uuid4

import pytest
from sqlalchemy.orm import Session

from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.quantity.length import Length
from nomisma.jobs.shop.rights import NotAllowed
from nomisma.jobs.shop.stock_shelf import BarGiven, bar_of, enter_bar, saw_off
from nomisma.store.models import StockBar
from nomisma.store.shop import stock_bars
from tests.jobs.shop_floor import opened, person


def mm(text: str) -> Length:
    return Length.of(text, "mm")


def bar(db: Session, by: str = "orla", **changed: Any) -> StockBar:
    given: dict[str, Any] = {
        "id": uuid4(),
        "words": "rack 1",
        "material": "brass",
        "shape": "round",
        "surface": "bright",
        "unit": "mm",
        "across": mm("30"),
        "length": mm("500"),
        **changed,
    }
    return enter_bar(db, BarGiven(**given), by=person(db, by))


def sawn(db: Session, row: StockBar, piece: str, **more: Any) -> StockBar:
    given: dict[str, Any] = {"saw": mm("2"), "job_number": None, "sent_id": uuid4(), **more}
    return saw_off(
        db, row, mm(piece), given["saw"], given["job_number"], by=person(db, "orla"), sent_id=given["sent_id"]
    )


def lengths(db: Session, first_id: UUID) -> list[str]:
    return [f"{row.length_mm:.0f}" for row in stock_bars(db) if row.first_id == first_id]


def test_what_is_left_of_a_bar_is_the_bar(db: Session) -> None:
    row = bar(db)
    sawn(db, row, "120")
    sawn(db, bar_of(db, row.id), "58")
    assert lengths(db, row.id) == ["318"]


def test_it_says_for_which_job_it_was_sawn(db: Session) -> None:
    state = opened(db, "28 ±0.1")
    assert sawn(db, bar(db), "40", job_number=state.job.number).job_id == state.job.id


def test_a_stub_goes_to_the_scrap(db: Session) -> None:
    row = bar(db)
    sawn(db, row, "492")
    assert lengths(db, row.id) == []
    with pytest.raises(InputError, match="not on the shelf any more"):
        bar_of(db, row.id)


def test_the_same_form_sent_twice_saws_once(db: Session) -> None:
    row, sent = bar(db), uuid4()
    for _ in range(2):
        sawn(db, row, "100", sent_id=sent)
    assert lengths(db, row.id) == ["398"]


def test_more_than_there_is_is_not_sawn(db: Session) -> None:
    row = bar(db)
    with pytest.raises(OutOfRange, match=r"The bar is 500 mm long"):
        sawn(db, row, "501")
    assert lengths(db, row.id) == ["500"]


@pytest.mark.parametrize(
    ("changed", "field"),
    [
        ({"shape": "tube"}, "bore"),
        ({"bore": mm("10")}, "bore"),
        ({"shape": "tube", "bore": mm("30")}, "bore"),
        ({"material": "wood"}, "material"),
    ],
)
def test_a_bar_that_cannot_be_is_refused(db: Session, changed: dict[str, Any], field: str) -> None:
    with pytest.raises(InputError) as refused:
        bar(db, **changed)
    assert refused.value.field == field


def test_an_apprentice_enters_no_stock(db: Session) -> None:
    with pytest.raises(NotAllowed, match="Stock is entered by a machinist or the lead"):
        bar(db, by="pim")
