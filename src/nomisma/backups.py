"""Backups: written by PostgreSQL's own program, read back as rows only.

Of an archive nothing is ever run: its tables are made by this program's own migrations, and its rows copied into them
one table after the other. A crafted archive can hold odd rows, but no command.
"""

import os
import re
import subprocess
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import IO
from urllib.parse import urlsplit, urlunsplit

import psycopg
from psycopg import sql

from nomisma.cluster import program
from nomisma.core.errors import InputError
from nomisma.store.database import engine_on, migrate, revisions
from nomisma.store.models import Base

_LISTED = re.compile(r"[0-9]+; [0-9]+ [0-9]+ (?P<kind>[A-Z ]+?) (?P<schema>public|-) (?P<name>.+) \S+")
_COPY = re.compile(r"COPY public\.(?P<table>[a-z_]+) \((?P<columns>[a-z0-9_, \"]+)\) FROM stdin;")


WORKED_OUT = ("job_summary", "shop_version")
"""Tables whose rows are worked out from the others, and are so again."""
FORMER_NAMES = {"suspect_reading": ("reading_doubt",), "disposition": ("decision",)}
"""What a table was called in earlier versions."""


def write_backup(url: str, file: Path) -> None:
    """Everything in the database, in one new file that only its owner reads. Raises InputError."""
    try:
        os.close(os.open(file, os.O_CREAT | os.O_WRONLY | os.O_EXCL, 0o600))
        file.chmod(0o600)
    except FileExistsError:
        raise InputError(
            f"{file} is there already, and was left as it is.", "Give another name.", field="file"
        ) from None
    except OSError as error:
        raise InputError(f"{file} cannot be written ({error.strerror}).", "Give another place.", field="file") from None
    with _running(url, "pg_dump", "--format=custom", "--no-owner", "--no-privileges", f"--file={file}"):
        pass


@dataclass(frozen=True, slots=True)
class Recorded:
    """How much a shop has recorded."""

    jobs: int
    readings: int
    people: int


def recorded(url: str) -> Recorded:
    """What is in a shop."""
    with psycopg.connect(url) as connection:
        row = connection.execute(
            "SELECT (SELECT count(*) FROM job), (SELECT count(*) FROM reading), (SELECT count(*) FROM account)"
        ).fetchone()
    assert row is not None
    return Recorded(*row)


def read_backup(url: str, file: Path) -> None:
    """The rows of a backup into an empty database, then its tables as they are today. Raises InputError; then nothing
    is changed.
    """
    tables = _tables_in(file)
    revision = _revision_in(file)
    with engine_on(url) as engine:
        with psycopg.connect(url, autocommit=True) as connection:
            connection.execute("DROP SCHEMA public CASCADE")
            connection.execute("CREATE SCHEMA public")
        try:
            migrate(engine, revision)
            _copy_all(url, file, tables)
        finally:
            migrate(engine)


def _tables_in(file: Path) -> list[str]:
    """The tables an archive has rows of, those that others point to first. Raises InputError for one no shop has."""
    with _archive(file, "--list") as lines:
        found = [match for line in lines if (match := _LISTED.match(line.strip()))]
    named = {match["name"].split()[0] for match in found if match["kind"] == "TABLE DATA"} - {
        "alembic_version",
        *WORKED_OUT,
    }
    known = [name for table in Base.metadata.sorted_tables for name in (table.name, *FORMER_NAMES.get(table.name, ()))]
    if not named or not named <= set(known):
        strange = ", ".join(sorted(named - set(known)))[:80]
        raise InputError(
            f"{file} is no backup of a shop{f': it holds {strange}' if strange else ''}.",
            "Give the file that ./nomisma backup wrote. Nothing was changed.",
            field="file",
        )
    return [name for name in known if name in named]


def _revision_in(file: Path) -> str:
    with _archive(file, "--data-only", "--table=alembic_version", "--file=-") as lines:
        rows = list(_rows(lines, "alembic_version"))
    found = rows[0].strip() if len(rows) == 1 else ""
    if found not in revisions():
        raise InputError(
            f"{file} is of a version this one does not know.",
            "Install that version, or a newer one. Nothing was changed.",
            field="file",
        )
    return found


def _copy_all(url: str, file: Path, tables: list[str]) -> None:
    with psycopg.connect(url) as connection:
        for table in sorted(
            tables, key=lambda one: one == "job_event"
        ):  # a job takes nothing more once it is handed over
            with _archive(file, "--data-only", f"--table={table}", "--file=-") as lines:
                _copy(connection, table, lines)
        for table, column in connection.execute(_IDENTITIES).fetchall():
            connection.execute(
                sql.SQL("SELECT setval(pg_get_serial_sequence({}, {}), greatest(max({}), 1)) FROM {}").format(
                    sql.Literal(table), sql.Literal(column), sql.Identifier(column), sql.Identifier(table)
                )
            )


_IDENTITIES = """
    SELECT table_name, column_name FROM information_schema.columns WHERE table_schema = 'public' AND is_identity = 'YES'
"""


def _copy(connection: psycopg.Connection, table: str, lines: IO[str]) -> None:
    """One table's rows, as they stand in the archive's text, into the columns it names."""
    for line in lines:
        if (head := _COPY.fullmatch(line.rstrip("\n"))) and head["table"] == table:
            columns = [sql.Identifier(name.strip(' "')) for name in head["columns"].split(",")]
            statement = sql.SQL("COPY {} ({}) FROM STDIN").format(sql.Identifier(table), sql.SQL(", ").join(columns))
            with connection.cursor().copy(statement) as copy:
                for row in _until_end(lines):
                    copy.write(row)
            return


def _rows(lines: IO[str], table: str) -> Iterator[str]:
    for line in lines:
        if (head := _COPY.fullmatch(line.rstrip("\n"))) and head["table"] == table:
            yield from _until_end(lines)
            return


def _until_end(lines: IO[str]) -> Iterator[str]:
    for line in lines:
        if line == "\\.\n":
            return
        yield line


@contextmanager
def _archive(file: Path, *options: str) -> Iterator[IO[str]]:
    """What PostgreSQL's own reader prints of an archive; it touches no database."""
    with _running("", "pg_restore", *options, str(file)) as lines:
        yield lines


@contextmanager
def _running(url: str, name: str, *options: str) -> Iterator[IO[str]]:
    """One of PostgreSQL's programs, its output line by line; the password goes by the environment. Raises
    InputError.
    """
    bare, password = without_password(url) if url else ("", "")
    command = [str(program(name)), *options, *([f"--dbname={bare}"] if bare else [])]
    with subprocess.Popen(
        command,
        env={**os.environ, "PGPASSWORD": password},
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
        text=True,
        encoding="utf-8",
        errors="surrogateescape",
    ) as process:
        assert process.stdout is not None
        assert process.stderr is not None
        yield process.stdout
        process.stdout.read()
        said = process.stderr.read()
        if process.wait():
            raise InputError(f"PostgreSQL refused: {said.strip()[-300:]}", "Nothing was changed.")


def without_password(url: str) -> tuple[str, str]:
    """A database address without its password, and the password."""
    parts = urlsplit(url)
    host = parts.netloc.rpartition("@")[2]
    return (
        urlunsplit(parts._replace(scheme="postgresql", netloc=f"{parts.username or ''}@{host}")),
        parts.password or "",
    )
