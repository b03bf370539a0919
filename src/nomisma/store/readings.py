"""Readings: the newest word on each, extremes by instrument, and the whole log."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from uuid import UUID

from sqlalchemy import func, select
from sqlalchemy.orm import Session as OrmSession
from sqlalchemy.orm import aliased

from nomisma.core.measuring.feature import ReadingGroup, expanded_uncertainty_mm
from nomisma.store.models import Account, Instrument, Reading

_later = aliased(Reading)
_STANDS = (~select(_later.id).where(_later.supersedes_id == Reading.id).exists(), ~Reading.withdrawn)
"""A reading stands unless another supersedes it; a withdrawal supersedes without standing itself."""


@dataclass(frozen=True, slots=True)
class LoggedReading:
    """A reading with who took it, with what, and whether it still stands."""

    row: Reading
    by: str
    instrument: Instrument
    superseded_by: UUID | None

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


def log(session: OrmSession, job_id: UUID, member: str, *, last: int | None = None) -> list[LoggedReading]:
    """A member's readings in the order they were logged, superseded ones too; only the `last` so many if given."""
    query = (
        select(Reading, Account.name, Instrument, _later.id)
        .join(Account, Account.id == Reading.by_id)
        .join(Instrument, Instrument.id == Reading.instrument_id)
        .outerjoin(_later, _later.supersedes_id == Reading.id)
        .where(Reading.job_id == job_id, Reading.member == member)
        .order_by(Reading.sequence.desc())
    )
    found = session.execute(query.limit(last)).all()
    return [LoggedReading(row, by, instrument, superseded_by) for row, by, instrument, superseded_by in reversed(found)]


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


def extremes(session: OrmSession, job_ids: Sequence[UUID]) -> dict[tuple[UUID, str], Extremes]:
    """Count and extremes of the standing readings, by job and member.

    Of the made member only those since its last cut: what was measured before metal came off says nothing of it now.
    """
    newest = aliased(Reading)
    last_cut = select(func.max(newest.cut_number)).where(newest.job_id == Reading.job_id, newest.member == Reading.member)
    query = (
        select(
            Reading.job_id, Reading.member, Instrument, func.count(), func.min(Reading.size_mm), func.max(Reading.size_mm)
        )
        .join(Instrument, Instrument.id == Reading.instrument_id)
        .where(Reading.job_id.in_(job_ids), Reading.cut_number == last_cut.scalar_subquery(), *_STANDS)
        .group_by(Reading.job_id, Reading.member, Instrument.id)
    )
    found: dict[tuple[UUID, str], list[ReadingGroup]] = {}
    for job_id, member, instrument, count, smallest, largest in session.execute(query):
        group = ReadingGroup(count, smallest, largest, uncertainty_of(instrument))
        found.setdefault((job_id, member), []).append(group)
    return {key: Extremes(tuple(groups)) for key, groups in found.items()}


def last_cut_number(session: OrmSession, job_id: UUID) -> int:
    """The cut after which the newest reading of the made member was taken; 0 is before the first."""
    query = select(func.max(Reading.cut_number)).where(Reading.job_id == job_id, Reading.member == "made")
    return session.scalar(query) or 0


def standing(session: OrmSession, reading_id: UUID) -> Reading | None:
    """A reading that may be superseded; None where there is none or it has been already."""
    return session.scalar(select(Reading).where(Reading.id == reading_id, *_STANDS))
