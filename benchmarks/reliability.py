"""Kills the server (SIGKILL) and PostgreSQL (immediate) again and again while a client and a gauge log; counts what is
there.

    python -m benchmarks.reliability [kills of each]

Every acknowledged reading has to be there once, in order, and none that nobody sent. docs/RELIABILITY.md has the
figures.
"""

import re
import shutil
import sys
import tempfile
import threading
import time
from dataclasses import dataclass, field
from decimal import Decimal
from pathlib import Path
from uuid import UUID, uuid4

import httpx
from sqlalchemy import select
from tests.serving import Server, free_port, sign_in_at

from nomisma.cluster import Cluster
from nomisma.demo import shop
from nomisma.devices.simulated import SimulatedGauge
from nomisma.store.database import engine_for, migrate, sessions_of
from nomisma.store.models import GaugeReading, Job, Reading
from nomisma.store.parts import own_id

JOB = 104
WORK_SECONDS = 2.0
LONGEST_START_SECONDS = 60
AWAY_SECONDS = 0.4


@dataclass
class Sender:
    """What one of the two sent, and what of it was acknowledged, in order."""

    sent: list[tuple[UUID, str]] = field(default_factory=list)
    acknowledged: list[tuple[UUID, str]] = field(default_factory=list)
    tries: int = 0


@dataclass
class Outcome:
    """What was found at the end."""

    kills_of_server: int
    kills_of_database: int
    client: Sender
    gauge: Sender
    lost: int
    doubled: int
    invented: int
    out_of_order: int
    seconds: float

    @property
    def is_good(self) -> bool:
        """Whether nothing was lost, doubled, invented or exchanged."""
        return not (self.lost or self.doubled or self.invented or self.out_of_order)


def _size(number: int) -> str:
    """Every reading another size, all of them near enough to be believed."""
    return f"0.874{number:06d}"


class Client:
    """Somebody logging as fast as answers come, each reading until it is acknowledged."""

    def __init__(self, address: str, found: Sender) -> None:
        self.http = httpx.Client(base_url=address, timeout=10, follow_redirects=False)
        self.found = found
        self.fields: dict[str, str] = {}

    def sign_in(self) -> None:
        """Sign in and take the form's hidden fields."""
        sign_in_at(self.http)
        page = self.http.get(f"/jobs/{JOB}/measure").text
        token = re.search(r'name="csrf_token" value="([^"]+)"', page)
        instrument = re.search(r'<option value="([0-9a-f-]+)"[^>]*>Bore gauge', page)
        assert token
        assert instrument
        self.fields = {"csrf_token": token[1], "instrument_id": instrument[1], "place": "mouth 0°", "cut_since": "cut"}

    def log(self, number: int, stop: threading.Event) -> None:
        """Send one reading again and again, under one id, until it is acknowledged."""
        client_id, size = uuid4(), _size(number)
        self.found.sent.append((client_id, size))
        while True:
            self.found.tries += 1
            try:
                fields = {**self.fields, "client_id": str(client_id), "size": size}
                answer = self.http.post(f"/jobs/{JOB}/measure/readings", data=fields)
                if answer.status_code == 303:
                    self.found.acknowledged.append((client_id, size))
                    self.fields["cut_since"] = "not"
                    return
                if answer.status_code < 500:
                    raise RuntimeError(f"refused with {answer.status_code}: {size}")
            except httpx.TransportError:
                pass
            if stop.is_set() and self.found.tries > 100_000:
                return
            time.sleep(0.02)


def _client(address: str, found: Sender, stop: threading.Event) -> None:
    client = Client(address, found)
    with client.http:
        client.sign_in()
        number = 0
        while not stop.is_set():
            number += 1
            client.log(number, stop)


def _gauge(port: int, found: Sender, stop: threading.Event) -> None:
    from nomisma.devices.protocol import GaugeMessage

    gauge = SimulatedGauge(
        "bench-gauge",
        Decimal("0.8741"),
        job=JOB,
        token=shop.GAUGE_TOKEN,
        port=port,
        dropouts=0.05,
        duplicates=0.05,
        seed=7,
    )
    while not stop.is_set():
        gauge.number += 1
        size = f"{_size(gauge.number)} in"
        message = GaugeMessage(
            gauge=gauge.name, token=gauge.token, run=gauge.run, number=gauge.number, size=size, job=JOB
        )
        found.sent.append((message.id, size.removesuffix(" in")))
        gauge.send(gauge.number, size)
        found.acknowledged.append(found.sent[-1])
    gauge.close()


def run(kills: int) -> Outcome:
    """Kill each of the two so many times, in turn, under load."""
    folder = Path(tempfile.mkdtemp(prefix="nomisma-kill-"))
    folder.chmod(0o755)
    # A port of its own, so that the server finds PostgreSQL again where it was.
    cluster = Cluster(folder / "cluster", options=(f"port={free_port()}",))
    cluster.start()
    started = time.monotonic()
    try:
        return _under_load(cluster, kills, started)
    finally:
        cluster.stop(even_if_used=True)
        shutil.rmtree(folder, ignore_errors=True)


def _under_load(cluster: Cluster, kills: int, started: float) -> Outcome:
    cluster.create_database("shop")
    url = cluster.url("shop")
    engine = engine_for(url)
    migrate(engine)
    engine.dispose()
    shop.load(url)
    server = Server(url).start()
    client, gauge, stop = Sender(), Sender(), threading.Event()
    threads = [
        threading.Thread(target=_client, args=(server.address, client, stop)),
        threading.Thread(target=_gauge, args=(server.gauge_port, gauge, stop)),
    ]
    for thread in threads:
        thread.start()
    try:
        _await_first(client, gauge)
        for _ in range(kills):
            time.sleep(WORK_SECONDS)
            server.kill()
            time.sleep(AWAY_SECONDS)
            server.start()
            time.sleep(WORK_SECONDS)
            cluster.crash()
            time.sleep(AWAY_SECONDS)
            cluster.start()
        time.sleep(WORK_SECONDS)
    finally:
        stop.set()
        for thread in threads:
            thread.join(60)
        server.stop()
    return _count(url, kills, client, gauge, time.monotonic() - started)


def _await_first(*senders: Sender) -> None:
    """Wait until each is signed in and has one acknowledged: a server killed before that had nothing to lose."""
    until = time.monotonic() + LONGEST_START_SECONDS
    while time.monotonic() < until and not all(one.acknowledged for one in senders):
        time.sleep(0.1)


def _count(url: str, kills: int, client: Sender, gauge: Sender, seconds: float) -> Outcome:
    engine = engine_for(url)
    with sessions_of(engine)() as session:
        job = session.scalars(select(Job).where(Job.number == JOB)).one()
        before = {UUID(str(row)) for row in session.scalars(select(Reading.id).where(Reading.at < job.at))}
        rows = session.execute(
            select(Reading.id, Reading.size_text)
            .where(Reading.feature_id == own_id(job.id, "A"))
            .order_by(Reading.sequence)
        ).all()
        spoken = session.execute(
            select(GaugeReading.id, GaugeReading.size_text)
            .where(GaugeReading.gauge == "bench-gauge", GaugeReading.run != "demo")
            .order_by(GaugeReading.sequence)
        ).all()
    engine.dispose()
    demo = {shop.demo_id("reading", job.title, "made", str(n)) for n in range(50)} | before
    typed = [(id, size) for id, size in rows if id not in demo]
    said = [(id, size.removesuffix(" in")) for id, size in spoken]
    totals = [_compare(typed, client), _compare(said, gauge)]
    lost, doubled, invented, out_of_order = (sum(column) for column in zip(*totals, strict=True))
    return Outcome(kills, kills, client, gauge, lost, doubled, invented, out_of_order, seconds)


def _compare(there: list[tuple[UUID, str]], sender: Sender) -> tuple[int, int, int, int]:
    """Lost, doubled, invented, out of order; by id and by size."""
    sizes = [size for _, size in there]
    acknowledged = sender.acknowledged
    found = set(there)
    lost = sum(pair not in found for pair in acknowledged)
    doubled = len(sizes) - len(set(sizes))
    invented = len(found - set(sender.sent))
    order = [pair for pair in there if pair in set(acknowledged)]
    return lost, doubled, invented, sum(a != b for a, b in zip(order, acknowledged, strict=False)) if not lost else 0


def main() -> None:
    """Run it and print the figures."""
    kills = int(sys.argv[1]) if len(sys.argv) > 1 else 10
    found = run(kills)
    print(
        f"server killed (SIGKILL) {found.kills_of_server} times, PostgreSQL (immediate) {found.kills_of_database} times"
    )
    for name, sender in (("client", found.client), ("gauge", found.gauge)):
        print(f"{name}: {len(sender.sent)} readings sent, {len(sender.acknowledged)} acknowledged")
    print(f"client: {found.client.tries} tries for them; {found.seconds:.0f} s in all")
    print(f"lost {found.lost}, doubled {found.doubled}, invented {found.invented}, out of order {found.out_of_order}")
    sys.exit(0 if found.is_good else 1)


if __name__ == "__main__":
    main()
