"""A real server in its own process, to be driven, killed and started again."""

import asyncio
import os
import re
import shutil
import signal
import socket
import subprocess
import sys
import tempfile
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import httpx
import uvicorn
from starlette.testclient import TestClient

from nomisma.cluster import SERVING, Cluster
from nomisma.demo import shop as demo_shop
from nomisma.settings import Settings
from nomisma.store.database import engine_for, migrate
from nomisma.web.app import application
from nomisma.web.frame.connection import BoundedProtocol

ROOT = Path(__file__).parent.parent


def free_port() -> int:
    """A port nobody uses now."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def sign_in_at(client: httpx.Client, name: str = "orla", password: str = "hilltop-demo", **more: Any) -> httpx.Response:
    """Open the sign-in page and send its form, as a browser does; `follow_redirects` and headers go to the request."""
    options = {key: more.pop(key) for key in ("follow_redirects", "headers") if key in more}
    page = client.get("/sign-in").text
    token = re.search(r'name="page_token" value="([^"]*)"', page)
    fields = {"sign_in_name": name, "password": password, "page_token": token[1] if token else "", **more}
    return client.post("/sign-in", data=fields, **options)


@contextmanager
def own_cluster(*options: str) -> Iterator[tuple[Cluster, Path]]:
    """A cluster that nobody else uses, with PostgreSQL's options (none: its disk is not waited for), and a folder; both
    are gone afterwards.
    """
    folder = Path(tempfile.mkdtemp(prefix="nomisma-own-"))
    folder.chmod(0o755)
    cluster = Cluster(folder / "cluster", options=options or ("fsync=off",))
    cluster.start()
    try:
        yield cluster, folder
    finally:
        cluster.stop(even_if_used=True)
        shutil.rmtree(folder, ignore_errors=True)


@contextmanager
def served_as_bram(cluster: Cluster, database: str) -> Iterator[TestClient]:
    """An application on a database of a cluster, with the lead signed in; a failure is answered, not raised."""
    settings = Settings(database_url=cluster.url(database, SERVING), secret="only here", demo=True)
    with TestClient(application(settings), base_url="http://bench.test", raise_server_exceptions=False) as client:
        sign_in_at(client, "bram")
        yield client


def filled_demo(cluster: Cluster, database: str = "shop") -> str:
    """A database with the demo shop in it; its name."""
    cluster.create_database(database)
    engine = engine_for(cluster.url(database))
    migrate(engine)
    engine.dispose()
    demo_shop.load(cluster.url(database))
    return database


@contextmanager
def nothing_served(**options: Any) -> Iterator[int]:
    """A server of nothing, in a thread, with the shop's own protocol and uvicorn's options; its port."""

    async def app(_scope: Any, _receive: Any, send: Any) -> None:
        await send({"type": "http.response.start", "status": 200, "headers": [(b"content-length", b"2")]})
        await send({"type": "http.response.body", "body": b"ok"})

    port = free_port()
    server = uvicorn.Server(
        uvicorn.Config(app, port=port, lifespan="off", log_config=None, http=BoundedProtocol, **options)
    )
    thread = threading.Thread(target=asyncio.run, args=(server.serve(),))
    thread.start()
    while not server.started:
        time.sleep(0.01)
    try:
        yield port
    finally:
        server.should_exit = True
        thread.join(10)


class Server:
    """One server process on a database; the ports stay the same when it is started again."""

    def __init__(self, database_url: str, *, gauges: bool = True) -> None:
        self.port = free_port()
        self.gauge_port = free_port() if gauges else 0
        self.address = f"http://127.0.0.1:{self.port}"
        self._process: subprocess.Popen[bytes] | None = None
        self._environment = {
            **os.environ,
            "PYTHONPATH": str(ROOT / "src"),
            "DATABASE_URL": database_url,
            "NOMISMA_SECRET": "only for tests",
            "NOMISMA_DEMO": "1",
            "NOMISMA_SIGN_IN_TRIES": "1000",
            "NOMISMA_GAUGE_PORT": str(self.gauge_port),
        }

    def start(self, *, wait: bool = True) -> "Server":
        """Start it, and wait until it answers."""
        command = [
            sys.executable,
            "-m",
            "uvicorn",
            "--factory",
            "nomisma.web.app:application",
            "--port",
            str(self.port),
            "--log-level",
            "error",
            "--timeout-graceful-shutdown",
            "1",
        ]
        self._process = subprocess.Popen(
            command, env=self._environment, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL
        )
        if wait:
            self._wait()
        return self

    def _wait(self) -> None:
        for _ in range(300):
            try:
                if httpx.get(f"{self.address}/health").status_code == 200:
                    return
            except httpx.TransportError:
                time.sleep(0.1)
        raise AssertionError("the server did not come up")

    def kill(self) -> None:
        """SIGKILL: nothing is said goodbye to."""
        if self._process:
            self._process.send_signal(signal.SIGKILL)
            self._process.wait(20)

    def stop(self) -> None:
        """Politely."""
        if self._process and self._process.poll() is None:
            self._process.terminate()
            self._process.wait(20)
