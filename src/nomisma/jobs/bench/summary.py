"""How jobs stand at a glance, for the Bench: worked out when somebody looks, kept until something of the job is
written.
"""

from collections.abc import Sequence
from dataclasses import asdict, dataclass, field, fields
from datetime import date, datetime
from decimal import Decimal
from typing import Any
from uuid import UUID

from sqlalchemy.orm import Session, sessionmaker

from nomisma import __version__
from nomisma.core.errors import InputError
from nomisma.core.part.feature import State
from nomisma.core.part.section import Section
from nomisma.core.quantity.day import parse_day
from nomisma.jobs.bench.waiting import waits_for
from nomisma.jobs.planning.plan_state import JobPlan, plan_of
from nomisma.jobs.standing.lookup import states_of
from nomisma.jobs.standing.stages import stage_of
from nomisma.jobs.standing.state import JobState
from nomisma.store import jobs, summaries
from nomisma.store.models import Job, JobSummary
from nomisma.store.summaries import JobFilter, LastWorked

A_TIME = 200
"""How many jobs are worked out in one go."""
MOST_CHANGED = 40
"""So many of the jobs that were worked on last are looked at for what stands on the lathes."""


@dataclass(frozen=True, slots=True)
class Shown:
    """What the Bench shows of a job: where it goes on (stage, and the letter of the feature unless it is the first),
    and what it needs.

    Limits in mm as text, empty where there is none; they, `title`, `written` and `callout` are of the first feature.
    `worked_by`, `worked_at`: who did something at it last, and when; `due`: the day it is
    needed by; `questions`: how many are open; `outline`: of the part, each cylinder as outside (1) or hole (0), from
    where to where and across, mm.
    """

    stage: str = "part"
    letter: str = ""
    needs: str = ""
    verdict: str = ""
    handed_over: bool = False
    feature_count: int = 1
    title: str = ""
    required: bool = False
    lower: str = ""
    upper: str = ""
    written: str = ""
    callout: str = ""
    worked_by: str = ""
    worked_at: str = ""
    due: str = ""
    questions: int = 0
    outline: list[list[float]] = field(default_factory=list)

    @property
    def due_on(self) -> date | None:
        """The day it is needed by."""
        return date.fromisoformat(self.due) if self.due else None

    @property
    def last_worked(self) -> datetime | None:
        """When somebody did something at it last."""
        return datetime.fromisoformat(self.worked_at) if self.worked_at else None

    @property
    def is_on_a_lathe(self) -> bool:
        """Whether it was begun and has a step to be done, or waits there for somebody to decide."""
        undecided = self.state in (State.GONE_TOO_FAR, State.TOO_CLOSE_TO_CALL)
        return bool(self.worked_at) and not self.handed_over and (self.stage == "make" or undecided)

    @property
    def state(self) -> State | None:
        """The verdict of the feature it stands at."""
        return State(self.verdict) if self.verdict else None

    @property
    def lower_mm(self) -> Decimal | None:
        """The lower limit, mm."""
        return Decimal(self.lower) if self.lower else None

    @property
    def upper_mm(self) -> Decimal | None:
        """The upper limit, mm."""
        return Decimal(self.upper) if self.upper else None


_SHOWN = {one.name for one in fields(Shown)}
"""What a summary must hold to be shown; one of another making is worked out anew."""


@dataclass(frozen=True, slots=True)
class JobAtAGlance:
    """A job and what the Bench shows of it."""

    job: Job
    shown: Shown


def shown_of(session: Session, state: JobState, last: LastWorked | None = None) -> Shown:
    """What the Bench shows of a job that stands so; `last`: what was done at it last."""
    plan = plan_of(session, state)
    needs, (stage, words) = state.needs, waits_for(session, plan)
    feature, wanted = state.feature, state.requirement
    return Shown(
        stage=stage_of(stage),
        letter=needs.letter_said,
        needs=words,
        handed_over=state.handed_over,
        verdict=needs.verdict.state.value if needs.verdict else "",
        feature_count=len(state.made),
        title=feature.title,
        required=wanted is not None,
        lower=_text(feature.lower_mm),
        upper=_text(feature.upper_mm),
        written=wanted.text if wanted else "",
        callout=state.in_hand.callout,
        worked_by=last.name if last else "",
        worked_at=last.at.isoformat() if last else "",
        due=_due(plan),
        questions=plan.open_questions,
        outline=_outline(plan.section),
    )


def _due(plan: JobPlan) -> str:
    """The day a job is needed by; empty where nobody said one, or in words that are no day."""
    try:
        return parse_day(plan.intake.needed_by).isoformat() if plan.intake and plan.intake.needed_by else ""
    except InputError:
        return ""


def _outline(section: Section | None) -> list[list[float]]:
    if section is None:
        return []
    parts = [(1, one) for one in section.outside] + [(0, one) for one in section.bores]
    return [[is_outside, *map(float, (one.from_mm, one.to_mm, one.diameter_mm))] for is_outside, one in parts]


def _text(mm: Decimal | None) -> str:
    return f"{mm:f}" if mm is not None else ""


def needs_decision(state: JobState) -> bool:
    """Whether somebody has to decide about a piece of the job: one is out, or nearer to a limit than can be called, and
    nothing is decided.
    """
    undecided = (State.GONE_TOO_FAR, State.TOO_CLOSE_TO_CALL)
    found = (verdict for one in state.made if not one.decided for verdict in one.verdict_of_piece.values())
    return not state.handed_over and any(one.state in undecided for one in found)


def page_of_jobs(
    session: Session,
    writing: sessionmaker[Session],
    *,
    count: int,
    below: int | None = None,
    wanted: JobFilter | None = None,
) -> list[JobAtAGlance]:
    """The newest jobs, or those numbered below `below`, with how they stand now. `writing`: sessions that may keep what
    is worked out.
    """
    if wanted is not None and wanted.goes_by_summary:
        _work_out_all(session, writing)
    found = summaries.job_page(session, below=below, count=count, wanted=wanted)
    anew = _work_out(session, writing, [row for _, row in found if not _holds(row)])
    return [JobAtAGlance(job, anew.get(job.id) or Shown(**row.shown)) for job, row in found]


def on_the_lathes(session: Session, writing: sessionmaker[Session]) -> list[JobAtAGlance]:
    """What stands on each lathe now: of each, the open job that was worked on last, if there is a step to be done."""
    rows = summaries.at_the_lathes(session, program=__version__, count=MOST_CHANGED)
    anew = _work_out(session, writing, [row for _, row in rows if not _holds(row)])
    every = [JobAtAGlance(job, anew.get(job.id) or Shown(**row.shown)) for job, row in rows]
    found: dict[UUID | None, JobAtAGlance] = {}
    for one in sorted(every, key=lambda one: one.shown.worked_at, reverse=True):
        if one.shown.is_on_a_lathe:
            found.setdefault(one.job.machine_id, one)
    return sorted(found.values(), key=lambda one: one.job.machine.name if one.job.machine else "")


def _holds(row: JobSummary) -> bool:
    return row.computed == row.version and row.computed_by == __version__ and row.shown.keys() == _SHOWN


def _work_out_all(session: Session, writing: sessionmaker[Session]) -> None:
    while rows := summaries.to_compute(session, program=__version__, count=A_TIME):
        _work_out(session, writing, rows)
        session.expire_all()


def _of_the_lathe(shown: Shown, last: LastWorked | None) -> dict[str, Any]:
    """What jobs are found by at the lathes: who worked on one last and when, its day, its questions."""
    return {
        "worked_by_id": last.by_id if last else None,
        "worked_at": last.at if last is not None and shown.is_on_a_lathe else None,
        "due_on": None if shown.handed_over else shown.due_on,
        "questions": 0 if shown.handed_over else shown.questions,
    }


def _work_out(session: Session, writing: sessionmaker[Session], rows: Sequence[JobSummary]) -> dict[UUID, Shown]:
    """How some jobs stand, worked out from the log after their summaries were read, and kept where nothing came
    between.
    """
    if not rows:
        return {}
    states = {
        state.job.id: state for state in states_of(session, jobs.jobs_by_ids(session, [row.job_id for row in rows]))
    }
    last = summaries.last_worked(session, list(states))
    found = {job_id: shown_of(session, state, last.get(job_id)) for job_id, state in states.items()}
    with writing.begin() as keeping:  # a summary is kept beside the log, whatever becomes of who looks
        for row in sorted(
            rows, key=lambda one: one.job_id
        ):  # in one order, so that two who look never wait for each other
            state = states[row.job_id]
            begun = any(one.times_read for one in state.made)
            values = {"computed_by": __version__, "begun": begun, "needs_decision": needs_decision(state)}
            values |= _of_the_lathe(found[row.job_id], last.get(row.job_id))
            summaries.keep(keeping, row, {**values, "shown": asdict(found[row.job_id])})
    return found
