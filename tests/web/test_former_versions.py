"""A shop that was filled by a former version: it is read back, and what it kept is shown by this one."""

from pathlib import Path

import pytest

from nomisma.cluster import Cluster
from tests.former import VERSIONS, failures, features_of, job_pages, restored
from tests.serving import served_as_bram

WHAT_WAS_KEPT = ("assemble", "record", "record.json")
"""The pages that read what calculations answered then; `./nomisma benchmark former` opens every other one too."""
BETWEEN = ("0.2.0", "0.3.0", "0.4.0", "0.5.1", "0.8.1", "0.8.2", "0.12.0")
"""Versions that kept what their neighbours kept: the benchmark alone opens theirs."""


@pytest.mark.parametrize("version", [one for one in VERSIONS if one not in BETWEEN])
def test_what_a_former_version_kept_is_shown(cluster: Cluster, version: str, tmp_path: Path) -> None:
    assert set(WHAT_WAS_KEPT) <= set(job_pages())
    url = restored(cluster, version, tmp_path)
    numbers = {number for number, _ in features_of(url)}
    assert len(numbers) >= 5
    with served_as_bram(cluster, url.rpartition("/")[2]) as client:
        assert client.get("/").status_code == 200
        assert not failures(client, (f"/jobs/{number}/{page}" for number in numbers for page in WHAT_WAS_KEPT))
