"""How long a connection may take to be made: as PostgreSQL's own variable says, else five seconds."""

import pytest

from nomisma.store import database


@pytest.mark.parametrize(("said", "seconds"), [("", 5), ("30", 30), ("soon", 5)])
def test_postgresqls_own_variable_is_heard(monkeypatch: pytest.MonkeyPatch, said: str, seconds: int) -> None:
    asked = {}
    monkeypatch.setattr(database, "create_engine", lambda _, **options: asked.update(options["connect_args"]))
    monkeypatch.setenv("PGCONNECT_TIMEOUT", said)
    database.engine_for("postgresql://nobody@nowhere/nothing")
    assert asked["connect_timeout"] == seconds
