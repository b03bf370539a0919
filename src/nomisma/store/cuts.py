"""Cuts of a job in order, each with what the standing readings after it say."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from uuid import UUID

from sqlalchemy import bindparam, func, select
from sqlalchemy.orm import Session as OrmSession
from sqlalchemy.orm import aliased, joinedload

from nomisma.store.models import Cut, Reading


@dataclass(frozen=True, slots=True)
class TakenCut:
    """A cut and its sizes (mm): before and after by the readings that stand; none after where nothing was measured, or all withdrawn."""

    row: Cut
    before_mm: Decimal
    after_mm: Decimal | None


_later = aliased(Reading)
# Statements are built once: building one costs more than running it.
_SIZES = (
    select(Reading.piece, Reading.cut_number, func.avg(Reading.size_mm))
    .where(
        Reading.job_id == bindparam("job_id"),
        Reading.member == "made",
        Reading.withdrawn.is_(False),
        ~select(_later.id).where(_later.supersedes_id == Reading.id).exists(),
    )
    .group_by(Reading.piece, Reading.cut_number)
)
_CUTS = select(Cut).where(Cut.job_id == bindparam("job_id")).options(joinedload(Cut.by)).order_by(Cut.sequence)
_TAIL = Decimal("1e-9")


def sizes_by_cut(session: OrmSession, job_id: UUID) -> dict[tuple[str, int], Decimal]:
    """Mean standing size (mm) of the made member by piece and cut number."""
    return {(piece, cut): Decimal(size).quantize(_TAIL) for piece, cut, size in session.execute(_SIZES, {"job_id": job_id})}


def cuts_of(session: OrmSession, job_id: UUID, sizes: dict[tuple[str, int], Decimal]) -> list[TakenCut]:
    """Every cut of a job, oldest first."""
    found: Sequence[Cut] = session.scalars(_CUTS, {"job_id": job_id}).all()
    return [
        TakenCut(row, sizes.get((row.piece, row.cut_number - 1), row.before_mm), sizes.get((row.piece, row.cut_number)))
        for row in found
    ]
