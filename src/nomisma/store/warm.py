"""Every prepared statement run once while the process is still alone.

The statements are built at import and shared by all threads; SQLAlchemy compiles one at its first run, and two threads
doing so at the same moment can spoil each other's ("returned no FROM clauses"). After a first run alone the compiled
form is in the engine's cache.
"""

from collections.abc import Callable
from contextlib import suppress
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session as OrmSession
from sqlalchemy.orm import sessionmaker

from nomisma.core.errors import NotDefined
from nomisma.store import (
    assembly,
    checks,
    cuts,
    gauges,
    jobs,
    plans,
    practice,
    readings,
    shop,
    sign_ins,
    summaries,
    truing,
)

NOBODY = UUID(int=0)


def warm(sessions: sessionmaker[OrmSession], now: datetime) -> bool:
    """Ask every question once, for nobody; False where the database is not there yet (it is asked then as it comes)."""
    try:
        with sessions() as session:
            for question in _questions(session, now):
                with suppress(NotDefined):
                    question()
    except DBAPIError:
        return False
    return True


def _questions(session: OrmSession, now: datetime) -> list[Callable[[], Any]]:
    return [
        lambda: sign_ins.written_for(session, "", now),
        lambda: jobs.job_numbered(session, jobs.LARGEST_NUMBER),
        lambda: summaries.job_page(session, below=1, count=1),
        lambda: jobs.jobs_by_ids(session, [NOBODY]),
        lambda: jobs.limits_history(session, NOBODY),
        lambda: jobs.events(session, NOBODY),
        lambda: jobs.kept_answers(session, NOBODY),
        lambda: plans.plan_entries(session, NOBODY),
        lambda: jobs.dispositions(session, NOBODY),
        lambda: readings.extremes(session, [NOBODY]),
        lambda: readings.log(session, NOBODY, last=1),
        lambda: readings.log(session, NOBODY, last=1, before=1),
        lambda: readings.log(session, NOBODY),
        lambda: readings.newest_sizes(session, NOBODY, "", last=1),
        lambda: readings.logs(session, [NOBODY], last=1),
        lambda: cuts.cuts_of_features(session, [NOBODY]),
        lambda: readings.last_cut_number(session, NOBODY),
        lambda: readings.standing(session, NOBODY),
        lambda: readings.of_batch(session, NOBODY),
        lambda: checks.newest_checks(session),
        lambda: checks.newest_check(session, NOBODY),
        lambda: checks.failed_calibrations(session),
        lambda: gauges.gauges_of(session, NOBODY),
        lambda: gauges.waiting(session, NOBODY, now),
        lambda: shop.instruments(session),
        lambda: shop.machines(session),
        lambda: shop.stock_bars(session),
        lambda: shop.rules(session),
        lambda: shop.settings(session, NOBODY),
        lambda: truing.chucks(session),
        lambda: truing.truing_of(session, NOBODY),
        lambda: truing.truings_of(session, NOBODY),
        lambda: truing.events_of(session, [NOBODY]),
        lambda: cuts.cuts_of(session, NOBODY, cuts.sizes_by_cut(session, NOBODY)),
        lambda: practice.part_events(session, NOBODY),
        lambda: assembly.newest_plan(session, NOBODY),
        lambda: assembly.results_of(session, NOBODY),
        lambda: assembly.close_in_factor(session),
    ]
