"""Everything recorded of a job, gathered from the log as the record shows it and exports it."""

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy.orm import Session

from nomisma.core.part.feature import SEVERITY, State
from nomisma.core.part.trial_wanted import trial_outcomes
from nomisma.core.registry import calculations
from nomisma.exchange.record import (
    JobRecord,
    RecordedAnswer,
    RecordedAssembly,
    RecordedChoice,
    RecordedCut,
    RecordedDisposition,
    RecordedEvent,
    RecordedFeature,
    RecordedLimits,
    RecordedReading,
    RecordedTrial,
)
from nomisma.jobs.closing.record_plan import recorded_plan
from nomisma.jobs.closing.record_truing import recorded_truings
from nomisma.jobs.standing.limits_in_force import LIMITS_FROM_TITLES, feature_within
from nomisma.jobs.standing.state import JobState
from nomisma.store import assembly, jobs, readings, shop
from nomisma.store.by_version import by_version
from nomisma.store.checks import FailedCalibration, calibration_failed, failed_calibrations
from nomisma.store.cuts import CutOnRecord, cuts_of_features
from nomisma.store.jobs import JointInForce
from nomisma.store.models import Disposition, KeptAnswer, Limits
from nomisma.store.readings import LoggedReading
from nomisma.store.trials import trials


@by_version("job")
def record_of(
    session: Session,
    state: JobState,
    *,
    last: int | None = None,
) -> JobRecord:
    """Everything recorded of a job, from the log; only the `last` so many readings of each member if given."""
    windows = failed_calibrations(session)
    ids = [one.feature_id for one in state.features]
    history = _by_feature(jobs.limits_history(session, *ids))
    logged, taken = readings.logs(session, ids, last=last), cuts_of_features(session, ids)
    gauges = {row.id: row.name for row in shop.instruments(session)}
    return JobRecord(
        number=state.job.number,
        title=state.job.title,
        asked=state.job.asked,
        unit=state.unit,
        partner_kind=state.partner_kind if state.joint else "",
        made_kind=state.made_kind if state.joint else "",
        partner_callout=state.partner_callout,
        machine=state.job.machine.name if state.job.machine else "",
        started_by=state.job.by.name,
        started_at=state.job.at,
        verdict=worst_words(state),
        features=[_feature(one) for one in state.features],
        limits=[row for one in state.features for row in _limits(one, history.get(one.feature_id, []))],
        choices=[
            RecordedChoice(name=row.name, value=row.value, reason=row.reason, by=row.by.name, at=row.at)
            for row in jobs.choices(session, state.job.id)
        ],
        plan=recorded_plan(session, state),
        truings=recorded_truings(session, state),
        cuts=[row for one in state.features for row in _cuts(one, taken.get(one.feature_id, []))],
        readings=[
            _reading(item, one, history.get(one.feature_id, []), windows, gauges)
            for one in in_order(state)
            for item in logged.get(one.feature_id, ())
        ],
        trials=_trials(session, state),
        dispositions=[_disposition(row, state) for row in jobs.dispositions(session, *ids)],
        answers=recorded_answers(session, state),
        assemblies=[row for joint in state.in_force.joints for row in _assemblies(session, state, joint)],
        events=[
            RecordedEvent(kind=row.kind, note=row.note, by=row.by.name, at=row.at)
            for row in jobs.events(session, state.job.id)
        ],
    )


def in_order(state: JobState) -> tuple[JobState, ...]:
    """The job at each of its features, those at hand first: what was there is read before what is made."""
    return tuple(sorted(state.features, key=lambda one: one.in_hand.made_here))


def worst_words(state: JobState) -> str:
    """The worst verdict of the features that are made, in words; empty while nothing is out and something is not
    measured yet.
    """
    found = [one.verdict.state for one in state.made if one.verdict]
    worst = max(found, key=SEVERITY.index, default=State.IN_LIMITS)
    complete = bool(found) and all(
        one.verdict or (one.requirement and one.limits is None and (one.may_be_left or not one.is_compared))
        for one in state.made
    )
    return worst.words if complete or worst is not State.IN_LIMITS else ""


def _feature(state: JobState) -> RecordedFeature:
    found, wanted, sizes = state.verdict, state.requirement, state.own_readings
    other = state.partner_feature
    return RecordedFeature(
        letter=state.letter,
        kind=state.kind,
        title=state.called,
        part=state.in_hand.row.part.title,
        made_here=state.in_hand.made_here,
        withdrawn=state.in_hand.withdrawn,
        written=(wanted.text if wanted else "") or state.in_hand.callout,
        lower_mm=state.feature.lower_mm,
        upper_mm=state.feature.upper_mm,
        smallest_mm=sizes.smallest_mm if sizes.count else None,
        largest_mm=sizes.largest_mm if sizes.count else None,
        reading_count=state.times_read,
        places="; ".join(
            dict.fromkeys([*(group.place for group in sizes.groups), *(row.place for row in state.own_trials)])
        ),
        verdict=found.state.words if found else "",
        said=state.words,
        goes_with=other.row.letter if other else "",
        duty=state.duty.words,
        along=state.along.words,
    )


def _by_feature(rows: Sequence[Limits]) -> dict[UUID, list[Limits]]:
    found: dict[UUID, list[Limits]] = {}
    for row in rows:
        found.setdefault(row.feature_id, []).append(row)
    return found


def _limits(state: JobState, history: Sequence[Limits]) -> list[RecordedLimits]:
    return [
        RecordedLimits(
            feature=state.letter,
            version=row.version,
            limits_from=LIMITS_FROM_TITLES[row.limits_from],
            name=row.option_name,
            written=row.text,
            lower_mm=row.lower_mm,
            upper_mm=row.upper_mm,
            aim_mm=row.aim_mm,
            set_by=row.by.name,
            set_at=row.at,
            reason=row.reason,
        )
        for row in history
    ]


def _cuts(state: JobState, found: Sequence[CutOnRecord]) -> list[RecordedCut]:
    return [
        RecordedCut(
            feature=state.letter,
            piece=one.row.piece,
            cut_number=one.row.cut_number,
            set_up=one.row.set_up,
            dialled=one.row.dialled_text,
            dialled_mm=one.row.dialled_mm,
            last_pass_mm=one.row.last_pass_mm,
            means=one.row.means,
            before_mm=one.before_mm,
            after_mm=one.after_mm,
            expected_mm=one.row.expected_mm,
            expected_low_mm=one.row.expected_low_mm,
            expected_high_mm=one.row.expected_high_mm,
            by=one.row.by.name,
            at=one.row.at,
        )
        for one in found
    ]


def _assemblies(session: Session, state: JobState, joint: JointInForce) -> list[RecordedAssembly]:
    plan = assembly.newest_plan(session, joint.row.id)
    letters = " in ".join(state.at(one).letter for one in (joint.row.external_id, joint.row.internal_id))
    return [
        RecordedAssembly(
            joint=letters,
            method=plan.method if plan and plan.id == row.plan_id else "",
            felt=row.felt.replace("_", " "),
            force=row.force_text,
            size_before=row.size_before_text,
            size_before_mm=row.size_before_mm,
            size_after=row.size_after_text,
            size_after_mm=row.size_after_mm,
            unit=row.size_unit,
            close_in_factor=row.close_in_factor,
            note=row.note,
            by=row.by.name,
            at=row.at,
        )
        for row in assembly.results_of(session, joint.row.id)
    ]


def recorded_answers(session: Session, state: JobState) -> list[RecordedAnswer]:
    """The answers that were kept with a job, oldest first."""
    return [_answer(row, state) for row in jobs.kept_answers(session, state.job.id)]


def _answer(row: KeptAnswer, state: JobState) -> RecordedAnswer:
    known = calculations().get(row.calculation)
    return RecordedAnswer(
        feature=state.at(row.feature_id).letter,
        calculation=row.calculation,
        title=known.title if known else row.calculation,
        asked=row.asked,
        unit=row.unit,
        answer=row.answer,
        note=row.note,
        by=row.by.name,
        at=row.at,
    )


def _trials(session: Session, state: JobState) -> list[RecordedTrial]:
    found = []
    for row in trials(session, [one.feature_id for one in state.features if one.feature.of_kind.trials_as]):
        at = state.at(row.feature_id)
        outcomes = trial_outcomes(at.feature.of_kind.trials_as or "")
        found.append(
            RecordedTrial(
                feature=at.letter,
                piece=row.piece,
                place=row.place,
                outcome=outcomes[row.outcome].title,
                tried_with=row.tried_with,
                orientation=row.orientation,
                note=row.note,
                counts=row.id in {one.id for one in at.own_trials},
                verdict_now=at.state_of_trial(row).words,
                by=row.by.name,
                at=row.at,
            )
        )
    return found


def _disposition(row: Disposition, state: JobState) -> RecordedDisposition:
    return RecordedDisposition(
        feature=state.at(row.feature_id).letter,
        kind=row.kind,
        piece=row.piece,
        state=row.state,
        reason=row.reason,
        readings=" ".join(row.reading_ids),
        by=row.by.name,
        at=row.at,
    )


def _reading(
    item: LoggedReading,
    state: JobState,
    history: list[Limits],
    windows: dict[UUID, list[FailedCalibration]],
    gauges: dict[UUID, str],
) -> RecordedReading:
    row = item.row
    then = next((limits for limits in history if limits.id == row.limits_id), None)
    judged = state.in_hand.made_here and not row.withdrawn
    return RecordedReading(
        id=str(row.id),
        feature=state.letter,
        member="made" if state.in_hand.made_here else "partner",
        place=row.place,
        entered=row.size_text,
        entered_unit=row.size_unit,
        size_mm=row.size_mm,
        cut_number=row.cut_number,
        piece=row.piece,
        instrument=item.instrument.name,
        transfer=gauges.get(row.transfer_id, "") if row.transfer_id else "",
        zero_error_mm=row.zero_error_mm,
        temperature_c=row.temperature_c,
        material=row.material,
        conditions=row.conditions,
        calibration_failed=calibration_failed(windows, item.instrument, row.at),
        uncertainty_mm=item.uncertainty_mm,
        limits_version=then.version if then else None,
        verdict_then=_words(state, item, then) if judged else "",
        verdict_now=_words(state, item, state.limits) if judged and item.stands else "",
        stands=item.stands,
        supersedes=str(row.supersedes_id or ""),
        reason=row.reason,
        withdrawn=row.withdrawn,
        asked_first=f"{item.suspect.size_text}: {item.suspect.sentence}" if item.suspect else "",
        by=item.by,
        at=row.at,
    )


def _words(state: JobState, item: LoggedReading, limits: Limits | None) -> str:
    found = item.state_within(feature_within(state.kind, limits), state.acceptance)
    return found.words if found else ""
