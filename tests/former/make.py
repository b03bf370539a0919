"""Writes the backup of this version beside those of the former ones: `python -m tests.former.make`, at a release.

The demo, and one job with the example of every worksheet kept in it: what a later version must still be able to read.
"""

import lzma
import re
import shutil
import tempfile
from pathlib import Path
from uuid import uuid4

from starlette.testclient import TestClient

from nomisma import __version__
from nomisma.backups import write_backup
from nomisma.cluster import SERVING, Cluster
from nomisma.demo import shop
from nomisma.settings import Settings
from nomisma.store.database import engine_for, migrate
from nomisma.web.app import application
from nomisma.web.worksheets.catalog import TOOLS
from tests.former import FOLDER
from tests.serving import sign_in_at


def keep_every_example(client: TestClient) -> None:
    """One job in which the example of every worksheet is kept. Raises AssertionError where one is refused."""
    token = re.findall(r'name="csrf_token" value="([^"]+)"', client.get("/").text)[0]
    given = {"csrf_token": token, "title": "Every worksheet", "asked": "", "unit": "mm", "partner_kind": "bore"}
    started = client.post("/jobs", data={**given, "client_id": str(uuid4())})
    found = re.search(r"/jobs/(\d+)/", str(started.url))
    assert found, started.text
    for name, tool in TOOLS.items():
        sent = {"csrf_token": token, "client_id": str(uuid4()), "keep_tool": name, "keep_number": found[1], **tool.examples}
        answers = [client.post("/worksheets/keep", data={**sent, "keep_unit": unit}).status_code for unit in ("in", "mm")]
        assert 200 in answers, (name, answers)


def main() -> None:
    """One cluster, one demo, one file."""
    folder = Path(tempfile.mkdtemp(prefix="nomisma-former-"))
    folder.chmod(0o755)
    cluster = Cluster(folder / "cluster", options=("fsync=off",))
    cluster.start()
    try:
        cluster.create_database("shop")
        engine = engine_for(cluster.url("shop"))
        migrate(engine)
        engine.dispose()
        shop.load(cluster.url("shop"))
        settings = Settings(database_url=cluster.url("shop", SERVING), secret="only here", demo=True)
        with TestClient(application(settings), base_url="http://bench.test") as client:
            sign_in_at(client, "bram")
            keep_every_example(client)
        write_backup(cluster.url("shop"), folder / "shop.backup")
        kept = FOLDER / f"{__version__}.backup.xz"
        kept.write_bytes(lzma.compress((folder / "shop.backup").read_bytes(), preset=9))
        print(f"{kept.name}: {kept.stat().st_size:,} bytes")
    finally:
        cluster.stop(even_if_used=True)
        shutil.rmtree(folder, ignore_errors=True)


if __name__ == "__main__":
    main()
