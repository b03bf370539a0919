"""A job's plan as its record holds it: what was asked, what was open, the stock, the saw, the set-ups and what of them
is done.
"""

from datetime import datetime
from decimal import Decimal

from pydantic import Field

from nomisma.core.model import Model


class RecordedIntake(Model):
    """What was asked, as it was said last."""

    must_do: str
    for_whom: str
    needed_by: str
    came_as: str
    material: str
    known_by: str
    surfaces: str
    worn: str
    by: str
    at: datetime


class RecordedQuestion(Model):
    """A question before metal is cut, and its answer, or why it was waived; no answer: it is open."""

    question: str
    by: str
    at: datetime
    answer: str = ""
    waived: bool = False
    answered_by: str = ""
    answered_at: datetime | None = None


class RecordedStock(Model):
    """The stock as measured, its texts as they were typed, how it is held, and what else was chosen, in words."""

    shape: str
    surface: str
    material: str
    across: str
    bore: str
    length: str
    parting: str
    grip: str
    unit: str
    held: str
    chosen: list[str] = Field(default_factory=list)
    by: str
    at: datetime


class RecordedLook(Model):
    """A look before the saw: the drawing's sizes typed again, whether it might be sawn, and what was against it."""

    length_again: str
    diameter_again: str
    may_saw: bool
    headline: str
    against: list[str]
    by: str
    at: datetime


class RecordedRunout(Model):
    """What a needle said of a chucking, as typed; its total indicator reading and what was allowed then, mm."""

    piece: str
    readings: list[str]
    indicator: str
    total_indicator_reading_mm: Decimal
    allowed_mm: Decimal | None
    said: str
    by: str
    at: datetime


class RecordedSetUp(Model):
    """A set-up of the plan: how it is held and why, what the needle said of it, and who said it ready to be started (by
    piece).
    """

    number: int
    title: str
    way: str
    reason: str
    runouts: list[RecordedRunout]
    ready: list["RecordedDone"]
    operations: list["RecordedOperation"]


class RecordedDone(Model):
    """That something was done, of a batch for one piece, on which lathe; why, where a warning was left aside; `closed`:
    by its reading, or without the reading it asks for.
    """

    piece: str
    by: str
    at: datetime
    reason: str = ""
    lathe: str = ""
    closed: str = ""


class RecordedOperation(Model):
    """One operation: its number, what it does, with which tool, which rules it breaks where it stands, and who closed
    it; `finds`: the letters of the features whose size is found at it.
    """

    number: int
    title: str
    tool: str
    breaks: list[str]
    finds: list[str] = Field(default_factory=list)
    done: list[RecordedDone]


class RecordedPlan(Model):
    """The plan of a job: everything that was said of it, and the order of work as it stands; `made_with_jobs`: the
    numbers of those that were made together with it; `went_on`: when the rest was planned anew from a piece as it was.
    """

    intake: RecordedIntake | None = None
    questions: list[RecordedQuestion] = Field(default_factory=list)
    stock: RecordedStock | None = None
    looks: list[RecordedLook] = Field(default_factory=list)
    set_ups: list[RecordedSetUp] = Field(default_factory=list)
    order_by_hand: bool = False
    order_reason: str = ""
    went_on: list[RecordedDone] = Field(default_factory=list)
    made_with_jobs: list[int] = Field(default_factory=list)
