"""Readings: the newest word on each, extremes by instrument, and the whole log."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from uuid import UUID

from sqlalchemy import Integer, bindparam, func, select, text
from sqlalchemy.orm import Session as OrmSession
from sqlalchemy.orm import aliased

from nomisma.core.measuring.feature import ReadingGroup, expanded_uncertainty_mm
from nomisma.store.models import Account, Instrument, Reading, ReadingDoubt

_later = aliased(Reading)
_STANDS = (~select(_later.id).where(_later.supersedes_id == Reading.id).exists(), ~Reading.withdrawn)
"""A reading stands unless another supersedes it; a withdrawal supersedes without standing itself."""


@dataclass(frozen=True, slots=True)
class LoggedReading:
    """A reading with who took it, with what, whether it still stands, and what was asked before it was believed."""

    row: Reading
    by: str
    instrument: Instrument
    superseded_by: UUID | None
    doubt: ReadingDoubt | None = None

    @property
    def stands(self) -> bool:
        """Whether this is the newest word."""
        return self.superseded_by is None and not self.row.withdrawn

    @property
    def uncertainty_mm(self) -> Decimal:
        """Expanded uncertainty (mm, k = 2) of this reading."""
        return uncertainty_of(self.instrument)


def uncertainty_of(instrument: Instrument) -> Decimal:
    """Expanded uncertainty (mm, k = 2) of one reading with an instrument."""
    return expanded_uncertainty_mm(instrument.resolution_mm, instrument.permitted_error_mm, instrument.repeatability_mm)


_LOG = (
    select(Reading, Account.name, Instrument, _later.id, ReadingDoubt)
    .join(Account, Account.id == Reading.by_id)
    .join(Instrument, Instrument.id == Reading.instrument_id)
    .outerjoin(_later, _later.supersedes_id == Reading.id)
    .outerjoin(ReadingDoubt, ReadingDoubt.id == Reading.doubt_id)
    .where(Reading.job_id == bindparam("job_id"), Reading.member == bindparam("member"))
    .order_by(Reading.sequence.desc())
    .limit(bindparam("last", type_=Integer))
)


def log(session: OrmSession, job_id: UUID, member: str, *, last: int | None = None) -> list[LoggedReading]:
    """A member's readings in the order they were logged, superseded ones too; only the `last` so many if given."""
    found = session.execute(_LOG, {"job_id": job_id, "member": member, "last": last}).all()
    return [LoggedReading(*row) for row in reversed(found)]


@dataclass(frozen=True)
class Extremes:
    """The standing readings of one member: their number, and groups by instrument."""

    groups: tuple[ReadingGroup, ...]

    @property
    def count(self) -> int:
        """How many readings stand."""
        return sum(group.count for group in self.groups)

    @property
    def smallest_mm(self) -> Decimal:
        """The smallest reading, mm."""
        return min(group.smallest_mm for group in self.groups)

    @property
    def largest_mm(self) -> Decimal:
        """The largest reading, mm."""
        return max(group.largest_mm for group in self.groups)


NO_READINGS = Extremes(())


_EXTREMES = text(
    """
    SELECT r.job_id, r.member, i.resolution_mm, i.permitted_error_mm, i.repeatability_mm,
           count(*), min(r.size_mm), max(r.size_mm)
    FROM unnest(CAST(:job_ids AS uuid[])) AS j(id)
    CROSS JOIN (VALUES ('partner'), ('made')) AS m(member)
    CROSS JOIN LATERAL (
        SELECT cut_number FROM reading WHERE job_id = j.id AND member = m.member ORDER BY cut_number DESC LIMIT 1
    ) AS last
    JOIN reading r ON r.job_id = j.id AND r.member = m.member AND r.cut_number = last.cut_number
    JOIN instrument i ON i.id = r.instrument_id
    WHERE NOT r.withdrawn AND NOT EXISTS (SELECT FROM reading later WHERE later.supersedes_id = r.id)
    GROUP BY r.job_id, r.member, i.id
    """
)


def extremes(session: OrmSession, job_ids: Sequence[UUID]) -> dict[tuple[UUID, str], Extremes]:
    """Count and extremes of the standing readings, by job and member.

    Of the made member only those since its last cut: what was measured before metal came off says nothing of it now.
    """
    found: dict[tuple[UUID, str], list[ReadingGroup]] = {}
    for job_id, member, *figures, count, smallest, largest in session.execute(_EXTREMES, {"job_ids": list(job_ids)}):
        group = ReadingGroup(count, smallest, largest, expanded_uncertainty_mm(*figures))
        found.setdefault((job_id, member), []).append(group)
    return {key: Extremes(tuple(groups)) for key, groups in found.items()}


def last_cut_number(session: OrmSession, job_id: UUID) -> int:
    """The cut after which the newest reading of the made member was taken; 0 is before the first."""
    query = select(func.max(Reading.cut_number)).where(Reading.job_id == job_id, Reading.member == "made")
    return session.scalar(query) or 0


def standing(session: OrmSession, reading_id: UUID) -> Reading | None:
    """A reading that may be superseded; None where there is none or it has been already."""
    return session.scalar(select(Reading).where(Reading.id == reading_id, *_STANDS))
