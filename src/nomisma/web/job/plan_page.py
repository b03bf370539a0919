"""A page of a job's plan: what every one of them is shown with."""

from typing import Any

from fastapi.responses import Response

from nomisma.jobs.planning.plan_state import JobPlan
from nomisma.web.frame.pages import page
from nomisma.web.frame.visit import Visit


def plan_page(visit: Visit, template: str, plan: JobPlan, *, status: int = 200, **shown: Any) -> Response:
    """A template of Plan with the job as it stands, in the unit it is worked in."""
    state = plan.state
    return page(
        visit,
        template,
        status=status,
        own_unit=state.unit,
        state=state,
        job=state.job,
        stage="plan",
        plan=plan,
        **shown,
    )
