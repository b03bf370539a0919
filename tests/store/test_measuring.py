"""Checks, doubt windows, how readings were taken, and what gauges sent, straight from the store."""

from datetime import UTC, datetime, timedelta
from decimal import Decimal
from uuid import UUID, uuid4

import pytest
from sqlalchemy import select
from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.core.quantity.length import Length
from nomisma.store import checks, gauges, readings
from nomisma.store.measuring_method import FRESH, MeasuringMethod, method_now, zero_state
from nomisma.store.models import Account, GaugeBinding, Instrument, InstrumentCheck, Job
from nomisma.store.parts import own_id

NOW = datetime.now(UTC)


def instrument(db: Session, part_of_name: str) -> Instrument:
    return db.scalars(select(Instrument).where(Instrument.name.contains(part_of_name))).one()


def job(db: Session, number: int) -> Job:
    return db.scalars(select(Job).where(Job.number == number)).one()


def made(db: Session, number: int) -> UUID:
    """The feature that job makes."""
    return own_id(job(db, number).id, "A")


def check(db: Session, row: Instrument, error: str, at: datetime) -> None:
    by = db.scalars(select(Account.id)).first()
    assert by
    db.add(
        InstrumentCheck(
            id=uuid4(),
            instrument_id=row.id,
            of_id=row.first_id,
            standard_mm=Decimal(0),
            standard_text="0",
            read_text=error,
            unit=row.unit,
            zero_error_mm=Decimal(error),
            permitted_error_mm=row.permitted_error_mm,
            by_id=by,
            at=at,
        )
    )
    db.flush()
    db.info.pop("failed_calibrations", None)


def test_a_failed_check_doubts_from_the_last_good_one_to_the_next(db: Session) -> None:
    row = instrument(db, "0–1 in micrometer")
    for error, hours in (("0", -10), ("0.05", -5), ("0.0005", -1)):
        check(db, row, error, NOW + timedelta(hours=hours))
    (window,) = checks.failed_calibrations(db)[row.first_id]
    assert [window.holds(NOW + timedelta(hours=hours)) for hours in (-11, -9, -3, -0.5)] == [False, True, True, False]


def test_without_a_good_check_everything_is_in_doubt(db: Session) -> None:
    row = instrument(db, "0–1 in micrometer")
    check(db, row, "0.05", NOW)
    (window,) = checks.failed_calibrations(db)[row.first_id]
    assert (window.since, window.until) == (None, None)
    assert job(db, 104).id in checks.jobs_with_failed_calibration(db, {row.first_id: [window]})


def test_the_demo_has_one_job_in_doubt_and_its_readings_say_so(db: Session) -> None:
    counts = checks.jobs_with_failed_calibration(db, checks.failed_calibrations(db))
    assert counts == {job(db, 109).id: 4}
    assert readings.extremes(db, [made(db, 109)])[made(db, 109)].calibration_failed == 4


@pytest.mark.parametrize(
    ("age", "state"), [(timedelta(0), "fresh"), (FRESH, "fresh"), (FRESH + timedelta(minutes=1), "stale")]
)
def test_a_check_counts_for_a_day(db: Session, age: timedelta, state: str) -> None:
    row = instrument(db, "2–3 in micrometer")
    check(db, row, "0.001", NOW - age)
    assert zero_state(checks.newest_check(db, row.first_id), NOW) == state


def test_a_zero_error_is_taken_off_and_the_reading_kept_as_read(db: Session) -> None:
    row = instrument(db, "2–3 in micrometer")
    check(db, row, "0.001", NOW)
    columns = method_now(db, row, NOW).columns(Length(Decimal("60.001"), "mm", "60.001"))
    assert columns["size_mm"] == Decimal("60.000")
    assert columns["read_mm"] == Decimal("60.001")
    assert columns["uncertainty_mm"] > 0


def test_a_plain_reading_keeps_only_what_it_says(db: Session) -> None:
    taken = MeasuringMethod(instrument(db, "0–1 in micrometer"))
    columns = taken.columns(Length(Decimal("22.2"), "mm", "22.2"))
    assert taken.is_plain
    assert (columns["read_mm"], columns["uncertainty_mm"]) == (None, None)


def test_every_piece_of_a_batch_is_there_with_its_own_last_cut(db: Session) -> None:
    found = readings.extremes(db, [made(db, 108)])[made(db, 108)]
    assert found.pieces == [str(n) for n in range(1, 10)]
    assert found.of_piece("9").smallest_mm == Decimal("7.992")
    assert [one.piece for one in readings.of_batch(db, made(db, 108))] == found.pieces


def test_a_gauge_speaks_where_it_was_bound_last_and_once(db: Session) -> None:
    by = db.scalars(select(Account.id)).first()
    for number in (103, 102):
        db.add(GaugeBinding(id=uuid4(), gauge="g", job_id=job(db, number).id, feature_id=made(db, number), by_id=by))
        db.flush()
    said = {
        "id": uuid4(),
        "gauge": "g",
        "run": "a",
        "number": 1,
        "size": Length(Decimal("63.5"), "mm", "63.5"),
        "job_number": None,
    }
    assert [gauges.take(db, **said), gauges.take(db, **said)] == [True, False]
    assert [row.gauge for row in gauges.waiting(db, made(db, 102), NOW)] == ["g"]
    assert gauges.gauges_of(db, made(db, 103)) == []


def test_a_gauge_nobody_bound_is_told_so(db: Session) -> None:
    with pytest.raises(InputError, match="No job takes the readings of stray"):
        gauges.take(db, id=uuid4(), gauge="stray", run="a", number=1, size=Length(Decimal(1)), job_number=None)


def test_the_log_goes_back_page_by_page(db: Session) -> None:
    newest = readings.log(db, made(db, 108), last=4)
    older = readings.log(db, made(db, 108), last=4, before=newest[0].row.sequence)
    assert [item.row.piece for item in (*older, *newest)] == [str(n) for n in range(2, 10)]
