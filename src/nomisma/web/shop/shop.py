"""Shop: the instruments, the machines and the chucks, and what each is worth."""

from decimal import Decimal
from typing import Any
from uuid import UUID

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.cutting.speeds import speed_list
from nomisma.core.errors import InputError, OutOfRange, refused_as
from nomisma.core.number import number_from, whole_from
from nomisma.jobs.permissions import must_be_shop_hand
from nomisma.jobs.truing_state import habit_of
from nomisma.store import shop, truing
from nomisma.store.append import append
from nomisma.store.models import Chuck, Machine
from nomisma.web.frame.pages import page
from nomisma.web.frame.visit import Post, Visit, posted, signed_in
from nomisma.web.shop.instruments import listed

router = APIRouter(include_in_schema=False)
ROOM = {
    "swing_over_bed": "Swing over the bed", "swing_over_gap": "Swing in the gap", "swing_over_cross_slide": "Swing over the cross-slide",
    "between_centres": "Between centres",
    "spindle_bore": "Spindle bore", "tailstock_travel": "Tailstock travel",
    "grips_from": "Chuck grips from", "grips_to": "Chuck grips to", "compound_line": "One line of the compound",
    "carriage_line": "One line of the carriage handwheel", "leadscrew_pitch": "Lead of the leadscrew",
}  # fmt: skip
"""What fits on a machine, by name."""
MACHINE_FIELDS = (
    "name",
    "unit",
    "dial_line",
    "dial_reads",
    "dial_turn",
    "backlash",
    "most_cut",
    "speeds",
    "readout",
    "most_rpm",
    "most_force_n",
    *ROOM,
)


@router.get("/shop")
def show(visit: Visit = Depends(signed_in)) -> Response:
    """Instruments with their uncertainty, machines with their dials."""
    return _page(visit)


def _page(visit: Visit, *, status: int = 200, **form: Any) -> Response:
    return page(
        visit, "shop/page.html", status=status, instruments=listed(visit), machines=shop.machines(visit.db),
        chucks=truing.chucks(visit.db), rooms=ROOM, habits={row.id: habit_of(visit.db, row) for row in truing.chucks(visit.db)},
        **{"error": None, "typed": {}, "which": "", **form},
    )  # fmt: skip


def _typed(post: Post, names: tuple[str, ...]) -> dict[str, str]:
    return {name: post.form.shown(name) for name in names}


@router.post("/shop/machines")
def add_machine(post: Post = Depends(posted)) -> Response:
    """Enter a machine, its cross-slide dial and its room, or change one by superseding."""
    visit = post.visit
    must_be_shop_hand(visit.account)
    try:
        row = _machine(visit, post)
    except InputError as error:
        return _page(visit, status=422, error=error, typed=_typed(post, MACHINE_FIELDS), which="machine")
    append(visit.db, row)
    visit.db.commit()
    return RedirectResponse("/shop#machines", 303)


def _machine(visit: Visit, post: Post) -> Machine:
    form = post.form
    unit = form.unit()
    line = form.size("dial_line", unit)
    lengths = {name: form.size(name, unit) for name in ("dial_turn", "backlash", "most_cut") if form.text(name)}
    if "dial_turn" in lengths and lengths["dial_turn"].mm < line.mm:
        raise OutOfRange(
            "One turn shows less than one line.", "Give what one whole turn of the dial shows.", field="dial_turn"
        )
    speeds = form.text("speeds", longest=300)
    speed_list(speeds)
    room = {name: str(form.size(name, unit)) for name in ROOM if form.text(name)}
    before = visit.db.get(Machine, form.id("supersedes_id")) if form.text("supersedes_id") else None
    more = {f"{name}_mm": value.mm for name, value in lengths.items()}
    texts = {f"{name}_text": value.text for name, value in lengths.items()}
    return Machine(
        id=form.client_id(), name=form.text("name", needed=True, longest=80), unit=unit, by_id=visit.account.id,
        dial_line_mm=line.mm, dial_line_text=line.text, dial_reads=form.choice("dial_reads", ("diameter", "radius")),
        readout=form.text("readout") == "yes", speeds=speeds, most_rpm=_rpm(form.text("most_rpm", longest=6)),
        most_force_n=_force(form.text("most_force_n", longest=12)), room=room, supersedes_id=before.id if before else None, **more, **texts,
    )  # fmt: skip


@router.post("/shop/chucks")
def add_chuck(post: Post = Depends(posted)) -> Response:
    """Enter an independent four-jaw, or change one: what was learned of it stays with it."""
    visit, form = post.visit, post.form
    must_be_shop_hand(visit.account)
    names = ("name", "unit", "screw_lead", "most_rpm")
    try:
        unit = form.unit()
        lead = form.size("screw_lead", unit)
        before = _chuck_before(visit, form.id("supersedes_id")) if form.text("supersedes_id") else None
        row = Chuck(
            id=form.client_id(), name=form.text("name", needed=True, longest=80), unit=unit, by_id=visit.account.id,
            screw_lead_mm=lead.mm, screw_lead_text=lead.text, most_rpm=_rpm(form.text("most_rpm", longest=6)),
            of_id=before.first_id if before else None, supersedes_id=before.id if before else None,
        )  # fmt: skip
    except InputError as error:
        return _page(visit, status=422, error=error, typed=_typed(post, names), which="chuck")
    append(visit.db, row)
    visit.db.commit()
    return RedirectResponse("/shop#chucks", 303)


def _chuck_before(visit: Visit, id: UUID) -> Chuck:
    found = visit.db.get(Chuck, id)
    if found is None:
        raise InputError("That chuck is not in the shop.", "Choose it again.", field="name")
    return found


def _force(text: str) -> Decimal | None:
    """The cutting force a machine stands, N; none where nobody knows. Raises OutOfRange."""
    if not text:
        return None
    with refused_as(f"“{text}” is no cutting force.", "Give it in newton, 10 to 100000.", field="most_force_n"):
        return number_from(text.removesuffix("N"), least=10, most=100_000)


def _rpm(text: str) -> int | None:
    """The speed marked on a chuck; none where it bears none. Raises OutOfRange."""
    if not text:
        return None
    with refused_as(f"“{text}” is no speed of a chuck.", "Give the rpm marked on it, 10 to 20000.", field="most_rpm"):
        return whole_from(text, least=10, most=20_000)
