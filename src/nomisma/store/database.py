"""The way to PostgreSQL: an engine from a URL, sessions, and bringing the tables up to date."""

import os
from collections.abc import Iterator
from contextlib import contextmanager
from importlib.resources import files
from time import monotonic
from typing import Any

from alembic import command
from alembic.config import Config
from alembic.script import ScriptDirectory
from sqlalchemy import Connection, Engine, create_engine, event, text
from sqlalchemy.exc import InvalidatePoolError
from sqlalchemy.orm import Session as OrmSession
from sqlalchemy.orm import sessionmaker
from sqlalchemy.pool import ConnectionPoolEntry

from nomisma.store.models import APPEND_ONLY

MIGRATION_LOCK = 7_204_311  # any number; the same for every process that migrates


def engine_for(url: str, *, pool_size: int = 10) -> Engine:
    """An engine whose connections are checked before use, so that a restarted PostgreSQL is met again."""
    engine = create_engine(
        _with_driver(url),
        pool_size=pool_size,
        max_overflow=20,
        # What was used last is used again: its statements are prepared, and PostgreSQL has them at hand.
        pool_use_lifo=True,
        # A size or a name somebody typed does not belong in a log of failures.
        hide_parameters=True,
        # Every question here is small: compiling it costs more than answering it.
        connect_args={"connect_timeout": _connect_seconds(), "options": "-c jit=off"},
    )
    _checked_after_a_pause(engine)
    return engine


@contextmanager
def engine_on(url: str) -> Iterator[Engine]:
    """An engine for one piece of work: its connections are closed at the end, however that went."""
    engine = engine_for(url)
    try:
        yield engine
    finally:
        engine.dispose()


CHECKED_AFTER_S = 1.0
"""A connection that was used so short a time ago is taken to be there still; one that is not fails, as it would have
while it was used, and takes the others with it. Source: this tool's own choice.
"""


def _checked_after_a_pause(engine: Engine) -> None:
    def used(_: Any, record: ConnectionPoolEntry) -> None:
        record.info["used"] = monotonic()

    def check(connection: Any, record: ConnectionPoolEntry, _: Any) -> None:
        last = record.info.get("used")
        if last is None or monotonic() - last < CHECKED_AFTER_S:
            return
        try:
            engine.dialect.do_ping(connection)
        except engine.dialect.loaded_dbapi.Error as error:
            raise InvalidatePoolError("the database was away") from error

    event.listen(engine, "checkin", used)
    event.listen(engine, "checkout", check)


def _connect_seconds() -> int:
    """How long a connection may take to be made: as PostgreSQL's own variable says, else 5 s."""
    said = os.environ.get("PGCONNECT_TIMEOUT", "")
    return int(said) if said.isdecimal() else 5


def _with_driver(url: str) -> str:
    for plain in ("postgresql://", "postgres://"):
        if url.startswith(plain):
            return "postgresql+psycopg://" + url.removeprefix(plain)
    return url


def sessions_of(engine: Engine) -> sessionmaker[OrmSession]:
    """Sessions on that engine; objects stay readable after commit."""
    return sessionmaker(engine, expire_on_commit=False)


def reading_sessions_of(engine: Engine) -> sessionmaker[OrmSession]:
    """Sessions that only read: no transaction is opened and closed around them, which saves two round trips."""
    return sessionmaker(engine.execution_options(isolation_level="AUTOCOMMIT"), expire_on_commit=False)


SERVING_ROLE = "nomisma_serving"
"""The role that serves: it reads everything and writes new rows of the log; what it may do to the other tables is named
here.
"""
NOT_OF_THE_LOG = {
    "account": "UPDATE (password_hash, password_set_at, password_set_from, password_is_given)",
    "session": "INSERT, DELETE", "sign_in_attempt": "INSERT, DELETE",
    "job_summary": "UPDATE (computed, computed_by, begun, needs_decision, shown, worked_at, worked_by_id, due_on,"
    " questions)",
}  # fmt: skip
"""An account is made, given a role or closed from the shell only, by who owns the shop. A job's summary is worked out
from the log.
"""


def _grant(connection: Connection, revision: str) -> None:
    """Give the serving role, where there is one, what serving needs and no more."""
    if revision != "head" or not connection.scalar(text("SELECT to_regrole(:role)"), {"role": SERVING_ROLE}):
        return
    for statement in (
        f"GRANT USAGE ON SCHEMA public TO {SERVING_ROLE}",
        f"REVOKE ALL ON ALL TABLES IN SCHEMA public FROM {SERVING_ROLE}",
        f"GRANT SELECT ON ALL TABLES IN SCHEMA public TO {SERVING_ROLE}",
        *(f"GRANT INSERT ON {table} TO {SERVING_ROLE}" for table in APPEND_ONLY),
        *(f"GRANT {what} ON {table} TO {SERVING_ROLE}" for table, what in NOT_OF_THE_LOG.items()),
    ):
        connection.execute(text(statement))
    connection.commit()


def _alembic() -> Config:
    config = Config()
    config.set_main_option("script_location", str(files("nomisma.store").joinpath("migrations")))
    return config


def revisions() -> list[str]:
    """Every version the tables ever had, newest first."""
    return [script.revision for script in ScriptDirectory.from_config(_alembic()).walk_revisions()]


def migrate(engine: Engine, revision: str = "head") -> None:
    """Bring the tables to `revision`; one process at a time, the others wait. The serving role gets its rights at the
    head.
    """
    with engine.connect() as connection:
        connection.execute(text("SELECT pg_advisory_lock(:key)"), {"key": MIGRATION_LOCK})
        connection.commit()
        try:
            config = _alembic()
            config.attributes["connection"] = connection
            command.upgrade(config, revision)
            connection.commit()
            _grant(connection, revision)
        finally:
            connection.execute(text("SELECT pg_advisory_unlock(:key)"), {"key": MIGRATION_LOCK})
            connection.commit()
