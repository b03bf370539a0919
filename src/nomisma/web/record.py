"""Record: one page of the job, who and when; prints cleanly, downloads as CSV and JSON; hand-over."""

from collections import Counter
from collections.abc import Sequence
from uuid import UUID

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.errors import InputError
from nomisma.core.part.feature import SEVERITY, State
from nomisma.exchange.data_package import as_data_package
from nomisma.exchange.record import (
    JobRecord,
    RecordedAssembly,
    RecordedChoice,
    RecordedCut,
    RecordedDecision,
    RecordedEvent,
    RecordedFeature,
    RecordedLimits,
    RecordedReading,
    as_csv,
    as_json,
)
from nomisma.jobs.limits_in_force import SCHOOL_TITLES, feature_within
from nomisma.jobs.state import JobState
from nomisma.store import assembly, jobs, readings, shop
from nomisma.store.append import append
from nomisma.store.checks import DoubtWindow, doubt_windows, in_doubt, jobs_in_doubt
from nomisma.store.cuts import TakenCut, cuts_of_features
from nomisma.store.jobs import JointStanding
from nomisma.store.models import Decision, JobEvent, Limits
from nomisma.store.readings import LoggedReading
from nomisma.web.job_in_hand import href, job_in_hand
from nomisma.web.measure import judged_log, strip_of
from nomisma.web.pages import page
from nomisma.web.part_section import section_of_job
from nomisma.web.reading_form import feature_log, plan_of
from nomisma.web.record_truing import recorded_truings
from nomisma.web.visit import NotAllowed, Post, Visit, posted, signed_in

router = APIRouter(include_in_schema=False)
SHOWN_READINGS = 40
STRIP_READINGS = 24


def record_of(
    visit: Visit, state: JobState, *, last: int | None = None, windows: dict[UUID, list[DoubtWindow]] | None = None
) -> JobRecord:
    """Everything recorded of a job, from the log; only the `last` so many readings of each member if given."""
    windows = doubt_windows(visit.db) if windows is None else windows
    ids = [one.feature_id for one in state.features]
    history = _by_feature(jobs.limits_history(visit.db, *ids))
    logged, taken = readings.logs(visit.db, ids, last=last), cuts_of_features(visit.db, ids)
    gauges = {row.id: row.name for row in shop.instruments(visit.db)}
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
            for row in jobs.choices(visit.db, state.job.id)
        ],
        truings=recorded_truings(visit, state),
        cuts=[row for one in state.features for row in _cuts(one, taken.get(one.feature_id, []))],
        readings=[
            _reading(item, one, history.get(one.feature_id, []), windows, gauges)
            for one in in_order(state)
            for item in logged.get(one.feature_id, ())
        ],
        decisions=[_decision(row, state) for row in jobs.decisions(visit.db, *ids)],
        assemblies=[row for joint in state.standing.joints for row in _assemblies(visit, state, joint)],
        events=[
            RecordedEvent(kind=row.kind, note=row.note, by=row.by.name, at=row.at)
            for row in jobs.events(visit.db, state.job.id)
        ],
    )  # fmt: skip


def in_order(state: JobState) -> tuple[JobState, ...]:
    """The job at each of its features, those at hand first: what was there is read before what is made."""
    return tuple(sorted(state.features, key=lambda one: one.in_hand.made_here))


def worst_words(state: JobState) -> str:
    """The worst verdict of the features that are made, in words; empty while nothing is out and something is not measured yet."""
    found = [one.verdict.state for one in state.made if one.verdict]
    worst = max(found, key=SEVERITY.index, default=State.IN_LIMITS)
    complete = bool(found) and all(one.verdict or (one.requirement and one.limits is None) for one in state.made)
    return worst.words if complete or worst is not State.IN_LIMITS else ""


def _feature(state: JobState) -> RecordedFeature:
    found, wanted, sizes = state.verdict, state.requirement, state.own_readings
    other = state.partner_feature
    return RecordedFeature(
        letter=state.letter,
        kind=state.kind,
        title=state.in_hand.row.title or state.feature.title,
        part=state.in_hand.row.part.title,
        made_here=state.in_hand.made_here,
        withdrawn=state.in_hand.withdrawn,
        written=(wanted.text if wanted else "") or state.in_hand.callout,
        lower_mm=state.feature.lower_mm,
        upper_mm=state.feature.upper_mm,
        smallest_mm=sizes.smallest_mm if sizes.count else None,
        largest_mm=sizes.largest_mm if sizes.count else None,
        reading_count=sizes.count,
        places="; ".join(dict.fromkeys(group.place for group in sizes.groups)),
        verdict=found.state.words if found else "",
        said=state.words,
        goes_with=other.row.letter if other else "",
    )


def _by_feature(rows: Sequence[Limits]) -> dict[UUID, list[Limits]]:
    found: dict[UUID, list[Limits]] = {}
    for row in rows:
        found.setdefault(row.feature_id, []).append(row)
    return found


def _limits(state: JobState, history: Sequence[Limits]) -> list[RecordedLimits]:
    return [
        RecordedLimits(
            feature=state.letter, version=row.version, school=SCHOOL_TITLES[row.school], name=row.option_name, written=row.text,
            lower_mm=row.lower_mm, upper_mm=row.upper_mm, aim_mm=row.aim_mm, set_by=row.by.name, set_at=row.at, reason=row.reason,
        )
        for row in history
    ]  # fmt: skip


def _cuts(state: JobState, found: Sequence[TakenCut]) -> list[RecordedCut]:
    return [
        RecordedCut(
            feature=state.letter, piece=one.row.piece, cut_number=one.row.cut_number, set_up=one.row.set_up, dialled=one.row.dialled_text,
            dialled_mm=one.row.dialled_mm, last_pass_mm=one.row.last_pass_mm, means=one.row.means,
            before_mm=one.before_mm, after_mm=one.after_mm, expected_mm=one.row.expected_mm,
            expected_low_mm=one.row.expected_low_mm, expected_high_mm=one.row.expected_high_mm, by=one.row.by.name, at=one.row.at,
        )
        for one in found
    ]  # fmt: skip


def _assemblies(visit: Visit, state: JobState, joint: JointStanding) -> list[RecordedAssembly]:
    plan = assembly.plan_of(visit.db, joint.row.id)
    letters = " in ".join(state.at(one).letter for one in (joint.row.external_id, joint.row.internal_id))
    return [
        RecordedAssembly(
            joint=letters, method=plan.method if plan and plan.id == row.plan_id else "", felt=row.felt.replace("_", " "), force=row.force_text,
            size_before=row.size_before_text, size_before_mm=row.size_before_mm, size_after=row.size_after_text,
            size_after_mm=row.size_after_mm, unit=row.size_unit, close_in_factor=row.close_in_factor, note=row.note, by=row.by.name,
            at=row.at,
        )
        for row in assembly.results_of(visit.db, joint.row.id)
    ]  # fmt: skip


def _decision(row: Decision, state: JobState) -> RecordedDecision:
    return RecordedDecision(
        feature=state.at(row.feature_id).letter, kind=row.kind, piece=row.piece, state=row.state, reason=row.reason,
        readings=" ".join(row.reading_ids), by=row.by.name, at=row.at,
    )  # fmt: skip


def _reading(
    item: LoggedReading,
    state: JobState,
    history: list[Limits],
    windows: dict[UUID, list[DoubtWindow]],
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
        in_doubt=in_doubt(windows, item.instrument, row.at),
        uncertainty_mm=item.uncertainty_mm,
        limits_version=then.version if then else None,
        verdict_then=_words(state, item, then) if judged else "",
        verdict_now=_words(state, item, state.limits) if judged and item.stands else "",
        stands=item.stands,
        supersedes=str(row.supersedes_id or ""),
        reason=row.reason,
        withdrawn=row.withdrawn,
        asked_first=f"{item.doubt.size_text}: {item.doubt.sentence}" if item.doubt else "",
        by=item.by,
        at=row.at,
    )


def _words(state: JobState, item: LoggedReading, limits: Limits | None) -> str:
    feature = feature_within(state.kind, limits)
    return feature.judge(item.row.size_mm, item.uncertainty_mm, state.acceptance).words if feature.is_judged else ""


@router.get("/jobs/{number}/record")
def show(number: int, visit: Visit = Depends(signed_in), every: bool = False) -> Response:
    """The record as a page: the newest readings of each member, or every one, for printing."""
    return _page(visit, job_in_hand(visit, number), last=None if every else SHOWN_READINGS)


def _page(
    visit: Visit,
    state: JobState,
    *,
    last: int | None = SHOWN_READINGS,
    status: int = 200,
    error: InputError | None = None,
    note: str = "",
) -> Response:
    windows = doubt_windows(visit.db)
    record = record_of(visit, state, last=last, windows=windows)
    judged = judged_log(visit, state, readings.log(visit.db, state.feature_id, last=STRIP_READINGS))
    shortened = last is not None and max(Counter(row.feature for row in record.readings).values(), default=0) >= last
    return page(
        visit, "record.html", status=status, own_unit=state.unit, state=state, job=state.job, record=record,
        strip=strip_of(state, judged), stage="record", error=error, note=note,
        section=section_of_job(state) if state.joint is None else "", words={s.words: s for s in State},
        shortened=last if shortened else None, not_theirs=_not_theirs(visit, state, windows),
    )  # fmt: skip


def _download(text: str, kind: str, number: int, ending: str) -> Response:
    name = f"nomisma-job-{number}.{ending}"
    return Response(text, media_type=kind, headers={"content-disposition": f'attachment; filename="{name}"'})


@router.get("/jobs/{number}/record.json")
def download_json(number: int, visit: Visit = Depends(signed_in)) -> Response:
    """The record as JSON."""
    return _download(as_json(record_of(visit, job_in_hand(visit, number))), "application/json", number, "json")


@router.get("/jobs/{number}/record.csv")
def download_csv(number: int, visit: Visit = Depends(signed_in)) -> Response:
    """The readings as CSV."""
    return _download(as_csv(record_of(visit, job_in_hand(visit, number))), "text/csv; charset=utf-8", number, "csv")


@router.get("/jobs/{number}/record.zip")
def download_package(number: int, visit: Visit = Depends(signed_in)) -> Response:
    """The record as a Frictionless Data Package."""
    content = as_data_package(record_of(visit, job_in_hand(visit, number)))
    headers = {"content-disposition": f'attachment; filename="nomisma-job-{number}.zip"'}
    return Response(content, media_type="application/zip", headers=headers)


@router.post("/jobs/{number}/events")
def write_event(number: int, post: Post = Depends(posted)) -> Response:
    """Hand a job over, or take it up again."""
    visit, form, state = post.visit, post.form, job_in_hand(post.visit, number)
    kind = form.choice("kind", ("handed_over", "taken_up_again"))
    note = form.text("note", longest=500)
    repeat = visit.db.get(JobEvent, form.client_id()) if form.text("client_id") else None
    try:
        if not repeat:
            _check_event(visit, state, kind, note)
    except InputError as error:
        return _page(visit, state, status=422, error=error, note=note)
    if not repeat:
        append(visit.db, JobEvent(id=form.client_id(), job_id=state.job.id, kind=kind, note=note, by_id=visit.account.id))
        visit.db.commit()
    return RedirectResponse(href(state, "record"), 303)


def _check_event(visit: Visit, state: JobState, kind: str, note: str) -> None:
    if (kind == "handed_over") == state.handed_over:
        raise InputError(
            f"This job is {'handed over already' if state.handed_over else 'still open'}.", "Look at it again.", field="note"
        )
    if refusal := _not_theirs(visit, state, doubt_windows(visit.db)):
        raise NotAllowed(refusal)
    if kind == "handed_over" and not note and not _is_good(state):
        raise InputError("This job is not in limits.", "Say in the note why it is handed over all the same.", field="note")
    if kind == "handed_over" and not note and (unread := _unread(visit, state)):
        raise InputError(
            f"Not all places of the plan were read: {unread}.",
            "Read them on Measure, or say in the note why what was read is enough.",
            field="note",
        )


def _not_theirs(visit: Visit, state: JobState, windows: dict[UUID, list[DoubtWindow]]) -> str:
    """Why somebody in this role may not hand the job over now, or take it up again; empty where they may."""
    if visit.account.role == "apprentice":
        return "A job is handed over, or taken up again, by a machinist or the lead. Ask one of them."
    if state.handed_over or visit.account.role == "lead":
        return ""
    if windows and state.job.id in jobs_in_doubt(visit.db, windows, [state.job.id]):
        return (
            "Readings of this job are in doubt, because an instrument failed its check: only the lead can hand it over. "
            "Measure again and withdraw what was wrong, or call the lead."
        )
    return "" if _is_good(state) else "This job is not in limits, so only the lead can hand it over. Call the lead."


def _is_good(state: JobState) -> bool:
    """Whether each feature that is made is in limits, measured for reference, or decided to be used as it is."""
    return all(_feature_is_good(one) for one in state.made)


def _feature_is_good(state: JobState) -> bool:
    found = state.verdict
    if not state.is_measured:
        return True
    if state.limits is None and state.requirement is not None:
        return bool(state.own_readings.count)
    return _used_as_is(state) or (found is not None and found.state is State.IN_LIMITS)


def _unread(visit: Visit, state: JobState) -> str:
    """The places of the plan that were not read since the last cut, in words; empty where all were. Any so many places count."""
    for one in (one for one in state.made if one.is_measured):
        if missing := _unread_of(visit, one):
            return f"{one.letter}, {missing}" if len(state.made) > 1 else missing
    return ""


def _unread_of(visit: Visit, state: JobState) -> str:
    newest: dict[str, tuple[int, set[str]]] = {}
    for one in feature_log(visit, state):
        if one.stands:
            cut, places = newest.get(one.row.piece, (-1, set()))
            if one.row.cut_number > cut:
                cut, places = one.row.cut_number, set()
            newest[one.row.piece] = (cut, {*places, one.row.place})
    plan = plan_of(state)
    for piece, (_, places) in newest.items():
        if len(places) < len(plan):
            missing = ", ".join(place for place in plan if place not in places)
            return f"{missing} of piece {piece}" if piece else missing
    return ""


def _used_as_is(state: JobState) -> bool:
    """Whether the lead has decided that it is used as it is, and nothing was measured since."""
    found = state.in_hand.decision
    return found is not None and found.kind == "use_as_is" and bool(state.decided) and not state.is_batch
