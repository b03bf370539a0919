"""What a shop and a job may choose: one list, one way to change any, nothing overwritten."""

from uuid import uuid4

import pytest
from sqlalchemy import select
from sqlalchemy.orm import Session

from nomisma.core.errors import NotDefined
from nomisma.jobs.cutting.cutting_run import forget_earlier_set_ups
from nomisma.jobs.shop.choices import CHOICES, choice_named, choose, usual
from nomisma.jobs.shop.rights import NotAllowed
from nomisma.jobs.standing.lookup import state_numbered
from nomisma.store import shop
from nomisma.store.models import ShopSetting
from tests.jobs.shop_floor import opened, person


def test_every_choice_that_was_ever_written_is_in_the_list(db: Session) -> None:
    for name in db.scalars(select(ShopSetting.name).distinct()):
        assert choice_named(name).words


def test_names_differ_and_what_is_usual_holds_until_somebody_chooses() -> None:
    assert len({one.name for one in CHOICES}) == len(CHOICES)
    assert usual("aim", "pieces") == {"aim": "middle", "pieces": "1"}


def test_only_what_differs_is_written_and_the_newest_counts(db: Session) -> None:
    bram = person(db, "bram")
    assert choose(db, {"aim": "middle"}, by=bram) == []
    (row,) = choose(db, {"aim": "metal_safe", "fit_system": "make_to_suit"}, by=bram, reason="new hands")
    assert (row.name, row.value, row.reason) == ("aim", "metal_safe", "new hands")
    assert shop.settings(db)["aim"] == "metal_safe"


def test_a_job_has_its_own_in_place_of_the_shops(db: Session) -> None:
    job_id = opened(db, "28 ±0.1").job.id
    choose(db, {"aim": "metal_safe"}, by=person(db, "pim"), job_id=job_id)
    assert shop.settings(db, job_id)["aim"] == "metal_safe"
    assert shop.settings(db).get("aim", "middle") == "middle"


def test_an_apprentice_does_not_choose_for_the_shop(db: Session) -> None:
    with pytest.raises(NotAllowed, match="machinist or the lead"):
        choose(db, {"aim": "metal_safe"}, by=person(db, "pim"))


@pytest.mark.parametrize(
    ("name", "of_job"), [("pieces", False), ("speed_hss_mild_steel", True), ("colour", False), ("colour", True)]
)
def test_what_is_not_theirs_to_choose_or_is_nothing_is_refused(db: Session, name: str, of_job: bool) -> None:
    job_id = opened(db, "28 ±0.1").job.id if of_job else None
    with pytest.raises(NotDefined):
        choose(db, {name: "2"}, by=person(db, "bram"), job_id=job_id)


def test_the_same_form_sent_twice_writes_once(db: Session) -> None:
    sent_id, bram = uuid4(), person(db, "bram")
    (first,) = choose(db, {"approach": "creep"}, by=bram, sent_id=sent_id)
    assert choose(db, {"approach": "creep"}, by=bram, sent_id=sent_id) == []
    assert shop.settings(db)["approach"] == first.value


def test_a_machine_told_to_forget_twice_by_one_form_forgets_from_the_first(db: Session) -> None:
    state, sent_id = state_numbered(db, 104), uuid4()
    first = forget_earlier_set_ups(db, state, by=person(db, "orla"), sent_id=sent_id)
    again = forget_earlier_set_ups(db, state, by=person(db, "orla"), sent_id=sent_id)
    assert (again.id, again.value) == (first.id, first.value)
