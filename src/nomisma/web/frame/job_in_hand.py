"""The job a request is about, seen at the feature it names; and the address of a page of that job and feature."""

from urllib.parse import urlencode

from nomisma.jobs.lookup import state_numbered
from nomisma.jobs.state import JobState
from nomisma.web.frame.visit import Visit

PAGES_OF_THE_JOB = ("part", "plan", "hold", "record")
"""Pages that are the same whichever feature is in hand."""


def job_in_hand(visit: Visit, number: int) -> JobState:
    """The state of the job at the feature the address names, else at the first that is made. Raises NotDefined."""
    return state_numbered(visit.db, number, visit.request.query_params.get("feature", ""))


def href(state: JobState, path: str, **query: object) -> str:
    """The address of a page of the job at the feature in hand; the feature goes unsaid where it is the one that is meant anyway."""
    return job_href(state.job.number, "" if state.is_default else state.letter, path, **query)


def job_href(number: int, letter: str, path: str, **query: object) -> str:
    """The address of a page of a job at a feature by its letter; no letter: at the one that is meant anyway."""
    asked = {"feature": letter, **query} if letter and path.split("/")[0] not in PAGES_OF_THE_JOB else query
    said = f"?{urlencode(asked)}" if asked else ""
    return f"/jobs/{number}/{path}{said}"
