"""A bush's job worked to its worksheet: one form puts all its limits in force and plans its pressing."""

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.jobs.opening.bush_work import BushChosen, work_to_bush
from nomisma.web.frame.job_in_hand import href, job_in_hand
from nomisma.web.frame.visit import Post, posted
from nomisma.web.worksheets.catalog import TOOLS
from nomisma.web.worksheets.pages import values_of

router = APIRouter(include_in_schema=False)


@router.post("/jobs/{number}/bush")
def work_to(number: int, post: Post = Depends(posted)) -> Response:
    """Work it out anew from what was typed, and put it in force; it goes on at Part, where all its limits stand."""
    visit, form, state = post.visit, post.form, job_in_hand(post.visit, number)
    state.must_be_open()
    tool = TOOLS["bush"]
    asked = {one.name: form.text(one.name, longest=one.longest) for one in tool.fields}
    chosen = BushChosen(
        id=form.client_id(),
        asked=asked,
        values=values_of(visit, tool, asked, state.unit),
        seen=form.text("seen", longest=400),
        based_on=form.text("based_on", longest=60),
        judge_reason=form.text("judge_reason", longest=300),
    )
    work_to_bush(visit.db, state, chosen, by=visit.account)
    visit.db.commit()
    return RedirectResponse(href(state, "part"), 303)
