"""Telling every open page of a job that something came, across server processes: PostgreSQL's NOTIFY, sent on
commit.
"""

import json
from datetime import datetime, timedelta
from typing import Any

from sqlalchemy import text
from sqlalchemy.orm import Session as OrmSession

CHANNEL = "nomisma_job"
_NOTIFY = text("SELECT pg_notify(:channel, :payload)")


# By feature, newest first, as the indexes have it: a shop has a million readings, and every page that opens asks.
SENT_SINCE = text(
    "SELECT g.id, g.gauge, g.size_text, g.size_unit, f.letter FROM job j JOIN feature f ON f.job_id = j.id"
    " CROSS JOIN LATERAL (SELECT * FROM gauge_reading n WHERE n.feature_id = f.id ORDER BY n.sequence DESC LIMIT 20) g"
    " WHERE j.number = :job AND g.at >= :since"
    " AND NOT EXISTS (SELECT 1 FROM reading r WHERE r.id = g.id)"
    " AND NOT EXISTS (SELECT 1 FROM truing_reading t WHERE t.id = g.id) ORDER BY g.sequence"
)
LOGGED_SINCE = text(
    "SELECT EXISTS (SELECT 1 FROM job j JOIN feature f ON f.job_id = j.id CROSS JOIN LATERAL"
    " (SELECT n.at FROM reading n WHERE n.feature_id = f.id ORDER BY n.sequence DESC LIMIT 1) r"
    " WHERE j.number = :job AND r.at >= :since)"
    " OR EXISTS (SELECT 1 FROM job j CROSS JOIN LATERAL"
    " (SELECT n.at FROM plan_entry n WHERE n.job_id = j.id ORDER BY n.sequence DESC LIMIT 1) p"
    " WHERE j.number = :job AND p.at >= :since)"
)


def told_since(
    session: OrmSession, job_number: int, since: datetime, *, clocks_differ: timedelta = timedelta()
) -> list[dict[str, Any]]:
    """What open pages were told of a job since a moment, as far as it matters to one that did not listen yet: what its
    gauges sent and nobody logged (as early as clocks may differ), and that something was logged.
    """
    asked = {"job": job_number, "since": since}
    told: list[dict[str, Any]] = [
        {"job": job_number, "kind": "gauge", "id": str(row.id), "gauge": row.gauge, "feature": row.letter}
        | {"size": row.size_text if row.size_text.endswith(row.size_unit) else f"{row.size_text} {row.size_unit}"}
        for row in session.execute(SENT_SINCE, {**asked, "since": since - clocks_differ})
    ]
    if session.scalar(LOGGED_SINCE, asked):
        told.append({"job": job_number, "kind": "reading", "id": ""})
    return told


def announce(session: OrmSession, job_number: int, kind: str, **more: Any) -> None:
    """Tell it when this transaction commits; never before, and not at all if it is rolled back."""
    session.execute(_NOTIFY, {"channel": CHANNEL, "payload": notice(job_number, kind, **more)})


def notice(job_number: int, kind: str, **more: Any) -> str:
    """What open pages are told, as it goes out."""
    return json.dumps({"job": job_number, "kind": kind, **more})
