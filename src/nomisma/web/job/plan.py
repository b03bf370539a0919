"""Plan: what was asked, the drawing against the metal, stock, lathe, set-ups and the order of work; a sheet for the
lathe.
"""

from typing import Any
from uuid import UUID

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.errors import InputError
from nomisma.core.materials.material import materials
from nomisma.core.order.mountings import MOUNTING_WORDS
from nomisma.core.order.order_notes import notes_of
from nomisma.core.order.set_ups import STOCK_WORDS
from nomisma.core.order.stages import RESTS
from nomisma.core.planning.blank import SHAPE_WORDS, SURFACE_WORDS
from nomisma.core.planning.drawing_against_metal import SAW_CAUTION
from nomisma.core.planning.holding import holdings
from nomisma.core.planning.which_lathe import VERDICT_WORDS
from nomisma.core.quantity.display import show_exact
from nomisma.jobs.making.step_times import figures_learnt, reckon_with
from nomisma.jobs.planning.plan_entries import CAME_AS_WORDS, KNOWN_BY_WORDS, Intake, StockChosen
from nomisma.jobs.planning.plan_lathes import lathes_for
from nomisma.jobs.planning.plan_log import answer, ask, choose_stock, keep_order, look_before_the_saw, moved, take_in
from nomisma.jobs.planning.plan_state import JobPlan, plan_of
from nomisma.jobs.planning.plan_work import PlannedWork
from nomisma.jobs.shop.stock_shelf import bar_of
from nomisma.store.shop import stock_bars
from nomisma.web.frame.job_in_hand import href, job_in_hand
from nomisma.web.frame.part_section import section_of_job
from nomisma.web.frame.visit import Form, Post, Visit, posted, signed_in
from nomisma.web.job.job_page import plan_page
from nomisma.web.job.moments import moments_of
from nomisma.web.job.plan_stops import stops_address

router = APIRouter(include_in_schema=False)
MATERIALS = tuple((one.name, one.title) for one in materials().values())


@router.get("/jobs/{number}/plan")
def show(number: int, visit: Visit = Depends(signed_in)) -> Response:
    """The plan as it stands, and what may be said of it."""
    return _page(visit, plan_of(visit.db, job_in_hand(visit, number)))


def open_plan(post: Post, number: int, piece: str = "") -> JobPlan:
    """The plan of a job that something may be said of. Raises HandedOver."""
    plan = plan_of(post.visit.db, job_in_hand(post.visit, number), piece)
    plan.state.must_be_open()
    return plan


def _page(visit: Visit, plan: JobPlan, *, status: int = 200, error: InputError | None = None, **typed: Any) -> Response:
    state = plan.state
    return plan_page(
        visit,
        "job/plan/page.html",
        plan,
        status=status,
        error=error,
        work=PlannedWork(plan),
        learnt=[] if state.handed_over else figures_learnt(visit.db, state),
        typed=typed.get("typed", {}),
        keys=typed.get("keys", []),
        section=section_of_job(state),
        lathes=lathes_for(visit.db, plan),
        bars=_bars(visit, plan),
        notes=notes_of(plan.order) if plan.order else [],
        moments_of=moments_of,
        stops_address=stops_address,
        rests=RESTS,
        mountings=MOUNTING_WORDS,
        saw_caution=SAW_CAUTION,
        verdict_words=VERDICT_WORDS,
        came_as=CAME_AS_WORDS,
        known_by=KNOWN_BY_WORDS,
        shapes=SHAPE_WORDS,
        surfaces=SURFACE_WORDS,
        holdings=STOCK_WORDS,
        materials=MATERIALS,
    )


def _bars(visit: Visit, plan: JobPlan) -> list[tuple[str, str]]:
    """What lies on the shelf, to choose from."""
    titles = dict(MATERIALS)
    unit = plan.state.unit
    return [
        (
            str(bar.first_id),
            (
                f"{titles[bar.material]}, {bar.shape} {show_exact(bar.across_mm, unit)},"
                f" {show_exact(bar.length_mm, unit)} long"
            ),
        )
        for bar in stock_bars(visit.db)
    ]


def _done(plan: JobPlan, anchor: str) -> Response:
    return RedirectResponse(f"{href(plan.state, 'plan')}#{anchor}", 303)


@router.post("/jobs/{number}/plan/intake")
def say_what_was_asked(number: int, post: Post = Depends(posted)) -> Response:
    """What it must do, for whom, how it came, what it is made of."""
    visit, form = post.visit, post.form
    plan = open_plan(post, number)
    texts = {name: form.text(name, longest=400) for name in ("must_do", "for_whom", "surfaces", "worn")}
    said = Intake(
        **texts,
        needed_by=form.text("needed_by", longest=80),
        material=form.text("material", longest=80),
        came_as=form.choice("came_as", tuple(CAME_AS_WORDS)),
        known_by=form.choice("known_by", tuple(KNOWN_BY_WORDS)),
    )
    take_in(visit.db, plan, said, by=visit.account, sent_id=form.client_id(), seen=form.seen())
    visit.db.commit()
    return _done(plan, "asked")


@router.post("/jobs/{number}/plan/reckon")
def reckon(number: int, post: Post = Depends(posted)) -> Response:
    """Reckon with what this job's clock says from now on."""
    visit, form = post.visit, post.form
    plan = plan_of(visit.db, job_in_hand(visit, number))
    said = form.text("figure", longest=40), form.text("minutes", longest=12)
    try:
        reckon_with(visit.db, plan.state, *said, by=visit.account, sent_id=form.client_id())
        visit.db.commit()
    except InputError as error:
        return _page(visit, plan, status=422, error=error)
    return _done(plan, "times")


@router.post("/jobs/{number}/plan/questions")
def ask_it(number: int, post: Post = Depends(posted)) -> Response:
    """A question to be answered or waived before metal is cut."""
    visit, form = post.visit, post.form
    plan = open_plan(post, number)
    try:
        ask(visit.db, plan, form.text("question", longest=400), by=visit.account, sent_id=form.client_id())
        visit.db.commit()
    except InputError as error:
        return _page(visit, plan, status=422, error=error)
    return _done(plan, "questions")


@router.post("/jobs/{number}/plan/answers")
def answer_it(number: int, post: Post = Depends(posted)) -> Response:
    """What was found out of a question, or why it is waived."""
    visit, form = post.visit, post.form
    plan = open_plan(post, number)
    of: UUID = form.id("of")
    try:
        answer(
            visit.db,
            plan,
            of,
            form.text("answer", longest=400),
            waived=form.text("what") == "waive",
            by=visit.account,
            sent_id=form.client_id(),
            seen=form.seen(),
        )
        visit.db.commit()
    except InputError as error:
        return _page(visit, plan, status=422, error=error, typed={"of": str(of), "answer": form.shown("answer")})
    return _done(plan, "questions")


def _stock(visit: Visit, form: Form, plan: JobPlan) -> StockChosen:
    """The stock as the form says it; where a bar of the shelf is named, its section, size and material are the bar's.
    Raises InputError.
    """
    texts = {name: form.text(name, longest=40) for name in ("across", "bore", "length", "parting", "grip")}
    own: dict[str, Any] = {
        "shape": form.choice("shape", tuple(SHAPE_WORDS)),
        "surface": form.choice("surface", tuple(SURFACE_WORDS)),
        "material": form.choice("stock_material", tuple(name for name, _ in MATERIALS)),
    }
    if form.text("bar"):
        bar = bar_of(visit.db, form.id("bar"))
        sizes = {"across": bar.across_mm, "bore": bar.bore_mm, "length": bar.length_mm}
        texts |= {name: show_exact(mm, plan.state.unit) if mm else "" for name, mm in sizes.items()}
        own = {"shape": bar.shape, "surface": bar.surface, "material": bar.material}
    return StockChosen(
        **texts,
        **own,
        held=form.choice("held", tuple(STOCK_WORDS)),
        face_as_parted=form.text("face_as_parted") == "yes",
        centred=form.text("centred") == "yes",
        rough_first=form.text("rough_first") == "yes",
        mounting=plan.stock.mounting,
        unit=plan.state.unit,
    )


@router.post("/jobs/{number}/plan/stock")
def say_stock(number: int, post: Post = Depends(posted)) -> Response:
    """The stock as measured, not as remembered."""
    visit, form = post.visit, post.form
    plan = open_plan(post, number)
    try:
        choose_stock(
            visit.db, plan, _stock(visit, form, plan), by=visit.account, sent_id=form.client_id(), seen=form.seen()
        )
        visit.db.commit()
    except InputError as error:
        typed = {name: form.shown(name) for name in ("across", "bore", "length", "parting", "grip")}
        return _page(visit, plan, status=422, error=error, typed=typed)
    return _done(plan, "stock")


@router.post("/jobs/{number}/plan/order")
def put_order(number: int, post: Post = Depends(posted)) -> Response:
    """Move an operation within its set-up, keep an order that breaks a rule with its reason, or go back to the plan's
    own.
    """
    visit, form = post.visit, post.form
    plan = open_plan(post, number)
    keys: list[str] = []
    try:
        if form.text("own") != "yes":
            key, _, way = form.text("move", longest=200).rpartition("|")
            keys = moved(plan, key, -1 if way == "up" else 1) if way else form.text("keys", longest=20_000).split()
        keep_order(
            visit.db,
            plan,
            keys,
            form.text("reason", longest=400),
            by=visit.account,
            sent_id=form.client_id(),
            seen=form.seen(),
        )
        visit.db.commit()
    except InputError as error:
        return _page(visit, plan, status=422, error=error, keys=keys, typed={"reason": form.shown("reason")})
    return _done(plan, "order")


@router.get("/jobs/{number}/plan/otherwise")
def hold_otherwise(number: int, visit: Visit = Depends(signed_in)) -> Response:
    """The ways to hold the whole part, each with the plan that comes of it; only those that were run."""
    plan = plan_of(visit.db, job_in_hand(visit, number))
    return plan_page(
        visit,
        "job/plan/otherwise.html",
        plan,
        plans=plan.mountings(),
        words=MOUNTING_WORDS,
        way_titles={name: one.title for name, one in holdings().items()},
    )


@router.post("/jobs/{number}/plan/mounting")
def choose_mounting(number: int, post: Post = Depends(posted)) -> Response:
    """Hold the whole part otherwise: the plan follows."""
    visit, form = post.visit, post.form
    plan = open_plan(post, number)
    mounting = form.choice("mounting", tuple(MOUNTING_WORDS))
    chosen = plan.stock.model_copy(update={"mounting": mounting})
    choose_stock(visit.db, plan, chosen, by=visit.account, sent_id=form.client_id(), seen=form.seen())
    visit.db.commit()
    return _done(plan, "order")


@router.get("/jobs/{number}/plan/saw")
def before_the_saw(number: int, visit: Visit = Depends(signed_in)) -> Response:
    """The drawing's sizes typed again: nothing on this page shows what was entered before."""
    return _saw_page(visit, plan_of(visit.db, job_in_hand(visit, number)))


def _saw_page(
    visit: Visit,
    plan: JobPlan,
    *,
    status: int = 200,
    error: InputError | None = None,
    typed: dict[str, str] | None = None,
) -> Response:
    return plan_page(
        visit,
        "job/plan/saw.html",
        plan,
        status=status,
        error=error,
        typed=typed or {},
    )


@router.post("/jobs/{number}/plan/saw")
def look(number: int, post: Post = Depends(posted)) -> Response:
    """Saw, or stop: kept either way."""
    visit, form = post.visit, post.form
    plan = open_plan(post, number)
    typed = {name: form.text(name, longest=40) for name in ("length_again", "diameter_again")}
    try:
        look_before_the_saw(visit.db, plan, **typed, by=visit.account, sent_id=form.client_id())
        visit.db.commit()
    except InputError as error:
        return _saw_page(visit, plan, status=422, error=error, typed=typed)
    return _done(plan, "saw")
