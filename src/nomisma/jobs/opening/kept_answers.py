"""An answer of a worksheet, worked out anew and kept with a feature of a job."""

from dataclasses import dataclass
from typing import Any
from uuid import UUID

from sqlalchemy.orm import Session

from nomisma.core.calculation import BadInput
from nomisma.core.quantity.length import Unit
from nomisma.core.registry import calculation_named
from nomisma.jobs.standing.state import JobState
from nomisma.store.append import append, sent_before
from nomisma.store.live import announce
from nomisma.store.models import Account, KeptAnswer


@dataclass(frozen=True, slots=True, kw_only=True)
class AnswerToKeep:
    """A worksheet's calculation, what was typed into its fields, that as values, the unit in force, and what is to be
    said of it.
    """

    id: UUID
    calculation: str
    asked: dict[str, str]
    values: dict[str, Any]
    unit: Unit
    note: str = ""


def keep_answer(session: Session, state: JobState, given: AnswerToKeep, *, by: Account) -> KeptAnswer:
    """Work the answer out anew and keep it with the feature in hand; commits nothing. Sent twice it is one. Raises
    InputError, HandedOver.
    """
    said = {"feature_id": state.feature_id, "calculation": given.calculation, "asked": given.asked, "note": given.note}
    if kept := sent_before(session, KeptAnswer, given.id, **said):
        return kept
    state.must_be_open()
    try:
        answer = calculation_named(given.calculation).run(given.values)
    except BadInput as error:
        raise error.errors[0] from None
    row = append(
        session,
        KeptAnswer(
            id=given.id,
            job_id=state.job.id,
            feature_id=state.feature_id,
            calculation=given.calculation,
            unit=given.unit,
            asked=given.asked,
            answer=answer.model_dump(mode="json"),
            note=given.note,
            by_id=by.id,
        ),
    )
    announce(session, state.job.number, "answer")
    return row
