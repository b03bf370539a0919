"""Readings logged by several hands, and sent by several gauges, each committed before it is acknowledged."""

import os
import time
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress
from decimal import Decimal
from pathlib import Path
from uuid import uuid4

from sqlalchemy import select
from tests.serving import free_port

from benchmarks.data import fill
from benchmarks.pages import FIRST_BULK
from benchmarks.serving import server, sign_in, times_of_readings
from nomisma.cluster import Cluster
from nomisma.devices.simulated import SimulatedGauge
from nomisma.store.database import engine_for, sessions_of
from nomisma.store.models import Account, Feature, GaugeBinding, Job
from nomisma.store.tokens import make_token

LOGGED_S = 10
HANDS, GAUGES = 4, 8
APP = "nomisma.web.app:application"
TOKEN = "of-the-benchmark"


def reading_rows(found: Cluster, readings: int) -> Iterator[tuple[str, str, float]]:
    """How many readings a second by form and by gauge, and the slowest of a hundred."""
    url, port = fill(found, "logging", readings, features=26), free_port()
    _bind(url)
    postmaster = int((found.data / "postmaster.pid").read_text().split()[0])
    with server(APP, url, workers=2, gauge_port=port) as large:  # as ./nomisma serve starts it
        sign_in(large)
        yield from _rows(
            "by form",
            f"{HANDS} people",
            postmaster,
            _all_at_once(lambda number: times_of_readings(large, FIRST_BULK + number, LOGGED_S), HANDS),
        )
        yield from _rows(
            "by gauge",
            f"{GAUGES} gauges",
            postmaster,
            _all_at_once(lambda number: _times_of_gauge(number, port), GAUGES),
        )


def _rows(how: str, whose: str, postmaster: int, logged: Callable[[], list[float]]) -> Iterator[tuple[str, str, float]]:
    before = time.process_time(), _cpu_s(postmaster), _cpu_s(os.getpid())
    times = logged()
    clients, database, servers = (
        (now - then) * 1000 / len(times)
        for now, then in zip((time.process_time(), _cpu_s(postmaster), _cpu_s(os.getpid())), before, strict=True)
    )
    rate, p99_ms = len(times) / LOGGED_S, sorted(times)[int(len(times) * 0.99)]
    yield (
        f"300 readings a second {how}, each committed / measured",
        f"{rate:.0f} a second from {whose} at once; a reading took {servers - clients:.1f} ms of the servers, "
        f"{database:.1f} of PostgreSQL, {clients:.1f} of the clients",
        300 / rate,
    )
    yield f"A reading's answer {how}: p99 / 100 ms", f"{p99_ms:.0f} ms", p99_ms / 100


def _cpu_s(root: int) -> float:
    """What a process and those it began have taken of the processors so far, s."""
    of_each: dict[int, tuple[int, int]] = {}
    for status in Path("/proc").glob("[0-9]*/stat"):
        with suppress(OSError):
            said = status.read_text().rpartition(")")[2].split()
            of_each[int(status.parent.name)] = int(said[1]), int(said[11]) + int(said[12])
    mine, ticks = {root}, 0
    for pid, (parent, taken) in sorted(of_each.items()):
        if pid in mine or parent in mine:
            mine.add(pid)
            ticks += taken
    return ticks / os.sysconf("SC_CLK_TCK")


def _all_at_once(one: Callable[[int], list[float]], hands: int) -> Callable[[], list[float]]:
    def logged() -> list[float]:
        with ThreadPoolExecutor(hands) as pool:
            return [taken for times in pool.map(one, range(1, hands + 1)) for taken in times]

    return logged


def _bind(url: str) -> None:
    """Let each gauge speak of the first feature of a job of its own."""
    engine = engine_for(url)
    with sessions_of(engine)() as db:
        by = db.scalars(select(Account.id)).first()
        assert by
        for number in range(1, GAUGES + 1):
            of = select(Feature).join(Job, Job.id == Feature.job_id).where(Job.number == FIRST_BULK + number)
            feature = db.scalars(of.where(Feature.letter == "A")).one()
            gauge = f"gauge {number}"
            make_token(db, kind="gauge", name=gauge, by_id=by, token=TOKEN)
            db.add(GaugeBinding(id=uuid4(), gauge=gauge, job_id=feature.job_id, feature_id=feature.id, by_id=by))
        db.commit()
    engine.dispose()


def _times_of_gauge(number: int, port: int) -> list[float]:
    """How long each reading of a gauge takes (ms) that sends the next once the last is acknowledged."""
    times, end = [], time.perf_counter() + LOGGED_S
    with SimulatedGauge(f"gauge {number}", Decimal("0.8741"), token=TOKEN, port=port) as gauge:
        while (started := time.perf_counter()) < end:
            next(gauge.readings(1))
            times.append((time.perf_counter() - started) * 1000)
    return times
