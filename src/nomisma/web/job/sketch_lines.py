"""Lines of a sketch as a form sends them, and how they are understood before they count."""

from typing import cast

from fastapi import APIRouter, Depends
from fastapi.responses import Response
from markupsafe import Markup

from nomisma.core.errors import InputError
from nomisma.core.number import is_whole
from nomisma.core.part.general_tolerance import GeneralTolerance
from nomisma.core.planning.feature_lines import MOST_FEATURES, as_part_of
from nomisma.core.quantity.length import Unit
from nomisma.jobs.opening.new_job import Lines, look_at_lines
from nomisma.web.frame.job_in_hand import job_in_hand
from nomisma.web.frame.pages import page
from nomisma.web.frame.part_section import drawing_of_lines
from nomisma.web.frame.visit import Form, Post, posted

router = APIRouter(include_in_schema=False)
LONGEST = 20_000
TOLERANCES: dict[str, str] = {
    "": "as usual: ISO 2768-m, or by decimals of an inch", "iso_2768_f": "ISO 2768-f, fine",
    "iso_2768_m": "ISO 2768-m, medium",
    "iso_2768_c": "ISO 2768-c, coarse", "iso_2768_v": "ISO 2768-v, very coarse",
    "inch_decimals": "by the decimals of an inch size",
    "none": "nothing: for reference",
}  # fmt: skip
"""What holds a size without limits of its own, in words."""


def long_text(form: Form, name: str) -> str:
    """A field of many lines as it was typed, to be shown again."""
    value = form.data.get(name, "")
    return value.replace("\x00", "")[:LONGEST] if isinstance(value, str) else ""


def lines_from(form: Form, unit: str) -> Lines:
    """The lines of a form. Raises InputError."""
    tolerance = form.text("general_tolerance")
    if tolerance not in TOLERANCES:
        raise InputError("That general tolerance is not known.", "Choose it from the list.", field="general_tolerance")
    return Lines(
        form.text("lines", needed=True, longest=LONGEST),
        cast(Unit, unit),
        cast(GeneralTolerance, tolerance) if tolerance else None,
        sizes_meant=bool(form.text("sizes_meant")),
    )


def _after(form: Form) -> int:
    """How many features the part has already, as its page says."""
    text = form.text("after")
    return min(int(text), MOST_FEATURES) if is_whole(text) else 0


@router.post("/sketch-lines")
def look(post: Post = Depends(posted)) -> Response:
    """What the lines typed so far say: a part of the page, nothing is written."""
    found, error, section = None, None, Markup("")
    unplaced: list[str] = []
    try:
        found = look_at_lines(lines_from(post.form, post.form.unit()), after=_after(post.form))
    except InputError as refused:
        error = refused if post.form.text("lines", longest=LONGEST) else None
    draws = post.form.text("draws") == "yes"
    if found and draws:
        number = post.form.text("job")
        there = job_in_hand(post.visit, int(number)).lettered if is_whole(number) else ()
        found = as_part_of(found, there)
        section, unplaced = drawing_of_lines(found, post.form.unit(), there)
    return page(
        post.visit,
        "job/part/_understood.html",
        found=found,
        error=error,
        draws=draws,
        section=section,
        unplaced=unplaced,
    )
