"""What an answer says, in one shape that one template shows: the number that matters, facts, a table, what to do, and
the working.
"""

from pydantic import Field

from nomisma.core.model import Model
from nomisma.core.quantity.fields import Difference
from nomisma.core.working import Step


class Fact(Model):
    """One thing an answer says: a length that is shown in both units, or words; `name` is what it is.

    `to`: the other end of a range; `before`: what stands before the length (±); `small`: shown in thou or µm; `sawn`:
    as stock is sawn.
    """

    name: str = ""
    before: str = ""
    length: Difference | None = None
    to: Difference | None = None
    small: bool = False
    sawn: bool = False
    words: str = ""


class AnswerTable(Model):
    """Rows of facts under their heads; `ticked`: each row is a step that is ticked off at the lathe."""

    head: list[str]
    rows: list[list[Fact]]
    ticked: bool = False


class WorksheetAnswer(Model):
    """An answer: the number that matters, a sentence, facts, a table, notes, steps, cautions and the working.

    `steps_ticked`: each step is ticked off at the lathe.
    `headline`: the number in words; a page shows `headline_length` (up to `headline_to`) in its stead where there is
    one, in both units, as stock is sawn where it is `headline_sawn`.
    """

    headline: str
    headline_length: Difference | None = None
    headline_to: Difference | None = None
    headline_sawn: bool = False
    sentence: str
    facts: list[Fact] = Field(default=[])
    table: AnswerTable | None = None
    notes: list[str] = Field(default=[])
    steps: list[str] = Field(default=[])
    steps_ticked: bool = False
    cautions: list[str] = Field(default=[])
    working: list[Step]
