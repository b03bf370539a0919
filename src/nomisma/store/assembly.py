"""Plans and results of assemblies: the newest plan counts, every result is kept."""

from collections.abc import Sequence
from decimal import Decimal
from uuid import UUID

from sqlalchemy import func, select
from sqlalchemy.orm import Session as OrmSession
from sqlalchemy.orm import joinedload

from nomisma.store.by_version import by_version
from nomisma.store.models import AssemblyPlan, AssemblyResult

FACTORS_KEPT = 12
"""How many of the newest bushes speak for the shop's close-in factor."""


@by_version("said")
def newest_plan(session: OrmSession, joint_id: UUID) -> AssemblyPlan | None:
    """The newest plan of a joint."""
    asked = (
        select(AssemblyPlan)
        .where(AssemblyPlan.joint_id == joint_id)
        .options(joinedload(AssemblyPlan.by))
        .order_by(AssemblyPlan.sequence.desc())
        .limit(1)
    )
    return session.scalars(asked).first()


@by_version("said")
def results_of(session: OrmSession, joint_id: UUID) -> Sequence[AssemblyResult]:
    """Everything logged of a joint's assembly, oldest first."""
    asked = (
        select(AssemblyResult)
        .where(AssemblyResult.joint_id == joint_id)
        .options(joinedload(AssemblyResult.by), joinedload(AssemblyResult.instrument))
        .order_by(AssemblyResult.sequence)
    )
    return session.scalars(asked).all()


@by_version("log")
def close_in_factor(session: OrmSession) -> tuple[Decimal, int] | None:
    """What this shop's newest bushes closed in by over what was predicted: mean and how many; None before the first."""
    newest = (
        select(AssemblyResult.close_in_factor)
        .where(AssemblyResult.close_in_factor.is_not(None))
        .order_by(AssemblyResult.sequence.desc())
        .limit(FACTORS_KEPT)
        .subquery()
    )
    mean, count = session.execute(
        select(func.avg(newest.c.close_in_factor), func.count(newest.c.close_in_factor))
    ).one()
    return (Decimal(mean).quantize(Decimal("0.01")), count) if count else None
