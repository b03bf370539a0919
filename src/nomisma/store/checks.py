"""Checks of instruments: the newest of each, and which readings a failed one puts in doubt."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from sqlalchemy import bindparam, func, select
from sqlalchemy.dialects.postgresql import distinct_on
from sqlalchemy.orm import Session as OrmSession
from sqlalchemy.orm import aliased, joinedload

from nomisma.store.by_version import by_version
from nomisma.store.models import Feature, Instrument, InstrumentCheck, Job, Reading


@by_version("shop")
def newest_checks(session: OrmSession) -> dict[UUID, InstrumentCheck]:
    """The newest check of every instrument that was ever checked, by the instrument's first id."""
    query = (
        select(InstrumentCheck)
        .options(joinedload(InstrumentCheck.by))
        .ext(distinct_on(InstrumentCheck.of_id))
        .order_by(InstrumentCheck.of_id, InstrumentCheck.at.desc())
    )
    return {row.of_id: row for row in session.scalars(query)}


# Statements are built once: building one costs more than running it.
_NEWEST = (
    select(InstrumentCheck)
    .where(InstrumentCheck.of_id == bindparam("first_id"))
    .options(joinedload(InstrumentCheck.by))
    .order_by(InstrumentCheck.at.desc())
    .limit(1)
)
_NEWEST_THEN = _NEWEST.where(InstrumentCheck.at <= bindparam("until"))


@by_version("shop")
def newest_check(session: OrmSession, first_id: UUID) -> InstrumentCheck | None:
    """The newest check of one instrument."""
    return session.scalar(_NEWEST, {"first_id": first_id})


def check_then(session: OrmSession, first_id: UUID, until: datetime) -> InstrumentCheck | None:
    """The check of one instrument that was the newest at a time."""
    return session.scalar(_NEWEST_THEN, {"first_id": first_id, "until": until})


def checks_of(session: OrmSession, first_id: UUID, *, last: int = 50) -> Sequence[InstrumentCheck]:
    """The newest checks of an instrument, newest first."""
    query = (
        select(InstrumentCheck)
        .where(InstrumentCheck.of_id == first_id)
        .options(joinedload(InstrumentCheck.by))
        .order_by(InstrumentCheck.at.desc())
        .limit(last)
    )
    return session.scalars(query).all()


def versions_of(session: OrmSession, first_id: UUID) -> Sequence[Instrument]:
    """Every row of one instrument, newest first."""
    query = (
        select(Instrument)
        .where((Instrument.id == first_id) | (Instrument.of_id == first_id))
        .order_by(Instrument.at.desc())
    )
    return session.scalars(query).all()


@dataclass(frozen=True, slots=True)
class FailedCalibration:
    """The time in which an instrument's readings are in doubt: after its last good check, up to its next one (none:
    still).
    """

    since: datetime | None
    until: datetime | None

    def holds(self, at: datetime) -> bool:
        """Whether a reading taken then is in doubt."""
        return (self.since is None or at > self.since) and (self.until is None or at < self.until)


_bad = func.abs(InstrumentCheck.zero_error_mm) > InstrumentCheck.permitted_error_mm
_good = aliased(InstrumentCheck)
_passes = func.abs(_good.zero_error_mm) <= _good.permitted_error_mm
_WINDOWS = select(
    InstrumentCheck.of_id,
    select(func.max(_good.at))
    .where(_good.of_id == InstrumentCheck.of_id, _good.at < InstrumentCheck.at, _passes)
    .scalar_subquery(),
    select(func.min(_good.at))
    .where(_good.of_id == InstrumentCheck.of_id, _good.at > InstrumentCheck.at, _passes)
    .scalar_subquery(),
).where(_bad)


@by_version("shop")
def failed_calibrations(session: OrmSession) -> dict[UUID, list[FailedCalibration]]:
    """By instrument, the times between the good checks around each failed one; empty where none ever failed.

    Asked once a session: a session is one request.
    """
    known: dict[UUID, list[FailedCalibration]] | None = session.info.get("failed_calibrations")
    if known is None:
        known = session.info["failed_calibrations"] = {}
        for first_id, since, until in session.execute(_WINDOWS):
            known.setdefault(first_id, []).append(FailedCalibration(since, until))
    return known


def calibration_failed(windows: dict[UUID, list[FailedCalibration]], instrument: Instrument, at: datetime) -> bool:
    """Whether a reading taken with an instrument at a time is in doubt."""
    return any(window.holds(at) for window in windows.get(instrument.first_id, ()))


def jobs_with_failed_calibration(
    session: OrmSession, windows: dict[UUID, list[FailedCalibration]], job_ids: Sequence[UUID] | None = None
) -> dict[UUID, int]:
    """How many standing readings of each job are in doubt; of some jobs only, if given."""
    counts: dict[UUID, int] = {}
    later = aliased(Reading)
    of_jobs = select(Feature.id).where(Feature.job_id.in_(job_ids or ()))
    for first_id, spans in windows.items():
        for span in spans:
            query = (
                select(Reading.job_id, func.count())
                .join(Instrument, Instrument.id == Reading.instrument_id)
                .where(
                    func.coalesce(Instrument.of_id, Instrument.id) == first_id,
                    ~Reading.withdrawn,
                    ~select(later.id).where(later.supersedes_id == Reading.id).exists(),
                )
                .group_by(Reading.job_id)
            )
            query = query.where(Reading.at > span.since) if span.since else query
            query = query.where(Reading.at < span.until) if span.until else query
            query = query.where(Reading.feature_id.in_(of_jobs)) if job_ids is not None else query
            for job_id, count in session.execute(query):
                counts[job_id] = counts.get(job_id, 0) + count
    return counts


@by_version("job")
def is_in_doubt(session: OrmSession, job_id: UUID) -> bool:
    """Whether standing readings of a job are in doubt, because an instrument failed its check after them."""
    windows = failed_calibrations(session)
    return bool(windows) and job_id in jobs_with_failed_calibration(session, windows, [job_id])


def jobs_by_id(session: OrmSession, ids: Sequence[UUID]) -> Sequence[Job]:
    """Jobs by their ids, newest first."""
    return session.scalars(select(Job).where(Job.id.in_(ids)).order_by(Job.number.desc())).all()
