"""Every page of every job, for each of its features, of a shop of every former version, and every answer it kept opened
anew.
"""

import re
import time
from html import unescape

from starlette.testclient import TestClient
from tests.former import VERSIONS, failures, features_of, job_pages, restored
from tests.serving import own_cluster, served_as_bram

_KEPT = re.compile(r'href="([^"]+)"[^>]*>Open it with these numbers')


def pages_of(client: TestClient, features: list[tuple[int, str]]) -> list[str]:
    """Every address: a job's pages, those of each feature, and the worksheets its record opens."""
    numbers = sorted({number for number, _ in features})
    whole = [f"/jobs/{number}/{page}" for number in numbers for page in job_pages()]
    each = [
        f"/jobs/{number}/{page}?feature={letter}"
        for number, letter in features
        for page in job_pages()
        if "." not in page
    ]
    kept = [unescape(link) for number in numbers for link in _KEPT.findall(client.get(f"/jobs/{number}/record").text)]
    return whole + each + kept


def main() -> int:
    """`former`; 1 where anything failed."""
    failed = 0
    with own_cluster() as (cluster, folder):
        for version in VERSIONS:
            started = time.monotonic()
            url = restored(cluster, version, folder)
            with served_as_bram(cluster, url.rpartition("/")[2]) as client:
                pages = pages_of(client, list(features_of(url)))
                bad = failures(client, iter(pages))
            failed += len(bad)
            print(
                f"{version}: {len(pages):,} pages in {time.monotonic() - started:.0f} s, {len(bad)} answered by a"
                " failure",
                flush=True,
            )
            for page in bad:
                print(f"  {page}")
    return 1 if failed else 0
