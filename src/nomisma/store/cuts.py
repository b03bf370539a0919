"""Cuts of a feature in order, each with what the standing readings after it say."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from decimal import Decimal
from uuid import UUID

from sqlalchemy import ARRAY, Integer, Uuid, any_, bindparam, cast, func, select
from sqlalchemy.dialects.postgresql import distinct_on
from sqlalchemy.orm import Session as OrmSession
from sqlalchemy.orm import aliased, joinedload

from nomisma.store.by_version import by_version
from nomisma.store.models import Cut, Feature, Reading, ShopSetting


@dataclass(frozen=True, slots=True)
class CutOnRecord:
    """A cut and its sizes (mm): before and after by the readings that stand; none after where nothing was measured, or
    all withdrawn.
    """

    row: Cut
    before_mm: Decimal
    after_mm: Decimal | None


_later = aliased(Reading)
# Statements are built once: building one costs more than running it.
_SIZES = (
    select(Reading.piece, Reading.cut_number, func.avg(Reading.size_mm))
    .where(
        Reading.feature_id == bindparam("feature_id"),
        Reading.withdrawn.is_(False),
        ~select(_later.id).where(_later.supersedes_id == Reading.id).exists(),
    )
    .group_by(Reading.piece, Reading.cut_number)
)
_OF_FEATURES = (
    select(Reading.feature_id, Reading.piece, Reading.cut_number, func.avg(Reading.size_mm))
    .where(
        Reading.feature_id == any_(cast(bindparam("feature_ids"), ARRAY(Uuid()))),
        Reading.withdrawn.is_(False),
        ~select(_later.id).where(_later.supersedes_id == Reading.id).exists(),
    )
    .group_by(Reading.feature_id, Reading.piece, Reading.cut_number)
)
_OF_MACHINE = (
    select(Cut)
    .where(Cut.machine_id == bindparam("machine_id"), Cut.at > bindparam("since"))
    .order_by(Cut.sequence.desc())
    .limit(bindparam("most", type_=Integer))
)
_KINDS = select(Feature.id, Feature.job_id, Feature.kind).where(
    Feature.id == any_(cast(bindparam("feature_ids"), ARRAY(Uuid())))
)
_CHOSEN = (
    select(ShopSetting.job_id, ShopSetting.name, ShopSetting.value)
    .ext(distinct_on(ShopSetting.job_id, ShopSetting.name))
    .where(
        ShopSetting.job_id == any_(cast(bindparam("job_ids"), ARRAY(Uuid()))),
        ShopSetting.name.in_(("cut_material", "cut_tool")),
    )
    .order_by(ShopSetting.job_id, ShopSetting.name, ShopSetting.sequence.desc())
)
_CUTS = select(Cut).where(Cut.feature_id == bindparam("feature_id")).options(joinedload(Cut.by)).order_by(Cut.sequence)
_TAIL = Decimal("1e-9")


@by_version("job")
def sizes_by_cut(session: OrmSession, feature_id: UUID) -> dict[tuple[str, int], Decimal]:
    """Mean standing size (mm) of a feature by piece and cut number."""
    asked = session.execute(_SIZES, {"feature_id": feature_id})
    return {(piece, cut): Decimal(size).quantize(_TAIL) for piece, cut, size in asked}


def cuts_of(session: OrmSession, feature_id: UUID, sizes: dict[tuple[str, int], Decimal]) -> list[CutOnRecord]:
    """Every cut of a feature, oldest first."""
    found: Sequence[Cut] = session.scalars(_CUTS, {"feature_id": feature_id}).all()
    return [
        CutOnRecord(
            row, sizes.get((row.piece, row.cut_number - 1), row.before_mm), sizes.get((row.piece, row.cut_number))
        )
        for row in found
    ]


_CUTS_OF_MANY = (
    select(Cut)
    .where(Cut.feature_id == any_(cast(bindparam("feature_ids"), ARRAY(Uuid()))))
    .options(joinedload(Cut.by))
    .order_by(Cut.sequence)
)


@by_version("job")
def cuts_of_features(session: OrmSession, feature_ids: Sequence[UUID]) -> dict[UUID, list[CutOnRecord]]:
    """Every cut of many features at once, by feature, oldest first."""
    rows = session.scalars(_CUTS_OF_MANY, {"feature_ids": list(feature_ids)}).all()
    cut = list({row.feature_id for row in rows})
    sizes = {
        (feature, piece, number): Decimal(size).quantize(_TAIL)
        for feature, piece, number, size in (session.execute(_OF_FEATURES, {"feature_ids": cut}) if cut else ())
    }
    found: dict[UUID, list[CutOnRecord]] = {}
    for row in rows:
        before = sizes.get((row.feature_id, row.piece, row.cut_number - 1), row.before_mm)
        taken = CutOnRecord(row, before, sizes.get((row.feature_id, row.piece, row.cut_number)))
        found.setdefault(row.feature_id, []).append(taken)
    return found


MOST_REMEMBERED = 240
"""Cuts of a machine that the coach looks back on, newest first."""


@dataclass(frozen=True, slots=True)
class KindOfCut:
    """What makes cuts alike: of which kind of feature, in which material, with which tool; empty where nobody said."""

    feature_kind: str
    material: str
    tool: str

    @property
    def asked_by(self) -> tuple[str, str, str]:
        """By what an answer about it is found again."""
        return self.feature_kind, self.material, self.tool


@by_version("log")
def cuts_of_machine(
    session: OrmSession, machine_id: UUID, kind: KindOfCut, *, but: tuple[UUID, int], since: datetime
) -> list[list[CutOnRecord]]:
    """Measured cuts of earlier set-ups on a machine (oldest first), of one kind; without the set-up `but` (feature and
    number).
    """
    rows = list(
        reversed(
            session.scalars(_OF_MACHINE, {"machine_id": machine_id, "since": since, "most": MOST_REMEMBERED}).all()
        )
    )
    rows = [row for row in rows if (row.feature_id, row.set_up) != but]
    feature_ids = list({row.feature_id for row in rows})
    if not feature_ids:
        return []
    kinds = _kinds_of(session, feature_ids)
    sizes = {
        (feature, piece, cut): Decimal(size).quantize(_TAIL)
        for feature, piece, cut, size in session.execute(_OF_FEATURES, {"feature_ids": feature_ids})
    }
    found: dict[tuple[UUID, int], list[CutOnRecord]] = {}
    for row in rows:
        after = sizes.get((row.feature_id, row.piece, row.cut_number))
        if kinds[row.feature_id] == kind and after is not None:
            before = sizes.get((row.feature_id, row.piece, row.cut_number - 1), row.before_mm)
            found.setdefault((row.feature_id, row.set_up), []).append(CutOnRecord(row, before, after))
    return list(found.values())


def _kinds_of(session: OrmSession, feature_ids: list[UUID]) -> dict[UUID, KindOfCut]:
    rows = session.execute(_KINDS, {"feature_ids": feature_ids}).all()
    asked = {"job_ids": list({job for _, job, _ in rows})}
    chosen = {(job, name): value for job, name, value in session.execute(_CHOSEN, asked)}
    return {
        feature: KindOfCut(kind, chosen.get((job, "cut_material"), ""), chosen.get((job, "cut_tool"), "hss"))
        for feature, job, kind in rows
    }
