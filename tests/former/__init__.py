"""A backup of the demo of every former version, with the example of each of its worksheets kept in a job: shops as they
are opened today.

At a release, `python -m tests.former.make` adds that version's own before its number is raised.
"""

import csv
import lzma
import re
from collections.abc import Iterator
from pathlib import Path

import psycopg
from starlette.testclient import TestClient

from nomisma.backups import read_backup
from nomisma.cluster import Cluster
from nomisma.store.database import engine_for, migrate

FOLDER = Path(__file__).parent
VERSIONS = sorted(file.name.removesuffix(".backup.xz") for file in FOLDER.glob("*.backup.xz"))
DOORS = Path(__file__).parents[1] / "web" / "frame" / "doors.csv"
NO_PAGES = ("/live", ".pdf", ".zip")


def restored(cluster: Cluster, version: str, folder: Path) -> str:
    """The address of a shop read back from the backup a version wrote."""
    name = f"former_{version.replace('.', '_')}"
    file = folder / f"{version}.backup"
    file.write_bytes(lzma.decompress((FOLDER / f"{version}.backup.xz").read_bytes()))
    cluster.create_database(name)
    engine = engine_for(cluster.url(name))
    migrate(engine)
    engine.dispose()
    read_backup(cluster.url(name), file)
    return cluster.url(name)


def job_pages() -> list[str]:
    """The last part of the address of every page a job has, from the table of doors."""
    with DOORS.open(encoding="utf-8") as lines:
        rows = [
            row for row in csv.reader(line for line in lines if not line.startswith("#")) if row and row[0] == "GET"
        ]
    found = [match[1] for row in rows if (match := re.fullmatch(r"/jobs/\{number\}/([a-z./]+)", row[1]))]
    return [page for page in found if not f"/{page}".endswith(NO_PAGES)]


def features_of(url: str) -> Iterator[tuple[int, str]]:
    """The number of every job of a shop, with the letter of each of its features."""
    with psycopg.connect(url) as connection:
        yield from connection.execute(
            "SELECT DISTINCT job.number, feature.letter FROM job JOIN feature ON feature.job_id = job.id ORDER BY 1, 2"
        ).fetchall()


def failures(client: TestClient, pages: Iterator[str]) -> list[str]:
    """Which of these addresses are answered by a failure."""
    return [page for page in pages if client.get(page).status_code >= 500]
