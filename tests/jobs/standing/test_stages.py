"""Which stages a feature goes through, and where one lands when another is taken in hand."""

import pytest
from sqlalchemy.orm import Session

from nomisma.jobs.standing.stages import stage_at, stages_of
from tests.jobs.shop_floor import opened


@pytest.mark.parametrize(
    ("lines", "left_out"),
    [
        ("od 28 ±0.1", {"mate", "assemble"}),  # no joint
        ("6 holes 9 on 115", {"mate", "assemble", "cut"}),  # and nothing to coach: it is drilled elsewhere
        ("runout 0.02", {"mate", "assemble", "cut"}),
    ],
)
def test_a_stage_is_there_where_the_feature_has_it(db: Session, lines: str, left_out: set[str]) -> None:
    stages = stages_of(opened(db, lines))
    assert {"part", "plan", "hold", "measure", "record"} <= set(stages)
    assert not left_out & set(stages)


def test_another_feature_opens_at_the_same_stage_where_it_has_that(db: Session) -> None:
    diameter, finish = opened(db, "od 28 ±0.1\nRa 0.8").features
    assert stage_at(diameter, "cut") == "cut"
    assert stage_at(finish, "cut") == "measure"
    assert stage_at(diameter, "plan") == "measure"
