"""Jobs with their features and joints, limits and events: what is in force, and writing the next."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from functools import cached_property
from typing import Any
from uuid import UUID

from sqlalchemy import ARRAY, Uuid, any_, bindparam, cast, func, select, true
from sqlalchemy.orm import Session as OrmSession
from sqlalchemy.orm import aliased, contains_eager, joinedload

from nomisma.core.errors import NotDefined
from nomisma.store.append import AlreadyChanged, append, sent_before
from nomisma.store.by_version import by_version, read_anew
from nomisma.store.models import (
    AssemblyPlan,
    AssemblyResult,
    Disposition,
    Feature,
    FeatureEvent,
    Job,
    JobEvent,
    Joint,
    KeptAnswer,
    Limits,
    PartnerStatement,
    ShopSetting,
)

LARGEST_NUMBER = 2**31 - 1  # of PostgreSQL's integer


@dataclass(frozen=True)
class FeatureInForce:
    """A feature with what is in force: newest limits, what is said of it (empty: its readings count), newest
    disposition.

    `acceptance`: the job's own rule, else the shop's, else none.
    """

    row: Feature
    limits: Limits | None
    callout: str
    disposition: Disposition | None
    acceptance: str
    event: FeatureEvent | None

    @property
    def withdrawn(self) -> bool:
        """Whether it counts no longer."""
        return self.event is not None and self.event.kind == "withdrawn"

    @cached_property
    def made_here(self) -> bool:
        """Whether its part is made here."""
        return self.row.part.made_here


@dataclass(frozen=True, slots=True)
class JointInForce:
    """A joint, whether its assembly is planned, and whether it was put together and that did not stop short."""

    row: Joint
    planned: bool
    assembled: bool

    def other(self, feature_id: UUID) -> UUID | None:
        """The feature on the other side; None where that feature is not in this joint."""
        sides = (self.row.internal_id, self.row.external_id)
        if feature_id not in sides:
            return None
        return sides[1] if feature_id == sides[0] else sides[0]


@dataclass(frozen=True, slots=True, kw_only=True)
class BushInForce:
    """A bush: its outside in the housing, its bore on the shaft, and that bore as it is before pressing, where that is
    asked for.
    """

    outside: FeatureInForce
    housing: FeatureInForce
    before: FeatureInForce | None
    bore: FeatureInForce
    shaft: FeatureInForce

    @property
    def titles(self) -> dict[UUID, str]:
        """What each of its features is called."""
        after = " after pressing" if self.before else ""
        named = (
            (self.outside, "bush outside"),
            (self.housing, "housing"),
            (self.before, "bush bore before pressing"),
            (self.bore, f"bush bore{after}"),
            (self.shaft, "shaft"),
        )
        return {one.row.id: title for one, title in named if one}


@dataclass(frozen=True)
class JobInForce:
    """A job with what is in force: its features in the order of their letters, its joints, the newest event.

    `pieces_wanted`: how many of it are to be made. `plan`: the measuring plan.
    """

    job: Job
    event: JobEvent | None
    features: tuple[FeatureInForce, ...] = ()
    joints: tuple[JointInForce, ...] = ()
    pieces_wanted: int = 1
    plan: str = ""

    @cached_property
    def by_id(self) -> dict[UUID, FeatureInForce]:
        """The features by their ids."""
        return {one.row.id: one for one in self.features}

    @property
    def ids(self) -> tuple[UUID, ...]:
        """The ids of the job, its features and its joints."""
        return (self.job.id, *self.by_id, *(one.row.id for one in self.joints))

    @cached_property
    def made_ids(self) -> tuple[UUID, ...]:
        """The features that are made here."""
        return tuple(one.row.id for one in self.features if one.made_here)

    @cached_property
    def default(self) -> FeatureInForce:
        """The feature that is meant where nobody says which: the first that is made here."""
        return next((one for one in self.features if one.made_here), self.features[0])

    @cached_property
    def joint_of(self) -> dict[UUID, JointInForce]:
        """The first joint of each feature that has one."""
        return {side: one for one in reversed(self.joints) for side in (one.row.internal_id, one.row.external_id)}

    @cached_property
    def bush(self) -> "BushInForce | None":
        """The bush that is made between two parts, where the job is about one."""
        for part_id in dict.fromkeys(one.row.part_id for one in self.features if one.made_here):
            own = [one for one in self.features if one.row.part_id == part_id and not one.withdrawn]
            outside, bore = (self._joined(own, kind) for kind in ("outside_diameter", "bore"))
            if outside and bore:
                before = next((one for one in own if one.row.before_pressing), None)
                return BushInForce(outside=outside[0], housing=outside[1], before=before, bore=bore[0], shaft=bore[1])
        return None

    def _joined(self, own: Sequence[FeatureInForce], kind: str) -> tuple[FeatureInForce, FeatureInForce] | None:
        """The first of some features that is of a kind and goes with another, and that other."""
        for one in own:
            joint = self.joint_of.get(one.row.id) if one.row.kind == kind else None
            other = joint.other(one.row.id) if joint else None
            if other in self.by_id:
                return one, self.by_id[other]
        return None

    @property
    def handed_over(self) -> bool:
        """Whether the job is closed."""
        return _closes(self.event)


def _newest(table: Any, of: Any, order: Any, name: str) -> Any:
    """The newest row of a table for the row beside it."""
    return aliased(table, select(table).where(of).order_by(order.desc()).limit(1).lateral(name))


# Statements are built once: building one costs more than running it.
_limits = _newest(Limits, Limits.feature_id == Feature.id, Limits.version, "limits_in_force")
_statement = _newest(
    PartnerStatement, PartnerStatement.feature_id == Feature.id, PartnerStatement.at, "newest_statement"
)
_disposition = _newest(Disposition, Disposition.feature_id == Feature.id, Disposition.sequence, "newest_disposition")
_feature_event = _newest(
    FeatureEvent, FeatureEvent.feature_id == Feature.id, FeatureEvent.sequence, "newest_feature_event"
)
_event = _newest(JobEvent, JobEvent.job_id == Job.id, JobEvent.at, "newest_event")


def _setting(name: str) -> Any:
    """The newest value of a job's own choice."""
    return (
        select(ShopSetting.value)
        .where(ShopSetting.name == name, ShopSetting.job_id == Job.id)
        .order_by(ShopSetting.sequence.desc())
        .limit(1)
        .scalar_subquery()
    )


_SHOPS_ACCEPTANCE = (
    select(ShopSetting.at, ShopSetting.value)
    .where(ShopSetting.name == "acceptance", ShopSetting.job_id.is_(None))
    .order_by(ShopSetting.sequence)
)
_pieces = func.coalesce(_setting("pieces"), "1")
_plan = func.coalesce(_setting("measuring_plan"), "")
_JOBS = (
    select(Job, _event, _pieces, _plan, func.coalesce(_setting("acceptance"), ""))
    .select_from(Job)
    .join(Job.by)
    .outerjoin(Job.machine)
    .outerjoin(_event, true())
    .options(contains_eager(Job.by), contains_eager(Job.machine))
)
_NUMBERED = _JOBS.where(Job.number == bindparam("number"))
_OF_IDS = _JOBS.where(Job.id == any_(cast(bindparam("ids"), ARRAY(Uuid()))))
_job_ids = cast(bindparam("job_ids"), ARRAY(Uuid()))
_FEATURES = (
    select(Feature, _limits, _statement.callout, _disposition, _feature_event)
    .select_from(Feature)
    .join(Feature.part)
    .outerjoin(_limits, true())
    .outerjoin(_statement, true())
    .outerjoin(_disposition, true())
    .outerjoin(_feature_event, true())
    .options(contains_eager(Feature.part), joinedload(_disposition.by))
    .where(Feature.job_id == any_(_job_ids))
    .order_by(Feature.job_id, Feature.sequence)  # the order of the index: a shop of many jobs is not read through
)
_JOINTS = (
    select(
        Joint,
        select(AssemblyPlan.id).where(AssemblyPlan.joint_id == Joint.id).exists(),
        select(AssemblyResult.id)
        .where(AssemblyResult.joint_id == Joint.id, AssemblyResult.felt != "stopped_short")
        .exists(),
    )
    .where(Joint.job_id == any_(_job_ids))
    .order_by(Joint.job_id, Joint.sequence)
)


_LIMITS_HISTORY = (
    select(Limits)
    .where(Limits.feature_id == any_(cast(bindparam("feature_ids"), ARRAY(Uuid()))))
    .options(joinedload(Limits.by))
    .order_by(Limits.version)
)
_EVENTS = (
    select(JobEvent)
    .where(JobEvent.job_id == bindparam("job_id"))
    .options(joinedload(JobEvent.by))
    .order_by(JobEvent.at)
)


def job_numbered(session: OrmSession, number: int) -> JobInForce:
    """The job of that number and what is in force. Raises NotDefined."""
    found = session.execute(_NUMBERED, {"number": number}).all() if 0 < number <= LARGEST_NUMBER else []
    if not found:
        raise NotDefined(f"There is no job {number}.", "Look for it on the bench.", field="number", value=number)
    return _standings(session, found)[0]


def jobs_by_ids(session: OrmSession, ids: Sequence[UUID]) -> list[JobInForce]:
    """Some jobs and what is in force, in no order."""
    return _standings(session, session.execute(_OF_IDS, {"ids": list(ids)}).all()) if ids else []


def _standings(session: OrmSession, rows: Sequence[Any]) -> list[JobInForce]:
    """The jobs of some rows with their features and joints: a few questions more, however many jobs."""
    asked = {"job_ids": [row[0].id for row in rows]}
    own_rule = {row[0].id: row[4] for row in rows}
    shops_rules = _shops_acceptance(session)
    features: dict[UUID, list[FeatureInForce]] = {}
    for feature, limits, callout, disposition, event in session.execute(_FEATURES, asked):
        rule = own_rule[feature.job_id] or _shops_rule(shops_rules, limits)
        found = FeatureInForce(feature, limits, callout or "", disposition, rule, event)
        features.setdefault(feature.job_id, []).append(found)
    joints: dict[UUID, list[JointInForce]] = {}
    for joint, planned, assembled in session.execute(_JOINTS, asked):
        joints.setdefault(joint.job_id, []).append(JointInForce(joint, planned, assembled))
    return [
        JobInForce(job, event, tuple(features.get(job.id, ())), tuple(joints.get(job.id, ())), int(pieces), plan)
        for job, event, pieces, plan, _ in rows
    ]


@by_version("shop")
def _shops_acceptance(session: OrmSession) -> list[tuple[datetime, str]]:
    return [(at, value) for at, value in session.execute(_SHOPS_ACCEPTANCE)]


def _shops_rule(rules: Sequence[Any], limits: Limits | None) -> str:
    """The shop's rule of acceptance when the limits were set: what it decides later does not judge anew what was made
    by them.
    """
    counts = [value for at, value in rules if limits is None or at <= limits.at]
    return counts[-1] if counts else ""


_SAME_FORM = select(func.pg_advisory_xact_lock(func.hashtextextended(bindparam("id"), 0)))


def open_job(session: OrmSession, job: Job) -> Job:
    """Write a job, or return the one its form was kept as: a repeat, even beside the first, takes no number. Raises
    AlreadySent.
    """
    read_anew(session)
    session.execute(_SAME_FORM, {"id": str(job.id)})
    said = {"title": job.title, "asked": job.asked, "unit": job.unit, "machine_id": job.machine_id, "by_id": job.by_id}
    return sent_before(session, Job, job.id, **said) or append(session, job)


def job_is_there(session: OrmSession, number: int) -> bool:
    """Whether there is a job of that number."""
    return 0 < number <= LARGEST_NUMBER and session.scalar(select(Job.id).where(Job.number == number)) is not None


_HOLD = select(func.hold_job(bindparam("job_id")))


def hold(session: OrmSession, job_id: UUID) -> None:
    """Hold a job for this transaction alone: what is written to it is waited for, and others wait until this one is
    done.
    """
    read_anew(session)
    session.execute(_HOLD, {"job_id": job_id})


@by_version("said")
def limits_history(session: OrmSession, *feature_ids: UUID) -> Sequence[Limits]:
    """Every version of the limits of some features, oldest first."""
    return session.scalars(_LIMITS_HISTORY, {"feature_ids": list(feature_ids)}).all()


def set_limits(session: OrmSession, row: Limits, *, based_on_version: int) -> Limits:
    """Put new limits in force as the version after the one the person saw.

    Raises AlreadyChanged when somebody set others in between; a repeat of the same row is harmless.
    """
    if found := session.get(Limits, row.id):
        return append(session, _as_version(row, found.version))
    newest = session.scalar(select(func.max(Limits.version)).where(Limits.feature_id == row.feature_id)) or 0
    if newest != based_on_version:
        raise AlreadyChanged(f"Limits {newest} were set by someone else while you were choosing.")
    return append(session, _as_version(row, newest + 1))


def _as_version(row: Limits, version: int) -> Limits:
    row.version = version
    return row


_NEWEST_EVENT = select(JobEvent).where(JobEvent.job_id == bindparam("job_id")).order_by(JobEvent.at.desc()).limit(1)


def is_handed_over(session: OrmSession, job_id: UUID) -> bool:
    """Whether a job is closed, for who needs to know nothing else of it."""
    return _closes(session.scalar(_NEWEST_EVENT, {"job_id": job_id}))


def _closes(event: JobEvent | None) -> bool:
    return event is not None and event.kind == "handed_over"


@by_version("said")
def events(session: OrmSession, job_id: UUID) -> Sequence[JobEvent]:
    """All events of a job, oldest first."""
    return session.scalars(_EVENTS, {"job_id": job_id}).all()


JUDGING = ("acceptance", "measuring_plan", "pieces")
"""Choices of a job that say what is measured of it and by which rule it is accepted."""


@by_version("said")
def choices(session: OrmSession, job_id: UUID) -> Sequence[ShopSetting]:
    """What was chosen for a job of how it is measured and accepted, oldest first."""
    asked = (
        select(ShopSetting)
        .where(ShopSetting.job_id == job_id, ShopSetting.name.in_(JUDGING))
        .options(joinedload(ShopSetting.by))
        .order_by(ShopSetting.sequence)
    )
    return session.scalars(asked).all()


@by_version("said")
def dispositions(session: OrmSession, *feature_ids: UUID) -> Sequence[Disposition]:
    """Every disposition about some features, oldest first."""
    asked = (
        select(Disposition)
        .where(Disposition.feature_id.in_(feature_ids))
        .options(joinedload(Disposition.by))
        .order_by(Disposition.sequence)
    )
    return session.scalars(asked).all()


_KEPT = (
    select(KeptAnswer)
    .where(KeptAnswer.job_id == bindparam("job_id"))
    .options(joinedload(KeptAnswer.by))
    .order_by(KeptAnswer.sequence)
)


@by_version("said")
def kept_answers(session: OrmSession, job_id: UUID) -> Sequence[KeptAnswer]:
    """Every answer of a worksheet that was kept with a job, oldest first."""
    return session.scalars(_KEPT, {"job_id": job_id}).all()
