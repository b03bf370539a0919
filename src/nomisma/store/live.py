"""Telling every open page of a job that something came, across server processes: PostgreSQL's NOTIFY, sent on
commit.
"""

import json
from typing import Any

from sqlalchemy import text
from sqlalchemy.orm import Session as OrmSession

CHANNEL = "nomisma_job"
_NOTIFY = text("SELECT pg_notify(:channel, :payload)")


def announce(session: OrmSession, job_number: int, kind: str, **more: Any) -> None:
    """Tell it when this transaction commits; never before, and not at all if it is rolled back."""
    session.execute(_NOTIFY, {"channel": CHANNEL, "payload": notice(job_number, kind, **more)})


def notice(job_number: int, kind: str, **more: Any) -> str:
    """What open pages are told, as it goes out."""
    return json.dumps({"job": job_number, "kind": kind, **more})
