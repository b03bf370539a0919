"""Make: the page at the lathe. One step at a time: what to do now, one field, one key."""

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.errors import InputError
from nomisma.core.quantity.display import show_exact
from nomisma.jobs.holding.chucking import Chucking
from nomisma.jobs.holding.chucking_log import declare_ready_to_cut, log_runout
from nomisma.jobs.holding.truing_log import set_up_truing
from nomisma.jobs.making.step_log import (
    NotAsShown,
    ShownAs,
    close,
    closed_by_reading,
    must_be_as_shown,
    open_again,
    read_enough,
)
from nomisma.jobs.making.step_times import figures_learnt
from nomisma.jobs.making.steps import Making, Step, go_by, goes_by, goes_on, making_in_hand, of_every_piece
from nomisma.jobs.making.taken_now import go_on_with, take_now
from nomisma.jobs.readings.trial_log import TrialEntry, log_trial
from nomisma.jobs.standing.state import JobState
from nomisma.store.models import Reading, Truing
from nomisma.store.truing import truing_of
from nomisma.web.frame.job_in_hand import href, job_in_hand
from nomisma.web.frame.visit import Form, Post, Visit, posted, signed_in
from nomisma.web.job.chucking import runout_from
from nomisma.web.job.hold import HoldAnswer, mark_it, read_needle, say_it_is_true
from nomisma.web.job.job_page import job_page
from nomisma.web.job.make_shown import Said, step_href, step_shown
from nomisma.web.job.reading_form import log_from
from nomisma.web.job.trials import FIELDS as TRIAL_FIELDS
from nomisma.web.job.truing_set_up import OWN_SWING, set_up_from, typed_of

router = APIRouter(include_in_schema=False)
PARTS = {"work": "job/make/_work.html", "seen": "job/make/_beside.html"}
"""Parts of the page that may be asked for alone."""


@router.get("/jobs/{number}/make")
def show(
    number: int, visit: Visit = Depends(signed_in), step: str = "", piece: str = "", part: str = "", set_up: str = ""
) -> Response:
    """The step the address names, the first open one of the set-up it names, or at which the feature it names is
    measured; else the one in hand.
    """
    state = job_in_hand(visit, number)
    making = making_in_hand(visit.db, state, piece)
    found = making.named(step)
    if found is None and set_up:
        found = making.open_in(set_up) or making.named(f"hold/{set_up}")
    if found is None and visit.request.query_params.get("feature"):
        found = making.where_measured(state.letter)
    note = "That step is not in the plan any more: this one is next." if step and found is None else ""
    return _page(visit, making, found or making.in_hand, part=part, said=Said(note=note))


def _page(
    visit: Visit, making: Making, step: Step | None, *, part: str = "", status: int = 200, said: Said | None = None
) -> Response:
    said = said or Said()
    if step is None:
        return _all_done(visit, making, part, status, said)
    given = step_shown(visit, making, step, said)
    if given["asks"] == "begin_rounds" and step.chucking:
        given |= usual_truing(visit, making.state, step.chucking)
    state: JobState = given.pop("state")
    given |= {"not_as_shown": isinstance(said.error, NotAsShown), "asked_as": _asked_as(state)}
    return job_page(visit, PARTS.get(part, "job/make/page.html"), state, "make", status=status, **given)


def _asked_as(state: JobState) -> str:
    """How the field of a reading is called: by the feature."""
    return f"{state.letter}, {state.feature.title}" if len(state.made) > 1 else state.feature.title.capitalize()


def _all_done(visit: Visit, making: Making, part: str, status: int, said: Said) -> Response:
    state = making.state
    template = "job/make/_all_done.html" if part else "job/make/done.html"
    return job_page(
        visit,
        template,
        state,
        "make",
        status=status,
        plan=making.plan,
        making=making,
        said=said,
        every=of_every_piece(visit.db, state) if state.is_batch else [],
        goes_by=goes_by(visit.db, state),
        learnt=[] if state.handed_over else figures_learnt(visit.db, state),
    )


def _answer(visit: Visit, number: int, sent: "Sent", said: Said, status: int = 200) -> Response:
    """What comes after something was sent: the step that is next then, as a part of the page; by hand, the page."""
    state = job_in_hand(visit, number)
    making = making_in_hand(visit.db, state, sent.piece)
    step = making.named(sent.step)
    if step is None and isinstance(said.error, NotAsShown):
        step = making.where_measured(state.letter)  # what was typed is shown with the feature it was typed for
    if step is not None and step.is_done and status == 200:
        making, step = goes_on(visit.db, making, step)
    if step is None:
        step = making.in_hand
    if not visit.request.headers.get("hx-request") and status == 200:
        return RedirectResponse(step_href(making, step), 303)
    part = "work" if visit.request.headers.get("hx-request") else ""
    answer = _page(visit, making, step, part=part, status=status, said=said)
    if part and status == 200:  # a page loaded anew shows the step that was gone on to
        answer.headers["hx-replace-url"] = step_href(making, step)
    return answer


class Sent:
    """What every form of Make sends beside its own: the step it was shown for, the piece, the lathe."""

    def __init__(self, form: Form) -> None:
        self.step = form.text("step", longest=200)
        self.piece = form.text("piece", longest=40)
        self.shown = ShownAs(self.step, form.text("lathe", longest=40), form.text("anyway") == "yes")


def _begun(post: Post, number: int) -> tuple[Visit, JobState, Making, Sent]:
    """The job as it stands now and what was sent of it. Raises HandedOver."""
    visit, sent = post.visit, Sent(post.form)
    state = job_in_hand(visit, number)
    state.must_be_open()
    return visit, state, making_in_hand(visit.db, state, sent.piece), sent


def _step(making: Making, sent: Sent) -> Step:
    """The step that was shown. Raises NotAsShown."""
    must_be_as_shown(making, replace(sent.shown, anyway=False), typed="")
    found = making.named(sent.step)
    assert found is not None, "it is as it was shown"
    return found


def _doing(post: Post, number: int, do: Callable[[Visit, Making, Step], object]) -> Response:
    """Do something to the step that was shown, commit it, and go on with what is next; what is refused comes back."""
    visit, _, making, sent = _begun(post, number)
    try:
        do(visit, making, _step(making, sent))
        visit.db.commit()
        visit.look_again(number)
    except InputError as error:
        return _answer(visit, number, sent, Said(error, post.form), 422)
    return _answer(visit, number, sent, Said())


def _doing_so(post: Post, number: int, command: Callable[..., object]) -> Response:
    """Take the step that was shown otherwise than it is planned, for the reason that was given."""
    reason, sent_id = post.form.text("now_reason", longest=400), post.form.client_id()

    def do(visit: Visit, making: Making, step: Step) -> None:
        command(visit.db, making, step, reason, by=visit.account, sent_id=sent_id)

    return _doing(post, number, do)


@router.post("/jobs/{number}/make/readings")
def read(number: int, post: Post = Depends(posted)) -> Response:
    """Log a reading of the step in hand; the answer is its verdict, and what comes next. Nothing typed: what was read
    is enough.
    """
    visit, state, making, sent = _begun(post, number)
    typed = post.form.text("size", longest=20_000).strip()
    try:
        if typed:
            _must_be_as_shown(visit, making, sent, post.form, typed)
            log_from(visit, state, post.form)
            _note_if_closed(visit, number, sent, post.form)
        else:
            read_enough(visit.db, making, _step(making, sent), by=visit.account, sent_id=post.form.client_id())
            visit.db.commit()
            _note_if_closed(visit, number, sent, post.form)
    except InputError as error:
        return _answer(visit, number, sent, Said(error, post.form), 422)
    return _answer(visit, number, sent, Said())


def _must_be_as_shown(visit: Visit, making: Making, sent: Sent, form: Form, typed: str) -> None:
    """Raises NotAsShown; a reading that was sent before is no other step's."""
    try:
        must_be_as_shown(making, sent.shown, typed=typed)
    except NotAsShown:
        if visit.db.get(Reading, form.client_id()) is None:
            raise


def _note_if_closed(visit: Visit, number: int, sent: Sent, form: Form) -> None:
    """Note what the reading closed. In a session of its own: the answer goes on with what it has read by then."""
    visit.look_again(number)
    making = making_in_hand(visit.db, job_in_hand(visit, number), sent.piece)
    step = making.named(sent.step)
    if step is None or step.kind != "operation" or not step.is_done:
        return
    with visit.writing() as own:
        closed_by_reading(own, making, step, by=visit.account, sent_id=form.client_id())
        own.commit()


@router.post("/jobs/{number}/make/trials")
def try_it(number: int, post: Post = Depends(posted)) -> Response:
    """Log how a gauge, a mate or a comparison went."""
    visit, state, making, sent = _begun(post, number)
    form = post.form
    try:
        _step(making, sent)
        entry = TrialEntry(id=form.client_id(), **{name: form.text(name, longest=300) for name in TRIAL_FIELDS})
        log_trial(visit.db, state, entry, by=visit.account)
        visit.db.commit()
        _note_if_closed(visit, number, sent, form)
    except InputError as error:
        return _answer(visit, number, sent, Said(error, form), 422)
    return _answer(visit, number, sent, Said())


@router.post("/jobs/{number}/make/close")
def close_it(number: int, post: Post = Depends(posted)) -> Response:
    """Close a step by hand, or take that back."""
    what, sent_id = post.form.text("what"), post.form.client_id()

    def do(visit: Visit, making: Making, step: Step) -> None:
        if what == "back":
            open_again(visit.db, making, step, by=visit.account, sent_id=sent_id)
        elif not step.is_done:
            without = what == "without_reading"
            close(visit.db, making, step, by=visit.account, sent_id=sent_id, without_reading=without)

    return _doing(post, number, do)


@router.post("/jobs/{number}/make/go-on")
def go_on_otherwise(number: int, post: Post = Depends(posted)) -> Response:
    """Take a step of another set-up next; the rest is planned anew from the piece as it is."""
    return _doing_so(post, number, go_on_with)


@router.post("/jobs/{number}/make/goes-by")
def go_on_by(number: int, post: Post = Depends(posted)) -> Response:
    """Go through the batch piece by piece, or step by step."""
    by_what, sent_id = post.form.text("goes_by", longest=20), post.form.client_id()
    return _doing(
        post,
        number,
        lambda visit, making, _: go_by(visit.db, making.state, by_what, by=visit.account, sent_id=sent_id),
    )


@router.post("/jobs/{number}/make/now")
def take_it_now(number: int, post: Post = Depends(posted)) -> Response:
    """Take a step before others of its set-up that are open; what that breaks is kept with its reason."""
    return _doing_so(post, number, take_now)


@router.post("/jobs/{number}/make/swing")
def swing(number: int, post: Post = Depends(posted)) -> Response:
    """Log what the needle says of a set-up before its first start."""

    def do(visit: Visit, _making: Making, step: Step) -> None:
        chucking = _held_at(step)
        log_runout(visit.db, chucking, runout_from(visit, post.form, chucking), by=visit.account)

    return _doing(post, number, do)


@router.post("/jobs/{number}/make/ready")
def ready(number: int, post: Post = Depends(posted)) -> Response:
    """All that is looked at before the first start was looked at."""
    reason, sent_id = post.form.text("start_reason", longest=400), post.form.client_id()

    def do(visit: Visit, _making: Making, step: Step) -> None:
        chucking = _held_at(step)
        every = frozenset(range(len(chucking.way.before_first_start)))
        declare_ready_to_cut(visit.db, chucking, every, reason, by=visit.account, sent_id=sent_id)

    return _doing(post, number, do)


def _held_at(step: Step) -> Chucking:
    """The set-up of a step. Raises InputError where nothing is held at it."""
    if step.chucking is None:
        raise InputError("Nothing is held at this step.", "Open Make anew.", field="size")
    return step.chucking


@router.post("/jobs/{number}/make/truing/begin")
def begin_truing(number: int, post: Post = Depends(posted)) -> Response:
    """A four-jaw set-up with what is usual, so that its first reading can be typed."""
    visit, state, _, sent = _begun(post, number)
    try:
        if visit.db.get(Truing, post.form.client_id()) is None:
            set_up_truing(visit.db, state, set_up_from(visit, post.form, state))
            visit.db.commit()
            visit.look_again(number)
    except InputError as error:
        return _answer(visit, number, sent, Said(error, post.form), 422)
    return _answer(visit, number, sent, Said())


def usual_truing(visit: Visit, state: JobState, chucking: Chucking) -> dict[str, Any]:
    """What a four-jaw set-up is begun with: the shop's first chuck and indicator, and how true it must run."""
    begun = {**typed_of(visit, None, state.unit), "planned_set_up": chucking.key, "grip": chucking.grip, "feature": ""}
    most_mm = chucking.allowed.most_mm
    if most_mm is not None:
        begun |= {"use": OWN_SWING, "target": show_exact(most_mm, state.unit)}
    within = f" within {show_exact(most_mm, state.unit)}" if most_mm is not None else ""
    round_it = "round the work" if chucking.grip == "outside" else "from inside"
    words = f"Four places, at the jaws, on the outside{within}; gripped {round_it}."
    return {"usual_truing": begun, "usual_words": words}


def _where_trued(visit: Visit, state: JobState, truing: Truing) -> tuple[Making, Step | None]:
    """The step a truing belongs to: its set-up held, for its piece."""
    making = making_in_hand(visit.db, state, truing.piece)
    return making, making.named(f"hold/{truing.planned_set_up}")


@router.get("/jobs/{number}/make/truing")
def truing_seen(number: int, visit: Visit = Depends(signed_in), part: str = "") -> Response:
    """The rounds so far, as a part of the page."""
    state = job_in_hand(visit, number)
    truing = truing_of(visit.db, state.job.id)
    making, step = _where_trued(visit, state, truing) if truing is not None else (None, None)
    if part != "seen" or making is None or step is None:
        return RedirectResponse(href(state, "make"), 303)
    given = step_shown(visit, making, step, Said())
    if "view" not in given:
        return Response(status_code=204)
    return job_page(visit, "job/hold/_seen.html", given.pop("state"), "make", **given)


def _trued(visit: Visit, state: JobState, truing: Truing, said: HoldAnswer, status: int = 200) -> Response:
    visit.look_again(state.job.number)
    making, step = _where_trued(visit, job_in_hand(visit, state.job.number), truing)
    if step is not None and step.is_done and status == 200:
        making, step = goes_on(visit.db, making, step)
    part = "work" if visit.request.headers.get("hx-request") else ""
    if not part and status == 200 and not said.note:
        return RedirectResponse(step_href(making, step), 303)
    return _page(visit, making, step, part=part, status=status, said=Said(truing=said))


@router.post("/jobs/{number}/make/truing/readings")
def read_round(number: int, post: Post = Depends(posted)) -> Response:
    """Log what the needle says of a round."""
    return read_needle(post, number, _trued)


@router.post("/jobs/{number}/make/truing/round")
def mark_round(number: int, post: Post = Depends(posted)) -> Response:
    """The newest round is so, or it is set aside."""
    return mark_it(post, number, _trued)


@router.post("/jobs/{number}/make/truing/ready")
def trued(number: int, post: Post = Depends(posted)) -> Response:
    """Every safety step is done: ready to cut."""
    return say_it_is_true(post, number, _trued)
