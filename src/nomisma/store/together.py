"""Rows that wait at the same moment are written in one statement, which commits them; each is answered after it."""

import json
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cache
from threading import Event, Lock
from typing import Any, TypeVar, cast

from sqlalchemy import Column, Engine, FetchedValue, create_mock_engine, text
from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session as OrmSession
from sqlalchemy.schema import DefaultClause
from sqlalchemy.sql.elements import TextClause

from nomisma.store.append import append_new, as_said
from nomisma.store.live import CHANNEL, announce, notice
from nomisma.store.models import Base

Row = TypeVar("Row", bound=Base)
Notice = Mapping[str, Any]
"""What open pages are told of a row once it is there, as `announce` takes it."""
Write = Callable[[Any, Notice], Any]
"""How a row is written and told of: in a transaction, or together with others. None where it was there already."""
MOST_AT_ONCE = 100
"""Rows in one statement. Source: this tool's own choice."""
_POSTGRESQL = create_mock_engine("postgresql+psycopg://", lambda *_: None).dialect


def in_transaction_of(session: OrmSession) -> Write:
    """Write a row in a session's own transaction and tell of it when that commits. Commits nothing; what is written
    raises HandedOver.
    """

    def write(row: Row, told: Notice) -> Row | None:
        written = append_new(session, row)
        if written is not None:
            announce(session, **told)
        return written

    return write


@dataclass(slots=True)
class _Waiting:
    """A row that waits to be written, and what became of it. `woken`: it is written, or its turn to write has come."""

    row: Base
    told: Notice
    woken: Event = field(default_factory=Event)
    writes: bool = False
    written: Mapping[str, Any] | None = None
    error: Exception | None = None


class Together:
    """What requests and gauges of this process write at the same moment, in one statement and one commit.

    Whoever comes first writes; of those who come meanwhile the first writes for all of them.
    """

    def __init__(self, engine: Engine) -> None:
        self._engine = engine.execution_options(isolation_level="AUTOCOMMIT")
        self._lock = Lock()
        self._waiting: list[_Waiting] = []
        self._somebody_writes = False

    def write(self, row: Row, told: Notice) -> Row | None:
        """Write a row, commit it and tell of it; None where it was there already. For a command that writes nothing
        else. Raises HandedOver.
        """
        mine = _Waiting(row, told)
        with self._lock:
            self._waiting.append(mine)
            mine.writes, self._somebody_writes = not self._somebody_writes, True
        if not mine.writes:
            mine.woken.wait()
        if mine.writes:
            self._write_for_all()
        if mine.error is not None:
            raise mine.error
        if mine.written is None:
            return None
        for name, value in mine.written.items():
            setattr(row, name, value)
        return row

    def _write_for_all(self) -> None:
        """Write for those who wait now, and let the first of those who came meanwhile go on."""
        with self._lock:
            now, self._waiting = self._waiting[:MOST_AT_ONCE], self._waiting[MOST_AT_ONCE:]
        try:
            for kind in dict.fromkeys(type(one.row) for one in now):
                _write_or_one_by_one(self._engine, [one for one in now if type(one.row) is kind])
        finally:
            with self._lock:
                after = next(iter(self._waiting), None)
                self._somebody_writes = after is not None
            for one in now:
                one.woken.set()
            if after is not None:
                after.writes = True
                after.woken.set()


def _write_or_one_by_one(engine: Engine, waiting: Sequence[_Waiting]) -> None:
    """Together; where the database refuses one of them, each for itself: nobody's row fails for another's."""
    try:
        written = _written(engine, waiting)
    except Exception as error:
        if len(waiting) > 1:
            for one in waiting:
                _write_or_one_by_one(engine, [one])
        else:
            waiting[0].error = as_said(error) if isinstance(error, DBAPIError) else error
        return
    for one in waiting:
        # Sent twice at the same moment it is written for the first; the other finds it there.
        one.written = written.pop(one.row.asked_by[1], None)


def _written(engine: Engine, waiting: Sequence[_Waiting]) -> dict[str, dict[str, Any]]:
    """What the database made of the rows that were not there before, by their ids."""
    model = type(waiting[0].row)
    rows = [{**_said(one.row), "notice": notice(**one.told)} for one in waiting]
    with engine.connect() as connection:
        found = connection.execute(_statement(model), {"rows": json.dumps(rows), "channel": CHANNEL}).mappings()
        return {
            str(one["id"]): {name: value for name, value in one.items() if name not in ("id", "pg_notify")}
            for one in found
        }


def _said(row: Base) -> dict[str, str | None]:
    values = {column.key: getattr(row, column.key) for column in _columns(type(row))}
    return {name: None if value is None else str(value) for name, value in values.items()}


@cache
def _columns(model: type[Base]) -> list[Column[Any]]:
    """What a row may say; the rest is made by the database."""
    return [cast(Column[Any], one) for one in model.__table__.columns if _is_said(one.server_default)]


def _is_said(default: FetchedValue | None) -> bool:
    """Not where PostgreSQL counts, or looks at its clock."""
    return default is None or (isinstance(default, DefaultClause) and isinstance(default.arg, str))


@cache
def _statement(model: type[Base]) -> TextClause:
    """Write rows that come as JSON, and tell of those that were not there before."""
    names = ", ".join(one.name for one in _columns(model))
    typed = ", ".join(f"{one.name} {one.type.compile(_POSTGRESQL)}" for one in _columns(model))
    made = ", ".join(one.name for one in model.__table__.columns if one.server_default is not None)
    return text(f"""
        WITH said AS MATERIALIZED (
            SELECT * FROM jsonb_to_recordset(CAST(:rows AS jsonb)) AS said({typed}, notice text)
        ), written AS (
            INSERT INTO {model.__tablename__} ({names})
            SELECT {", ".join(map(_or_default, _columns(model)))} FROM said
            ON CONFLICT DO NOTHING RETURNING id, {made}
        )
        SELECT written.*, pg_notify(:channel, notice) FROM written JOIN said USING (id)
    """)


def _or_default(column: Column[Any]) -> str:
    default = column.server_default
    return f"coalesce({column.name}, '{default.arg}')" if isinstance(default, DefaultClause) else column.name
