"""Writing to the append-only log: a repeat of the same row is harmless, another row under its id is refused."""

from collections.abc import Mapping, Sequence
from functools import cache
from typing import Any, TypeVar

from sqlalchemy import ClauseElement, inspect
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session as OrmSession

from nomisma.core.errors import NomismaError
from nomisma.store.by_version import read_anew
from nomisma.store.models import Base

Row = TypeVar("Row", bound=Base)
# What the database makes, and what is worked out from the rows before: not part of what the client said.
_NOT_SAID = {"at", "created_at", "sequence", "number", "version", "cut_number"}


class AlreadySent(NomismaError):
    """The same form was sent before with something else in it; the first stands, and the message says what it was."""


class AlreadyChanged(NomismaError):
    """Somebody else superseded the same row, or wrote the same version, a moment before."""


class HandedOver(NomismaError):
    """The job is closed: nothing more is written to it until it is taken up again."""


CLOSED = "NM001"
"""The SQLSTATE by which the database refuses what is written to a job that was handed over in the meantime."""
CLOSED_SENTENCE = "This job is handed over. Take it up again on its Record page to go on."


def sent_before(session: OrmSession, model: type[Row], id: Any, **said: Any) -> Row | None:
    """The row that a form sent before was kept as, where it says the same; None where there is none under its id.

    For commands whose other checks a repeat would not pass: what was allowed then is answered as it was. Raises
    AlreadySent.
    """
    found = session.get(model, id)
    return None if found is None else _same_or_refused(found, said)


def append(session: OrmSession, row: Row) -> Row:
    """Write a row, or return the one that is already there under its id. Commits nothing.

    Raises AlreadySent when the one there says something else, AlreadyChanged when a row that may be superseded
    (or a version that may be written) only once has been.
    """
    if (written := append_new(session, row)) is not None:
        return written
    mapper = inspect(type(row))
    if found := session.get(type(row), mapper.primary_key_from_instance(row)):
        wanted = {column.key: getattr(row, column.key) for column in mapper.column_attrs if column.key not in _NOT_SAID}
        return _same_or_refused(found, {name: value for name, value in wanted.items() if value is not None})
    raise AlreadyChanged("Someone changed this a moment before you.")


def append_new(session: OrmSession, row: Row) -> Row | None:
    """Write a row; None where it is there already, or another that may be there once only. Commits nothing. Raises
    HandedOver.
    """
    read_anew(session)
    # One statement, no savepoint: what conflicts writes nothing and returns nothing.
    try:
        written: Row | None = session.scalar(*_insert(type(row), _values(row)))
    except DBAPIError as error:
        raise as_said(error) from None
    return written


def append_all(session: OrmSession, rows: Sequence[Row]) -> None:
    """Write rows of one kind in their order, a statement for each portion of them; those that are there already as
    `append` does.

    What is marked at a statement (a job's summary, its closed door) is so once a portion and not once a row. Commits
    nothing. Raises as `append` does.
    """
    read_anew(session)
    for begins in range(0, len(rows), A_PORTION):
        _append_portion(session, rows[begins : begins + A_PORTION])


def _insert(model: type[Row], values: dict[str, Any]) -> tuple[Any, ...]:
    """The statement that writes a row, with its values beside it; one that the database works out is part of it."""
    if any(isinstance(value, ClauseElement) for value in values.values()):
        return (_inserting(model).values(values),)
    return _inserting(model), values


@cache
def _inserting(model: type[Row]) -> Any:
    """A statement is built once: building one costs more than running it."""
    return insert(model).on_conflict_do_nothing().returning(model)


A_PORTION = 500
"""Rows in one statement."""


def _append_portion(session: OrmSession, rows: Sequence[Row]) -> None:
    model = type(rows[0])
    said = [_values(row) for row in rows]
    names = list(dict.fromkeys(name for one in said for name in one))
    key = inspect(model).primary_key
    statement = insert(model).on_conflict_do_nothing().returning(*key)
    try:
        found = session.execute(statement, [{name: one.get(name) for name in names} for one in said])
        written = {tuple(one) for one in found}
    except DBAPIError as error:
        raise as_said(error) from None
    for row in rows:
        if tuple(getattr(row, str(column.key)) for column in key) not in written:
            append(session, row)


def _values(row: Base) -> dict[str, Any]:
    """What a row says; what it leaves to the database is not among it."""
    return {
        column.key: value
        for column in inspect(type(row)).column_attrs
        if (value := getattr(row, column.key)) is not None
    }


def as_said(error: DBAPIError) -> Exception:
    """What the database refused, as it is told to people; anything else as it is."""
    return HandedOver(CLOSED_SENTENCE) if getattr(error.orig, "sqlstate", "") == CLOSED else error


def _same_or_refused(found: Row, said: Mapping[str, Any]) -> Row:
    """The row, where it says what is said now. Raises AlreadySent, with what was kept in place of what differs."""
    kept = {name: getattr(found, name) for name, wanted in said.items() if wanted != getattr(found, name)}
    if not kept:
        return found
    shown = "; ".join(
        f"{name.replace('_', ' ')} {_shown(value)}" for name, value in kept.items() if not name.endswith("_id")
    )
    raise AlreadySent(
        "This form had been sent before with something else in it; the first one"
        f" stands{f': {shown}' if shown else ''}."
    )


def _shown(value: Any) -> str:
    return f"“{value}”"[:120] if isinstance(value, str) else str(value)[:120]
