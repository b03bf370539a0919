"""Keeping a worksheet's answer with a job: the one it was opened from, or any by its number."""

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.errors import InputError
from nomisma.core.number import whole_from
from nomisma.jobs.opening.kept_answers import AnswerToKeep, keep_answer
from nomisma.jobs.standing.lookup import state_numbered
from nomisma.store.jobs import LARGEST_NUMBER
from nomisma.web.frame.job_in_hand import href
from nomisma.web.frame.slots import calculating
from nomisma.web.frame.visit import Post, posted
from nomisma.web.worksheets.catalog import TOOLS
from nomisma.web.worksheets.pages import values_of

router = APIRouter(include_in_schema=False)


@router.post("/worksheets/keep")
def keep(post: Post = Depends(posted)) -> Response:
    """Work it out anew from what was typed, and keep it; the answer is the job's Record, where it stands."""
    visit, form = post.visit, post.form
    number = whole_from(
        form.text("keep_number", needed=True, longest=12), least=1, most=LARGEST_NUMBER, field="keep_number"
    )
    state = state_numbered(visit.db, number, form.text("keep_letter", longest=4))
    tool = TOOLS.get(form.text("keep_tool", longest=40))
    if tool is None:
        raise InputError("That is no worksheet.", "Open it anew.", field="keep_tool")
    asked = {one.name: form.text(one.name, longest=one.longest) for one in tool.fields}
    unit = form.unit("keep_unit")
    given = AnswerToKeep(
        id=form.client_id(),
        calculation=tool.calculation,
        asked=asked,
        values=values_of(visit, tool, asked, unit),
        unit=unit,
        note=form.text("keep_note", longest=300),
    )
    with calculating(visit):
        keep_answer(visit.db, state, given, by=visit.account)
    visit.db.commit()
    return RedirectResponse(href(state, "record") + "#kept", 303)
