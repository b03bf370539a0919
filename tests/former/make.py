"""Writes the backup of this version beside those of the former ones: `python -m tests.former.make`, at a release.

The demo, and one job with the example of every worksheet kept in it: what a later version must still be able to read.
"""

import lzma
import re
from uuid import uuid4

from starlette.testclient import TestClient

from nomisma import __version__
from nomisma.backups import write_backup
from nomisma.web.worksheets.catalog import TOOLS
from tests.former import FOLDER
from tests.serving import filled_demo, own_cluster, served_as_bram


def keep_every_example(client: TestClient) -> None:
    """One job in which the example of every worksheet is kept. Raises AssertionError where one is refused."""
    token = re.findall(r'name="csrf_token" value="([^"]+)"', client.get("/").text)[0]
    given = {"csrf_token": token, "title": "Every worksheet", "asked": "", "unit": "mm", "partner_kind": "bore"}
    started = client.post("/jobs", data={**given, "client_id": str(uuid4())})
    found = re.search(r"/jobs/(\d+)/", str(started.url))
    assert found, started.text
    for name, tool in TOOLS.items():
        sent = {
            "csrf_token": token,
            "client_id": str(uuid4()),
            "keep_tool": name,
            "keep_number": found[1],
            **tool.examples,
        }
        answers = [
            client.post("/worksheets/keep", data={**sent, "keep_unit": unit}).status_code for unit in ("in", "mm")
        ]
        assert 200 in answers, (name, answers)


def main() -> None:
    """One cluster, one demo, one file."""
    with own_cluster() as (cluster, folder):
        database = filled_demo(cluster)
        with served_as_bram(cluster, database) as client:
            keep_every_example(client)
        write_backup(cluster.url(database), folder / "shop.backup")
        kept = FOLDER / f"{__version__}.backup.xz"
        kept.write_bytes(lzma.compress((folder / "shop.backup").read_bytes(), preset=9))
        print(f"{kept.name}: {kept.stat().st_size:,} bytes")


if __name__ == "__main__":
    main()
