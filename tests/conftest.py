"""A throw-away PostgreSQL cluster for the whole run, a fresh database for each test that asks, and a shop in it."""

import os
import subprocess
import tempfile
from collections.abc import Iterator
from pathlib import Path
from uuid import uuid4

import pytest
from argon2 import PasswordHasher
from hypothesis import HealthCheck
from hypothesis import settings as hypothesis_settings
from sqlalchemy import Engine
from sqlalchemy.orm import Session

from nomisma.cluster import OWNER, SERVING, SUPERUSER, Cluster
from nomisma.demo import shop as demo_shop
from nomisma.settings import Settings
from nomisma.store.database import engine_for, migrate, sessions_of

# Nothing here is timed: a busy machine is no fault of the code.
hypothesis_settings.register_profile(
    "nomisma", deadline=None, max_examples=150, suppress_health_check=[HealthCheck.too_slow]
)
hypothesis_settings.load_profile("nomisma")
os.environ.setdefault("PGCONNECT_TIMEOUT", "60")

# Thousands of tests sign somebody in, and none asks how long a stolen hash would stand: a fifth of a second less each.
CHEAP = PasswordHasher(time_cost=1, memory_cost=64, parallelism=1)
pytest.MonkeyPatch().setattr("nomisma.store.passwords._hasher", CHEAP)

# Nothing here tests what survives a power cut, so the disk need not be waited for.
# And nothing cleans up behind the tests: whatever depends on the whole log is asked again after any transaction.
FAST = ("fsync=off", "synchronous_commit=off", "full_page_writes=off", "max_connections=200", "autovacuum=off")


LONGEST = (
    "tests/web/frame/test_links.py",
    "tests/test_commands.py",
    "tests/browser/",
    "tests/test_reliability.py",
    "tests/standards/",
)
"""Files with a few long tests: they go first, so that no worker is left with one of them at the end."""


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Long files first; the rest as they come."""
    items.sort(
        key=lambda item: next((at for at, name in enumerate(LONGEST) if item.nodeid.startswith(name)), len(LONGEST))
    )


@pytest.fixture(scope="session")
def cluster() -> Iterator[Cluster]:
    """One cluster for the run, gone afterwards."""
    folder = Path(tempfile.mkdtemp(prefix="nomisma-test-"))
    folder.chmod(0o755)
    found = Cluster(folder / "cluster", options=FAST)
    found.start()
    try:
        yield found
    finally:
        found.crash()  # to stop it in order is to write hundreds of shops to disk that nobody asks for again
        # Hundreds of shops: nobody has to wait until the disk has forgotten them.
        subprocess.run(["sh", "-c", 'rm -rf "$1" >/dev/null 2>&1 &', "sh", str(folder)], check=True)


@pytest.fixture(scope="session")
def template(cluster: Cluster) -> str:
    """A migrated database with the demo shop, to copy from."""
    cluster.create_database("shop_template")
    engine = engine_for(cluster.url("shop_template"))
    migrate(engine)
    engine.dispose()
    demo_shop.load(cluster.url("shop_template"))
    return "shop_template"


def copy_database(cluster: Cluster, template: str) -> str:
    """A new database like the template; its address."""
    import psycopg
    from psycopg import sql

    name = f"test_{uuid4().hex[:12]}"
    with psycopg.connect(cluster.url("postgres", SUPERUSER), autocommit=True) as connection:
        copied = sql.SQL("CREATE DATABASE {} TEMPLATE {} OWNER {}")
        connection.execute(copied.format(*(sql.Identifier(one) for one in (name, template, OWNER))))
    _SERVED[cluster.url(name)] = cluster.url(name, SERVING)
    return cluster.url(name)


_SERVED: dict[str, str] = {}


def as_served(url: str) -> str:
    """The address by which a shop is served: that of the role which may not change the log."""
    return _SERVED.get(url, url)


@pytest.fixture
def shop_url(cluster: Cluster, template: str) -> str:
    """The address of a database with the demo shop, for this test alone."""
    return copy_database(cluster, template)


@pytest.fixture
def engine(shop_url: str) -> Iterator[Engine]:
    """An engine on this test's shop."""
    found = engine_for(shop_url)
    yield found
    found.dispose()


@pytest.fixture
def db(engine: Engine) -> Iterator[Session]:
    """A session on this test's shop."""
    with sessions_of(engine)() as session:
        yield session


def settings_for(url: str, **changes: object) -> Settings:
    """Settings of a test application."""
    return Settings(database_url=as_served(url), secret="only for tests", demo=True, pool_size=5, **changes)
