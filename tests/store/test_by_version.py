"""What is kept by version is found ready until something it depends on is written, and is never older than that."""

from collections.abc import Callable, Iterator
from threading import Event, Thread
from typing import Any
from uuid import uuid4

import pytest
from sqlalchemy import Engine, event, select, text
from sqlalchemy.orm import Session

from nomisma.cluster import Cluster
from nomisma.jobs.standing.lookup import state_numbered
from nomisma.store import jobs, readings, shop
from nomisma.store.by_version import KeptAnswers, ReadByVersion, Versions, by_version
from nomisma.store.database import engine_for, reading_sessions_of, sessions_of
from nomisma.store.models import APPEND_ONLY, JobEvent, Machine, ShopSetting
from nomisma.store.trials import trials
from tests.conftest import copy_database

OF_NEITHER = {"practice_part", "practice_event"}
"""What a page of a job shows none of."""
OPENS = {"job"}
"""A job's version begins when it is opened."""


@pytest.fixture(scope="module")
def engine(cluster: Cluster, template: str) -> Iterator[Engine]:
    found = engine_for(copy_database(cluster, template))
    yield found
    found.dispose()


class Server:
    """One of the servers of a shop: what it keeps, and requests that read."""

    def __init__(self, engine: Engine) -> None:
        self.engine, self.reading = engine, ReadByVersion(reading_sessions_of(engine))

    def asked(self, number: int, what: Callable[[Session], Any]) -> tuple[Any, int]:
        """What a request for a job finds, and how many questions that took besides the one for its version."""
        count = 0

        def note(*_: Any) -> None:
            nonlocal count
            count += 1

        with self.reading.session(number) as db:
            event.listen(self.engine, "before_cursor_execute", note)
            try:
                return what(db), count
            finally:
                event.remove(self.engine, "before_cursor_execute", note)


@pytest.fixture
def server(engine: Engine) -> Server:
    return Server(engine)


def write(engine: Engine, row: Any) -> None:
    with sessions_of(engine)() as db:
        db.add(row)
        db.commit()


def standing(db: Session, number: int = 101) -> Any:
    return state_numbered(db, number)


def events_of(db: Session) -> Any:
    """What happened to job 102, asked as a page asks: by the job as it stands."""
    return jobs.events(db, standing(db, 102).job.id)


def test_what_was_read_is_found_ready_until_something_of_the_job_is_written(engine: Engine, server: Server) -> None:
    state, first = server.asked(101, standing)
    again, then = server.asked(101, standing)
    assert again is state
    assert (first > 0, then) == (True, 0)
    write(engine, JobEvent(id=uuid4(), job_id=state.job.id, kind="taken_up_again", note="", by_id=state.job.by_id))
    new, count = server.asked(101, standing)
    assert new is not state
    assert 0 < count < first  # the shop's own is as it was


def test_what_is_written_of_another_job_changes_nothing(engine: Engine, server: Server) -> None:
    state, _ = server.asked(101, standing)
    other, _ = server.asked(102, lambda db: standing(db, 102))
    write(engine, JobEvent(id=uuid4(), job_id=other.job.id, kind="taken_up_again", note="", by_id=other.job.by_id))
    assert server.asked(101, standing) == (state, 0)


def test_what_the_shop_writes_changes_every_job_on_every_server(engine: Engine, server: Server) -> None:
    other = Server(engine)
    state, _ = server.asked(101, standing)
    other.asked(101, standing)
    rule = ShopSetting(id=uuid4(), name="acceptance", value="simple", by_id=state.job.by_id)
    write(engine, rule)
    for one in (server, other):
        assert one.asked(101, shop.settings)[0]["acceptance"] == "simple"
        assert one.asked(101, standing)[1] > 0


def test_a_jobs_own_choice_is_not_the_shops(engine: Engine, server: Server) -> None:
    machines, _ = server.asked(101, shop.machines)
    state, _ = server.asked(101, standing)
    write(engine, ShopSetting(id=uuid4(), name="pieces", value="3", job_id=state.job.id, by_id=state.job.by_id))
    assert server.asked(101, shop.machines) == (machines, 0)
    assert server.asked(101, standing)[0].in_force.pieces_wanted == 3


def test_what_is_asked_of_another_job_is_kept_by_all_that_was_written(engine: Engine, server: Server) -> None:
    """A page of one job that shows a reading of another: the version of the first says nothing of it."""
    theirs, _ = server.asked(102, lambda db: standing(db, 102))

    def look(db: Session) -> Any:
        standing(db)
        return readings.log(db, theirs.feature_id)

    known, _ = server.asked(101, look)
    assert server.asked(101, look) == (known, 0)
    write(engine, JobEvent(id=uuid4(), job_id=theirs.job.id, kind="taken_up_again", note="", by_id=theirs.job.by_id))
    assert server.asked(101, look)[1] == 1


def test_what_asks_for_the_whole_log_depends_on_it_too(engine: Engine, server: Server) -> None:
    @by_version("log")
    def of_all(db: Session) -> int:
        return int(db.scalar(text("SELECT count(*) FROM machine")) or 0)

    @by_version("shop")
    def of_shop(db: Session) -> int:
        return of_all(db)

    state, _ = server.asked(101, standing)
    before, _ = server.asked(101, of_shop)
    assert server.asked(101, of_shop) == (before, 0)
    write(engine, JobEvent(id=uuid4(), job_id=state.job.id, kind="taken_up_again", note="", by_id=state.job.by_id))
    assert server.asked(101, of_shop) == (before, 1)


def test_a_session_that_writes_reads_everything_itself(engine: Engine) -> None:
    with sessions_of(engine)() as db:
        assert shop.machines(db) == shop.machines(db)
        first = shop.machines(db)[0]
        assert first in db


def test_what_is_kept_belongs_to_no_session(server: Server) -> None:
    state, _ = server.asked(101, standing)
    with server.reading.sessions() as db:
        assert state.job not in db
        assert all(one.row not in db for one in state.in_force.features)


def test_no_request_finds_less_than_was_written_before_it(engine: Engine) -> None:
    """Two servers read while a third hand writes: what was committed before a request began is in what it finds."""
    servers, written, wrong = (Server(engine), Server(engine)), [0], []
    state, _ = servers[0].asked(102, lambda db: standing(db, 102))
    before = len(servers[0].asked(102, events_of)[0])
    done = Event()

    def look(server: Server) -> None:
        while not done.is_set():
            least = written[0]
            found, _ = server.asked(102, events_of)
            if len(found) - before < least:
                wrong.append((least, len(found)))

    readers = [Thread(target=look, args=(server,)) for server in servers]
    for one in readers:
        one.start()
    for _ in range(60):
        kind = {"kind": "taken_up_again", "note": "", "by_id": state.job.by_id}
        write(engine, JobEvent(id=uuid4(), job_id=state.job.id, **kind))
        written[0] += 1
    done.set()
    for one in readers:
        one.join()
    assert not wrong
    assert written == [60]


@pytest.mark.parametrize("table", sorted(set(APPEND_ONLY) - OF_NEITHER - OPENS))
def test_every_row_counts_the_version_of_its_job_or_of_the_shop_on(engine: Engine, table: str) -> None:
    """By the triggers of the table: a table that somebody adds and forgets is found here."""
    asked = text(
        "SELECT p.proname FROM pg_trigger t JOIN pg_proc p ON p.oid = t.tgfoid JOIN pg_class c ON c.oid = t.tgrelid "
        "WHERE c.relname = :table AND pg_get_functiondef(p.oid) ~ 'SET version = version \\+ 1'"
    )
    with engine.connect() as connection:
        assert connection.scalars(asked, {"table": table}).all()


def test_so_many_are_kept_and_the_ones_not_asked_for_longest_go_first() -> None:
    kept, versions = KeptAnswers(most=2), Versions("1:1:", 1)
    for name in ("a", "b"):
        kept.keep(name, versions, "shop", name)
    kept.find("a", versions)
    kept.keep("c", versions, "shop", "c")
    assert [kept.find(name, versions) for name in ("a", "b", "c")] == [("shop", "a"), None, ("shop", "c")]
    assert len(kept) == 2


def test_an_answer_of_one_job_does_not_hold_for_another_at_the_same_count() -> None:
    kept = KeptAnswers()
    kept.keep("asked", Versions("1:1:", 1, 4, 4, 101), "job", "of 101")
    assert kept.find("asked", Versions("2:2:", 1, 4, 4, 102)) is None
    assert kept.find("asked", Versions("2:2:", 1, 4, 4, 101)) == ("job", "of 101")


def test_what_is_asked_with_something_that_has_no_name_is_refused(server: Server) -> None:
    @by_version("job")
    def odd(_: Session, given: object) -> object:
        return given

    with pytest.raises(TypeError, match="does not say by what it is known"):
        server.asked(101, lambda db: odd(db, object()))


def test_rows_are_asked_about_by_themselves(engine: Engine, server: Server) -> None:
    with sessions_of(engine)() as db:
        machine = db.scalars(select(Machine)).first()
        assert machine is not None
        assert machine.asked_by == ("machine", str(machine.id), None)
    assert server.asked(101, lambda db: trials(db, []))[0] == []
    assert jobs.LARGEST_NUMBER > 0
