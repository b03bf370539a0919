"""A page of a job: what every one of them is shown with."""

from typing import Any

from fastapi.responses import Response

from nomisma.jobs.planning.plan_state import JobPlan
from nomisma.jobs.standing.state import JobState
from nomisma.web.frame.pages import page
from nomisma.web.frame.visit import Visit


def job_page(visit: Visit, template: str, state: JobState, stage: str, *, status: int = 200, **shown: Any) -> Response:
    """A template of a job as it stands, in the unit it is worked in."""
    return page(visit, template, status=status, own_unit=state.unit, state=state, job=state.job, stage=stage, **shown)


def plan_page(visit: Visit, template: str, plan: JobPlan, *, status: int = 200, **shown: Any) -> Response:
    """A template of Plan."""
    return job_page(visit, template, plan.state, "plan", status=status, plan=plan, **shown)
