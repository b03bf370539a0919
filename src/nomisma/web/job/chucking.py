"""Hold, a planned set-up: how it is held, what the needle said, what is looked at before the first start."""

from dataclasses import dataclass
from decimal import Decimal
from urllib.parse import urlencode

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response
from markupsafe import Markup

from nomisma.core.errors import InputError
from nomisma.core.planning.holding import holdings
from nomisma.core.quantity.display import show_exact
from nomisma.jobs.holding.chucking import Chucking, chucking_named, chuckings_of, in_hand
from nomisma.jobs.holding.chucking_log import RunoutEntry, choose_holding, declare_ready_to_cut, log_runout
from nomisma.jobs.planning.plan_state import plan_of
from nomisma.jobs.standing.pieces import serials
from nomisma.store.truing import truing_of
from nomisma.web.drawings.chuck import three_jaw_picture
from nomisma.web.frame.job_in_hand import href, job_in_hand
from nomisma.web.frame.part_section import section_of_job
from nomisma.web.frame.visit import Form, Post, Visit, posted, signed_in
from nomisma.web.job.hold import PARTS, planned, set_up_page, truing_page
from nomisma.web.job.job_page import job_page
from nomisma.web.job.moments import held_picture
from nomisma.web.job.truing_set_up import chosen_indicator, indicators

router = APIRouter(include_in_schema=False)


@dataclass(frozen=True, slots=True)
class WorksheetLink:
    """A worksheet a way of holding asks for: how it is called there, its path, the fields it takes from the job."""

    words: str
    path: str
    fields: tuple[str, ...] = ()


TAILSTOCK = WorksheetLink("The tailstock true, from two cuts", "/taper-found", ("between_centres",))
CENTRE = WorksheetLink("A centre ground in place", "/centre-grinding")
BENDS = WorksheetLink("How far it bends", "/deflection")
THIN_RING = WorksheetLink("What jaws do to so thin a ring", "/jaw-squeeze", ("outside", "bore", "length"))
WORKSHEETS: dict[str, tuple[WorksheetLink, ...]] = {
    "three_jaw": (WorksheetLink("A strip under a jaw", "/three-jaw", ("target", "grip")),),
    "four_jaw": (),
    "off_centre": (WorksheetLink("What each jaw should read, and how hard it pulls", "/throw", ("throw", "diameter")),),
    "collet": (),
    "soft_jaws": (
        WorksheetLink("The jaws, and what if they came out wrong", "/soft-jaws", ("held", "grip")),
        WorksheetLink("A gear held over pins", "/pins"),
    ),
    "faceplate": (WorksheetLink("Out of balance, and how hard it pulls", "/throw"),),
    "mandrel": (
        WorksheetLink("Where the bore sits on the mandrel", "/mandrel", ("bore_lower", "bore_upper", "bore_length")),
    ),
    "expanding_mandrel": (),
    "bonded_mandrel": (WorksheetLink("The bond and its gap", "/bond"),),
    "centres": (TAILSTOCK, CENTRE),
    "chuck_and_centre": (TAILSTOCK, CENTRE),
    "steady": (BENDS,),
    "follow_rest": (BENDS, TAILSTOCK),
}
"""By way of holding, what is worked out for it."""


@router.get("/jobs/{number}/hold")
def hold(
    number: int,
    visit: Visit = Depends(signed_in),
    part: str = "",
    anew: bool = False,
    by: str = "",
    set_up: str = "",
    piece: str = "",
) -> Response:
    """Where the work stands: the set-up of the plan that is next, or its truing round by round (`by` needle), for a
    `set_up` of the plan and a `piece` of a batch.
    """
    state = job_in_hand(visit, number)
    truing = truing_of(visit.db, state.job.id)
    if truing is not None and part in PARTS:
        return truing_page(visit, state, truing, part=part)
    if not (anew or by) and (truing is None or truing.planned_set_up):
        every = chuckings_of(visit.db, plan_of(visit.db, state, piece))
        chucking = in_hand(every)
        if chucking is not None and chucking.way.read_as != "rounds":
            return _page(visit, chucking, every)
        set_up, piece = (chucking.key, chucking.plan.piece) if chucking is not None else ("", piece)
    if truing is None or anew or (set_up and (truing.planned_set_up, truing.piece) != (set_up, piece)):
        return set_up_page(visit, state, truing, planned_set_up=set_up, piece=piece)
    return truing_page(visit, state, truing)


@router.get("/jobs/{number}/hold/chucking/{set_up}")
def show(number: int, set_up: str, visit: Visit = Depends(signed_in), piece: str = "") -> Response:
    """One set-up of the plan at the lathe. Raises NotDefined for one the plan has not."""
    return _page(visit, *_found(visit, number, set_up, piece))


def _found(visit: Visit, number: int, set_up: str, piece: str) -> tuple[Chucking, list[Chucking]]:
    every = chuckings_of(visit.db, plan_of(visit.db, job_in_hand(visit, number), piece))
    return chucking_named(every, set_up), every


def _posted(post: Post, number: int, set_up: str) -> tuple[Chucking, list[Chucking]]:
    """The set-up a form is about. Raises NotDefined, HandedOver."""
    found, every = _found(post.visit, number, set_up, post.form.text("piece", longest=40))
    found.plan.state.must_be_open()
    return found, every


def _page(
    visit: Visit,
    chucking: Chucking,
    every: list[Chucking],
    *,
    status: int = 200,
    error: InputError | None = None,
    typed: dict[str, str] | None = None,
) -> Response:
    plan = chucking.plan
    state = plan.state
    return job_page(
        visit,
        "job/hold/chucking.html",
        state,
        "hold",
        status=status,
        **planned(visit, plan, every, chucking.key),
        chucking=chucking,
        work=chucking.work,
        ways=_ways(chucking),
        links=links_of(chucking),
        pieces=serials(state),
        indicators=indicators_for(visit, chucking),
        error=error,
        typed=typed or {},
        base=_href(chucking),
        picture=_picture(chucking),
        held_picture=held_picture(chucking.planned),
        held=chucking.work.held_words(chucking.planned),
    )


def _picture(chucking: Chucking) -> Markup | None:
    """The strips under the jaws where there are any, else the part in section with what is cut in this set-up
    marked.
    """
    if chucking.packing is not None:
        return three_jaw_picture(chucking.packing, chucking.plan.state.unit)
    cut = [letter for one in chucking.planned.set_up.surfaces for letter in one.letters]
    return section_of_job(chucking.plan.state, stressed=cut)


def _href(chucking: Chucking, **asked: str) -> str:
    return href(chucking.plan.state, f"hold/chucking/{chucking.key}", **asked)


def indicators_for(visit: Visit, chucking: Chucking) -> list[tuple[str, str]]:
    """What a runout is read with; the one used last, else those in the job's unit, in front."""
    used, unit = chucking.last_runout.read.indicator if chucking.last_runout else "", chucking.plan.state.unit
    rows = sorted(indicators(visit), key=lambda row: (row.name != used, row.unit != unit))
    return [(str(row.id), f"{row.name} · reads {row.unit}") for row in rows]


def _ways(chucking: Chucking) -> list[tuple[str, str, str]]:
    """Every way of holding: its name, its title and why, the suggested ones in front."""
    first = [(one.holding.name, one.holding.title, one.why) for one in chucking.suggestions]
    known = {name for name, *_ in first}
    return [*first, *((one.name, one.title, one.for_what) for one in holdings().values() if one.name not in known)]


def links_of(chucking: Chucking) -> list[tuple[str, str]]:
    """The worksheets a way of holding asks for, with the job's figures in them: words and address."""
    values, unit = _figures(chucking), chucking.plan.state.unit
    asked_for = [*WORKSHEETS[chucking.way.name], *([THIN_RING] if "outside" in values else [])]
    return [
        (
            one.words,
            f"{one.path}?{urlencode({**{name: values[name] for name in one.fields if name in values}, 'unit': unit})}",
        )
        for one in asked_for
    ]


def _figures(chucking: Chucking) -> dict[str, str]:
    """What the worksheets of holding ask for, as far as the job knows it, by the names of their fields."""
    plan, unit, size = chucking.plan, chucking.plan.state.unit, chucking.held_size
    assert plan.section is not None
    known: dict[str, Decimal | None] = {
        "between_centres": None if plan.length_not_known else plan.section.length_mm,
        "target": chucking.allowed.most_mm,
        "throw": chucking.planned.set_up.workholding.throw_mm if chucking.planned.set_up.workholding else None,
        "diameter": _gripped_mm(chucking),
        **_bore_of(chucking),
    }
    if ring := chucking.work.thin_ring(chucking.planned):
        known |= dict(zip(("outside", "bore", "length"), ring, strict=True))
    found = {name: show_exact(mm, unit) for name, mm in known.items() if mm}
    return {**found, "grip": chucking.grip, **({"held": str(size[0])} if size else {})}


def _gripped_mm(chucking: Chucking) -> Decimal | None:
    held = chucking.planned.set_up.workholding
    return held.grip.diameter_mm if held is not None and held.grip is not None else None


def _bore_of(chucking: Chucking) -> dict[str, Decimal | None]:
    """The bore a mandrel goes into, mm: as measured, else by its limits; and how long it is."""
    held = chucking.held
    if held is None:
        return {}
    sizes = held.own_readings
    ends = (sizes.smallest_mm, sizes.largest_mm) if sizes.count else (held.feature.lower_mm, held.feature.upper_mm)
    return {"bore_lower": ends[0], "bore_upper": ends[1], "bore_length": chucking.held_long_mm}


def _answered(post: Post, chucking: Chucking) -> Response:
    asked = {"piece": chucking.plan.piece} if post.form.text("piece", longest=40) else {}
    return RedirectResponse(_href(chucking, **asked), 303)


@router.post("/jobs/{number}/hold/chucking/{set_up}/way")
def hold_it_so(number: int, set_up: str, post: Post = Depends(posted)) -> Response:
    """Hold it in another way than it was."""
    visit, form = post.visit, post.form
    found, every = _posted(post, number, set_up)
    try:
        choose_holding(
            visit.db,
            found,
            form.text("way", longest=40),
            form.text("reason", longest=400),
            by=visit.account,
            sent_id=form.client_id(),
        )
        visit.db.commit()
    except InputError as error:
        typed = {name: form.shown(name) for name in ("way", "reason")}
        return _page(visit, found, every, status=422, error=error, typed=typed)
    return _answered(post, found)


@router.post("/jobs/{number}/hold/chucking/{set_up}/runout")
def read(number: int, set_up: str, post: Post = Depends(posted)) -> Response:
    """Log what the needle says of it."""
    visit, form = post.visit, post.form
    found, every = _posted(post, number, set_up)
    try:
        log_runout(visit.db, found, runout_from(visit, form, found), by=visit.account)
        visit.db.commit()
    except InputError as error:
        typed = {name: form.shown(name) for name in ("runout", "instrument_id")}
        return _page(visit, found, every, status=422, error=error, typed=typed)
    return _answered(post, found)


def runout_from(visit: Visit, form: Form, chucking: Chucking) -> RunoutEntry:
    return RunoutEntry(
        form.client_id(), form.text("runout", longest=200), chosen_indicator(visit, form), chucking.plan.state.unit
    )


@router.post("/jobs/{number}/hold/chucking/{set_up}/ready")
def ready(number: int, set_up: str, post: Post = Depends(posted)) -> Response:
    """All was looked at: ready to cut."""
    visit, form = post.visit, post.form
    found, every = _posted(post, number, set_up)
    steps = range(len(found.way.before_first_start))
    ticked = frozenset(one for one in steps if form.text(f"step_{one}") == "yes")
    try:
        reason = form.text("start_reason", longest=400)
        declare_ready_to_cut(visit.db, found, ticked, reason, by=visit.account, sent_id=form.client_id())
        visit.db.commit()
    except InputError as error:
        typed = {f"step_{one}": "yes" for one in ticked} | {"start_reason": form.shown("start_reason")}
        return _page(visit, found, every, status=422, error=error, typed=typed)
    return _answered(post, found)
