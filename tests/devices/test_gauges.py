"""The gauge protocol: lines understood or refused, kept once, for the job the gauge is bound to."""

import asyncio
import json
import socket
import threading
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager, suppress
from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st
from sqlalchemy import Engine, func, select
from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.demo.shop import GAUGE_TOKEN
from nomisma.devices.protocol import GaugeAnswer, read_line
from nomisma.devices.simulated import SimulatedGauge
from nomisma.store.by_version import ReadByVersion
from nomisma.store.database import engine_for, reading_sessions_of, sessions_of
from nomisma.store.models import Account, GaugeReading, Job, JobEvent
from nomisma.store.together import Together
from nomisma.store.tokens import make_token, withdraw_token
from nomisma.web.job.gauges import GaugeStore, answer, listening
from tests.serving import free_port


def line(**more: object) -> bytes:
    message = {"gauge": "g", "token": GAUGE_TOKEN, "run": "a", "number": 1, "size": "0.8741 in", "job": 104}
    return json.dumps({key: value for key, value in {**message, **more}.items() if value is not None}).encode() + b"\n"


def store_on(engine: Engine) -> GaugeStore:
    return GaugeStore(ReadByVersion(reading_sessions_of(engine)), Together(engine))


def answered(url: str, *lines: bytes) -> list[GaugeAnswer]:
    engine = engine_for(url)

    async def all_of_them() -> list[GaugeAnswer]:
        return [(await answer(store_on(engine), one))[0] for one in lines]

    try:
        allow(url, "g")
        # In a thread of its own: the browser tests leave a loop running in this one.
        with ThreadPoolExecutor(1) as pool:
            return pool.submit(asyncio.run, all_of_them()).result()
    finally:
        engine.dispose()


def allow(url: str, *names: str) -> None:
    """Give gauges of these names the demo's token, where there is a shop."""
    engine = engine_for(url)
    try:
        with sessions_of(engine)() as session:
            if lead := session.scalar(select(Account.id).where(Account.role == "lead")):
                for name in names:
                    make_token(session, kind="gauge", name=name, by_id=lead, token=GAUGE_TOKEN)
                session.commit()
    except DBAPIError:
        pass
    finally:
        engine.dispose()


@contextmanager
def heard(url: str) -> Iterator[int]:
    """A listener on a port, in a thread of its own."""
    allow(url, "rough", "first", "second", "talker", "lost", "round")
    port, ready, done = free_port(), threading.Event(), threading.Event()
    engine = engine_for(url)

    async def listen() -> None:
        async with listening(store_on(engine), port):
            ready.set()
            while not done.is_set():
                await asyncio.sleep(0.02)

    thread = threading.Thread(target=asyncio.run, args=(listen(),))
    thread.start()
    assert ready.wait(10)
    try:
        yield port
    finally:
        done.set()
        thread.join(10)
        engine.dispose()


def count(db: Session, gauge: str) -> int:
    return db.scalar(select(func.count()).where(GaugeReading.gauge == gauge)) or 0


@pytest.mark.parametrize(
    ("given_line", "sentence"),
    [
        (b"hello\n", "is not a JSON object"),
        (b"[1]\n", "is not a JSON object"),
        (b"POST / HTTP/1.1\r\n", "is not a JSON object"),
        (b"[" * 4000 + b"\n", "is not a JSON object"),
        (line(run="a\x00b"), "run: "),
        (line(token=""), "token: "),
        (line(number=0), "number: "),
        (line(gauge="<b>"), "gauge: "),
        (line(size="1,125"), "could be"),
        (line(size="cheese"), "is not understood as a size"),
        (line(protocol="other/1"), "This speaks nomisma-gauge/1"),
        (line(surprise=1), "surprise: "),
        (b'{"gauge": "' + b"g" * 5000 + b'"}\n', "A line is at most"),
    ],
)
def test_a_line_that_is_none_has_its_sentence(given_line: bytes, sentence: str) -> None:
    with pytest.raises(InputError, match=sentence):
        read_line(given_line)


@given(st.binary(max_size=200))
def test_any_bytes_are_a_message_or_a_sentence(data: bytes) -> None:
    try:
        assert read_line(data).length().mm > 0
    except InputError as error:
        assert error.sentence


def test_a_repeat_is_kept_once_and_acknowledged_again(shop_url: str, db: Session) -> None:
    first, again, other = answered(shop_url, line(), line(), line(number=2))
    assert first.ok
    assert again.ok
    assert other.ok
    assert count(db, "g") == 2


def test_another_size_under_the_same_number_is_not_taken_for_it(shop_url: str, db: Session) -> None:
    answered(shop_url, line(), line(size="0.9000 in"))
    assert [row.size_text for row in db.scalars(select(GaugeReading).where(GaugeReading.gauge == "g"))] == ["0.8741 in"]


def test_without_a_job_the_gauge_is_told_so(shop_url: str) -> None:
    unbound, unknown, bound = answered(shop_url, line(job=None), line(job=9999), line(gauge="bench-gauge", job=None))
    assert "No job takes the readings of g." in unbound.error
    assert "There is no job 9999." in unknown.error
    assert bound.ok


def test_a_database_that_is_away_asks_for_it_again() -> None:
    (found,) = answered(f"postgresql://nobody@127.0.0.1:{free_port()}/none", line())
    assert not found.ok
    assert found.again


def test_a_gauge_with_lost_answers_and_repeats_is_kept_exactly_once(shop_url: str, db: Session) -> None:
    with heard(shop_url) as port:
        gauge = SimulatedGauge(
            "rough",
            Decimal("0.8741"),
            token=GAUGE_TOKEN,
            noise=Decimal("0.0001"),
            dropouts=0.3,
            duplicates=0.3,
            job=104,
            port=port,
            seed=5,
        )
        sent = list(gauge.readings(60))
        gauge.close()
    rows = db.scalars(select(GaugeReading).where(GaugeReading.gauge == "rough").order_by(GaugeReading.sequence)).all()
    assert [(row.number, row.size_text) for row in rows] == sent
    assert len({size for _, size in sent}) > 10


def test_the_same_seed_gives_the_same_readings(shop_url: str) -> None:
    with heard(shop_url) as port:
        runs = []
        for name in ("first", "second"):
            with SimulatedGauge(
                name, Decimal("22.2"), token=GAUGE_TOKEN, unit="mm", noise=Decimal("0.002"), job=104, port=port, seed=9
            ) as gauge:
                runs.append(list(gauge.readings(5)))
    assert runs[0] == runs[1]


@pytest.mark.parametrize(
    "first", [b"what?\n", b"POST / HTTP/1.1\r\nHost: x\r\n\r\n", line(gauge="talker", token="guessed")]
)
def test_what_is_no_gauge_of_the_shop_is_hung_up_on_at_its_first_line(shop_url: str, db: Session, first: bytes) -> None:
    with (
        heard(shop_url) as port,
        socket.create_connection(("127.0.0.1", port), timeout=5) as talk,
        talk.makefile("rb") as answers,
    ):
        talk.sendall(first + line(gauge="talker"))
        assert json.loads(answers.readline())["ok"] is False
        with suppress(ConnectionError):  # hung up with our second line unread
            assert answers.readline() == b""
    assert count(db, "talker") == 0


def test_a_withdrawn_token_and_anothers_hold_no_more(shop_url: str, db: Session) -> None:
    assert answered(shop_url, line())[0].ok
    lead = db.scalar(select(Account.id).where(Account.role == "lead"))
    assert lead
    withdraw_token(db, kind="gauge", name="bench-gauge", by_id=lead)
    db.commit()
    for wrong in (line(gauge="bench-gauge"), line(gauge="nobody's"), line(token="hilltop gauge")):
        (refused,) = answered(shop_url, wrong)
        assert not refused.ok
        assert not refused.again


def test_a_kept_number_is_not_acknowledged_for_another_job_or_size(shop_url: str, db: Session) -> None:
    first, other_job, other_size, again = answered(shop_url, line(), line(job=103), line(size="0.9000 in"), line())
    assert first.ok
    assert "is kept already: 0.8741 in for job 104" in other_job.error
    assert "is kept already" in other_size.error
    assert again.ok
    assert count(db, "g") == 1


def test_a_job_that_is_handed_over_hears_no_gauge(shop_url: str, db: Session) -> None:
    job = db.scalar(select(Job).where(Job.number == 104))
    assert job
    db.add(JobEvent(job_id=job.id, kind="handed_over", by_id=job.by_id))
    db.commit()
    assert "Job 104 is handed over." in answered(shop_url, line())[0].error


def test_a_bad_size_is_answered_and_the_talk_goes_on(shop_url: str) -> None:
    with (
        heard(shop_url) as port,
        socket.create_connection(("127.0.0.1", port), timeout=5) as talk,
        talk.makefile("rb") as answers,
    ):
        talk.sendall(line(gauge="talker", size="cheese") + line(gauge="talker"))
        assert "is not understood as a size" in json.loads(answers.readline())["error"]
        assert json.loads(answers.readline()) == {"ok": True, "number": 1}


@pytest.mark.parametrize(
    "more",
    [{"token": None}, {"token": None, "size": "cheese"}, {"token": "wrong"}, {"token": "wrong", "size": "cheese"}],
)
def test_who_has_no_token_is_hung_up_at_the_first_line(shop_url: str, more: dict[str, str | None]) -> None:
    with (
        heard(shop_url) as port,
        socket.create_connection(("127.0.0.1", port), timeout=5) as talk,
        talk.makefile("rb") as answers,
    ):
        talk.sendall(line(gauge="talker", **more))
        assert not json.loads(answers.readline())["ok"]
        assert answers.readline() == b""


def test_a_refused_reading_is_not_sent_for_ever(shop_url: str) -> None:
    with heard(shop_url) as port:
        gauge = SimulatedGauge("lost", Decimal("0.8"), token=GAUGE_TOKEN, job=9999, port=port)
        with pytest.raises(ValueError, match="There is no job 9999"):
            list(gauge.readings(1))
        gauge.close()


def test_nobody_listening_ends_the_patience() -> None:
    gauge = SimulatedGauge("alone", Decimal("0.8"), token=GAUGE_TOKEN, job=1, port=free_port(), patience_seconds=0.1)
    with pytest.raises(ConnectionError, match="was not acknowledged"):
        list(gauge.readings(1))


@pytest.mark.parametrize("size", ["-0.0005 in", "0 in", "+0.012 in", "-0.01 mm"])
def test_an_indicator_may_read_zero_and_below(size: str) -> None:
    assert read_line(line(size=size)).length().text


def test_a_simulated_indicator_goes_round_its_jaws_again_and_again(shop_url: str, db: Session) -> None:
    around = tuple(Decimal(text) for text in ("0.012", "-0.001", "0", "0.005"))
    with (
        heard(shop_url) as port,
        SimulatedGauge("round", Decimal(0), token=GAUGE_TOKEN, around=around, job=104, port=port) as gauge,
    ):
        sent = [Decimal(size.split()[0]) for _, size in gauge.readings(6)]
    assert sent == [*around, *around[:2]]
    rows = db.scalars(select(GaugeReading).where(GaugeReading.gauge == "round").order_by(GaugeReading.sequence)).all()
    assert [row.size_mm / Decimal("25.4") for row in rows] == sent
