"""Writing to the append-only log: a repeat of the same row is harmless, another row under its id is refused."""

from typing import TypeVar

from sqlalchemy import inspect
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session as OrmSession

from nomisma.core.errors import NomismaError
from nomisma.store.models import Base

Row = TypeVar("Row", bound=Base)
_MADE_BY_THE_DATABASE = {"at", "created_at", "sequence", "number", "version"}


class AlreadySent(NomismaError):
    """The same form was sent before with something else in it; the first stands."""


class AlreadyChanged(NomismaError):
    """Somebody else superseded the same row, or wrote the same version, a moment before."""


def append(session: OrmSession, row: Row) -> Row:
    """Write a row, or return the one that is already there under its id. Commits nothing.

    Raises AlreadySent when the one there says something else, AlreadyChanged when a row that may be superseded
    (or a version that may be written) only once has been.
    """
    key = inspect(row).mapper.primary_key_from_instance(row)
    if found := session.get(type(row), key):
        return _same_or_refused(found, row)
    try:
        with session.begin_nested():
            session.add(row)
            session.flush()
    except IntegrityError as error:
        if found := session.get(type(row), key):
            return _same_or_refused(found, row)
        if getattr(error.orig, "sqlstate", "") == "23505":
            raise AlreadyChanged("Someone changed this a moment before you.") from error
        raise
    return row


def _same_or_refused(found: Row, row: Row) -> Row:
    for column in inspect(type(row)).column_attrs:
        wanted = getattr(row, column.key)
        if column.key not in _MADE_BY_THE_DATABASE and wanted is not None and wanted != getattr(found, column.key):
            raise AlreadySent("This form had been sent before with something else in it; the first one stands.")
    return found
