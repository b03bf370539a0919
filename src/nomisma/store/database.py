"""The way to PostgreSQL: an engine from a URL, sessions, and bringing the tables up to date."""

from importlib.resources import files

from alembic import command
from alembic.config import Config
from sqlalchemy import Engine, create_engine, text
from sqlalchemy.orm import Session as OrmSession
from sqlalchemy.orm import sessionmaker

MIGRATION_LOCK = 7_204_311  # any number; the same for every process that migrates


def engine_for(url: str, *, pool_size: int = 10) -> Engine:
    """An engine whose connections are checked before use, so that a restarted PostgreSQL is met again."""
    return create_engine(
        _with_driver(url),
        pool_size=pool_size,
        max_overflow=20,
        pool_pre_ping=True,
        # Every question here is small: compiling it costs more than answering it.
        connect_args={"connect_timeout": 5, "options": "-c jit=off"},
    )


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


def migrate(engine: Engine, revision: str = "head") -> None:
    """Bring the tables to `revision`; one process at a time, the others wait."""
    with engine.connect() as connection:
        connection.execute(text("SELECT pg_advisory_lock(:key)"), {"key": MIGRATION_LOCK})
        connection.commit()
        try:
            config = Config()
            config.set_main_option("script_location", str(files("nomisma.store").joinpath("migrations")))
            config.attributes["connection"] = connection
            command.upgrade(config, revision)
            connection.commit()
        finally:
            connection.execute(text("SELECT pg_advisory_unlock(:key)"), {"key": MIGRATION_LOCK})
            connection.commit()
