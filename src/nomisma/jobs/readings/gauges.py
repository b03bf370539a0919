"""A gauge that speaks for a feature of a job."""

from uuid import UUID

from sqlalchemy.orm import Session

from nomisma.core.errors import needed
from nomisma.jobs.standing.state import JobState
from nomisma.store.append import append
from nomisma.store.models import Account, GaugeBinding


def bind_gauge(session: Session, state: JobState, gauge: str, *, by: Account, sent_id: UUID) -> GaugeBinding:
    """Let a gauge speak for the feature in hand from now on; commits nothing. Raises HandedOver, InputError."""
    state.must_be_open()
    row = GaugeBinding(
        id=sent_id, gauge=needed(gauge, "gauge"), job_id=state.job.id, feature_id=state.feature_id, by_id=by.id
    )
    return append(session, row)
