"""Opening a job and saying what it is about: a partner to be mated, or features by the lines of a sketch."""

from dataclasses import dataclass
from decimal import Decimal
from uuid import UUID

from sqlalchemy.orm import Session

from nomisma.core.errors import InputError, NotDefined
from nomisma.core.part.feature_kinds import KindName
from nomisma.core.part.general_tolerance import GeneralTolerance
from nomisma.core.part.member import MEMBER_FEATURE, MemberKind
from nomisma.core.planning.feature_lines import (
    MOST_FEATURES,
    FeatureLinesInput,
    FeatureLinesResult,
    FeatureRead,
    LineRefused,
    as_part_of,
    feature_lines,
    letter_of,
)
from nomisma.core.planning.sizes_meant import SizesDoubted, doubted, largest_of
from nomisma.core.quantity.display import show_exact
from nomisma.core.quantity.length import Length, Unit
from nomisma.jobs.planning.plan_lathes import room_of
from nomisma.jobs.standing.lookup import state_numbered
from nomisma.jobs.standing.state import JobState
from nomisma.store import jobs, parts, shop
from nomisma.store.append import AlreadySent, append
from nomisma.store.models import Feature, Job, Limits, Part, PartnerStatement

TOLD_AT_ONCE = 8
"""Lines that are explained in one answer: more than a screen of them is no help."""


class NotUnderstood(InputError):
    """Lines that are no features, each with its sentence; what was typed is kept by whoever typed it."""

    def __init__(self, refused: list[LineRefused]) -> None:
        told = [f"Line {one.line}, “{one.text[:40]}”: {one.sentence}" for one in refused[:TOLD_AT_ONCE]]
        rest = len(refused) - len(told)
        more = [f"{rest} more {'line is' if rest == 1 else 'lines are'} not understood."] if rest else []
        super().__init__(" ".join([*told, *more]), "", field="lines")
        self.refused = refused


@dataclass(frozen=True, slots=True)
class Lines:
    """Lines of a sketch as typed, the unit of bare numbers, and what holds sizes without limits of their own (none: the
    unit's usual).

    `sizes_meant`: somebody was asked whether these sizes are meant, and said so.
    """

    text: str
    unit: Unit
    general_tolerance: GeneralTolerance | None = None
    sizes_meant: bool = False


class SizesAsked(InputError):
    """Lines that can hardly be meant as they are written, and the unit they may have been meant in; sent again with a
    word, they are.
    """

    def __init__(self, doubt: SizesDoubted) -> None:
        super().__init__(doubt.sentence, "Nothing is begun yet: say which.", field="sizes_meant")
        self.meant_in = doubt.meant_in


def look_at_lines(lines: Lines, *, after: int = 0) -> FeatureLinesResult:
    """The features some lines say, lettered on after those there are; what is not understood with its sentence. Raises
    InputError.
    """
    given = FeatureLinesInput(text=lines.text, unit=lines.unit, general_tolerance=lines.general_tolerance, after=after)
    try:
        return feature_lines(given)
    except InputError as error:
        error.field = "lines"
        raise


def read_lines(lines: Lines, *, after: int = 0) -> FeatureLinesResult:
    """The same, all of them understood. Raises NotUnderstood, InputError."""
    found = look_at_lines(lines, after=after)
    if found.not_understood:
        raise NotUnderstood(found.not_understood)
    return found


def open_mated(session: Session, job: Job, partner_kind: MemberKind) -> Job:
    """A job of one joint: what is at hand, and what is made to go with it. Commits nothing; sent twice it is one."""
    job = jobs.open_job(session, job)
    parts.mated(session, job, partner_kind)
    return job


def open_bush(session: Session, job: Job) -> Job:
    """A bush between two parts at hand, its features in the order they are made; commits nothing.

    Its outside A in the housing B, its bore before pressing C and after D, on the shaft E.
    """
    job = jobs.open_job(session, job)
    bush = parts.add_part(session, job, made_here=True, title="bush")
    parts.mated(session, job, "bore", made=bush, letters="AB", at_hand="housing")
    add_bore_before_pressing(session, bush, letter="C", by_id=job.by_id)
    parts.mated(session, job, "shaft", made=bush, letters="DE", at_hand="shaft")
    return job


def add_bore_before_pressing(session: Session, bush: Part, *, letter: str, by_id: UUID) -> Feature:
    """The bore of a bush as it is until it is pressed in: a feature of its own, read and judged for itself. Commits
    nothing.
    """
    return parts.add_feature(
        session,
        bush,
        id=parts.own_id(bush.id, "bore before pressing"),
        letter=letter,
        kind="bore",
        by_id=by_id,
        through=True,
        before_pressing=True,
    )


def open_by_lines(session: Session, job: Job, lines: Lines) -> Job:
    """A job whose part is read off its sketch: no partner. Commits nothing; sent twice it is one.

    Raises NotUnderstood, SizesAsked where they can hardly be meant, InputError.
    """
    found = read_lines(lines)
    if session.get(Job, job.id):
        _must_be_the_same(session, found, job.id)
        return jobs.open_job(session, job)  # the form was sent before
    _ask_about_sizes(session, lines, found)
    partners = _partners_of_other_jobs(session, found)  # before anything is written
    job = jobs.open_job(session, job)
    _write(session, job, found, partners, used=0, by_id=job.by_id, sent_id=job.id)
    return job


def _ask_about_sizes(session: Session, lines: Lines, found: FeatureLinesResult) -> None:
    """Raises SizesAsked where nobody was asked yet and no lathe of the shop holds it, or its units are mixed."""
    if lines.sizes_meant:
        return
    largest = largest_of([room_of(one) for one in shop.machines(session)])
    if doubt := doubted(found.features, lines.unit, largest):
        raise SizesAsked(doubt)


def add_features(session: Session, state: JobState, lines: Lines, *, by_id: UUID, sent_id: UUID) -> list[Feature]:
    """More features of the part that is made, lettered on from the last. Raises NotUnderstood, InputError, HandedOver.
    Commits nothing.
    """
    state.must_be_open()
    used = len(parts.letters_of(session, state.job.id))
    found = read_lines(lines, after=used)
    found = as_part_of(found, state.lettered)
    if session.get(Feature, parts.own_id(sent_id, "feature 0")):
        return _must_be_the_same(session, found, sent_id)  # the form was sent before
    if len(state.features) + len(found.features) > MOST_FEATURES:
        raise InputError(
            f"This job has {len(state.features)} features, and a part here has at most {MOST_FEATURES}.",
            "Start another job for the rest.",
            field="lines",
        )
    partners = _partners_of_other_jobs(session, found)
    default = state.in_force.default
    part = session.get_one(Part, default.row.part_id) if default.made_here else None
    return _write(
        session,
        state.job,
        found,
        partners,
        part=part,
        used=used,
        by_id=by_id,
        sent_id=sent_id,
    )


def _must_be_the_same(session: Session, found: FeatureLinesResult, sent_id: UUID) -> list[Feature]:
    """The features a form was kept as. Raises AlreadySent where its lines say something else now."""
    kept = parts.features_sent(session, sent_id)
    if [row.line_text for row in kept] != [read.text for read in found.features]:
        shown = "; ".join(row.line_text for row in kept)
        raise AlreadySent(f"This form had been sent before with other lines; the first ones stand: {shown[:200]}.")
    return kept


def _write(
    session: Session,
    job: Job,
    found: FeatureLinesResult,
    partners: dict[str, "PartnerOfOtherJob"],
    *,
    used: int,
    by_id: UUID,
    sent_id: UUID,
    part: Part | None = None,
) -> list[Feature]:
    part = part or parts.add_part(session, job, made_here=True)
    written = []
    for index, (read, step) in enumerate(zip(found.features, found.working, strict=True)):
        feature = parts.add_feature(
            session,
            part,
            id=parts.own_id(sent_id, f"feature {index}"),
            letter=letter_of(used + index),
            kind=read.kind,
            by_id=by_id,
            line_text=read.text,
            through=read.through,
        )
        append(session, limits_read(feature, read, [step.model_dump(mode="json")], version=1, by_id=by_id))
        written.append(feature)
    used += len(written)
    for feature, read in zip(written, found.features, strict=True):
        if partner := partners.get(read.letter):
            _join(session, job, feature, partner, letter=letter_of(used), by_id=by_id)
            used += 1
    return written


@dataclass(frozen=True, slots=True)
class PartnerOfOtherJob:
    """A feature of another job that one of this goes with: its kind, what it is called, and what is known of its size,
    as a callout.
    """

    kind: KindName
    title: str
    callout: str


def _partners_of_other_jobs(session: Session, found: FeatureLinesResult) -> dict[str, PartnerOfOtherJob]:
    """What the lines say goes with a feature of another job, by letter. Raises NotDefined where there is none, or no
    size of it.
    """
    found_partners: dict[str, PartnerOfOtherJob] = {}
    for read in found.features:
        if not read.goes_with:
            continue
        kind = MEMBER_FEATURE[read.goes_with]
        try:
            state = _partner_state(session, read, kind)
            title = f"job {state.job.number}, feature {state.letter}"
            found_partners[read.letter] = PartnerOfOtherJob(kind, title, _size_callout(state))
        except NotDefined as error:
            error.field = "lines"
            raise
    return found_partners


def _partner_state(session: Session, read: FeatureRead, kind: KindName) -> JobState:
    """The feature meant: by its letter, else the first of that kind which is made there."""
    state = state_numbered(session, read.goes_with_job or 0, read.goes_with_letter)
    among = (state,) if read.goes_with_letter else state.made
    of_kind = next((one for one in among if one.in_hand.row.kind == kind), None)
    if of_kind is None:
        raise NotDefined(
            f"Job {read.goes_with_job} makes no {read.goes_with}.", "Name its letter, like bore C of job 104."
        )
    return of_kind


def _size_callout(state: JobState) -> str:
    """As measured, with what the readings are worth; while metal is still to come off, or before, its limits."""
    sizes, limits = state.own_readings, state.both_limits
    if sizes.count and not state.is_in_work:
        worth = max(group.uncertainty_mm for group in sizes.groups)
        ends = (sizes.smallest_mm - worth, sizes.largest_mm + worth)
    elif limits is not None:
        ends = (limits.lower_mm, limits.upper_mm)
    else:
        raise NotDefined(
            f"No size of feature {state.letter} of job {state.job.number} is known.",
            "Measure it there, or give its limits first.",
        )
    return "/".join(show_exact(mm, state.unit) for mm in ends)


def _join(
    session: Session, job: Job, feature: Feature, partner: PartnerOfOtherJob, *, letter: str, by_id: UUID
) -> None:
    """The partner at hand here, said as it is known there, and the joint. Commits nothing."""
    part = parts.add_part(session, job, made_here=False, title=partner.title, by_id=by_id)
    row = parts.add_feature(
        session, part, id=parts.own_id(feature.id, "partner"), letter=letter, kind=partner.kind, by_id=by_id
    )
    said = PartnerStatement(
        id=parts.own_id(feature.id, "callout"), job_id=job.id, feature_id=row.id, callout=partner.callout, by_id=by_id
    )
    append(session, said)
    parts.join(session, feature, row)


def limits_read(
    feature: Feature,
    read: FeatureRead,
    working: list[dict[str, object]],
    *,
    version: int,
    by_id: UUID,
    reason: str = "",
    id: UUID | None = None,
) -> Limits:
    """One version of what a line requires of a feature; between two limits the middle is aimed at."""
    lower, upper = _mm(read.lower), _mm(read.upper)
    return Limits(
        id=id or parts.own_id(feature.id, f"limits {version}"),
        job_id=feature.job_id,
        feature_id=feature.id,
        version=version,
        limits_from=read.limits_from,
        option_name=read.text,
        text=read.text,
        nominal_mm=_mm(read.nominal),
        lower_mm=lower,
        upper_mm=upper,
        aim_mm=(lower + upper) / 2 if lower is not None and upper is not None else None,
        inputs={},
        option={"working": working},
        duty=read.duty,
        true_to=read.true_to,
        along=read.along,
        by_id=by_id,
        reason=reason,
    )


def _mm(length: Length | None) -> Decimal | None:
    return length.mm if length else None
