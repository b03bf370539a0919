"""Bring in: readings from a CSV table, looked at row by row before any of them is written."""

from collections import Counter
from dataclasses import dataclass
from typing import Any, cast
from uuid import UUID, uuid5

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.errors import InputError
from nomisma.core.measuring.misread import MisreadInput, misread
from nomisma.core.quantity.length import Length, Unit
from nomisma.exchange.readings_in import DecimalMark, RowRead, rows_of
from nomisma.store import readings
from nomisma.store.append import append
from nomisma.store.live import announce
from nomisma.store.models import Reading, ReadingDoubt
from nomisma.store.readings import uncertainty_of
from nomisma.store.taken import Taken
from nomisma.web.at_hand import AtHand, at_hand, likeliest
from nomisma.web.job_state import JobState, state_numbered
from nomisma.web.pages import page
from nomisma.web.reading_form import Member, kind_of
from nomisma.web.visit import Form, Post, Visit, posted, signed_in

router = APIRouter(include_in_schema=False)
LONGEST = 200_000


@dataclass(frozen=True)
class Looked:
    """One row with what would become of it: taken, doubtful (and why) or refused (and why)."""

    row: RowRead
    outcome: str
    why: str = ""
    choice: AtHand | None = None


@router.get("/jobs/{number}/import")
def show(number: int, visit: Visit = Depends(signed_in)) -> Response:
    """The form: paste a table or choose a file."""
    return _page(visit, state_numbered(visit.db, number))


def _page(
    visit: Visit, state: JobState, *, status: int = 200, looked: list[Looked] | None = None, typed: dict[str, str] | None = None,
    error: InputError | None = None,
) -> Response:  # fmt: skip
    return page(
        visit, "measure/import.html", status=status, own_unit=state.unit, state=state, job=state.job, stage="measure", looked=looked,
        typed=typed or {}, error=error, counts={name: sum(one.outcome == name for one in looked or ()) for name in OUTCOMES},
    )  # fmt: skip


OUTCOMES = ("taken", "doubtful", "refused")


@router.post("/jobs/{number}/import")
def bring_in(number: int, post: Post = Depends(posted)) -> Response:
    """Look at the rows; write them only when asked to, and the doubtful ones only where they are ticked."""
    visit, form, state = post.visit, post.form, state_numbered(post.visit.db, number)
    typed = {name: _typed(form, name) for name in ("csv", "decimal_mark", "member")}
    try:
        state.must_be_open()
        member: Member = "partner" if form.text("member") == "partner" else "made"
        looked = _look(visit, form, state, member)
    except InputError as error:
        return _page(visit, state, status=422, typed=typed, error=error)
    if form.text("step") != "take":
        return _page(visit, state, looked=looked, typed=typed)
    batch = form.client_id()
    for one in looked:
        if one.outcome == "taken" or (one.outcome == "doubtful" and form.text(f"row_{one.row.number}") == "yes"):
            _write(visit, state, member, one, batch)
    announce(visit.db, number, "reading")
    visit.db.commit()
    return RedirectResponse(f"/jobs/{number}/{'mate' if member == 'partner' else 'measure'}", 303)


def _typed(form: Form, name: str) -> str:
    value = form.data.get(name, "")
    return value[:LONGEST] if isinstance(value, str) else ""


def _look(visit: Visit, form: Form, state: JobState, member: Member) -> list[Looked]:
    mark = cast(DecimalMark, form.choice("decimal_mark", ("either", "point", "comma")))
    text = form.text("csv", needed=True, longest=LONGEST)
    choices = at_hand(visit, kind_of(state, member))
    rows = list(rows_of(text, unit=state.unit, decimal_mark=mark, member=member))
    pieces = Counter(row.piece for row in rows)
    last_cuts = {piece: readings.last_cut_number(visit.db, state.job.id, piece) for piece in pieces}
    found: list[Looked] = []
    for row in rows:
        if member == "made" and row.cut_number > last_cuts[row.piece] + pieces[row.piece]:
            found.append(Looked(row, "refused", _NO_SUCH_CUT.format(row.cut_number, last_cuts[row.piece])))
        else:
            found.append(_outcome(state, member, row, choices, found))
    return found


_NO_SUCH_CUT = "There is no cut {} of this piece: {} are recorded, and the file has too few rows for the ones between."


def _outcome(state: JobState, member: Member, row: RowRead, choices: list[AtHand], before: list[Looked]) -> Looked:
    """What becomes of a row, in the light of what is logged and of the rows before it."""
    if row.refused or row.size is None:
        return Looked(row, "refused", row.refused)
    named = [choice for choice in choices if choice.name.lower() == row.instrument.lower()]
    if row.instrument and not named:
        return Looked(
            row, "refused", f"The shop has no “{row.instrument[:40]}” for this. Enter it in the Shop, or correct its name."
        )
    choice = next(iter(named), None) or likeliest(choices, "", row.size.unit, row.size.mm)
    if choice is None:
        return Looked(row, "refused", "The shop has no instrument for this. Enter it in the Shop.")
    try:
        choice.must_reach(row.size, "csv")
        _taken(row, choice).columns(row.size)
    except InputError as error:
        return Looked(row, "refused", error.sentence)
    extremes = state.partner_readings if member == "partner" else state.made_readings.of_piece(row.piece)
    others = [one.row.size.mm for one in before if one.outcome == "taken" and one.row.size and _same(one.row, row)]
    if not others and extremes.count and not row.cut_number:
        others = [extremes.smallest_mm, extremes.largest_mm]
    limits = state.limits if member == "made" else None
    unit = row.size.unit
    found = misread(
        MisreadInput(
            kind=kind_of(state, member), reading=row.size, instrument_unit=cast(Unit, choice.instrument.unit),
            uncertainty=Length(uncertainty_of(choice.instrument), unit), others=[Length(mm, unit) for mm in others[-60:]],
            lower=Length(limits.lower_mm, unit) if limits else None, upper=Length(limits.upper_mm, unit) if limits else None,
        )
    )  # fmt: skip
    return Looked(row, "doubtful" if found.suspected else "taken", found.sentence if found.suspected else "", choice)


def _same(one: RowRead, other: RowRead) -> bool:
    return (one.piece, one.cut_number) == (other.piece, other.cut_number)


def _taken(row: RowRead, choice: AtHand) -> Taken:
    """As its file says it was taken: what was measured elsewhere is not corrected by a check made here."""
    return Taken(
        choice.instrument, zero_error_mm=row.zero_error_mm, transfer=choice.transfer, temperature_c=row.temperature_c,
        material=row.material,
    )  # fmt: skip


def _write(visit: Visit, state: JobState, member: Member, one: Looked, batch: UUID) -> None:
    row = one.row
    assert row.size is not None
    assert one.choice is not None
    values: dict[str, Any] = _taken(row, one.choice).columns(row.size)
    doubt_id = None
    if one.outcome == "doubtful":
        doubt_id = uuid5(batch, f"doubt {row.number}")
        append(
            visit.db,
            ReadingDoubt(
                id=doubt_id, job_id=state.job.id, member=member, place=row.place, size_mm=row.size.mm, size_text=row.size_text,
                size_unit=row.size.unit, instrument_id=one.choice.instrument.id, sentence=one.why, by_id=visit.account.id,
            ),
        )  # fmt: skip
    append(
        visit.db,
        Reading(
            id=uuid5(batch, f"row {row.number}"), job_id=state.job.id, member=member, place=row.place, piece=row.piece,
            cut_number=row.cut_number if member == "made" else 0, limits_id=state.limits.id if member == "made" and state.limits else None,
            by_id=visit.account.id, reason="", withdrawn=False, doubt_id=doubt_id, **values,
        ),
    )  # fmt: skip
