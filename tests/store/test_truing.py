"""Rounds, cuts and what a chuck was seen to do, straight from the store: what counts of what was logged."""

from datetime import UTC, datetime, timedelta
from decimal import Decimal
from typing import Any
from uuid import uuid4

import pytest
from sqlalchemy import select
from sqlalchemy.orm import Session

from nomisma.core.practice.levels import level_named, levels
from nomisma.store import shop
from nomisma.store.append import append
from nomisma.store.cuts import cuts_of, sizes_by_cut
from nomisma.store.gauges import waiting
from nomisma.store.models import Chuck, Cut, GaugeReading, Job, Reading, Truing, TruingEvent, TruingReading
from nomisma.store.parts import own_id
from nomisma.store.practice import practice_set_up
from nomisma.store.truing import chucks, events_of, rounds_from, rounds_of, rounds_of_chuck, truing_of, truings_of


def job_titled(db: Session, title: str) -> Job:
    return db.scalars(select(Job).where(Job.title.startswith(title))).one()


@pytest.fixture
def truing(db: Session) -> Truing:
    """A set-up of the demo's bronze bush job, in the eight-inch chuck."""
    found = truing_of(db, job_titled(db, "Dome").id)
    assert found is not None
    return found


def row(truing: Truing, round_number: int, place: int, read: str, **changes: Any) -> TruingReading:
    fields: dict[str, Any] = {
        "id": uuid4(),
        "truing_id": truing.id,
        "round": round_number,
        "circle": "near",
        "kind": "place",
        "place": place,
        "at_deg": Decimal(90 * place),
        "read_mm": Decimal(read),
        "read_text": read,
        "read_unit": "mm",
        "tightened": False,
        "by_id": truing.by_id,
    }
    return TruingReading(**{**fields, **changes})


def test_the_newest_reading_of_a_place_counts_and_the_first_stays(db: Session, truing: Truing) -> None:
    for place, read in enumerate(("0.1", "0.2", "0.3", "0.4")):
        append(db, row(truing, 9, place, read))
    append(db, row(truing, 9, 2, "0.35"))
    db.commit()
    found = rounds_of(db, truing, [])[-1]
    assert found.whole
    assert found.again == 1
    assert [one.read_text for one in found.rows] == ["0.1", "0.2", "0.35", "0.4"]
    assert len(db.scalars(select(TruingReading).where(TruingReading.round == 9)).all()) == 5


def test_a_round_with_a_place_missing_is_not_whole(db: Session, truing: Truing) -> None:
    for place in (0, 1, 3):
        append(db, row(truing, 9, place, "0.1"))
    assert not rounds_of(db, truing, [])[-1].whole


def test_highest_and_lowest_are_a_whole_round(db: Session, truing: Truing) -> None:
    append(db, row(truing, 9, 0, "0.5", kind="highest", at_deg=Decimal(90)))
    append(db, row(truing, 9, 1, "0.1", kind="lowest", at_deg=Decimal(90)))
    found = rounds_of(db, truing, [])[-1]
    assert found.by_ends
    assert found.whole


def test_a_round_set_aside_stays_and_says_so(db: Session, truing: Truing) -> None:
    append(db, TruingEvent(truing_id=truing.id, kind="set_aside", detail={"round": 1}, by_id=truing.by_id))
    append(db, TruingEvent(truing_id=truing.id, kind="confirmed", detail={"round": 2}, by_id=truing.by_id))
    found = rounds_of(db, truing, events_of(db, [truing.id]))
    assert [(one.set_aside, one.confirmed) for one in found] == [(True, False), (False, True)]


def test_a_round_says_when_it_began_and_ended(truing: Truing) -> None:
    start = datetime(2026, 1, 1, tzinfo=UTC)
    rows = [row(truing, 1, place, "0", at=start + timedelta(seconds=9 * place), sequence=place) for place in range(4)]
    (found,) = rounds_from(truing, rows, [])
    assert found.began_at == start
    assert found.ended_at - found.began_at == timedelta(seconds=27)
    assert found.last is rows[-1]


def test_the_newest_set_up_of_a_job_counts_and_the_others_stay(db: Session, truing: Truing) -> None:
    values = {
        column.key: getattr(truing, column.key)
        for column in Truing.__table__.columns
        if column.key not in ("id", "sequence", "at")
    }
    newer = append(db, Truing(id=uuid4(), **values))
    db.commit()
    assert truing.job_id is not None
    assert truing_of(db, truing.job_id) == newer
    assert [one.id for one in truings_of(db, truing.job_id)] == [truing.id, newer.id]


def test_a_chuck_that_was_changed_keeps_what_was_learned(db: Session, truing: Truing) -> None:
    chuck = truing.chuck
    assert chuck is not None
    before = rounds_of_chuck(db, chuck)
    changed = append(
        db,
        Chuck(
            id=uuid4(),
            name="Eight-inch, new screws",
            unit="in",
            screw_lead_mm=Decimal("2.54"),
            screw_lead_text="0.1",
            of_id=chuck.first_id,
            supersedes_id=chuck.id,
            by_id=truing.by_id,
        ),
    )
    db.commit()
    assert changed in chucks(db)
    assert chuck not in chucks(db)
    assert [one.id for one, _ in rounds_of_chuck(db, changed)] == [one.id for one, _ in before]
    assert len(before) == 4


def test_only_set_ups_before_a_sequence_are_asked(db: Session, truing: Truing) -> None:
    assert truing.chuck is not None
    earlier = rounds_of_chuck(db, truing.chuck, before=truing.sequence)
    assert [one.sequence for one, _ in earlier] == sorted(one.sequence for one, _ in earlier)
    assert truing.id not in [one.id for one, _ in earlier]


def test_what_a_gauge_sent_no_longer_waits_once_it_is_a_round(db: Session, truing: Truing) -> None:
    job = job_titled(db, "Dome")
    sent = db.scalars(select(GaugeReading).where(GaugeReading.job_id == job.id)).first()
    assert sent is not None
    now = datetime.now(UTC)
    assert sent in waiting(db, own_id(job.id, "A"), now)
    append(db, row(truing, 9, 0, "0.1", id=sent.id))
    assert sent not in waiting(db, own_id(job.id, "A"), now)


@pytest.mark.parametrize("name", sorted(levels()))
def test_a_level_of_practice_is_a_set_up_like_any_other(db: Session, truing: Truing, name: str) -> None:
    level = level_named(name)
    found = append(db, practice_set_up(uuid4(), level, 7, truing.by_id))
    db.commit()
    assert found.job_id is None
    assert (found.surface, found.places, found.unit) == (level.surface, level.places, level.unit)
    assert (found.far_mm is not None) == level.leans
    assert found.needle_turn_mm == 100 * level.graduation.mm


def made(db: Session, job: Job, size: str, cut: int, **changes: Any) -> Reading:
    instrument = next(one for one in shop.instruments(db) if one.measures == "bore")
    fields: dict[str, Any] = {
        "id": uuid4(),
        "job_id": job.id,
        "feature_id": own_id(job.id, "A"),
        "place": "mouth 0°",
        "size_mm": Decimal(size),
        "size_text": size,
        "size_unit": "mm",
        "cut_number": cut,
        "instrument_id": instrument.id,
        "by_id": job.by_id,
        "reason": "",
        "withdrawn": False,
    }
    return Reading(**{**fields, **changes})


def cut(job: Job, number: int, before: str) -> Cut:
    return Cut(
        id=uuid4(),
        job_id=job.id,
        feature_id=own_id(job.id, "A"),
        piece="",
        cut_number=number,
        set_up=1,
        approach="creep",
        dialled_mm=Decimal("0.2"),
        dialled_text="0.2 mm",
        before_mm=Decimal(before),
        by_id=job.by_id,
    )


def test_a_cut_took_what_the_standing_readings_say(db: Session) -> None:
    job = job_titled(db, "Dome")
    append(db, made(db, job, "22.30", 3))
    second = append(db, made(db, job, "22.32", 3))
    append(db, cut(job, 3, "22.09"))
    db.commit()
    assert sizes_by_cut(db, own_id(job.id, "A"))["", 3] == Decimal("22.31")
    append(db, made(db, job, "22.30", 3, supersedes_id=second.id, reason="misread"))
    db.commit()
    sizes = sizes_by_cut(db, own_id(job.id, "A"))
    taken = cuts_of(db, own_id(job.id, "A"), sizes)[-1]
    assert taken.after_mm == Decimal("22.30")
    assert taken.before_mm == sizes["", 2]


def test_a_cut_whose_reading_was_withdrawn_has_no_size_after(db: Session) -> None:
    job = job_titled(db, "Dome")
    read = append(db, made(db, job, "22.30", 3))
    append(db, cut(job, 3, "22.09"))
    append(db, made(db, job, "22.30", 3, supersedes_id=read.id, withdrawn=True, reason="burr"))
    db.commit()
    assert cuts_of(db, own_id(job.id, "A"), sizes_by_cut(db, own_id(job.id, "A")))[-1].after_mm is None


def test_the_size_said_before_counts_where_no_reading_does(db: Session) -> None:
    job = job_titled(db, "Polar-axis")
    append(db, cut(job, 9, "23.5"))
    db.commit()
    assert cuts_of(db, own_id(job.id, "A"), sizes_by_cut(db, own_id(job.id, "A")))[-1].before_mm == Decimal("23.5")
