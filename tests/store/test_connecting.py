"""How long a connection may take to be made: as PostgreSQL's own variable says, else five seconds."""

from typing import Any

import pytest
from sqlalchemy import Engine, create_engine

from nomisma.store import database


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
