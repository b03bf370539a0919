"""The parts of a job, their features and joints: writing them, and finding one by its letter."""

from uuid import UUID, uuid5

from sqlalchemy import bindparam, select
from sqlalchemy.orm import Session as OrmSession

from nomisma.core.part.feature_kinds import KindName, feature_kind
from nomisma.core.part.member import MEMBER_FEATURE, MemberKind, other_member
from nomisma.store.append import append
from nomisma.store.models import Feature, Job, Joint, Part

_FIRST_MADE = (
    select(Feature.id)
    .join(Feature.part)
    .join(Job, Job.id == Feature.job_id)
    .where(Job.number == bindparam("number"), Part.made_here)
    .order_by(Feature.sequence)
    .limit(1)
)
_COUNT = select(Feature.letter).where(Feature.job_id == bindparam("job_id"))


def first_made(session: OrmSession, job_number: int) -> UUID | None:
    """The first feature of a job that is made here: what is meant where nobody says which."""
    return session.scalar(_FIRST_MADE, {"number": job_number})


def letters_of(session: OrmSession, job_id: UUID) -> set[str]:
    """The letters a job has given, withdrawn features too: a letter is kept for good."""
    return set(session.scalars(_COUNT, {"job_id": job_id}))


def own_id(row_id: UUID, what: str) -> UUID:
    """The id of a row that is written because another is: the same each time the form is sent."""
    return uuid5(row_id, what)


def features_sent(session: OrmSession, sent_id: UUID) -> list[Feature]:
    """The features that one form was kept as, in the order of its lines."""
    found: list[Feature] = []
    while row := session.get(Feature, own_id(sent_id, f"feature {len(found)}")):
        found.append(row)
    return found


def add_part(session: OrmSession, job: Job, *, made_here: bool, title: str = "", by_id: UUID | None = None) -> Part:
    """A part of a job. Commits nothing; written twice it is one."""
    id = own_id(job.id, f"{'made' if made_here else 'at hand'} {title}")
    row = Part(id=id, job_id=job.id, title=title, made_here=made_here, by_id=by_id or job.by_id)
    return session.get(Part, id) or append(session, row)


def add_feature(
    session: OrmSession,
    part: Part,
    *,
    id: UUID,
    letter: str,
    kind: KindName,
    by_id: UUID,
    line_text: str = "",
    through: bool = False,
    before_pressing: bool = False,
) -> Feature:
    """A feature of a part. Commits nothing. Raises AlreadyChanged where somebody gave the letter a moment before."""
    row = Feature(
        id=id,
        job_id=part.job_id,
        part_id=part.id,
        letter=letter,
        kind=kind,
        title="",
        line_text=line_text,
        by_id=by_id,
        through=through,
        before_pressing=before_pressing,
    )
    return append(session, row)


def mated(
    session: OrmSession,
    job: Job,
    partner_kind: MemberKind,
    *,
    made: Part | None = None,
    letters: str = "AB",
    at_hand: str = "",
) -> Joint:
    """The feature that is made to go with one at hand, by their letters, and their joint. Commits nothing.

    `made`: the part it is made on, where there is one already; `at_hand`: what the other part is called.
    """
    made_kind, other_kind = MEMBER_FEATURE[other_member(partner_kind)], MEMBER_FEATURE[partner_kind]
    one, other = (
        add_feature(session, part, id=own_id(job.id, letter), letter=letter, kind=kind, by_id=job.by_id)
        for part, letter, kind in (
            (made or add_part(session, job, made_here=True), letters[0], made_kind),
            (add_part(session, job, made_here=False, title=at_hand), letters[1], other_kind),
        )
    )
    return join(session, one, other)


def join(session: OrmSession, one: Feature, other: Feature) -> Joint:
    """The joint of an internal and an external feature. Commits nothing."""
    internal, external = sorted((one, other), key=lambda row: feature_kind(row.kind).material_side, reverse=True)
    row = Joint(
        id=own_id(internal.id, f"joint with {external.id}"),
        job_id=one.job_id,
        internal_id=internal.id,
        external_id=external.id,
        by_id=one.by_id,
    )
    return append(session, row)
