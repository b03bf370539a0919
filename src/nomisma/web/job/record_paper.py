"""The record on paper: the job's report, its first-article form, and labels for the job and its pieces."""

from dataclasses import dataclass
from typing import Any

from fastapi import APIRouter, Depends
from fastapi.responses import Response
from markupsafe import Markup

from nomisma.core.calculation import BadInput
from nomisma.core.errors import InputError
from nomisma.core.measuring.batch import BatchResult
from nomisma.core.part.feature import SEVERITY, State
from nomisma.core.quantity.display import show_exact
from nomisma.core.quantity.length import Unit
from nomisma.exchange.pdf import Paper
from nomisma.jobs.closing.characteristics import characteristics
from nomisma.jobs.closing.record import record_of
from nomisma.jobs.planning.plan_state import plan_of
from nomisma.jobs.shop.clock import now
from nomisma.jobs.standing.pieces import serials
from nomisma.jobs.standing.state import JobState
from nomisma.store.readings import Extremes
from nomisma.web.drawings.job_label import job_label
from nomisma.web.drawings.run_chart import run_chart
from nomisma.web.frame.job_in_hand import href, job_in_hand
from nomisma.web.frame.paper import on_paper, pdf, picture
from nomisma.web.frame.part_section import drawing_of_job
from nomisma.web.frame.visit import Visit, signed_in
from nomisma.web.job.batch import batch_of, matrix_of
from nomisma.web.job.moments import moments_of

router = APIRouter(include_in_schema=False)
MOST_CHARTS = 20
"""Features of a batch whose run is drawn; beyond them a report is a book. Source: this tool's own choice."""


@dataclass(frozen=True, slots=True)
class ChartedFeature:
    """A feature of a batch with its run and its capability, or why there are none."""

    feature: JobState
    result: BatchResult | None
    picture: Markup
    problems: tuple[InputError, ...] = ()


@router.get("/jobs/{number}/record.pdf")
def report(number: int, visit: Visit = Depends(signed_in), paper: Paper = "a4", unit: Unit | None = None) -> Response:
    """The job's report on A4 or letter, in inch or mm (left out: the job's own). Raises NoPaper, InputError."""
    state = job_in_hand(visit, number)
    plan = plan_of(visit.db, state)
    drawing, unplaced = drawing_of_job(state)
    return _paper(
        visit,
        "job/report/report.html",
        state,
        paper=paper,
        unit=unit,
        name=f"record-{number}",
        drawing=drawing,
        unplaced=unplaced,
        plan=plan,
        moments_of=moments_of,
        matrix=matrix_of(state),
        charts=_charts(visit, state),
        most_charts=MOST_CHARTS,
    )


def _charts(visit: Visit, state: JobState) -> list[ChartedFeature]:
    found = []
    for one in state.made[:MOST_CHARTS] if state.is_batch else ():
        limits = one.both_limits
        try:
            result = batch_of(visit, one)
        except BadInput as bad:
            found.append(ChartedFeature(one, None, Markup(), tuple(bad.errors)))
            continue
        if result and limits and len(result.pieces) > 1:
            found.append(ChartedFeature(one, result, run_chart(result, limits.lower_mm, limits.upper_mm, state.unit)))
    return found


@router.get("/jobs/{number}/first-article.pdf")
def first_article(
    number: int,
    visit: Visit = Depends(signed_in),
    paper: Paper = "a4",
    unit: Unit | None = None,
    piece: str = "",
) -> Response:
    """The characteristics of one piece, each accounted for: of a batch the first, unless another is named. Raises
    NoPaper, InputError.
    """
    state = job_in_hand(visit, number)
    return _paper(
        visit,
        "job/report/first_article.html",
        state,
        paper=paper,
        unit=unit,
        name=f"first-article-{number}",
        piece=_piece(state, piece),
    )


def _piece(state: JobState, asked: str) -> str:
    """The piece a form is of. Raises InputError where the batch has none of that serial."""
    known = serials(state)
    if asked and asked not in known:
        raise InputError(f"This job has no piece “{asked}”.", "Choose one of its pieces on Batch.", field="piece")
    return asked or (known[0] if known else "")


def _paper(
    visit: Visit, template: str, state: JobState, *, paper: Paper, unit: Unit | None, name: str, **values: Any
) -> Response:
    record = record_of(visit.db, state)
    return pdf(
        visit,
        template,
        paper=paper,
        name=name,
        on_paper=on_paper,
        printed_at=now(),
        printed_by=visit.account.name,
        state=state,
        job=state.job,
        record=record,
        unit=unit or state.unit,
        rows=characteristics(record, state, values.get("piece") if "piece" in values else None),
        **values,
    )


@router.get("/jobs/{number}/label.pdf")
def labels(number: int, visit: Visit = Depends(signed_in), unit: Unit | None = None) -> Response:
    """A label of the job, or of each piece of a batch that was measured, one a page of 62 × 29 mm. Raises NoPaper,
    InputError.
    """
    state = job_in_hand(visit, number)
    drawn = [_label(visit, state, piece, unit or state.unit) for piece in state.pieces_read or ("",)]
    return pdf(
        visit,
        "job/report/labels.html",
        paper="label",
        name=f"label-{number}",
        on_paper=on_paper,
        job=state.job,
        unit=unit or state.unit,
        labels=drawn,
    )


@router.get("/jobs/{number}/label.svg")
def label(number: int, visit: Visit = Depends(signed_in), unit: Unit | None = None, piece: str = "") -> Response:
    """The label of the job, or of one piece of a batch, as a picture. Raises InputError."""
    state = job_in_hand(visit, number)
    drawn = _label(visit, state, _piece(state, piece) if piece else "", unit or state.unit)
    return picture(drawn, unit or state.unit, name=f"label-{number}")


def _label(visit: Visit, state: JobState, piece: str, unit: Unit) -> Markup:
    """What a label says: the job and the piece, how it stands, and the sizes that were read: "A 0.8762 in, mouth"."""
    asked = {"piece": piece} if piece else {}
    address = f"{str(visit.request.base_url).rstrip('/')}{href(state, 'make', **asked)}"
    head = f"Job {state.job.number}" + (f", piece {piece}" if piece else "")
    lines = [stands_in_words(state, piece), *sizes_in_words(state, piece, unit)]
    return job_label(address, head, state.job.title, lines)


def stands_in_words(state: JobState, piece: str) -> str:
    """How a piece stands over all its features: by its worst verdict; in limits only where all is measured."""
    found = [one.verdict_of_piece.get(piece) for one in state.made if one.feature.is_judged]
    worst = max((one.state for one in found if one), key=SEVERITY.index, default=State.IN_LIMITS)
    return worst.words if all(found) or worst is not State.IN_LIMITS else "not all measured"


def sizes_in_words(state: JobState, piece: str, unit: Unit) -> list[str]:
    """The sizes of a piece since its last cut, mm shown in `unit`: of a job of one feature place by place, of more a
    feature a line, from the smallest to the largest.
    """
    if len(state.made) == 1:
        own = state.own_readings.of_piece(piece)
        places = dict.fromkeys(one.place for one in own.groups)
        return [f"{_span(own.at_place(place), unit)} {place}" for place in places]
    read = [(one.letter, one.own_readings.of_piece(piece)) for one in state.made]
    return [f"{letter} {_span(found, unit)}" for letter, found in read if found.count]


def _span(found: Extremes, unit: Unit) -> str:
    smallest, largest = show_exact(found.smallest_mm, unit), show_exact(found.largest_mm, unit)
    return smallest if smallest == largest else f"{smallest.split()[0]} to {largest}"
