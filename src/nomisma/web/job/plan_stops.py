"""From a set-up of the plan to the worksheet of carriage stops, its steps filled in."""

from urllib.parse import urlencode

from nomisma.core.order.order import PlannedOperation, PlannedSetUp
from nomisma.core.order.plan_stops import stop_lines
from nomisma.jobs.planning.plan_state import JobPlan
from nomisma.jobs.planning.plan_work import PlannedWork


def stops_address(plan: JobPlan, one: PlannedSetUp) -> str:
    """The worksheet with the steps of a set-up; empty where it stops at fewer than two places."""
    if plan.section is None:
        return ""
    work, unit = PlannedWork(plan), plan.state.unit

    def rpm_of(each: PlannedOperation) -> float | None:
        run = work.run_of(each)
        return run.rpm if run else None

    steps = stop_lines(one, plan.section.length_mm, unit, rpm_of, plan.dials.cross_reads)
    if not steps:
        return ""
    return f"/stops?{urlencode({'job': plan.state.job.number, 'unit': unit, 'steps': steps})}"
