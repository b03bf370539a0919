"""The shop's instruments and machines: the newest row of each counts."""

from collections.abc import Iterable
from typing import TypeVar
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.orm import Session as OrmSession
from sqlalchemy.orm import aliased

from nomisma.store.models import Instrument, Machine

Kept = TypeVar("Kept", Instrument, Machine)


def _newest(session: OrmSession, table: type[Kept]) -> list[Kept]:
    later = aliased(table)
    superseded = select(later.id).where(later.supersedes_id == table.id).exists()
    return list(session.scalars(select(table).where(~superseded).order_by(table.name)))


def instruments(session: OrmSession) -> list[Instrument]:
    """Instruments as they are now, by name."""
    return _newest(session, Instrument)


def machines(session: OrmSession) -> list[Machine]:
    """Machines as they are now, by name."""
    return _newest(session, Machine)


def instruments_with(session: OrmSession, ids: Iterable[UUID]) -> dict[UUID, Instrument]:
    """Instrument rows by id, superseded ones too: a reading keeps the row it was taken with."""
    return {row.id: row for row in session.scalars(select(Instrument).where(Instrument.id.in_(list(ids))))}
