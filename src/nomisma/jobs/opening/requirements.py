"""What is required of a feature, and of how many pieces: put in force as a new version, withdrawn, put back; nothing is
overwritten.
"""

from uuid import UUID

from sqlalchemy.orm import Session

from nomisma.core.errors import InputError, needed, refused_as
from nomisma.core.fits.partner import PartnerInput, partner_from
from nomisma.core.measuring.feature import PLANS
from nomisma.core.number import whole_from
from nomisma.core.part.along import AxialPlace, place_in_words
from nomisma.core.part.duty import FeatureDuty
from nomisma.core.part.feature import ACCEPTANCE_WORDS
from nomisma.core.planning.feature_lines import read_as
from nomisma.core.quantity.callout import with_unit_in_force
from nomisma.jobs.opening.new_job import limits_read
from nomisma.jobs.shop.choices import choose
from nomisma.jobs.standing.permissions import check_loosening, reason_to_judge_anew, reason_to_plan_anew
from nomisma.jobs.standing.state import JobState
from nomisma.store import jobs
from nomisma.store.append import append, sent_before
from nomisma.store.models import Account, Feature, FeatureEvent, Limits, PartnerStatement

MOST_PIECES = 1000


def set_by_line(
    session: Session,
    state: JobState,
    text: str,
    *,
    based_on: int,
    by: Account,
    sent_id: UUID,
    why: str = "",
    judge_reason: str = "",
) -> Limits:
    """Put what a line says in force for the feature in hand, as the version after the one that was seen.

    The line may name the feature (bore .800 +.004/-0) or give the size alone (.800 +.004/-0). `judge_reason`: asked for
    where a piece is out. Raises InputError, NotAllowed, AlreadyChanged, HandedOver. Commits nothing.
    """
    reason = reason_to_judge_anew(by, state, judge_reason) or why
    try:
        read, step = read_as(state.in_hand.row.kind, needed(text, "line"), state.unit)
    except InputError as error:
        error.field = "line"
        raise
    row = session.get_one(Feature, state.feature_id)
    if not read.duty:
        read = read.model_copy(update={"duty": state.duty.name, "true_to": state.duty.true_to})
    if not read.along:
        read = read.model_copy(update={"along": state.along.words})
    limits = limits_read(row, read, [step.model_dump(mode="json")], version=0, by_id=by.id, reason=reason, id=sent_id)
    check_loosening(by, state, limits, field="judge_reason" if state.a_piece_is_out else "why")
    return jobs.set_limits(session, limits, based_on_version=based_on)


def set_duty_and_place(
    session: Session,
    state: JobState,
    duty: FeatureDuty,
    along: str,
    *,
    based_on: int,
    by: Account,
    sent_id: UUID,
    judge_reason: str = "",
) -> Limits:
    """Say what the feature in hand is there for and where it lies along the axis: a new version of what is required of
    it.

    Its limits stay; an empty place takes back what was said. The duty says how much is measured of it, so that once a
    piece is out it is the lead's to change.

    Raises InputError where nothing is required of it yet, or it must be true to what is not there; NotAllowed,
    AlreadyChanged, HandedOver. Commits nothing.
    """
    reason = reason_to_plan_anew(by, state, judge_reason)
    newest = state.requirement
    if newest is None:
        raise InputError("Nothing is required of it yet.", "Give its limits first.", field="duty")
    if duty.true_to and duty.true_to not in {one.letter for one in state.made if one.letter != state.letter}:
        raise InputError(f"There is no other feature {duty.true_to[:4]}.", "Give the letter of one.", field="true_to")
    place = _place_on_part(state, along)
    row = Limits(
        id=sent_id,
        job_id=newest.job_id,
        feature_id=newest.feature_id,
        version=0,
        limits_from=newest.limits_from,
        option_name=newest.option_name,
        text=newest.text,
        nominal_mm=newest.nominal_mm,
        lower_mm=newest.lower_mm,
        upper_mm=newest.upper_mm,
        aim_mm=newest.aim_mm,
        inputs=newest.inputs,
        option=newest.option,
        by_id=by.id,
        reason=reason or newest.reason,
        duty=duty.name,
        true_to=duty.true_to,
        along=place.words,
    )
    return jobs.set_limits(session, row, based_on_version=based_on)


def _place_on_part(state: JobState, along: str) -> AxialPlace:
    try:
        place = place_in_words(along, state.unit)
    except InputError as error:
        error.field = "along"
        raise
    if place.letter and place.letter not in {one.letter for one in state.made if one.letter != state.letter}:
        raise InputError(f"There is no other feature {place.letter}.", "Give the letter of one.", field="along")
    return place


def say_partner(session: Session, state: JobState, callout: str, *, by: Account, sent_id: UUID) -> PartnerStatement:
    """Say the feature that goes with the one in hand by a callout; empty lets its readings count again. Raises
    InputError, HandedOver.

    Commits nothing.
    """
    state.must_be_open()
    partner = state.must_have_a_joint()
    if callout:
        callout = with_unit_in_force(callout, state.unit)
        partner_from(PartnerInput(kind=state.partner_kind, callout=callout))
    said = PartnerStatement(id=sent_id, job_id=state.job.id, feature_id=partner.row.id, callout=callout, by_id=by.id)
    return append(session, said)


def withdraw(
    session: Session,
    state: JobState,
    *,
    reason: str,
    by: Account,
    sent_id: UUID,
    back: bool = False,
    judge_reason: str = "",
) -> FeatureEvent:
    """Take the feature in hand out of what counts, or put it back; its readings stay on record.

    Raises InputError, NotAllowed, HandedOver. Commits nothing.
    """
    kind, why = "put_back" if back else "withdrawn", "; ".join(filter(None, (reason, judge_reason)))
    if kept := sent_before(session, FeatureEvent, sent_id, feature_id=state.feature_id, kind=kind, reason=why):
        return kept
    reason_to_judge_anew(by, state, judge_reason)
    needed(reason, "reason")
    if not back and state.joint is not None:
        raise InputError(
            f"Feature {state.letter} belongs to a joint.",
            "The joint is what this job is about: start another job instead.",
            field="reason",
        )
    if not back and len(state.made) == 1:
        raise InputError("It is the only feature of the part.", "Add another one first.", field="reason")
    return append(session, FeatureEvent(id=sent_id, feature_id=state.feature_id, kind=kind, reason=why, by_id=by.id))


def plan_measuring(
    session: Session, state: JobState, wanted: dict[str, str], *, by: Account, judge_reason: str = ""
) -> None:
    """Pieces, measuring plan and acceptance of the job, where they differ from what is in force. Raises InputError,
    NotAllowed, HandedOver.

    Commits nothing; earlier choices stay on record.
    """
    reason = reason_to_plan_anew(by, state, judge_reason)
    _check_plan(state, wanted)
    choose(session, wanted, by=by, job_id=state.job.id, reason=reason, in_force=plan_in_force(state))


def make_pieces(session: Session, state: JobState, pieces: int, *, by: Account) -> None:
    """So many pieces are made of a job that was just started; of several one place is measured each. Commits
    nothing.
    """
    if pieces != state.in_force.pieces_wanted:
        wanted = {**plan_in_force(state), "pieces": str(pieces), "measuring_plan": "one" if pieces > 1 else "full"}
        plan_measuring(session, state, wanted, by=by)


def plan_in_force(state: JobState) -> dict[str, str]:
    """How many pieces are made of the job, where each is measured, and by which rule it is accepted."""
    found = state.in_force
    return {"pieces": str(found.pieces_wanted), "measuring_plan": found.plan, "acceptance": state.acceptance}


def pieces_from(text: str) -> int:
    """How many pieces, as somebody writes it. Raises InputError."""
    text = needed(text, "pieces")
    with refused_as(
        f"“{text}” is not a number of pieces.", f"Give a whole number from 1 to {MOST_PIECES}.", field="pieces"
    ):
        return whole_from(text, least=1, most=MOST_PIECES)


def _check_plan(state: JobState, wanted: dict[str, str]) -> None:
    pieces = pieces_from(wanted["pieces"])
    measured = [piece for piece in state.pieces_read if piece]
    if pieces == 1 and len(measured) > 1:
        raise InputError(f"{len(measured)} pieces are measured already.", "Give at least that many.", field="pieces")
    for name, known in (("measuring_plan", tuple(PLANS)), ("acceptance", tuple(ACCEPTANCE_WORDS))):
        if wanted[name] not in known:
            raise InputError(
                f"“{wanted[name]}” is not one of the choices.",
                f"Choose {', '.join(known)}.",
                field=name,
                value=wanted[name],
            )
