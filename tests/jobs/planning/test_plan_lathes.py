"""Which lathe of the shop has room for a part, its slowest speed and its steady among what is asked."""

from sqlalchemy.orm import Session

from nomisma.jobs.planning.plan_lathes import lathes_for
from nomisma.jobs.planning.plan_state import plan_of
from tests.jobs.shop_floor import opened


def asked(db: Session, lines: str) -> dict[str, dict[str, str]]:
    """By machine, each thing asked of it and how it stands."""
    found = lathes_for(db, plan_of(db, opened(db, lines)))
    return {one.machine.name: {check.asked: check.verdict for check in one.checks} for one in found}


def test_a_small_part_fits_and_says_so_first(db: Session) -> None:
    found = asked(db, "od 28 ±0.2 x 30 ±0.1")
    assert found["Bench lathe"]["swing"] == "fits"


def test_the_slowest_speed_is_held_against_the_rim(db: Session) -> None:
    """The bench lathe runs from 50 rpm: a rim of 250 mm then runs at 39 m/min, and medium carbon steel wants 25."""
    assert asked(db, "od 250 ±1 x 30 ±1")["Bench lathe"]["slowest speed"] == "does_not"
    assert asked(db, "od 100 ±1 x 30 ±1")["Bench lathe"]["slowest speed"] == "fits"


def test_long_slender_work_asks_for_a_steady(db: Session) -> None:
    long = "od 60 h7 x 400 ±1\nbore 20 H7 x 30 deep from the right"
    assert "steady" in asked(db, long)["Long lathe"]
    assert "steady" not in asked(db, "od 20 ±0.1 x 100 ±1")["Long lathe"]


def test_a_part_without_an_outside_asks_nothing(db: Session) -> None:
    assert asked(db, "bore 12 H7") == {}
