"""Starts what serving needs: PostgreSQL on loopback (or DATABASE_URL), the tables, then the web application."""

import os
import secrets
import signal
import socket
import sys
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import UTC, date, datetime
from types import FrameType
from typing import Any

import uvicorn

from nomisma.cluster import SERVING, Cluster, wait_for
from nomisma.settings import state_folder
from nomisma.start_error import StartError
from nomisma.store.database import engine_on, migrate

DEFAULT_PORT = 8470
MOST_CONNECTIONS = 500  # of one process; each open page holds one
GAUGE_PORT_ABOVE = 20  # a port of its own for every server on this machine


@dataclass(frozen=True, slots=True)
class Addresses:
    """How a shop's database is reached: by who owns it (to migrate, to keep accounts, to back up), and by who serves
    it.
    """

    owner: str
    serving: str


@contextmanager
def database(name: str, *, fresh: bool = False) -> Iterator[Addresses]:
    """The addresses of a migrated database: DATABASE_URL's, or `name` on the private cluster, stopped afterwards."""
    if url := os.environ.get("DATABASE_URL"):
        if fresh:
            raise StartError(
                "--fresh rebuilds the private demo; it never touches DATABASE_URL. Unset it, then run this again."
            )
        wait_for(url)
        _migrate(url)
        yield Addresses(url, os.environ.get("NOMISMA_SERVING_URL") or url)
        return
    cluster = Cluster(state_folder() / "cluster")
    cluster.start()
    try:
        cluster.create_database(name, fresh=fresh)
        url = cluster.url(name)
        _migrate(url)
        yield Addresses(url, cluster.url(name, SERVING))
    finally:
        cluster.stop()


def _migrate(url: str) -> None:
    with engine_on(url) as engine:
        migrate(engine)


def secret() -> str:
    """The key that signs what is handed to the browser to keep: NOMISMA_SECRET, else one made once for this machine."""
    if given := os.environ.get("NOMISMA_SECRET"):
        return given
    path = state_folder() / "secret"
    path.parent.mkdir(parents=True, exist_ok=True)
    if not path.exists():
        path.touch(mode=0o600)
        path.write_text(secrets.token_urlsafe(32))
    return path.read_text()


PYTHON_ENDS = {
    (3, 11): date(2027, 10, 31), (3, 12): date(2028, 10, 31), (3, 13): date(2029, 10, 31), (3, 14): date(2030, 10, 31),
}  # fmt: skip
"""When each Python has its last security release. Source: PEP 664, 693, 719, 745 (from memory); a later one is not
said.
"""


def python_without_fixes(today: date, version: tuple[int, int] = sys.version_info[:2]) -> str:
    """A warning where this Python gets no more security releases; empty where it does, or nobody said."""
    ends = PYTHON_ENDS.get(version)
    if ends is None or today <= ends:
        return ""
    return (
        f"Python {version[0]}.{version[1]} has had no security releases since {ends:%Y-%m}. Install a newer one, set"
        " NOMISMA_PYTHON to it, and remove .venv: everything recorded stays."
    )


def check_port(host: str, port: int) -> None:
    """Raises StartError when the port is taken or not ours to use, before anything is started."""
    family = socket.AF_INET6 if ":" in host else socket.AF_INET
    with socket.socket(family) as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((host, port))
        except OSError as error:
            raise StartError(
                f"Port {port} on {host} cannot be used ({error.strerror}). "
                f"Is Nomisma running already? Otherwise choose another: --port {port + 1 if port < 65535 else 8470}"
            ) from error


def serve(
    *,
    database_name: str,
    host: str,
    port: int,
    workers: int = 1,
    demo: bool = False,
    fresh: bool = False,
    http_port: int = 0,
    prepare: Callable[[str], None],
    announce: Callable[[str], None],
) -> None:
    """Start everything, serve until SIGINT or SIGTERM, stop everything. Raises StartError or ClusterError.

    With an `http_port` the shop is served over HTTPS by its own authority, and that port leads there.
    """
    check_port(host, port)
    if http_port:
        check_port(host, http_port)
    _stop_politely()
    if old := python_without_fixes(datetime.now(UTC).date()):
        announce(old)
    with database(database_name, fresh=fresh) as found:
        prepare(found.owner)
        os.environ.update(DATABASE_URL=found.serving, NOMISMA_SECRET=secret(), NOMISMA_DEMO="1" if demo else "0")
        os.environ.setdefault("NOMISMA_GAUGE_PORT", str(min(port + GAUGE_PORT_ABOVE, 65535)))
        if not os.environ.get("NOMISMA_PROXY"):
            os.environ.setdefault("NOMISMA_HOSTS", " ".join(own_hosts(host)))
        shown = f"[{host}]" if ":" in host else host
        more = _over_https(host, port, http_port) if http_port else {}
        announce(f"http{'s' if more else ''}://{shown}:{port}/")
        try:
            uvicorn.run("nomisma.web.app:application", factory=True, **_uvicorn_options(host, port, workers), **more)
        finally:
            del os.environ["DATABASE_URL"]


def own_hosts(host: str) -> list[str]:
    """By what a browser may ask for this server: loopback, this machine's names, and the address it listens on."""
    from nomisma.tls import names_of

    return list(dict.fromkeys(one.lower() for one in (*names_of(host), "[::1]", f"[{host}]" if ":" in host else host)))


def _over_https(host: str, port: int, http_port: int) -> dict[str, Any]:
    """What uvicorn needs for HTTPS; plain HTTP leads there from now on."""
    from nomisma.tls import CIPHERS, Certificates, names_of, redirecting

    certificates = Certificates(state_folder() / "tls")
    certificates.prepare(names_of(host))
    os.environ["NOMISMA_SECURE_COOKIES"] = "1"
    redirecting(host, http_port, port, certificates.authority)
    return {"ssl_certfile": str(certificates.certificate), "ssl_keyfile": str(certificates.key), "ssl_ciphers": CIPHERS}


def _uvicorn_options(host: str, port: int, workers: int) -> dict[str, Any]:
    return {
        "host": host,
        "port": port,
        "workers": workers,
        "log_config": None,
        "access_log": False,
        "server_header": False,
        "timeout_graceful_shutdown": 2,
        "http": "nomisma.web.frame.connection:BoundedProtocol",
        "limit_concurrency": MOST_CONNECTIONS,
        # Nobody's word on whose request it is counts, but that of a proxy the shop names.
        "proxy_headers": bool(os.environ.get("NOMISMA_PROXY")),
        "forwarded_allow_ips": os.environ.get("NOMISMA_PROXY", ""),
    }


def _stop_politely() -> None:
    """SIGTERM unwinds like Ctrl-C, so that the cluster is stopped on the way out."""

    def unwind(_number: int, _frame: FrameType | None) -> None:
        raise SystemExit(0)

    signal.signal(signal.SIGTERM, unwind)
    signal.signal(signal.SIGINT, unwind)
