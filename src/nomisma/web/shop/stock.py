"""The shelf of stock: what bars and remnants there are, one more, and a piece sawn off for a job."""

from typing import cast
from urllib.parse import urlencode
from uuid import UUID

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.errors import InputError
from nomisma.core.materials.material import materials
from nomisma.core.number import whole_from
from nomisma.core.planning.blank import SHAPE_WORDS, SURFACE_WORDS, Shape, StockSurface
from nomisma.core.planning.drawing_against_metal import SAW_CAUTION
from nomisma.core.quantity.display import show_exact
from nomisma.jobs.shop.rights import Action, must
from nomisma.jobs.shop.stock_shelf import BarGiven, bar_of, enter_bar, saw_off
from nomisma.store.jobs import LARGEST_NUMBER
from nomisma.store.models import StockBar
from nomisma.store.shop import stock_bars
from nomisma.web.frame.pages import page
from nomisma.web.frame.visit import Form, Post, Visit, posted, signed_in

router = APIRouter(include_in_schema=False)
FIELDS = ("unit", "material", "shape", "surface", "words", "across", "bore", "length", "piece", "saw", "job_number")


@router.get("/shop/stock")
def show(visit: Visit = Depends(signed_in)) -> Response:
    """The shelf."""
    return _page(visit)


def _page(
    visit: Visit, *, status: int = 200, form: Form | None = None, error: InputError | None = None, at: str = ""
) -> Response:
    bars = stock_bars(visit.db)
    return page(
        visit,
        "shop/stock.html",
        status=status,
        bars=bars,
        materials={one.name: one.title for one in materials().values()},
        shapes=SHAPE_WORDS,
        surfaces=SURFACE_WORDS,
        error=error,
        at=at,
        typed={name: form.shown(name) for name in FIELDS} if form else {},
        cut_list=_cut_list(bars),
        saw_caution=SAW_CAUTION,
    )


def _cut_list(bars: list[StockBar]) -> list[tuple[StockBar, str]]:
    """Of each material and section that is there more than once, one of its bars and the address of a cut list over all
    of them.
    """
    alike: dict[tuple[object, ...], list[StockBar]] = {}
    for bar in bars:
        alike.setdefault((bar.material, bar.shape, bar.across_mm, bar.bore_mm), []).append(bar)
    lengths = {
        same[0]: "\n".join(show_exact(bar.length_mm, bar.unit) for bar in same)
        for same in alike.values()
        if len(same) > 1
    }
    return [(bar, f"/cut-list?{urlencode({'bars': said, 'pieces': ''})}") for bar, said in lengths.items()]


@router.post("/shop/stock")
def enter(post: Post = Depends(posted)) -> Response:
    """A bar on the shelf."""
    visit, form = post.visit, post.form
    must(visit.account, Action.ENTER_STOCK)
    unit = form.unit()
    try:
        given = BarGiven(
            id=form.client_id(),
            words=form.text("words", longest=120),
            material=form.choice("material", tuple(materials())),
            shape=cast(Shape, form.choice("shape", tuple(SHAPE_WORDS))),
            surface=cast(StockSurface, form.choice("surface", tuple(SURFACE_WORDS))),
            unit=unit,
            across=form.size("across", unit),
            length=form.size("length", unit),
            bore=form.size("bore", unit) if form.text("bore") else None,
        )
        enter_bar(visit.db, given, by=visit.account)
    except InputError as error:
        return _page(visit, status=422, form=form, error=error)
    visit.db.commit()
    return RedirectResponse("/shop/stock", 303)


@router.post("/shop/stock/saw")
def saw(post: Post = Depends(posted)) -> Response:
    """A piece off a bar; what is left stays on the shelf."""
    visit, form = post.visit, post.form
    first_id: UUID = form.id("bar")
    try:
        bar = bar_of(visit.db, first_id)
        unit = bar.unit
        number = form.text("job_number", longest=12)
        saw_off(
            visit.db,
            bar,
            form.size("piece", unit),
            form.size("saw", unit) if form.text("saw") else None,
            whole_from(number, least=1, most=LARGEST_NUMBER, field="job_number") if number else None,
            by=visit.account,
            sent_id=form.client_id(),
        )
    except InputError as error:
        return _page(visit, status=422, form=form, error=error, at=str(first_id))
    visit.db.commit()
    return RedirectResponse("/shop/stock", 303)
