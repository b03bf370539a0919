"""Servers in processes of their own, and a client that times them in turn."""

import os
import re
import socket
import subprocess
import sys
import time
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from http.client import HTTPConnection
from urllib.parse import urlencode
from uuid import uuid4

import httpx
from tests.serving import sign_in_at


@contextmanager
def server(factory: str, url: str, *, workers: int = 1, gauge_port: int = 0) -> Iterator[httpx.Client]:
    """A server on a database, and a client of it."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    environment = {**os.environ, "DATABASE_URL": url, "NOMISMA_SECRET": "benchmark", "NOMISMA_DEMO": "1"}
    environment["NOMISMA_GAUGE_PORT"] = str(gauge_port)
    command = [
        sys.executable,
        "-m",
        "uvicorn",
        "--factory",
        factory,
        "--port",
        str(port),
        "--log-level",
        "error",
        "--no-access-log",
        "--workers",
        str(workers),
    ]
    process = subprocess.Popen(command, env=environment, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
    client = httpx.Client(
        base_url=f"http://127.0.0.1:{port}", follow_redirects=True, timeout=30, headers={"accept-encoding": "identity"}
    )
    try:
        for _ in range(300):
            try:
                client.get("/health")
                break
            except httpx.TransportError:
                time.sleep(0.1)
        yield client
    finally:
        client.close()
        process.terminate()
        process.wait(20)


def sign_in(client: httpx.Client) -> None:
    """Stand at the bench."""
    response = sign_in_at(client)
    assert response.url.path == "/", response.status_code


@dataclass(frozen=True, slots=True)
class PageTimes:
    """How long a page takes, ms: half of the times it is faster, and 19 times of 20."""

    median_ms: float
    p95_ms: float


def page_times(clients: Sequence[tuple[httpx.Client, str]], rounds: int) -> list[PageTimes]:
    """The times of each page, asked for in turn so that all see the same weather."""
    for client, path in clients:
        for _ in range(5):
            response = client.get(path)
            assert response.status_code == 200, (path, response.status_code)
    times: list[list[float]] = [[] for _ in clients]
    for _ in range(rounds):
        for taken, (client, path) in zip(times, clients, strict=True):
            started = time.perf_counter()
            client.get(path)
            taken.append((time.perf_counter() - started) * 1000)
    in_order = [sorted(taken) for taken in times]
    return [PageTimes(taken[len(taken) // 2], taken[int(len(taken) * 0.95)]) for taken in in_order]


def times_of_readings(client: httpx.Client, number: int, seconds: float) -> list[float]:
    """How long each of the readings takes (ms) that are committed and acknowledged one after the other for so long."""
    response = client.get(f"/jobs/{number}/measure")
    assert response.status_code == 200, response.status_code
    page = response.text
    token = re.search(r'name="csrf_token" value="([^"]+)"', page.split('class="reading-form"')[1])
    instrument = re.search(r'<option value="([0-9a-f-]+)"[^>]*>Bore gauge', page)
    assert token
    assert instrument
    form = {
        "csrf_token": token[1],
        "instrument_id": instrument[1],
        "size": ".8758",
        "place": "mouth 0°",
        "cut_since": "not",
    }
    headers = {
        "content-type": "application/x-www-form-urlencoded",
        "cookie": "; ".join(f"{name}={value}" for name, value in client.cookies.items()),
    }
    # The lightest client there is: it takes its time from the same cores.
    connection = HTTPConnection(client.base_url.host, client.base_url.port or 80)
    times, end = [], time.perf_counter() + seconds
    while (started := time.perf_counter()) < end:
        body = urlencode({**form, "client_id": str(uuid4())})
        connection.request("POST", f"/jobs/{number}/measure/readings", body, headers)
        response = connection.getresponse()
        response.read()
        assert response.status == 303, response.status
        times.append((time.perf_counter() - started) * 1000)
    connection.close()
    return times
