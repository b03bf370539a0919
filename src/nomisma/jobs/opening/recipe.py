"""A job as a recipe: another begun from it, what was planned and worked out for it carried over, and what no longer
holds asked about.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from uuid import UUID, uuid5

from sqlalchemy.orm import Session

from nomisma.core.part.said_feature import SaidFeature
from nomisma.core.part.said_lines import said_lines
from nomisma.core.quantity.display import show_exact
from nomisma.core.registry import calculation_named
from nomisma.jobs.planning.plan_entries import Question
from nomisma.jobs.standing.state import JobState
from nomisma.store import jobs
from nomisma.store.append import append
from nomisma.store.models import Account, KeptAnswer, PlanEntry
from nomisma.store.plans import plan_entries

CARRIED = ("intake", "stock", "order")
"""What of a plan goes over to another job; questions, looks before the saw and ticks are each job's own."""


LONGEST_NOTE = 200
"""How much of a note a question about it repeats; the note itself stands in the former job."""


@dataclass(frozen=True, slots=True)
class Recipe:
    """What another job is begun with: the former one's number, and its lines, one a feature."""

    number: int
    lines: str


def recipe_of(state: JobState) -> Recipe:
    """The features a job makes, as lines, at the sizes in force; one with no size yet is no line, and is named anew."""
    said = [
        SaidFeature(one.letter, one.feature.of_kind.name, size, one.in_hand.row.through, one.along, one.duty)
        for one in state.made
        if (size := _text(one))
    ]
    return Recipe(state.job.number, "\n".join(said_lines(said)))


def _text(one: JobState) -> str:
    """A feature's size with limits as written; as limits where they were chosen and not written."""
    wanted = one.requirement
    if wanted is not None and wanted.text:
        return wanted.text
    limits = one.both_limits
    if limits is None:
        return one.in_hand.row.line_text
    lower, upper = (show_exact(mm, one.unit).replace("−", "-") for mm in (limits.lower_mm, limits.upper_mm))
    return f"{lower.rsplit(' ', 1)[0]}/{upper}"


def carry_over(session: Session, former: JobState, begun: JobState, *, by: Account) -> None:
    """Carry what was planned and kept for a former job over to one begun from it; commits nothing; done twice it is
    done once.

    An answer kept for a feature that is another size now is not carried: a question says so.
    """
    for row in _entries(session, former, begun, by):
        append(session, row)


def _entries(session: Session, former: JobState, begun: JobState, by: Account) -> Iterator[PlanEntry | KeptAnswer]:
    newest = {row.topic: row for row in plan_entries(session, former.job.id)}
    for topic in CARRIED:
        if topic in newest:
            yield _entry(begun, newest[topic].id, topic, newest[topic].said, by)
    letters = {one.in_hand.row.id: one.letter for one in former.made}
    for kept in jobs.kept_answers(session, former.job.id):
        letter = letters.get(kept.feature_id, "")
        same = _same(former, begun, letter)
        if same is not None:
            yield KeptAnswer(
                id=_id(begun, kept.id),
                job_id=begun.job.id,
                feature_id=same,
                calculation=kept.calculation,
                unit=kept.unit,
                asked=kept.asked,
                answer=kept.answer,
                note=f"{kept.note} (from job {former.job.number})".strip(),
                by_id=by.id,
            )
        else:
            title = calculation_named(kept.calculation).title
            about = f"{letter} is another size here" if letter else "its feature is gone"
            note = kept.note or "no note"
            note = note if len(note) <= LONGEST_NOTE else f"{note[:LONGEST_NOTE]}…"
            said = Question(question=f"Job {former.job.number} kept “{title}” ({note}); {about}: what is it now?")
            yield _entry(begun, kept.id, "question", said.model_dump(mode="json"), by)


def _same(former: JobState, begun: JobState, letter: str) -> UUID | None:
    """The feature of the new job that is what the former one's was, by letter, kind and limits; none where it
    is not.
    """
    pair = [next((one for one in state.made if one.letter == letter), None) for state in (former, begun)]
    if pair[0] is None or pair[1] is None or pair[0].feature != pair[1].feature:
        return None
    return pair[1].in_hand.row.id


def _entry(begun: JobState, source: UUID, topic: str, said: dict[str, object], by: Account) -> PlanEntry:
    return PlanEntry(id=_id(begun, source), job_id=begun.job.id, topic=topic, said=said, by_id=by.id)


def _id(begun: JobState, source: UUID) -> UUID:
    """The same row for the same thing carried to the same job."""
    return uuid5(begun.job.id, str(source))
