"""Readings of the demo's jobs, by the letters of their features."""

from collections.abc import Mapping, Sequence
from datetime import datetime, timedelta

from sqlalchemy import select
from sqlalchemy.orm import Session

from nomisma.core.quantity.writing import parse_length
from nomisma.demo.ids import demo_id
from nomisma.demo.jobs import Logged
from nomisma.store.models import Feature, Instrument, Job, Limits, Reading


def log_by_letter(
    session: Session, instruments: Mapping[str, Instrument], job: Job, title: str, rows: Sequence[tuple[str, Logged]], *, at: datetime,
    apart: timedelta,
) -> None:  # fmt: skip
    """Log some readings of a job, each against the limits its feature has now."""
    features = {row.letter: row for row in session.scalars(select(Feature).where(Feature.job_id == job.id))}
    for index, (letter, logged) in enumerate(rows):
        size, feature = parse_length(logged.size, "mm" if job.unit == "mm" else "in"), features[letter]
        limits = session.scalars(select(Limits).where(Limits.feature_id == feature.id)).one_or_none()
        row = Reading(
            id=demo_id("reading", title, str(index)), job_id=job.id, feature_id=feature.id, place=logged.place, size_mm=size.mm,
            size_text=logged.size, size_unit=size.unit, cut_number=logged.cut, reason="", withdrawn=False,
            instrument_id=instruments[logged.instrument].id, limits_id=limits.id if limits else None, by_id=job.by_id, at=at + index * apart,
        )  # fmt: skip
        session.add(row)
        session.flush()
