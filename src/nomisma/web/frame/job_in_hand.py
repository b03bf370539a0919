"""The job a request is about, seen at the feature it names; and the address of a page of that job and feature."""

from functools import lru_cache
from urllib.parse import urlencode

from starlette.datastructures import FormData

from nomisma.core.errors import NomismaError
from nomisma.jobs.standing.lookup import state_numbered
from nomisma.jobs.standing.stages import page_at
from nomisma.jobs.standing.state import JobState
from nomisma.web.frame.visit import Visit

PAGES_OF_THE_JOB = ("part", "plan", "make", "hold", "record")
"""Pages that are the same whichever feature is in hand."""


class NotTheFeatureShown(NomismaError):
    """A form about one feature was sent to the address of another, or to none where the job has several."""


def job_in_hand(visit: Visit, number: int) -> JobState:
    """The state of the job at the feature the address names, else at the first that is made. Raises NotDefined.

    A form says which feature it was shown for. Raises NotTheFeatureShown where that is not the one of the address.
    """
    addressed = visit.request.query_params.get("feature", "")
    shown = _shown_for(getattr(visit.request.state, "form", None))
    state = state_numbered(visit.db, number, addressed or shown)
    if shown and shown != state.letter:
        raise NotTheFeatureShown(
            f"This form was shown for feature {shown[:8]} and sent for {state.letter}: nothing was kept. "
            "Open the page at the feature you mean, then send it again."
        )
    return state


def _shown_for(form: FormData | None) -> str:
    shown = form.get("feature", "") if form is not None else ""
    return shown if isinstance(shown, str) else ""


def href(state: JobState, path: str, **query: object) -> str:
    """The address of a page of the job at the feature in hand; the feature goes unsaid where the part has no other."""
    return job_href(state.job.number, state.letter_said, path, **query)


def href_at(state: JobState, page: str) -> str:
    """The address of a page with the feature in hand, as near to a page as it has one; of Make, at the step that it is
    measured at.
    """
    found = page_at(state, page)
    return href(state, found, **({"feature": state.letter_said} if found == "make" and state.letter_said else {}))


def job_href(number: int, letter: str, path: str, **query: object) -> str:
    """The address of a page of a job at a feature by its letter; no letter: at the one that is meant anyway."""
    return _address(number, letter, path, tuple((name, str(value)) for name, value in query.items()))


@lru_cache(maxsize=16_384)  # a page of a part says the addresses of all its features, and so does the next
def _address(number: int, letter: str, path: str, query: tuple[tuple[str, str], ...]) -> str:
    asked = (("feature", letter), *query) if letter and path.split("/")[0] not in PAGES_OF_THE_JOB else query
    said = f"?{urlencode(asked)}" if asked else ""
    return f"/jobs/{number}/{path}{said}"
