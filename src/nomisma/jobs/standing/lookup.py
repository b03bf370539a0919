"""Jobs by their numbers or as a page of them, each with how it stands."""

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy.orm import Session as OrmSession

from nomisma.core.errors import NotDefined
from nomisma.core.part.feature_kinds import feature_kind
from nomisma.jobs.standing.state import JobState
from nomisma.store import jobs, readings
from nomisma.store.by_version import belongs_to_the_job, by_version, is_in_hand
from nomisma.store.jobs import JobInForce
from nomisma.store.trials import that_count, trials


def states_of(db: OrmSession, found: Sequence[JobInForce]) -> list[JobState]:
    """The states of several jobs, in one query however many they are."""
    counted = that_count(trials(db, _compared(found)))
    extremes = readings.extremes(db, [feature.row.id for in_force in found for feature in in_force.features])
    return [
        JobState(
            in_force,
            in_force.default,
            {one.row.id: extremes[one.row.id] for one in in_force.features if one.row.id in extremes},
            counted,
        )
        for in_force in found
    ]


def _compared(found: Sequence[JobInForce]) -> list[UUID]:
    """The features of some jobs that may be tried or compared; most jobs have none, and nothing is asked."""
    return [feature.row.id for one in found for feature in one.features if feature_kind(feature.row.kind).trials_as]


_in_force = by_version("said")(jobs.job_numbered)


@by_version("job")
def _in_hand(db: OrmSession, number: int) -> JobState:
    in_force = _in_force(db, number)
    belongs_to_the_job(db, in_force.ids)
    return states_of(db, [in_force])[0]


@by_version("log")
def _another(db: OrmSession, number: int) -> JobState:
    return states_of(db, [jobs.job_numbered(db, number)])[0]


def state_numbered(db: OrmSession, number: int, letter: str = "") -> JobState:
    """The state of one job, seen at a feature by its letter or at the first that is made. Raises NotDefined."""
    if is_in_hand(db, number):
        state = _in_hand(db, number)
        belongs_to_the_job(db, state.in_force.ids)
    else:
        state = _another(db, number)
    if not letter:
        return state
    found = next((one for one in state.features if one.letter == letter.upper()), None)
    if found is None:
        letters = ", ".join(one.letter for one in state.features)
        raise NotDefined(
            f"Job {number} has no feature {letter[:8]}.", f"Its features are {letters}.", field="feature", value=letter
        )
    return found
