"""What the coach is asked and what it answers."""

from decimal import Decimal
from typing import Literal

from pydantic import Field

from nomisma.core.cutting.amount import DialReads
from nomisma.core.cutting.depth import Approach, Next
from nomisma.core.model import Model
from nomisma.core.part.feature_kinds import KindName
from nomisma.core.quantity.fields import Difference, Number, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import Step

MOST_SET_UPS = 24


class MeasuredCut(Model):
    """One cut: what was dialled (on diameter, as the dial has it), the size before and after; `piece` tells the parts
    of a batch apart.

    `last_pass`: what the last of several passes was dialled, where nothing was measured between them; `stoned`: stone
    or cloth, no tool.
    """

    dialled: Difference
    before: Size
    after: Size
    piece: int = Field(default=1, ge=1, le=100_000)
    last_pass: Difference | None = None
    stoned: bool = False


class NextCutInput(Model):
    """A shaft or a bore at its size as measured, its limits and aim, and the cuts of this set-up so far, oldest first.

    `dial_line` with `dial_reads`, `dial_turn` what a whole turn of it shows; `parts_of_line`: 2 or 4
    where a half or a quarter of a line can be set. `risk_percent`: the chance of
    passing the limit where metal is gone that a cut may carry. `piece`: the part in the machine now. `smallest` and
    `largest` of the places read, where it is not round or straight: the one nearest its limit counts for what is gone.
    `guard`: how far inside a limit a reading must lie to be in limits, as the verdict has it. `repeatability`: one
    standard deviation of a reading. `earlier_set_ups`: cuts of earlier set-ups on this machine, same kind of cut, tool
    and material. `judged`: the feature's verdict, which counts before the size alone. `compound_line`: one line of the
    compound's dial. `if_dialled`: an amount to be tried in thought.
    """

    kind: KindName = "shaft"
    size: Size
    smallest: Size | None = None
    largest: Size | None = None
    lower: Size
    upper: Size
    aim: Size | None = None
    cuts: list[MeasuredCut] = Field(default=[], max_length=400)
    earlier_set_ups: list[list[MeasuredCut]] = Field(default=[], max_length=MOST_SET_UPS)
    piece: int = Field(default=1, ge=1, le=100_000)
    dial_line: Size
    dial_turn: Size | None = None
    dial_reads: DialReads = "diameter"
    parts_of_line: Literal[1, 2, 4] = 1
    approach: Approach = "equal_cuts"
    risk_percent: Number = Field(default=Decimal("0.2"), gt=0, le=10)
    least_cut: Size = Length(Decimal("0.02"), "mm")
    most_cut: Size = Length(Decimal("2.5"), "mm")
    finish_cut: Size = Length(Decimal("0.2"), "mm")
    polish: Size = Length(Decimal("0.01"), "mm")
    backlash: Size | None = None
    repeatability: Size = Length(Decimal("0.0015"), "mm")
    guard: Difference = Length(Decimal(0))
    judged: Literal["metal_to_go", "in_limits", "too_close_to_call", "gone_too_far"] | None = None
    compound_line: Size | None = None
    if_dialled: Difference | None = None
    unit: Unit = "mm"


class Noticed(Model):
    """Something the cuts show; `ask` where the size should be measured again before the next."""

    name: str
    sentence: str
    remedy: str
    ask: bool


class Pass(Model):
    """One step of the plan: what is dialled, the size after with its 90 % interval; `parts`: lines of each pass where
    it takes several.
    """

    dialled: Difference
    lines: Number
    parts: list[Number]
    after: Difference
    after_low: Difference
    after_high: Difference
    why: str


class Tried(Model):
    """What an amount of one's own would do: the size after with its 90 % interval, the chance of going past and of
    landing.
    """

    dialled: Difference
    lines: Number
    after: Difference
    after_low: Difference
    after_high: Difference
    chance_gone_percent: float
    chance_in_percent: float


class NextCutResult(Model):
    """What to do now. `dialled` and `lines` for the dial as it is; `after` what it should measure, with a 90 %
    interval.

    `between_lines`: a part of a line that would be safe and cut cleanly, where whole ones as chosen are too much.
    `plan_note`: why the plan does not end inside the limits, where it does not. `machine_words`: what earlier set-ups
    taught of this machine. `cautious`: what would be
    dialled if two equal cuts were not trusted.
    """

    next: Next
    dialled: Difference | None = None
    lines: Number | None = None
    parts: list[Number]
    after: Difference | None = None
    after_low: Difference | None = None
    after_high: Difference | None = None
    chance_gone_percent: float
    to_aim: Difference
    exact_lines: Number
    plan: list[Pass]
    plan_note: str
    noticed: list[Noticed]
    headline: str
    sentence: str
    dial_takes: Number
    between_lines: Number | None = None
    touch_takes: Difference | None = None
    machine_words: str
    tried: Tried | None = None
    cautious: Tried | None = None
    working: list[Step]
