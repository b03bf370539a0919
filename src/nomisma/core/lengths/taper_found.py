"""A taper that was found against the one that is wanted: what to move, which way and how far, for a shaft between
centres or a compound.
"""

from dataclasses import dataclass
from decimal import Decimal
from math import atan, degrees, radians, tan
from typing import Literal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError
from nomisma.core.lengths.taper import ISO_3040, LATHE
from nomisma.core.model import Model
from nomisma.core.part.standard_tapers import standard_taper_named
from nomisma.core.part.taper import taper_rate
from nomisma.core.quantity.angle import show_angle
from nomisma.core.quantity.display import both, show_small
from nomisma.core.quantity.fields import Difference, Size
from nomisma.core.quantity.length import Length, Unit, as_mm
from nomisma.core.working import ARITHMETIC, COMMON_PRACTICE, Step
from nomisma.core.worksheet_answer import AnswerTable, Fact, WorksheetAnswer

By = Literal["tailstock", "compound"]
Blue = Literal["", "all_along", "large_end", "small_end"]
BLUE_WORDS: dict[Blue, str] = {
    "": "",
    "all_along": "It bears all along: leave the angle, take what is left off the size.",
    "large_end": "It bears at its large end alone: a plug there is too steep. Set the compound to a little less.",
    "small_end": (
        "It bears at its small end alone: a plug there is not steep enough. Set the compound to a little more."
    ),
}


CAUTIONS: dict[By, tuple[str, ...]] = {
    "tailstock": (
        (
            "Spindle stopped before the tailstock is moved; its clamp, its lock and the centre tight again before it"
            " turns."
        ),
        "A dead centre is oiled anew, and the dog must clear the bed, the tool and the compound all round.",
    ),
    "compound": (
        "Spindle stopped before the compound is turned; then by hand once round: dog, jaws and compound must clear.",
    ),
}
"""Said with every move. Source: common practice, no source."""


class TaperFoundInput(Model):
    """Two diameters, near the headstock and far from it, and how far apart; what is wanted (empty: parallel), with
    which end larger.

    `between_centres`: the part between its centres, for the tailstock. `arm`: from the compound's pivot to where its
    slide is tapped or indicated. `reading_uncertainty`: of one reading. `blue`: where a plug bears in its gauge.
    """

    near: Size
    far: Size
    apart: Size
    wanted: str = Field(default="", max_length=80)
    larger: Literal["near", "far"] = "near"
    by: By = "tailstock"
    between_centres: Size | None = None
    arm: Size | None = None
    reading_uncertainty: Difference | None = None
    blue: Blue = ""
    unit: Unit = "mm"


class TaperFoundResult(WorksheetAnswer):
    """`change`: how much the far end is to come nearer the headstock's size (below zero: the other way); `move`: of the
    tailstock or the arm.
    """

    found_rate: float
    wanted_rate: float
    change: Difference
    move: Size | None = None
    angle_change_deg: float
    within_the_readings: bool


@dataclass(frozen=True, slots=True)
class _Rates:
    """Taper, larger towards the headstock, as found and as wanted; without unit."""

    found: Decimal
    wanted: Decimal

    @property
    def over(self) -> Decimal:
        """How much too much larger it is towards the headstock."""
        return self.found - self.wanted


@calculation(
    name="taper_found",
    title="The taper found, and what to move",
    validity=(
        "A straight taper, or a shaft that should have none, measured at two places; cut again after the move and"
        " measured again."
    ),
    source=f"{ISO_3040}; {LATHE}; {COMMON_PRACTICE}",
    example={"near": "1.2504 in", "far": "1.2492 in", "apart": "6 in", "between_centres": "9 in", "unit": "in"},
)
def taper_found(given: TaperFoundInput) -> TaperFoundResult:
    """What to move, which way and how far. Raises InputError where what it is moved by is not known, UnreadableLength.

    Source: a tailstock moved by m changes the diameter by 2·m at the tailstock end and by nothing at the headstock
    (geometry).

    >>> found = taper_found(TaperFoundInput(near="1.2504 in", far="1.2492 in", apart="6 in", between_centres="9 in",
    ...     unit="in"))
    >>> str(found.move), found.headline
    ('0.0009 in', 'Tailstock away from the tool')
    """
    rates = _Rates((given.near.mm - given.far.mm) / given.apart.mm, _wanted(given))
    turn = degrees(atan(float(rates.wanted) / 2) - atan(float(rates.found) / 2))
    move = _move(rates, turn, given)
    change = -rates.over * given.apart.mm
    worth = given.reading_uncertainty.mm if given.reading_uncertainty else Decimal(0)
    within = abs(change) <= worth * Decimal(2).sqrt()
    return TaperFoundResult(
        found_rate=float(rates.found),
        wanted_rate=float(rates.wanted),
        change=Length(change, given.unit),
        move=Length(move, given.unit) if move else None,
        angle_change_deg=turn,
        within_the_readings=within,
        headline=_headline(rates, given, within=within),
        sentence=_sentence(rates, move, turn, given, within=within),
        facts=_facts(rates, move, change, turn, given),
        table=_marks(rates, given),
        notes=[BLUE_WORDS[given.blue]] if given.blue else [],
        steps=_steps(given),
        cautions=list(CAUTIONS[given.by]),
        working=_working(rates, move, turn, given),
    )


PARALLEL = ("0", "0°", "none", "parallel")
"""How no taper at all is said; an empty field is the same."""


def _wanted(given: TaperFoundInput) -> Decimal:
    if not given.wanted.strip() or given.wanted.strip() in PARALLEL:
        return Decimal(0)
    standard = standard_taper_named(given.wanted)
    try:
        rate = standard.rate if standard else taper_rate(given.wanted)
    except InputError as error:
        raise error.at("wanted") from None
    return rate if given.larger == "near" else -rate


def _move(rates: _Rates, turn: float, given: TaperFoundInput) -> Decimal | None:
    if given.by == "tailstock":
        if given.between_centres is None:
            raise InputError(
                "How long the part is between its centres is needed.",
                "Measure it: the tailstock turns it about the headstock’s centre.",
                field="between_centres",
            )
        return abs(rates.over) * given.between_centres.mm / 2
    return None if given.arm is None else as_mm(abs(tan(radians(turn))) * float(given.arm.mm))


def _headline(rates: _Rates, given: TaperFoundInput, *, within: bool) -> str:
    if within or not rates.over:
        return "Leave it"
    if given.by == "tailstock":
        return "Tailstock away from the tool" if rates.over > 0 else "Tailstock towards the tool"
    return "Compound to a little less" if abs(rates.found) > abs(rates.wanted) else "Compound to a little more"


def _sentence(rates: _Rates, move: Decimal | None, turn: float, given: TaperFoundInput, *, within: bool) -> str:
    unit = given.unit
    off = show_small(abs(rates.over * given.apart.mm), unit)
    if not rates.over:
        return "It is as it is wanted."
    if within:
        return (
            f"The {off} it is off over {given.apart} is no more than two readings may be: read again before anything is"
            " moved."
        )
    end = "near the headstock" if rates.over > 0 else "at the far end"
    said = f"It is {off} too large {end} over {given.apart}."
    if given.by == "tailstock":
        return (
            f"{said} Move the tailstock {show_small(move or Decimal(0), unit)}"
            f" {'away from' if rates.over > 0 else 'towards'} the tool."
        )
    arm = f", {show_small(move, unit)} at {given.arm} from its pivot" if move is not None else ""
    return f"{said} Turn the compound by {show_angle(abs(turn))}{arm}."


def _facts(rates: _Rates, move: Decimal | None, change: Decimal, turn: float, given: TaperFoundInput) -> list[Fact]:
    unit = given.unit
    found = [
        Fact(name="Found", words=_rate_words(rates.found)),
        Fact(name="Wanted", words=_rate_words(rates.wanted) if rates.wanted else "parallel"),
    ]
    if change:
        word = "larger" if change < 0 else "smaller"
        found.append(
            Fact(name=f"Against the near end, the far one is to be {word} by", length=Length(abs(change), unit))
        )
    if move is not None:
        found.insert(0, Fact(name="Move" if given.by == "tailstock" else "At the arm", length=Length(move, unit)))
    if given.by == "compound":
        found.append(Fact(name="Angle", words=show_angle(abs(turn))))
    return found


def _rate_words(rate: Decimal) -> str:
    if not rate:
        return "parallel"
    end = "near the headstock" if rate > 0 else "at the far end"
    return f"1:{abs(float(1 / rate)):.5g}, {abs(float(rate)) * 12:.5f} in per foot, larger {end}"


def _marks(rates: _Rates, given: TaperFoundInput) -> AnswerTable:
    """What the next check should show at quarters of the distance, against the near mark."""
    unit = given.unit
    rows = [
        [Fact(length=Length(at, unit)), Fact(length=Length(-rates.wanted * at, unit))]
        for at in (given.apart.mm * quarter / 4 for quarter in range(5))
    ]
    return AnswerTable(head=["From the near mark", "Against the size there, when right"], rows=rows)


def _steps(given: TaperFoundInput) -> list[str]:
    if given.by == "tailstock":
        return [
            (
                "Put a needle against the tailstock’s quill, zero it, loosen, move by the needle, tighten and look"
                " again: tightening moves it."
            ),
            "Cut again with a light, even pass, both ends with the tool as sharp; measure at the same two marks.",
        ]
    return [
        "Needle against the compound’s slide at the arm; loosen just so that it can be tapped.",
        "Tighten, look again, cut lightly, measure at the same two marks.",
    ]


def _working(rates: _Rates, move: Decimal | None, turn: float, given: TaperFoundInput) -> list[Step]:
    unit = given.unit
    steps = [
        Step(
            name="Taper found",
            formula="(near − far)/apart",
            values=f"({both(given.near.mm, unit)} − {both(given.far.mm, unit)})/{both(given.apart.mm, unit)}",
            result=f"{float(rates.found):+.7f}",
            source=ISO_3040,
        ),
        Step(
            name="Too much",
            formula="found − wanted",
            values=f"{float(rates.found):+.7f} − ({float(rates.wanted):+.7f})",
            result=f"{float(rates.over):+.7f}",
            source=ARITHMETIC,
        ),
    ]
    if given.by == "tailstock" and move is not None and given.between_centres:
        steps.append(
            Step(
                name="Tailstock",
                formula="too much × length between centres/2",
                values=f"{abs(float(rates.over)):.7f} × {both(given.between_centres.mm, unit)}/2",
                result=both(move, unit, decimals=5),
                source=LATHE,
            )
        )
    if given.by == "compound":
        steps.append(
            Step(
                name="Compound",
                formula="atan(wanted/2) − atan(found/2)",
                values=f"{turn:+.5f}°",
                result=both(move, unit, decimals=5) if move is not None else show_angle(abs(turn)),
                source=LATHE,
            )
        )
    return steps
