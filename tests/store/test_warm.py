"""The first run of every statement is alone, and is harmless where there is no database yet."""

from datetime import UTC, datetime

from sqlalchemy import event
from sqlalchemy.orm import Session

from nomisma.store.database import engine_for, sessions_of
from nomisma.store.warm import warm

NOW = datetime(2026, 1, 1, tzinfo=UTC)


def test_every_question_is_asked_and_nothing_is_written(db: Session) -> None:
    engine = engine_for(str(db.get_bind().engine.url.render_as_string(hide_password=False)))
    asked: list[str] = []
    event.listen(engine, "before_cursor_execute", lambda _c, _k, statement, *_: asked.append(statement))
    assert warm(sessions_of(engine), NOW)
    engine.dispose()
    assert len(asked) >= 30
    assert all(statement.lstrip().startswith(("SELECT", "WITH")) for statement in asked)


def test_a_database_that_is_away_does_not_stop_the_start() -> None:
    engine = engine_for("postgresql+psycopg://nobody@127.0.0.1:9/none")
    assert not warm(sessions_of(engine), NOW)
    engine.dispose()
