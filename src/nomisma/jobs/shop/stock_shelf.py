"""The shelf of stock: a bar entered, a piece sawn off it for a job, and what is left back on the shelf."""

from dataclasses import dataclass
from decimal import Decimal
from uuid import UUID

from sqlalchemy.orm import Session

from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.materials.material import material_named
from nomisma.core.planning.blank import Shape, StockSurface
from nomisma.core.quantity.display import show_exact, show_sawn
from nomisma.core.quantity.length import Length, Unit
from nomisma.jobs.shop.rights import Action, must
from nomisma.store import jobs, shop
from nomisma.store.append import AlreadySent, append
from nomisma.store.models import Account, StockBar

LEAST_REMNANT = Length.of("10", "mm")
"""What is shorter goes to the scrap. Source: this tool's own choice."""


@dataclass(frozen=True, slots=True, kw_only=True)
class BarGiven:
    """A bar as it is entered: what it is, its section and surface, across, its bore if it is a tube, and how long."""

    id: UUID
    words: str
    material: str
    shape: Shape
    surface: StockSurface
    unit: Unit
    across: Length
    length: Length
    bore: Length | None = None


def enter_bar(session: Session, given: BarGiven, *, by: Account) -> StockBar:
    """A bar on the shelf. Raises NotAllowed, InputError for a tube that is none, NotDefined for a material.

    Commits nothing; sent twice it is one.
    """
    must(by, Action.ENTER_STOCK)
    material_named(given.material)
    if (given.shape == "tube") != (given.bore is not None):
        raise InputError(
            "A tube has a bore, and nothing else has.", "Give the bore of the tube, or another section.", field="bore"
        )
    if given.bore is not None and given.bore.mm >= given.across.mm:
        raise OutOfRange("The tube has no wall.", "Check its outside and its bore.", field="bore")
    row = StockBar(
        id=given.id,
        words=given.words,
        material=given.material,
        shape=given.shape,
        surface=given.surface,
        unit=given.unit,
        across_mm=given.across.mm,
        across_text=given.across.text,
        bore_mm=given.bore.mm if given.bore else None,
        bore_text=given.bore.text if given.bore else "",
        length_mm=given.length.mm,
        length_text=given.length.text,
        by_id=by.id,
    )
    return append(session, row)


def bar_of(session: Session, first_id: UUID) -> StockBar:
    """A bar as it lies there now, by the id it was first entered with. Raises InputError where it is used up."""
    found = next((row for row in shop.stock_bars(session) if row.first_id == first_id), None)
    if found is None:
        raise InputError("That bar is not on the shelf any more.", "Choose another.", field="bar")
    return found


def saw_off(
    session: Session,
    bar: StockBar,
    piece: Length,
    saw: Length | None,
    job_number: int | None,
    *,
    by: Account,
    sent_id: UUID,
) -> StockBar:
    """A piece sawn off a bar: what is left is the bar from now on; a stub goes to the scrap. Commits nothing; sent
    twice it is one.

    Raises OutOfRange where the bar is shorter than that, NotDefined for a job that is not there.
    """
    if kept := session.get(StockBar, sent_id):
        return _same_piece(session, kept, bar, piece, saw, job_number)
    if piece.mm > bar.length_mm:
        raise OutOfRange(
            f"The bar is {show_sawn(bar.length_mm, piece.unit)} long.",
            "Saw less, or take another bar.",
            field="piece",
            value=piece.text,
        )
    left = _left(bar, piece, saw)
    job = jobs.job_numbered(session, job_number) if job_number is not None else None
    row = StockBar(
        id=sent_id,
        words=bar.words,
        material=bar.material,
        shape=bar.shape,
        surface=bar.surface,
        unit=bar.unit,
        across_mm=bar.across_mm,
        across_text=bar.across_text,
        bore_mm=bar.bore_mm,
        bore_text=bar.bore_text,
        length_mm=left,
        length_text=show_exact(left, piece.unit),
        job_id=job.job.id if job else None,
        of_id=bar.first_id,
        supersedes_id=bar.id,
        by_id=by.id,
    )
    return append(session, row)


def _left(bar: StockBar, piece: Length, saw: Length | None) -> Decimal:
    """How much of a bar is left, mm; a stub that is good for nothing is none."""
    left = bar.length_mm - piece.mm - (saw.mm if saw else Decimal(0))
    return left if left >= LEAST_REMNANT.mm else Decimal(0)


def _same_piece(
    session: Session, kept: StockBar, bar: StockBar, piece: Length, saw: Length | None, job_number: int | None
) -> StockBar:
    """The bar as a form sent before left it. Raises AlreadySent where another piece is said now."""
    job = jobs.job_numbered(session, job_number).job.id if job_number is not None else None
    before = session.get_one(StockBar, kept.supersedes_id)
    if (kept.of_id, kept.job_id, kept.length_mm) == (bar.first_id, job, _left(before, piece, saw)):
        return kept
    raise AlreadySent(
        f"This form had been sent before with something else in it; the first one stands: {kept.length_text} is left."
    )
