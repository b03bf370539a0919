"""The shop's instruments, machines, rules and choices: the newest row of each counts."""

from collections.abc import Sequence
from typing import TypeVar
from uuid import UUID

from sqlalchemy import Select, bindparam, select
from sqlalchemy.dialects.postgresql import distinct_on
from sqlalchemy.orm import Session as OrmSession
from sqlalchemy.orm import aliased, joinedload

from nomisma.store.by_version import by_version
from nomisma.store.models import Chuck, Instrument, Machine, ShopRuleVersion, ShopSetting, StockBar

Kept = TypeVar("Kept", Chuck, Instrument, Machine)


def as_they_are(table: type[Kept]) -> Select[Kept]:
    """The rows nothing supersedes, by name."""
    later = aliased(table)
    return select(table).where(~select(later.id).where(later.supersedes_id == table.id).exists()).order_by(table.name)


_INSTRUMENTS = as_they_are(Instrument)
_MACHINES = as_they_are(Machine)


@by_version("shop")
def instruments(session: OrmSession) -> list[Instrument]:
    """Instruments as they are now, by name."""
    return list(session.scalars(_INSTRUMENTS))


@by_version("shop")
def machines(session: OrmSession) -> list[Machine]:
    """Machines as they are now, by name."""
    return list(session.scalars(_MACHINES))


_BAR_AFTER = aliased(StockBar)
_BARS = (
    select(StockBar)
    .where(~select(_BAR_AFTER.id).where(_BAR_AFTER.supersedes_id == StockBar.id).exists(), StockBar.length_mm > 0)
    .order_by(StockBar.material, StockBar.across_mm, StockBar.length_mm)
)


@by_version("shop")
def stock_bars(session: OrmSession) -> list[StockBar]:
    """The bars and remnants there are, by material, section and length."""
    return list(session.scalars(_BARS))


_RULES = (
    select(ShopRuleVersion)
    .options(joinedload(ShopRuleVersion.by))
    .ext(distinct_on(ShopRuleVersion.name))
    .order_by(ShopRuleVersion.name, ShopRuleVersion.sequence.desc())
)
_SETTINGS = (
    select(ShopSetting.name, ShopSetting.value)
    .ext(distinct_on(ShopSetting.name))
    .order_by(ShopSetting.name, ShopSetting.sequence.desc())
)

_OF_SHOP = _SETTINGS.where(ShopSetting.job_id.is_(None))
_OF_JOB = _SETTINGS.where(ShopSetting.job_id == bindparam("job_id"))


@by_version("shop")
def rules(session: OrmSession) -> dict[str, ShopRuleVersion]:
    """The shop's own newest version of each rule it has changed, by name."""
    return {row.name: row for row in session.scalars(_RULES)}


def rule_history(session: OrmSession, name: str) -> Sequence[ShopRuleVersion]:
    """Every version of one rule, newest first."""
    asked = select(ShopRuleVersion).where(ShopRuleVersion.name == name).order_by(ShopRuleVersion.sequence.desc())
    return session.scalars(asked).all()


def settings(session: OrmSession, job_id: UUID | None = None) -> dict[str, str]:
    """The shop's choices by name; a job's own in their place where it has any."""
    return _of_shop(session) if job_id is None else {**_of_shop(session), **_of_job(session, job_id)}


@by_version("shop")
def _of_shop(session: OrmSession) -> dict[str, str]:
    return {row.name: row.value for row in session.execute(_OF_SHOP)}


@by_version("said")
def _of_job(session: OrmSession, job_id: UUID) -> dict[str, str]:
    return {row.name: row.value for row in session.execute(_OF_JOB, {"job_id": job_id})}
