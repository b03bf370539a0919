"""Which stages a feature goes through, what Make shows of it, and where one lands when another is taken in hand."""

import pytest
from sqlalchemy.orm import Session

from nomisma.jobs.standing.stages import MAKING, making_of, page_at, stage_of, stages_of
from tests.jobs.shop_floor import opened


@pytest.mark.parametrize(
    ("lines", "left_out"),
    [
        ("od 28 ±0.1", set()),
        ("6 holes 9 on 115", {"cut"}),  # nothing to coach: it is drilled elsewhere
        ("runout 0.02", {"cut"}),
    ],
)
def test_make_shows_of_a_feature_what_it_has(db: Session, lines: str, left_out: set[str]) -> None:
    state = opened(db, lines)
    assert stages_of(state) == ("part", "plan", "make", "record"), "no joint"
    assert set(making_of(state)) == set(MAKING) - left_out


def test_hold_cut_and_measure_belong_to_make() -> None:
    assert [stage_of(page) for page in ("hold", "cut", "measure", "plan", "make")] == ["make"] * 3 + ["plan", "make"]


def test_another_feature_opens_at_the_same_stage_where_it_has_that(db: Session) -> None:
    diameter, finish = opened(db, "od 28 ±0.1\nRa 0.8").features
    assert page_at(diameter, "cut") == "cut"
    assert page_at(finish, "cut") == "make"
    assert page_at(diameter, "plan") == "make"
