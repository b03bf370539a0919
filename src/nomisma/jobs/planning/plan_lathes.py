"""Which lathe of the shop has room for a job's part and its stock, and what the job's own has not."""

from dataclasses import dataclass
from decimal import Decimal

from sqlalchemy.orm import Session

from nomisma.core.cutting.speeds import cutting_speeds
from nomisma.core.planning.blank import corners_mm
from nomisma.core.planning.sheet import WORKED_AS
from nomisma.core.planning.which_lathe import Check, MachineRoom, Verdict, WorkSize, checks, fits, room_mm
from nomisma.jobs.planning.plan_state import JobPlan
from nomisma.store import shop
from nomisma.store.by_version import by_version
from nomisma.store.models import Machine


@dataclass(frozen=True, slots=True)
class LatheConsidered:
    """A machine of the shop, what the work asks of it, and what that comes to."""

    machine: Machine
    checks: list[Check]
    verdict: Verdict


def room_of(machine: Machine) -> MachineRoom:
    """What a machine of the shop has room for."""
    return MachineRoom(
        name=machine.name, room_mm=room_mm(machine.room), speeds=machine.speeds, most_rpm=machine.most_rpm
    )


@by_version("job")
def lathes_for(session: Session, plan: JobPlan) -> list[LatheConsidered]:
    """Every machine of the shop with what the work asks of it; those it fits first."""
    work = _work_size(plan)
    if work is None:
        return []
    order: dict[Verdict, int] = {"fits": 0, "not_said": 1, "does_not": 2}
    found = []
    for machine in shop.machines(session):
        looked = checks(work, room_of(machine), plan.state.unit)
        found.append(LatheConsidered(machine, looked, fits(looked)))
    return sorted(found, key=lambda one: order[one.verdict])


def against_the_machine(session: Session, plan: JobPlan) -> list[str]:
    """What the job's own machine has no room for, in words; empty where it has, or nobody chose one."""
    own = next((one for one in lathes_for(session, plan) if one.machine.id == plan.state.job.machine_id), None)
    return [check.sentence for check in own.checks if check.verdict == "does_not"] if own else []


def _work_size(plan: JobPlan) -> WorkSize | None:
    """What the part and its stock ask of a machine; none without a section."""
    own = plan.order.stock if plan.order is not None and plan.stock.held == "repair" else None
    if plan.section is None or (plan.blank is None and own is None):
        return None
    across = own.across_mm if own is not None else plan.stock_mm
    long_mm = None if plan.length_not_known else plan.section.length_mm
    held = [one.set_up.workholding for one in plan.order.set_ups if one.set_up.workholding] if plan.order else []
    between = any(one.way == "centres" for one in held)
    gripped = [one.grip.diameter_mm for one in held if one.grip is not None and not one.grip.inside]
    is_steadied = any(each.kind == "steady" for one in held for each in one.supports)
    bores = [one.to_mm - one.from_mm for one in plan.section.bores]
    speed = cutting_speeds().get(WORKED_AS.get(plan.stock.material, plan.stock.material))
    return WorkSize(
        swings_mm=corners_mm(plan.stock.shape, across),
        length_mm=long_mm,
        held_mm=max(gripped, default=across),
        holding="between_centres" if between else "chuck",
        beyond_chuck_mm=long_mm or Decimal(0),
        drilled_mm=max(bores, default=Decimal(0)),
        steadied_mm=across if is_steadied else None,
        cutting_m_min=speed.hss_m_min if speed else None,
    )
