"""Jobs as the commands open them, without a page: what the tests of this room begin with."""

from decimal import Decimal
from typing import Any
from uuid import uuid4

from sqlalchemy import select
from sqlalchemy.orm import Session

from nomisma.jobs.opening.new_job import Lines, open_by_lines
from nomisma.jobs.readings.instrument_choice import instrument_choices
from nomisma.jobs.readings.reading_entry import ReadingEntry
from nomisma.jobs.standing.lookup import state_numbered
from nomisma.jobs.standing.state import JobState
from nomisma.store.models import Account, Instrument, Job, Reading


def job(db: Session, **fields: Any) -> Job:
    by = db.scalars(select(Account.id)).first()
    return Job(id=uuid4(), title="Adapter", asked="", unit="mm", by_id=by, **fields)


def opened(db: Session, lines: str) -> JobState:
    return state_numbered(db, open_by_lines(db, job(db), Lines(lines, "mm")).number)


def read(db: Session, state: JobState, size_mm: str, *, piece: str = "") -> None:
    instrument = db.scalars(select(Instrument).where(Instrument.name.startswith("0–150"))).one()
    db.add(
        Reading(
            id=uuid4(),
            job_id=state.job.id,
            feature_id=state.feature_id,
            place="0°",
            piece=piece,
            size_mm=Decimal(size_mm),
            size_text=size_mm,
            size_unit="mm",
            instrument_id=instrument.id,
            reason="",
            withdrawn=False,
            by_id=state.job.by_id,
            limits_id=state.limits.id if state.limits else None,
        )
    )
    db.flush()


def person(db: Session, name: str) -> Account:
    """Somebody of the demo shop: orla (machinist), bram (lead), pim (apprentice)."""
    return db.scalars(select(Account).where(Account.name.ilike(f"{name}%"))).one()


def entry(db: Session, state: JobState, size: str, *, with_: str = "", **more: Any) -> ReadingEntry:
    """A reading as a hand gives it, at the first place, with the instrument whose name begins so."""
    choices = instrument_choices(db, state.kind)
    choice = next(one for one in choices if one.name.startswith(with_))
    return ReadingEntry(**{"id": uuid4(), "size": size, "instrument": choice.id, "place": "0°", **more})


def now(db: Session, state: JobState) -> JobState:
    """The job as it stands after something was written."""
    db.expire_all()
    return state_numbered(db, state.job.number, state.letter)
