"""How long a connection may take to be made: as PostgreSQL's own variable says, else five seconds."""

from typing import Any

import psycopg
import pytest
from sqlalchemy import Engine, create_engine, text

from nomisma.cluster import Cluster
from nomisma.store import database
from tests.conftest import copy_database


@pytest.mark.parametrize(("said", "seconds"), [("", 5), ("30", 30), ("soon", 5)])
def test_postgresqls_own_variable_is_heard(monkeypatch: pytest.MonkeyPatch, said: str, seconds: int) -> None:
    asked = {}

    def engine(url: str, **options: Any) -> Engine:
        asked.update(options["connect_args"])
        return create_engine(url, **options)

    monkeypatch.setattr(database, "create_engine", engine)
    monkeypatch.setenv("PGCONNECT_TIMEOUT", said)
    database.engine_for("postgresql://nobody@nowhere/nothing")
    assert asked["connect_timeout"] == seconds


def test_a_connection_that_was_cut_off_meanwhile_is_made_anew(
    cluster: Cluster, template: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    """PostgreSQL was away: a connection that rested is asked whether it is there before anything goes over it."""
    monkeypatch.setattr(database, "CHECKED_AFTER_S", 0.0)
    engine = database.engine_for(copy_database(cluster, template))
    with engine.connect() as one:
        own = one.scalar(text("SELECT pg_backend_pid()"))
    with psycopg.connect(engine.url.render_as_string(hide_password=False).replace("+psycopg", "")) as other:
        other.execute("SELECT pg_terminate_backend(%s)", (own,))
    with engine.connect() as again:
        assert again.scalar(text("SELECT pg_backend_pid()")) != own
    engine.dispose()
