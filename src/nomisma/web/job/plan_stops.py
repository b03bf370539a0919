"""From a set-up of the plan to the worksheet of carriage stops, its steps filled in."""

from urllib.parse import urlencode

from nomisma.core.planning.order import PlannedSetUp
from nomisma.core.planning.plan_stops import stop_lines
from nomisma.core.planning.sheet import WORKED_AS
from nomisma.jobs.planning.plan_state import JobPlan


def stops_address(plan: JobPlan, one: PlannedSetUp) -> str:
    """The worksheet with the steps of a set-up; empty where it stops at fewer than two places."""
    if plan.section is None:
        return ""
    material, unit = plan.stock.material, plan.state.unit
    steps = stop_lines(one, plan.section.length_mm, unit, material=WORKED_AS.get(material, material))
    if not steps:
        return ""
    return f"/stops?{urlencode({'job': plan.state.job.number, 'unit': unit, 'steps': steps})}"
