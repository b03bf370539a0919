"""The shelf of slips, inch and metric: from a common set, less what is missing, with what is the shop's own."""

from dataclasses import asdict, dataclass
from typing import get_args

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.errors import InputError
from nomisma.core.lengths.slip_shelf import GRADE_WORDS, SlipGrade, slip_sets
from nomisma.core.quantity.length import Unit
from nomisma.jobs.shop.rights import Action, must
from nomisma.jobs.shop.slip_shelf import USUAL_SET, SlipsOwned, keep_slips, slips_owned
from nomisma.web.frame.pages import page
from nomisma.web.frame.visit import Post, Visit, posted, signed_in

router = APIRouter(include_in_schema=False)
UNIT_WORDS: dict[Unit, str] = {"in": "Inch", "mm": "Metric"}
TEXTS = ("missing", "own", "wear")


@dataclass(frozen=True, slots=True)
class ShownShelf:
    """One unit's shelf as the page shows it: what was typed, how many pieces that is, the sets to begin from."""

    unit: Unit
    title: str
    typed: dict[str, str]
    count: int
    sets: tuple[tuple[str, str], ...]
    error: InputError | None = None


@router.get("/shop/slips")
def show(visit: Visit = Depends(signed_in)) -> Response:
    """Both shelves."""
    return _page(visit)


def _page(visit: Visit, *, status: int = 200, wrong: ShownShelf | None = None) -> Response:
    shelves = [
        wrong if wrong and wrong.unit == unit else _shown(unit, slips_owned(visit.db, unit)) for unit in UNIT_WORDS
    ]
    return page(visit, "shop/slips.html", status=status, shelves=shelves, grades=GRADE_WORDS)


def _shown(unit: Unit, owned: SlipsOwned, error: InputError | None = None) -> ShownShelf:
    sets = [(name, one.title) for name, one in slip_sets().items() if one.unit == unit]
    count = 0 if error else len(owned.shelf(unit).pieces_mm)
    typed = {**asdict(owned), "set": owned.set or USUAL_SET[unit]}
    return ShownShelf(unit, UNIT_WORDS[unit], typed, count, (*sets, ("none", "no set, only these")), error)


@router.post("/shop/slips")
def change(post: Post = Depends(posted)) -> Response:
    """Keep what is on the shelf of a unit; earlier shelves stay on record."""
    visit, form = post.visit, post.form
    must(visit.account, Action.ENTER_SLIPS)
    unit = form.unit()
    owned = SlipsOwned(
        set=form.choice("set", (*slip_sets(), "none")),
        grade=form.choice("grade", get_args(SlipGrade)),
        **{name: form.text(name, longest=400) for name in TEXTS},
    )
    try:
        keep_slips(visit.db, unit, owned, by=visit.account)
    except InputError as error:
        return _page(visit, status=422, wrong=_shown(unit, owned, error))
    visit.db.commit()
    return RedirectResponse("/shop/slips", 303)
