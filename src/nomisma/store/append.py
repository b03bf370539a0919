"""Writing to the append-only log: a repeat of the same row is harmless, another row under its id is refused."""

from typing import TypeVar

from sqlalchemy import inspect
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session as OrmSession

from nomisma.core.errors import NomismaError
from nomisma.store.models import Base

Row = TypeVar("Row", bound=Base)
# What the database makes, and what is worked out from the rows before: not part of what the client said.
_NOT_SAID = {"at", "created_at", "sequence", "number", "version", "cut_number"}


class AlreadySent(NomismaError):
    """The same form was sent before with something else in it; the first stands."""


class AlreadyChanged(NomismaError):
    """Somebody else superseded the same row, or wrote the same version, a moment before."""


def append(session: OrmSession, row: Row) -> Row:
    """Write a row, or return the one that is already there under its id. Commits nothing.

    Raises AlreadySent when the one there says something else, AlreadyChanged when a row that may be superseded
    (or a version that may be written) only once has been.
    """
    mapper = inspect(type(row))
    values = {column.key: value for column in mapper.column_attrs if (value := getattr(row, column.key)) is not None}
    # One statement, no savepoint: what conflicts writes nothing and returns nothing.
    written: Row | None = session.scalar(insert(type(row)).values(values).on_conflict_do_nothing().returning(type(row)))
    if written is not None:
        return written
    if found := session.get(type(row), inspect(row).mapper.primary_key_from_instance(row)):
        return _same_or_refused(found, row)
    raise AlreadyChanged("Someone changed this a moment before you.")


def _same_or_refused(found: Row, row: Row) -> Row:
    for column in inspect(type(row)).column_attrs:
        wanted = getattr(row, column.key)
        if column.key not in _NOT_SAID and wanted is not None and wanted != getattr(found, column.key):
            raise AlreadySent("This form had been sent before with something else in it; the first one stands.")
    return found
