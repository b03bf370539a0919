"""What may be said of a job's plan, topic by topic, as it is kept."""

from typing import Literal

from pydantic import Field

from nomisma.core.model import Model
from nomisma.core.order.family import MOST_SIBLINGS
from nomisma.core.order.mountings import PlanMounting
from nomisma.core.order.set_ups import StockHeld
from nomisma.core.planning.blank import Shape, StockSurface
from nomisma.core.quantity.length import Unit

Topic = Literal[
    "intake",
    "question",
    "answer",
    "stock",
    "saw",
    "order",
    "tick",
    "holding",
    "runout",
    "first_start",
    "family",
    "gone_on",
]
CameAs = Literal["drawing", "sketch", "sample", "mating_part", "words"]
CAME_AS_WORDS: dict[CameAs, str] = {
    "drawing": "a drawing", "sketch": "a sketch", "sample": "a sample, worn or good", "mating_part": "the mating part",
    "words": "words",
}  # fmt: skip
KnownBy = Literal["unknown", "said", "certificate", "file", "spark", "magnet", "try_cut"]
KNOWN_BY_WORDS: dict[KnownBy, str] = {
    "unknown": "not known: cautious speeds", "said": "somebody said so", "certificate": "its certificate",
    "file": "tried with a file",
    "spark": "by its spark", "magnet": "with a magnet", "try_cut": "by a trial cut",
}  # fmt: skip
LONG = 400


class Intake(Model):
    """What was asked: what it must do, for whom and by when, how it came, what it is made of and how that is known,
    what counts.
    """

    must_do: str = Field(default="", max_length=LONG)
    for_whom: str = Field(default="", max_length=LONG)
    needed_by: str = Field(default="", max_length=80)
    came_as: CameAs = "drawing"
    material: str = Field(default="", max_length=80)
    known_by: KnownBy = "unknown"
    surfaces: str = Field(default="", max_length=LONG)
    worn: str = Field(default="", max_length=LONG)


class Question(Model):
    """Something that must be known, or waived, before metal is cut."""

    question: str = Field(max_length=LONG)


class Answer(Model):
    """What was found out of a question, by its row; or that it is waived, and why."""

    of: str
    answer: str = Field(max_length=LONG)
    waived: bool = False


class StockChosen(Model):
    """The stock as measured, its texts as they were typed; what it is, whether the far face may stay as parted, and of
    a part that is mended, whether it has centre holes of its own; whether all of it is roughed first; how
    the whole part is held, by choice.
    """

    held: StockHeld = "bar"
    face_as_parted: bool = False
    centred: bool = False
    rough_first: bool = False
    mounting: PlanMounting = "any"
    shape: Shape = "round"
    surface: StockSurface = "bright"
    across: str = Field(default="", max_length=40)
    bore: str = Field(default="", max_length=40)
    length: str = Field(default="", max_length=40)
    parting: str = Field(default="", max_length=40)
    grip: str = Field(default="", max_length=40)
    material: str = "carbon_steel"
    unit: Unit = "mm"

    @property
    def with_skin(self) -> bool:
        """Whether it is held on its skin at first: a casting, a forging, or what a flame cut."""
        return self.held == "blank" and self.surface != "bright"


class SawLooked(Model):
    """A look before the saw: what was typed again from the drawing, what came of it, and what was against it."""

    length_again: str = Field(max_length=40)
    diameter_again: str = Field(default="", max_length=40)
    may_saw: bool
    headline: str
    against: list[str]
    for_length_mm: str
    for_blank_mm: str = ""
    unit: Unit = "mm"


class OrderKept(Model):
    """The order a hand put: keys of operations; why, where it breaks a rule. No keys: as it is planned."""

    keys: list[str] = Field(max_length=400)
    reason: str = Field(default="", max_length=LONG)


class WentOn(Model):
    """The rest planned anew from a piece as it was: what was done of it by then, by the keys of its operations; the one
    that was taken next; of a batch which piece; and why.
    """

    done: list[str] = Field(max_length=400)
    first: str = Field(default="", max_length=200)
    piece: str = Field(default="", max_length=40)
    reason: str = Field(default="", max_length=LONG)


class Tick(Model):
    """One operation ticked off, or taken back, by its key; of a batch for one piece; on which lathe.

    `by_reading`: readings closed it, and go on deciding whether it is done; `without_reading`: a size is found at it,
    and somebody closed it without. `letter`: not the operation is ticked off, but
    that one place is enough of what is measured at it, said when this feature was read.
    """

    key: str = Field(max_length=200)
    done: bool = True
    piece: str = Field(default="", max_length=40)
    lathe: str = Field(default="", max_length=200)
    letter: str = Field(default="", max_length=8)
    by_reading: bool = False
    without_reading: bool = False


class HoldingChosen(Model):
    """How a set-up is held, as somebody chose it, and why where it is not among what the plan suggests."""

    set_up: str = Field(max_length=20)
    way: str = Field(max_length=40)
    reason: str = Field(default="", max_length=LONG)


class RunoutRead(Model):
    """What a needle said of a chucking: its whole swing, or a round beside the jaws; what was allowed then, and what it
    came to.

    Its texts are as they were typed, with their unit.
    """

    set_up: str = Field(max_length=20)
    way: str = Field(max_length=40)
    piece: str = Field(default="", max_length=40)
    readings: list[str] = Field(max_length=12)
    indicator: str = Field(default="", max_length=200)
    graduation: str = Field(default="", max_length=40)
    total_indicator_reading_mm: str
    allowed_mm: str = ""
    headline: str = ""
    unit: Unit = "mm"


class FirstStart(Model):
    """All that is looked at before the first start was looked at, as it was worded; why, where it swings more than it
    may.
    """

    set_up: str = Field(max_length=20)
    way: str = Field(max_length=40)
    piece: str = Field(default="", max_length=40)
    steps: list[str] = Field(max_length=20)
    reason: str = Field(default="", max_length=LONG)
    lathe: str = Field(default="", max_length=200)


class FamilyNamed(Model):
    """The jobs that are made together with this one, by number; none: it is made alone."""

    jobs: list[int] = Field(max_length=MOST_SIBLINGS)


Said = (
    Intake
    | Question
    | Answer
    | StockChosen
    | SawLooked
    | OrderKept
    | Tick
    | HoldingChosen
    | RunoutRead
    | FirstStart
    | FamilyNamed
    | WentOn
)
TOPICS: dict[Topic, type[Said]] = {
    "intake": Intake, "question": Question, "answer": Answer, "stock": StockChosen, "saw": SawLooked,
    "order": OrderKept, "tick": Tick,
    "holding": HoldingChosen, "runout": RunoutRead, "first_start": FirstStart, "family": FamilyNamed,
    "gone_on": WentOn,
}  # fmt: skip
