"""Readings of the demo's jobs, by the letters of their features."""

from collections.abc import Mapping, Sequence
from datetime import datetime, timedelta

from sqlalchemy import select
from sqlalchemy.orm import Session

from nomisma.core.measuring.indirect import indirect_reading
from nomisma.core.part.feature_kinds import feature_kind
from nomisma.core.quantity.length import Length
from nomisma.core.quantity.writing import parse_length
from nomisma.demo.ids import demo_id
from nomisma.demo.jobs import Logged
from nomisma.store.measuring_method import MeasuringMethod
from nomisma.store.models import Feature, Instrument, Job, Limits, Reading


def log_by_letter(
    session: Session,
    instruments: Mapping[str, Instrument],
    job: Job,
    title: str,
    rows: Sequence[tuple[str, Logged]],
    *,
    at: datetime,
    apart: timedelta,
) -> None:
    """Log some readings of a job, each against the limits its feature has now."""
    features = {row.letter: row for row in session.scalars(select(Feature).where(Feature.job_id == job.id))}
    for index, (letter, logged) in enumerate(rows):
        feature, instrument = features[letter], instruments[logged.instrument]
        limits = session.scalars(select(Limits).where(Limits.feature_id == feature.id)).one_or_none()
        text = feature_kind(feature.kind).reading_text(logged.size, limits.text if limits else "")
        found = indirect_reading(text, job.unit)
        size = Length(found.size_mm(), job.unit, text) if found else parse_length(text, job.unit)
        row = Reading(
            id=demo_id("reading", title, str(index)),
            job_id=job.id,
            feature_id=feature.id,
            place=logged.place,
            cut_number=logged.cut,
            piece=logged.piece,
            reason="",
            withdrawn=False,
            limits_id=limits.id if limits else None,
            by_id=job.by_id,
            at=at + index * apart,
            **MeasuringMethod(instrument, indirect=found).columns(size),
        )
        session.add(row)
        session.flush()
