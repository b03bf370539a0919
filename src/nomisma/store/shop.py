"""The shop's instruments and machines: the newest row of each counts."""

from typing import TypeVar

from sqlalchemy import Select, select
from sqlalchemy.orm import Session as OrmSession
from sqlalchemy.orm import aliased

from nomisma.store.models import Instrument, Machine

Kept = TypeVar("Kept", Instrument, Machine)


def _as_they_are(table: type[Kept]) -> Select[Kept]:
    """The rows nothing supersedes, by name."""
    later = aliased(table)
    return select(table).where(~select(later.id).where(later.supersedes_id == table.id).exists()).order_by(table.name)


_INSTRUMENTS = _as_they_are(Instrument)
_MACHINES = _as_they_are(Machine)


def instruments(session: OrmSession) -> list[Instrument]:
    """Instruments as they are now, by name."""
    return list(session.scalars(_INSTRUMENTS))


def machines(session: OrmSession) -> list[Machine]:
    """Machines as they are now, by name."""
    return list(session.scalars(_MACHINES))
