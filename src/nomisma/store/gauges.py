"""What gauges sent: kept once whatever is repeated, for the feature the gauge is bound to."""

from collections.abc import Mapping, Sequence
from datetime import datetime, timedelta
from uuid import UUID

from sqlalchemy import bindparam, select
from sqlalchemy.orm import Session as OrmSession

from nomisma.core.errors import InputError
from nomisma.core.quantity.length import Length
from nomisma.store.append import HandedOver
from nomisma.store.by_version import by_version
from nomisma.store.jobs import is_handed_over
from nomisma.store.live import announce
from nomisma.store.models import Feature, GaugeBinding, GaugeReading, Job, Reading, TruingReading
from nomisma.store.parts import first_made
from nomisma.store.together import Write, in_transaction_of

SHOWN = 5


def bound_to(session: OrmSession, gauge: str) -> UUID | None:
    """The feature a gauge's readings go to."""
    query = (
        select(GaugeBinding.feature_id)
        .where(GaugeBinding.gauge == gauge)
        .order_by(GaugeBinding.sequence.desc())
        .limit(1)
    )
    return session.scalar(query)


# Statements are built once: building one costs more than running it.
_EVER_BOUND = select(GaugeBinding.gauge).where(GaugeBinding.feature_id == bindparam("feature_id")).distinct()
_WAITING = (
    select(GaugeReading)
    .where(
        GaugeReading.feature_id == bindparam("feature_id"),
        ~select(Reading.id).where(Reading.id == GaugeReading.id).exists(),
        ~select(TruingReading.id).where(TruingReading.id == GaugeReading.id).exists(),
    )
    .order_by(GaugeReading.sequence.desc())
    .limit(SHOWN)
)


@by_version("shop")
def _spoken_for(session: OrmSession, gauge: str) -> tuple[Feature, int] | None:
    """The feature a gauge is bound to, and the number of its job."""
    query = (
        select(Feature, Job.number).join(Job, Job.id == Feature.job_id).where(Feature.id == bound_to(session, gauge))
    )
    found = session.execute(query).one_or_none()
    return (found[0], found[1]) if found else None


@by_version("shop")
def gauges_of(session: OrmSession, feature_id: UUID) -> list[str]:
    """The gauges bound to a feature now."""
    ever = session.scalars(_EVER_BOUND, {"feature_id": feature_id})
    return [gauge for gauge in ever if bound_to(session, gauge) == feature_id]


def take(
    session: OrmSession,
    *,
    id: UUID,
    gauge: str,
    run: str,
    number: int,
    size: Length,
    job_number: int | None,
    write: Write | None = None,
) -> bool:
    """Keep one reading and commit it; True if it is new. Raises InputError where no job is known for it.

    What was kept already is acknowledged again, but not for another job or as another size.
    """
    spoken_for = _feature_of_gauge(session, gauge, job_number)
    if spoken_for is None:
        if _is_kept(session, id, number, size, job_number):
            return False
        raise InputError(
            f"No job takes the readings of {gauge}." if job_number is None else f"There is no job {job_number}.",
            "Open the job's Measure page and let the gauge speak there.",
            field="job",
        )
    feature, job = spoken_for
    row = GaugeReading(
        id=id,
        gauge=gauge,
        run=run,
        number=number,
        job_id=feature.job_id,
        feature_id=feature.id,
        size_mm=size.mm,
        size_text=size.text,
        size_unit=size.unit,
    )
    told = {"id": str(id), "gauge": gauge, "size": str(size), "feature": feature.letter}
    try:
        written = (write or in_transaction_of(session))(row, {"job_number": job, "kind": "gauge", **told})
    except HandedOver:
        session.rollback()
        if _is_kept(session, id, number, size, job_number):
            return False
        raise InputError(
            f"Job {job} is handed over.", "Let the gauge speak to another job, or take this one up again.", field="job"
        ) from None
    session.commit()
    return written is not None or not _is_kept(session, id, number, size, job_number)


def _is_kept(session: OrmSession, id: UUID, number: int, size: Length, job_number: int | None) -> bool:
    """Whether a reading was kept before, for this job and as this size. Raises InputError where it was as another."""
    kept = session.get(GaugeReading, id)
    if kept is None:
        return False
    kept_for = session.get_one(Job, kept.job_id).number
    if (job_number is not None and kept_for != job_number) or kept.size_mm != size.mm:
        raise InputError(
            f"Reading {number} of this run is kept already: {kept.size_text} for job {kept_for}.",
            "Count on, or begin another run.",
            field="number",
        )
    return True


def tell_position(
    session: OrmSession,
    *,
    gauge: str,
    positions: Mapping[str, Length],
    x_reads: str,
    zero_set: str,
    job_number: int | None,
) -> None:
    """Tell the open pages of its job where the slides stand; nothing is kept. Raises InputError where no job
    takes it.
    """
    spoken_for = _feature_of_gauge(session, gauge, job_number)
    if spoken_for is None or is_handed_over(session, spoken_for[0].job_id):
        raise InputError(
            f"No open job takes the positions of {gauge}.",
            "Let it speak there on the job's Measure page, or name a job.",
            field="job",
        )
    slides = {axis: f"{one.mm:f}" for axis, one in positions.items()}
    announce(session, spoken_for[1], "position", gauge=gauge, slides_mm=slides, x_reads=x_reads, zero_set=zero_set)
    session.commit()


def _feature_of_gauge(session: OrmSession, gauge: str, job_number: int | None) -> tuple[Feature, int] | None:
    """The feature a gauge speaks of, and its job's number: the one it is bound to; where it names another job, the
    first that is made there.
    """
    bound = _spoken_for(session, gauge)
    if job_number is None or (bound is not None and bound[1] == job_number):
        return bound
    first_id = first_made(session, job_number)
    return (session.get_one(Feature, first_id), job_number) if first_id else None


def waiting(session: OrmSession, feature_id: UUID, since: datetime, *, hours: float = 12) -> Sequence[GaugeReading]:
    """The newest readings of a feature's gauges that nobody logged yet, newest first; older ones are passed over."""
    return [row for row in _newest_waiting(session, feature_id) if row.at > since - timedelta(hours=hours)]


@by_version("job")
def _newest_waiting(session: OrmSession, feature_id: UUID) -> Sequence[GaugeReading]:
    return session.scalars(_WAITING, {"feature_id": feature_id}).all()
