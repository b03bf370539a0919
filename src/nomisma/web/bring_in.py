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
from nomisma.jobs.state import JobState
from nomisma.store import readings
from nomisma.store.append import append
from nomisma.store.live import announce
from nomisma.store.models import Reading, ReadingDoubt
from nomisma.store.readings import uncertainty_of
from nomisma.store.taken import Taken
from nomisma.web.at_hand import AtHand, at_hand, likeliest
from nomisma.web.job_in_hand import href, job_in_hand
from nomisma.web.pages import page
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
    return _page(visit, job_in_hand(visit, number))


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
    visit, form, asked = post.visit, post.form, job_in_hand(post.visit, number)
    state = asked
    typed = {name: _typed(form, name) for name in ("csv", "decimal_mark", "member")}
    try:
        state.must_be_open()
        state.must_count()
        if form.text("member") == "partner":
            state = state.at(state.must_have_a_joint().row.id)
        looked = _look(visit, form, state)
    except InputError as error:
        return _page(visit, asked, status=422, typed=typed, error=error)
    if form.text("step") != "take":
        return _page(visit, asked, looked=looked, typed=typed)
    batch = form.client_id()
    for one in looked:
        if one.outcome == "taken" or (one.outcome == "doubtful" and form.text(f"row_{one.row.number}") == "yes"):
            _write(visit, state, one, batch)
    announce(visit.db, number, "reading")
    visit.db.commit()
    return RedirectResponse(href(asked, "mate" if state is not asked else "measure"), 303)


def _typed(form: Form, name: str) -> str:
    value = form.data.get(name, "")
    return value[:LONGEST] if isinstance(value, str) else ""


def _look(visit: Visit, form: Form, state: JobState) -> list[Looked]:
    mark = cast(DecimalMark, form.choice("decimal_mark", ("either", "point", "comma")))
    text = form.text("csv", needed=True, longest=LONGEST)
    choices = at_hand(visit, state.kind)
    rows = list(
        rows_of(
            text,
            unit=state.unit,
            decimal_mark=mark,
            member="made" if state.in_hand.made_here else "partner",
            feature=state.letter,
        )
    )
    pieces = Counter(row.piece for row in rows)
    last_cuts = {piece: readings.last_cut_number(visit.db, state.feature_id, piece) for piece in pieces}
    found: list[Looked] = []
    for row in rows:
        if state.in_hand.made_here and row.cut_number > last_cuts[row.piece] + pieces[row.piece]:
            found.append(Looked(row, "refused", _NO_SUCH_CUT.format(row.cut_number, last_cuts[row.piece])))
        else:
            found.append(_outcome(state, row, choices, found))
    return found


_NO_SUCH_CUT = "There is no cut {} of this piece: {} are recorded, and the file has too few rows for the ones between."


def _outcome(state: JobState, row: RowRead, choices: list[AtHand], before: list[Looked]) -> Looked:
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
    extremes = state.own_readings.of_piece(row.piece)
    others = [one.row.size.mm for one in before if one.outcome == "taken" and one.row.size and _same(one.row, row)]
    if not others and extremes.count and not row.cut_number:
        others = [extremes.smallest_mm, extremes.largest_mm]
    feature = state.feature
    unit = row.size.unit
    found = misread(
        MisreadInput(
            kind=state.kind, reading=row.size, instrument_unit=cast(Unit, choice.instrument.unit),
            uncertainty=Length(uncertainty_of(choice.instrument), unit), others=[Length(mm, unit) for mm in others[-60:]],
            lower=Length(feature.lower_mm, unit) if feature.lower_mm is not None else None,
            upper=Length(feature.upper_mm, unit) if feature.upper_mm is not None else None,
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


def _write(visit: Visit, state: JobState, one: Looked, batch: UUID) -> None:
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
                id=doubt_id, job_id=state.job.id, feature_id=state.feature_id, place=row.place, size_mm=row.size.mm, size_text=row.size_text,
                size_unit=row.size.unit, instrument_id=one.choice.instrument.id, sentence=one.why, by_id=visit.account.id,
            ),
        )  # fmt: skip
    append(
        visit.db,
        Reading(
            id=uuid5(batch, f"row {row.number}"), job_id=state.job.id, feature_id=state.feature_id, place=row.place, piece=row.piece,
            cut_number=row.cut_number if state.in_hand.made_here else 0, limits_id=state.limits.id if state.limits else None,
            by_id=visit.account.id, reason="", withdrawn=False, doubt_id=doubt_id, **values,
        ),
    )  # fmt: skip
