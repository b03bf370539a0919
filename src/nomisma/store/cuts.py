"""Cuts of a job in order, each with what the standing readings after it say."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from decimal import Decimal
from uuid import UUID

from sqlalchemy import ARRAY, Integer, Uuid, any_, bindparam, cast, func, select
from sqlalchemy.dialects.postgresql import distinct_on
from sqlalchemy.orm import Session as OrmSession
from sqlalchemy.orm import aliased, joinedload

from nomisma.store.models import Cut, Instrument, Job, Reading, ShopSetting


@dataclass(frozen=True, slots=True)
class TakenCut:
    """A cut and its sizes (mm): before and after by the readings that stand; none after where nothing was measured, or all withdrawn."""

    row: Cut
    before_mm: Decimal
    after_mm: Decimal | None


_later = aliased(Reading)
# Statements are built once: building one costs more than running it.
_SIZES = (
    select(Reading.piece, Reading.cut_number, func.avg(Reading.size_mm))
    .where(
        Reading.job_id == bindparam("job_id"),
        Reading.member == "made",
        Reading.withdrawn.is_(False),
        ~select(_later.id).where(_later.supersedes_id == Reading.id).exists(),
    )
    .group_by(Reading.piece, Reading.cut_number)
)
_OF_JOBS = (
    select(Reading.job_id, Reading.piece, Reading.cut_number, func.avg(Reading.size_mm))
    .where(
        Reading.job_id == any_(cast(bindparam("job_ids"), ARRAY(Uuid()))),
        Reading.member == "made",
        Reading.withdrawn.is_(False),
        ~select(_later.id).where(_later.supersedes_id == Reading.id).exists(),
    )
    .group_by(Reading.job_id, Reading.piece, Reading.cut_number)
)
_OF_MACHINE = (
    select(Cut)
    .where(Cut.machine_id == bindparam("machine_id"), Cut.at > bindparam("since"))
    .order_by(Cut.sequence.desc())
    .limit(bindparam("most", type_=Integer))
)
_KINDS = select(Job.id, Job.partner_kind).where(Job.id == any_(cast(bindparam("job_ids"), ARRAY(Uuid()))))
_CHOSEN = (
    select(ShopSetting.job_id, ShopSetting.name, ShopSetting.value)
    .ext(distinct_on(ShopSetting.job_id, ShopSetting.name))
    .where(
        ShopSetting.job_id == any_(cast(bindparam("job_ids"), ARRAY(Uuid()))),
        ShopSetting.name.in_(("cut_material", "cut_tool")),
    )
    .order_by(ShopSetting.job_id, ShopSetting.name, ShopSetting.sequence.desc())
)
_REPEATABILITY = (
    select(Instrument.repeatability_mm)
    .join(Reading, Reading.instrument_id == Instrument.id)
    .where(Reading.job_id == bindparam("job_id"), Reading.member == "made")
    .order_by(Reading.sequence.desc())
    .limit(1)
)
_CUTS = select(Cut).where(Cut.job_id == bindparam("job_id")).options(joinedload(Cut.by)).order_by(Cut.sequence)
_TAIL = Decimal("1e-9")


def sizes_by_cut(session: OrmSession, job_id: UUID) -> dict[tuple[str, int], Decimal]:
    """Mean standing size (mm) of the made member by piece and cut number."""
    return {(piece, cut): Decimal(size).quantize(_TAIL) for piece, cut, size in session.execute(_SIZES, {"job_id": job_id})}


def cuts_of(session: OrmSession, job_id: UUID, sizes: dict[tuple[str, int], Decimal]) -> list[TakenCut]:
    """Every cut of a job, oldest first."""
    found: Sequence[Cut] = session.scalars(_CUTS, {"job_id": job_id}).all()
    return [
        TakenCut(row, sizes.get((row.piece, row.cut_number - 1), row.before_mm), sizes.get((row.piece, row.cut_number)))
        for row in found
    ]


MOST_REMEMBERED = 240
"""Cuts of a machine that the coach looks back on, newest first."""


@dataclass(frozen=True, slots=True)
class KindOfCut:
    """What makes cuts alike: a shaft or a bore, in which material, with which tool; empty where nobody said."""

    made_kind: str
    material: str
    tool: str


def cuts_of_machine(
    session: OrmSession, machine_id: UUID, kind: KindOfCut, *, but: tuple[UUID, int], since: datetime
) -> list[list[TakenCut]]:
    """Measured cuts of earlier set-ups on a machine (oldest first), of one kind; without the set-up `but` (job and number)."""
    rows = list(
        reversed(session.scalars(_OF_MACHINE, {"machine_id": machine_id, "since": since, "most": MOST_REMEMBERED}).all())
    )
    rows = [row for row in rows if (row.job_id, row.set_up) != but]
    job_ids = list({row.job_id for row in rows})
    if not job_ids:
        return []
    kinds = _kinds_of(session, job_ids)
    sizes = {
        (job, piece, cut): Decimal(size).quantize(_TAIL)
        for job, piece, cut, size in session.execute(_OF_JOBS, {"job_ids": job_ids})
    }
    found: dict[tuple[UUID, int], list[TakenCut]] = {}
    for row in rows:
        after = sizes.get((row.job_id, row.piece, row.cut_number))
        if kinds[row.job_id] == kind and after is not None:
            before = sizes.get((row.job_id, row.piece, row.cut_number - 1), row.before_mm)
            found.setdefault((row.job_id, row.set_up), []).append(TakenCut(row, before, after))
    return list(found.values())


def _kinds_of(session: OrmSession, job_ids: list[UUID]) -> dict[UUID, KindOfCut]:
    chosen = {(job, name): value for job, name, value in session.execute(_CHOSEN, {"job_ids": job_ids})}
    return {
        job: KindOfCut(
            "bore" if partner == "shaft" else "shaft",
            chosen.get((job, "cut_material"), ""),
            chosen.get((job, "cut_tool"), "hss"),
        )
        for job, partner in session.execute(_KINDS, {"job_ids": job_ids})
    }


def repeatability_mm(session: OrmSession, job_id: UUID) -> Decimal | None:
    """One standard deviation (mm) of a reading with the instrument that read the made member last; none where none did."""
    return session.scalar(_REPEATABILITY, {"job_id": job_id})
