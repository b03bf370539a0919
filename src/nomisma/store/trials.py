"""The log of trials by hand and eye: those that count, and all of them."""

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.orm import Session, joinedload

from nomisma.store.by_version import by_version
from nomisma.store.models import Trial


@by_version("said")
def trials(session: Session, feature_ids: Sequence[UUID], *, last: int | None = None) -> list[Trial]:
    """Trials of some features, oldest first; only the newest `last` in all, if given."""
    if not feature_ids:
        return []
    asked = (
        select(Trial)
        .where(Trial.feature_id.in_(feature_ids))
        .options(joinedload(Trial.by))
        .order_by(Trial.sequence.desc())
    )
    return list(session.scalars(asked.limit(last) if last else asked))[::-1]


def that_count(found: Sequence[Trial]) -> dict[UUID, tuple[Trial, ...]]:
    """By feature, the newest trial of each place of each piece."""
    newest = {(row.feature_id, row.piece, row.place): row for row in found}
    counted: dict[UUID, list[Trial]] = {}
    for row in newest.values():
        counted.setdefault(row.feature_id, []).append(row)
    return {feature_id: tuple(rows) for feature_id, rows in counted.items()}
