"""Measure, for what is tried or compared by hand and eye: how it went, place by place."""

from dataclasses import dataclass

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.errors import InputError
from nomisma.core.part.feature import State
from nomisma.core.part.feature_kinds import feature_kind
from nomisma.core.part.trial_wanted import trial_outcomes
from nomisma.jobs.readings.trial_log import TrialEntry, log_trial, usual_partner
from nomisma.jobs.standing.pieces import next_piece_to_try, serials
from nomisma.jobs.standing.state import JobState
from nomisma.store.models import Trial
from nomisma.store.trials import trials
from nomisma.web.frame.job_in_hand import href, job_in_hand
from nomisma.web.frame.part_section import section_of_job
from nomisma.web.frame.visit import Form, Post, Visit, posted, signed_in
from nomisma.web.job.job_page import job_page

router = APIRouter(include_in_schema=False)
FIELDS = ("outcome", "piece", "place", "tried_with", "orientation", "note")
NEWEST_TRIALS = 50


@dataclass(frozen=True)
class TrialShown:
    """A logged trial with how it stands against what is wanted now, and whether it counts."""

    row: Trial
    title: str
    state: State
    counts: bool


@dataclass(frozen=True)
class TrialForm:
    """What the form shows: the outcomes and places to choose from, what is in the fields, what was wrong; and the log
    beside it.
    """

    is_feel: bool
    is_tried: bool
    outcomes: list[tuple[str, str]]
    places: list[tuple[str, str]]
    pieces: tuple[str, ...]
    typed: dict[str, str]
    log: list[TrialShown]
    error: InputError | None = None


def trial_form(
    visit: Visit, state: JobState, *, piece: str = "", typed: Form | None = None, error: InputError | None = None
) -> TrialForm:
    """The form for the next trial of the feature in hand, with its log; of the piece the page says, else the next."""
    kind = feature_kind(state.in_hand.row.kind)
    outcomes = trial_outcomes(kind.trials_as or "")
    counting = {row.id for row in state.own_trials}
    piece = piece or next_piece_to_try(state)
    of_piece = [row for row in state.own_trials if row.piece == piece]
    well = {row.place for row in of_piece if state.state_of_trial(row) is State.IN_LIMITS}
    place = next((one for one in kind.tried_at if one not in well), kind.tried_at[0])
    begun = dict.fromkeys(FIELDS, "") | {"piece": piece, "place": place, "tried_with": usual_partner(state)}
    return TrialForm(
        is_feel=kind.family == "feel",
        is_tried=kind.is_tried,
        outcomes=[(one.name, one.title) for one in outcomes.values()],
        places=[(one, one) for one in kind.tried_at],
        pieces=serials(state),
        typed={name: typed.shown(name) for name in FIELDS} if typed else begun,
        log=[
            TrialShown(row, outcomes[row.outcome].title, state.state_of_trial(row), row.id in counting)
            for row in trials(visit.db, [state.feature_id], last=NEWEST_TRIALS)
        ],
        error=error,
    )


def trial_page(
    visit: Visit, state: JobState, *, status: int = 200, typed: Form | None = None, error: InputError | None = None
) -> Response:
    """The Measure page of what is tried or compared."""
    return job_page(
        visit,
        "job/measure/trials.html",
        state,
        "measure",
        status=status,
        trial=trial_form(visit, state, typed=typed, error=error),
        section=section_of_job(state) if len(state.made) > 1 else "",
    )


@router.get("/jobs/{number}/measure/trials")
def show(number: int, visit: Visit = Depends(signed_in)) -> Response:
    """What is tried beside the sizes that are read: rings on a thread. What is only measured is measured."""
    state = job_in_hand(visit, number)
    return trial_page(visit, state) if state.may_be_tried else RedirectResponse(href(state, "measure"), 303)


@router.post("/jobs/{number}/measure/trials")
def log_it(number: int, post: Post = Depends(posted)) -> Response:
    """Log how it went; a later trial of the same place counts in its stead."""
    visit, form, state = post.visit, post.form, job_in_hand(post.visit, number)
    try:
        entry = TrialEntry(id=form.client_id(), **{name: form.text(name, longest=300) for name in FIELDS})
        log_trial(visit.db, state, entry, by=visit.account)
        visit.db.commit()
    except InputError as error:
        if not state.may_be_tried:
            raise
        return trial_page(visit, state, status=422, typed=form, error=error)
    return RedirectResponse(href(state, "measure" if state.is_compared else "measure/trials"), 303)
